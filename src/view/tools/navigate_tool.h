// Turns, moves and zooms the view: right and middle button, Alt, wheel, touchpad, arrow keys.
#pragma once

#include <functional>

#include "view/tools/tool.h"

class QWheelEvent;

namespace kervo {

class NavigateTool : public Tool {
 public:
  using Tool::Tool;
  /// A right click that turned nothing, at a place of the screen.
  std::function<void(const QPoint&)> menuWanted;

  bool press(const Pointer& pointer) override;
  void drag(const Pointer& pointer) override;
  void release(const Pointer& pointer) override;
  bool key(int key, Qt::KeyboardModifiers modifiers) override;
  void wheel(const QWheelEvent& event);
  void zoomAt(QPointF position, double factor);

  void orbitBy(double dx, double dy);
  void zoomBy(double factor);

 private:
  Point centreAt(QPointF position) const;

  bool turning_ = false, moved_ = false;
  Point about_;
};

}  // namespace kervo
