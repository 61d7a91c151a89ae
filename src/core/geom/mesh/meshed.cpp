// Faces share the points of their edges, so that the triangles of a solid close exactly once points that differ by
// rounding are one: two faces may know a corner as 0 and as 1e-14, and as far apart as its tolerance.
#include "geom/mesh/meshed.h"

#include <BRepBuilderAPI_Copy.hxx>
#include <Poly_Triangulation.hxx>
#include <algorithm>

#include "base/error.h"
#include "base/say.h"
#include "geom/display/face_meshes.h"
#include "geom/kernel/call.h"
#include "geom/kernel/convert.h"
#include "geom/kernel/shape_body.h"
#include "geom/kernel/skeleton.h"
#include "geom/mesh/welded.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

/// Each face with points of its own.
Mesh unwelded(const Shape& shape, const MeshQuality& quality, double tolerance, Progress& progress) {
  // A copy is meshed: the body on the screen keeps its triangles.
  const TopoDS_Shape copy = BRepBuilderAPI_Copy(shape.body().topology, false, false).Shape();
  const Shape own = makeShape(copy, {}, "face");
  const Skeleton& skeleton = skeletonOf(own);
  const std::vector<TopoDS_Face> coloured = facesOf(shape.body().topology);
  const ShapeMeshes meshes = meshFaces(own, quality, progress);
  std::vector<Point> points;
  std::vector<Mesh::Triangle> triangles;
  Mesh::Extra extra{{}, tolerance};
  for (std::size_t i = 0; i < meshes.faces.size(); ++i) {
    if (meshes.faces[i].IsNull()) continue;
    const Poly_Triangulation& mesh = *meshes.faces[i];
    const gp_Trsf place = meshes.places[i].Transformation();
    const auto first = static_cast<std::uint32_t>(points.size());
    for (int n = 1; n <= mesh.NbNodes(); ++n) points.push_back(fromPnt(mesh.Node(n).Transformed(place)));
    const bool reversed = skeleton.faces[i].Orientation() == TopAbs_REVERSED;
    for (int n = 1; n <= mesh.NbTriangles(); ++n) {
      int a = 0, b = 0, c = 0;
      mesh.Triangle(n).Get(a, b, c);
      if (reversed) std::swap(b, c);
      const auto number = [&](int corner) { return first + static_cast<std::uint32_t>(corner) - 1; };
      triangles.push_back({number(a), number(b), number(c)});
    }
    // The copy has its faces in the same order.
    const auto& color = factsOf(shape, coloured[i]).color;
    const Color* paint = color ? std::get_if<Color>(&*color) : nullptr;
    if (paint && extra.paints.empty()) extra.paints.resize(first == 0 ? 0 : triangles.size(), 0);
    extra.paints.resize(triangles.size(), paint ? paintOf(*paint) : 0);
  }
  if (std::all_of(extra.paints.begin(), extra.paints.end(), [](Paint paint) { return paint == 0; }))
    extra.paints.clear();
  return {std::move(points), std::move(triangles), std::move(extra)};
}

}  // namespace

double MeshFineness::chordFor(const Shape& shape) const {
  return chord > 0 ? chord : std::clamp(shape.roughBox().diagonal() * 1e-4, 1e-3, 10.0);
}

Mesh meshed(const Shape& shape, const MeshFineness& fineness, Progress& progress) {
  if (shape.empty()) return {};
  if (const Mesh* mesh = shape.mesh()) return *mesh;
  if (shape.kind() == BodyKind::Curve) throw Error(say("a curve has no triangles"), "", say("Leave it out"));
  const double chord = fineness.chordFor(shape);
  const Mesh parts = kernelCall("meshing", [&] {
    return unwelded(shape, {chord, fineness.angleRadians}, chord, progress);
  });
  const double rounding = 1e-10 * std::max(1.0, shape.roughBox().diagonal() + length(shape.roughBox().centre()));
  Mesh mesh = welded(parts, rounding, false).mesh;
  // Faces may know a corner up to its tolerance apart. What is that small is no part of a body.
  for (const double within : {tolerance::point, 10 * tolerance::point, tolerance::smallestSize}) {
    if (shape.kind() != BodyKind::Solid || mesh.watertight()) break;
    mesh = welded(parts, within, false).mesh;
  }
  if (shape.kind() == BodyKind::Solid && !mesh.watertight())
    throw Error(say("the triangles of the body do not close: %1 of their edges lie open", mesh.openEdges()), "",
                say("Repair the body"));
  return mesh;
}

}  // namespace kervo
