#include "app/bench/plane_editor.h"

#include <QVBoxLayout>

#include "app/look.h"
#include "app/selected.h"
#include "app/texts.h"

namespace kervo::app {

QString standardPlaneName(const std::string& name) {
  return name == "xy"   ? QObject::tr("xy (ground)")
         : name == "xz" ? QObject::tr("xz (front)")
                        : QObject::tr("yz (side)");
}

QString planeName(const PlanePick& plane, const Desk& desk) {
  switch (plane.kind) {
    case PlanePick::Kind::Standard:
      return standardPlaneName(plane.name);
    case PlanePick::Kind::OfStep: {
      const auto step = desk.session.document().find(plane.name);
      return step ? stepName(desk, *step) : QString::fromStdString(plane.name);
    }
    case PlanePick::Kind::OnFace:
      return faceName(desk, plane.face);
    case PlanePick::Kind::Midway:
      return QObject::tr("midway %1 | %2").arg(faceName(desk, plane.face), faceName(desk, plane.other));
    case PlanePick::Kind::Tangent:
      return QObject::tr("tangent to %1").arg(faceName(desk, plane.face));
    case PlanePick::Kind::Points:
      return QObject::tr("through %1 corners").arg(plane.points.size());
    case PlanePick::Kind::AtHeight: {
      const std::string& height = plane.height.front().text();
      for (const Level& level : desk.session.document().made.levels)
        if (heightOfLevel(level.name) == height) return QObject::tr("level %1").arg(QString::fromStdString(level.name));
      return QObject::tr("height %1").arg(QString::fromStdString(height));
    }
    case PlanePick::Kind::Across:
      break;
  }
  if (plane.edge.empty()) return QObject::tr("across %1").arg(faceName(desk, plane.face));
  return QObject::tr("across %1").arg(edgeName(desk, plane.edge.front()));
}

PlaneEditor::PlaneEditor(const Field& field, Desk& desk, QWidget* parent) : FieldEditor(field, desk, parent) {
  list_ = new QComboBox;
  list_->setAccessibleName(kindText(field.label()));
  list_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  list_->setMinimumContentsLength(6);
  hint_ = new QLabel;
  hint_->setObjectName("dim");
  hint_->setFont(fontOf(-1));
  height_ = new ExpressionLine(tr("Height above the ground plane"));
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(0, 0, 0, 0);
  rows->setSpacing(1);
  rows->addWidget(list_);
  rows->addWidget(height_);
  rows->addWidget(hint_);
  setFocusProxy(list_);
  connect(list_, &QComboBox::activated, this, [this](int index) {
    const auto number = static_cast<std::size_t>(index);
    typing_ = number == planes_.size();
    if (number < planes_.size()) {
      set(planes_[number]);
      return refresh();
    }
    if (!typing_) return emit armWanted(this);
    const std::vector<Expression> known = valueAs<PlanePick>().height;
    set(PlanePick::atHeight(known.empty() ? Expression("0 " + desk_.session.document().made.unit) : known.front()));
    refresh();
    height_->line()->setFocus();
    height_->line()->selectAll();
  });
  connect(height_, &ExpressionLine::edited, this, [this] { set(PlanePick::atHeight(height_->expression())); });
  PlaneEditor::setArmed(false);
}

void PlaneEditor::setArmed(bool armed) {
  FieldEditor::setArmed(armed);
  hint_->setText(tr("▸ pick a plane or a face …"));
  hint_->setVisible(armed);
}

void PlaneEditor::refresh() {
  const auto& now = valueAs<PlanePick>();
  planes_.clear();
  list_->clear();
  const auto add = [&](const PlanePick& pick, const QString& text) {
    planes_.push_back(pick);
    list_->addItem(text);
  };
  for (const char* plane : {"xy", "xz", "yz"}) add(PlanePick::standard(plane), standardPlaneName(plane));
  const Document& document = desk_.session.document();
  for (const Level& level : document.made.levels)
    add(PlanePick::atHeight(Expression(heightOfLevel(level.name))),
        tr("level %1").arg(QString::fromStdString(level.name)));
  for (const auto& step : document.made.steps) {
    if (step->id() == desk_.trial.step().id()) break;
    if (step->kind().makes() == Makes::Plane) add(PlanePick::ofStep(step->id()), stepName(desk_, *step));
  }
  auto found = std::find(planes_.begin(), planes_.end(), now);
  const bool known = found != planes_.end();
  if (now.kind >= PlanePick::Kind::OnFace && !known) {
    add(now, planeName(now, desk_));
    found = planes_.end() - 1;
  }
  list_->addItem(tr("a height …"));
  list_->addItem(tr("a face …"));
  height_->setVisible(!now.height.empty() && (typing_ || !known));
  if (!now.height.empty()) {
    if (!(height_->expression() == now.height.front())) height_->setExpression(now.height.front());
    height_->setValueText(valueHint(NumberWanted{}, now.height.front(), desk_));
    height_->setProblem(
        problemOf(NumberWanted{}, now.height.front(), desk_.session.document(), desk_.session.dimensions()));
  }
  list_->setCurrentIndex(found == planes_.end() ? -1 : static_cast<int>(found - planes_.begin()));
}

void PlaneEditor::take(const std::vector<Pick>& picks, bool) {
  for (const Pick& pick : picks) {
    const Picked part = picked(pick, desk_);
    const auto plane = part.asPlaneToDrawOn();
    if (!plane) continue;
    set(*plane);
    emit filled(this);
    return;
  }
}

}  // namespace kervo::app
