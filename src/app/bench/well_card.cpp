#include "app/bench/well_card.h"

#include <QEvent>
#include <QPainter>
#include <QScrollArea>
#include <QScrollBar>

#include "app/panels/panel.h"

namespace kervo::app {

namespace {

/// Scrolls up and down only: it is never narrower than what stands in it.
class CardArea : public QScrollArea {
 public:
  explicit CardArea(QWidget* inner) {
    setWidget(inner);
    setWidgetResizable(true);
    setFrameShape(QFrame::NoFrame);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setFocusPolicy(Qt::NoFocus);
    viewport()->setAutoFillBackground(false);
    inner->setAutoFillBackground(false);
    inner->installEventFilter(this);
    verticalScrollBar()->installEventFilter(this);
  }

  QSize minimumSizeHint() const override {
    const QScrollBar* bar = verticalScrollBar();
    const int beside = bar->isVisible() ? bar->sizeHint().width() : 0;
    return {widget()->minimumSizeHint().width() + beside, QScrollArea::minimumSizeHint().height()};
  }

  bool eventFilter(QObject* watched, QEvent* event) override {
    const bool bar = watched == verticalScrollBar() && (event->type() == QEvent::Show || event->type() == QEvent::Hide);
    if (bar || (watched == widget() && event->type() == QEvent::LayoutRequest)) updateGeometry();
    return QScrollArea::eventFilter(watched, event);
  }
};

}  // namespace

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
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(0, 3, 0, 0);
  all->setSpacing(2);
  all->addLayout(top);
  all->addWidget(new CardArea(inner), 1);
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
