#include "app/drawing/trim_card.h"

#include <QStyle>

namespace kervo::app {

TrimCard::TrimCard(Desk& desk, QWidget* parent)
    : WellCard(tr("Trim"), tr("curves by curves"), &Look::text, parent), desk_(desk) {
  setShare(11);
  content()->setSpacing(2);
  connect(word(tr("split where they meet"), tr("The selected curves, or all, where other curves meet them"), tr("S")),
          &QToolButton::clicked, this, [this] { desk_.drawing.splitSelected(); });
  sweep_ = word(tr("sweep over what goes"), tr("Click or sweep over stretches in the view"), tr("T"));
  lengthen_ = word(tr("lengthen to the next"), tr("Click a curve near the end that shall go on"), tr("L"));
  const auto mode = [&](QToolButton* button, TrimMode which) {
    button->setCheckable(true);
    connect(button, &QToolButton::clicked, this, [this, which] {
      desk_.drawing.setTrim(desk_.drawing.trim() == which ? TrimMode::None : which);
      if (desk_.drawing.trim() != TrimMode::None) emit viewWanted();
    });
  };
  mode(sweep_, TrimMode::Sweep);
  mode(lengthen_, TrimMode::Lengthen);
  auto* row = new QHBoxLayout;
  row->setSpacing(3);
  auto* join = word(tr("join within"), tr("Loose ends that are nearer to each other become one point"));
  gap_ = new QLineEdit(QStringLiteral("0.5 mm"));
  gap_->setAccessibleName(tr("Largest gap that is closed"));
  gap_->setFixedWidth(QFontMetrics(fontOf()).horizontalAdvance("0.5 mm") + 20);
  row->addWidget(join);
  row->addWidget(gap_);
  row->addStretch();
  row->addWidget(keyLabel(tr("J")));
  content()->addLayout(row);
  content()->addStretch();
  connect(join, &QToolButton::clicked, this, &TrimCard::join);
  connect(&desk_.drawing, &DrawingDesk::joinWanted, this, &TrimCard::join);
  connect(&desk_.drawing, &DrawingDesk::toolChanged, this, &TrimCard::showTool);
}

QLabel* TrimCard::keyLabel(const QString& key) {
  auto* label = new QLabel(key);
  label->setObjectName("dim");
  return label;
}

QToolButton* TrimCard::word(const QString& text, const QString& help, const QString& key) {
  auto* button = new QToolButton;
  button->setObjectName("link");
  button->setFocusPolicy(Qt::StrongFocus);
  button->setText(text);
  button->setToolTip(help);
  if (key.isEmpty()) return button;
  auto* row = new QHBoxLayout;
  row->addWidget(button);
  row->addStretch();
  row->addWidget(keyLabel(key));
  content()->addLayout(row);
  return button;
}

void TrimCard::showTool() {
  sweep_->setChecked(desk_.drawing.trim() == TrimMode::Sweep);
  lengthen_->setChecked(desk_.drawing.trim() == TrimMode::Lengthen);
}

void TrimCard::join() {
  const auto gap = desk_.drawing.valueOf(Expression(gap_->text().trimmed().toStdString()), lengthDimension);
  gap_->setProperty("bad", !gap || *gap <= 0);
  gap_->style()->polish(gap_);
  if (gap && *gap > 0) desk_.drawing.joinEnds(*gap);
}

}  // namespace kervo::app
