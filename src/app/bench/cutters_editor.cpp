#include "app/bench/cutters_editor.h"

#include <algorithm>
#include <utility>

#include "app/bench/plane_editor.h"
#include "app/selected.h"
#include "app/texts.h"

namespace kervo::app {

namespace {

/// Picked again, a cutter is the same cutter although its stored sample differs.
bool same(const CutterPick& a, const CutterPick& b) {
  const auto sameFace = [](const FaceReference& x, const FaceReference& y) {
    return x.body == y.body && x.name == y.name;
  };
  if (a.kind != b.kind) return false;
  switch (a.kind) {
    case CutterPick::Kind::Plane:
      if (a.plane.kind > PlanePick::Kind::OnFace) return a.plane == b.plane;
      return a.plane.kind == b.plane.kind && a.plane.name == b.plane.name && sameFace(a.plane.face, b.plane.face);
    case CutterPick::Kind::Face:
      return sameFace(a.face, b.face);
    case CutterPick::Kind::Body:
      return a.body == b.body;
    case CutterPick::Kind::Drawing:
      return a.drawing.drawing == b.drawing.drawing;
  }
  return false;
}

}  // namespace

CuttersEditor::CuttersEditor(const CuttersField& field, Desk& desk, QWidget* parent)
    : PickEditor(field, desk, parent), curvesToo_(field.takesCurves()) {
  bodies_ = new QToolButton;
  bodies_->setText(tr("bodies"));
  bodies_->setCheckable(true);
  bodies_->setFocusPolicy(Qt::StrongFocus);
  bodies_->setToolTip(tr("While this is on, a click takes the whole body as cutter"));
  bodies_->setAccessibleName(tr("%1: pick whole bodies").arg(kindText(field.label())));
  addButton(bodies_);
  connect(bodies_, &QToolButton::toggled, this, [this] {
    built_ = {};
    rearm();
  });
}

void CuttersEditor::rearm() {
  rearming_ = true;
  if (armed_) emit armWanted(this);
  emit armWanted(this);
  rearming_ = false;
}

void CuttersEditor::setArmed(bool armed) {
  // Left by Esc or for another field, a plane half built is forgotten.
  if (!armed && !rearming_) built_ = {};
  PickEditor::setArmed(armed);
}

void CuttersEditor::build(PlanePick::Kind kind) {
  built_ = {};
  built_.kind = kind;
  built_.name.clear();
  rearm();
}

std::optional<PickFilter> CuttersEditor::filter() const {
  switch (built_.kind) {
    case PlanePick::Kind::Midway:
      return PickFilter{false, true, false, false, false};
    case PlanePick::Kind::Points:
      return PickFilter{false, false, false, true};
    case PlanePick::Kind::Across:
      return PickFilter{false, true, true, false, false};
    default:
      return PickFilter{bodies_->isChecked(), true, false, false};
  }
}

QString CuttersEditor::picking() const {
  switch (built_.kind) {
    case PlanePick::Kind::Midway:
      return built_.face.empty() ? tr("▸ first face …") : tr("▸ second face …");
    case PlanePick::Kind::Points:
      return tr("▸ corner %1 of 3 …").arg(built_.points.size() + 1);
    case PlanePick::Kind::Across:
      return tr("▸ edge or face …");
    default:
      return PickEditor::picking();
  }
}

void CuttersEditor::addPart(const Pick& pick) {
  const auto face = faceReference(pick, desk_.shownPictures);
  bool done = false;
  if (built_.kind == PlanePick::Kind::Points) {
    const auto point = pickedPoint(pick, desk_);
    if (!point || std::find(built_.points.begin(), built_.points.end(), *point) != built_.points.end()) return;
    built_.points.push_back(*point);
    done = built_.points.size() == 3;
  } else if (built_.kind == PlanePick::Kind::Across) {
    if (const auto edge = edgeReference(pick, desk_.shownPictures))
      built_.edge = {*edge};
    else if (face)
      built_.face = *face;
    else
      return;
    done = true;
  } else if (face && built_.face.empty()) {
    built_.face = *face;
  } else if (face && !(*face == built_.face)) {
    built_.other = *face;
    done = true;
  }
  if (!done) return rearm();
  const PlanePick plane = std::exchange(built_, {});
  toggle(CutterPick::of(plane));
  // What it does is to be seen now.
  if (armed_) emit armWanted(this);
}

bool CuttersEditor::isEmpty() const {
  return valueAs<std::vector<CutterPick>>().empty();
}

QString CuttersEditor::nameOf(const CutterPick& cutter) const {
  const Document& document = desk_.session.document();
  switch (cutter.kind) {
    case CutterPick::Kind::Plane:
      return planeName(cutter.plane, desk_);
    case CutterPick::Kind::Face:
      return faceName(desk_, cutter.face);
    case CutterPick::Kind::Body:
      return bodyName(desk_, cutter.body);
    case CutterPick::Kind::Drawing: {
      const auto step = document.find(cutter.drawing.drawing);
      return step ? stepName(desk_, *step) : QString::fromStdString(cutter.drawing.drawing);
    }
  }
  return {};
}

void CuttersEditor::refresh() {
  QStringList names;
  for (const CutterPick& cutter : valueAs<std::vector<CutterPick>>()) names << nameOf(cutter);
  showChips(names);
}

QString CuttersEditor::prompt() const {
  return isEmpty() ? tr("pick a cutter") : tr("+ another");
}

void CuttersEditor::toggle(const CutterPick& cutter) {
  auto cutters = valueAs<std::vector<CutterPick>>();
  const auto found =
      std::find_if(cutters.begin(), cutters.end(), [&](const CutterPick& each) { return same(each, cutter); });
  if (found == cutters.end())
    cutters.push_back(cutter);
  else
    cutters.erase(found);
  set(cutters);
}

void CuttersEditor::take(const std::vector<Pick>& picks, bool) {
  for (const Pick& pick : picks)
    if (built_.kind != PlanePick::Kind::Standard)
      addPart(pick);
    else if (const auto cutter = picked(pick, desk_).cutter())
      toggle(*cutter);
}

void CuttersEditor::remove(int chip) {
  auto cutters = valueAs<std::vector<CutterPick>>();
  cutters.erase(cutters.begin() + chip);
  // How the last plane was moved and turned says nothing about the next one.
  for (const Field* field : desk_.trial.step().kind().fields())
    if (cutters.empty() && field->when().other == &field_) desk_.trial.setField(field->key(), field->standard());
  set(cutters);
  if (!armed_) emit armWanted(this);
}

void CuttersEditor::fill(QMenu& menu) {
  const auto& chosen = valueAs<std::vector<CutterPick>>();
  const auto add = [&](QMenu* to, const QString& text, const CutterPick& cutter) {
    QAction* action = to->addAction(text);
    action->setCheckable(true);
    action->setChecked(
        std::any_of(chosen.begin(), chosen.end(), [&](const CutterPick& each) { return same(each, cutter); }));
    connect(action, &QAction::triggered, this, [this, cutter] { toggle(cutter); });
  };
  for (const char* plane : {"xy", "xz", "yz"})
    add(&menu, standardPlaneName(plane), CutterPick::of(PlanePick::standard(plane)));
  QMenu* built = menu.addMenu(tr("Build a plane"));
  const auto offer = [&](const QString& text, PlanePick::Kind kind) {
    built->addAction(text, this, [this, kind] { build(kind); });
  };
  offer(tr("Midway between two faces …"), PlanePick::Kind::Midway);
  offer(tr("Through three corners …"), PlanePick::Kind::Points);
  offer(tr("Across an edge or a round face …"), PlanePick::Kind::Across);
  menu.addSeparator();
  for (const auto& step : desk_.session.document().made.steps) {
    if (step->id() == desk_.trial.step().id()) break;
    const QString name = stepName(desk_, *step);
    if (step->kind().makes() == Makes::Plane) add(&menu, name, CutterPick::of(PlanePick::ofStep(step->id())));
    if (step->kind().makes() == Makes::Drawing) add(&menu, name, CutterPick::of(RegionPick{step->id()}));
  }
  menu.addSeparator();
  for (const Body& body : bodiesBeforeStep(desk_))
    if (body.form.kind() != BodyKind::Curve || curvesToo_)
      add(&menu, QString::fromStdString(body.name), CutterPick::ofBody(body.id));
}

}  // namespace kervo::app
