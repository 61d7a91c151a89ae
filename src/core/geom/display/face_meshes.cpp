#include "geom/display/face_meshes.h"

#include <BRepMesh_IncrementalMesh.hxx>
#include <ElSLib.hxx>
#include <GeomLib.hxx>
#include <TopoDS_Compound.hxx>
#include <cmath>
#include <mutex>

#include "geom/kernel/cylinder_strip.h"
#include "geom/kernel/parallel.h"
#include "geom/mesh/planar_triangles.h"

namespace kervo {

namespace {

using Triangles = Handle(Poly_Triangulation);

/// On the borders of planar faces: more take longer than waking another thread.
constexpr std::size_t manyPoints = 500;

/// A planar face waiting for its triangles: its border as points and the lines between them.
struct PlanarFace {
  TopoDS_Face face;
  gp_Pln plane;
  std::vector<gp_Pnt> points;
  std::vector<TopoDS_Edge> edges;
  std::vector<std::vector<int>> lines;  ///< one an edge, along its curve
  double slack = 0;                     ///< mm², by which the triangles' area may differ from the face's
  std::optional<std::vector<Triangle>> triangles;
};

/// The edges around every face by their numbers, and their points.
class Borders {
 public:
  Borders(const Skeleton& skeleton, EdgePoints& points) : skeleton_(skeleton), points_(points) {}

  const std::vector<gp_Pnt>& pointsOf(const TopoDS_Edge& edge) { return points_.of(numberOf(edge)); }
  void forget(const TopoDS_Edge& edge) { points_.forget(numberOf(edge)); }
  /// All faces at the edge but this one are planes.
  bool onlyPlanesBeside(const TopoDS_Face& face, const TopoDS_Edge& edge) {
    const std::vector<std::uint32_t>& faces = skeleton_.edges[numberOf(edge)].faces;
    return std::all_of(faces.begin(), faces.end(),
                       [&](std::uint32_t i) { return skeleton_.faces[i].IsSame(face) || points_.isFlat(i); });
  }

 private:
  std::size_t numberOf(const TopoDS_Edge& edge) {
    if (numbers_.empty())
      for (std::size_t i = 0; i < skeleton_.edges.size(); ++i) numbers_.emplace(skeleton_.edges[i].edge, i);
    return numbers_.at(edge);
  }

