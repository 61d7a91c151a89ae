// What must be set before there is a window, for the program and for tests that drive it.
#pragma once

#include <QApplication>

#include "base/error.h"

namespace kervo::app {

/// The application, in which no exception ends the program: work on the desk would be lost.
class Application : public QApplication {
  Q_OBJECT
 public:
  using QApplication::QApplication;
  bool notify(QObject* receiver, QEvent* event) override;

 signals:
  void troubled(const kervo::Error& error);
};

/// Before Application: the surface that the view draws on.
void prepareSurface();
/// Whether the display can show the view. Without OpenGL Qt ends the process as soon as a window holds such a widget.
bool canDrawWithOpenGl();
/// After it: names, fonts and look.
void prepareApplication(QApplication& application);

}  // namespace kervo::app
