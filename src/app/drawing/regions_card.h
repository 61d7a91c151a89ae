// The regions that the drawing encloses, and where it is not closed.
#pragma once

#include <QPushButton>

#include "app/bench/well_card.h"
#include "app/desk.h"

namespace kervo::app {

class RegionsCard : public WellCard {
  Q_OBJECT
 public:
  explicit RegionsCard(Desk& desk, QWidget* parent = nullptr);

 private:
  void refresh();

  Desk& desk_;
  QVBoxLayout* lines_;
};

}  // namespace kervo::app
