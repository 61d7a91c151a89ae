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
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(12, 6, 12, 6);
  row->addWidget(picture, 0, Qt::AlignTop);
  row->addWidget(text_, 1);
  buttons_ = new QHBoxLayout;
  row->addLayout(buttons_);
  hide();
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
}

void MessageBar::close() {
  clearButtons();
  hide();
}

}  // namespace kervo::app
