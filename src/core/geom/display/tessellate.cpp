#include "geom/display/tessellate.h"

#include <cmath>
#include <map>

#include "geom/display/face_meshes.h"

namespace kervo {

namespace {

float* put(float* target, const gp_XYZ& value) {
  target[0] = float(value.X());
  target[1] = float(value.Y());
  target[2] = float(value.Z());
  return target + 3;
}

/// Writes from the given place on.
void addVertices(const Poly_Triangulation& mesh, const TopLoc_Location& place, bool reversed, float* points,
                 float* normals) {
  const gp_Trsf move = place.Transformation();
  const bool moved = !place.IsIdentity();
  for (int i = 1; i <= mesh.NbNodes(); ++i) {
    gp_XYZ point = mesh.Node(i).XYZ();
    if (moved) move.Transforms(point);
    points = put(points, point);
  }
  const gp_Mat turn = move.HVectorialPart();
  const double sign = reversed != (move.ScaleFactor() < 0) ? -1 : 1;
  for (int i = 1; i <= mesh.NbNodes(); ++i) {
    gp_Vec3f normal;
    mesh.Normal(i, normal);
    gp_XYZ turned(normal.x(), normal.y(), normal.z());
    if (moved) turned.Multiply(turn);
    normals = put(normals, turned * sign);
  }
}

void addTriangles(const Poly_Triangulation& mesh, bool reversed, std::uint32_t firstVertex, std::uint32_t* target) {
  for (int i = 1; i <= mesh.NbTriangles(); ++i) {
    int a = 0, b = 0, c = 0;
    mesh.Triangle(i).Get(a, b, c);
    if (reversed) std::swap(b, c);
    for (const int corner : {a, b, c}) *target++ = firstVertex + static_cast<std::uint32_t>(corner) - 1;
  }
}

void addFaces(BodyMesh& result, const Skeleton& skeleton, const ShapeMeshes& meshes, Progress& progress) {
  std::uint32_t vertices = 0, triangles = 0;
  for (const Handle(Poly_Triangulation) & mesh : meshes.faces) {
    const auto vertexCount = static_cast<std::uint32_t>(mesh.IsNull() ? 0 : mesh->NbNodes());
    const auto triangleCount = static_cast<std::uint32_t>(mesh.IsNull() ? 0 : mesh->NbTriangles());
    result.faceVertices.push_back({vertices, vertexCount});
    result.faceTriangles.push_back({triangles, triangleCount});
    vertices += vertexCount;
    triangles += triangleCount;
  }
  result.points.resize(3 * std::size_t{vertices});
  result.normals.resize(3 * std::size_t{vertices});
  result.triangles.resize(3 * std::size_t{triangles});
  for (std::size_t i = 0; i < meshes.faces.size(); ++i) {
    progress.throwIfStopped();
    if (meshes.faces[i].IsNull()) continue;
    const Poly_Triangulation& mesh = *meshes.faces[i];
    const bool reversed = skeleton.faces[i].Orientation() == TopAbs_REVERSED;
    const std::uint32_t first = result.faceVertices[i].first;
    const std::size_t vertices = std::size_t{3} * first, triangles = std::size_t{3} * result.faceTriangles[i].first;
    addVertices(mesh, meshes.places[i], reversed, result.points.data() + vertices, result.normals.data() + vertices);
    addTriangles(mesh, reversed, first, result.triangles.data() + triangles);
  }
  for (std::size_t i = 0; i + 2 < result.points.size(); i += 3)
    result.box.add(Point{result.points[i], result.points[i + 1], result.points[i + 2]});
}

void append(std::vector<float>& target, const gp_XYZ& value) {
  const std::size_t end = target.size();
  target.resize(end + 3);
  put(target.data() + end, value);
}

/// The visible edges in the order of edgesOf().
void addEdges(BodyMesh& result, const Skeleton& skeleton, const ShapeMeshes& meshes) {
  result.faceEdges.resize(skeleton.faces.size());
  for (std::size_t i = 0; i < skeleton.edges.size(); ++i) {
    const Skeleton::EdgePart& part = skeleton.edges[i];
    if (!part.visible) continue;
    const auto first = static_cast<std::uint32_t>(result.edgePoints.size() / 3);
    for (const std::uint32_t face : part.faces)
      result.faceEdges[face].push_back(static_cast<std::uint32_t>(result.edges.size()));
    const std::vector<gp_Pnt>& points = meshes.edges[i];
    for (const gp_Pnt& point : points) append(result.edgePoints, point.XYZ());
    result.edges.push_back({first, static_cast<std::uint32_t>(points.size())});
  }
}

}  // namespace

MeshQuality MeshQuality::forSize(double diagonal) {
  const double wanted = std::clamp(diagonal * 1e-3, 0.002, 500.0);
  return {std::exp2(std::floor(std::log2(wanted))), 0.2};
}

BodyMesh tessellate(const Shape& shape, const MeshQuality& quality, Progress& progress) {
  BodyMesh result;
  if (shape.empty()) return result;
  const Skeleton& skeleton = skeletonOf(shape);
  const ShapeMeshes meshes = kernelCall("meshing", [&] { return meshFaces(shape, quality, progress); });
  addFaces(result, skeleton, meshes, progress);
  addEdges(result, skeleton, meshes);
  if (shape.kind() == BodyKind::Curve) result.box = shape.roughBox();
  for (const Skeleton::VertexPart& part : skeleton.vertices) append(result.corners, BRep_Tool::Pnt(part.vertex).XYZ());
  result.closed = shape.kind() == BodyKind::Solid && shape.watertight();
  return result;
}

BodyMesh meshForDisplay(const Mesh& mesh) {
  BodyMesh result;
  result.box = mesh.box();
  result.closed = mesh.watertight();
  const auto add = [](std::vector<float>& list, const Vector& v) {
    list.insert(list.end(), {float(v.x), float(v.y), float(v.z)});
  };
  // The triangles of each paint are a face.
  std::map<Paint, std::vector<std::size_t>> byPaint;
  for (std::size_t t = 0; t < mesh.triangles().size(); ++t)
    byPaint[mesh.paints().empty() ? 0 : mesh.paints()[t]].push_back(t);
  const auto& points = mesh.points();
  result.points.reserve(9 * mesh.triangles().size());
  result.normals.reserve(9 * mesh.triangles().size());
  result.triangles.reserve(3 * mesh.triangles().size());
  for (const auto& [paint, own] : byPaint) {
    const auto first = static_cast<std::uint32_t>(result.triangles.size());
    for (const std::size_t t : own) {
      const Mesh::Triangle& triangle = mesh.triangles()[t];
      const Point a = points[triangle[0]], b = points[triangle[1]], c = points[triangle[2]];
      const Vector across = cross(b - a, c - a);
      const Vector normal = length(across) > 0 ? normalized(across) : Vector{0, 0, 1};
      for (const Point& corner : {a, b, c}) {
        result.triangles.push_back(static_cast<std::uint32_t>(result.points.size() / 3));
        add(result.points, corner);
        add(result.normals, normal);
      }
    }
    const auto count = static_cast<std::uint32_t>(result.triangles.size()) - first;
    result.faceVertices.push_back({first, count});
    result.faceTriangles.push_back({first / 3, count / 3});
    result.faceEdges.emplace_back();
  }
  return result;
}

}  // namespace kervo
