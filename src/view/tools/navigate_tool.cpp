#include "view/tools/navigate_tool.h"

#include <QInputDevice>
#include <QWheelEvent>
#include <cmath>

namespace kervo {

namespace {
constexpr double reach = 4;  ///< pixels round the pointer in which a body is turned about
}

Point NavigateTool::centreAt(QPointF position) const {
  const auto hits = space_.picks().at(space_.pixels(position), reach, space_.eye());
  if (!hits.empty()) return hits.front().point;
  const Box box = space_.shown().box();
  return box.empty() ? Point{} : box.centre();
}

bool NavigateTool::press(const Pointer& pointer) {
  const bool left = pointer.button == Qt::LeftButton, alt = pointer.holds(Qt::AltModifier);
  const bool turn = pointer.button == Qt::RightButton || (left && alt && !pointer.holds(Qt::ShiftModifier));
  const bool pan = pointer.button == Qt::MiddleButton || (left && alt);
  if (!turn && !pan) return false;
  turning_ = turn;
  moved_ = false;
  if (turn) about_ = centreAt(pointer.now);
  return true;
}

void NavigateTool::drag(const Pointer& pointer) {
  const QPointF step = space_.pixels(pointer.now - pointer.last);
  if (turning_) {
    moved_ |= !pointer.still();
    if (!moved_) return;
    space_.eye().orbit(about_, step.x(), step.y());
  } else {
    space_.eye().pan(step.x(), step.y());
  }
  space_.turned();
}

void NavigateTool::release(const Pointer& pointer) {
  if (turning_ && pointer.still() && pointer.button == Qt::RightButton) menuWanted(pointer.onScreen);
}

void NavigateTool::orbitBy(double dx, double dy) {
  const Box box = space_.shown().box();
  space_.eye().orbit(box.empty() ? Point{} : box.centre(), dx, dy);
  space_.turned();
}

void NavigateTool::zoomBy(double factor) {
  const auto size = space_.eye().viewport();
  space_.eye().zoomAt(QPointF(size.width(), size.height()) / 2, factor);
  space_.turned();
}

void NavigateTool::zoomAt(QPointF position, double factor) {
  space_.eye().zoomAt(space_.pixels(position), factor);
  space_.turned();
}

void NavigateTool::wheel(const QWheelEvent& event) {
  const bool touchpad =
      !event.pixelDelta().isNull() && event.device() && event.device()->type() == QInputDevice::DeviceType::TouchPad;
  if (!touchpad || event.modifiers().testFlag(Qt::ControlModifier))
    return zoomAt(event.position(), std::pow(1.0015, event.angleDelta().y()));
  const QPointF step = space_.pixels(event.pixelDelta());
  if (event.modifiers().testFlag(Qt::ShiftModifier))
    space_.eye().pan(step.x(), step.y());
  else
    space_.eye().orbit(centreAt(event.position()), step.x() * 0.6, step.y() * 0.6);
  space_.turned();
}

bool NavigateTool::key(int key, Qt::KeyboardModifiers modifiers) {
  constexpr double turn = 12, step = 30;
  const auto go = [&](double dx, double dy) {
    if (!modifiers.testFlag(Qt::ControlModifier)) return orbitBy(dx * turn, dy * turn);
    const QPointF by = space_.pixels(QPointF(dx, dy) * step);
    space_.eye().pan(by.x(), by.y());
    space_.turned();
  };
  switch (key) {
    case Qt::Key_Left:
      go(-1, 0);
      return true;
    case Qt::Key_Right:
      go(1, 0);
      return true;
    case Qt::Key_Up:
      go(0, -1);
      return true;
    case Qt::Key_Down:
      go(0, 1);
      return true;
    case Qt::Key_Plus:
    case Qt::Key_Equal:
      zoomBy(1.2);
      return true;
    case Qt::Key_Minus:
      zoomBy(1 / 1.2);
      return true;
    default:
      return false;
  }
}

}  // namespace kervo
