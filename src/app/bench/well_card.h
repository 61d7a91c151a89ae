// One well of the Bench: a card with a coloured edge, a title and what stands in it.
#pragma once

#include <QFrame>
#include <QLabel>
#include <QVBoxLayout>

#include "app/look.h"

namespace kervo::app {

class WellCard : public QFrame {
  Q_OBJECT
 public:
  /// `edge`: which of the look's colours its edge and title have, in light and dark.
  WellCard(const QString& title, const QString& subtitle, QColor Look::*edge, QWidget* parent = nullptr);
  /// Where the fields go; it scrolls if there are many.
  QVBoxLayout* content() { return content_; }
  /// How wide it is beside others.
  int share() const { return share_; }
  void setShare(int share) { share_ = share; }
  /// What stands beside its title.
  void setNote(const QString& text);

 protected:
  void paintEvent(QPaintEvent* event) override;
  void changeEvent(QEvent* event) override;

 private:
  void dress();

  QColor Look::*edge_;
  QLabel* heading_;
  QLabel* note_;
  int share_ = 15;
  QVBoxLayout* content_;
};

}  // namespace kervo::app
