#include "steps/shared/wall_plan.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <optional>

#include "base/say.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

using Polygon = std::vector<PlanePoint>;

/// Ends of curves that are nearer than this meet, in mm.
constexpr double met = 1e-4;
/// Sharper corners are cut off rather than run out to a needle, in wall thicknesses.
constexpr double longestCorner = 10;

PlanePoint leftOf(PlanePoint way) {
  return {-way.v, way.u};
}

bool isInside(const Polygon& polygon, PlanePoint point) {
  bool inside = false;
  for (std::size_t i = 0, k = polygon.size() - 1; i < polygon.size(); k = i++) {
    const PlanePoint a = polygon[i], b = polygon[k];
    if ((a.v > point.v) != (b.v > point.v) && point.u < a.u + (b.u - a.u) * (point.v - a.v) / (b.v - a.v))
      inside = !inside;
  }
  return inside;
}

/// A point well inside of a region: amid the longest stretch of some lines through it.
PlanePoint amid(const Region& region) {
  const std::vector<Polygon> outlines = region.outlines();
  double low = Box::infinity, high = -Box::infinity;
  for (const PlanePoint& each : outlines.front()) {
    low = std::min(low, each.v);
    high = std::max(high, each.v);
  }
  PlanePoint best;
  double longest = -1;
  constexpr int lines = 16;
  for (int i = 0; i < lines; ++i) {
    // No line through corners that stand in a row.
    const double v = low + (high - low) * (i + 0.4837) / lines;
    std::vector<double> crossings;
    for (const Polygon& outline : outlines)
      for (std::size_t p = 0, q = outline.size() - 1; p < outline.size(); q = p++)
        if ((outline[p].v > v) != (outline[q].v > v))
          crossings.push_back(outline[p].u +
                              (outline[q].u - outline[p].u) * (v - outline[p].v) / (outline[q].v - outline[p].v));
    std::sort(crossings.begin(), crossings.end());
    for (std::size_t c = 0; c + 1 < crossings.size(); c += 2)
      if (crossings[c + 1] - crossings[c] > longest) {
        longest = crossings[c + 1] - crossings[c];
        best = {(crossings[c] + crossings[c + 1]) / 2, v};
      }
  }
  return best;
}

class WallPlan {
 public:
  WallPlan(const DrawingResult& drawing, double left, double right) : plane_(drawing.plane) {
    for (const NamedCurve& each : drawing.curves)
      curves_.push_back({each.name, planeCurveOf(each.curve, plane_), left, right});
    findNodes();
    orient();
    for (const Node& node : nodes_) addCorners(node);
    for (const Curve& each : curves_) addBand(each);
  }

  std::vector<Region> regions(Progress& progress) const {
    std::vector<Region> covered;
    for (const Region& region : findRegions(plane_, borders_, progress)) {
      const PlanePoint point = amid(region);
      const auto covers = [&](const Cover& cover) {
        return isInside(cover.outer, point) && (cover.inner.empty() || !isInside(cover.inner, point));
      };
      if (std::any_of(covers_.begin(), covers_.end(), covers)) covered.push_back(region);
    }
    return joined(covered);
  }

 private:
  struct Curve {
    std::string id;
    std::shared_ptr<const PlaneCurve> geometry;
    double left, right;  ///< of its own direction
    bool known = false;  ///< whether these are settled
    /// By how much its sides run on at a corner: left at its start and end, right at its start and end.
    std::array<std::array<double, 2>, 2> on = {};
    /// Whether just one other curve goes on from its start, and from its end.
    std::array<bool, 2> goesOn = {};
  };
  /// An end of a curve.
  struct End {
    std::size_t curve;
    bool atStart;
  };
  struct Node {
    PlanePoint place;
    std::vector<End> ends;
  };
  /// What a stretch of wall covers.
  struct Cover {
    Polygon outer, inner;
  };

  void findNodes() {
    for (std::size_t i = 0; i < curves_.size(); ++i) {
      if (curves_[i].geometry->closed()) continue;
      for (const bool atStart : {true, false}) {
        const PlanePoint place = curves_[i].geometry->at(atStart ? 0 : 1);
        auto node = std::find_if(nodes_.begin(), nodes_.end(),
                                 [&](const Node& each) { return distance(each.place, place) < met; });
        if (node == nodes_.end()) node = nodes_.insert(nodes_.end(), {place, {}});
        node->ends.push_back({i, atStart});
      }
    }
    for (const Node& node : nodes_)
      for (const End& end : node.ends) curves_[end.curve].goesOn[end.atStart ? 0 : 1] = node.ends.size() == 2;
  }

  /// Left and right are those of the first curve of each chain.
  void orient() {
    for (std::size_t first = 0; first < curves_.size(); ++first) {
      if (curves_[first].known) continue;
      curves_[first].known = true;
      std::vector<std::size_t> waiting{first};
      while (!waiting.empty()) {
        const std::size_t at = waiting.back();
        waiting.pop_back();
        for (const Node& node : nodes_) {
          if (node.ends.size() != 2) continue;
          const End *own = nullptr, *other = nullptr;
          for (const End& end : node.ends) (end.curve == at ? own : other) = &end;
          if (!own || !other || curves_[other->curve].known) continue;
          Curve& next = curves_[other->curve];
          next.left = curves_[at].left;
          next.right = curves_[at].right;
          if (own->atStart == other->atStart) std::swap(next.left, next.right);
          next.known = true;
          waiting.push_back(other->curve);
        }
      }
    }
  }

