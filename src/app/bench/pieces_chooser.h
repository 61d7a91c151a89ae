// The list of pieces with what chooses several at once.
#pragma once

#include <QToolButton>

#include "app/bench/pieces_list.h"

namespace kervo::app {

/// The list with words above it: keep the largest, keep what touches something, turn the choice round.
class PiecesChooser : public QWidget {
  Q_OBJECT
 public:
  explicit PiecesChooser(Desk& desk, QWidget* parent = nullptr);
  PiecesList* list() { return list_; }
  void refresh();
  /// Turns one piece round.
  void toggle(int row);
  /// Drops these pieces; keeps them if they are all dropped already.
  void toggleAll(const std::vector<std::size_t>& rows);
  /// Takes a pick for "keep touching …"; false if it did not wait for one.
  bool take(const Pick& pick);
  bool waiting() const { return touching_->isChecked(); }

 signals:
  void waitingChanged();

 private:
  void keepLargest();
  void invert();
  void keepTouching(const Shape& shape);

  Desk& desk_;
  PiecesList* list_;
  QWidget* words_;
  QToolButton* touching_;
};

}  // namespace kervo::app
