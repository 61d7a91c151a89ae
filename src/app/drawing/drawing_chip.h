// What is being drawn on, in the corner of the view while a drawing is on the Bench.
#pragma once

#include <QToolButton>

#include "app/desk.h"

namespace kervo::app {

/// "Drawing on top of Block ×"; a click leaves the drawing.
class DrawingChip : public QToolButton {
  Q_OBJECT
 public:
  DrawingChip(Desk& desk, QWidget* view);

 private:
  void refresh();

  Desk& desk_;
};

}  // namespace kervo::app
