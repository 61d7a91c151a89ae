#include "app/drawing/constraints_panel.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QScrollArea>
#include <QToolButton>
#include <algorithm>
#include <cmath>

#include "app/look.h"
#include "app/texts.h"
#include "base/say.h"
#include "drawing/constraint_kind.h"
#include "drawing/drawing_edits.h"

namespace kervo::app {

namespace {

QString shown(const char* text) {
  return QString::fromStdString(say(text));
}

/// Whether other constraints than those shown are there.
bool sameRows(const Drawing& a, const Drawing& b) {
  return std::equal(a.constraints.begin(), a.constraints.end(), b.constraints.begin(), b.constraints.end(),
                    [](const DrawnConstraint& one, const DrawnConstraint& other) {
                      return one.id == other.id && one.kind == other.kind && one.on == other.on;
                    });
}

/// The id of a part as somebody writes it: itself, or what it is called.
std::string idOf(const Drawing& drawing, const QString& written) {
  const QString text = written.trimmed();
  const auto called = [&](const std::string& id) { return spoken(drawing, id) == text; };
  for (const DrawnPoint& point : drawing.points)
    if (called(point.id)) return point.id;
  for (const DrawnCurve& curve : drawing.curves)
    if (called(curve.id)) return curve.id;
  for (const char* id : {originId, uAxisId, vAxisId})
    if (called(id)) return id;
  return text.toStdString();
}

}  // namespace

ConstraintsPanel::ConstraintsPanel(Desk& desk, QWidget* parent)
    : Panel(tr("Constraints"), "constraints", parent), desk_(desk) {
  auto* adding = new QHBoxLayout;
  adding->setSpacing(4);
  kind_ = new QComboBox;
  kind_->setAccessibleName(tr("Kind of constraint"));
  kind_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  kind_->setMinimumContentsLength(9);
  for (const ConstraintKind& kind : constraintKinds())
    kind_->addItem(QStringLiteral("%1  %2").arg(QString(kind.sign), shown(kind.label)), QString(kind.name));
  on_ = new QLineEdit;
  on_->setAccessibleName(tr("What the constraint is on"));
  on_->setPlaceholderText(tr("line 1, line 2"));
  auto* button = new QToolButton;
  button->setText(tr("+ add"));
  button->setObjectName("link");
  button->setAccessibleName(tr("Add the constraint"));
  button->setFocusPolicy(Qt::StrongFocus);
  adding->addWidget(kind_);
  adding->addWidget(on_, 1);
  adding->addWidget(button);
  content()->addLayout(adding);
  problem_ = new QLabel;
  problem_->setObjectName("bad");
  problem_->setFont(fontOf(-1));
  problem_->setWordWrap(true);
  problem_->hide();
  content()->addWidget(problem_);
  refused_ = new QFrame;
  refused_->setObjectName("refused");
  refused_->setAttribute(Qt::WA_StyledBackground);
  auto* refusing = new QVBoxLayout(refused_);
  refusing->setContentsMargins(8, 6, 8, 6);
  refusing->setSpacing(2);
  refusedWords_ = new QLabel;
  refusedWords_->setWordWrap(true);
  refusing->addWidget(refusedWords_);
  auto* ways = new QHBoxLayout;
  auto* insist = new QToolButton;
  insist->setText(tr("turn that off"));
  insist->setToolTip(tr("Removes what it contradicts"));
  auto* leave = new QToolButton;
  leave->setText(tr("leave as it was"));
  for (QToolButton* way : {insist, leave}) {
    way->setObjectName("link");
    way->setFocusPolicy(Qt::StrongFocus);
    ways->addWidget(way);
  }
  ways->addStretch();
  refusing->addLayout(ways);
  refused_->hide();
  content()->addWidget(refused_);
  auto* inner = new QWidget;
  list_ = new QVBoxLayout(inner);
  list_->setContentsMargins(0, 0, 4, 0);
  list_->setSpacing(2);
  auto* scroll = new QScrollArea;
  scroll->setWidget(inner);
  scroll->setWidgetResizable(true);
  scroll->setFrameShape(QFrame::NoFrame);
  scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  content()->addWidget(scroll, 1);
  connect(button, &QToolButton::clicked, this, &ConstraintsPanel::add);
  connect(insist, &QToolButton::clicked, this, [this] { desk_.drawing.insist(); });
  connect(leave, &QToolButton::clicked, this, [this] { desk_.drawing.leaveAsItWas(); });
  on_->setProperty("addsOnEnter", true);
  on_->installEventFilter(this);
  connect(&desk_.drawing, &DrawingDesk::changed, this, &ConstraintsPanel::refresh);
  connect(&desk_.drawing, &DrawingDesk::selectionChanged, this, &ConstraintsPanel::showStates);
  connect(&desk_.drawing, &DrawingDesk::refusedChanged, this, &ConstraintsPanel::showRefused);
}

bool ConstraintsPanel::eventFilter(QObject* object, QEvent* event) {
  if (object != on_ || on_->text().trimmed().isEmpty()) return QWidget::eventFilter(object, event);
  if (event->type() != QEvent::KeyPress && event->type() != QEvent::ShortcutOverride)
    return QWidget::eventFilter(object, event);
  const int key = static_cast<QKeyEvent*>(event)->key();
  if (key != Qt::Key_Return && key != Qt::Key_Enter) return QWidget::eventFilter(object, event);
  event->accept();
  if (event->type() == QEvent::KeyPress) add();
  return true;
}

void ConstraintsPanel::refresh() {
  if (!desk_.drawing.open()) return;
  const Drawing& drawing = desk_.drawing.drawing();
  const bool same = sameRows(drawing_, drawing) && drawing_.curves.size() == drawing.curves.size();
  drawing_ = drawing;
  if (!same) build(drawing);
  for (std::size_t i = 0; i < rows_.size(); ++i) {
    const DrawnConstraint& constraint = drawing.constraints[i];
    ExpressionLine* line = rows_[i].value;
    if (!line || !constraint.value) continue;
    if (!(line->expression() == *constraint.value)) line->setExpression(*constraint.value);
    const ConstraintKind* kind = findConstraintKind(constraint.kind);
    const NumberWanted wanted{kind->measures, NumberRule::Any};
    line->setProblem(problemOf(wanted, *constraint.value, desk_.session.document(), desk_.session.dimensions()));
  }
  setNote(QString::number(drawing.constraints.size()));
  showStates();
}

void ConstraintsPanel::build(const Drawing& drawing) {
  for (const Row& row : rows_) {
    row.widget->hide();
    row.widget->deleteLater();
  }
  rows_.clear();
  while (QLayoutItem* item = list_->takeAt(0)) delete item;
  for (const DrawnConstraint& constraint : drawing.constraints) {
    const ConstraintKind* kind = findConstraintKind(constraint.kind);
    Row row{new QWidget, new QPushButton, new QLabel, nullptr};
    auto* lines = new QVBoxLayout(row.widget);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->setSpacing(0);
    auto* line = new QHBoxLayout;
    line->setSpacing(4);
    auto* sign = new QLabel(QString(kind->sign));
    sign->setAlignment(Qt::AlignCenter);
    sign->setMinimumWidth(QFontMetrics(fontOf()).horizontalAdvance("000"));
    const QString words = inWords(drawing, constraint);
    row.words->setObjectName("words");
    row.words->setCheckable(true);
    row.words->setText(words);
    row.words->setToolTip(words);
    row.words->setFocusPolicy(Qt::StrongFocus);
    row.words->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    connect(row.words, &QToolButton::clicked, this, [this, id = constraint.id] { desk_.drawing.select({id}); });
    row.state->setFont(fontOf(-1));
    row.state->setWordWrap(true);
    row.state->setContentsMargins(sign->minimumWidth() + 4, 0, 0, 2);
    auto* remove = new QToolButton;
    remove->setText("×");
    remove->setFocusPolicy(Qt::StrongFocus);
    remove->setAccessibleName(tr("Remove %1").arg(words));
    connect(remove, &QToolButton::clicked, this, [this, id = constraint.id] { desk_.drawing.remove(id); });
    line->addWidget(sign);
    line->addWidget(row.words, 3);
    if (kind->dimension) {
      row.value = new ExpressionLine(words);
      line->addWidget(row.value, 2);
      connect(row.value, &ExpressionLine::edited, this, [this, index = rows_.size()] { edit(index); });
    }
    line->addWidget(remove);
    lines->addLayout(line);
    lines->addWidget(row.state);
    list_->addWidget(row.widget);
    rows_.push_back(row);
  }
  list_->addStretch();
}

void ConstraintsPanel::showStates() {
  if (!desk_.drawing.open()) return;
  const Solution& solution = desk_.drawing.solution();
  for (std::size_t i = 0; i < rows_.size() && i < drawing_.constraints.size(); ++i) {
    const DrawnConstraint& constraint = drawing_.constraints[i];
    QString state;
    const char* tone = "dim";
    if (std::count(solution.alreadyTrue.begin(), solution.alreadyTrue.end(), constraint.id))
      state = tr("already true");
    else if (constraint.reference)
      state = tr("reference only");
    for (const Conflict& conflict : solution.conflicts)
      if (conflict.constraint == constraint.id) {
        tone = "bad";
        state = conflict.with.empty() ? QString::fromStdString(conflict.reason)
                                      : tr("contradicts %1").arg(spokenConstraints(drawing_, conflict.with));
      }
    rows_[i].state->setText(state);
    rows_[i].state->setVisible(!state.isEmpty());
    rows_[i].words->setChecked(desk_.drawing.isSelected(constraint.id));
    if (rows_[i].state->objectName() != tone) {
      rows_[i].state->setObjectName(tone);
      rows_[i].state->setStyleSheet(styleSheet());
    }
  }
}

void ConstraintsPanel::showRefused() {
  const auto& refused = desk_.drawing.refused();
  refused_->setVisible(refused.has_value());
  if (!refused) return;
  const QString label = shown(findConstraintKind(refused->kind)->label);
  refusedWords_->setText(refused->conflict.with.empty()
                             ? tr("%1 cannot hold: %2").arg(label, QString::fromStdString(refused->conflict.reason))
                             : tr("%1 would contradict %2")
                                   .arg(label, spokenConstraints(desk_.drawing.drawing(), refused->conflict.with)));
}

void ConstraintsPanel::add() {
  if (!desk_.drawing.open()) return;
  std::vector<std::string> on;
  for (const QString& id : on_->text().split(',', Qt::SkipEmptyParts)) on.push_back(idOf(drawing_, id));
  try {
    desk_.drawing.constrain(*findConstraintKind(kind_->currentData().toString().toStdString()), on);
    on_->clear();
    problem_->hide();
  } catch (const Error& error) {
    problem_->setText(QString::fromStdString(error.happened()));
    problem_->show();
  }
}

void ConstraintsPanel::edit(std::size_t row) {
  if (!desk_.drawing.open() || row >= rows_.size() || !rows_[row].value) return;
  Drawing changed = desk_.drawing.drawing();
  changed.constraints[row].value = rows_[row].value->expression();
  desk_.drawing.set(changed, tr("Change %1").arg(inWords(changed, changed.constraints[row])),
                    changed.constraints[row].id);
}

}  // namespace kervo::app
