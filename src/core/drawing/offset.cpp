// Every curve is shifted, corners that open are filled, and all of it is divided where it crosses itself. A stretch
// belongs to the result exactly if no curve of the chain is nearer to it than the distance.
#include "drawing/offset.h"

#include <algorithm>
#include <cmath>

#include "base/error.h"
#include "base/quantity.h"
#include "base/say.h"
#include "drawing/crossings.h"

namespace kervo {

namespace {

constexpr double touching = 2 * tolerance::point;
/// A stretch that is nearer than the distance by less than this is at it, mm: shifted splines are off by less.
constexpr double slack = 3e-6;
/// Sharp corners go no further than so many times the distance; beyond they are round.
constexpr double longestMitre = 4;

struct Link {
  const PlanarCurve* curve;
  bool backwards = false;

  PlanePoint start() const { return curve->geometry->at(backwards ? 1 : 0); }
  PlanePoint end() const { return curve->geometry->at(backwards ? 0 : 1); }
  PlanePoint startWay() const { return backwards ? curve->geometry->tangentAt(1) * -1 : curve->geometry->tangentAt(0); }
  PlanePoint endWay() const { return backwards ? curve->geometry->tangentAt(0) * -1 : curve->geometry->tangentAt(1); }
};

struct Chain {
  std::vector<Link> links;
  bool closed = false;
};

std::vector<Chain> chainsOf(const std::vector<PlanarCurve>& curves) {
  std::vector<bool> used(curves.size(), false);
  std::vector<Chain> chains;
  const auto nextAt = [&](PlanePoint place, const std::string& from) -> std::optional<Link> {
    std::optional<Link> next;
    int meeting = 0;
    for (std::size_t i = 0; i < curves.size(); ++i) {
      const PlaneCurve& curve = *curves[i].geometry;
      if (curve.closed()) continue;
      for (const bool backwards : {false, true}) {
        if (distance(curve.at(backwards ? 1 : 0), place) > touching) continue;
        ++meeting;
        if (!used[i]) next = Link{&curves[i], backwards};
      }
    }
    if (meeting > 2)
      throw Error(say("more than two curves meet at an end of \"%1\"", from), say("curve \"%1\"", from),
                  say("Take curves that follow each other"));
    if (next) used[static_cast<std::size_t>(next->curve - curves.data())] = true;
    return next;
  };
  for (std::size_t i = 0; i < curves.size(); ++i) {
    if (used[i]) continue;
    used[i] = true;
    Chain chain{{{&curves[i], false}}, curves[i].geometry->closed()};
    if (!chain.closed) {
      while (const auto next = nextAt(chain.links.back().end(), chain.links.back().curve->id))
        chain.links.push_back(*next);
      chain.closed =
          chain.links.size() > 1 && distance(chain.links.back().end(), chain.links.front().start()) <= touching;
    }
    if (!chain.closed)
      while (const auto next = nextAt(chain.links.front().start(), chain.links.front().curve->id))
        chain.links.insert(chain.links.begin(), Link{next->curve, !next->backwards});
    chains.push_back(std::move(chain));
  }
  return chains;
}

/// Above zero counter-clockwise.
double areaOf(const Chain& chain) {
  constexpr int steps = 64;
  double area = 0;
  for (const Link& link : chain.links)
    for (int i = 0; i < steps; ++i) {
      const auto at = [&](int k) {
        const double t = static_cast<double>(k) / steps;
        return link.curve->geometry->at(link.backwards ? 1 - t : t);
      };
      area += cross(at(i), at(i + 1)) / 2;
    }
  return area;
}

bool isNear(const PlaneBox& box, PlanePoint at, double reach) {
  return at.u > box.low.u - reach && at.u < box.high.u + reach && at.v > box.low.v - reach && at.v < box.high.v + reach;
}

class Beside {
 public:
  Beside(const Chain& chain, std::string prefix, double left, OffsetCorners corners)
      : chain_(chain), prefix_(std::move(prefix)), left_(left), corners_(corners) {
    shift();
    for (std::size_t i = 0; i + (chain.closed ? 0 : 1) < chain.links.size(); ++i) fillCorner(i);
  }

