#include "steps/shared/met_bodies.h"

#include <algorithm>
#include <cmath>

#include "geom/display/outline.h"
#include "geom/divide/boolean.h"
#include "geom/measure/approach.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

bool isAcross(const Face& face, Vector way) {
  const auto plane = face.plane();
  return plane && length(cross(plane->normal, way)) < tolerance::parallel;
}

/// How wide the face of a body is on which a face of a part lies: of a strip, its width; of a square, half its side.
double meanWidth(const std::vector<Face>& faces, const Shape& body, const Face& of) {
  const Point at = of.samplePoint();
  for (const Face& face : faces) {
    if (!isAcross(face, of.normal()) || dot(face.normal(), of.normal()) < 0 ||
        face.distanceTo(at) > tolerance::samePlace)
      continue;
    double around = 0;
    for (const Edge& edge : edgesAround(body, face)) around += edge.length();
    return around > 0 ? 2 * face.area() / around : 0;
  }
  return 0;
}

bool isSlab(const MetPart& met, const SweptRegion& through, const Shape& body, const std::vector<Face>& bodyFaces) {
  const Vector way = normalOf(through.region);
  const std::string side = through.name + ":side:";
  const double base = dot(middleOf(through.region), way);
  bool goesOn = false;
  std::vector<Face> ends;
  for (const Face& face : facesOf(met.part)) {
    if (face.origins().front().starts_with(side)) {
      goesOn = true;
    } else if (isAcross(face, way)) {
      const double at = dot(face.samplePoint(), way) - base;
      if (at - met.low > tolerance::samePlace && met.high - at > tolerance::samePlace) return false;  // a step
      ends.push_back(face);
    } else if (std::abs(dot(face.normal(), way)) > tolerance::samePlace) {
      return false;  // it leans; others are borders of the slab
    }
  }
  if (!goesOn || ends.empty()) return false;
  const double thick = met.high - met.low;
  return std::all_of(ends.begin(), ends.end(),
                     [&](const Face& end) { return meanWidth(bodyFaces, body, end) > thick; });
}

}  // namespace

std::vector<MetPart> metBy(const SweptRegion& through, StepInputs& inputs, const std::vector<BodyId>& stock,
                           Progress& progress) {
  const Vector way = normalOf(through.region);
  const double base = dot(middleOf(through.region), way);
  const Shape swept = solidOf(through);
  std::vector<MetPart> result;
  for (const BodyId& body : stock) {
    progress.throwIfStopped();
    if (!inputs.box(body).overlaps(swept.roughBox()) || inputs.shape(body).kind() != BodyKind::Solid) continue;
    const Shape shape = inputs.shape(body);
    const std::vector<Face> faces = facesOf(shape);
    for (const Shape& part : divide(shape, {swept}, progress).inside.pieces()) {
      const auto [low, high] = extentAlong(part, way);
      MetPart& met = result.emplace_back(MetPart{body, part, low - base, high - base});
      met.slab = isSlab(met, through, shape, faces);
    }
  }
  std::stable_sort(result.begin(), result.end(), [](const MetPart& a, const MetPart& b) { return a.low < b.low; });
  return result;
}

std::vector<SweptRegion> cuttersFor(const SweptRegion& through, const BodyId& body, const std::vector<MetPart>& met,
                                    const std::vector<bool>& chosen) {
  std::vector<std::size_t> own;
  for (std::size_t i = 0; i < met.size(); ++i)
    if (met[i].body == body) own.push_back(i);
  std::vector<SweptRegion> result;
  for (std::size_t i = 0; i < own.size();) {
    if (!chosen[own[i]]) {
      ++i;
      continue;
    }
    // A run of parts that go, and the air around it.
    std::size_t end = i;
    double high = met[own[i]].high;
    while (end + 1 < own.size() && chosen[own[end + 1]]) high = std::max(high, met[own[++end]].high);
    double below = -Box::infinity;
    for (std::size_t k = 0; k < i; ++k) below = std::max(below, met[own[k]].high);
    const double low = met[own[i]].low;
    const double above = end + 1 < own.size() ? met[own[end + 1]].low : Box::infinity;
    const bool clear = below < low - tolerance::samplePoint && above > high + tolerance::samplePoint;
    if (clear) {
      // Half-way through the air, so that no face is grazed.
      SweptRegion& cutter = result.emplace_back(through);
      cutter.from = below == -Box::infinity ? low - 1 : (low + below) / 2;
      cutter.to = above == Box::infinity ? high + 1 : (high + above) / 2;
    } else {
      for (std::size_t k = i; k <= end; ++k) {
        SweptRegion& cutter = result.emplace_back(through);
        cutter.straight = false;
        cutter.cutter = met[own[k]].part;
      }
    }
    i = end + 1;
  }
  return result;
}

}  // namespace kervo
