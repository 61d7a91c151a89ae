#include "view/guide_picture.h"

#include "geom/planes.h"

namespace kervo {

namespace {

/// How far datums reach beyond what they lie around, and how large a point's cross is, as a share of its size.
constexpr double margin = 0.1, crossSize = 0.025;

void addEdge(BodyMesh& mesh, const Polyline& line) {
  mesh.edges.push_back(
      {static_cast<std::uint32_t>(mesh.edgePoints.size() / 3), static_cast<std::uint32_t>(line.size())});
  for (const Point& p : line) {
    mesh.edgePoints.insert(mesh.edgePoints.end(), {float(p.x), float(p.y), float(p.z)});
    mesh.box.add(p);
  }
}

void addPlane(BodyMesh& mesh, const Plane& plane, const Box& around) {
  const Polyline border = rectangleAround(around, plane, margin * around.diagonal());
  addEdge(mesh, border);
  for (std::size_t i = 0; i < 4; ++i) {
    mesh.points.insert(mesh.points.end(), {float(border[i].x), float(border[i].y), float(border[i].z)});
    mesh.normals.insert(mesh.normals.end(), {float(plane.normal.x), float(plane.normal.y), float(plane.normal.z)});
  }
  mesh.triangles = {0, 1, 2, 0, 2, 3};
  mesh.faceVertices = {{0, 4}};
  mesh.faceTriangles = {{0, 2}};
  mesh.faceEdges = {{0}};
}

void addAxis(BodyMesh& mesh, const Axis& axis, const Box& around) {
  const Span span = spanAlong(around, axis.point, axis.direction);
  const double beyond = margin * around.diagonal();
  addEdge(mesh,
          {axis.point + axis.direction * (span.low - beyond), axis.point + axis.direction * (span.high + beyond)});
}

void addPoint(BodyMesh& mesh, const Point& point, const Box& around) {
  const double size = crossSize * around.diagonal();
  for (const Vector& along : {Vector{size, 0, 0}, Vector{0, size, 0}, Vector{0, 0, size}})
    addEdge(mesh, {point - along, point + along});
}

}  // namespace

std::shared_ptr<const BodyPicture> pictureOf(const Datum& datum, const Box& around) {
  auto picture = std::make_shared<BodyPicture>();
  if (const auto* plane = std::get_if<Plane>(&datum)) addPlane(picture->mesh, *plane, around);
  if (const auto* axis = std::get_if<Axis>(&datum)) addAxis(picture->mesh, *axis, around);
  if (const auto* point = std::get_if<Point>(&datum)) addPoint(picture->mesh, *point, around);
  picture->prepareForPicks();
  return picture;
}

std::shared_ptr<const BodyPicture> pictureOf(const std::vector<Polyline>& lines) {
  auto picture = std::make_shared<BodyPicture>();
  for (const Polyline& line : lines) addEdge(picture->mesh, line);
  picture->prepareForPicks();
  return picture;
}

}  // namespace kervo
