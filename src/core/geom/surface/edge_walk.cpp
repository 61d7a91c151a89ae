#include "geom/surface/edge_walk.h"

#include <BSplCLib.hxx>
#include <GCPnts_AbscissaPoint.hxx>
#include <GeomConvert.hxx>
#include <Geom_TrimmedCurve.hxx>
#include <algorithm>
#include <cmath>

#include "base/say.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

/// Ends nearer than this are one, mm: what the kernel leaves between edges that meet.
constexpr double oneEnd = 1e-4;
constexpr double lengthsExact = 1e-9;

gp_Pnt pointOf(const TopoDS_Edge& edge, double parameter) {
  return BRepAdaptor_Curve(edge).Value(parameter);
}

}  // namespace

EdgeWalk::EdgeWalk(const std::vector<Border>& edges) {
  if (edges.empty()) throw Error(say("no edge is chosen"), "", say("Pick edges"));
  struct Open {
    Border border;
    double first, last;
    gp_Pnt start, end;
  };
  std::vector<Open> left;
  for (const Border& border : edges) {
    double first, last;
    BRep_Tool::Range(border.edge, first, last);
    left.push_back({border, first, last, pointOf(border.edge, first), pointOf(border.edge, last)});
  }
  const auto put = [&](std::size_t i, bool forward, bool atEnd) {
    const Open& open = left[i];
    const Part part{open.border, forward, 0, forward ? open.first : open.last, forward ? open.last : open.first};
    parts_.insert(atEnd ? parts_.end() : parts_.begin(), part);
    left.erase(left.begin() + static_cast<std::ptrdiff_t>(i));
  };
  put(0, left.front().border.edge.Orientation() != TopAbs_REVERSED, true);
  for (bool found = true; found && !left.empty();) {
    found = false;
    const gp_Pnt head = pointOf(parts_.back().border.edge, parts_.back().to);
    const gp_Pnt tail = pointOf(parts_.front().border.edge, parts_.front().from);
    for (std::size_t i = 0; i < left.size() && !found; ++i) {
      found = true;
      if (left[i].start.Distance(head) < oneEnd)
        put(i, true, true);
      else if (left[i].end.Distance(head) < oneEnd)
        put(i, false, true);
      else if (left[i].end.Distance(tail) < oneEnd)
        put(i, true, false);
      else if (left[i].start.Distance(tail) < oneEnd)
        put(i, false, false);
      else
        found = false;
    }
  }
  if (!left.empty())
    throw Error(say("the edges chosen do not make one chain"), "", say("Pick edges that follow each other"));
  finish();
}

void EdgeWalk::finish() {
  length_ = 0;
  breaks_ = {0};
  for (Part& part : parts_) {
    const BRepAdaptor_Curve curve(part.border.edge);
    part.length = std::abs(
        GCPnts_AbscissaPoint::Length(curve, std::min(part.from, part.to), std::max(part.from, part.to), lengthsExact));
    length_ += part.length;
    breaks_.push_back(length_);
  }
  for (double& each : breaks_) each /= length_;
  breaks_.back() = 1;
  closed_ = pointOf(parts_.front().border.edge, parts_.front().from)
                .Distance(pointOf(parts_.back().border.edge, parts_.back().to)) < oneEnd;
}

EdgeWalk::Place EdgeWalk::at(double share, Side side) const {
  constexpr double same = 1e-12;
  if (closed_ && side == Side::Before && share < same) share = 1;
  if (closed_ && side == Side::After && share > 1 - same) share = 0;
  share = std::clamp(share, 0.0, 1.0);
  std::size_t number = 0;
  while (number + 1 < parts_.size() &&
         (side == Side::After ? breaks_[number + 1] <= share + same : breaks_[number + 1] < share - same))
    ++number;
  const Part& part = parts_[number];
  const double along = (share - breaks_[number]) * length_;
  if (along < lengthsExact) return {&part.border, part.from, part.forward};
  if (along > part.length - lengthsExact) return {&part.border, part.to, part.forward};
  const BRepAdaptor_Curve curve(part.border.edge);
  const GCPnts_AbscissaPoint place(lengthsExact, curve, part.forward ? along : -along, part.from);
  if (!place.IsDone()) throw Error(say("an edge cannot be followed by its length"), "", say("Check the body"));
  return {&part.border, place.Parameter(), part.forward};
}

