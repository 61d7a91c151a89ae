#include "drawing/drawn_by_hand.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <optional>

#include "base/quantity.h"
#include "base/say.h"
#include "drawing/drawing_edits.h"
#include "drawing/text_outline.h"
#include "geom/planes.h"

namespace kervo {

namespace {

/// A line this near to level or upright is meant so: the sine of 2°.
constexpr double meantLevel = 0.035;
/// Of a slot and an ellipse that are drawn along their length: how wide they begin.
constexpr double slotWidth = 0.3, ellipseWidth = 0.6;

/// The middle of the circle through three points; nothing if they lie in one line.
std::optional<PlanePoint> middleOf(PlanePoint a, PlanePoint b, PlanePoint c) {
  const PlanePoint ab = b - a, ac = c - a;
  const double twice = 2 * cross(ab, ac);
  if (std::abs(twice) < 1e-9 * length(ab) * length(ac)) return std::nullopt;
  const double bb = dot(ab, ab), cc = dot(ac, ac);
  return a + PlanePoint{ac.v * bb - ab.v * cc, ab.u * cc - ac.u * bb} * (1 / twice);
}

PlanePoint leftOf(PlanePoint way) {
  return {-way.v, way.u};
}

class Hand {
 public:
  Hand(Drawing& drawing, const Stroke& stroke) : drawing_(drawing), stroke_(stroke) {}

  bool draw(const std::string& kind) {
    if (kind == "line" || kind == "chain") return line();
    if (kind == "arc") return arc();
    if (kind == "circle") return circle();
    if (kind == "circle_through") return circleThrough();
    if (kind == "rectangle") return rectangle(stroke_.from(), stroke_.to());
    if (kind == "middle_rectangle") return middleRectangle();
    if (kind == "tilted_rectangle") return tiltedRectangle();
    if (kind == "polygon") return polygon();
    if (kind == "slot") return slot();
    if (kind == "ellipse") return ellipse();
    if (kind == "text") return text();
    if (kind == "spline" || kind == "control_spline") return spline(kind);
    return false;
  }

