// A bar that says what went wrong (or asks something) without stopping anybody's work.
#pragma once

#include <QBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QWidget>
#include <deque>
#include <functional>
#include <vector>

#include "base/error.h"

namespace kervo::app {

/// What can be done about a message. Any choice closes it.
struct MessageChoice {
  QString text;
  std::function<void()> run;
};

/// One message with its choices.
class MessageRow : public QWidget {
  Q_OBJECT
 public:
  explicit MessageRow(QWidget* parent = nullptr);

  void set(const QString& text, const std::vector<MessageChoice>& choices);
  void clear();
  QString text() const { return text_->text(); }

 signals:
  void closed();

 protected:
  void resizeEvent(QResizeEvent* event) override;

 private:
  /// The buttons beside the text, or below it where that would be too narrow.
  void arrange();
  void clearButtons();

  QLabel* text_;
  QBoxLayout* row_;
  QHBoxLayout* buttons_;
};

class MessageBar : public QWidget {
  Q_OBJECT
 public:
  using Choice = MessageChoice;

  explicit MessageBar(QWidget* parent = nullptr);

  /// Says something, with ways to help if there are any; it can always be closed. The next message takes its place.
  void show(const Error& error, std::vector<Choice> choices = {});
  void tell(const QString& text, std::vector<Choice> choices);
  /// Asks something: stays until it is answered. Several wait for each other.
  void ask(const QString& text, const std::vector<Choice>& choices);
  /// What can be read, a question first.
  QString text() const;
  /// Takes away what was said, but no question.
  void close();

 private:
  struct Question {
    QString text;
    std::vector<Choice> choices;
  };
  void showNextQuestion();
  void refresh();

  MessageRow* question_;
  MessageRow* said_;
  std::deque<Question> waiting_;  ///< the first is shown
};

}  // namespace kervo::app