  const Skeleton& skeleton_;
  EdgePoints& points_;
  ShapeMap<std::size_t> numbers_;  ///< filled on first use: often nothing is to be meshed
};

/// The border of a planar face; nothing for one that needs the kernel's care (edges inside it, or without length).
std::optional<PlanarFace> planarFace(const TopoDS_Face& face, Borders& borders, const MeshQuality& quality) {
  PlanarFace result{face, BRepAdaptor_Surface(face, false).Plane(), {}, {}, {}, 0, std::nullopt};
  ShapeMap<int> corners;
  ShapeMap<bool> seen;
  for (TopExp_Explorer it(face, TopAbs_EDGE); it.More(); it.Next()) {
    const TopoDS_Edge edge = TopoDS::Edge(it.Current());
    const bool border = edge.Orientation() == TopAbs_FORWARD || edge.Orientation() == TopAbs_REVERSED;
    if (!border || BRep_Tool::Degenerated(edge) || !seen.emplace(edge, true).second) return std::nullopt;
    const TopoDS_Edge forward = TopoDS::Edge(edge.Oriented(TopAbs_FORWARD));
    const std::vector<gp_Pnt>& points = borders.pointsOf(edge);
    std::vector<int> line;
    line.reserve(points.size());
    for (std::size_t i = 0; i < points.size(); ++i) {
      const TopoDS_Vertex corner = i == 0                   ? TopExp::FirstVertex(forward)
                                   : i + 1 == points.size() ? TopExp::LastVertex(forward)
                                                            : TopoDS_Vertex();
      int node = static_cast<int>(result.points.size());
      if (!corner.IsNull()) node = corners.emplace(corner, node).first->second;
      if (node == static_cast<int>(result.points.size())) result.points.push_back(points[i]);
      if (i > 0) {
        if (node == line.back()) return std::nullopt;
        result.slack += points[i].Distance(points[i - 1]) * quality.deflection;
      }
      line.push_back(node);
    }
    result.edges.push_back(edge);
    result.lines.push_back(std::move(line));
  }
  return result;
}

void triangulate(PlanarFace& face, double area) {
  std::vector<PlanePoint> flat;
  flat.reserve(face.points.size());
  for (const gp_Pnt& point : face.points) {
    double u = 0, v = 0;
    ElSLib::Parameters(face.plane, point, u, v);
    flat.push_back({u, v});
  }
  auto triangles = planarTriangles(flat, face.lines);
  if (!triangles) return;
  double sum = 0;
  for (const auto& [a, b, c] : *triangles) {
    const PlanePoint &p = flat[static_cast<std::size_t>(a)], &q = flat[static_cast<std::size_t>(b)],
                     &r = flat[static_cast<std::size_t>(c)];
    sum += ((q.u - p.u) * (r.v - p.v) - (r.u - p.u) * (q.v - p.v)) / 2;
  }
  // A border that is not a closed polygon would give other triangles than the face has.
  if (std::abs(sum - area) <= face.slack + 1e-6 * area) face.triangles = std::move(triangles);
}

void store(PlanarFace& face, double deflection) {
  if (!face.triangles) return;
  const auto& triangles = *face.triangles;
  Handle(BorderedMesh) mesh = new BorderedMesh(face.points.size(), triangles.size(), false);
  const gp_Trsf toFace = face.face.Location().Transformation().Inverted();
  for (std::size_t i = 0; i < face.points.size(); ++i)
    mesh->SetNode(static_cast<int>(i) + 1, face.points[i].Transformed(toFace));
  // Counter-clockwise in the plane's u and v, as the surface's own normal has it, be its axes left-handed or not.
  for (std::size_t i = 0; i < triangles.size(); ++i) {
    const auto& [a, b, c] = triangles[i];
    mesh->SetTriangle(static_cast<int>(i) + 1, Poly_Triangle(a + 1, b + 1, c + 1));
  }
  for (std::size_t i = 0; i < face.edges.size(); ++i)
    mesh->setBorder(face.face, face.edges[i], std::move(face.lines[i]));
  mesh->Deflection(deflection);
  BRep_Builder().UpdateFace(face.face, mesh);
}

/// Meshes a face between two rims, and says whether it is one. Other curved faces beside it would have to follow its
/// points, so only planes may lie there.
bool meshedAsStrip(const TopoDS_Face& face, Borders& borders, double deflection) {
  const auto rims = rimsOfStrip(face);
  if (!rims || !borders.onlyPlanesBeside(face, rims->first) || !borders.onlyPlanesBeside(face, rims->second))
    return false;
  const Triangles mesh =
      stripBetween(face, {rims->first, borders.pointsOf(rims->first)}, {rims->second, borders.pointsOf(rims->second)});
  if (mesh.IsNull()) {
    // The kernel will give them points of its own.
    borders.forget(rims->first);
    borders.forget(rims->second);
    return false;
  }
  mesh->Deflection(deflection);
  BRep_Builder().UpdateFace(face, mesh);
  return true;
}

void meshByKernel(const std::vector<TopoDS_Face>& faces, const MeshQuality& quality, Progress& progress) {
  if (faces.empty()) return;
  TopoDS_Compound together;
  const BRep_Builder builder;
  builder.MakeCompound(together);
  for (const TopoDS_Face& face : faces) builder.Add(together, face);
  IMeshTools_Parameters parameters;
  parameters.Deflection = quality.deflection;
  parameters.Angle = quality.angleRadians;
  parameters.MeshAlgo = IMeshTools_MeshAlgoType_Delabella;
  parameters.InParallel = faces.size() > 8;
  const Handle(KernelProgress) indicator = new KernelProgress(progress);
  kernelCall("meshing", [&] { BRepMesh_IncrementalMesh(together, parameters, indicator->Start()); });
  progress.throwIfStopped();
  // The kernel notes by how much it is off, which may be more than what was wanted. It would not be better next time.
  for (const TopoDS_Face& face : faces) {
    TopLoc_Location place;
    const Triangles mesh = BRep_Tool::Triangulation(face, place);
    if (!mesh.IsNull() && mesh->Deflection() > quality.deflection) mesh->Deflection(quality.deflection);
  }
}

/// Planar faces whose meshes were made beside others than they have now, with other points along their edges.
std::vector<TopoDS_Face> outdated(const Skeleton& skeleton, EdgePoints& edgePoints, const MeshQuality& quality) {
  std::vector<Handle(BorderedMesh)> meshes(skeleton.faces.size());
  for (std::size_t i = 0; i < meshes.size(); ++i) {
    TopLoc_Location place;
    if (edgePoints.isFlat(i))
      meshes[i] = Handle(BorderedMesh)::DownCast(meshOf(skeleton.faces[i], place, quality.deflection));
  }
  std::vector<TopoDS_Face> result;
  for (std::size_t i = 0; i < skeleton.edges.size(); ++i)
    for (const std::uint32_t face : skeleton.edges[i].faces) {
      if (meshes[face].IsNull()) continue;
      const std::vector<int>& nodes = meshes[face]->border(skeleton.faces[face], skeleton.edges[i].edge);
      if (nodes.empty() || nodes.size() == edgePoints.of(i).size()) continue;
      result.push_back(skeleton.faces[face]);
      meshes[face].Nullify();
    }
  return result;
}

/// Gives meshes to the faces that have none.
void meshMissing(const Shape& shape, EdgePoints& edgePoints, const MeshQuality& quality, Progress& progress) {
  const Skeleton& skeleton = skeletonOf(shape);
  std::vector<TopoDS_Face> curved, planar;
  for (std::size_t i = 0; i < skeleton.faces.size(); ++i) {
    TopLoc_Location place;
    if (meshOf(skeleton.faces[i], place, quality.deflection).IsNull())
      (edgePoints.isFlat(i) ? planar : curved).push_back(skeleton.faces[i]);
  }
  Borders borders(skeleton, edgePoints);
  std::erase_if(curved, [&](const TopoDS_Face& face) { return meshedAsStrip(face, borders, quality.deflection); });
  meshByKernel(curved, quality, progress);
  for (const TopoDS_Face& face : outdated(skeleton, edgePoints, quality)) planar.push_back(face);

  std::vector<PlanarFace> prepared;
  prepared.reserve(planar.size());
  std::vector<TopoDS_Face> rest;
  std::size_t points = 0;
  for (const TopoDS_Face& face : planar) {
    if (auto border = planarFace(face, borders, quality)) {
      points += border->points.size();
      prepared.push_back(std::move(*border));
    } else {
      rest.push_back(face);
    }
  }
  forEachInParallel(
      prepared.size(), "meshing", progress,
      [&](std::size_t i) { triangulate(prepared[i], factsOf(shape, prepared[i].face).integrals.area); },
      points > manyPoints ? Calls::Long : Calls::Short);
  for (PlanarFace& face : prepared) {
    if (face.triangles)
      store(face, quality.deflection);
    else
      rest.push_back(face.face);
  }
  meshByKernel(rest, quality, progress);
}

/// The surface's own normals, so that shading is smooth across seams; triangles' where the surface has none.
void addNormals(const TopoDS_Face& face, const Triangles& mesh) {
  const BRepAdaptor_Surface adaptor(face, false);
  if (adaptor.GetType() == GeomAbs_Plane) {
    mesh->AddNormals();
    gp_Dir normal = adaptor.Plane().Axis().Direction();
    if (!adaptor.Plane().Direct()) normal.Reverse();
    normal.Transform(face.Location().Transformation().Inverted());
    for (int i = 1; i <= mesh->NbNodes(); ++i) mesh->SetNormal(i, normal);
    return;
  }
  mesh->ComputeNormals();
  if (!mesh->HasUVNodes()) return;
  TopLoc_Location place;
  const Handle(Geom_Surface) surface = BRep_Tool::Surface(face, place);
  for (int i = 1; i <= mesh->NbNodes(); ++i) {
    gp_Dir normal;
    if (GeomLib::NormEstim(surface, mesh->UVNode(i), tolerance::point, normal) <= 1) mesh->SetNormal(i, normal);
  }
}

/// The kernel takes the box of a face that has a mesh from the mesh, widened by what it says it is off. That may be too
/// little, and an intersection is missed then: the face's own box is noted instead.
void noteBox(const TopoDS_Face& face, const Box& box, const Triangles& mesh) {
  if (mesh.IsNull() || mesh->HasCachedMinMax() || box.empty()) return;
  Bnd_Box bounds;
  bounds.Update(box.low.x, box.low.y, box.low.z, box.high.x, box.high.y, box.high.z);
  mesh->SetCachedMinMax(bounds.Transformed(face.Location().Transformation().Inverted()));
}

}  // namespace

ShapeMeshes meshFaces(const Shape& shape, const MeshQuality& quality, Progress& progress) {
  static std::mutex oneAtATime;
  const Skeleton& skeleton = skeletonOf(shape);
  const std::lock_guard lock(oneAtATime);
  EdgePoints edgePoints(skeleton, quality);
  meshMissing(shape, edgePoints, quality, progress);
  ShapeMeshes result;
  for (const TopoDS_Face& face : skeleton.faces) {
    result.faces.push_back(BRep_Tool::Triangulation(face, result.places.emplace_back()));
    if (const Triangles& mesh = result.faces.back(); !mesh.IsNull() && !mesh->HasNormals()) addNormals(face, mesh);
    noteBox(face, factsOf(shape, face).box, result.faces.back());
  }
  result.edges = std::move(edgePoints).taken();
  return result;
}

}  // namespace kervo