  std::vector<PlanarCurve> kept() const {
    std::vector<PlanarCurve> result;
    for (std::size_t i = 0; i < raw_.size(); ++i) {
      const PlaneCurve& curve = *raw_[i].geometry;
      std::vector<double> cuts;
      for (std::size_t j = 0; j < raw_.size(); ++j)
        if (j != i)
          for (const Crossing& each : crossings(curve, *raw_[j].geometry)) cuts.push_back(each.onA);
      std::sort(cuts.begin(), cuts.end());
      addStretches(result, raw_[i], cuts);
    }
    if (chain_.closed) dropSpurs(result);
    return result;
  }

 private:
  /// Beside a closed chain all closes. Where two curves meet almost straight, a short stretch beyond their crossing is
  /// hardly nearer than the distance.
  static void dropSpurs(std::vector<PlanarCurve>& kept) {
    const auto goesOn = [&](const PlanarCurve& curve, PlanePoint end) {
      return std::any_of(kept.begin(), kept.end(), [&](const PlanarCurve& other) {
        if (&other == &curve || other.geometry->closed()) return false;
        return distance(other.geometry->at(0), end) < slack || distance(other.geometry->at(1), end) < slack;
      });
    };
    const auto isSpur = [&](const PlanarCurve& curve) {
      return !curve.geometry->closed() && distance(curve.geometry->at(0), curve.geometry->at(1)) > slack &&
             !(goesOn(curve, curve.geometry->at(0)) && goesOn(curve, curve.geometry->at(1)));
    };
    for (auto spur = kept.begin(); (spur = std::find_if(kept.begin(), kept.end(), isSpur)) != kept.end();)
      kept.erase(spur);
  }

  void shift() {
    for (const Link& link : chain_.links) {
      const double left = link.backwards ? -left_ : left_;
      try {
        shifted_.push_back(link.curve->geometry->beside(left));
      } catch (const Error& error) {
        throw error.within(say("curve \"%1\"", link.curve->id));
      }
    }
    for (std::size_t i = 0; i < shifted_.size(); ++i)
      if (shifted_[i]) raw_.emplace_back(prefix_ + chain_.links[i].curve->id, shifted_[i]);
  }

  /// The corner at the end of a link, if the shifted curves part there.
  void fillCorner(std::size_t index) {
    const Link &before = chain_.links[index], &after = chain_.links[(index + 1) % chain_.links.size()];
    const PlanePoint corner = before.end(), in = before.endWay(), out = after.startWay();
    const double turn = cross(in, out);
    const bool opens = left_ > 0 ? turn < 0 : turn > 0;
    // Back the way it came: a spike opens on both sides.
    const bool spike = std::abs(turn) < tolerance::direction && dot(in, out) < 0;
    if (!opens && !spike) return;
    const double far = std::abs(left_);
    const PlanePoint from = PlanePoint{-in.v, in.u} * left_, to = PlanePoint{-out.v, out.u} * left_;
    if (distance(from, to) < tolerance::point) return;
    if (corners_ == OffsetCorners::Sharp && !spike && addMitre(index, corner, from, to)) return;
    // Left of a chain that turns right the arc runs clockwise.
    const PlanePoint start = left_ > 0 ? to : from, end = left_ > 0 ? from : to;
    const double angle = std::atan2(start.v, start.u);
    double sweep = std::atan2(cross(start, end), dot(start, end));
    if (sweep < 0 || spike) sweep = std::abs(sweep);
    raw_.emplace_back(prefix_ + before.curve->id + ".corner", ArcCurve(corner, far, angle, angle + sweep));
  }

  /// Two straight stretches to where the shifted tangents meet; false if that is too far away.
  bool addMitre(std::size_t index, PlanePoint corner, PlanePoint from, PlanePoint to) {
    const PlanePoint middle = (from + to) * 0.5;
    const double half = length(middle), far = std::abs(left_);
    if (half < far / longestMitre) return false;
    const PlanePoint tip = corner + middle * (far * far / (half * half));
    const std::string id = prefix_ + chain_.links[index].curve->id + ".corner";
    raw_.emplace_back(id, LineCurve(corner + from, tip));
    raw_.emplace_back(id + ".2", LineCurve(tip, corner + to));
    return true;
  }

