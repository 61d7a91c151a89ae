#include "app/drawing/trim_card.h"

#include <QApplication>
#include <QEvent>
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
  // Below the words, however many there are.
  pieces_ = new QVBoxLayout;
  pieces_->setSpacing(0);
  content()->addLayout(pieces_);
  content()->addStretch();
  connect(join, &QToolButton::clicked, this, &TrimCard::join);
  connect(&desk_.drawing, &DrawingDesk::joinWanted, this, &TrimCard::join);
  connect(&desk_.drawing, &DrawingDesk::toolChanged, this, &TrimCard::showTool);
  connect(&desk_.drawing, &DrawingDesk::piecesChanged, this, &TrimCard::listPieces);
  listPieces();
}

void TrimCard::listPieces() {
  const std::vector<CurvePiece>& pieces = desk_.drawing.pieces();
  QStringList texts;
  for (const CurvePiece& piece : pieces) texts << lengthText(desk_.drawing.lengthOf(piece), "mm");
  const QString state = pieces.empty() ? QString() : QString::fromStdString(pieces.front().curve) + texts.join('|');
  if (property("lists").toString() == state) return;
  setProperty("lists", state);
  const QWidget* focused = QApplication::focusWidget();
  const bool hadKeyboard = focused && focused->property("piece").isValid() && isAncestorOf(focused);
  while (QLayoutItem* item = pieces_->takeAt(0)) {
    item->widget()->hide();
    item->widget()->deleteLater();
    delete item;
  }
  setNote(pieces.empty() ? tr("curves by curves") : tr("%1 pieces").arg(pieces.size()));
  for (std::size_t i = 0; i < pieces.size(); ++i) {
    auto* drop = new QToolButton;
    drop->setObjectName("link");
    drop->setFocusPolicy(Qt::StrongFocus);
    drop->setText(tr("drop %1 · %2").arg(i + 1).arg(texts[static_cast<qsizetype>(i)]));
    drop->setToolTip(tr("This piece of the selected curve goes; the others stay"));
    drop->setProperty("piece", static_cast<int>(i));
    drop->installEventFilter(this);
    connect(drop, &QToolButton::clicked, this, [this, piece = pieces[i]] { desk_.drawing.dropPiece(piece); });
    pieces_->addWidget(drop, 0, Qt::AlignLeft);
    if (hadKeyboard && i == 0) drop->setFocus(Qt::OtherFocusReason);
  }
  if (hadKeyboard && pieces.empty()) sweep_->setFocus(Qt::OtherFocusReason);
}

bool TrimCard::eventFilter(QObject* watched, QEvent* event) {
  // The piece whose word has the pointer or the keyboard is shown in the view.
  const bool into = event->type() == QEvent::Enter || event->type() == QEvent::FocusIn;
  const bool out = event->type() == QEvent::Leave || event->type() == QEvent::FocusOut;
  if (into) desk_.drawing.lightPiece(watched->property("piece").toUInt());
  if (out) desk_.drawing.lightPiece({});
  return WellCard::eventFilter(watched, event);
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
