#include "app/bench/cutters_field.h"

#include <algorithm>

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

QString planeName(const std::string& name) {
  return name == "xy"   ? QObject::tr("xy (ground)")
         : name == "xz" ? QObject::tr("xz (front)")
                        : QObject::tr("yz (side)");
}

}  // namespace

std::optional<CutterPick> cutterPick(const Pick& pick, const Desk& desk) {
  const auto picture = desk.shownPictures.find(pick.body);
  if (picture == desk.shownPictures.end()) return std::nullopt;
  const bool surface = picture->second->shape.kind() == BodyKind::Surface;
  if (pick.kind == Pick::Kind::Body || (pick.kind == Pick::Kind::Face && surface)) return CutterPick::ofBody(pick.body);
  const auto face = faceReference(pick, desk.shownPictures);
  if (!face) return std::nullopt;
  if (picture->second->faces[static_cast<std::size_t>(pick.index)].surfaceName() != "plane")
    return CutterPick::of(*face);
  return CutterPick::of(PlanePick{PlanePick::Kind::OnFace, "", *face});
}

CuttersField::CuttersField(const FieldSpec& field, Desk& desk, QWidget* parent) : PickField(field, desk, parent) {
  bodies_ = new QToolButton;
  bodies_->setText(tr("bodies"));
  bodies_->setCheckable(true);
  bodies_->setFocusPolicy(Qt::StrongFocus);
  bodies_->setToolTip(tr("While this is on, a click takes the whole body as cutter"));
  bodies_->setAccessibleName(tr("%1: pick whole bodies").arg(QString::fromStdString(field.label)));
  addButton(bodies_);
  connect(bodies_, &QToolButton::toggled, this, [this] {
    if (armed_) emit armWanted(this);
    emit armWanted(this);
  });
}

std::optional<PickFilter> CuttersField::filter() const {
  return PickFilter{bodies_->isChecked(), true, false, false};
}

bool CuttersField::isEmpty() const {
  return valueAs<std::vector<CutterPick>>().empty();
}

QString CuttersField::nameOf(const CutterPick& cutter) const {
  const Document& document = desk_.session.document();
  switch (cutter.kind) {
    case CutterPick::Kind::Plane: {
      if (cutter.plane.kind == PlanePick::Kind::Standard) return planeName(cutter.plane.name);
      if (cutter.plane.kind == PlanePick::Kind::OnFace) return faceName(cutter.plane.face.name, document);
      const auto step = document.find(cutter.plane.name);
      return QString::fromStdString(step ? step->name() : cutter.plane.name);
    }
    case CutterPick::Kind::Face:
      return faceName(cutter.face.name, document);
    case CutterPick::Kind::Body:
      return bodyName(desk_, cutter.body);
    case CutterPick::Kind::Drawing: {
      const auto step = document.find(cutter.drawing.drawing);
      return QString::fromStdString(step ? step->name() : cutter.drawing.drawing);
    }
  }
  return {};
}

void CuttersField::refresh() {
  QStringList names;
  for (const CutterPick& cutter : valueAs<std::vector<CutterPick>>()) names << nameOf(cutter);
  showChips(names);
}

QString CuttersField::prompt() const {
  return isEmpty() ? tr("pick a cutter") : tr("+ another");
}

void CuttersField::toggle(const CutterPick& cutter) {
  auto cutters = valueAs<std::vector<CutterPick>>();
  const auto found =
      std::find_if(cutters.begin(), cutters.end(), [&](const CutterPick& each) { return same(each, cutter); });
  if (found == cutters.end())
    cutters.push_back(cutter);
  else
    cutters.erase(found);
  set(cutters);
}

void CuttersField::take(const std::vector<Pick>& picks, bool) {
  for (const Pick& pick : picks)
    if (const auto cutter = cutterPick(pick, desk_)) toggle(*cutter);
}

void CuttersField::remove(int chip) {
  auto cutters = valueAs<std::vector<CutterPick>>();
  cutters.erase(cutters.begin() + chip);
  set(cutters);
  if (!armed_) emit armWanted(this);
}

void CuttersField::fill(QMenu& menu) {
  const auto& chosen = valueAs<std::vector<CutterPick>>();
  const auto add = [&](QMenu* to, const QString& text, const CutterPick& cutter) {
    QAction* action = to->addAction(text);
    action->setCheckable(true);
    action->setChecked(
        std::any_of(chosen.begin(), chosen.end(), [&](const CutterPick& each) { return same(each, cutter); }));
    connect(action, &QAction::triggered, this, [this, cutter] { toggle(cutter); });
  };
  for (const char* plane : {"xy", "xz", "yz"})
    add(&menu, planeName(plane), CutterPick::of(PlanePick{PlanePick::Kind::Standard, plane, {}}));
  menu.addSeparator();
  for (const auto& step : desk_.session.document().steps) {
    if (step->id() == desk_.trial.step().id()) break;
    const QString name = QString::fromStdString(step->name());
    if (step->kind().key() == "plane")
      add(&menu, name, CutterPick::of(PlanePick{PlanePick::Kind::OfStep, step->id(), {}}));
    if (step->kind().key() == "drawing") add(&menu, name, CutterPick::of(RegionPick{step->id(), true, {}}));
  }
  menu.addSeparator();
  for (const Body& body : bodiesBeforeStep(desk_))
    if (body.shape.kind() != BodyKind::Curve)
      add(&menu, QString::fromStdString(body.name), CutterPick::ofBody(body.id));
}

}  // namespace kervo::app
