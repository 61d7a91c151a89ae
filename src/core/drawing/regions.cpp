// Curves that do not cross are chained here, which takes milliseconds for thousands of them; as soon as two of them
// cross, touch or overlap, all are intersected by the kernel.
#include "drawing/regions.h"

#include <algorithm>
#include <map>
#include <set>

#include "base/say.h"
#include "drawing/crossings.h"
#include "geom/sweep/curve_net.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

constexpr double near = tolerance::point;

bool anyCross(const std::vector<PlanarCurve>& curves, Progress& progress) {
  struct Placed {
    const PlaneCurve* curve;
    PlaneBox box;
  };
  std::vector<Placed> order;
  order.reserve(curves.size());
  for (const PlanarCurve& curve : curves) order.push_back({curve.geometry.get(), curve.geometry->box()});
  std::sort(order.begin(), order.end(), [](const Placed& a, const Placed& b) { return a.box.low.u < b.box.low.u; });
  std::vector<const Placed*> active;
  for (const Placed& placed : order) {
    progress.throwIfStopped();
    const PlaneBox& box = placed.box;
    std::erase_if(active, [&](const Placed* other) { return other->box.high.u < box.low.u - near; });
    for (const Placed* other : active)
      if (other->box.low.v < box.high.v + near && other->box.high.v > box.low.v - near &&
          mayCross(*placed.curve, *other->curve))
        return true;
    active.push_back(&placed);
  }
  return false;
}

/// Ends that coincide, as nodes with the curves that meet there.
class Nodes {
 public:
  std::size_t at(PlanePoint point) {
    const auto cell = [](double x) { return static_cast<long long>(std::floor(x / cellSize)); };
    for (long long i = cell(point.u) - 1; i <= cell(point.u) + 1; ++i)
      for (long long j = cell(point.v) - 1; j <= cell(point.v) + 1; ++j)
        if (const auto found = cells_.find({i, j}); found != cells_.end())
          for (const std::size_t node : found->second)
            if (distance(points[node], point) < 2 * near) return node;
    cells_[{cell(point.u), cell(point.v)}].push_back(points.size());
    points.push_back(point);
    curves.emplace_back();
    return points.size() - 1;
  }
  bool branch() const {
    return std::any_of(curves.begin(), curves.end(), [](const auto& at) { return at.size() > 2; });
  }

  std::vector<PlanePoint> points;
  std::vector<std::vector<std::size_t>> curves;

 private:
  static constexpr double cellSize = 1e-5;
  std::map<std::pair<long long, long long>, std::vector<std::size_t>> cells_;
};

/// Loops of curves that meet end to end. Chains with a free end enclose nothing and are left out.
std::vector<std::vector<CurveNet::Run>> loopsOf(const std::vector<CurveNet::Link>& links, const Nodes& nodes) {
  std::vector<std::vector<CurveNet::Run>> loops;
  std::vector<bool> used(links.size(), false);
  for (std::size_t start = 0; start < links.size(); ++start) {
    if (used[start]) continue;
    std::vector<CurveNet::Run> loop{{start, false}};
    used[start] = true;
    bool closes = links[start].along.curve.closed();
    for (std::size_t node = links[start].to; !closes;) {
      const auto& at = nodes.curves[node];
      if (at.size() < 2) break;
      const std::size_t next = at[0] == loop.back().link ? at[1] : at[0];
      if (next == start) {
        closes = loop.size() > 1;
        break;
      }
      if (used[next]) break;
      used[next] = true;
      const bool backwards = links[next].from != node;
      loop.push_back({next, backwards});
      node = backwards ? links[next].from : links[next].to;
    }
    if (closes) loops.push_back(std::move(loop));
  }
  return loops;
}

