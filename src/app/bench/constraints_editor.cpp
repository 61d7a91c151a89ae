#include "app/bench/constraints_editor.h"

#include <QHBoxLayout>
#include <QKeyEvent>
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

/// "c1, c3"
QString listOf(const std::vector<std::string>& ids) {
  QStringList texts;
  for (const std::string& id : ids) texts << QString::fromStdString(id);
  return texts.join(", ");
}

/// Whether other constraints than those shown are there.
bool sameRows(const Drawing& a, const Drawing& b) {
  return std::equal(a.constraints.begin(), a.constraints.end(), b.constraints.begin(), b.constraints.end(),
                    [](const DrawnConstraint& one, const DrawnConstraint& other) {
                      return one.id == other.id && one.kind == other.kind && one.on == other.on;
                    });
}

}  // namespace

ConstraintsEditor::ConstraintsEditor(Desk& desk, QWidget* parent) : QWidget(parent), desk_(desk) {
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(0, 0, 0, 0);
  all->setSpacing(2);
  summary_ = new QLabel;
  summary_->setObjectName("dim");
  summary_->setFont(fontOf(-1));
  summary_->setWordWrap(true);
  all->addWidget(summary_);
  auto* adding = new QHBoxLayout;
  adding->setSpacing(4);
  kind_ = new QComboBox;
  kind_->setAccessibleName(tr("Kind of constraint"));
  kind_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  kind_->setMinimumContentsLength(10);
  for (const ConstraintKind& kind : constraintKinds())
    kind_->addItem(QStringLiteral("%1  %2").arg(QString(kind.sign), shown(kind.label)), QString(kind.name));
  on_ = new QLineEdit;
  on_->setAccessibleName(tr("What the constraint is on"));
  on_->setPlaceholderText(tr("on: c1, c2"));
  auto* button = new QToolButton;
  button->setText(tr("+ constraint"));
  button->setFocusPolicy(Qt::StrongFocus);
  adding->addWidget(kind_);
  adding->addWidget(on_, 1);
  adding->addWidget(button);
  all->addLayout(adding);
  problem_ = new QLabel;
  problem_->setObjectName("bad");
  problem_->setFont(fontOf(-1));
  problem_->setWordWrap(true);
  problem_->hide();
  all->addWidget(problem_);
  list_ = new QVBoxLayout;
  list_->setSpacing(2);
  all->addLayout(list_);
  connect(button, &QToolButton::clicked, this, &ConstraintsEditor::add);
  on_->setProperty("addsOnEnter", true);
  on_->installEventFilter(this);
  connect(&desk_.trial, &Trial::tried, this, &ConstraintsEditor::showStates);
}

bool ConstraintsEditor::eventFilter(QObject* object, QEvent* event) {
  if (object != on_ || on_->text().trimmed().isEmpty()) return QWidget::eventFilter(object, event);
  if (event->type() != QEvent::KeyPress && event->type() != QEvent::ShortcutOverride)
    return QWidget::eventFilter(object, event);
  const int key = static_cast<QKeyEvent*>(event)->key();
  if (key != Qt::Key_Return && key != Qt::Key_Enter) return QWidget::eventFilter(object, event);
  event->accept();
  if (event->type() == QEvent::KeyPress) add();
  return true;
}

void ConstraintsEditor::show(const Drawing& drawing) {
  const bool same = sameRows(drawing_, drawing);
  drawing_ = drawing;
  if (!same) build(drawing);
  for (std::size_t i = 0; i < rows_.size(); ++i) {
    const DrawnConstraint& constraint = drawing.constraints[i];
    ExpressionLine* line = rows_[i].value;
    if (!line || !constraint.value) continue;
    if (!(line->expression() == *constraint.value)) line->setExpression(*constraint.value);
    const ConstraintKind* kind = findConstraintKind(constraint.kind);
    const NumberWanted wanted{kind->measures, NumberRule::Any};
    line->setValueText(valueHint(wanted, *constraint.value, desk_));
    line->setProblem(problemOf(wanted, *constraint.value, desk_.session.document(), desk_.session.dimensions()));
  }
  showStates();
}