  std::shared_ptr<const PlaneCurve> beside(const Curve& curve, double by) const {
    auto side = by == 0 ? curve.geometry : curve.geometry->beside(by);
    if (!side)
      throw Error(say("\"%1\" is bent too tightly for a wall of this thickness", curve.id), "",
                  say("Type a smaller thickness, or choose the other side"));
    return side;
  }

  void addBand(const Curve& curve) {
    const auto left = beside(curve, curve.left), right = beside(curve, -curve.right);
    addSide(curve.id + ":left", left, curve.on[0]);
    addSide(curve.id + ":right", right, curve.on[1]);
    const Polygon leftLine = sampled(*left), rightLine = sampled(*right);
    if (curve.geometry->closed()) {
      const bool leftInside = isInside(rightLine, leftLine.front());
      covers_.push_back({leftInside ? rightLine : leftLine, leftInside ? leftLine : rightLine});
      return;
    }
    // Across a corner there is no border.
    if (!curve.goesOn[0]) addLine(curve.id + ":start", left->at(0), right->at(0));
    if (!curve.goesOn[1]) addLine(curve.id + ":end", left->at(1), right->at(1));
    Polygon outline = leftLine;
    outline.insert(outline.end(), rightLine.rbegin(), rightLine.rend());
    covers_.push_back({outline, {}});
  }

  /// A straight side runs on as one line to where it meets the next.
  void addSide(const std::string& id, const std::shared_ptr<const PlaneCurve>& side, const std::array<double, 2>& on) {
    const auto carrier = side->carrier();
    if (side->closed() || (on[0] == 0 && on[1] == 0)) {
      borders_.emplace_back(id, side);
      return;
    }
    const PlanePoint from = side->at(0) - side->tangentAt(0) * on[0], to = side->at(1) + side->tangentAt(1) * on[1];
    if (carrier && carrier->radius == 0) return addLine(id, from, to);
    borders_.emplace_back(id, side);
    addLine(id + ":before", from, side->at(0));
    addLine(id + ":after", side->at(1), to);
  }

  static Polygon sampled(const PlaneCurve& curve) {
    constexpr int steps = 96;
    Polygon line;
    for (int i = 0; i <= steps; ++i) line.push_back(curve.at(static_cast<double>(i) / steps));
    return line;
  }

  void addLine(const std::string& id, PlanePoint from, PlanePoint to) {
    if (distance(from, to) > tolerance::smallestSize) borders_.emplace_back(id, LineCurve(from, to));
  }

  /// What leaves a node: its direction, and how wide the wall is to either side of that.
  struct Leaving {
    PlanePoint way;
    double left, right;
    End end;
    double angle;
  };

  /// Where the angle between two neighbours round a node is more than half a turn, their sides run on until they meet.
  void addCorners(const Node& node) {
    if (node.ends.size() < 2) return;
    std::vector<Leaving> all;
    for (const End& end : node.ends) {
      const Curve& curve = curves_[end.curve];
      const PlanePoint tangent = curve.geometry->tangentAt(end.atStart ? 0 : 1);
      Leaving leaving{end.atStart ? tangent : tangent * -1, curve.left, curve.right, end, 0};
      if (!end.atStart) std::swap(leaving.left, leaving.right);
      leaving.angle = std::atan2(leaving.way.v, leaving.way.u);
      all.push_back(leaving);
    }
    std::sort(all.begin(), all.end(), [](const Leaving& a, const Leaving& b) { return a.angle < b.angle; });
    for (std::size_t i = 0; i < all.size(); ++i) {
      const Leaving &a = all[i], &b = all[(i + 1) % all.size()];
      double gap = b.angle - a.angle;
      if (i + 1 == all.size()) gap += 2 * std::numbers::pi;
      constexpr double straight = 1e-6;
      if (gap > std::numbers::pi + straight && gap < 2 * std::numbers::pi - straight) addCorner(node.place, a, b);
    }
  }

  void addCorner(PlanePoint node, const Leaving& a, const Leaving& b) {
    const PlanePoint p = node + leftOf(a.way) * a.left, q = node - leftOf(b.way) * b.right;
    // p − a.way·s = q − b.way·t
    const double across = cross(a.way, b.way);
    const double s = cross(p - q, b.way) / across, t = cross(p - q, a.way) / across;
    const double thick = std::max(a.left + a.right, b.left + b.right);
    if (std::max(s, t) > longestCorner * thick) {
      addLine(curves_[a.end.curve].id + ":corner", p, q);
      covers_.push_back({{node, p, q}, {}});
      return;
    }
    // To the left of what leaves is the curve's right side if it ends here.
    curves_[a.end.curve].on[a.end.atStart ? 0 : 1][a.end.atStart ? 0 : 1] = s;
    curves_[b.end.curve].on[b.end.atStart ? 1 : 0][b.end.atStart ? 0 : 1] = t;
    covers_.push_back({{node, p, p - a.way * s, q}, {}});
  }

  Plane plane_;
  std::vector<Curve> curves_;
  std::vector<Node> nodes_;
  std::vector<PlanarCurve> borders_;
  std::vector<Cover> covers_;
};

}  // namespace

std::vector<Region> wallPlan(const DrawingResult& drawing, double left, double right, Progress& progress) {
  if (drawing.curves.empty())
    throw Error(say("the drawing has no lines"), "", say("Draw the lines along which the walls run"));
  std::vector<Region> plan = WallPlan(drawing, left, right).regions(progress);
  if (plan.empty()) throw Error(say("these lines make no wall"), "", say("Draw lines along which walls run"));
  return plan;
}

}  // namespace kervo
