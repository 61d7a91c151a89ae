#include "app/drawing/drawing_desk.h"

#include <QElapsedTimer>
#include <algorithm>

#include "app/bench/field_editor.h"
#include "app/selection.h"
#include "app/texts.h"
#include "base/say.h"
#include "drawing/constraint_kind.h"
#include "drawing/copies.h"
#include "drawing/crossings.h"
#include "drawing/curve_kind.h"
#include "drawing/drawing_edits.h"

namespace kervo::app {

Solution standing(const Drawing& drawing) {
  Solution there;
  for (const DrawnPoint& point : drawing.points) there.points.push_back(point.last);
  for (const DrawnCurve& curve : drawing.curves) there.sizes.push_back(curve.sizes);
  return there;
}

namespace {

bool sameCurves(const std::vector<TakenCurve>& a, const std::vector<TakenCurve>& b) {
  return std::equal(a.begin(), a.end(), b.begin(), b.end(), [](const TakenCurve& one, const TakenCurve& other) {
    return one.curve.id == other.curve.id && one.curve.geometry == other.curve.geometry &&
           one.construction == other.construction;
  });
}

/// Of a drawing that fails from the start: the plane of the face that it is on, if it is on one.
std::optional<Plane> planeOnFace(const PlanePick& pick, const Tried& tried) {
  if (pick.kind != PlanePick::Kind::OnFace) return std::nullopt;
  // A file may name a face without its body.
  for (const auto& [body, picture] : tried.picturesBefore)
    if (pick.face.body.empty() || body == pick.face.body)
      for (const Face& face : picture->faces)
        if (face.origins().front() == pick.face.name) return face.plane();
  return std::nullopt;
}

}  // namespace

DrawingDesk::DrawingDesk(Session& session, Trial& trial) : session_(session), trial_(trial) {
  for (const auto signal : {&Trial::opened, &Trial::closed, &Trial::edited, &Trial::tried})
    connect(&trial_, signal, this, &DrawingDesk::take);
}

void DrawingDesk::take() {
  const DrawingField* field = nullptr;
  if (trial_.active())
    for (const Field* each : trial_.step().kind().fields())
      if (const auto* drawing = dynamic_cast<const DrawingField*>(each)) field = drawing;
  const StepId step = field ? trial_.step().id() : StepId();
  if (field != field_ || step != step_) {
    field_ = field;
    step_ = step;
    plane_.reset();
    selected_.clear();
    refused_.reset();
    takenCurves_.clear();
    regions_.clear();
    regionsOf_.reset();
    kind_ = nullptr;
    trim_ = TrimMode::None;
    solvedOf_ = {};
    values_ = {};
    solution_ = {};
    solved_ = true;
    emit toolChanged();
    emit selectionChanged();
    emit refusedChanged();
  }
  if (!open()) {
    findPieces();
    return emit changed();
  }
  if (const auto& result = trial_.result())
    if (const DrawingResult* made = result->report().drawing()) {
      plane_ = made->plane;
      takenCurves_ = made->values.taken;
      showRegions(*made);
    }
  if (field_ && !plane_ && trial_.result())
    plane_ = planeOnFace(trial_.step().value(field_->plane()).as<PlanePick>(), *trial_.result());
  solveIt();
  const auto gone = [&](const std::string& id) {
    const Drawing& now = drawing();
    return !now.point(id) && !now.curve(id) && !isTakenOrCopies(id) && id != originId && id != uAxisId &&
           id != vAxisId &&
           std::none_of(now.constraints.begin(), now.constraints.end(),
                        [&](const DrawnConstraint& each) { return each.id == id; });
  };
  if (std::erase_if(selected_, gone) > 0) emit selectionChanged();
  emit changed();
  findPieces();
}

const Drawing& DrawingDesk::drawing() const {
  static const Drawing none;
  return open() ? trial_.step().value(*field_).as<Drawing>() : none;
}

std::optional<double> DrawingDesk::valueOf(const Expression& expression, Dimensionality dimension) const {
  return app::valueOf({dimension, NumberRule::Any}, expression, session_.document(), session_.dimensions());
}

DrawingValues DrawingDesk::valuesOf(const Drawing& drawing, bool& all) const {
  DrawingValues values;
  const auto value = [&](const Expression& expression, Dimensionality dimension) {
    const auto found = valueOf(expression, dimension);
    all = all && found;
    return found.value_or(0);
  };
  for (const DrawnCurve& curve : drawing.curves) {
    const CurveKind* kind = findCurveKind(curve.kind);
    values.numbers.emplace_back();
    for (std::size_t i = 0; kind && i < curve.numbers.size(); ++i)
      values.numbers.back().push_back(value(curve.numbers[i], kind->numbersOf(curve).at(i).dimension));
  }
  for (const DrawnConstraint& constraint : drawing.constraints) {
    const ConstraintKind* kind = findConstraintKind(constraint.kind);
    values.constraints.push_back(constraint.value && kind ? value(*constraint.value, kind->measures) : 0);
  }
  for (const DrawnCopies& copies : drawing.copies) {
    const CopyKind* kind = findCopyKind(copies.kind);
    values.copies.emplace_back();
    for (std::size_t i = 0; kind && i < copies.numbers.size(); ++i)
      values.copies.back().push_back(value(copies.numbers[i], kind->numbers().at(i).dimension));
  }
  values.taken = takenCurves_;
  return values;
}

void DrawingDesk::solveIt() {
  bool all = true;
  const DrawingValues values = valuesOf(drawing(), all);
  if (drawing() == solvedOf_ && values.numbers == values_.numbers && values.constraints == values_.constraints &&
      values.copies == values_.copies && sameCurves(values.taken, values_.taken))
    return;
  QElapsedTimer clock;
  clock.start();
  solvedOf_ = drawing();
  values_ = values;
  solved_ = false;
  Solution found;
  try {
    requireSound(solvedOf_, values_.taken);
    if (all) {
      found = solve(solvedOf_, values_);
      solved_ = true;
    }
  } catch (const Error&) {
    // The trial says what is wrong; here everything stays where it was last.
  }
  if (!solved_) {
    found = standing(solvedOf_);
    found.directions.resize(found.points.size());
    found.settled.resize(solvedOf_.curves.size());
    found.measured.resize(solvedOf_.constraints.size());
  }
  solution_ = std::move(found);
  milliseconds_ = static_cast<double>(clock.nsecsElapsed()) / 1e6;
}

std::optional<EditedDrawing> DrawingDesk::edited() const {
  if (!open() || !plane_) return std::nullopt;
  return EditedDrawing{*plane_, drawing(), values_, solution_, selected_, regions_};
}

void DrawingDesk::draw(const StrokeKind* kind) {
  kind_ = kind;
  trim_ = TrimMode::None;
  emit toolChanged();
}

void DrawingDesk::setTrim(TrimMode mode) {
  trim_ = mode;
  kind_ = nullptr;
  emit toolChanged();
}

void DrawingDesk::setSides(int sides) {
  sides_ = sides;
  emit toolChanged();
}

void DrawingDesk::setGrid(std::optional<double> grid) {
  grid_ = grid;
  emit toolChanged();
}

void DrawingDesk::select(std::vector<std::string> ids) {
  if (ids == selected_) return;
  selected_ = std::move(ids);
  emit selectionChanged();
  findPieces();
}

bool DrawingDesk::isSelected(const std::string& id) const {
  return std::find(selected_.begin(), selected_.end(), id) != selected_.end();
}

void DrawingDesk::set(const Drawing& drawing, const QString& action, const std::string& value) {
  if (!open()) return;
  refused_.reset();
  emit refusedChanged();
  trial_.setField(field_->key(), drawing, action, value);
}

void DrawingDesk::addStroke(const Stroke& stroke) {
  if (!open() || !kind_) return;
  const Drawing drawn = withStroke(drawing(), solution_, kind_->name, stroke);
  const bool text = drawn.curves.size() > drawing().curves.size() && drawn.curves.back().kind == "text";
  set(drawn, tr("Draw: %1").arg(QString::fromStdString(say(kind_->label))));
  if (!text) return;
  // What it says is typed next.
  draw(nullptr);
  select({drawing().curves.back().id});
  emit numbersWanted(drawing().curves.back().id);
}

std::vector<const ConstraintKind*> DrawingDesk::fitting() const {
  std::vector<const ConstraintKind*> result;
  if (selected_.empty()) return result;
  std::vector<Element> elements;
  try {
    const DrawingIds ids(drawing(), values_.taken);
    for (const std::string& id : selected_) elements.push_back(ids.element(id));
  } catch (const Error&) {
    return result;  // something among it that no constraint can hold
  }
  for (const ConstraintKind& kind : constraintKinds())
    if (kind.fits(elements)) result.push_back(&kind);
  return result;
}

std::optional<std::string> DrawingDesk::constrain(const ConstraintKind& kind, const std::vector<std::string>& on) {
  if (!open()) return std::nullopt;
  const Drawing here = solution_.points.size() == drawing().points.size() ? moved(drawing(), solution_) : drawing();
  std::optional<Expression> value;
  if (kind.dimension) value = Expression("0");
  Drawing asked = withConstraint(here, kind.name, on, value, values_.taken);
  if (kind.dimension) {
    if (!solved_) throw errorOf(tr("the drawing has an expression without a value"), {}, tr("Correct it first"));
    value = written(measuredNow(asked, values_, asked.constraints.back()), kind.measures);
    asked.constraints.back().value = value;
  }
  std::string id = asked.constraints.back().id;
  bool all = true;
  const DrawingValues values = valuesOf(asked, all);
  if (all && solution_.holds()) {
    const Solution found = solve(asked, values);
    if (!found.holds()) {
      Conflict conflict = found.conflicts.front();
      // Named from the one that is asked for, whichever was found to be too much.
      for (std::string& with : conflict.with)
        if (with == id) with = std::exchange(conflict.constraint, id);
      refused_ = Refused{kind.name, on, value, conflict};
      emit refusedChanged();
      return std::nullopt;
    }
  }
  set(asked, tr("Constrain: %1").arg(QString::fromStdString(say(kind.label))));
  return id;
}

void DrawingDesk::insist() {
  if (!refused_) return;
  const Refused refused = *refused_;
  Drawing changed = drawing();
  for (const std::string& id : refused.conflict.with) changed = withoutConstraint(changed, id);
  changed = withConstraint(changed, refused.kind, refused.on, refused.value, values_.taken);
  set(changed, tr("Constrain: %1").arg(QString::fromStdString(say(findConstraintKind(refused.kind)->label))));
}

void DrawingDesk::leaveAsItWas() {
  refused_.reset();
  emit refusedChanged();
}

void DrawingDesk::remove(const std::string& id) {
  set(withoutConstraint(withoutCurve(drawing(), id), id), tr("Remove %1").arg(spoken(drawing(), id)));
}

void DrawingDesk::join(const std::string& gone, const std::string& stays) {
  if (!open()) return;
  const Drawing here = solution_.points.size() == drawing().points.size() ? moved(drawing(), solution_) : drawing();
  set(withJoined(here, gone, stays), tr("Join %1 and %2").arg(spoken(drawing(), gone), spoken(drawing(), stays)));
}

QString DrawingDesk::describe(const std::string& id) const {
  const Drawing& here = drawing();
  const std::string& unit = session_.document().made.unit;
  for (std::size_t i = 0; i < here.constraints.size(); ++i) {
    const DrawnConstraint& constraint = here.constraints[i];
    if (constraint.id != id) continue;
    QString words = inWords(here, constraint);
    if (constraint.value) words += tr(" · double-click types it");
    return words;
  }
  QStringList words{spoken(here, id)};
  if (const auto point = here.point(id); point && *point < solution_.points.size()) {
    const PlanePoint at = solution_.points[*point];
    words << tr("u %1, v %2").arg(lengthText(at.u, unit), lengthText(at.v, unit));
    const auto& ways = solution_.directions.at(*point);
    words << (ways.empty() ? tr("settled") : ways.size() == 1 ? tr("moves one way") : tr("free"));
    return words.join(" · ");
  }
  if (const TakenAlong* taken = takenOf(id)) words << originOf(*taken) << tr("linked");
  for (const DrawnCopies& copies : here.copies)
    if (copies.id == id) words << tr("of %1").arg(spokenList(here, copies.of));
  const auto curve = here.curve(id);
  if (curve && !here.curves[*curve].snapshotOf.empty())
    words << tr("snapshot of %1").arg(QString::fromStdString(here.curves[*curve].snapshotOf));
  if (!curve && !takenOf(id)) return words.join(" · ");
  try {
    for (const PlanarCurve& each : curvesOf(here, values_, solution_, true))
      if (each.id == id) {
        const auto carrier = each.geometry->carrier();
        if (carrier && carrier->radius > 0)
          words << tr("⌀ %1").arg(lengthText(2 * carrier->radius, unit));
        else
          words << lengthText(lengthBetween(*each.geometry, 0, 1), unit);
      }
  } catch (const Error&) {
    words << tr("no curve at present");
  }
  if (!curve) return words.join(" · ");
  const bool settled = here.curves[*curve].points.empty() || solution_.settled.at(*curve);
  words << (settled ? tr("settled") : tr("free"));
  return words.join(" · ");
}

bool DrawingDesk::stepBack() {
  if (!open()) return false;
  if (refused_) {
    leaveAsItWas();
    return true;
  }
  if (kind_ || trim_ != TrimMode::None) {
    draw(nullptr);
    return true;
  }
  if (!selected_.empty()) {
    select({});
    return true;
  }
  return false;
}

}  // namespace kervo::app
