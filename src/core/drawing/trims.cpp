#include "drawing/trims.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <optional>
#include <set>

#include "base/error.h"
#include "base/say.h"
#include "drawing/constraint_kind.h"
#include "drawing/crossings.h"
#include "drawing/curve_kind.h"
#include "drawing/drawing_edits.h"
#include "drawing/drawing_result.h"
#include "drawing/loose_ends.h"

namespace kervo {

namespace {

/// Places nearer than this are one, mm: a thousand times what crossings are found to.
constexpr double samePlace = 1e-6;

/// A place on the curve at which another one meets it.
struct Cut {
  double at;
  PlanePoint place;
  std::string point;            ///< that is there already; empty: a new one
  std::vector<std::string> on;  ///< the curves that meet it there
};

class Cutting {
 public:
  Cutting(const Drawing& drawing, const DrawingValues& values, const Solution& solution, const std::string& id)
      : result_{moved(drawing, solution)}, id_(id), where_(say("curve \"%1\"", id)), taken_(values.taken) {
    const auto index = drawing.curve(id);
    if (!index) throw Error(say("the drawing has no curve \"%1\"", id), "", say("Choose another one"));
    drawn_ = drawing.curves[*index];
    if (drawn_.points.empty())
      throw Error(say("a curve that is given by numbers cannot be cut by others"), where_,
                  say("Draw it with the mouse instead, or change its numbers"));
    if (drawn_.kind == "text")
      throw Error(say("a text cannot be cut by other curves"), where_, say("Cut with its regions instead"));
    for (PlanarCurve& each : curvesOf(drawing, values, solution, true))
      if (each.id == id)
        curve_ = each.geometry;
      else
        others_.push_back(std::move(each));
  }

  const PlaneCurve& curve() const { return *curve_; }

  std::vector<Cut> cuts() const {
    std::vector<Cut> found;
    for (const PlanarCurve& other : others_)
      for (const Crossing& each : crossings(*curve_, *other.geometry)) {
        if (!curve_->closed() &&
            (distance(each.at, curve_->at(0)) < samePlace || distance(each.at, curve_->at(1)) < samePlace))
          continue;
        add(found, each.onA, each.at, other.id);
      }
    // Where it crosses itself it is cut twice, in one place.
    for (const Crossing& each : selfCrossings(*curve_))
      for (const double at : {each.onA, each.onB}) found.push_back({at, each.at, {}, {}});
    std::sort(found.begin(), found.end(), [](const Cut& a, const Cut& b) { return a.at < b.at; });
    return found;
  }

  /// Puts stretches from cut to cut in the place of the curve. Places 0 and 1 of an open one are its ends.
  struct End {
    const Cut* cut = nullptr;  ///< null: the curve's own
    bool last = false;         ///< … and that its last one
  };
  Trimmed with(const std::vector<std::pair<End, End>>& kept) {
    if (kept.empty()) {
      result_.drawing = withoutCurve(result_.drawing, id_);
      return std::move(result_);
    }
    const std::vector<std::string> before = endsOf(drawn_);
    std::vector<std::string> ids;
    for (const auto& [from, to] : kept) {
      DrawnCurve piece = drawn_;
      piece.id = ids.empty() ? id_ : freeId(result_.drawing, std::string(1, drawn_.kind[0]));
      const std::string start = pointOf(from, before), end = pointOf(to, before);
      if (isSpline()) {
        makeStretch(piece, from, to, start, end);
      } else if (drawn_.kind == "line") {
        piece.points = {start, end};
      } else if (drawn_.kind == "arc" || drawn_.kind == "circle") {
        piece.kind = "arc";
        piece.points = {drawn_.points[0], start, end};
        piece.sizes.clear();
      } else {
        piece.kind = "elliptical_arc";
        piece.points = {drawn_.points[0], drawn_.points[1], start, end};
        piece.sizes = {result_.drawing.curves[result_.drawing.curveAt(id_)].sizes.at(0)};
      }
      place(piece);
      ids.push_back(piece.id);
    }
    holdOn(before);
    if (isSpline()) letGo(ids);
    for (std::size_t i = 1; i < ids.size(); ++i)
      if (drawn_.kind == "line") hold("parallel", {ids.front(), ids[i]});
    dropUnused(isSpline() ? drawn_.points : before);
    return std::move(result_);
  }

