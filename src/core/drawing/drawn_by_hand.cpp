#include "drawing/drawn_by_hand.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/say.h"
#include "drawing/drawing_edits.h"
#include "geom/planes.h"

namespace kervo {

namespace {

/// A line this near to level or upright is meant so: the sine of 2°.
constexpr double meantLevel = 0.035;
constexpr int polygonSides = 6;
/// Of a slot and an ellipse that are drawn along their length: how wide they begin.
constexpr double slotWidth = 0.3, ellipseWidth = 0.6;

class Hand {
 public:
  Hand(Drawing& drawing, const Stroke& stroke) : drawing_(drawing), stroke_(stroke) {}

  /// A point of the drawing that is near, or a new one.
  std::string pointAt(PlanePoint at) {
    const DrawnPoint* nearest = nullptr;
    double least = stroke_.reach;
    for (const DrawnPoint& point : drawing_.points)
      if (const double apart = distance(point.last, at); apart <= least) {
        least = apart;
        nearest = &point;
      }
    return nearest ? nearest->id : newPoint(at);
  }
  std::string newPoint(PlanePoint at) {
    drawing_.points.push_back({freeId(drawing_, "p"), at});
    return drawing_.points.back().id;
  }
  std::string curve(const std::string& kind, std::vector<std::string> points, std::vector<double> sizes = {},
                    bool construction = false) {
    DrawnCurve curve{.id = freeId(drawing_, std::string(1, kind[0])), .kind = kind, .numbers = {}};
    curve.points = std::move(points);
    curve.sizes = std::move(sizes);
    curve.construction = construction;
    drawing_.curves.push_back(std::move(curve));
    return drawing_.curves.back().id;
  }
  void hold(const std::string& kind, std::vector<std::string> on) {
    drawing_.constraints.push_back({.id = freeId(drawing_, "k"), .kind = kind, .on = std::move(on)});
  }
  /// Level or upright, if it nearly is and that may be inferred.
  void straighten(const std::string& line, PlanePoint way) {
    if (!stroke_.infer) return;
    const double slack = meantLevel * length(way);
    if (std::abs(way.v) <= slack) hold("horizontal", {line});
    if (std::abs(way.u) <= slack) hold("vertical", {line});
  }
  PlanePoint placeOf(const std::string& point) const {
    return std::find_if(drawing_.points.begin(), drawing_.points.end(),
                        [&](const DrawnPoint& each) { return each.id == point; })
        ->last;
  }

  bool line() {
    const std::string from = pointAt(stroke_.from), to = pointAt(stroke_.to);
    if (from == to) return false;
    straighten(curve("line", {from, to}), placeOf(to) - placeOf(from));
    return true;
  }

  bool circle() {
    curve("circle", {pointAt(stroke_.from)}, {distance(stroke_.from, stroke_.to)});
    return true;
  }

  bool ellipse() {
    const std::string centre = pointAt(stroke_.from), end = pointAt(stroke_.to);
    if (centre == end) return false;
    curve("ellipse", {centre, end}, {ellipseWidth * distance(stroke_.from, stroke_.to)});
    return true;
  }

  bool rectangle(PlanePoint one, PlanePoint other, const std::string& middle = {}) {
    const PlanePoint low{std::min(one.u, other.u), std::min(one.v, other.v)};
    const PlanePoint high{std::max(one.u, other.u), std::max(one.v, other.v)};
    if (!(high.u - low.u > stroke_.reach && high.v - low.v > stroke_.reach)) return false;
    const std::string a = pointAt(low), b = pointAt({high.u, low.v}), c = pointAt(high), d = pointAt({low.u, high.v});
    const std::string bottom = curve("line", {a, b}), right = curve("line", {b, c}), top = curve("line", {c, d}),
                      left = curve("line", {d, a});
    hold("horizontal", {bottom, top});
    hold("vertical", {right, left});
    if (!middle.empty()) hold("midpoint", {middle, a, c});
    return true;
  }

