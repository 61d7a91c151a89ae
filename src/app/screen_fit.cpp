#include "app/screen_fit.h"

#include <QScreen>
#include <QWidget>
#include <algorithm>

namespace kervo::app {

void fitScreen(QWidget& window) {
  if (!window.isVisible() || window.isMaximized() || window.isFullScreen()) return;
  const QRect room = window.screen()->availableGeometry(), inner = window.geometry(), outer = window.frameGeometry();
  const QSize wanted = inner.size().boundedTo(room.size() - (outer.size() - inner.size()));
  if (wanted != inner.size()) window.resize(wanted);
  const QRect now(outer.topLeft(), outer.size() + wanted - inner.size());
  if (room.contains(now)) return;
  window.move(std::clamp(now.x(), room.left(), std::max(room.left(), room.right() + 1 - now.width())),
              std::clamp(now.y(), room.top(), std::max(room.top(), room.bottom() + 1 - now.height())));
}

}  // namespace kervo::app
