#include "app/panels/panel.h"

#include <QHeaderView>
#include <QKeyEvent>
#include <QPainter>
#include <QSettings>

#include "app/look.h"

namespace kervo::app {

Panel::Panel(const QString& title, const QString& key, QWidget* parent, bool folded) : QWidget(parent), key_(key) {
  setObjectName("panel");
  setAttribute(Qt::WA_StyledBackground);
  fold_ = new QToolButton;
  fold_->setText(title);
  fold_->setFont(fontOf(2, QFont::Bold));
  fold_->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
  fold_->setArrowType(Qt::DownArrow);
  fold_->setFocusPolicy(Qt::TabFocus);
  fold_->setAccessibleName(tr("%1, fold or unfold").arg(title));
  note_ = new ElidedLabel;
  note_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
  note_->setObjectName("dim");
  note_->setFont(fontOf(-1));
  header_ = new QHBoxLayout;
  header_->setContentsMargins(4, 4, 10, 0);
  header_->addWidget(fold_);
  header_->addWidget(note_, 1);
  body_ = new QWidget;
  content_ = new QVBoxLayout(body_);
  content_->setContentsMargins(8, 0, 6, 4);
  content_->setSpacing(3);
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(0, 0, 0, 0);
  all->setSpacing(0);
  all->addLayout(header_);
  all->addWidget(body_);
  connect(fold_, &QToolButton::clicked, this, [this] { setFolded(!this->folded()); });
  setFolded(QSettings().value("folded/" + key_, folded).toBool());
}

void Panel::setNote(const QString& text) {
  note_->setText(text);
}

QToolButton* Panel::addLink(const QString& text) {
  auto* link = new QToolButton;
  link->setObjectName("link");
  link->setText(text);
  header_->addWidget(link);
  return link;
}

bool Panel::folded() const {
  return body_->isHidden();
}

void Panel::setFolded(bool folded) {
  chosenFolded_ = folded;
  crowded_ = false;
  QSettings().setValue("folded/" + key_, folded);
  showState();
}

void Panel::setCrowded(bool crowded) {
  if (crowded == crowded_) return;
  crowded_ = crowded;
  showState();
}

void Panel::showState() {
  const bool folded = chosenFolded_ || crowded_;
  body_->setVisible(!folded);
  fold_->setArrowType(folded ? Qt::RightArrow : Qt::DownArrow);
  setMaximumHeight(folded ? header_->sizeHint().height() + 6 : QWIDGETSIZE_MAX);
  emit foldedChanged();
}

Sheet::Sheet(QWidget* parent) : QTableView(parent) {
  setShowGrid(false);
  setSelectionBehavior(QAbstractItemView::SelectRows);
  setSelectionMode(QAbstractItemView::SingleSelection);
  setEditTriggers(QAbstractItemView::EditKeyPressed);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  setTabKeyNavigation(false);
  setFrameShape(QFrame::NoFrame);
  setWordWrap(false);
  verticalHeader()->hide();
  verticalHeader()->setDefaultSectionSize(QFontMetrics(fontOf()).height() + 12);
  verticalHeader()->setMinimumSectionSize(10);
  horizontalHeader()->setHighlightSections(false);
  horizontalHeader()->setSectionsClickable(false);
  horizontalHeader()->setFont(fontOf(-2));
  horizontalHeader()->setMinimumSectionSize(18);
}

void Sheet::keyPressEvent(QKeyEvent* event) {
  if (state() != EditingState) {
    if (event->key() == Qt::Key_Delete) return emit deletePressed();
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) return emit enterPressed();
    if (event->key() == Qt::Key_Space && receivers(SIGNAL(spacePressed())) > 0) return emit spacePressed();
    if (event->modifiers() == Qt::AltModifier && event->key() == Qt::Key_Up) return emit moveWanted(-1);
    if (event->modifiers() == Qt::AltModifier && event->key() == Qt::Key_Down) return emit moveWanted(1);
  }
  QTableView::keyPressEvent(event);
}

void ElidedLabel::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  painter.setPen(palette().color(foregroundRole()));
  const QString shown = fontMetrics().elidedText(text(), Qt::ElideRight, width());
  setToolTip(shown == text() ? QString() : text());
  painter.drawText(rect(), int(alignment() | Qt::AlignVCenter), shown);
}

}  // namespace kervo::app
