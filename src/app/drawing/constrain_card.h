// Constraints and dimensions that fit what is selected in the drawing, and what is refused.
#pragma once

#include <QGridLayout>
#include <QToolButton>

#include "app/bench/well_card.h"
#include "app/desk.h"

namespace kervo::app {

class ConstrainCard : public WellCard {
  Q_OBJECT
 public:
  explicit ConstrainCard(Desk& desk, QWidget* parent = nullptr);

 private:
  void refresh();
  void layOut();
  void add(const ConstraintKind& kind);
  QToolButton* word(const QString& text, const QString& help, int cell);

  Desk& desk_;
  QLabel* hint_;
  QGridLayout* words_;
};

}  // namespace kervo::app
