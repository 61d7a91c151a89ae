// A bar that says what went wrong (or asks something small) without stopping anybody's work.
#pragma once

#include <QLabel>
#include <QPushButton>
#include <QWidget>
#include <functional>
#include <vector>

#include "base/error.h"

namespace kervo::app {

class MessageBar : public QWidget {
  Q_OBJECT
 public:
  explicit MessageBar(QWidget* parent = nullptr);

  struct Choice {
    QString text;
    std::function<void()> run;
  };
  /// With ways to help, if there are any; it can always be closed.
  void show(const Error& error, std::vector<Choice> choices = {});
  void ask(const QString& text, const std::vector<Choice>& choices);
  QString text() const { return text_->text(); }
  void close();

 protected:
  void resizeEvent(QResizeEvent* event) override;

 private:
  void clearButtons();
  /// The buttons beside the text, or below it where that would be too narrow.
  void arrange();

  QLabel* text_;
  QBoxLayout* row_;
  QHBoxLayout* buttons_;
};

}  // namespace kervo::app
