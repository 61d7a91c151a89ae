#include "app/sections/section_ruler.h"

#include <QHBoxLayout>
#include <QStyle>
#include <algorithm>

#include "app/look.h"

namespace kervo::app {

SectionRuler::SectionRuler(Desk& desk, Viewport& view, ViewPanes& panes)
    : QObject(&view), desk_(desk), view_(view), panes_(panes) {
  frame_ = new QFrame(&view_);
  frame_->setObjectName("card");
  letter_ = new QLabel;
  letter_->setObjectName("caution");
  field_ = new QLineEdit;
  field_->setAccessibleName(tr("Place of the section"));
  field_->setToolTip(tr("How far the section lies along its normal: a length, or an expression"));
  field_->setFixedWidth(QFontMetrics(fontOf()).horizontalAdvance("mast / 2 - 00 mm") + 18);
  auto* row = new QHBoxLayout(frame_);
  row->setContentsMargins(6, 2, 4, 2);
  row->setSpacing(4);
  row->addWidget(letter_);
  row->addWidget(field_);
  sweep_ = new QToolButton;
  sweep_->setObjectName("link");
  sweep_->setFocusPolicy(Qt::StrongFocus);
  sweep_->setFont(fontOf(-1));
  sweep_->setText(tr("sweep"));
  sweep_->setToolTip(tr("Moves the section back and forth"));
  row->addWidget(sweep_);
  connect(sweep_, &QToolButton::clicked, this, [this] { desk_.sections.sweep(!desk_.sections.sweeping()); });
  connect(&desk_.sections, &SectionDesk::sweepChanged, this, [this] {
    sweep_->setText(desk_.sections.sweeping() ? tr("stop") : tr("sweep"));
    place();
  });
  frame_->hide();
  connect(field_, &QLineEdit::returnPressed, this, &SectionRuler::typed);
  connect(field_, &QLineEdit::editingFinished, this, &SectionRuler::typed);
  connect(&desk_.sections, &SectionDesk::changed, this, &SectionRuler::refresh);
  connect(&desk_.sections, &SectionDesk::swept, this, &SectionRuler::show);
  connect(&view_, &Viewport::sectionMoved, this, [this](const StepId& section, double value, bool done) {
    desk_.sections.sweep(false);
    if (done)
      desk_.sections.setOffset(section, value);
    else
      show(value);
  });
  connect(&view_, &Viewport::arranged, this, &SectionRuler::place);
}

void SectionRuler::refresh() {
  const auto mark = desk_.sections.ruler();
  view_.setRuler(mark);
  frame_->setVisible(mark.has_value());
  if (!mark) return;
  letter_->setText(QString::fromStdString(mark->letter));
  const auto step = desk_.session.document().find(mark->section);
  if (step && !field_->hasFocus()) {
    field_->setText(QString::fromStdString(step->value("offset").as<Expression>().text()));
    field_->setCursorPosition(0);
    field_->setProperty("bad", false);
    field_->style()->polish(field_);
  }
  place();
}

void SectionRuler::show(double value) {
  const auto cut = desk_.sections.at(value);
  if (!cut) return;
  panes_.showSection(desk_.sections.current(), *cut);
  if (auto mark = desk_.sections.ruler()) {
    mark->gauge.value = value;
    view_.setRuler(mark);
  }
  if (!field_->hasFocus()) field_->setText(lengthText(value, desk_.session.document().made.unit));
  place();
}

void SectionRuler::place() {
  const QPointF tip = view_.rulerTip();
  const QSize size = frame_->sizeHint();
  constexpr int beside = 18;
  const int y =
      std::clamp(static_cast<int>(tip.y()) - size.height() / 2, 4, std::max(4, view_.height() - size.height() - 4));
  frame_->setGeometry(static_cast<int>(tip.x()) - beside - size.width(), y, size.width(), size.height());
}

void SectionRuler::typed() {
  if (!field_->isModified()) return;
  const Expression offset(field_->text().trimmed().toStdString());
  const QString problem = desk_.sections.problemOf(offset);
  field_->setProperty("bad", !problem.isEmpty());
  field_->setToolTip(problem.isEmpty() ? tr("How far the section lies along its normal: a length, or an expression")
                                       : problem);
  field_->style()->polish(field_);
  if (!problem.isEmpty()) return;
  field_->setModified(false);
  desk_.sections.setOffset(desk_.sections.current(), offset);
}

}  // namespace kervo::app
