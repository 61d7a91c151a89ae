// Find: one field that leads to every verb, body, step and dimension.
#pragma once

#include <QLineEdit>
#include <QListWidget>
#include <functional>
#include <vector>

namespace kervo::app {

struct FindEntry {
  QString text;
  QString kind;  ///< "verb", "body", "step", "dimension"
  QString picture;
  QString shortcut;
  bool enabled = true;
  std::function<void()> run;
};

class FindBox : public QLineEdit {
  Q_OBJECT
 public:
  /// `entries` gives all there is when the field is entered; the list is shown as a child of `window`.
  FindBox(std::function<std::vector<FindEntry>()> entries, QWidget* window);
  void open();

 protected:
  void focusInEvent(QFocusEvent* event) override;
  void focusOutEvent(QFocusEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;

 private:
  void filter();
  void choose();
  void closeList();

  std::function<std::vector<FindEntry>()> source_;
  std::vector<FindEntry> entries_;
  std::vector<std::size_t> shown_;
  QListWidget* list_;
};

/// How well a text matches what was typed: all its words must occur; lower is better; −1: not at all.
int matchRank(const QString& text, const QString& typed);

}  // namespace kervo::app
