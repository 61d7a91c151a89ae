// The drawing on the Bench as it can be taken hold of: its curves, settled or free, its points, to be dragged, its
// dimensions where they are measured, and the signs of what holds it.
#pragma once

#include <functional>
#include <optional>

#include "drawing/drawing_result.h"
#include "drawing/snap.h"
#include "view/tools/drawing_marks.h"
#include "view/tools/tool.h"

namespace kervo {

class DrawingTool : public Tool {
 public:
  static constexpr double reach = 7;  ///< pixels within which something is taken hold of

  using Tool::Tool;
  /// What of the bodies on screen is within reach (mm) of a place in the plane.
  std::function<std::optional<Snap>(PlanePoint, double reach)> bodies;
  /// Points were dragged: the drawing as it is now, and the point that was let go on another one, if any.
  std::function<void(const Drawing&, const std::vector<std::string>& onto)> moved;
  /// Points, curves or constraints were clicked or boxed; `add`: to those that are selected.
  std::function<void(const std::vector<std::string>&, bool add)> selected;
  /// A dimension is to be typed.
  std::function<void(const std::string&)> typed;
  /// What is selected is to go.
  std::function<void()> removed;
  /// A key that trims: S, T, L or J.
  std::function<void(int key)> trimKeyed;
  /// Words for a part of the drawing, beside the pointer.
  std::function<QString(const std::string&)> describe;
  /// Regions were clicked or boxed; a single one that is taken is let go.
  std::function<void(const std::vector<std::string>& names)> regionsPicked;
  /// Words for a region beside the pointer.
  std::function<QString(const std::string& name)> describeRegion;

  /// Nothing: no drawing is edited.
  void set(std::optional<EditedDrawing> edited);
  /// mm from line to line; nothing: no grid.
  void setGrid(std::optional<double> grid);
  /// Whether it takes clicks, or bodies are being picked.
  void setTakes(bool takes) { takes_ = takes; }

  bool press(const Pointer& pointer) override;
  void drag(const Pointer& pointer) override;
  void release(const Pointer& pointer) override;
  bool doublePress(const Pointer& pointer) override;
  bool point(const Pointer& pointer, bool taken) override;
  void forget() override {
    hot_.clear();
    hotRegion_.clear();
  }
  bool key(int key, Qt::KeyboardModifiers modifiers) override;
  void mark(Overlay& overlay, bool dragging) const override;
  void paint(QPainter& painter) const override;

  const std::optional<EditedDrawing>& edited() const { return edited_; }
  /// What a place of the view is meant to be. `infer`: otherwise where it is, or on the grid.
  std::optional<Snap> snapAt(QPointF position, std::optional<PlanePoint> from, bool infer) const;
  /// The point, constraint or curve there; empty if there is none.
  std::string partAt(QPointF position) const;
  /// The curve near a place of the plane.
  std::optional<std::string> curveAt(PlanePoint place) const {
    return snapper_ ? snapper_->curveAt(place, reach * pixelSize()) : std::nullopt;
  }
  /// How many mm a pixel is in the plane.
  double pixelSize() const;
  /// Where dimensions and signs stand now.
  std::vector<DrawingMark> marks() const;

 private:
  /// The drawing that is edited; @throws std::logic_error if none is.
  const EditedDrawing& drawn() const;
  const Solution& shown() const { return dragged_ ? *dragged_ : drawn().solution; }
  bool isSelected(const std::string& id) const;
  std::vector<std::size_t> heldPoints(const std::string& part) const;
  Solution draggedBy(const std::vector<std::size_t>& points, PlanePoint by) const;
  /// Moves what is selected by a line of the grid, as the arrow says; `finely`: by a tenth of it. False if nothing that
  /// has places is selected.
  bool nudge(int key, bool finely);
  void paintGrid(QPainter& painter) const;
  void paintCurves(QPainter& painter) const;
  void paintPoints(QPainter& painter) const;
  void step(int direction);
  void boxed(const QRectF& box, bool touches, bool add);
  /// The region there; null if there is none, or points move.
  const RegionShape* regionAt(QPointF position) const;
  /// … and those inside of its islands.
  std::vector<std::string> withInside(const RegionShape& region) const;
  void paintRegions(QPainter& painter) const;

  std::optional<EditedDrawing> edited_;
  std::optional<Snapper> snapper_;
  std::optional<double> grid_;
  bool takes_ = true;
  std::string hot_;        ///< under the pointer
  std::string hotRegion_;  ///< … if there is nothing else
  std::string held_;       ///< pressed
  std::vector<std::size_t> moving_;
  std::optional<Snap> onto_;
  std::optional<Solution> dragged_;
  std::optional<QRectF> box_;
  QPointF from_, at_;
};

/// Where a line of sight through the view meets a plane; nothing where it is seen from its edge.
std::optional<PlanePoint> seenOn(const Plane& plane, ToolSpace& space, QPointF position);

/// The curve as it stands in the view.
QPolygonF outlineOf(const PlanarCurve& curve, const Plane& plane, ToolSpace& space);

}  // namespace kervo
