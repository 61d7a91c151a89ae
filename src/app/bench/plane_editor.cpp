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
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(0, 0, 0, 0);
  rows->setSpacing(1);
  rows->addWidget(list_);
  rows->addWidget(hint_);
  setFocusProxy(list_);
  connect(list_, &QComboBox::activated, this, [this](int index) {
    if (static_cast<std::size_t>(index) < planes_.size())
      set(planes_[static_cast<std::size_t>(index)]);
    else
      emit armWanted(this);
  });
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
  for (const auto& step : document.made.steps) {
    if (step->id() == desk_.trial.step().id()) break;
    if (step->kind().makes() == Makes::Plane) add(PlanePick::ofStep(step->id()), stepName(desk_, *step));
  }
  if (now.kind >= PlanePick::Kind::OnFace) add(now, planeName(now, desk_));
  list_->addItem(tr("a face …"));
  const auto found = std::find(planes_.begin(), planes_.end(), now);
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