 private:
  /// The point at one of the stroke's places: one that is there, or a new one, held by what the place was taken for.
  std::string pointAt(const Snap& snap) {
    if (snap.to == SnapTo::Point && snap.on.front() != originId) return snap.on.front();
    for (const auto& [at, id] : placed_)
      if (at == snap.at) return id;
    const DrawnPoint* nearest = nullptr;
    double least = stroke_.reach;
    for (const DrawnPoint& point : drawing_.points)
      if (const double apart = distance(point.last, snap.at); apart <= least) {
        least = apart;
        nearest = &point;
      }
    if (nearest) return nearest->id;
    const std::string id = newPoint(snap.at);
    placed_.emplace_back(snap.at, id);
    if (stroke_.infer) holdWhere(snap, id);
    return id;
  }
  void holdWhere(const Snap& snap, const std::string& point) {
    switch (snap.to) {
      case SnapTo::Point:
        return hold("coincident", {point, originId});
      case SnapTo::Middle:
        return hold("midpoint", {point, snap.on.front()});
      case SnapTo::Quadrant:
        hold("on", {point, snap.on.front()});
        return hold(snap.level ? "horizontal" : "vertical", {point, centreOf(snap.on.front())});
      case SnapTo::Crossing:
      case SnapTo::Curve:
      case SnapTo::Tangent:
      case SnapTo::Square:
        for (const std::string& curve : snap.on) hold("on", {point, curve});
        return;
      case SnapTo::Free:
      case SnapTo::Grid:
      case SnapTo::Level:
      case SnapTo::Upright:
      case SnapTo::BodyCorner:
      case SnapTo::BodyMiddle:
      case SnapTo::BodyCentre:
      case SnapTo::BodyEdge:
        return;
    }
  }
  /// What a line that ends at a place is held by besides.
  void holdWay(const Snap& snap, const std::string& line) {
    if (!stroke_.infer) return;
    if (snap.to == SnapTo::Tangent) hold("tangent", {line, snap.on.front()});
    if (snap.to == SnapTo::Square) hold("perpendicular", {line, snap.on.front()});
  }
  std::string centreOf(const std::string& curve) const {
    const DrawnCurve& round = drawing_.curves[drawing_.curveAt(curve)];
    return round.points.empty() ? curve + ".centre" : round.points.front();
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
  bool typed(std::size_t size) const { return size < stroke_.sizes.size() && !stroke_.sizes[size].text().empty(); }
  /// A dimension, if its size was typed.
  void measure(std::size_t size, const std::string& kind, std::vector<std::string> on) {
    if (!typed(size)) return;
    hold(kind, std::move(on));
    drawing_.constraints.back().value = stroke_.sizes[size];
  }
  /// Level or upright, if it nearly is and that may be inferred.
  void straighten(const std::string& line, PlanePoint way) {
    if (!stroke_.infer) return;
    const double slack = meantLevel * length(way);
    if (std::abs(way.v) <= slack) hold("horizontal", {line});
    if (std::abs(way.u) <= slack) hold("vertical", {line});
  }
  PlanePoint placeOf(const std::string& point) const { return drawing_.points[drawing_.pointAt(point)].last; }
  /// The id of the point at a corner: one of the stroke's places, or a new one.
  std::string corner(PlanePoint at) {
    for (const Snap& snap : stroke_.at)
      if (snap.at == at) return pointAt(snap);
    return pointAt(Snap{at});
  }

  bool line() {
    const Snap &start = stroke_.at.front(), &end = stroke_.at.back();
    const std::string from = pointAt(start), to = pointAt(end);
    if (from == to) return false;
    const std::string line = curve("line", {from, to});
    holdWay(end, line);
    const bool square = end.to == SnapTo::Tangent || end.to == SnapTo::Square;
    if (!square && !typed(1)) straighten(line, placeOf(to) - placeOf(from));
    measure(0, "length", {line});
    measure(1, "angle", {line});
    return true;
  }

  /// From the first place to the second, through the third.
  bool arc() {
    const PlanePoint a = stroke_.at[0].at, b = stroke_.at[1].at, through = stroke_.at[2].at;
    const auto middle = middleOf(a, b, through);
    if (!middle) return false;
    const std::string from = pointAt(stroke_.at[0]), to = pointAt(stroke_.at[1]), centre = newPoint(*middle);
    if (from == to) return false;
    // Counter-clockwise: the place it goes through lies to the right of the way from its start to its end.
    const bool turns = cross(b - a, through - a) < 0;
    const std::string arc = curve("arc", {centre, turns ? from : to, turns ? to : from});
    measure(0, "radius", {arc});
    return true;
  }

  bool circle() {
    const std::string centre = pointAt(stroke_.at.front());
    const Snap& end = stroke_.at.back();
    const std::string round = curve("circle", {centre}, {distance(stroke_.from(), stroke_.to())});
    if (stroke_.infer && !typed(0)) {
      if (end.to == SnapTo::Point) hold("on", {end.on.front(), round});
      if (end.to == SnapTo::Square || end.to == SnapTo::Tangent) hold("tangent", {end.on.front(), round});
    }
    measure(0, "diameter", {round});
    return true;
  }

  bool circleThrough() {
    const PlanePoint a = stroke_.at[0].at, b = stroke_.at[1].at, c = stroke_.at[2].at;
    const auto middle = middleOf(a, b, c);
    if (!middle) return false;
    const std::string centre = newPoint(*middle);
    const std::string round = curve("circle", {centre}, {distance(*middle, a)});
    for (const Snap& snap : stroke_.at) hold("on", {pointAt(snap), round});
    return true;
  }

  bool ellipse() {
    const std::string centre = pointAt(stroke_.at.front()), end = pointAt(stroke_.at.back());
    if (centre == end) return false;
    curve("ellipse", {centre, end}, {ellipseWidth * distance(stroke_.from(), stroke_.to())});
    measure(0, "distance", {centre, end});
    return true;
  }

  bool rectangle(PlanePoint one, PlanePoint other, const std::string& middle = {}) {
    const PlanePoint low{std::min(one.u, other.u), std::min(one.v, other.v)};
    const PlanePoint high{std::max(one.u, other.u), std::max(one.v, other.v)};
    if (!(high.u - low.u > stroke_.reach && high.v - low.v > stroke_.reach)) return false;
    const std::string a = corner(low), b = corner({high.u, low.v}), c = corner(high), d = corner({low.u, high.v});
    const std::string bottom = curve("line", {a, b}), right = curve("line", {b, c}), top = curve("line", {c, d}),
                      left = curve("line", {d, a});
    hold("horizontal", {bottom, top});
    hold("vertical", {right, left});
    if (!middle.empty()) hold("midpoint", {middle, a, c});
    measure(0, "length", {bottom});
    measure(1, "length", {right});
    return true;
  }

  bool middleRectangle() {
    return rectangle(stroke_.from() + stroke_.from() - stroke_.to(), stroke_.to(), pointAt(stroke_.at.front()));
  }

  /// Along its first side, then as far as the third place lies to its side.
  bool tiltedRectangle() {
    const PlanePoint start = stroke_.at[0].at, end = stroke_.at[1].at, way = end - start;
    const double size = length(way);
    const double height = size > 0 ? cross(way, stroke_.at[2].at - start) / size : 0;
    if (!(size > stroke_.reach && std::abs(height) > stroke_.reach)) return false;
    const PlanePoint up = leftOf(way) * (height / size);
    const std::string a = pointAt(stroke_.at[0]), b = pointAt(stroke_.at[1]), c = newPoint(end + up),
                      d = newPoint(start + up);
    if (a == b) return false;
    const std::string bottom = curve("line", {a, b}), right = curve("line", {b, c}), top = curve("line", {c, d}),
                      left = curve("line", {d, a});
    hold("perpendicular", {bottom, right});
    hold("parallel", {bottom, top});
    hold("parallel", {right, left});
    straighten(bottom, way);
    measure(0, "length", {bottom});
    measure(1, "length", {right});
    return true;
  }

  /// Its corners lie on a circle for construction, and its sides are equal.
  bool polygon() {
    const std::string centre = pointAt(stroke_.at.front());
    const PlanePoint arm = stroke_.to() - stroke_.from();
    const std::string round = curve("circle", {centre}, {length(arm)}, true);
    std::vector<std::string> corners, sides;
    for (int i = 0; i < stroke_.sides; ++i) {
      const double angle = 2 * std::numbers::pi * i / stroke_.sides;
      const PlanePoint turned{arm.u * std::cos(angle) - arm.v * std::sin(angle),
                              arm.u * std::sin(angle) + arm.v * std::cos(angle)};
      corners.push_back(i == 0 ? pointAt(stroke_.at.back()) : newPoint(stroke_.from() + turned));
      if (corners.back() != centre) hold("on", {corners.back(), round});
    }
    if (corners.front() == centre) return false;
    for (std::size_t i = 0; i < corners.size(); ++i)
      sides.push_back(curve("line", {corners[i], corners[(i + 1) % corners.size()]}));
    hold("equal", sides);
    measure(0, "diameter", {round});
    return true;
  }

  /// Two lines and two arcs that touch them, about the middles of the arcs.
  bool slot() {
    const std::string from = pointAt(stroke_.at.front()), to = pointAt(stroke_.at.back());
    if (from == to) return false;
    const PlanePoint start = placeOf(from), end = placeOf(to), way = end - start;
    const PlanePoint side = leftOf(way) * (slotWidth / 2);
    const std::string a = newPoint(start - side), b = newPoint(end - side), c = newPoint(end + side),
                      d = newPoint(start + side);
    const std::string low = curve("line", {a, b}), right = curve("arc", {to, b, c}), high = curve("line", {c, d}),
                      left = curve("arc", {from, d, a});
    for (const auto& [line, arc] : {std::pair(low, right), {high, right}, {high, left}, {low, left}})
      hold("tangent", {line, arc});
    hold("equal", {left, right});
    straighten(low, way);
    measure(0, "length", {low});
    measure(1, "diameter", {right});
    return true;
  }

  /// As long as the stroke, along it.
  bool text() {
    const std::string start = pointAt(stroke_.at.front());
    const PlanePoint way = stroke_.to() - stroke_.from();
    const std::string letters = say("Text");
    double width = 0;
    for (const PlanarCurve& part : textOutline("t", letters, 1, {}))
      width = std::max(width, part.geometry->box().high.u);
    const double high = length(way) / width, unit = std::pow(10, std::floor(std::log10(high)) - 1);
    double angle = std::atan2(way.v, way.u) * 180 / std::numbers::pi;
    if (stroke_.infer && std::abs(way.v) <= meantLevel * length(way)) angle = 0;
    curve("text", {start});
    DrawnCurve& drawn = drawing_.curves.back();
    drawn.text = letters;
    drawn.numbers = {Expression(formatNumber(std::round(high / unit) * unit) + " mm"),
                     Expression(formatNumber(std::round(angle * 10) / 10) + " deg")};
    return true;
  }

  /// Through its places, or drawn towards them. One that ends where it begins is closed.
  bool spline(const std::string& kind) {
    std::vector<std::string> points;
    for (const Snap& snap : stroke_.at) {
      const std::string point = pointAt(snap);
      if (points.empty() || points.back() != point) points.push_back(point);
    }
    const bool closed = points.size() > 3 && points.front() == points.back();
    if (closed) points.pop_back();
    if (points.size() < 2 || (kind == "control_spline" && points.size() < 3)) return false;
    const int count = static_cast<int>(points.size());
    curve(kind, std::move(points));
    DrawnCurve& drawn = drawing_.curves.back();
    drawn.closed = closed;
    if (kind == "control_spline") drawn.degree = std::min(3, count - 1);
    return true;
  }

  Drawing& drawing_;
  const Stroke& stroke_;
  std::vector<std::pair<PlanePoint, std::string>> placed_;
};

}  // namespace

const std::vector<StrokeKind>& strokeKinds() {
  static const StrokeKind::Size length{later("length")}, width{later("width")}, height{later("height")},
      diameter{later("diameter")}, radius{later("radius")}, angle{later("angle"), angleDimension};
  static const std::vector<StrokeKind> kinds{
      {.name = "line", .label = later("line"), .brief = later("line"), .sizes = {length, angle}},
      {.name = "chain", .label = later("chain"), .brief = later("chain"), .chain = true, .sizes = {length, angle}},
      {.name = "arc", .label = later("arc"), .brief = later("arc"), .places = 3, .sizes = {radius}},
      {.name = "circle", .label = later("circle"), .brief = later("circle"), .about = true, .sizes = {diameter}},
      {.name = "rectangle", .label = later("rectangle"), .brief = later("rectangle"), .sizes = {width, height}},
      {.name = "middle_rectangle",
       .label = later("rectangle about its middle"),
       .brief = later("middle"),
       .sizes = {width, height},
       .variant = true},
      {.name = "tilted_rectangle",
       .label = later("rectangle by three points"),
       .brief = later("3 points"),
       .places = 3,
       .sizes = {width, height},
       .variant = true},
      {.name = "circle_through",
       .label = later("circle through three points"),
       .brief = later("through"),
       .places = 3,
       .variant = true},
      {.name = "polygon", .label = later("polygon"), .brief = later("polygon"), .about = true, .sizes = {diameter}},
      {.name = "slot", .label = later("slot"), .brief = later("slot"), .sizes = {length, width}},
      {.name = "ellipse", .label = later("ellipse"), .brief = later("ellipse"), .about = true, .sizes = {length}},
      {.name = "spline", .label = later("spline"), .brief = later("spline"), .more = true},
      {.name = "control_spline",
       .label = later("spline by control points"),
       .brief = later("control"),
       .places = 3,
       .more = true},
      {.name = "text", .label = later("text"), .brief = later("text"), .shownAs = "line"}};
  return kinds;
}

const StrokeKind* findStrokeKind(const std::string& name) {
  const auto& kinds = strokeKinds();
  const auto found =
      std::find_if(kinds.begin(), kinds.end(), [&](const StrokeKind& kind) { return kind.name == name; });
  return found == kinds.end() ? nullptr : &*found;
}

Drawing withStroke(Drawing drawing, const Solution& solution, const std::string& kind, const Stroke& stroke) {
  if (solution.points.size() == drawing.points.size()) drawing = moved(std::move(drawing), solution);
  const StrokeKind* known = findStrokeKind(kind);
  if (!known || stroke.at.size() < known->places) return drawing;
  const bool still = std::all_of(stroke.at.begin(), stroke.at.end(),
                                 [&](const Snap& snap) { return !(distance(snap.at, stroke.from()) > stroke.reach); });
  if (still) return drawing;
  Drawing before = drawing;
  return Hand(drawing, stroke).draw(kind) ? drawing : before;
}

std::vector<double> sizesOf(const std::string& kind, const Stroke& stroke) {
  const PlanePoint way = stroke.to() - stroke.from();
  if (kind == "rectangle") return {std::abs(way.u), std::abs(way.v)};
  if (kind == "middle_rectangle") return {2 * std::abs(way.u), 2 * std::abs(way.v)};
  if (kind == "tilted_rectangle" && stroke.at.size() > 2) {
    const PlanePoint side = stroke.at[1].at - stroke.at[0].at;
    return {length(side), std::abs(cross(side, stroke.to() - stroke.from())) / length(side)};
  }
  if (kind == "line" || kind == "chain") return {length(way), std::atan2(way.v, way.u)};
  if (kind == "circle" || kind == "polygon") return {2 * length(way)};
  if (kind == "slot") return {length(way), slotWidth * length(way)};
  if (kind == "circle_through" && stroke.at.size() > 2)
    if (const auto middle = middleOf(stroke.at[0].at, stroke.at[1].at, stroke.at[2].at))
      return {2 * distance(*middle, stroke.from())};
  if (kind == "arc" && stroke.at.size() > 2)
    if (const auto middle = middleOf(stroke.at[0].at, stroke.at[1].at, stroke.at[2].at))
      return {distance(*middle, stroke.from())};
  return {length(way)};
}

PlanePoint placeWithSizes(const std::string& kind, PlanePoint from, PlanePoint to,
                          const std::vector<std::optional<double>>& sizes) {
  const std::optional<double> none;
  const std::optional<double>&first = !sizes.empty() ? sizes[0] : none, &second = sizes.size() > 1 ? sizes[1] : none;
  PlanePoint way = to - from;
  if (kind == "rectangle" || kind == "middle_rectangle") {
    const double share = kind == "rectangle" ? 1 : 0.5;
    const auto signedAs = [&](double value, double sign) { return (sign < 0 ? -value : value) * share; };
    if (first) way.u = signedAs(*first, way.u);
    if (second) way.v = signedAs(*second, way.v);
    return from + way;
  }
  double wanted = length(way);
  if (!(wanted > 0)) way = {1, 0}, wanted = 1;
  double angle = std::atan2(way.v, way.u);
  if (first) wanted = kind == "circle" || kind == "polygon" ? *first / 2 : *first;
  if ((kind == "line" || kind == "chain") && second) angle = *second;
  return from + PlanePoint{std::cos(angle), std::sin(angle)} * wanted;
}

}  // namespace kervo