  bool middleRectangle() {
    return rectangle(stroke_.from + stroke_.from - stroke_.to, stroke_.to, pointAt(stroke_.from));
  }

  /// Its corners lie on a circle for construction, and its sides are equal.
  bool polygon() {
    const std::string centre = pointAt(stroke_.from);
    const PlanePoint arm = stroke_.to - stroke_.from;
    const std::string round = curve("circle", {centre}, {length(arm)}, true);
    std::vector<std::string> corners, sides;
    for (int i = 0; i < polygonSides; ++i) {
      const double angle = 2 * std::numbers::pi * i / polygonSides;
      const PlanePoint turned{arm.u * std::cos(angle) - arm.v * std::sin(angle),
                              arm.u * std::sin(angle) + arm.v * std::cos(angle)};
      corners.push_back(i == 0 ? pointAt(stroke_.to) : newPoint(stroke_.from + turned));
      if (corners.back() != centre) hold("on", {corners.back(), round});
    }
    if (corners.front() == centre) return false;
    for (std::size_t i = 0; i < corners.size(); ++i)
      sides.push_back(curve("line", {corners[i], corners[(i + 1) % corners.size()]}));
    hold("equal", sides);
    return true;
  }

  /// Two lines and two arcs that touch them, about the middles of the arcs.
  bool slot() {
    const std::string from = pointAt(stroke_.from), to = pointAt(stroke_.to);
    if (from == to) return false;
    const PlanePoint start = placeOf(from), end = placeOf(to), way = end - start;
    const PlanePoint side = PlanePoint{-way.v, way.u} * (slotWidth / 2);
    const std::string a = newPoint(start - side), b = newPoint(end - side), c = newPoint(end + side),
                      d = newPoint(start + side);
    const std::string low = curve("line", {a, b}), right = curve("arc", {to, b, c}), high = curve("line", {c, d}),
                      left = curve("arc", {from, d, a});
    for (const auto& [line, arc] : {std::pair(low, right), {high, right}, {high, left}, {low, left}})
      hold("tangent", {line, arc});
    hold("equal", {left, right});
    straighten(low, way);
    return true;
  }

 private:
  Drawing& drawing_;
  const Stroke& stroke_;
};

}  // namespace

const std::vector<StrokeKind>& strokeKinds() {
  static const std::vector<StrokeKind> kinds{
      {"line", later("line"), false},           {"circle", later("circle"), true},
      {"rectangle", later("rectangle"), false}, {"middle_rectangle", later("rectangle about its middle"), false},
      {"polygon", later("hexagon"), true},      {"slot", later("slot"), false},
      {"ellipse", later("ellipse"), true}};
  return kinds;
}

Drawing withStroke(Drawing drawing, const Solution& solution, const std::string& kind, const Stroke& stroke) {
  if (solution.points.size() == drawing.points.size()) drawing = moved(std::move(drawing), solution);
  if (!(distance(stroke.from, stroke.to) > stroke.reach)) return drawing;
  Drawing before = drawing;
  Hand hand(drawing, stroke);
  const bool drawn = kind == "line"               ? hand.line()
                     : kind == "circle"           ? hand.circle()
                     : kind == "rectangle"        ? hand.rectangle(stroke.from, stroke.to)
                     : kind == "middle_rectangle" ? hand.middleRectangle()
                     : kind == "polygon"          ? hand.polygon()
                     : kind == "slot"             ? hand.slot()
                     : kind == "ellipse"          ? hand.ellipse()
                                                  : false;
  return drawn ? drawing : before;
}

std::vector<double> sizesOf(const std::string& kind, const Stroke& stroke) {
  const PlanePoint way = stroke.to - stroke.from;
  if (kind == "rectangle") return {std::abs(way.u), std::abs(way.v)};
  if (kind == "middle_rectangle") return {2 * std::abs(way.u), 2 * std::abs(way.v)};
  return {length(way)};
}

}  // namespace kervo
