#include "app/bench/field_editor.h"

#include <QHBoxLayout>
#include <QStyle>
#include <QVBoxLayout>

#include "app/bench/axis_editor.h"
#include "app/bench/cutters_editor.h"
#include "app/bench/drawing_editor.h"
#include "app/bench/hatch_editor.h"
#include "app/bench/pick_editors.h"
#include "app/bench/plane_editor.h"
#include "app/bench/reference_editors.h"
#include "app/bench/regions_editor.h"
#include "app/bench/sections_editor.h"
#include "app/bench/simple_editors.h"
#include "app/bench/sizes_editor.h"
#include "app/bench/step_editor.h"
#include "app/bench/taken_editor.h"
#include "app/look.h"
#include "app/texts.h"
#include "model/names_for_people.h"

namespace kervo::app {

ExpressionLine::ExpressionLine(const QString& name, QWidget* parent) : QWidget(parent) {
  line_ = new QLineEdit;
  line_->setAccessibleName(name);
  line_->setMinimumWidth(64);
  value_ = new QLabel;
  value_->setObjectName("dim");
  value_->setFont(fontOf(-1));
  problem_ = new QLabel;
  problem_->setObjectName("bad");
  problem_->setFont(fontOf(-1));
  problem_->setWordWrap(true);
  problem_->hide();
  auto* row = new QHBoxLayout;
  row->setSpacing(5);
  row->addWidget(line_, 1);
  row->addWidget(value_);
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(0, 0, 0, 0);
  all->setSpacing(1);
  all->addLayout(row);
  all->addWidget(problem_);
  setFocusProxy(line_);
  connect(line_, &QLineEdit::textEdited, this, &ExpressionLine::edited);
}

void ExpressionLine::setExpression(const Expression& expression) {
  const QString text = QString::fromStdString(expression.text());
  // Not while somebody types: the cursor would jump.
  if (line_->text() != text) line_->setText(text);
}

Expression ExpressionLine::expression() const {
  return Expression(line_->text().trimmed().toStdString());
}

void ExpressionLine::setValueText(const QString& text) {
  value_->setText(text);
  value_->setVisible(!text.isEmpty());
}

void ExpressionLine::setProblem(const QString& problem) {
  problem_->setText(problem);
  problem_->setVisible(!problem.isEmpty());
  line_->setAccessibleDescription(problem);
  if (line_->property("bad").toBool() == !problem.isEmpty()) return;
  line_->setProperty("bad", !problem.isEmpty());
  line_->style()->unpolish(line_);
  line_->style()->polish(line_);
}

FieldEditor::FieldEditor(const Field& field, Desk& desk, QWidget* parent)
    : QWidget(parent), field_(field), desk_(desk) {
  setToolTip(kindText(field.help()));
}

void FieldEditor::take(const std::vector<Pick>&, bool) {}

void FieldEditor::setArmed(bool armed) {
  armed_ = armed;
}

namespace {

template <class FieldType, class Editor>
FieldEditor* makeFor(const Field& field, Desk& desk, QWidget* parent) {
  const auto* typed = dynamic_cast<const FieldType*>(&field);
  return typed ? new Editor(*typed, desk, parent) : nullptr;
}

FieldEditor* makeForWords(const Field& field, Desk& desk, QWidget* parent) {
  const auto* words = dynamic_cast<const WordField*>(&field);
  if (words && HatchEditor::fits(*words)) return new HatchEditor(*words, desk, parent);
  return makeFor<WordField, ChoiceEditor>(field, desk, parent);
}

/// One line a field type; one that derives from another stands before it.
constexpr FieldEditor* (*makers[])(const Field&, Desk&, QWidget*){
    makeFor<NumberField, NumberEditor>,   makeForWords,
    makeFor<TextField, TextEditor>,       makeFor<FlagField, FlagEditor>,
    makeFor<SizesField, SizesEditor>,     makeFor<CoordinatesField, CoordinatesEditor>,
    makeFor<PlaneField, PlaneEditor>,     makeFor<BodiesField, BodiesEditor>,
    makeFor<FaceField, FaceEditor>,       makeFor<FacesField, FacesEditor>,
    makeFor<EdgesField, EdgesEditor>,     makeFor<PointsField, PointsEditor>,
    makeFor<RegionsField, RegionsEditor>, makeFor<DrawingField, DrawingEditor>,
    makeFor<BroughtField, BroughtEditor>, makeFor<CuttersField, CuttersEditor>,
    makeFor<AxisField, AxisEditor>,       makeFor<TakenField, TakenEditor>,
    makeFor<StepField, StepEditor>,       makeFor<SectionsField, SectionsEditor>};

}  // namespace

FieldEditor* makeFieldEditor(const Field& field, Desk& desk, QWidget* parent) {
  for (const auto make : makers)
    if (FieldEditor* editor = make(field, desk, parent)) return editor;
  return nullptr;
}

QString bodyName(const Desk& desk, const BodyId& id) {
  const auto nameIn = [&](const Model& model) {
    const ShownAs* look = model.lookOf(id);
    return look ? QString::fromStdString(look->name) : QString();
  };
  QString name;
  if (desk.trial.active() && desk.trial.result()) name = nameIn(*desk.trial.result()->before);
  if (name.isEmpty()) name = nameIn(*desk.session.made()->model);
  if (name.isEmpty()) {
    // Of a body that was divided: what made it, and the part.
    const auto step = desk.session.document().find(id.step());
    name = step ? stepName(desk, *step) : QString::fromStdString(id.step());
    const QString part = QString::fromStdString(id.text()).section('/', 1);
    if (!part.isEmpty()) name += ", " + QString(part).replace("/", ", ");
  }
  return name;
}

QString faceName(const Desk& desk, const FaceReference& face) {
  return QString::fromStdString(faceName(face, *desk.session.made()->model));
}

QString edgeName(const Desk& desk, const EdgeReference& edge) {
  return QString::fromStdString(edgeName(edge, *desk.session.made()->model));
}

Expression written(double value, Dimensionality dimension) {
  const bool angle = dimension == angleDimension;
  const double shown = angle ? value / unitNamed("deg").factor : value;
  return Expression(formatNumber(std::round(shown * 1e6) / 1e6) + (angle ? " deg" : " mm"));
}

QString valueHint(const NumberWanted& wanted, const Expression& expression, const Desk& desk) {
  if (expression.names().empty()) return {};
  const auto value = valueOf(wanted, expression, desk.session.document(), desk.session.dimensions());
  if (!value) return {};
  if (wanted.isLength()) return "= " + lengthText(*value, desk.session.document().made.unit);
  if (wanted.dimension == angleDimension)
    return QStringLiteral("= %1°").arg(withoutRounding(*value / unitNamed("deg").factor), 0, 'f', 2);
  return QStringLiteral("= %1").arg(withoutRounding(*value), 0, 'g', 6);
}

}  // namespace kervo::app
