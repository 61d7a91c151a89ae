#include "view/tools/body_snaps.h"

#include <algorithm>
#include <cmath>

#include "geom/planes.h"

namespace kervo {

namespace {

PlanePoint onto(const Plane& plane, Point point) {
  const Vector at = plane.coordinates(point);
  return {at.x, at.y};
}

Point pointOf(const BodyMesh& mesh, std::size_t i) {
  return {mesh.edgePoints[3 * i], mesh.edgePoints[3 * i + 1], mesh.edgePoints[3 * i + 2]};
}

/// The corner that a point of a mesh is, which knows it in single precision only.
Point exactly(Point point, const std::vector<Corner>& corners, double slack) {
  for (const Corner& corner : corners)
    if (length(corner.point - point) < slack) return corner.point;
  return point;
}

}  // namespace

BodySnaps::BodySnaps(const Scene& scene, const Plane& plane) {
  for (const SceneBody& body : scene.bodies) {
    if (body.isGuide() || !body.pickable) continue;
    names_.push_back(body.name);
    add(*body.picture, names_.size() - 1, plane);
  }
  for (const SceneBeside& body : scene.beside) {
    names_.push_back(body.name);
    add(*body.picture, names_.size() - 1, plane);
  }
  std::sort(spots_.begin(), spots_.end(), [](const Spot& a, const Spot& b) { return a.at.u < b.at.u; });
}

void BodySnaps::add(const BodyPicture& picture, std::size_t body, const Plane& plane) {
  const BodyMesh& mesh = picture.mesh;
  const double slack = 1e-6 * mesh.box.diagonal() + 1e-4;
  // Where a round edge begins and ends is no corner.
  std::vector<Point> rounds;
  for (const BodyMesh::Range& range : mesh.edges) {
    if (range.count < 3) continue;
    const Point start = pointOf(mesh, range.first);
    if (length(pointOf(mesh, range.first + range.count - 1) - start) < slack) rounds.push_back(start);
  }
  for (const Corner& corner : picture.corners)
    if (std::none_of(rounds.begin(), rounds.end(),
                     [&](const Point& start) { return length(corner.point - start) < slack; }))
      spots_.push_back({onto(plane, corner.point), SnapTo::BodyCorner, body});
  for (std::size_t i = 0; i < picture.edges.size() && i < mesh.edges.size(); ++i) {
    const BodyMesh::Range range = mesh.edges[i];
    if (range.count < 2) continue;
    const auto axis = picture.edges[i].axis();
    const PlanePoint middle = onto(plane, picture.edges[i].middle());
    if (!axis) continue;
    const Point first = pointOf(mesh, range.first), last = pointOf(mesh, range.first + range.count - 1);
    // The axis of a straight edge runs through its ends, that of a round one does not.
    const bool straight = length(cross(first - axis->point, axis->direction)) < slack &&
                          length(cross(last - axis->point, axis->direction)) < slack;
    if (straight) {
      const PlanePoint from = onto(plane, exactly(first, picture.corners, slack)),
                       to = onto(plane, exactly(last, picture.corners, slack));
      if (distance(from, to) < slack) continue;  // seen from its end
      spots_.push_back({middle, SnapTo::BodyMiddle, body});
      lines_.push_back({from,
                        to,
                        std::nullopt,
                        {std::min(from.u, to.u), std::min(from.v, to.v)},
                        {std::max(from.u, to.u), std::max(from.v, to.v)},
                        body});
      continue;
    }
    if (length(cross(axis->direction, plane.normal)) > 1e-6) continue;
    const PlanePoint centre = onto(plane, axis->point);
    spots_.push_back({centre, SnapTo::BodyCentre, body});
    Line line{
        centre, centre, distance(centre, middle), {Box::infinity, Box::infinity}, {-Box::infinity, -Box::infinity},
        body};
    for (std::size_t k = range.first; k < range.first + range.count; ++k) {
      const PlanePoint at = onto(plane, pointOf(mesh, k));
      line.low = {std::min(line.low.u, at.u), std::min(line.low.v, at.v)};
      line.high = {std::max(line.high.u, at.u), std::max(line.high.v, at.v)};
    }
    lines_.push_back(line);
  }
}

std::optional<Snap> BodySnaps::at(PlanePoint place, double reach) const {
  struct Found {
    Snap snap;
    int rank = 0;
    double apart = 0;
  };
  std::optional<Found> best;
  const auto offer = [&](PlanePoint at, SnapTo to, std::size_t body, int rank) {
    const double apart = distance(at, place);
    if (apart > reach || (best && std::pair(best->rank, best->apart) <= std::pair(rank, apart))) return;
    best = Found{{at, to, {names_[body]}}, rank, apart};
  };
  const auto first = std::lower_bound(spots_.begin(), spots_.end(), place.u - reach,
                                      [](const Spot& spot, double u) { return spot.at.u < u; });
  for (auto spot = first; spot != spots_.end() && spot->at.u <= place.u + reach; ++spot)
    offer(spot->at, spot->to, spot->body, spot->to == SnapTo::BodyCorner ? 0 : 1);
  for (const Line& line : lines_) {
    if (place.u < line.low.u - reach || place.u > line.high.u + reach || place.v < line.low.v - reach ||
        place.v > line.high.v + reach)
      continue;
    if (line.radius) {
      const PlanePoint arm = place - line.from;
      if (const double far = length(arm); far > 0)
        offer(line.from + arm * (*line.radius / far), SnapTo::BodyEdge, line.body, 2);
      continue;
    }
    const PlanePoint way = line.to - line.from;
    const double share = std::clamp(dot(place - line.from, way) / dot(way, way), 0.0, 1.0);
    offer(line.from + way * share, SnapTo::BodyEdge, line.body, 2);
  }
  return best ? std::optional(best->snap) : std::nullopt;
}

}  // namespace kervo
