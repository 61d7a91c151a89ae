#include "steps/shared/key_solids.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <vector>

#include "base/quantity.h"
#include "base/say.h"
#include "drawing/regions.h"
#include "geom/divide/boolean.h"
#include "geom/motion.h"
#include "geom/surface/sheet.h"
#include "geom/sweep/revolve.h"
#include "geom/sweep/sweep.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

/// The middle of its box, in its plane's coordinates.
PlanePoint middleOf(const Region& region) {
  Box box;
  for (const std::vector<PlanePoint>& outline : region.outlines())
    for (const PlanePoint& point : outline) box.add(Point{point.u, point.v, 0});
  return {(box.low.x + box.high.x) / 2, (box.low.y + box.high.y) / 2};
}

}  // namespace

double KeyForm::halfAt(double height) const {
  return width / 2 - std::tan(taper) * std::max(0.0, height);
}

double KeyForm::reachWith(double clearance) const {
  const double half = width / 2 + clearance;
  switch (section) {
    case KeySection::Square:
      return half * std::numbers::sqrt2;
    case KeySection::Hexagonal:
      return half * 2 / std::numbers::sqrt3;
    case KeySection::Drawn: {
      double reach = 0;
      if (!drawn) return half;
      const PlanePoint middle = middleOf(*drawn);
      for (const std::vector<PlanePoint>& outline : drawn->outlines())
        for (const PlanePoint& point : outline)
          reach = std::max(reach, std::hypot(point.u - middle.u, point.v - middle.v));
      return reach + clearance;
    }
    case KeySection::Round:
    case KeySection::Dovetail:
      break;
  }
  return half;
}

namespace {

/// Half its width at a height.
struct KeyLevel {
  double height, half;
};

Shape turned(const std::vector<KeyLevel>& levels, const Plane& plane, const std::string& name, Progress& progress) {
  const Plane section{plane.origin, plane.x, plane.normal, cross(plane.x, plane.normal)};
  std::vector<PlanarCurve> outline;
  const auto line = [&](const std::string& id, PlanePoint from, PlanePoint to) {
    outline.emplace_back(id, LineCurve(from, to));
  };
  line("bottom", {0, levels.front().height}, {levels.front().half, levels.front().height});
  for (std::size_t i = 1; i < levels.size(); ++i)
    line("side" + std::to_string(i), {levels[i - 1].half, levels[i - 1].height}, {levels[i].half, levels[i].height});
  line("end", {levels.back().half, levels.back().height}, {0, levels.back().height});
  line("axis", {0, levels.back().height}, {0, levels.front().height});
  return revolved(findRegions(section, outline, progress).front(), name, {plane.origin, plane.normal}, 0,
                  2 * std::numbers::pi, progress);
}

/// Between two levels, with flat sides.
Shape prism(const KeyLevel& from, const KeyLevel& to, int sides, const Plane& plane, const std::string& name,
            Progress& progress) {
  std::vector<PlanarCurve> outline;
  const double step = 2 * std::numbers::pi / sides, corner = from.half / std::cos(step / 2);
  const auto at = [&](int i) {
    return PlanePoint{corner * std::cos(step * (i + 0.5)), corner * std::sin(step * (i + 0.5))};
  };
  for (int i = 0; i < sides; ++i) outline.emplace_back("flat" + std::to_string(i + 1), LineCurve(at(i), at(i + 1)));
  const double height = to.height - from.height;
  const SweptRegion swept{
      findRegions(plane.moved(from.height), outline, progress).front(), name, true, 0, height, false, {}};
  const double lean = std::atan2(from.half - to.half, height);
  return std::abs(lean) < tolerance::sameDirection ? solidOf(swept) : drafted(swept, lean);
}

/// Straight, `clearance` larger on all sides but at its ends.
Shape drawnSolid(const Region& region, const Plane& plane, double low, double high, double clearance,
                 const std::string& name, Progress& progress) {
  const Plane& drawn = region.plane();
  // As it lies in the drawing, or along the plane's own axes if that stands across.
  const Vector along = drawn.x - plane.normal * dot(drawn.x, plane.normal);
  constexpr double upright = 0.1;
  Plane at = plane;
  if (length(along) > upright) {
    at.x = normalized(along);
    at.y = cross(at.normal, at.x);
  }
  const PlanePoint middle = middleOf(region);
  Plane from = drawn;
  from.origin = drawn.at(middle.u, middle.v);
  const double height = high - low - 2 * clearance;
  if (height < tolerance::smallestSize)
    throw Error(say("a peg of %1 mm has no room", formatNumber(high - low, 6)), "", say("Make it longer"));
  const Shape straight = solidOf(SweptRegion{region, name, true, 0, height, false, {}});
  const Shape placed = moved(straight, Motion::onto(from, at.moved(low + clearance)));
  return clearance > 0 ? grown(placed, clearance, progress) : placed;
}

}  // namespace

Shape railSolid(const KeyForm& form, const Plane& plane, double from, double to, double deep, double clearance,
                const std::string& name, Progress& progress) {
  const double neck = form.width / 2 + clearance / std::cos(form.taper), lean = std::tan(form.taper);
  const double root = std::min(form.width, deep) / 4;
  const Plane across{plane.at(from, 0), plane.y, plane.normal, plane.x};
  const std::vector<std::pair<const char*, PlanePoint>> corners{{"root", {-neck, -root}},
                                                                {"right", {neck, -root}},
                                                                {"right2", {neck, 0}},
                                                                {"head", {neck + lean * deep, deep}},
                                                                {"left", {-neck - lean * deep, deep}},
                                                                {"left2", {-neck, 0}}};
  std::vector<PlanarCurve> outline;
  for (std::size_t i = 0; i < corners.size(); ++i)
    outline.emplace_back(corners[i].first, LineCurve(corners[i].second, corners[(i + 1) % corners.size()].second));
  return solidOf(SweptRegion{findRegions(across, outline, progress).front(), name, true, 0, to - from, false, {}});
}

Shape keySolid(const KeyForm& form, const Plane& plane, double low, double high, double clearance, bool hole,
               const std::string& name, Progress& progress) {
  if (form.section == KeySection::Drawn && form.drawn)
    return drawnSolid(*form.drawn, plane, low, high, clearance, name, progress);
  std::vector<KeyLevel> levels{{low, form.width / 2 + clearance}};
  if (low < 0 && form.taper != 0) levels.push_back({0, form.width / 2 + clearance});
  const double tip = hole ? 0 : std::min(form.tip, high / 2);
  levels.push_back({high - tip, form.halfAt(high - tip) + clearance});
  if (tip > tolerance::smallestSize) levels.push_back({high, form.halfAt(high - tip) + clearance - tip});
  if (levels.back().half < tolerance::smallestSize)
    throw Error(say("the sides of a peg meet before its end"), "",
                say("Make it wider or shorter, or let it lean less"));
  if (form.section == KeySection::Round) return turned(levels, plane, name, progress);
  constexpr int square = 4, hexagon = 6;
  std::vector<Shape> parts;
  for (std::size_t i = 1; i < levels.size(); ++i)
    parts.push_back(prism(levels[i - 1], levels[i], form.section == KeySection::Square ? square : hexagon, plane,
                          i + 1 == levels.size() && !hole ? name : name + ":part" + std::to_string(i), progress));
  return parts.size() == 1 ? parts.front() : unite(parts, progress).shape;
}

}  // namespace kervo
