#include "geom/measure/thickness.h"

#include <cmath>
#include <numbers>
#include <vector>

#include "geom/flat/flat_curves.h"
#include "geom/topology.h"

namespace kervo {

namespace {

struct Stretch {
  PlanePoint from, to;
};

/// All borders of the faces around a point as straight stretches, the point being the origin.
std::vector<Stretch> bordersAround(const Shape& shape, const Plane& plane, PlanePoint middle) {
  constexpr int steps = 256;
  std::vector<Stretch> result;
  const auto flat = [&](Point point) {
    const Vector at = plane.coordinates(point);
    return PlanePoint{at.x - middle.u, at.y - middle.v};
  };
  for (const Face& face : facesOf(shape))
    for (const auto& loop : flatLoops(face, plane))
      for (const SpaceCurve& curve : loop) {
        const int count = std::holds_alternative<Segment>(curve.form()) ? 1 : steps;
        for (int i = 0; i < count; ++i)
          result.push_back({flat(curve.at(double(i) / count)), flat(curve.at(double(i + 1) / count))});
      }
  return result;
}

/// How far the borders are from the origin along a direction, ahead and behind; and how many are ahead.
struct Across {
  double ahead = Box::infinity, behind = Box::infinity;
  int crossings = 0;
  double length() const { return ahead + behind; }
};

Across chordAlong(const std::vector<Stretch>& borders, double angle) {
  const double x = std::cos(angle), y = std::sin(angle);
  Across chord;
  for (const Stretch& each : borders) {
    const double a = x * each.from.v - y * each.from.u, b = x * each.to.v - y * each.to.u;
    if ((a > 0) == (b > 0)) continue;
    const double t = a / (a - b);
    const double at =
        x * (each.from.u + t * (each.to.u - each.from.u)) + y * (each.from.v + t * (each.to.v - each.from.v));
    if (at > 0) {
      chord.ahead = std::min(chord.ahead, at);
      ++chord.crossings;
    } else {
      chord.behind = std::min(chord.behind, -at);
    }
  }
  return chord;
}

}  // namespace

std::optional<Wall> thicknessAt(const Shape& cutFace, const Plane& plane, Point place) {
  const Vector middle = plane.coordinates(place);
  const std::vector<Stretch> borders = bordersAround(cutFace, plane, {middle.x, middle.y});
  // Inside, an odd number of borders lies ahead; a direction that meets no corner.
  constexpr double oblique = 0.7391;
  if (chordAlong(borders, oblique).crossings % 2 == 0) return std::nullopt;
  constexpr int directions = 720;
  constexpr double step = std::numbers::pi / directions;
  double best = 0;
  for (int i = 1; i < directions; ++i)
    if (chordAlong(borders, i * step).length() < chordAlong(borders, best).length()) best = i * step;
  // The least one lies between its neighbours.
  double low = best - step, high = best + step;
  for (int k = 0; k < 60; ++k) {
    const double third = (high - low) / 3;
    if (chordAlong(borders, low + third).length() < chordAlong(borders, high - third).length())
      high -= third;
    else
      low += third;
  }
  const double refined = (low + high) / 2;
  if (chordAlong(borders, refined).length() < chordAlong(borders, best).length()) best = refined;
  const Across chord = chordAlong(borders, best);
  const double u = std::cos(best), v = std::sin(best);
  return Wall{chord.length(), plane.at(middle.x - u * chord.behind, middle.y - v * chord.behind),
              plane.at(middle.x + u * chord.ahead, middle.y + v * chord.ahead)};
}

}  // namespace kervo