  /// The end at 0 or 1 goes to a place on another curve.
  Trimmed lengthenedTo(bool last, PlanePoint place, const std::string& other, const std::string& point,
                       std::shared_ptr<const PlaneCurve> longer = nullptr) {
    const Cut cut{longer ? nearestOn(*longer, place) : 0, place, point, {other}};
    const End own{nullptr, !last}, gone{&cut, false};
    if (longer) curve_ = std::move(longer);
    return last ? with({{own, gone}}) : with({{gone, own}});
  }

  const std::vector<PlanarCurve>& others() const { return others_; }
  std::string pointAt(const std::string& curve, PlanePoint place) const {
    const auto index = result_.drawing.curve(curve.substr(0, curve.find('.')));
    if (index)
      for (const std::string& id : endsOf(result_.drawing.curves[*index]))
        if (distance(result_.drawing.points[result_.drawing.pointAt(id)].last, place) < samePlace) return id;
    return {};
  }
  const std::string& where() const { return where_; }

  /// The ids of a curve's ends; none of a closed one.
  static std::vector<std::string> endsOf(const DrawnCurve& curve) {
    if (curve.points.size() < 2 || curve.closed || curve.kind == "circle" || curve.kind == "ellipse") return {};
    if (curve.kind == "arc" || curve.kind == "elliptical_arc")
      return {curve.points[curve.points.size() - 2], curve.points.back()};
    return {curve.points.front(), curve.points.back()};
  }

 private:
  bool isSpline() const { return drawn_.kind == "spline" || drawn_.kind == "control_spline"; }

  /// A stretch of a spline has control points of its own, whatever it was drawn by: they say it exactly.
  void makeStretch(DrawnCurve& piece, const End& from, const End& to, const std::string& start,
                   const std::string& end) {
    const double first = from.cut ? from.cut->at : from.last ? 1 : 0;
    double last = to.cut ? to.cut->at : to.last ? 1 : 0;
    if (last <= first) last += 1;
    const auto stretch = curve_->part(first, last);
    const Spline& spline = dynamic_cast<const SplineCurve&>(*stretch).spline();
    piece.kind = "control_spline";
    piece.closed = false;
    piece.degree = spline.degree();
    piece.weights = spline.weights();
    if (std::all_of(piece.weights.begin(), piece.weights.end(), [](double weight) { return weight == 1; }))
      piece.weights.clear();
    piece.knots = spline.knots();
    piece.points = {start};
    for (std::size_t i = 1; i + 1 < spline.poles().size(); ++i) piece.points.push_back(controlPoint(spline.poles()[i]));
    piece.points.push_back(end);
  }

  /// One of the spline's own that is there, or a new one.
  std::string controlPoint(PlanePoint place) {
    for (const std::string& id : drawn_.points)
      if (drawn_.kind == "control_spline" && !kept_.contains(id) &&
          distance(result_.drawing.points[result_.drawing.pointAt(id)].last, place) < tolerance::point) {
        kept_.insert(id);
        return id;
      }
    result_.drawing.points.push_back({freeId(result_.drawing, "p"), place});
    return result_.drawing.points.back().id;
  }

  /// Constraints that the stretches cannot have any more, since they end elsewhere.
  void letGo(const std::vector<std::string>& stretches) {
    std::erase_if(result_.drawing.constraints, [&](const DrawnConstraint& constraint) {
      const bool named = std::any_of(stretches.begin(), stretches.end(), [&](const std::string& id) {
        return std::find(constraint.on.begin(), constraint.on.end(), id) != constraint.on.end();
      });
      if (!named || canHold(constraint)) return false;
      result_.lost.push_back(constraint.id);
      return true;
    });
  }
  bool canHold(const DrawnConstraint& constraint) const {
    Drawing alone = result_.drawing;
    alone.constraints = {constraint};
    alone.copies.clear();
    try {
      requireSound(alone, taken_);
      return true;
    } catch (const Error&) {
      return false;
    }
  }

  void add(std::vector<Cut>& found, double at, PlanePoint place, const std::string& other) const {
    for (Cut& cut : found)
      if (distance(cut.place, place) < samePlace) {
        cut.on.push_back(other);
        if (cut.point.empty()) cut.point = pointAt(other, place);
        return;
      }
    found.push_back({at, place, pointAt(other, place), {other}});
  }

