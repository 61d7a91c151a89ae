// Two sets of bodies: how far each of one is from each of the other, and what they have in common.
#pragma once

#include <QDialog>
#include <QLabel>
#include <QPushButton>
#include <QTreeWidget>
#include <optional>

#include "app/desk.h"
#include "geom/measure/between.h"
#include "view/overlay.h"

namespace kervo::app {

class ClearanceDialog : public QDialog {
  Q_OBJECT
 public:
  /// The first set begins with the selected bodies, the second one with all other visible ones.
  ClearanceDialog(Desk& desk, QWidget* parent);

  bool busy() const { return busy_; }
  QTreeWidget* list() { return list_; }
  QString sum() const { return sum_->text(); }

 signals:
  void markWanted(const std::optional<kervo::MeasureMark>& mark);
  /// What two bodies have in common is wanted as a body.
  void overlapWanted(const kervo::BodyId& a, const kervo::BodyId& b);

 private:
  struct Pair {
    BodyId a, b;
    QString names[2];
    Between between;
    std::optional<Error> error;
  };
  struct Set {
    std::vector<BodyId> bodies;
    QLabel* names = nullptr;
  };
  void take(Set& set, std::vector<BodyId> bodies);
  void find();
  void showPairs(std::vector<Pair> pairs, int tooMany);

  Desk& desk_;
  Set sets_[2];
  QLabel* sum_;
  QTreeWidget* list_;
  QPushButton* asBody_;
  std::vector<Pair> pairs_;
  bool busy_ = false;
  int newest_ = 0;
};

}  // namespace kervo::app
