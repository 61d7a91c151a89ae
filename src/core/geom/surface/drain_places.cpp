#include "geom/surface/drain_places.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <optional>

#include "geom/measure/crossings.h"
#include "geom/planes.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

/// Places are looked for on so many lines across the space, both ways; one of them is in the middle.
constexpr int linesAcross = 25;
constexpr int placesOnRim = 8;

/// A place on the floor of the space.
struct Low {
  Point place;
  double depth = 0;  ///< along `down`
};

class Drains {
 public:
  Drains(const Shape& walls, const Shape& space, Vector down, double radius)
      : walls_(walls), space_(space), down_(down), across_(Plane::through({}, down)), radius_(radius) {
    const Box box = boxIn(across_, space.roughBox());
    for (int i = 0; i < linesAcross; ++i)
      for (int k = 0; k < linesAcross; ++k) {
        const double x = box.low.x + (box.high.x - box.low.x) * (i + 0.5) / linesAcross,
                     y = box.low.y + (box.high.y - box.low.y) * (k + 0.5) / linesAcross;
        if (const auto floor = floorUnder(across_.at(x, y, box.low.z))) lows_.push_back({*floor, dot(*floor, down)});
      }
    keepLowest(box.high.z - box.low.z);
  }

  std::vector<DrainPlace> places(int count) {
    std::vector<DrainPlace> result;
    while (!lows_.empty() && static_cast<int>(result.size()) < count) {
      const auto best = std::max_element(lows_.begin(), lows_.end(),
                                         [&](const Low& a, const Low& b) { return rank(a, result) < rank(b, result); });
      const Low low = *best;
      lows_.erase(best);
      const bool apart = std::all_of(result.begin(), result.end(), [&](const DrainPlace& each) {
        const Vector way = each.from - low.place;
        return length(way - down_ * dot(way, down_)) > 2 * radius_ + tolerance::smallestSize;
      });
      if (!apart) continue;
      if (const auto place = placeAt(low)) result.push_back(*place);
    }
    return result;
  }

 private:
  /// Where a line down leaves the space for the last time.
  std::optional<Point> floorUnder(Point above) const {
    const std::vector<LineCrossing> met = space_.along(above, down_);
    return met.empty() || !met.back().out ? std::nullopt : std::optional(above + down_ * met.back().at);
  }

  void keepLowest(double height) {
    double lowest = -Box::infinity;
    for (const Low& low : lows_) lowest = std::max(lowest, low.depth);
    constexpr double share = 0.02;  // of the height: a round bottom is not lowest in one place only
    std::erase_if(lows_, [&](const Low& low) { return low.depth < lowest - std::max(radius_ / 2, share * height); });
    for (const Low& low : lows_) middle_ = middle_ + low.place * (1.0 / static_cast<double>(lows_.size()));
  }

  /// The first amid all of them, the others far from those before.
  double rank(const Low& low, const std::vector<DrainPlace>& taken) const {
    if (taken.empty()) return -distance(low.place, middle_);
    double nearest = Box::infinity;
    for (const DrainPlace& each : taken) nearest = std::min(nearest, distance(low.place, each.from));
    return nearest;
  }

  /// Nothing where the rim of the hole would not lie in the floor.
  std::optional<DrainPlace> placeAt(const Low& low) const {
    double through = 0;
    for (int i = -1; i < placesOnRim; ++i) {
      const double angle = 2 * std::numbers::pi * i / placesOnRim;
      const Point place =
          i < 0 ? low.place
                : low.place + across_.x * (radius_ * std::cos(angle)) + across_.y * (radius_ * std::sin(angle));
      const auto floor = floorUnder(place);
      if (!floor || std::abs(dot(*floor - low.place, down_)) > radius_) return std::nullopt;
      const std::vector<LineCrossing> met = walls_.along(*floor, down_);
      const auto out = std::find_if(
          met.begin(), met.end(), [](const LineCrossing& each) { return each.out && each.at > tolerance::samePlace; });
      if (out == met.end()) return std::nullopt;
      through = std::max(through, out->at + dot(*floor - low.place, down_));
    }
    return DrainPlace{low.place - down_ * radius_, down_, through + 1.5 * radius_};
  }

  Crossings walls_, space_;
  Vector down_;
  Plane across_;
  double radius_;
  std::vector<Low> lows_;
  Point middle_;
};

}  // namespace

namespace {

/// A wall on a line, between where the space ends and where the outside begins, mm along it.
struct WallOnLine {
  double inner = 0, outer = 0;
  bool ahead() const { return outer > inner; }
};

std::vector<WallOnLine> wallsOn(const Crossings& walls, const Crossings& space, Point from, Vector way) {
  const std::vector<LineCrossing> solid = walls.along(from, way);
  std::vector<WallOnLine> result;
  for (const LineCrossing& each : space.along(from, way)) {
    std::optional<double> outer;
    for (const LineCrossing& met : solid) {
      if (each.out && met.out && met.at > each.at + tolerance::samePlace && !outer) outer = met.at;
      if (!each.out && !met.out && met.at < each.at - tolerance::samePlace) outer = met.at;
    }
    if (outer) result.push_back({each.at, *outer});
  }
  return result;
}

}  // namespace

std::optional<DrainPlace> drainAlong(const Shape& walls, const Shape& space, Point middle, Vector way, double radius) {
  const Crossings solid(walls), hollow(space);
  const std::vector<WallOnLine> met = wallsOn(solid, hollow, middle, way);
  const auto nearest = std::min_element(met.begin(), met.end(), [](const WallOnLine& a, const WallOnLine& b) {
    return std::abs(a.outer) < std::abs(b.outer);
  });
  if (nearest == met.end()) return std::nullopt;
  const double ahead = nearest->ahead() ? 1 : -1;
  double inner = ahead * nearest->inner, outer = ahead * nearest->outer;
  const Plane across = Plane::through(middle, way);
  for (int i = 0; i < placesOnRim; ++i) {
    const double angle = 2 * std::numbers::pi * i / placesOnRim;
    const Point place = middle + across.x * (radius * std::cos(angle)) + across.y * (radius * std::sin(angle));
    // The same wall: that on the same side of the space whose inside is nearest.
    std::optional<WallOnLine> same;
    for (const WallOnLine& each : wallsOn(solid, hollow, place, way))
      if (each.ahead() == nearest->ahead() &&
          (!same || std::abs(each.inner - nearest->inner) < std::abs(same->inner - nearest->inner)))
        same = each;
    if (!same) return std::nullopt;
    inner = std::min(inner, ahead * same->inner);
    outer = std::max(outer, ahead * same->outer);
  }
  const Vector out = way * ahead;
  return DrainPlace{middle + out * (inner - radius / 2), out, outer - inner + radius};
}

std::vector<DrainPlace> drainPlaces(const Shape& walls, const Shape& space, Vector down, int count, double radius) {
  return Drains(walls, space, down, radius).places(count);
}

}  // namespace kervo
