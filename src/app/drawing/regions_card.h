// The regions that the drawing encloses, and where it is not closed.
#pragma once

#include <QPushButton>

#include <functional>

#include "app/bench/well_card.h"
#include "app/desk.h"

namespace kervo::app {

class RegionsCard : public WellCard {
  Q_OBJECT
 public:
  explicit RegionsCard(Desk& desk, QWidget* parent = nullptr);

 private:
  void refresh();
  struct Remedy {
    QString word, help;
    std::function<void()> run;
  };
  /// A line with what is wrong, and words to click.
  void addTrouble(const QString& text, const QString& name, const std::vector<Remedy>& remedies);

  Desk& desk_;
  QVBoxLayout* lines_;
};

}  // namespace kervo::app