  std::string pointOf(const End& end, const std::vector<std::string>& before) {
    if (!end.cut) return before.at(end.last ? 1 : 0);
    if (!end.cut->point.empty()) return end.cut->point;
    for (const auto& [cut, id] : made_)
      if (distance(cut->place, end.cut->place) < samePlace) return id;
    const std::string id = freeId(result_.drawing, "p");
    result_.drawing.points.push_back({id, end.cut->place});
    made_.emplace_back(end.cut, id);
    // It stays on what cuts it. A second curve through the same place needs no holding: it is there.
    if (!end.cut->on.empty()) hold("on", {id, end.cut->on.front()});
    return id;
  }

  void place(const DrawnCurve& piece) {
    auto& curves = result_.drawing.curves;
    if (piece.id == id_)
      curves[result_.drawing.curveAt(id_)] = piece;
    else
      curves.push_back(piece);
  }

  void hold(const std::string& kind, std::vector<std::string> on) {
    result_.drawing.constraints.push_back({.id = freeId(result_.drawing, "k"), .kind = kind, .on = std::move(on)});
  }

  bool isThere(const std::string& point) const {
    return std::any_of(result_.drawing.curves.begin(), result_.drawing.curves.end(), [&](const DrawnCurve& each) {
      return std::find(each.points.begin(), each.points.end(), point) != each.points.end();
    });
  }

  /// What spoke of the whole length of the curve speaks of its former ends, where they are still there.
  void holdOn(const std::vector<std::string>& before) {
    const DrawnCurve& now = result_.drawing.curves[result_.drawing.curveAt(id_)];
    const bool sameEnds = endsOf(now) == before;
    const bool bothThere = before.size() == 2 && isThere(before[0]) && isThere(before[1]);
    std::vector<DrawnConstraint> kept;
    for (DrawnConstraint constraint : result_.drawing.constraints) {
      const auto named = std::find(constraint.on.begin(), constraint.on.end(), id_);
      if (named == constraint.on.end() || sameEnds || drawn_.kind != "line") {
        // A point that has become an end of it lies on it anyhow.
        const std::vector<std::string> ends = endsOf(now);
        const bool end = constraint.kind == "on" && named != constraint.on.end() &&
                         std::any_of(ends.begin(), ends.end(), [&](const std::string& id) {
                           return std::find(constraint.on.begin(), constraint.on.end(), id) != constraint.on.end();
                         });
        if (!end) kept.push_back(std::move(constraint));
        continue;
      }
      if (constraint.kind == "on") {
        const std::vector<std::string> ends = endsOf(now);
        if (std::none_of(ends.begin(), ends.end(), [&](const std::string& id) {
              return std::find(constraint.on.begin(), constraint.on.end(), id) != constraint.on.end();
            }))
          kept.push_back(std::move(constraint));
        continue;
      }
      if (constraint.kind == "length" || (constraint.kind == "midpoint" && constraint.on.size() == 2)) {
        if (!bothThere) {
          result_.lost.push_back(constraint.id);
          continue;
        }
        if (constraint.kind == "length") {
          constraint.kind = "distance";
          constraint.on = before;
        } else {
          const std::string point = constraint.on[named == constraint.on.begin() ? 1 : 0];
          constraint.on = {point, before[0], before[1]};
        }
        kept.push_back(std::move(constraint));
        continue;
      }
      if (constraint.kind == "equal") {
        std::erase(constraint.on, id_);
        if (constraint.on.size() < 2) {
          result_.lost.push_back(constraint.id);
          continue;
        }
      }
      kept.push_back(std::move(constraint));
    }
    result_.drawing.constraints = std::move(kept);
  }

  /// Former ends that nothing goes through any more, with what held them.
  void dropUnused(const std::vector<std::string>& before) {
    for (const std::string& id : before) {
      if (isThere(id)) continue;
      std::erase_if(result_.drawing.points, [&](const DrawnPoint& point) { return point.id == id; });
      std::erase_if(result_.drawing.constraints, [&](const DrawnConstraint& constraint) {
        const bool names = std::find(constraint.on.begin(), constraint.on.end(), id) != constraint.on.end();
        if (names) result_.lost.push_back(constraint.id);
        return names;
      });
    }
  }

