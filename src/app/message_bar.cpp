#include "app/message_bar.h"

#include "app/icons.h"
#include "app/look.h"

namespace kervo::app {

MessageRow::MessageRow(QWidget* parent) : QWidget(parent) {
  auto* picture = new QLabel;
  picture->setPixmap(icon("warning", look().ochre).pixmap(16, 16));
  text_ = new QLabel;
  text_->setWordWrap(true);
  text_->setTextInteractionFlags(Qt::TextSelectableByMouse);
  auto* said = new QHBoxLayout;
  said->addWidget(picture, 0, Qt::AlignTop);
  said->addWidget(text_, 1);
  buttons_ = new QHBoxLayout;
  row_ = new QBoxLayout(QBoxLayout::LeftToRight, this);
  row_->setContentsMargins(12, 6, 12, 6);
  row_->addLayout(said, 1);
  row_->addLayout(buttons_);
  hide();
}

void MessageRow::clearButtons() {
  while (QLayoutItem* item = buttons_->takeAt(0)) {
    item->widget()->hide();
    item->widget()->deleteLater();
    delete item;
  }
}

void MessageRow::set(const QString& text, const std::vector<MessageChoice>& choices) {
  clearButtons();
  text_->setText(text);
  for (const MessageChoice& choice : choices) {
    auto* button = new QPushButton(choice.text);
    connect(button, &QPushButton::clicked, this, [this, run = choice.run] {
      emit closed();
      run();
    });
    buttons_->addWidget(button);
  }
  setAccessibleDescription(text);
  setVisible(true);
  arrange();
}

void MessageRow::clear() {
  clearButtons();
  text_->clear();
  hide();
}

void MessageRow::resizeEvent(QResizeEvent* event) {
  QWidget::resizeEvent(event);
  arrange();
}

void MessageRow::arrange() {
  // Beside the buttons the text has to have room for some words a line.
  constexpr int fewestLetters = 45;
  const int room = width() - buttons_->sizeHint().width();
  const bool narrow = room < fewestLetters * fontMetrics().averageCharWidth();
  row_->setDirection(narrow ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
  row_->setAlignment(buttons_, narrow ? Qt::AlignRight : Qt::Alignment());
  setMinimumHeight(row_->heightForWidth(width()));
}

MessageBar::MessageBar(QWidget* parent) : QWidget(parent), question_(new MessageRow), said_(new MessageRow) {
  setObjectName("messageBar");
  setAttribute(Qt::WA_StyledBackground);
  setAccessibleName(tr("Message"));
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(0, 0, 0, 0);
  rows->setSpacing(0);
  rows->addWidget(question_);
  rows->addWidget(said_);
  connect(said_, &MessageRow::closed, this, &MessageBar::close);
  connect(question_, &MessageRow::closed, this, [this] {
    waiting_.pop_front();
    showNextQuestion();
  });
  hide();
}

void MessageBar::show(const Error& error, std::vector<Choice> choices) {
  QString text = QString::fromStdString(error.happened());
  if (!text.isEmpty()) text[0] = text[0].toUpper();
  if (!error.where().empty()) text += QStringLiteral(" (%1)").arg(QString::fromStdString(error.where()));
  text += ".";
  if (!error.help().empty()) text += " " + QString::fromStdString(error.help()) + ".";
  tell(text, std::move(choices));
}

void MessageBar::tell(const QString& text, std::vector<Choice> choices) {
  choices.push_back({tr("Close"), [] {}});
  said_->set(text, choices);
  refresh();
}

void MessageBar::ask(const QString& text, const std::vector<Choice>& choices) {
  waiting_.push_back({text, choices});
  if (waiting_.size() == 1) showNextQuestion();
}

void MessageBar::showNextQuestion() {
  if (waiting_.empty())
    question_->clear();
  else
    question_->set(waiting_.front().text, waiting_.front().choices);
  refresh();
}

QString MessageBar::text() const {
  QStringList texts{question_->text(), said_->text()};
  texts.removeAll(QString());
  return texts.join('\n');
}

void MessageBar::close() {
  said_->clear();
  refresh();
}

void MessageBar::refresh() {
  setAccessibleDescription(text());
  setVisible(!text().isEmpty());
}

}  // namespace kervo::app
