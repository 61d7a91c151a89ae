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

/// Whether a row shows that constraint, but for its value.
bool sameRow(const DrawnConstraint& one, const DrawnConstraint& other) {
  return one.id == other.id && one.kind == other.kind && one.on == other.on;
}

/// So many rows are made at most without being asked for.
constexpr std::size_t mostRows = 150;

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
  rest_ = new QLabel(tr("Of so many, those on what is selected are listed."));
  rest_->setObjectName("dim");
  rest_->setWordWrap(true);
  list_->addWidget(rest_);
  list_->addStretch();
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
  connect(&desk_.drawing, &DrawingDesk::selectionChanged, this, &ConstraintsPanel::refresh);
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

std::vector<std::size_t> ConstraintsPanel::listed() const {
  std::vector<std::size_t> result;
  const auto& all = drawing_.constraints;
  const auto& conflicts = desk_.drawing.solution().conflicts;
  for (std::size_t i = 0; i < all.size(); ++i) {
    const bool asked = desk_.drawing.isSelected(all[i].id) ||
                       std::any_of(all[i].on.begin(), all[i].on.end(),
                                   [&](const std::string& id) { return desk_.drawing.isSelected(id); }) ||
                       std::any_of(conflicts.begin(), conflicts.end(),
                                   [&](const Conflict& conflict) { return conflict.constraint == all[i].id; });
    if (all.size() <= mostRows || (asked && result.size() < mostRows)) result.push_back(i);
  }
  return result;
}

void ConstraintsPanel::refresh() {
  if (!desk_.drawing.open()) return;
  drawing_ = desk_.drawing.drawing();
  build(listed());
  for (Row& row : rows_) {
    if (!row.value || !row.of.value) continue;
    if (!(row.value->expression() == *row.of.value)) row.value->setExpression(*row.of.value);
    const ConstraintKind* kind = findConstraintKind(row.of.kind);
    const NumberWanted wanted{kind->measures, NumberRule::Any};
    row.value->setProblem(problemOf(wanted, *row.of.value, desk_.session.document(), desk_.session.dimensions()));
  }
  setNote(QString::number(drawing_.constraints.size()));
  showStates();
}

void ConstraintsPanel::build(const std::vector<std::size_t>& listed) {
  // Rows that stay the same stay there, and with them the keyboard.
  std::size_t same = 0;
  while (same < rows_.size() && same < listed.size() && sameRow(rows_[same].of, drawing_.constraints[listed[same]]))
    ++same;
  for (std::size_t i = same; i < rows_.size(); ++i) {
    rows_[i].widget->hide();
    rows_[i].widget->deleteLater();
  }
  rows_.resize(std::min(same, rows_.size()));
  for (std::size_t i = same; i < listed.size(); ++i) addRow(drawing_.constraints[listed[i]]);
  for (std::size_t i = 0; i < rows_.size(); ++i) rows_[i].of = drawing_.constraints[listed[i]];
  rest_->setVisible(listed.size() < drawing_.constraints.size());
}

void ConstraintsPanel::addRow(const DrawnConstraint& constraint) {
  const ConstraintKind* kind = findConstraintKind(constraint.kind);
  Row row{constraint, new QWidget, new QPushButton, new QLabel, nullptr};
  auto* lines = new QVBoxLayout(row.widget);
  lines->setContentsMargins(0, 0, 0, 0);
  lines->setSpacing(0);
  auto* line = new QHBoxLayout;
  line->setSpacing(4);
  auto* sign = new QLabel(QString(kind->sign));
  sign->setAlignment(Qt::AlignCenter);
  sign->setMinimumWidth(QFontMetrics(fontOf()).horizontalAdvance("000"));
  const QString words = inWords(drawing_, constraint);
  row.words->setObjectName("words");
  row.words->setCheckable(true);
  row.words->setText(words);
  row.words->setToolTip(words);
  row.words->setFocusPolicy(Qt::StrongFocus);
  row.words->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
  connect(row.words, &QPushButton::clicked, this, [this, id = constraint.id] { desk_.drawing.select({id}); });
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
    connect(row.value, &ExpressionLine::edited, this, [this, id = constraint.id] { edit(id); });
  }
  line->addWidget(remove);
  lines->addLayout(line);
  lines->addWidget(row.state);
  // Before the stretch at the end.
  list_->insertWidget(list_->count() - 1, row.widget);
  rows_.push_back(row);
}

void ConstraintsPanel::showStates() {
  if (!desk_.drawing.open()) return;
  const Solution& solution = desk_.drawing.solution();
  for (const Row& row : rows_) {
    const DrawnConstraint& constraint = row.of;
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
    row.state->setText(state);
    row.state->setVisible(!state.isEmpty());
    row.words->setChecked(desk_.drawing.isSelected(constraint.id));
    if (row.state->objectName() != tone) {
      row.state->setObjectName(tone);
      row.state->setStyleSheet(styleSheet());
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

void ConstraintsPanel::edit(const std::string& id) {
  if (!desk_.drawing.open()) return;
  Drawing changed = desk_.drawing.drawing();
  for (DrawnConstraint& constraint : changed.constraints)
    for (const Row& row : rows_)
      if (constraint.id == id && row.of.id == id && row.value) {
        constraint.value = row.value->expression();
        return desk_.drawing.set(changed, tr("Change %1").arg(inWords(changed, constraint)), id);
      }
}

}  // namespace kervo::app