  Trimmed result_;
  std::string id_, where_;
  DrawnCurve drawn_;
  std::shared_ptr<const PlaneCurve> curve_;
  std::vector<PlanarCurve> others_;
  std::vector<TakenCurve> taken_;
  std::set<std::string> kept_;  ///< control points that go on to be some
  std::vector<std::pair<const Cut*, std::string>> made_;
};

/// Where the curve goes on beyond one of its ends; splines go on differently.
std::shared_ptr<const PlaneCurve> beyond(const PlaneCurve& curve, bool last, double size) {
  const PlanePoint end = curve.at(last ? 1 : 0), way = curve.tangentAt(last ? 1 : 0) * (last ? 1.0 : -1.0);
  const auto carrier = curve.carrier();
  if (carrier && carrier->radius == 0) return std::make_shared<LineCurve>(end, end + way * size);
  if (carrier) {
    // All of the circle that it is not.
    const PlanePoint start = curve.at(1) - carrier->centre, stop = curve.at(0) - carrier->centre;
    const double from = std::atan2(start.v, start.u);
    double to = std::atan2(stop.v, stop.u);
    while (to <= from) to += 2 * std::numbers::pi;
    return std::make_shared<ArcCurve>(carrier->centre, carrier->radius, from, to);
  }
  if (const auto* ellipse = dynamic_cast<const EllipseCurve*>(&curve))
    return std::make_shared<EllipseCurve>(ellipse->centre(), ellipse->end(), ellipse->other(), ellipse->to(),
                                          ellipse->from() + 2 * std::numbers::pi);
  return nullptr;
}

}  // namespace

std::vector<CurvePiece> piecesOf(const Drawing& drawing, const DrawingValues& values, const Solution& solution,
                                 const std::string& curve) {
  const Cutting cutting(drawing, values, solution, curve);
  const std::vector<Cut> cuts = cutting.cuts();
  std::vector<CurvePiece> pieces;
  if (!cutting.curve().closed()) {
    double from = 0;
    for (const Cut& cut : cuts) {
      pieces.push_back({curve, from, cut.at});
      from = cut.at;
    }
    pieces.push_back({curve, from, 1});
    return pieces;
  }
  for (std::size_t i = 0; i < cuts.size(); ++i)
    pieces.push_back({curve, cuts[i].at, i + 1 < cuts.size() ? cuts[i + 1].at : cuts[0].at + 1});
  if (pieces.empty()) pieces.push_back({curve, 0, 1});
  return pieces;
}

Trimmed split(const Drawing& drawing, const DrawingValues& values, const Solution& solution, const std::string& curve) {
  Cutting cutting(drawing, values, solution, curve);
  const std::vector<Cut> cuts = cutting.cuts();
  using End = Cutting::End;
  if (cuts.empty() || (cutting.curve().closed() && cuts.size() < 2))
    throw Error(cuts.empty() ? say("no other curve meets it") : say("only one other curve meets it, in one place"),
                cutting.where(), say("Draw one across it"));
  std::vector<std::pair<End, End>> kept;
  if (!cutting.curve().closed()) kept.push_back({End{}, {&cuts.front()}});
  for (std::size_t i = 0; i + 1 < cuts.size(); ++i) kept.push_back({{&cuts[i]}, {&cuts[i + 1]}});
  kept.push_back({{&cuts.back()}, cutting.curve().closed() ? End{&cuts.front()} : End{nullptr, true}});
  return cutting.with(kept);
}

Trimmed trimmed(const Drawing& drawing, const DrawingValues& values, const Solution& solution, const std::string& curve,
                PlanePoint place) {
  Cutting cutting(drawing, values, solution, curve);
  const std::vector<Cut> cuts = cutting.cuts();
  const double at = nearestOn(cutting.curve(), place);
  using End = Cutting::End;
  const auto next = std::find_if(cuts.begin(), cuts.end(), [&](const Cut& cut) { return cut.at > at; });
  if (cutting.curve().closed()) {
    if (cuts.size() < 2) return cutting.with({});
    // From the cut after the place all the way round to the one before it.
    const Cut& after = next == cuts.end() ? cuts.front() : *next;
    const Cut& before = next == cuts.begin() ? cuts.back() : *(next - 1);
    return cutting.with({{End{&after}, End{&before}}});
  }
  std::vector<std::pair<End, End>> kept;
  if (next != cuts.begin()) kept.push_back({End{}, End{&*(next - 1)}});
  if (next != cuts.end()) kept.push_back({End{&*next}, End{nullptr, true}});
  return cutting.with(kept);
}

namespace {

/// The crossing that is met first when going on from the end of a curve, and with which one.
std::optional<std::pair<Crossing, std::string>> firstMet(const Cutting& cutting, const PlaneCurve& further,
                                                         PlanePoint end, PlanePoint otherEnd, bool backwards) {
  const auto wayTo = [&](const Crossing& crossing) { return backwards ? 1 - crossing.onA : crossing.onA; };
  std::optional<std::pair<Crossing, std::string>> nearest;
  for (const PlanarCurve& other : cutting.others())
    for (const Crossing& each : crossings(further, *other.geometry)) {
      if (distance(each.at, end) < samePlace || distance(each.at, otherEnd) < samePlace) continue;
      if (!nearest || wayTo(each) < wayTo(nearest->first)) nearest.emplace(each, other.id);
    }
  return nearest;
}

[[noreturn]] void meetsNothing(const Cutting& cutting) {
  throw Error(say("beyond its end it meets no other curve"), cutting.where(), say("Draw one that it can go to"));
}

/// A spline goes on as its last span runs, further and further until it meets something or is far away.
Trimmed lengthenedSpline(Cutting& cutting, const Spline& spline, bool last, double size) {
  const PlanePoint end = spline.at(last ? 1 : 0), otherEnd = spline.at(last ? 0 : 1);
  constexpr int most = 24;
  for (int doubled = 0; doubled < most; ++doubled) {
    const double by = std::ldexp(1.0 / 16, doubled);
    const auto longer = std::make_shared<const SplineCurve>(spline.lengthened(last, by));
    // What was added, as shares of the longer one.
    const double share = by / (1 + by);
    const auto further = last ? longer->part(1 - share, 1) : longer->part(0, share);
    if (const auto met = firstMet(cutting, *further, end, otherEnd, !last))
      return cutting.lengthenedTo(last, met->first.at, met->second, cutting.pointAt(met->second, met->first.at),
                                  longer);
    if (distance(longer->at(last ? 1 : 0), end) > size) break;
  }
  meetsNothing(cutting);
}

}  // namespace

Trimmed lengthened(const Drawing& drawing, const DrawingValues& values, const Solution& solution,
                   const std::string& curve, PlanePoint place) {
  Cutting cutting(drawing, values, solution, curve);
  const PlaneCurve& shape = cutting.curve();
  if (shape.closed())
    throw Error(say("a closed curve has no end to lengthen"), cutting.where(), say("Choose another one"));
  const bool last = distance(shape.at(1), place) < distance(shape.at(0), place);
  const PlanePoint end = shape.at(last ? 1 : 0);
  double size = 1;
  for (const PlanarCurve& other : cutting.others()) {
    const PlaneBox box = other.geometry->box();
    for (const PlanePoint corner : {box.low, box.high}) size = std::max(size, 2 * distance(corner, end) + 1);
  }
  if (const auto* spline = dynamic_cast<const SplineCurve*>(&shape))
    return lengthenedSpline(cutting, spline->spline(), last, size);
  const auto further = beyond(shape, last, size);
  const auto carrier = shape.carrier();
  const bool isLine = carrier && carrier->radius == 0;
  const auto met = firstMet(cutting, *further, end, shape.at(last ? 0 : 1), !isLine && !last);
  if (!met) meetsNothing(cutting);
  return cutting.lengthenedTo(last, met->first.at, met->second, cutting.pointAt(met->second, met->first.at));
}

Trimmed joined(const Drawing& drawing, const DrawingValues& values, const Solution& solution, double gap) {
  Trimmed result{moved(drawing, solution)};
  bool any = false;
  for (const LooseEnd& end : looseEnds(drawing, values, solution)) {
    if (end.other.empty() || end.gap > gap) continue;
    result.drawing = withJoined(result.drawing, end.point, end.other);
    any = true;
  }
  if (!any)
    throw Error(say("there are no loose ends nearer than %1 mm", formatNumber(gap)), "", say("Allow a larger gap"));
  return result;
}

}  // namespace kervo
