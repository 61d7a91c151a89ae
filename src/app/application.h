// What must be set before there is a window, for the program and for tests that drive it.
#pragma once

class QApplication;

namespace kervo::app {

/// Before QApplication: the surface that the view draws on.
void prepareSurface();
/// After it: names, fonts and look.
void prepareApplication(QApplication& application);

}  // namespace kervo::app
