#include "drawing/drawn_by_hand.h"

#include <algorithm>
#include <cmath>

#include "drawing/drawing_edits.h"
#include "geom/planes.h"

namespace kervo {

namespace {

/// A line this near to level or upright is meant so: the sine of 2°.
constexpr double meantLevel = 0.035;

class Hand {
 public:
  Hand(Drawing& drawing, double reach) : drawing_(drawing), reach_(reach) {}

  /// A point of the drawing that is near, or a new one.
  std::string pointAt(PlanePoint at) {
    const DrawnPoint* nearest = nullptr;
    double least = reach_;
    for (const DrawnPoint& point : drawing_.points)
      if (const double apart = distance(point.last, at); apart <= least) {
        least = apart;
        nearest = &point;
      }
    if (nearest) return nearest->id;
    drawing_.points.push_back({freeId(drawing_, "p"), at});
    return drawing_.points.back().id;
  }
  std::string curve(const std::string& kind, std::vector<std::string> points, std::vector<double> sizes = {}) {
    DrawnCurve curve{.id = freeId(drawing_, std::string(1, kind[0])), .kind = kind, .numbers = {}};
    curve.points = std::move(points);
    curve.sizes = std::move(sizes);
    drawing_.curves.push_back(std::move(curve));
    return drawing_.curves.back().id;
  }
  void hold(const std::string& kind, std::vector<std::string> on) {
    drawing_.constraints.push_back({.id = freeId(drawing_, "k"), .kind = kind, .on = std::move(on)});
  }
  PlanePoint placeOf(const std::string& point) const {
    return std::find_if(drawing_.points.begin(), drawing_.points.end(),
                        [&](const DrawnPoint& each) { return each.id == point; })
        ->last;
  }

 private:
  Drawing& drawing_;
  double reach_;
};

}  // namespace

bool isDrawnByStroke(const std::string& kind) {
  return kind == "line" || kind == "circle" || kind == "rectangle";
}

Drawing withStroke(Drawing drawing, const Solution& solution, const std::string& kind, const Stroke& stroke) {
  if (solution.points.size() == drawing.points.size()) drawing = moved(std::move(drawing), solution);
  Drawing before = drawing;
  Hand hand(drawing, stroke.reach);
  if (kind == "circle") {
    const double radius = distance(stroke.from, stroke.to);
    if (!(radius > 0)) return before;
    hand.curve("circle", {hand.pointAt(stroke.from)}, {radius});
    return drawing;
  }
  if (kind == "line") {
    const std::string from = hand.pointAt(stroke.from), to = hand.pointAt(stroke.to);
    if (from == to) return before;
    const std::string line = hand.curve("line", {from, to});
    const PlanePoint way = hand.placeOf(to) - hand.placeOf(from);
    const double slack = meantLevel * length(way);
    if (stroke.infer && std::abs(way.v) <= slack) hand.hold("horizontal", {line});
    if (stroke.infer && std::abs(way.u) <= slack) hand.hold("vertical", {line});
    return drawing;
  }
  const PlanePoint low{std::min(stroke.from.u, stroke.to.u), std::min(stroke.from.v, stroke.to.v)};
  const PlanePoint high{std::max(stroke.from.u, stroke.to.u), std::max(stroke.from.v, stroke.to.v)};
  if (!(high.u - low.u > stroke.reach && high.v - low.v > stroke.reach)) return before;
  const std::string a = hand.pointAt(low), b = hand.pointAt({high.u, low.v}), c = hand.pointAt(high),
                    d = hand.pointAt({low.u, high.v});
  const std::string bottom = hand.curve("line", {a, b}), right = hand.curve("line", {b, c}),
                    top = hand.curve("line", {c, d}), left = hand.curve("line", {d, a});
  hand.hold("horizontal", {bottom, top});
  hand.hold("vertical", {right, left});
  return drawing;
}

}  // namespace kervo
