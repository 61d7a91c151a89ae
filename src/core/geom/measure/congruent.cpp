#include "geom/measure/congruent.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepTools.hxx>
#include <BRep_Tool.hxx>
#include <algorithm>
#include <cmath>

#include "geom/kernel/call.h"
#include "geom/kernel/convert.h"
#include "geom/kernel/skeleton.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

/// What has to be the same of two shapes: the kinds of their parts, and places on them.
struct Marks {
  std::vector<int> kinds;
  std::vector<Point> places;
};

void addFace(Marks& marks, const TopoDS_Face& face) {
  const BRepAdaptor_Surface surface(face, false);
  marks.kinds.push_back(surface.GetType());
  marks.kinds.push_back(face.Orientation());
  double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
  BRepTools::UVBounds(face, u0, u1, v0, v1);
  // A free-form surface may differ between two places where it is the same.
  const int steps = surface.GetType() <= GeomAbs_Torus ? 2 : 6;
  for (int i = 1; i < steps + 1; ++i)
    for (int j = 1; j < steps + 1; ++j)
      marks.places.push_back(
          fromPnt(surface.Value(u0 + (u1 - u0) * i / (steps + 1.0), v0 + (v1 - v0) * j / (steps + 1.0))));
}

void addEdge(Marks& marks, const TopoDS_Edge& edge) {
  const bool pointlike = BRep_Tool::Degenerated(edge);
  marks.kinds.push_back(pointlike ? -1 : 0);
  if (pointlike) return;
  const BRepAdaptor_Curve curve(edge);
  marks.kinds.push_back(curve.GetType());
  const int steps = curve.GetType() <= GeomAbs_Parabola ? 2 : 6;
  const double from = curve.FirstParameter(), to = curve.LastParameter();
  for (int i = 0; i <= steps; ++i) marks.places.push_back(fromPnt(curve.Value(from + (to - from) * i / steps)));
}

Marks marksOf(const Shape& shape) {
  Marks marks;
  if (const Mesh* mesh = shape.mesh()) {
    marks.places = mesh->points();
    for (const Mesh::Triangle& triangle : mesh->triangles())
      for (const auto corner : triangle) marks.kinds.push_back(static_cast<int>(corner));
    return marks;
  }
  const Skeleton& skeleton = skeletonOf(shape);
  for (const TopoDS_Face& face : skeleton.faces) addFace(marks, face);
  for (const Skeleton::EdgePart& part : skeleton.edges) addEdge(marks, part.edge);
  return marks;
}

/// Three places that a motion is told from, as far apart as can be found in two walks; nothing if all lie on a line.
std::optional<std::array<std::size_t, 3>> cornersOf(const std::vector<Point>& places, double exactness) {
  if (places.size() < 3) return std::nullopt;
  const auto farthest = [&](const auto& distance) {
    std::size_t best = 0;
    for (std::size_t i = 1; i < places.size(); ++i)
      if (distance(places[i]) > distance(places[best])) best = i;
    return best;
  };
  const Point first = places.front();
  const std::size_t second = farthest([&](Point p) { return length(p - first); });
  const Vector along = places[second] - first;
  if (length(along) <= exactness) return std::nullopt;
  const Vector way = normalized(along);
  const auto beside = [&](Point p) { return length((p - first) - way * dot(p - first, way)); };
  const std::size_t third = farthest(beside);
  if (beside(places[third]) <= exactness) return std::nullopt;
  return std::array<std::size_t, 3>{0, second, third};
}

Plane planeThrough(const std::vector<Point>& places, const std::array<std::size_t, 3>& corners) {
  const Point origin = places[corners[0]];
  const Vector x = normalized(places[corners[1]] - origin), to = places[corners[2]] - origin;
  const Vector y = normalized(to - x * dot(to, x));
  return {origin, x, y, cross(x, y)};
}

/// Cheap to tell, and different for most parts.
bool differAtOnce(const Shape& a, const Shape& b) {
  if (a.kind() != b.kind() || a.faceCount() != b.faceCount()) return true;
  if ((a.mesh() == nullptr) != (b.mesh() == nullptr)) return true;
  constexpr double exactness = 1e-6;
  return std::abs(a.area() - b.area()) > exactness * a.area() ||
         std::abs(a.volume() - b.volume()) > exactness * std::abs(a.volume());
}

}  // namespace

std::optional<Motion> motionOnto(const Shape& from, const Shape& to) {
  if (from.empty() || to.empty() || differAtOnce(from, to)) return std::nullopt;
  return kernelCall("comparing bodies", [&]() -> std::optional<Motion> {
    const Marks a = marksOf(from), b = marksOf(to);
    if (a.kinds != b.kinds || a.places.size() != b.places.size()) return std::nullopt;
    const double reach =
        std::max({from.roughBox().diagonal(), length(from.roughBox().centre()), length(to.roughBox().centre())});
    const double exactness = tolerance::point + 1e-9 * reach;
    const auto corners = cornersOf(a.places, 10 * exactness);
    if (!corners) return std::nullopt;
    // The same places must span a triangle there, or there is no such plane.
    for (std::size_t i = 0; i < 3; ++i) {
      const std::size_t one = (*corners)[i], other = (*corners)[(i + 1) % 3];
      if (std::abs(length(a.places[one] - a.places[other]) - length(b.places[one] - b.places[other])) > 2 * exactness)
        return std::nullopt;
    }
    const Motion motion = Motion::onto(planeThrough(a.places, *corners), planeThrough(b.places, *corners));
    for (std::size_t i = 0; i < a.places.size(); ++i)
      if (length(motion(a.places[i]) - b.places[i]) > exactness) return std::nullopt;
    return motion;
  });
}

}  // namespace kervo
