// Windows on small screens.
#pragma once

class QWidget;

namespace kervo::app {

/// Makes a window small enough for its screen, with the frame that the window manager gave it.
void fitScreen(QWidget& window);

}  // namespace kervo::app
