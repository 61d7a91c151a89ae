#include "steps/shared/key_solids.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <vector>

#include "base/say.h"
#include "drawing/regions.h"
#include "geom/divide/boolean.h"
#include "geom/sweep/revolve.h"
#include "geom/sweep/sweep.h"
#include "geom/tolerances.h"

namespace kervo {

double KeyForm::halfAt(double height) const {
  return width / 2 - std::tan(taper) * std::max(0.0, height);
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

}  // namespace

Shape keySolid(const KeyForm& form, const Plane& plane, double low, double high, double clearance, bool hole,
               const std::string& name, Progress& progress) {
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
