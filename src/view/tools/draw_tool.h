// Draws a curve on a plane, from where the mouse is pressed to where it is released.
#pragma once

#include <functional>
#include <optional>
#include <vector>

#include "drawing/drawn_by_hand.h"
#include "view/tools/tool.h"

namespace kervo {

class DrawTool : public Tool {
 public:
  using Tool::Tool;
  /// From where to where something of the kind that was set was drawn.
  std::function<void(const Stroke&)> drawn;
  /// A point of the drawing there, which an end is to be.
  std::function<std::optional<PlanePoint>(QPointF)> near;

  /// While a plane and a kind are set, presses and drags draw that.
  void set(std::optional<Plane> plane, const StrokeKind* kind);

  bool press(const Pointer& pointer) override;
  void drag(const Pointer& pointer) override { to_ = pointer.now; }
  void release(const Pointer& pointer) override;
  bool point(const Pointer&, bool taken) override { return taken || plane_; }
  void paint(QPainter& painter) const override;

 private:
  std::optional<PlanePoint> onPlane(QPointF position) const;
  /// From where the mouse went down to where it is.
  std::optional<Stroke> stroke() const;

  std::optional<Plane> plane_;
  const StrokeKind* kind_ = nullptr;
  bool drawing_ = false;
  QPointF from_, to_;
};

}  // namespace kervo