Point EdgeWalk::pointAt(double share) const {
  const Place place = at(share, Side::After);
  return fromPnt(pointOf(place.border->edge, place.parameter));
}

void refineForIntegrals(const Handle(Geom_BSplineCurve) & spline) {
  constexpr int spans = 16;
  if (!spline->IsRational()) return;
  const double from = spline->FirstParameter(), to = spline->LastParameter();
  for (int i = 1; i < spans; ++i) spline->InsertKnot(from + (to - from) * i / spans, 1, tolerance::parallel);
}

Handle(Geom_BSplineCurve) EdgeWalk::stretch(double from, double to) const {
  const Place start = at(from, Side::After), end = at(to, Side::Before);
  if (start.border != end.border) return {};
  const double low = std::min(start.parameter, end.parameter), high = std::max(start.parameter, end.parameter);
  double first, last;
  const Handle(Geom_Curve) curve = BRep_Tool::Curve(start.border->edge, first, last);
  if (curve.IsNull() || high - low < tolerance::rounding) return {};
  Handle(Geom_BSplineCurve) spline =
      GeomConvert::CurveToBSplineCurve(new Geom_TrimmedCurve(curve, low, high), Convert_QuasiAngular);
  if (spline->IsPeriodic()) spline->SetNotPeriodic();
  if (!start.forward) spline->Reverse();
  TColStd_Array1OfReal knots(1, spline->NbKnots());
  spline->Knots(knots);
  BSplCLib::Reparametrize(0, 1, knots);
  spline->SetKnots(knots);
  refineForIntegrals(spline);
  return spline;
}

double EdgeWalk::nearest(Point point) const {
  double least = Box::infinity, best = 0;
  for (std::size_t i = 0; i < parts_.size(); ++i) {
    const Part& part = parts_[i];
    const BRepAdaptor_Curve curve(part.border.edge);
    const double low = std::min(part.from, part.to), high = std::max(part.from, part.to);
    const auto take = [&](double parameter) {
      const double apart = distance(fromPnt(curve.Value(parameter)), point);
      if (apart >= least) return;
      least = apart;
      const double way = GCPnts_AbscissaPoint::Length(curve, std::min(part.from, parameter),
                                                      std::max(part.from, parameter), lengthsExact);
      best = breaks_[i] + std::abs(way) / length_;
    };
    take(low);
    take(high);
    constexpr int asked = 64;
    double nearestAsked = low, leastAsked = Box::infinity;
    for (int k = 0; k <= asked; ++k) {
      const double parameter = low + (high - low) * k / asked;
      const double apart = distance(fromPnt(curve.Value(parameter)), point);
      if (apart >= leastAsked) continue;
      leastAsked = apart;
      nearestAsked = parameter;
    }
    // By halving steps from the nearest of those asked.
    double step = (high - low) / asked;
    for (int k = 0; k < 60; ++k) {
      double next = nearestAsked;
      for (const double each : {nearestAsked - step, nearestAsked + step}) {
        const double parameter = std::clamp(each, low, high);
        const double apart = distance(fromPnt(curve.Value(parameter)), point);
        if (apart >= leastAsked) continue;
        leastAsked = apart;
        next = parameter;
      }
      if (next == nearestAsked) step /= 2;
      nearestAsked = next;
    }
    take(nearestAsked);
  }
  return std::min(best, 1.0);
}

EdgeWalk EdgeWalk::reversed() const {
  EdgeWalk result;
  for (auto part = parts_.rbegin(); part != parts_.rend(); ++part)
    result.parts_.push_back({part->border, !part->forward, 0, part->to, part->from});
  result.finish();
  return result;
}

