// The ruler of the current section in the view: its mark, and the number beside it that can be typed.
#pragma once

#include <QFrame>
#include <QLabel>
#include <QLineEdit>
#include <QToolButton>

#include "app/desk.h"
#include "app/view_panes.h"

namespace kervo::app {

class SectionRuler : public QObject {
  Q_OBJECT
 public:
  SectionRuler(Desk& desk, Viewport& view, ViewPanes& panes);
  QLineEdit* field() { return field_; }

 private:
  void refresh();
  void place();
  /// The section as it would be there, for now.
  void show(double value);
  void typed();

  Desk& desk_;
  Viewport& view_;
  ViewPanes& panes_;
  QFrame* frame_;
  QLabel* letter_;
  QLineEdit* field_;
  QToolButton* sweep_;
};

}  // namespace kervo::app
