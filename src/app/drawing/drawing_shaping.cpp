// What is made of curves of the drawing on the Bench: corners, mirrored ones, trims, copies, snapshots.
#include <algorithm>

#include "app/bench/field_editor.h"
#include "app/drawing/drawing_desk.h"
#include "app/texts.h"
#include "base/say.h"
#include "drawing/copies.h"
#include "drawing/crossings.h"
#include "drawing/curve_kind.h"
#include "drawing/drawing_edits.h"
#include "drawing/drawn_from.h"
#include "drawing/features.h"

namespace kervo::app {

std::vector<DrawingDesk::Feature> DrawingDesk::features() const {
  std::vector<Feature> result;
  if (!open() || solution_.points.size() != drawing().points.size()) return result;
  if (selected_.size() == 1 && drawing().point(selected_.front())) {
    try {
      sizeForCorner(moved(drawing(), solution_), selected_.front());
      result = {Feature::RoundCorner, Feature::ChamferCorner};
    } catch (const Error&) {
      // It is no corner: nothing is offered.
    }
  }
  if (selected_.size() > 1) {
    const auto curves = std::count_if(selected_.begin(), selected_.end(),
                                      [&](const std::string& id) { return drawing().curve(id).has_value(); });
    const auto last = drawing().curve(selected_.back());
    if (last && curves == static_cast<std::ptrdiff_t>(selected_.size()) && drawing().curves[*last].kind == "line")
      result.push_back(Feature::Mirror);
  }
  return result;
}

void DrawingDesk::make(Feature feature) {
  if (!open() || selected_.empty()) return;
  try {
    const Drawing here = moved(drawing(), solution_);
    if (feature == Feature::Mirror) {
      const std::vector<std::string> curves(selected_.begin(), selected_.end() - 1);
      return set(withMirrored(here, curves, selected_.back(), values_, solution_), tr("Mirror"));
    }
    const std::string corner = selected_.front();
    const double size = sizeForCorner(here, corner);
    const Expression text = written(size, lengthDimension);
    const bool round = feature == Feature::RoundCorner;
    const Trimmed made =
        round ? withRoundCorner(here, corner, text, size) : withChamferedCorner(here, corner, text, size);
    const std::string dimension = made.drawing.constraints.back().id;
    set(made.drawing, round ? tr("Round the corner") : tr("Chamfer the corner"));
    select({});
    if (round) emit typeWanted(dimension);
  } catch (const Error& error) {
    emit failed(error);
  }
}

Drawing DrawingDesk::cutAll(const std::vector<std::pair<std::string, PlanePoint>>& places,
                            const std::function<Trimmed(const Drawing&, const DrawingValues&, const Solution&,
                                                        const std::string&, PlanePoint)>& cut) const {
  Drawing now = moved(drawing(), solution_);
  for (const auto& [curve, place] : places) {
    bool all = true;
    const DrawingValues values = valuesOf(now, all);
    const Solution there = standing(now);
    // What a cut before left of a curve may be called otherwise.
    std::string id = curve;
    if (const auto near = Snapper(now, values, there).curveAt(place, 1e-3)) id = *near;
    if (!now.curve(id)) continue;
    now = cut(now, values, there, id, place).drawing;
  }
  return now;
}

void DrawingDesk::splitSelected() {
  if (!open()) return;
  std::vector<std::pair<std::string, PlanePoint>> curves;
  const bool all = selected_.empty();
  try {
    for (const PlanarCurve& curve : curvesOf(drawing(), values_, solution_, true))
      if (drawing().curve(curve.id) && (all || isSelected(curve.id))) curves.emplace_back(curve.id, PlanePoint());
    bool any = false;
    Drawing now = moved(drawing(), solution_);
    std::optional<Error> why;
    for (const auto& [curve, place] : curves) {
      bool known = true;
      const DrawingValues values = valuesOf(now, known);
      const Solution there = standing(now);
      try {
        now = split(now, values, there, curve).drawing;
        any = true;
      } catch (const Error& error) {
        why = error;
      }
    }
    if (!any && why && !all) throw *why;
    if (!any) throw errorOf(tr("no curve is met by another one"), {}, tr("Draw one across it"));
    set(now, tr("Split where curves meet"));
  } catch (const Error& error) {
    emit failed(error);
  }
}

void DrawingDesk::trimAt(const std::vector<std::pair<std::string, PlanePoint>>& places) {
  if (!open()) return;
  try {
    if (trim_ == TrimMode::Lengthen)
      set(cutAll(places, lengthened), tr("Lengthen"));
    else
      set(cutAll(places, trimmed), tr("Trim"));
  } catch (const Error& error) {
    emit failed(error);
  }
}

void DrawingDesk::findPieces() {
  std::vector<CurvePiece> found;
  const bool one = open() && selected_.size() == 1 && drawing().curve(selected_.front());
  if (one && solution_.points.size() == drawing().points.size()) try {
      found = piecesOf(drawing(), values_, solution_, selected_.front());
    } catch (const Error&) {
      // One that cannot be cut has none.
    }
  if (found.size() < 2) found.clear();
  if (found.empty() && pieces_.empty()) return;
  if (found != pieces_) litPiece_.reset();
  pieces_ = std::move(found);
  emit piecesChanged();
}

double DrawingDesk::lengthOf(const CurvePiece& piece) const {
  for (const PlanarCurve& curve : curvesOf(drawing(), values_, solution_, true))
    if (curve.id == piece.curve) return lengthBetween(*curve.geometry, piece.from, piece.to);
  return 0;
}

void DrawingDesk::dropPiece(const CurvePiece& piece) {
  for (const PlanarCurve& curve : curvesOf(drawing(), values_, solution_, true)) {
    if (curve.id != piece.curve) continue;
    const double middle = (piece.from + piece.to) / 2;
    const PlanePoint place = curve.geometry->at(middle > 1 ? middle - 1 : middle);
    try {
      set(trimmed(drawing(), values_, solution_, piece.curve, place).drawing, tr("Trim"));
    } catch (const Error& error) {
      emit failed(error);
    }
    return;
  }
}

void DrawingDesk::lightPiece(std::optional<std::size_t> number) {
  if (litPiece_ == number) return;
  litPiece_ = number;
  emit piecesChanged();
}

void DrawingDesk::trimByKey(int key) {
  const auto turn = [&](TrimMode mode) { setTrim(trim_ == mode ? TrimMode::None : mode); };
  if (key == Qt::Key_S) splitSelected();
  if (key == Qt::Key_T) turn(TrimMode::Sweep);
  if (key == Qt::Key_L) turn(TrimMode::Lengthen);
  if (key == Qt::Key_J) emit joinWanted();
}

void DrawingDesk::joinEnds(double gap) {
  if (!open()) return;
  try {
    set(joined(drawing(), values_, solution_, gap).drawing, tr("Join ends"));
  } catch (const Error& error) {
    emit failed(error);
  }
}

void DrawingDesk::removeSelected() {
  if (selected_.empty()) return;
  Drawing changed = drawing();
  const std::vector<std::string> ids = selected_;
  std::vector<TakenAlong> kept = taken();
  for (const std::string& id : ids) {
    if (const TakenAlong* gone = takenOf(id)) {
      const std::string whole = gone->id;
      std::erase_if(kept, [&](const TakenAlong& each) { return each.id == whole; });
      changed = withoutTaken(changed, whole);
      continue;
    }
    // A point goes with the curves through it.
    std::vector<std::string> through;
    if (changed.point(id))
      for (const DrawnCurve& curve : changed.curves)
        if (std::find(curve.points.begin(), curve.points.end(), id) != curve.points.end()) through.push_back(curve.id);
    for (const std::string& curve : through) changed = withoutCurve(changed, curve);
    changed = withoutConstraint(withoutCurve(changed, id), id);
  }
  setBoth(
      changed, kept,
      ids.size() == 1 ? tr("Remove %1").arg(spoken(drawing(), ids.front())) : tr("Remove %1 parts").arg(ids.size()));
}

void DrawingDesk::switchConstruction() {
  Drawing changed = drawing();
  std::vector<TakenAlong> along = taken();
  std::vector<bool*> flags;
  for (const std::string& id : selected_) {
    if (const auto curve = changed.curve(id)) flags.push_back(&changed.curves[*curve].construction);
    for (DrawnCopies& copies : changed.copies)
      if (copies.id == id) flags.push_back(&copies.construction);
    for (TakenAlong& each : along)
      if (const TakenAlong* meant = takenOf(id); meant && meant->id == each.id) flags.push_back(&each.construction);
  }
  const bool all = std::all_of(flags.begin(), flags.end(), [](const bool* flag) { return *flag; });
  for (bool* flag : flags) *flag = !all;
  if (!flags.empty()) setBoth(changed, along, all ? tr("Curves that bound") : tr("Curves for construction"));
}

const std::vector<TakenAlong>& DrawingDesk::taken() const {
  static const std::vector<TakenAlong> none;
  return canTake() ? trial_.step().value(*field_->taken()).as<std::vector<TakenAlong>>() : none;
}

const TakenAlong* DrawingDesk::takenOf(const std::string& id) const {
  const std::string whole = id.substr(0, id.find('.'));
  for (const TakenAlong& each : taken())
    if (each.id == whole) return &each;
  return nullptr;
}

bool DrawingDesk::isTakenOrCopies(const std::string& id) const {
  const auto& copies = drawing().copies;
  return takenOf(id) ||
         std::any_of(copies.begin(), copies.end(), [&](const DrawnCopies& each) { return each.id == id; });
}

QString DrawingDesk::originOf(const TakenAlong& taken) const {
  switch (taken.what) {
    case TakenAlong::What::Edge:
      return tr("edge of %1").arg(bodyNamed(taken.edge.body));
    case TakenAlong::What::Outline: {
      const std::string& name = taken.face.name;
      return tr("outline of %1 of %2")
          .arg(QString::fromStdString(name.substr(name.rfind(':') + 1)), bodyNamed(taken.face.body));
    }
    case TakenAlong::What::Silhouette:
      return tr("silhouette of %1").arg(bodyNamed(taken.body));
    case TakenAlong::What::Section:
      return tr("section of %1").arg(bodyNamed(taken.body));
  }
  return {};
}

QString DrawingDesk::bodyNamed(const BodyId& id) const {
  const ShownAs* look = trial_.result() ? trial_.result()->before->lookOf(id) : nullptr;
  return QString::fromStdString(look && !look->name.empty() ? look->name : id.text());
}

void DrawingDesk::setBoth(const Drawing& drawing, const std::vector<TakenAlong>& taken, const QString& action) {
  if (!open()) return;
  refused_.reset();
  emit refusedChanged();
  std::map<std::string, FieldValue> values{{field_->key(), drawing}};
  if (canTake()) values.emplace(field_->taken()->key(), taken);
  trial_.setFields(values, action);
}

void DrawingDesk::takeAlong(std::vector<TakenAlong> more) {
  if (!canTake() || more.empty()) return;
  std::vector<TakenAlong> all = taken();
  for (TakenAlong& each : more) {
    const auto same = std::find_if(all.begin(), all.end(), [&](const TakenAlong& other) {
      return other.what == each.what && other.edge == each.edge && other.face == each.face && other.body == each.body;
    });
    if (same != all.end()) continue;
    for (int number = 1; each.id.empty(); ++number) {
      const std::string id = "taken" + std::to_string(number);
      const auto has = [&](const TakenAlong& other) { return other.id == id; };
      if (!drawing().point(id) && !drawing().curve(id) && std::none_of(all.begin(), all.end(), has)) each.id = id;
    }
    all.push_back(std::move(each));
  }
  if (all.size() > taken().size()) setBoth(drawing(), all, tr("Take along"));
}

void DrawingDesk::makeSnapshot() {
  if (!canTake() || solution_.points.size() != drawing().points.size()) return;
  try {
    Drawing changed = moved(drawing(), solution_);
    std::vector<TakenAlong> kept = taken();
    std::vector<std::string> whole;
    for (const std::string& id : selected_)
      if (const TakenAlong* each = takenOf(id); each && std::find(whole.begin(), whole.end(), each->id) == whole.end())
        whole.push_back(each->id);
    for (const std::string& id : whole) {
      const TakenAlong along = *takenOf(id);
      std::vector<PlanarCurve> curves;
      for (const TakenCurve& each : takenCurves_)
        if (belongs(each.curve.id, id)) curves.push_back(each.curve);
      DrawnCurve like;
      like.construction = along.construction;
      like.snapshotOf = originOf(along).toStdString();
      changed = withDrawn(withoutTaken(changed, id), curves, tolerance::samePlace, like);
      std::erase_if(kept, [&](const TakenAlong& each) { return each.id == id; });
    }
    if (!whole.empty()) setBoth(changed, kept, tr("Make a snapshot"));
  } catch (const Error& error) {
    emit failed(error);
  }
}

void DrawingDesk::addCopies(const CopyKind& kind) {
  if (!open()) return;
  try {
    std::vector<std::string> of;
    std::string about;
    for (const std::string& id : selected_) {
      const bool last = id == selected_.back() && selected_.size() > 1;
      const bool point = drawing().point(id) || id == originId;
      if ((kind.about() == CopyKind::About::Point && point) || (kind.about() == CopyKind::About::Line && last))
        about = id;
      else if (!point)
        of.push_back(id);
    }
    if (about.empty() && kind.about() == CopyKind::About::Point) about = originId;
    if (about.empty() && kind.about() == CopyKind::About::Line) about = vAxisId;
    const Drawing changed = withCopies(moved(drawing(), solution_), kind.name(), of, about, {}, values_.taken);
    const std::string id = changed.copies.back().id;
    set(changed, QString::fromStdString(say(kind.label())));
    select({id});
    emit numbersWanted(id);
  } catch (const Error& error) {
    emit failed(error);
  }
}

void DrawingDesk::addCurvesOf(const std::vector<std::shared_ptr<const Step>>& drawings, const QString& action) {
  if (!open()) return;
  Drawing changed = drawing();
  std::vector<std::string> added;
  for (const auto& step : drawings)
    for (const Field* field : step->kind().fields())
      if (dynamic_cast<const DrawingField*>(field))
        changed = withAdded(std::move(changed), step->value(*field).as<Drawing>(), added);
  set(changed, action);
  select(added);
}

std::vector<const CopyKind*> DrawingDesk::fittingCopies() const {
  std::vector<const CopyKind*> result;
  const auto isCurve = [&](const std::string& id) { return drawing().curve(id) || isTakenOrCopies(id); };
  const auto curves = std::count_if(selected_.begin(), selected_.end(), isCurve);
  const auto points = std::count_if(selected_.begin(), selected_.end(),
                                    [&](const std::string& id) { return drawing().point(id) || id == originId; });
  if (curves == 0 || curves + points != static_cast<std::ptrdiff_t>(selected_.size())) return result;
  for (const CopyKind* kind : copyKinds())
    if (points == 0 || (points == 1 && kind->about() == CopyKind::About::Point)) result.push_back(kind);
  return result;
}

void DrawingDesk::showRegions(const DrawingResult& made) {
  // Shapes are found once for each result.
  if (regionsOf_ == trial_.result()) return;
  regionsOf_ = trial_.result();
  const std::vector<std::string> before = pickedRegions();
  regions_.clear();
  for (const Region& region : made.regions)
    regions_.push_back({region.name(), region.area(), region.outlines(),
                        std::find(before.begin(), before.end(), region.name()) != before.end()});
}

std::vector<std::string> DrawingDesk::pickedRegions() const {
  std::vector<std::string> names;
  for (const RegionShape& region : regions_)
    if (region.taken) names.push_back(region.name);
  return names;
}

void DrawingDesk::pickRegions(const std::vector<std::string>& names) {
  const auto meant = [&](const RegionShape& region) {
    return std::find(names.begin(), names.end(), region.name) != names.end();
  };
  const bool all = std::all_of(regions_.begin(), regions_.end(),
                               [&](const RegionShape& region) { return !meant(region) || region.taken; });
  for (RegionShape& region : regions_)
    if (meant(region)) region.taken = !all;
  emit changed();
}

QString DrawingDesk::describeRegion(const std::string& name) const {
  for (std::size_t i = 0; i < regions_.size(); ++i)
    if (regions_[i].name == name)
      return tr("region %1 · %2 · click: %3")
          .arg(i + 1)
          .arg(areaText(regions_[i].area), regions_[i].taken ? tr("do not cut with it") : tr("cut with it"));
  return {};
}

}  // namespace kervo::app
