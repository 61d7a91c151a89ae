// The drawing on the Bench as it can be taken hold of: its curves, settled or free, and its points, to be dragged.
#pragma once

#include <functional>
#include <optional>

#include "drawing/drawing_result.h"
#include "view/tools/tool.h"

namespace kervo {

/// A drawing that is edited, and where it is.
struct EditedDrawing {
  Plane plane;
  Drawing drawing;
  DrawingValues values;
  Solution solution;
};

class DrawingTool : public Tool {
 public:
  static constexpr double reach = 7;  ///< pixels within which a point is taken hold of

  using Tool::Tool;
  /// Points were dragged: the drawing as it is now.
  std::function<void(const Drawing&)> moved;

  /// Nothing: no drawing is edited.
  void set(std::optional<EditedDrawing> edited);

  bool press(const Pointer& pointer) override;
  void drag(const Pointer& pointer) override;
  void release(const Pointer& pointer) override;
  bool point(const Pointer& pointer, bool taken) override;
  void forget() override { hot_.reset(); }
  void paint(QPainter& painter) const override;

  /// The point of the drawing there, or nothing.
  std::optional<std::size_t> pointAt(QPointF position) const;
  /// Where a point of the drawing is: in its plane, and in the view.
  PlanePoint at(std::size_t point) const;
  QPointF placeOf(std::size_t point) const;

 private:
  /// The positions that are shown: while points are dragged, those.
  const Solution& shownOf(const EditedDrawing& edited) const { return dragged_ ? *dragged_ : edited.solution; }
  std::optional<PlanePoint> onPlane(QPointF position) const;

  std::optional<EditedDrawing> edited_;
  std::optional<std::size_t> hot_, held_;
  std::optional<Solution> dragged_;
  QPointF from_;
};

/// Where a line of sight through the view meets a plane; nothing where it is seen from its edge.
std::optional<PlanePoint> seenOn(const Plane& plane, ToolSpace& space, QPointF position);

}  // namespace kervo
