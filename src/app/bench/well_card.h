// One well of the Bench: a card with a coloured edge, a title and what stands in it.
#pragma once

#include <QColor>
#include <QFrame>
#include <QVBoxLayout>

namespace kervo::app {

class WellCard : public QFrame {
  Q_OBJECT
 public:
  WellCard(const QString& title, const QString& subtitle, const QColor& edge, QWidget* parent = nullptr);
  /// Where the fields go; it scrolls if there are many.
  QVBoxLayout* content() { return content_; }

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  QColor edge_;
  QVBoxLayout* content_;
};

}  // namespace kervo::app
