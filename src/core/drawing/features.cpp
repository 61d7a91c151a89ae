#include "drawing/features.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "base/error.h"
#include "base/say.h"
#include "drawing/drawing_edits.h"
#include "drawing/drawing_result.h"
#include "geom/planes.h"

namespace kervo {

namespace {

struct Corner {
  std::size_t first, second;           ///< the lines
  PlanePoint at, toFirst, toSecond;    ///< where it is, and unit directions along the lines
  double longFirst, longSecond, half;  ///< how long the lines are, and half the angle between them
};

PlanePoint unit(PlanePoint way) {
  return way * (1 / length(way));
}

Corner cornerAt(const Drawing& drawing, const std::string& point) {
  const std::string place = say("point \"%1\"", point);
  const auto index = drawing.point(point);
  if (!index) throw Error(say("the drawing has no point \"%1\"", point), "", say("Choose another one"));
  std::vector<std::size_t> lines;
  for (std::size_t i = 0; i < drawing.curves.size(); ++i) {
    const DrawnCurve& curve = drawing.curves[i];
    if (std::find(curve.points.begin(), curve.points.end(), point) == curve.points.end()) continue;
    if (curve.kind != "line")
      throw Error(say("only corners of two lines can be cut"), place, say("Choose such a point"));
    lines.push_back(i);
  }
  if (lines.size() != 2)
    throw Error(say("%1 lines end there", lines.size()), place, say("Choose a point in which two lines end"));
  const PlanePoint at = drawing.points[*index].last;
  const auto way = [&](std::size_t line) {
    const auto& ends = drawing.curves[line].points;
    return drawing.points[drawing.pointAt(ends[0] == point ? ends[1] : ends[0])].last - at;
  };
  const PlanePoint first = way(lines[0]), second = way(lines[1]);
  Corner corner{lines[0], lines[1], at, unit(first), unit(second), length(first), length(second), 0};
  corner.half = std::atan2(std::abs(cross(corner.toFirst, corner.toSecond)), dot(corner.toFirst, corner.toSecond)) / 2;
  constexpr double straight = 1e-3;
  if (corner.half < straight || corner.half > std::acos(-1.0) / 2 - straight)
    throw Error(say("the two lines go the same way there"), place, say("Choose a point in which they form a corner"));
  return corner;
}

class CornerCut {
 public:
  CornerCut(Drawing drawing, const std::string& point)
      : point_(point), corner_(cornerAt(drawing, point)), result_{std::move(drawing)} {}

  const Corner& corner() const { return corner_; }

  /// Both lines end that far before the corner: the new ends. The corner stays on both lines.
  std::pair<std::string, std::string> shorten(double by) {
    const double most = std::min(corner_.longFirst, corner_.longSecond);
    if (!(by > 0) || by >= most)
      throw Error(say("it would take %1 mm of a line that is %2 mm long", formatNumber(std::round(by * 1e3) / 1e3),
                      formatNumber(std::round(most * 1e3) / 1e3)),
                  say("point \"%1\"", point_), say("Type a smaller size"));
    const std::string a = newPoint(corner_.at + corner_.toFirst * by), b = newPoint(corner_.at + corner_.toSecond * by);
    first_ = result_.drawing.curves[corner_.first].id;
    second_ = result_.drawing.curves[corner_.second].id;
    holdOn(corner_.first);
    holdOn(corner_.second);
    auto& curves = result_.drawing.curves;
    std::replace(curves[corner_.first].points.begin(), curves[corner_.first].points.end(), point_, a);
    std::replace(curves[corner_.second].points.begin(), curves[corner_.second].points.end(), point_, b);
    hold("on", {point_, first_});
    hold("on", {point_, second_});
    return {a, b};
  }
  std::string newPoint(PlanePoint at) {
    result_.drawing.points.push_back({freeId(result_.drawing, "p"), at});
    return result_.drawing.points.back().id;
  }
  std::string curve(const std::string& kind, std::vector<std::string> points) {
    DrawnCurve curve{.id = freeId(result_.drawing, std::string(1, kind[0])), .kind = kind, .numbers = {}};
    curve.points = std::move(points);
    result_.drawing.curves.push_back(curve);
    return curve.id;
  }
  void hold(const std::string& kind, std::vector<std::string> on, std::optional<Expression> value = {}) {
    result_.drawing.constraints.push_back(
        {.id = freeId(result_.drawing, "k"), .kind = kind, .on = std::move(on), .value = std::move(value)});
  }
  const std::string& first() const { return first_; }
  const std::string& second() const { return second_; }
  Trimmed result() { return std::move(result_); }

 private:
  /// What spoke of the whole line speaks of the corner and its other end.
  void holdOn(std::size_t line) {
    const std::string id = result_.drawing.curves[line].id;
    const std::vector<std::string> ends = result_.drawing.curves[line].points;
    std::erase_if(result_.drawing.constraints, [&](DrawnConstraint& constraint) {
      const auto named = std::find(constraint.on.begin(), constraint.on.end(), id);
      if (named == constraint.on.end()) return false;
      if (constraint.kind == "length") {
        constraint.kind = "distance";
        constraint.on = ends;
      } else if (constraint.kind == "midpoint" && constraint.on.size() == 2) {
        constraint.on = {constraint.on[named == constraint.on.begin() ? 1 : 0], ends[0], ends[1]};
      } else if (constraint.kind == "equal") {
        constraint.on.erase(named);
        if (constraint.on.size() > 1) return false;
        result_.lost.push_back(constraint.id);
        return true;
      }
      return false;
    });
  }