EdgeWalk EdgeWalk::startedAt(double share) const {
  constexpr double same = 1e-9;
  share -= std::floor(share);
  if (!closed_) return *this;
  for (std::size_t i = 0; i < breaks_.size(); ++i)
    if (std::abs(breaks_[i] - share) < same) share = breaks_[i];
  std::size_t number = 0;
  while (number + 1 < parts_.size() && breaks_[number + 1] <= share) ++number;
  EdgeWalk result;
  const Place place = at(share, Side::After);
  const bool within = share > breaks_[number] && share < breaks_[number + 1];
  if (within) {
    Part rest = parts_[number];
    rest.from = place.parameter;
    result.parts_.push_back(rest);
  } else if (share < 1) {
    result.parts_.push_back(parts_[number]);
  }
  for (std::size_t i = number + 1; i < parts_.size(); ++i) result.parts_.push_back(parts_[i]);
  for (std::size_t i = 0; i < number; ++i) result.parts_.push_back(parts_[i]);
  if (within) {
    Part begun = parts_[number];
    begun.to = place.parameter;
    result.parts_.push_back(begun);
  } else if (share >= 1) {
    result.parts_.push_back(parts_[number]);
  }
  result.finish();
  result.closed_ = true;
  return result;
}

EdgeWalk alignedWith(const EdgeWalk& first, const EdgeWalk& other, bool against) {
  EdgeWalk there = other, back = other.reversed();
  if (other.closed() && first.closed()) {
    there = there.startedAt(there.nearest(first.pointAt(0)));
    back = back.startedAt(back.nearest(first.pointAt(0)));
  }
  const auto apart = [&](const EdgeWalk& walk) {
    constexpr int asked = 32;
    double sum = 0;
    for (int i = 0; i <= asked; ++i) {
      const double share = static_cast<double>(i) / asked;
      sum += distance(first.pointAt(share), walk.pointAt(share));
    }
    return sum;
  };
  return (apart(back) < apart(there)) != against ? back : there;
}

MatchedWalks::MatchedWalks(std::vector<EdgeWalk> walks) : walks_(std::move(walks)) {
  const std::size_t edges = walks_.front().breaks().size();
  byEdges_ =
      std::all_of(walks_.begin(), walks_.end(), [&](const EdgeWalk& each) { return each.breaks().size() == edges; });
  breaks_ = walks_.front().breaks();
  if (byEdges_) return;
  for (const EdgeWalk& each : walks_) breaks_.insert(breaks_.end(), each.breaks().begin(), each.breaks().end());
  std::sort(breaks_.begin(), breaks_.end());
  constexpr double one = 1e-7;
  breaks_.erase(std::unique(breaks_.begin(), breaks_.end(), [](double a, double b) { return b - a < one; }),
                breaks_.end());
  breaks_.back() = 1;
}

double MatchedWalks::shareOf(std::size_t number, double place) const {
  if (!byEdges_ || number == 0) return place;
  const std::vector<double>& own = walks_[number].breaks();
  std::size_t edge = 0;
  while (edge + 2 < breaks_.size() && breaks_[edge + 1] <= place) ++edge;
  // The ends exactly: there is where edges meet.
  if (place <= breaks_[edge]) return own[edge];
  if (place >= breaks_[edge + 1]) return own[edge + 1];
  const double along = (place - breaks_[edge]) / (breaks_[edge + 1] - breaks_[edge]);
  return own[edge] + (own[edge + 1] - own[edge]) * along;
}

std::vector<Border> wholeLoop(const std::vector<Border>& all, const Border& from) {
  std::vector<Border> loop{from};
  std::vector<bool> used(all.size(), false);
  const auto endsOf = [](const Border& border) {
    return std::pair(TopExp::FirstVertex(border.edge), TopExp::LastVertex(border.edge));
  };
  for (std::size_t i = 0; i < all.size(); ++i) used[i] = all[i].edge.IsSame(from.edge);
  for (bool found = true; found;) {
    found = false;
    for (std::size_t i = 0; i < all.size(); ++i) {
      if (used[i]) continue;
      const auto [a, b] = endsOf(all[i]);
      const bool meets = std::any_of(loop.begin(), loop.end(), [&](const Border& each) {
        const auto [c, d] = endsOf(each);
        return a.IsSame(c) || a.IsSame(d) || b.IsSame(c) || b.IsSame(d);
      });
      if (!meets) continue;
      used[i] = found = true;
      loop.push_back(all[i]);
    }
  }
  return loop;
}

}  // namespace kervo
