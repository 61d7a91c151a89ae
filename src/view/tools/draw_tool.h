// Draws a curve on a plane, from where the mouse is pressed to where it is released.
#pragma once

#include <functional>
#include <optional>
#include <string>

#include "geom/profile.h"
#include "view/tools/tool.h"

namespace kervo {

class DrawTool : public Tool {
 public:
  using Tool::Tool;
  /// From one point to another, in the plane's coordinates.
  std::function<void(PlanePoint, PlanePoint)> drawn;

  /// While a plane is set, presses and drags on it are curves of that kind.
  void set(std::optional<Plane> plane, std::string curve);

  bool press(const Pointer& pointer) override;
  void drag(const Pointer& pointer) override { to_ = pointer.now; }
  void release(const Pointer& pointer) override;
  bool point(const Pointer&, bool taken) override { return taken || plane_; }
  void paint(QPainter& painter) const override;

 private:
  std::optional<PlanePoint> onPlane(QPointF position) const;
  /// Where the curve begins and ends.
  std::optional<std::pair<PlanePoint, PlanePoint>> ends() const;

  std::optional<Plane> plane_;
  std::string curve_;
  bool drawing_ = false;
  QPointF from_, to_;
};

}  // namespace kervo
