#include "app/message_bar.h"

#include <QHBoxLayout>

#include "app/icons.h"
#include "app/look.h"

namespace kervo::app {

MessageBar::MessageBar(QWidget* parent) : QWidget(parent) {
  setObjectName("messageBar");
  setAttribute(Qt::WA_StyledBackground);
  setAccessibleName(tr("Message"));
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

void MessageBar::resizeEvent(QResizeEvent* event) {
  QWidget::resizeEvent(event);
  arrange();
}

void MessageBar::arrange() {
  // Beside the buttons the text has to have room for some words a line.
  constexpr int fewestLetters = 45;
  const int room = width() - buttons_->sizeHint().width();
  const bool narrow = room < fewestLetters * fontMetrics().averageCharWidth();
  row_->setDirection(narrow ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
  row_->setAlignment(buttons_, narrow ? Qt::AlignRight : Qt::Alignment());
  setMinimumHeight(row_->heightForWidth(width()));
}

void MessageBar::clearButtons() {
  while (QLayoutItem* item = buttons_->takeAt(0)) {
    item->widget()->deleteLater();
    delete item;
  }
}

void MessageBar::show(const Error& error, std::vector<Choice> choices) {
  QString text = QString::fromStdString(error.happened());
  if (!text.isEmpty()) text[0] = text[0].toUpper();
  if (!error.where().empty()) text += QStringLiteral(" (%1)").arg(QString::fromStdString(error.where()));
  text += ".";
  if (!error.help().empty()) text += " " + QString::fromStdString(error.help()) + ".";
  choices.push_back({tr("Close"), [] {}});
  ask(text, choices);
}

void MessageBar::ask(const QString& text, const std::vector<Choice>& choices) {
  clearButtons();
  text_->setText(text);
  for (const Choice& choice : choices) {
    auto* button = new QPushButton(choice.text);
    connect(button, &QPushButton::clicked, this, [this, run = choice.run] {
      close();
      run();
    });
    buttons_->addWidget(button);
  }
  setAccessibleDescription(text);
  setVisible(true);
  arrange();
}

void MessageBar::close() {
  clearButtons();
  hide();
}

}  // namespace kervo::app
