// Curves of the drawing cut by one another: split, sweep, lengthen, join.
#pragma once

#include <QLineEdit>
#include <QToolButton>

#include "app/bench/well_card.h"
#include "app/desk.h"

namespace kervo::app {

class TrimCard : public WellCard {
  Q_OBJECT
 public:
  explicit TrimCard(Desk& desk, QWidget* parent = nullptr);

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;

 signals:
  /// Something is done in the view now.
  void viewWanted();

 private:
  static QLabel* keyLabel(const QString& key);
  /// A word to click, in a line with its key; without one it is put nowhere.
  QToolButton* word(const QString& text, const QString& help, const QString& key = {});
  void showTool();
  void join();
  void listPieces();

  Desk& desk_;
  QToolButton *sweep_, *lengthen_;
  QLineEdit* gap_;
  QVBoxLayout* pieces_;
};

}  // namespace kervo::app