  void addStretches(std::vector<PlanarCurve>& result, const PlanarCurve& raw, const std::vector<double>& cuts) const {
    const PlaneCurve& curve = *raw.geometry;
    std::vector<double> places;
    const auto add = [&](double at) {
      if (places.empty() || distance(curve.at(places.back()), curve.at(at)) > tolerance::smallestSize)
        places.push_back(at);
    };
    if (!curve.closed()) add(0);
    for (const double cut : cuts) add(cut);
    if (curve.closed() && places.size() > 1 &&
        distance(curve.at(places.front()), curve.at(places.back())) <= tolerance::smallestSize)
      places.pop_back();
    if (curve.closed() && places.empty()) {
      if (isFree(curve.at(0.37)) && isFree(curve.at(0.81))) result.push_back(raw);
      return;
    }
    if (!curve.closed()) {
      if (distance(curve.at(places.back()), curve.at(1)) <= tolerance::smallestSize && places.size() > 1)
        places.back() = 1;
      else
        places.push_back(1);
    }
    int count = 0;
    const auto keep = [&](const std::shared_ptr<const PlaneCurve>& stretch) {
      if (!isFree(stretch->at(0.5))) return;
      ++count;
      result.emplace_back(count == 1 ? raw.id : raw.id + "." + std::to_string(count), stretch);
    };
    for (std::size_t i = 1; i < places.size(); ++i) keep(curve.part(places[i - 1], places[i]));
    // A closed one goes on over its beginning.
    if (curve.closed()) keepOverBeginning(curve, places, keep);
  }

  template <class Keep>
  static void keepOverBeginning(const PlaneCurve& curve, const std::vector<double>& places, Keep&& keep) {
    if (const auto carrier = curve.carrier()) {
      const auto angle = [&](double t) {
        const PlanePoint way = curve.at(t) - carrier->centre;
        return std::atan2(way.v, way.u);
      };
      const double from = angle(places.back());
      double to = angle(places.front());
      while (to <= from) to += 2 * std::acos(-1.0);
      keep(std::make_shared<const ArcCurve>(carrier->centre, carrier->radius, from, to));
      return;
    }
    if (places.back() < 1) keep(curve.part(places.back(), 1));
    if (places.front() > 0) keep(curve.part(0, places.front()));
  }

  bool isFree(PlanePoint place) const {
    const double far = std::abs(left_) - slack;
    return std::none_of(chain_.links.begin(), chain_.links.end(), [&](const Link& link) {
      const PlaneCurve& curve = *link.curve->geometry;
      return isNear(curve.box(), place, far) && distance(curve.at(nearestOn(curve, place)), place) < far;
    });
  }

  const Chain& chain_;
  std::string prefix_;
  double left_;
  OffsetCorners corners_;
  std::vector<std::shared_ptr<const PlaneCurve>> shifted_;
  std::vector<PlanarCurve> raw_;
};

}  // namespace

std::vector<PlanarCurve> offset(const std::string& id, const std::vector<PlanarCurve>& curves, double distance,
                                OffsetSide side, OffsetCorners corners) {
  std::vector<PlanarCurve> result;
  for (const Chain& chain : chainsOf(curves)) {
    // Outside is to the right of a chain that runs counter-clockwise.
    const double out = chain.closed && areaOf(chain) > 0 ? -distance : distance;
    const auto add = [&](double left, const std::string& prefix) {
      std::vector<PlanarCurve> kept = Beside(chain, prefix, left, corners).kept();
      if (kept.empty())
        throw Error(
            say("nothing is left at %1 mm beside \"%2\"", formatNumber(distance), chain.links.front().curve->id), "",
            say("Choose a smaller distance, or the other side"));
      std::move(kept.begin(), kept.end(), std::back_inserter(result));
    };
    if (side != OffsetSide::In) add(out, id + ".");
    if (side != OffsetSide::Out) add(-out, side == OffsetSide::Both ? id + ".in." : id + ".");
  }
  return result;
}

}  // namespace kervo
