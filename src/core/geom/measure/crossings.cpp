#include "geom/measure/crossings.h"

#include <IntCurvesFace_ShapeIntersector.hxx>
#include <algorithm>

#include "geom/kernel/topology_body.h"

namespace kervo {

struct Crossings::Inside {
  std::vector<LineCrossing> withFaces(Point from, Vector way);
  std::vector<LineCrossing> withTriangles(Point from, Vector way) const;

  IntCurvesFace_ShapeIntersector meeting;
  std::vector<Face> faces;
  Mesh mesh;
};

Crossings::Crossings(const Shape& body) : inside_(std::make_unique<Inside>()) {
  if (const Mesh* mesh = body.mesh()) {
    inside_->mesh = *mesh;
    return;
  }
  inside_->faces = facesOf(body);
  inside_->meeting.Load(body.body().topology, tolerance::point);
}

Crossings::~Crossings() = default;

std::vector<LineCrossing> Crossings::along(Point from, Vector way) const {
  std::vector<LineCrossing> result = inside_->mesh.empty() ? kernelCall("following a line through a body",
                                                                        [&] { return inside_->withFaces(from, way); })
                                                           : inside_->withTriangles(from, way);
  std::sort(result.begin(), result.end(), [](const LineCrossing& a, const LineCrossing& b) { return a.at < b.at; });
  // A line through an edge meets both of its faces.
  const auto same = [](const LineCrossing& a, const LineCrossing& b) {
    return a.out == b.out && b.at - a.at < tolerance::samePlace;
  };
  result.erase(std::unique(result.begin(), result.end(), same), result.end());
  return result;
}

std::vector<LineCrossing> Crossings::Inside::withFaces(Point from, Vector way) {
  meeting.Perform(gp_Lin(toPnt(from), toDir(way)), -RealLast(), RealLast());
  std::vector<LineCrossing> result;
  for (int i = 1; i <= meeting.NbPnt(); ++i) {
    const double across = outwardNormal(meeting.Face(i), meeting.Pnt(i)).Dot(toDir(way));
    if (std::abs(across) < tolerance::sameDirection) continue;
    const auto its = std::find_if(faces.begin(), faces.end(),
                                  [&](const Face& each) { return each.body().face.IsSame(meeting.Face(i)); });
    if (its != faces.end()) result.push_back({meeting.WParameter(i), across > 0, *its});
  }
  return result;
}

std::vector<LineCrossing> Crossings::Inside::withTriangles(Point from, Vector way) const {
  const Face none(nullptr);
  std::vector<LineCrossing> result;
  for (const Mesh::Triangle& triangle : mesh.triangles()) {
    const Point a = mesh.points()[triangle[0]], b = mesh.points()[triangle[1]], c = mesh.points()[triangle[2]];
    const Vector across = cross(b - a, c - a);
    const double slope = dot(across, way);
    if (slope == 0) continue;
    const double at = dot(a - from, across) / slope;
    const Point hit = from + way * at;
    const auto left = [&](Point p, Point q) { return dot(cross(q - p, hit - p), across) >= 0; };
    if (left(a, b) && left(b, c) && left(c, a)) result.push_back({at, slope > 0, none});
  }
  return result;
}

std::vector<LineCrossing> crossings(const Shape& body, Point from, Vector way) {
  return Crossings(body).along(from, way);
}

}  // namespace kervo
