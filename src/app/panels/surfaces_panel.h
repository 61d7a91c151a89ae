// What is shown on surfaces, to be chosen, and what is found there.
#pragma once

#include <QButtonGroup>
#include <QComboBox>
#include <QGridLayout>

#include "app/desk.h"
#include "app/panels/panel.h"

namespace kervo::app {

class SurfacesPanel : public Panel {
  Q_OBJECT
 public:
  explicit SurfacesPanel(Desk& desk, QWidget* parent = nullptr);
  /// What can be shown, in its order, with the word that stands for it.
  static std::vector<std::pair<SurfaceShow, QString>> choices();
  QButtonGroup* buttons() { return buttons_; }
  QComboBox* axis() { return axis_; }

 signals:
  /// A place of what was found is to be seen.
  void placeWanted(const kervo::Point& place, const QString& text);

 private:
  void refresh();

  Desk& desk_;
  QButtonGroup* buttons_;
  QComboBox* axis_;
  QLabel* axisName_;
  QGridLayout* rows_;
};

}  // namespace kervo::app