void ConstraintsEditor::build(const Drawing& drawing) {
  for (const Row& row : rows_) {
    row.widget->hide();
    row.widget->deleteLater();
  }
  rows_.clear();
  for (const DrawnConstraint& constraint : drawing.constraints) {
    const ConstraintKind* kind = findConstraintKind(constraint.kind);
    Row row{new QWidget, new QLabel, nullptr};
    auto* line = new QHBoxLayout(row.widget);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(4);
    auto* sign = new QLabel(QString(kind->sign));
    sign->setAlignment(Qt::AlignCenter);
    sign->setMinimumWidth(QFontMetrics(fontOf()).horizontalAdvance("00"));
    const QString words = QStringLiteral("%1 %2").arg(shown(kind->label), listOf(constraint.on));
    auto* label = new QLabel(words);
    label->setToolTip(QString::fromStdString(constraint.id));
    row.state->setFont(fontOf(-1));
    line->addWidget(sign);
    line->addWidget(label);
    if (kind->dimension) {
      row.value = new ExpressionLine(words);
      line->addWidget(row.value, 1);
      connect(row.value, &ExpressionLine::edited, this, &ConstraintsEditor::changed);
    } else {
      line->addStretch(1);
    }
    line->addWidget(row.state);
    auto* remove = new QToolButton;
    remove->setText("×");
    remove->setFocusPolicy(Qt::StrongFocus);
    remove->setAccessibleName(tr("Remove %1").arg(words));
    connect(remove, &QToolButton::clicked, this,
            [this, id = constraint.id] { emit edited(withoutConstraint(drawing_, id)); });
    line->addWidget(remove);
    list_->addWidget(row.widget);
    rows_.push_back(row);
  }
}

void ConstraintsEditor::showStates() {
  const auto& result = desk_.trial.active() ? desk_.trial.result() : nullptr;
  const DrawingResult* made = result ? result->report().drawing() : nullptr;
  const Finding* finding = result ? result->report().finding.get() : nullptr;
  const int count = static_cast<int>(drawing_.constraints.size());
  QString text = count == 1 ? tr("1 constraint") : tr("%1 constraints").arg(count);
  if (made && !drawing_.points.empty())
    text = made->solution.freedoms == 0   ? tr("%1 · nothing is free to move").arg(text)
           : made->solution.freedoms == 1 ? tr("%1 · 1 way left to move").arg(text)
                                          : tr("%1 · %2 ways left to move").arg(text).arg(made->solution.freedoms);
  summary_->setText(text);
  summary_->setVisible(!drawing_.points.empty() || count > 0);
  for (std::size_t i = 0; i < rows_.size() && i < drawing_.constraints.size(); ++i) {
    const DrawnConstraint& constraint = drawing_.constraints[i];
    QString state;
    const char* tone = "dim";
    if (made && std::count(made->solution.alreadyTrue.begin(), made->solution.alreadyTrue.end(), constraint.id))
      state = tr("already true");
    else if (constraint.reference)
      state = tr("reference only");
    if (finding)
      for (const Conflict& conflict : finding->conflicts)
        if (conflict.constraint == constraint.id) {
          tone = "bad";
          state = conflict.with.empty() ? QString::fromStdString(conflict.reason)
                                        : tr("contradicts %1").arg(listOf(conflict.with));
        }
    rows_[i].state->setText(state);
    if (rows_[i].state->objectName() != tone) {
      rows_[i].state->setObjectName(tone);
      rows_[i].state->setStyleSheet(styleSheet());
    }
  }
}

void ConstraintsEditor::add() {
  std::vector<std::string> on;
  for (const QString& id : on_->text().split(',', Qt::SkipEmptyParts)) on.push_back(id.trimmed().toStdString());
  const std::string kind = kind_->currentData().toString().toStdString();
  try {
    // A dimension begins with what it measures, so that nothing jumps.
    std::optional<Expression> value;
    if (const ConstraintKind* found = findConstraintKind(kind); found->dimension) {
      const Drawing asked = withConstraint(drawing_, kind, on, Expression("0"));
      const auto& result = desk_.trial.result();
      const DrawingResult* made = result ? result->report().drawing() : nullptr;
      const bool fits = made && made->solution.points.size() == drawing_.points.size() &&
                        made->values.numbers.size() == drawing_.curves.size();
      if (!fits) throw errorOf(tr("the drawing is not solved yet"), {}, tr("Wait a moment"));
      value =
          written(measuredNow(moved(asked, made->solution), made->values, asked.constraints.back()), found->measures);
    }
    emit edited(withConstraint(drawing_, kind, std::move(on), value));
    on_->clear();
    problem_->hide();
  } catch (const Error& error) {
    problem_->setText(QString::fromStdString(error.happened()));
    problem_->show();
  }
}

void ConstraintsEditor::changed() {
  Drawing changed = drawing_;
  for (std::size_t i = 0; i < rows_.size(); ++i)
    if (rows_[i].value) changed.constraints[i].value = rows_[i].value->expression();
  emit edited(changed);
}

}  // namespace kervo::app
