#include "app/bench/drawing_editor.h"

#include <QGridLayout>
#include <QHBoxLayout>
#include <QStyle>
#include <cmath>

#include "app/drawing/constrain_card.h"
#include "app/drawing/regions_card.h"
#include "app/icons.h"
#include "app/look.h"
#include "app/selected.h"
#include "base/say.h"
#include "drawing/drawing_edits.h"

namespace kervo::app {

DrawingEditor::DrawingEditor(const DrawingField& field, Desk& desk, QWidget* parent)
    : FieldEditor(field, desk, parent), drawing_(field) {
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(0, 0, 0, 0);
  all->setSpacing(4);
  auto* palette = new QGridLayout;
  palette->setSpacing(3);
  constexpr int columns = 6;
  int count = 0;
  for (const StrokeKind& kind : strokeKinds()) {
    auto* tool = new QToolButton;
    tool->setObjectName("segment");
    tool->setCheckable(true);
    tool->setFocusPolicy(Qt::StrongFocus);
    tool->setIcon(icon(kind.name));
    const QString label = QString::fromStdString(say(kind.label));
    tool->setText(QString::fromStdString(say(kind.brief)));
    tool->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
    tool->setAccessibleName(tr("Draw: %1").arg(label));
    tool->setToolTip(kind.more ? tr("%1: click its points in the view, double-click the last").arg(label)
                               : tr("%1: click or drag in the view, or type numbers there").arg(label));
    tool->setProperty("stroke", QString(kind.name));
    tool->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    tool->setMinimumWidth(QFontMetrics(fontOf()).horizontalAdvance("rectangle") + 34);
    connect(tool, &QToolButton::clicked, this, [this, &kind] {
      desk_.drawing.draw(desk_.drawing.kind() == &kind ? nullptr : &kind);
      if (desk_.drawing.kind()) emit viewWanted();
    });
    palette->addWidget(tool, count / columns, count % columns);
    strokes_.push_back(tool);
    ++count;
  }
  for (int column = 0; column < columns; ++column) palette->setColumnStretch(column, 1);
  all->addLayout(palette);
  auto* below = new QHBoxLayout;
  below->setSpacing(3);
  auto* gridLabel = new QLabel(tr("grid"));
  grid_ = new QLineEdit;
  grid_->setAccessibleName(tr("Grid of the drawing"));
  grid_->setToolTip(tr("From line to line; empty for none"));
  grid_->setFixedWidth(QFontMetrics(fontOf()).horizontalAdvance("10.5 mm") + 16);
  connect(grid_, &QLineEdit::editingFinished, this, &DrawingEditor::setGrid);
  auto* sidesLabel = new QLabel(tr("sides"));
  sides_ = new QSpinBox;
  sides_->setAccessibleName(tr("Sides of a polygon"));
  sides_->setRange(3, 100);
  sides_->setButtonSymbols(QAbstractSpinBox::NoButtons);
  connect(sides_, &QSpinBox::valueChanged, this, [this](int sides) { desk_.drawing.setSides(sides); });
  below->addWidget(gridLabel);
  below->addWidget(grid_);
  below->addSpacing(6);
  below->addWidget(sidesLabel);
  below->addWidget(sides_);
  below->addStretch();
  auto* numbers = new QLabel(tr("by numbers"));
  numbers->setObjectName("dim");
  below->addWidget(numbers);
  for (const CurveKind* kind : curveKinds()) {
    if (kind->numbers.empty()) continue;
    auto* tool = new QToolButton;
    tool->setObjectName("segment");
    tool->setFocusPolicy(Qt::StrongFocus);
    tool->setIcon(icon(kind->name));
    tool->setAccessibleName(tr("Add a %1").arg(kind->name));
    tool->setToolTip(tr("Add a %1 and type its numbers, each of them an expression").arg(kind->name));
    connect(tool, &QToolButton::clicked, this, [this, kind] { addCurve(*kind); });
    below->addWidget(tool);
  }
  all->addLayout(below);
  connect(&desk_.drawing, &DrawingDesk::toolChanged, this, &DrawingEditor::showTool);
  showTool();
}

std::vector<WellCard*> DrawingEditor::cards() {
  return {new ConstrainCard(desk_), new RegionsCard(desk_)};
}

void DrawingEditor::refresh() {
  // Curves and constraints stand in their panels.
}

void DrawingEditor::showTool() {
  const StrokeKind* kind = desk_.drawing.kind();
  for (QToolButton* tool : strokes_) tool->setChecked(kind && tool->property("stroke").toString() == kind->name);
  if (sides_->value() != desk_.drawing.sides()) sides_->setValue(desk_.drawing.sides());
  const auto grid = desk_.drawing.grid();
  const QString text = grid ? lengthText(*grid, desk_.session.document().made.unit) : QString();
  if (!grid_->hasFocus()) grid_->setText(text);
}

void DrawingEditor::setGrid() {
  const QString text = grid_->text().trimmed();
  if (text.isEmpty()) return desk_.drawing.setGrid({});
  const auto value = desk_.drawing.valueOf(Expression(text.toStdString()), lengthDimension);
  const bool good = value && *value > 1e-3 && *value < 1e6;
  grid_->setProperty("bad", !good);
  grid_->style()->polish(grid_);
  if (good) desk_.drawing.setGrid(*value);
}

void DrawingEditor::addCurve(const CurveKind& kind) {
  PlanePoint middle;
  const auto& tried = desk_.trial.result();
  if (const DrawingResult* made = tried ? tried->report().drawing() : nullptr) {
    const auto& pick = desk_.trial.step().value(drawing_.plane()).as<PlanePick>();
    if (pick.kind == PlanePick::Kind::OnFace)
      middle = middleOf(pick.face, tried->picturesBefore, made->plane).value_or(middle);
  }
  Drawing drawing = valueAs<Drawing>();
  DrawnCurve curve{freeId(drawing, std::string(1, kind.name[0])), kind.name, {}};
  const std::vector<double> numbers = kind.about(middle);
  for (std::size_t i = 0; i < numbers.size(); ++i)
    curve.numbers.push_back(written(numbers[i], kind.numbers[i].dimension));
  drawing.curves.push_back(std::move(curve));
  desk_.drawing.set(drawing, tr("Add a %1").arg(kind.name));
  emit numbersWanted();
}

}  // namespace kervo::app