  std::string point_, first_, second_;
  Corner corner_;
  Trimmed result_;
};

}  // namespace

Trimmed withRoundCorner(Drawing drawing, const std::string& point, const Expression& radius, double value) {
  CornerCut cut(std::move(drawing), point);
  const Corner corner = cut.corner();
  const auto [a, b] = cut.shorten(value / std::tan(corner.half));
  const PlanePoint middle = unit(corner.toFirst + corner.toSecond);
  const std::string centre = cut.newPoint(corner.at + middle * (value / std::sin(corner.half)));
  // Counter-clockwise: past the corner, seen from the centre.
  const bool turns = cross(corner.toFirst, corner.toSecond) > 0;
  const std::string arc = cut.curve("arc", {centre, turns ? b : a, turns ? a : b});
  cut.hold("tangent", {cut.first(), arc});
  cut.hold("tangent", {cut.second(), arc});
  cut.hold("radius", {arc}, radius);
  return cut.result();
}

Trimmed withChamferedCorner(Drawing drawing, const std::string& point, const Expression& distance, double value) {
  CornerCut cut(std::move(drawing), point);
  const auto [a, b] = cut.shorten(value);
  cut.curve("line", {a, b});
  cut.hold("distance", {point, a}, distance);
  cut.hold("distance", {point, b}, distance);
  return cut.result();
}

double sizeForCorner(const Drawing& drawing, const std::string& point) {
  const Corner corner = cornerAt(drawing, point);
  // A tenth of the shorter line, as 1, 2 or 5 times a power of ten.
  const double wanted = std::min(corner.longFirst, corner.longSecond) / 9.99 * std::min(1.0, std::tan(corner.half));
  const double power = std::pow(10, std::floor(std::log10(wanted)));
  return wanted >= 5 * power ? 5 * power : wanted >= 2 * power ? 2 * power : power;
}

Drawing withMirrored(Drawing drawing, const std::vector<std::string>& curves, const std::string& line,
                     const DrawingValues& values, const Solution& solution) {
  PlanePoint from, way{1, 0};
  if (line == vAxisId) way = {0, 1};
  if (line != uAxisId && line != vAxisId) {
    const std::vector<PlanarCurve> all = curvesOf(drawing, values, solution, true);
    const auto axis = std::find_if(all.begin(), all.end(), [&](const PlanarCurve& each) { return each.id == line; });
    const auto carrier = axis == all.end() ? std::nullopt : axis->geometry->carrier();
    if (!carrier || carrier->radius > 0)
      throw Error(say("curves can only be mirrored across a line"), say("curve \"%1\"", line),
                  say("Choose a line last"));
    from = carrier->from;
    way = unit(carrier->to - carrier->from);
  }
  drawing = moved(std::move(drawing), solution);
  const auto hold = [&](const std::string& kind, std::vector<std::string> on) {
    drawing.constraints.push_back({.id = freeId(drawing, "k"), .kind = kind, .on = std::move(on)});
  };
  std::map<std::string, std::string> there;  // of each point, the one on the other side
  const auto across = [&](const std::string& point) {
    if (const auto known = there.find(point); known != there.end()) return known->second;
    const PlanePoint at = drawing.points[drawing.pointAt(point)].last;
    const PlanePoint foot = from + way * dot(at - from, way);
    if (distance(foot, at) < tolerance::point) return there[point] = point;
    const std::string id = freeId(drawing, "p");
    drawing.points.push_back({id, foot + (foot - at)});
    hold("symmetric", {line, point, id});
    return there[point] = id;
  };
  for (const std::string& id : curves) {
    const auto index = drawing.curve(id);
    if (!index || id == line) continue;
    DrawnCurve copy = drawing.curves[*index];
    if (copy.points.empty())
      throw Error(say("a curve that is given by numbers cannot be mirrored"), say("curve \"%1\"", id),
                  say("Draw it with the mouse instead"));
    if (copy.kind == "ellipse" || copy.kind == "elliptical_arc")
      throw Error(say("ellipses cannot be mirrored yet"), say("curve \"%1\"", id), say("Leave it out"));
    for (std::string& point : copy.points) point = across(point);
    if (copy.points == drawing.curves[*index].points && copy.kind != "arc") continue;  // it lies on the line
    // The other way round, seen from the other side.
    if (copy.kind == "arc") std::swap(copy.points[1], copy.points[2]);
    copy.id = freeId(drawing, std::string(1, copy.kind[0]));
    drawing.curves.push_back(copy);
    if (copy.kind == "circle") hold("equal", {id, copy.id});
  }
  return drawing;
}

}  // namespace kervo
