#include "app/bench/well_card.h"

#include <QEvent>
#include <QPainter>
#include <QScrollArea>

#include "app/panels/panel.h"

namespace kervo::app {

WellCard::WellCard(const QString& title, const QString& subtitle, QColor Look::*edge, QWidget* parent)
    : QFrame(parent), edge_(edge) {
  setObjectName("card");
  setAccessibleName(title);
  heading_ = new QLabel(title);
  heading_->setFont(fontOf(0, QFont::Bold));
  dress();
  note_ = new ElidedLabel(subtitle);
  note_->setObjectName("dim");
  note_->setFont(fontOf(-1));
  note_->setAlignment(Qt::AlignRight);
  auto* top = new QHBoxLayout;
  top->setContentsMargins(10, 8, 10, 0);
  top->addWidget(heading_);
  top->addWidget(note_, 1);
  auto* inner = new QWidget;
  inner->setObjectName("cardInner");
  content_ = new QVBoxLayout(inner);
  content_->setContentsMargins(10, 2, 10, 6);
  content_->setSpacing(4);
  auto* scroll = new QScrollArea;
  scroll->setWidget(inner);
  scroll->setWidgetResizable(true);
  scroll->setFrameShape(QFrame::NoFrame);
  scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAsNeeded);
  scroll->setFocusPolicy(Qt::NoFocus);
  scroll->viewport()->setAutoFillBackground(false);
  inner->setAutoFillBackground(false);
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(0, 3, 0, 0);
  all->setSpacing(2);
  all->addLayout(top);
  all->addWidget(scroll, 1);
}

void WellCard::setNote(const QString& text) {
  note_->setText(text);
  note_->setToolTip(text);
}

void WellCard::dress() {
  heading_->setStyleSheet(QStringLiteral("color: %1;").arg((look().*edge_).name()));
}

void WellCard::changeEvent(QEvent* event) {
  QFrame::changeEvent(event);
  if (event->type() == QEvent::PaletteChange) dress();
}

void WellCard::paintEvent(QPaintEvent* event) {
  QFrame::paintEvent(event);
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setPen(Qt::NoPen);
  painter.setBrush(look().*edge_);
  painter.drawRoundedRect(QRectF(0, 0, width(), 3.5), 1.5, 1.5);
}

}  // namespace kervo::app
