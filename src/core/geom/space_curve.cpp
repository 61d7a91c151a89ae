#include "geom/space_curve.h"

#include <numbers>

namespace kervo {

namespace {

constexpr double outlineStep = std::numbers::pi / 36;

Point onCircle(const CircularArc& arc, double angle) {
  return arc.axes.at(arc.radius * std::cos(angle), arc.radius * std::sin(angle));
}

}  // namespace

bool SpaceCurve::closed() const {
  const auto* arc = std::get_if<CircularArc>(&form_);
  return arc && arc->toAngle - arc->fromAngle >= 2 * std::numbers::pi;
}

Point SpaceCurve::at(double t) const {
  if (const auto* arc = std::get_if<CircularArc>(&form_))
    return onCircle(*arc, arc->fromAngle + (arc->toAngle - arc->fromAngle) * t);
  const auto& line = std::get<Segment>(form_);
  return line.from + (line.to - line.from) * t;
}

Vector SpaceCurve::tangentAt(double t) const {
  if (const auto* arc = std::get_if<CircularArc>(&form_)) {
    const double angle = arc->fromAngle + (arc->toAngle - arc->fromAngle) * t;
    return arc->axes.y * std::cos(angle) - arc->axes.x * std::sin(angle);
  }
  const auto& line = std::get<Segment>(form_);
  return normalized(line.to - line.from);
}

double SpaceCurve::length() const {
  if (const auto* arc = std::get_if<CircularArc>(&form_)) return arc->radius * (arc->toAngle - arc->fromAngle);
  const auto& line = std::get<Segment>(form_);
  return distance(line.from, line.to);
}

SpaceCurve SpaceCurve::moved(Vector by) const {
  if (const auto* arc = std::get_if<CircularArc>(&form_)) {
    CircularArc result = *arc;
    result.axes.origin = result.axes.origin + by;
    return result;
  }
  const auto& line = std::get<Segment>(form_);
  return Segment{line.from + by, line.to + by};
}

Polyline SpaceCurve::outline() const {
  const auto* arc = std::get_if<CircularArc>(&form_);
  if (!arc) return {at(0), at(1)};
  const double sweep = arc->toAngle - arc->fromAngle;
  const int steps = std::max(2, static_cast<int>(std::ceil(sweep / outlineStep)));
  Polyline points;
  for (int i = 0; i <= steps; ++i) points.push_back(onCircle(*arc, arc->fromAngle + sweep * i / steps));
  return points;
}

}  // namespace kervo
