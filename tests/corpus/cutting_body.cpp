#include "corpus/cutting_body.h"

#include <algorithm>
#include <cmath>
#include <cstdio>

#include "geom/primitives.h"

namespace kervo::corpus {

namespace {

constexpr double endless = 1e12;

double between(std::mt19937& random, double low, double high) {
  return std::uniform_real_distribution<double>(low, high)(random);
}

Vector anyDirection(std::mt19937& random) {
  Vector v;
  do {
    v = {between(random, -1, 1), between(random, -1, 1), between(random, -1, 1)};
  } while (dot(v, v) > 1 || dot(v, v) < 1e-3);
  return normalized(v);
}

Interval common(Interval a, Interval b) {
  return {std::max(a.first, b.first), std::min(a.second, b.second)};
}

/// Where low <= at + t · speed <= high.
Interval layer(double at, double speed, double low, double high) {
  if (std::abs(speed) < 1e-15) return at >= low && at <= high ? Interval{-endless, endless} : Interval{1, -1};
  const auto [first, last] = std::minmax({(low - at) / speed, (high - at) / speed});
  return {first, last};
}

/// Where a t² + 2 b t + c <= 0, for a form that is convex along the ray or becomes so within `within`.
std::vector<Interval> below(double a, double b, double c, Interval within) {
  std::vector<Interval> result;
  const auto add = [&](Interval one) {
    if (const Interval cut = common(one, within); cut.first < cut.second) result.push_back(cut);
  };
  const double discriminant = b * b - a * c;
  if (std::abs(a) < 1e-14) {
    if (std::abs(b) < 1e-14) {
      if (c <= 0) add({-endless, endless});
    } else {
      add(b > 0 ? Interval{-endless, -c / (2 * b)} : Interval{-c / (2 * b), endless});
    }
  } else if (discriminant <= 0) {
    if (a < 0) add({-endless, endless});
  } else {
    const double root = std::sqrt(discriminant);
    const auto [first, last] = std::minmax({(-b - root) / a, (-b + root) / a});
    if (a > 0) {
      add({first, last});
    } else {
      add({-endless, first});
      add({last, endless});
    }
  }
  return result;
}

}  // namespace

const char* nameOf(CutterKind kind) {
  constexpr const char* names[] = {"plane", "slab", "box", "cylinder", "sphere", "cone", "torus"};
  return names[static_cast<int>(kind)];
}

CuttingBody::CuttingBody(CutterKind kind, const kervo::Box& part, std::mt19937& random) : kind_(kind) {
  const kervo::Box reach = part.enlarged(0.02 * part.diagonal());
  const Vector size = reach.high - reach.low;
  const Point centre = reach.low + Vector{size.x * between(random, 0, 1), size.y * between(random, 0, 1),
                                          size.z * between(random, 0, 1)};
  // A third of the cutters stand straight, as most real ones do.
  const Vector axes[] = {{1, 0, 0}, {0, 1, 0}, {0, 0, 1}};
  const Vector normal = random() % 3 == 0 ? axes[random() % 3] : anyDirection(random);
  place_ = Plane::through(centre, normal);
  const double scale = part.diagonal();
  a_ = scale * between(random, 0.03, 0.3);
  b_ = scale * between(random, 0.05, 0.6);
  c_ = scale * between(random, 0.03, 0.4);
  if (kind_ == CutterKind::Slab) a_ = scale * between(random, 0.005, 0.1);
  if (kind_ == CutterKind::Cone) c_ = random() % 3 == 0 ? 0 : a_ * between(random, 0.1, 0.9);
  if (kind_ == CutterKind::Ring) b_ = a_ * between(random, 0.15, 0.8);
}

Shape CuttingBody::body(const kervo::Box& part) const {
  switch (kind_) {
    case CutterKind::HalfSpace:
      return makeSlab("cutter", place_, 0, kervo::Box::infinity, part);
    case CutterKind::Slab:
      return makeSlab("cutter", place_, 0, a_, part);
    case CutterKind::Box:
      return makeBlock("cutter", place_, a_, b_, c_);
    case CutterKind::Cylinder:
      return makeCylinder("cutter", place_, a_, b_);
    case CutterKind::Ball:
      return makeSphere("cutter", place_, a_);
    case CutterKind::Cone:
      return makeCone("cutter", place_, a_, c_, b_);
    case CutterKind::Ring:
      return makeTorus("cutter", place_, a_, b_);
  }
  return {};
}

std::vector<Interval> CuttingBody::along(Point from, Vector direction) const {
  const Vector p = place_.coordinates(from);
  const Vector d{dot(direction, place_.x), dot(direction, place_.y), dot(direction, place_.normal)};
  const auto one = [](Interval interval) {
    return interval.first < interval.second ? std::vector<Interval>{interval} : std::vector<Interval>{};
  };
  switch (kind_) {
    case CutterKind::HalfSpace:
      return one(layer(p.z, d.z, 0, endless));
    case CutterKind::Slab:
      return one(layer(p.z, d.z, 0, a_));
    case CutterKind::Box:
      return one(common(layer(p.x, d.x, 0, a_), common(layer(p.y, d.y, 0, b_), layer(p.z, d.z, 0, c_))));
    case CutterKind::Cylinder:
      return below(d.x * d.x + d.y * d.y, p.x * d.x + p.y * d.y, p.x * p.x + p.y * p.y - a_ * a_,
                   layer(p.z, d.z, 0, b_));
    case CutterKind::Ball:
      return below(dot(d, d), dot(p, d), dot(p, p) - a_ * a_, {-endless, endless});
    case CutterKind::Cone: {
      // x² + y² <= (a + s z)², in the layer where a + s z is positive.
      const double s = (c_ - a_) / b_, r = a_ + s * p.z;
      return below(d.x * d.x + d.y * d.y - s * s * d.z * d.z, p.x * d.x + p.y * d.y - r * s * d.z,
                   p.x * p.x + p.y * p.y - r * r, layer(p.z, d.z, 0, b_));
    }
    case CutterKind::Ring: {
      // Between the sphere that encloses the ring, its signs asked at 400 places and the changes found by halving.
      std::vector<Interval> result;
      const auto hull = below(dot(d, d), dot(p, d), dot(p, p) - (a_ + b_) * (a_ + b_), {-endless, endless});
      if (hull.empty()) return result;
      const auto outside = [&](double t) {
        const Vector q = p + d * t;
        const double ring = std::hypot(q.x, q.y) - a_;
        return ring * ring + q.z * q.z > b_ * b_;
      };
      const auto change = [&](double low, double high) {
        const bool atLow = outside(low);
        for (int i = 0; i < 50; ++i) {
          const double middle = (low + high) / 2;
          (outside(middle) == atLow ? low : high) = middle;
        }
        return low;
      };
      constexpr int places = 400;
      const auto [first, last] = hull.front();
      double start = 0;
      bool isOutside = true;
      for (int i = 1; i <= places; ++i) {
        const double before = first + (last - first) * (i - 1) / places, t = first + (last - first) * i / places;
        const bool now = i == places || outside(t);
        if (now == isOutside) continue;
        const double at = change(before, t);
        if (now) result.emplace_back(start, at);
        start = at;
        isOutside = now;
      }
      return result;
    }
  }
  return {};
}

std::string CuttingBody::text() const {
  char text[300];
  std::snprintf(text, sizeof text, "%s at (%.9g, %.9g, %.9g) along (%.6g, %.6g, %.6g), sizes %.9g %.9g %.9g",
                nameOf(kind_), place_.origin.x, place_.origin.y, place_.origin.z, place_.normal.x, place_.normal.y,
                place_.normal.z, a_, b_, c_);
  return text;
}

}  // namespace kervo::corpus
