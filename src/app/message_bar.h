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

  void show(const Error& error);
  struct Choice {
    QString text;
    std::function<void()> run;
  };
  void ask(const QString& text, const std::vector<Choice>& choices);
  QString text() const { return text_->text(); }
  void close();

 private:
  void clearButtons();

  QLabel* text_;
  QHBoxLayout* buttons_;
};

}  // namespace kervo::app
