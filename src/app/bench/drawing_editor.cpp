#include "app/bench/drawing_editor.h"

#include <QHBoxLayout>
#include <QMenu>
#include <cmath>

#include "app/icons.h"
#include "app/look.h"
#include "base/say.h"
#include "drawing/curve_kind.h"
#include "drawing/drawing_edits.h"

namespace kervo::app {

namespace {

/// What stands before a number: the second of a pair is "v" only.
QString shortName(const std::string& name) {
  return name.ends_with(" v") ? QStringLiteral("v") : QString::fromStdString(say(name.c_str()));
}

}  // namespace

DrawingEditor::DrawingEditor(const DrawingField& field, Desk& desk, QWidget* parent)
    : FieldEditor(field, desk, parent) {
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(0, 0, 0, 0);
  all->setSpacing(3);
  auto* tools = new QHBoxLayout;
  tools->setSpacing(2);
  for (const CurveKind* each : curveKinds()) {
    if (each->numbers.empty()) continue;
    const CurveKind& kind = *each;
    auto* tool = new QToolButton;
    tool->setObjectName("segment");
    tool->setFocusPolicy(Qt::StrongFocus);
    tool->setIcon(icon(kind.name));
    tool->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
    tool->setText(QString(kind.name));
    tool->setProperty("kind", QString(kind.name));
    tool->setAccessibleName(tr("Add a %1").arg(kind.name));
    tool->setToolTip(tr("Add a %1; then type its numbers").arg(kind.name));
    connect(tool, &QToolButton::clicked, this, [this, &field, &kind] {
      PlanePoint middle;
      const auto& tried = desk_.trial.result();
      if (const DrawingResult* drawing = tried ? tried->report().drawing() : nullptr) {
        const auto& pick = desk_.trial.step().value(field.plane()).as<PlanePick>();
        if (pick.kind == PlanePick::Kind::OnFace)
          middle = middleOf(pick.face, tried->picturesBefore, drawing->plane).value_or(middle);
      }
      addCurve(kind, kind.about(middle));
      if (!rows_.empty()) rows_.back().numbers.back()->line()->setFocus();
    });
    tools->addWidget(tool);
    tools_.push_back(tool);
  }
  draw_ = new QToolButton;
  draw_->setObjectName("segment");
  draw_->setCheckable(true);
  draw_->setFocusPolicy(Qt::StrongFocus);
  draw_->setPopupMode(QToolButton::InstantPopup);
  draw_->setIcon(icon("drawing"));
  draw_->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
  draw_->setText(tr("draw in the view"));
  draw_->setToolTip(tr("Press at the centre or a corner in the view and drag"));
  auto* menu = new QMenu(draw_);
  for (const StrokeKind& kind : strokeKinds())
    menu->addAction(icon(kind.name), QString::fromStdString(say(kind.label)), this, [this, &kind] { draw(&kind); });
  menu->addAction(tr("stop drawing"), this, [this] { draw(nullptr); });
  draw_->setMenu(menu);
  tools->addWidget(draw_);
  tools->addStretch();
  all->addLayout(tools);
  list_ = new QVBoxLayout;
  list_->setSpacing(2);
  constraints_ = new ConstraintsEditor(desk);
  auto* columns = new QHBoxLayout;
  columns->setSpacing(16);
  auto* curves = new QVBoxLayout;
  curves->addLayout(list_);
  curves->addStretch();
  columns->addLayout(curves, 1);
  columns->addWidget(constraints_, 1, Qt::AlignTop);
  all->addLayout(columns);
  connect(constraints_, &ConstraintsEditor::edited, this, [this](const Drawing& drawing) { set(drawing); });
}

QWidget* DrawingEditor::first() {
  for (const Row& row : rows_)
    if (!row.numbers.empty()) return row.numbers.front()->line();
  return tools_.front();
}

void DrawingEditor::draw(const StrokeKind* kind) {
  drawn_ = kind;
  draw_->setText(kind ? tr("drawing: %1").arg(QString::fromStdString(say(kind->label))) : tr("draw in the view"));
  draw_->setChecked(kind);
  emit drawingChanged();
}

void DrawingEditor::addDrawn(const Stroke& stroke) {
  if (!drawn_) return;
  const auto& result = desk_.trial.result();
  const DrawingResult* made = result ? result->report().drawing() : nullptr;
  set(withStroke(valueAs<Drawing>(), made ? made->solution : Solution(), drawn_->name, stroke));
}

void DrawingEditor::addCurve(const CurveKind& kind, const std::vector<double>& numbers) {
  Drawing drawing = valueAs<Drawing>();
  DrawnCurve curve{freeId(drawing, std::string(1, kind.name[0])), kind.name, {}};
  for (std::size_t i = 0; i < numbers.size(); ++i)
    curve.numbers.push_back(written(numbers[i], kind.numbers[i].dimension));
  drawing.curves.push_back(std::move(curve));
  set(drawing);
}

void DrawingEditor::removeCurve(std::size_t row) {
  const auto& drawing = valueAs<Drawing>();
  set(withoutCurve(drawing, drawing.curves[row].id));
}

void DrawingEditor::changed() {
  Drawing drawing = valueAs<Drawing>();
  for (std::size_t row = 0; row < rows_.size() && row < drawing.curves.size(); ++row)
    for (std::size_t i = 0; i < rows_[row].numbers.size(); ++i)
      drawing.curves[row].numbers[i] = rows_[row].numbers[i]->expression();
  set(drawing);
}

void DrawingEditor::buildRows(const std::vector<DrawnCurve>& curves) {
  for (const Row& row : rows_) {
    row.widget->hide();
    row.widget->deleteLater();
  }
  rows_.clear();
  for (std::size_t index = 0; index < curves.size(); ++index) {
    const CurveKind* kind = findCurveKind(curves[index].kind);
    Row row{new QWidget, {}, curves[index]};
    auto* line = new QHBoxLayout(row.widget);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(4);
    auto* picture = new QLabel;
    picture->setPixmap(icon(QString::fromStdString(curves[index].kind)).pixmap(16, 16));
    auto* name = new QLabel(QString::fromStdString(curves[index].id));
    name->setMinimumWidth(QFontMetrics(fontOf()).horizontalAdvance("r10"));
    line->addWidget(picture);
    line->addWidget(name);
    if (!curves[index].points.empty()) {
      QStringList points;
      for (const std::string& id : curves[index].points) points << QString::fromStdString(id);
      auto* through =
          new QLabel(curves[index].construction ? tr("construction · %1").arg(points.join(", ")) : points.join(", "));
      through->setObjectName("dim");
      line->addWidget(through, 1);
    }
    for (std::size_t i = 0; kind && i < curves[index].numbers.size(); ++i) {
      auto* label = new QLabel(shortName(kind->numbers[i].name));
      label->setObjectName("dim");
      label->setFont(fontOf(-1));
      auto* number = new ExpressionLine(tr("%1 %2: %3")
                                            .arg(QString::fromStdString(curves[index].kind),
                                                 QString::fromStdString(curves[index].id),
                                                 QString::fromStdString(say(kind->numbers[i].name))));
      line->addWidget(label);
      line->addWidget(number, 1);
      row.numbers.push_back(number);
      connect(number, &ExpressionLine::edited, this, &DrawingEditor::changed);
    }
    auto* remove = new QToolButton;
    remove->setText("×");
    remove->setFocusPolicy(Qt::StrongFocus);
    remove->setAccessibleName(tr("Remove %1").arg(QString::fromStdString(curves[index].id)));
    connect(remove, &QToolButton::clicked, this, [this, index] { removeCurve(index); });
    line->addWidget(remove);
    list_->addWidget(row.widget);
    rows_.push_back(row);
  }
}

void DrawingEditor::refresh() {
  const std::vector<DrawnCurve>& curves = valueAs<Drawing>().curves;
  bool same = rows_.size() == curves.size();
  for (std::size_t i = 0; same && i < curves.size(); ++i)
    same = rows_[i].curve.kind == curves[i].kind && rows_[i].curve.id == curves[i].id &&
           rows_[i].curve.points == curves[i].points;
  if (!same) buildRows(curves);
  constraints_->show(valueAs<Drawing>());
  // A drawing by numbers alone needs the room for them, and has nothing that constraints could move.
  constraints_->setVisible(!valueAs<Drawing>().points.empty());
  for (std::size_t row = 0; row < rows_.size(); ++row) {
    const CurveKind* kind = findCurveKind(curves[row].kind);
    for (std::size_t i = 0; i < rows_[row].numbers.size(); ++i) {
      const Expression& expression = curves[row].numbers[i];
      ExpressionLine* line = rows_[row].numbers[i];
      if (!(line->expression() == expression)) line->setExpression(expression);
      const NumberWanted wanted{kind->numbers[i].dimension, NumberRule::Any};
      line->setProblem(problemOf(wanted, expression, desk_.session.document(), desk_.session.dimensions()));
    }
  }
}

}  // namespace kervo::app
