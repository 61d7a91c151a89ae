// What the side panels have in common: a title, a note or link beside it, and content that folds away.
#pragma once

#include <QLabel>
#include <QTableView>
#include <QToolButton>
#include <QVBoxLayout>
#include <QWidget>

namespace kervo::app {

class Panel : public QWidget {
  Q_OBJECT
 public:
  /// `key`: under which it remembers whether it is folded; at first as `folded` says.
  Panel(const QString& title, const QString& key, QWidget* parent = nullptr, bool folded = false);

  void setNote(const QString& text);
  /// A word that can be clicked, e.g. "+ add".
  QToolButton* addLink(const QString& text);
  QVBoxLayout* content() { return content_; }
  bool folded() const;
  void setFolded(bool folded);
  /// Folds it to make room, or gives the room back: what was chosen by hand stands and is what is remembered.
  void setCrowded(bool crowded);

 signals:
  void foldedChanged();

 private:
  void showState();

  QString key_;
  bool chosenFolded_ = false, crowded_ = false;
  QToolButton* fold_;
  QLabel* note_;
  QHBoxLayout* header_;
  QWidget* body_;
  QVBoxLayout* content_;
};

/// A table without grid that reads like a worksheet: rows, keyboard, edit in place.
class Sheet : public QTableView {
  Q_OBJECT
 public:
  explicit Sheet(QWidget* parent = nullptr);

 signals:
  void deletePressed();
  void enterPressed();
  void spacePressed();
  void moveWanted(int direction);

 protected:
  void keyPressEvent(QKeyEvent* event) override;
};

/// Text elided to its room, with a tooltip for the rest.
class ElidedLabel : public QLabel {
 public:
  using QLabel::QLabel;

 protected:
  void paintEvent(QPaintEvent* event) override;
  QSize minimumSizeHint() const override { return {20, QLabel::minimumSizeHint().height()}; }
};

}  // namespace kervo::app
