// Sizes of what is selected.
#pragma once

#include <QGridLayout>

#include "app/desk.h"
#include "app/panels/panel.h"

namespace kervo::app {

class MeasurePanel : public Panel {
  Q_OBJECT
 public:
  explicit MeasurePanel(Desk& desk, QWidget* parent = nullptr);

 private:
  void showState();
  void row(const QString& name, const QString& value);
  void measureBodies();
  void measureFaces();
  void measureEdges();

  Desk& desk_;
  QGridLayout* rows_;
};

}  // namespace kervo::app