/// Curves that cross themselves in parts that do not, under the same ids.
std::vector<PlanarCurve> withoutSelfCrossings(const std::vector<PlanarCurve>& curves) {
  std::vector<PlanarCurve> result;
  for (const PlanarCurve& curve : curves) {
    const std::vector<Crossing> crossings = selfCrossings(*curve.geometry);
    if (crossings.empty()) {
      result.push_back(curve);
      continue;
    }
    std::vector<double> at;
    for (const Crossing& crossing : crossings) at.insert(at.end(), {crossing.onA, crossing.onB});
    if (!curve.geometry->closed()) at.insert(at.end(), {0, 1});
    std::sort(at.begin(), at.end());
    if (curve.geometry->closed()) at.push_back(at.front() + 1);
    for (std::size_t i = 1; i < at.size(); ++i) {
      const double from = at[i - 1], to = at[i];
      if (to - from < tolerance::rounding) continue;
      // One that comes back to where it began has no edge of its own: it is two.
      const bool round = distance(curve.geometry->at(from), curve.geometry->at(to > 1 ? to - 1 : to)) < near;
      const double middle = (from + to) / 2;
      if (round) result.emplace_back(curve.id, curve.geometry->part(from, middle));
      result.emplace_back(curve.id, curve.geometry->part(round ? middle : from, to));
    }
  }
  return result;
}

}  // namespace

std::vector<Region> findRegions(const Plane& plane, const std::vector<PlanarCurve>& given, Progress& progress) {
  for (const PlanarCurve& curve : given) curve.geometry->require(say("curve \"%1\"", curve.id));
  const std::vector<PlanarCurve> curves = withoutSelfCrossings(given);
  const bool crossing = anyCross(curves, progress);
  CurveNet net;
  net.plane = plane;
  Nodes nodes;
  for (const PlanarCurve& curve : curves) {
    CurveNet::Link link{curve.on(plane)};
    if (!curve.geometry->closed()) {
      link.from = nodes.at(curve.geometry->at(0));
      link.to = nodes.at(curve.geometry->at(1));
      for (const std::size_t node : {link.from, link.to}) nodes.curves[node].push_back(net.links.size());
    }
    net.links.push_back(std::move(link));
  }
  for (const PlanePoint point : nodes.points) net.nodes.push_back(plane.at(point.u, point.v));
  if (!crossing && !nodes.branch()) net.loops = loopsOf(net.links, nodes);
  return regionsOf(net, progress);
}

std::vector<Path> findPaths(const Plane& plane, const std::vector<PlanarCurve>& curves,
                            const std::vector<Region>& regions) {
  std::set<std::string> bounding;
  for (const Region& region : regions) bounding.merge(region.curves());
  std::vector<const PlanarCurve*> open;
  for (const PlanarCurve& curve : curves)
    if (!bounding.contains(curve.id) && !curve.geometry->closed()) open.push_back(&curve);

  struct Followed {
    const PlanarCurve* curve;
    bool backwards;
    PlanePoint end() const { return curve->geometry->at(backwards ? 0 : 1); }
  };
  // Which ends meet: a path goes on where exactly two do.
  const auto meetingAt = [&](PlanePoint point) {
    std::vector<Followed> result;  // away from the point
    for (const PlanarCurve* curve : open)
      for (const bool backwards : {false, true})
        if (distance(curve->geometry->at(backwards ? 1 : 0), point) < 2 * near) result.push_back({curve, backwards});
    return result;
  };
  std::set<const PlanarCurve*> used;
  const auto followed = [&](std::vector<Followed> chain) {
    for (;;) {
      const auto meeting = meetingAt(chain.back().end());
      if (meeting.size() != 2) return chain;
      const auto next = std::find_if(meeting.begin(), meeting.end(),
                                     [&](const Followed& each) { return !used.contains(each.curve); });
      if (next == meeting.end()) return chain;
      used.insert(next->curve);
      chain.push_back(*next);
    }
  };
  std::vector<Path> paths;
  for (const PlanarCurve* curve : open) {
    if (used.contains(curve)) continue;
    used.insert(curve);
    // Back to one end first, then from there to the other.
    std::vector<Followed> chain = followed({{curve, true}});
    std::reverse(chain.begin(), chain.end());
    for (Followed& each : chain) each.backwards = !each.backwards;
    std::vector<Path::Link> links;
    for (const Followed& each : followed(std::move(chain))) links.push_back({each.curve->on(plane), each.backwards});
    paths.emplace_back(plane, std::move(links));
  }
  return paths;
}

}  // namespace kervo
