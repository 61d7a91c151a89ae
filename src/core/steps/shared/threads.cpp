#include "steps/shared/threads.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/quantity.h"
#include "base/say.h"
#include "geom/curves/curve_body.h"
#include "geom/curves/through_points.h"
#include "geom/measure/crossings.h"
#include "geom/sweep/helical_groove.h"

namespace kervo {

namespace {

/// Of pitches: how much deeper than its larger diameter the core of a thread is, on both sides together.
constexpr double innerDepth = 1.0825, outerDepth = 1.2269;

bool isInside(const Crossings& body, Point point, Vector way) {
  for (const LineCrossing& each : body.along(point, way))
    if (each.at > 0) return each.out;
  return false;
}

}  // namespace

std::optional<ThreadPlace> threadPlaceOf(const Shape& shape, const Face& face) {
  const auto axis = face.axis();
  if (!axis || face.surfaceName() != "cylinder") return std::nullopt;
  ThreadPlace place;
  place.at = Plane::through(axis->point, axis->direction);
  const Point on = face.samplePoint();
  const Vector out = on - axis->point - axis->direction * dot(on - axis->point, axis->direction);
  place.radius = length(out);
  place.inner = dot(out, face.normal()) < 0;
  const Box box = face.boxIn(place.at);
  place.from = box.low.z;
  place.to = box.high.z;
  // A little beyond each end, and a little off the face to the side where the thread's tool is.
  constexpr double beyond = 0.05;
  const Crossings body(shape);
  const double beside = place.radius * (place.inner ? 1 - beyond : 1 + beyond);
  const auto isOpen = [&](double height) {
    constexpr int places = 4;
    for (int i = 0; i < places; ++i) {
      const double angle = 0.3 + i * std::numbers::pi / 2;
      const Point at = place.at.at(beside * std::cos(angle), beside * std::sin(angle), height);
      if (isInside(body, at, place.at.normal)) return false;
    }
    return true;
  };
  place.fromOpen = isOpen(place.from - beyond * place.radius);
  place.toOpen = isOpen(place.to + beyond * place.radius);
  return place;
}

const MetricScrew* screwFor(const ThreadPlace& place) {
  const MetricScrew* best = nullptr;
  double least = Box::infinity;
  for (const MetricScrew& screw : metricScrews()) {
    const double off = std::abs(2 * place.radius - (place.inner ? screw.core : screw.diameter));
    constexpr double share = 0.5;  // of the pitch
    if (off < std::min(least, share * screw.pitch)) {
      least = off;
      best = &screw;
    }
  }
  return best;
}

Shape threadMark(const ThreadForm& form, const ThreadPlace& place) {
  const double other = place.inner ? form.diameter / 2 : (form.diameter - outerDepth * form.pitch) / 2;
  const double turns = (place.to - place.from) / form.pitch;
  constexpr int perTurn = 24;
  const int count = std::max(perTurn, static_cast<int>(std::ceil(perTurn * turns)));
  std::vector<Point> helix;
  for (int i = 0; i <= count; ++i) {
    const double share = static_cast<double>(i) / count, angle = 2 * std::numbers::pi * turns * share;
    helix.push_back(place.at.at(place.radius * std::cos(angle), (form.right ? 1 : -1) * place.radius * std::sin(angle),
                                place.from + (place.to - place.from) * share));
  }
  std::vector<SpaceCurve> circles;
  for (const double height : {place.from, place.to})
    circles.emplace_back(CircularArc{place.at.moved(height), other, 0, 2 * std::numbers::pi});
  return curveBody(circles, edgesOf(curveThrough(helix, Through::Spline, false)));
}

Shape threadCutter(const ThreadForm& form, const ThreadPlace& place, const std::string& name, Progress& progress) {
  const double pitch = form.pitch, nominal = form.diameter / 2, lean = std::tan(std::numbers::pi / 6);
  constexpr double off = 0.05;  // of the pitch: off the face that it cuts into
  std::vector<PlanePoint> section;
  if (place.inner) {
    // A flat of an eighth of the pitch at its bottom, the flanks at 30°.
    const double inner = place.radius - off * pitch, half = pitch / 16, wide = half + (nominal - inner) * lean;
    section = {{inner, -wide}, {nominal, -half}, {nominal, half}, {inner, wide}};
  } else {
    // … of a quarter.
    const double outer = place.radius + off * pitch, core = nominal - innerDepth * pitch / 2;
    const double half = pitch / 8, wide = half + (outer - core) * lean;
    section = {{core, -half}, {outer, -wide}, {outer, wide}, {core, half}};
  }
  HelixForm helix{place.at, pitch, form.right, place.from, place.to};
  helix.from += place.fromOpen ? -pitch : pitch;
  helix.to += place.toOpen ? pitch : -pitch;
  if (helix.to - helix.from < pitch)
    throw Error(say("the face is too short for a thread of %1 mm pitch", formatNumber(pitch, 6)));
  return helicalGroove(helix, section, name, progress);
}

}  // namespace kervo
