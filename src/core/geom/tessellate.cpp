#include "geom/tessellate.h"

#include <BRepMesh_IncrementalMesh.hxx>
#include <ElSLib.hxx>
#include <GCPnts_TangentialDeflection.hxx>
#include <GeomLib.hxx>
#include <Poly_PolygonOnTriangulation.hxx>
#include <Poly_Triangulation.hxx>
#include <TopoDS_Compound.hxx>
#include <cmath>

#include "geom/kernel/parallel.h"
#include "geom/kernel/planar_triangles.h"

namespace kervo {

namespace {

using Triangles = Handle(Poly_Triangulation);

/// The mesh a face has, if it is as good as wanted.
Triangles meshOf(const TopoDS_Face& face, TopLoc_Location& place, double deflection) {
  Triangles mesh = BRep_Tool::Triangulation(face, place);
  if (!mesh.IsNull() && mesh->Deflection() > deflection * 1.001) mesh.Nullify();
  return mesh;
}

/// Points along every edge (in space), as its curved neighbours were meshed, so that no gaps show.
class EdgePoints {
 public:
  EdgePoints(const TopoDS_Shape& topology, const MeshQuality& quality) : quality_(quality) {
    TopExp::MapShapesAndUniqueAncestors(topology, TopAbs_EDGE, TopAbs_FACE, faces_);
  }

  const std::vector<gp_Pnt>& of(const TopoDS_Edge& edge) {
    const auto known = points_.find(edge);
    if (known != points_.end()) return known->second;
    return points_.emplace(edge, found(TopoDS::Edge(edge.Oriented(TopAbs_FORWARD)))).first->second;
  }

 private:
  std::vector<gp_Pnt> found(const TopoDS_Edge& edge) const {
    std::vector<gp_Pnt> points = meshed(edge);
    if (points.size() < 2) points = sampled(edge);
    // The ends are the shape's corners exactly: neighbouring edges then meet in one point.
    const TopoDS_Vertex first = TopExp::FirstVertex(edge), last = TopExp::LastVertex(edge);
    if (!first.IsNull()) points.front() = BRep_Tool::Pnt(first);
    if (!last.IsNull()) points.back() = BRep_Tool::Pnt(last);
    return points;
  }

  std::vector<gp_Pnt> meshed(const TopoDS_Edge& edge) const {
    const int index = faces_.FindIndex(edge);
    if (index == 0) return {};
    for (const TopoDS_Shape& face : faces_(index)) {
      TopLoc_Location place;
      const Triangles mesh = meshOf(TopoDS::Face(face), place, quality_.deflection);
      if (mesh.IsNull()) continue;
      const Handle(Poly_PolygonOnTriangulation) polygon = BRep_Tool::PolygonOnTriangulation(edge, mesh, place);
      if (polygon.IsNull()) continue;
      std::vector<gp_Pnt> points;
      for (int i = 1; i <= polygon->NbNodes(); ++i)
        points.push_back(mesh->Node(polygon->Node(i)).Transformed(place.Transformation()));
      return points;
    }
    return {};
  }

  std::vector<gp_Pnt> sampled(const TopoDS_Edge& edge) const {
    const BRepAdaptor_Curve curve(edge);
    if (curve.GetType() == GeomAbs_Line)
      return {curve.Value(curve.FirstParameter()), curve.Value(curve.LastParameter())};
    const GCPnts_TangentialDeflection sampler(curve, quality_.angleRadians, quality_.deflection);
    std::vector<gp_Pnt> points;
    for (int i = 1; i <= sampler.NbPoints(); ++i) points.push_back(sampler.Value(i));
    return points;
  }

  MeshQuality quality_;
  TopTools_IndexedDataMapOfShapeListOfShape faces_;
  ShapeMap<std::vector<gp_Pnt>> points_;
};

/// A planar face waiting for its triangles: its border as points and segments.
struct PlanarFace {
  TopoDS_Face face;
  gp_Pln plane;
  std::vector<gp_Pnt> points;
  std::vector<std::pair<int, int>> segments;
  std::vector<std::pair<TopoDS_Edge, std::vector<int>>> edges;  ///< their nodes
  double slack = 0;  ///< mm², by which the triangles' area may differ from the face's
  std::optional<std::vector<std::array<int, 3>>> triangles;
};

/// The border of a planar face; nothing for one that needs the kernel's care (edges inside it, or without length).
std::optional<PlanarFace> planarFace(const TopoDS_Face& face, EdgePoints& edgePoints, const MeshQuality& quality) {
  PlanarFace result{face, BRepAdaptor_Surface(face, false).Plane(), {}, {}, {}, 0, std::nullopt};
  ShapeMap<int> corners;
  ShapeMap<bool> seen;
  for (TopExp_Explorer it(face, TopAbs_EDGE); it.More(); it.Next()) {
    const TopoDS_Edge edge = TopoDS::Edge(it.Current());
    const bool border = edge.Orientation() == TopAbs_FORWARD || edge.Orientation() == TopAbs_REVERSED;
    if (!border || BRep_Tool::Degenerated(edge) || !seen.emplace(edge, true).second) return std::nullopt;
    const TopoDS_Edge forward = TopoDS::Edge(edge.Oriented(TopAbs_FORWARD));
    const std::vector<gp_Pnt>& points = edgePoints.of(forward);
    std::vector<int> nodes;
    for (std::size_t i = 0; i < points.size(); ++i) {
      const TopoDS_Vertex corner = i == 0                   ? TopExp::FirstVertex(forward)
                                   : i + 1 == points.size() ? TopExp::LastVertex(forward)
                                                            : TopoDS_Vertex();
      int node = static_cast<int>(result.points.size());
      if (!corner.IsNull()) node = corners.emplace(corner, node).first->second;
      if (node == static_cast<int>(result.points.size())) result.points.push_back(points[i]);
      if (!nodes.empty()) {
        if (node == nodes.back()) return std::nullopt;
        result.segments.emplace_back(nodes.back(), node);
        result.slack += points[i].Distance(points[i - 1]) * quality.deflection;
      }
      nodes.push_back(node);
    }
    result.edges.emplace_back(forward, std::move(nodes));
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
  auto triangles = planarTriangles(flat, face.segments);
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

void store(const PlanarFace& face, double deflection) {
  const auto& triangles = *face.triangles;
  Handle(Poly_Triangulation) mesh =
      new Poly_Triangulation(static_cast<int>(face.points.size()), static_cast<int>(triangles.size()), false, false);
  const TopLoc_Location place = face.face.Location();
  const gp_Trsf toFace = place.Transformation().Inverted();
  for (std::size_t i = 0; i < face.points.size(); ++i)
    mesh->SetNode(static_cast<int>(i) + 1, face.points[i].Transformed(toFace));
  // Triangles run counter-clockwise about the plane's own normal, which a left-handed plane turns round.
  const bool turned = !face.plane.Direct();
  for (std::size_t i = 0; i < triangles.size(); ++i) {
    const auto& [a, b, c] = triangles[i];
    mesh->SetTriangle(static_cast<int>(i) + 1,
                      turned ? Poly_Triangle(a + 1, c + 1, b + 1) : Poly_Triangle(a + 1, b + 1, c + 1));
  }
  mesh->Deflection(deflection);
  const BRep_Builder builder;
  builder.UpdateFace(face.face, mesh);
  for (const auto& [edge, nodes] : face.edges) {
    TColStd_Array1OfInteger numbers(1, static_cast<int>(nodes.size()));
    for (std::size_t i = 0; i < nodes.size(); ++i) numbers(static_cast<int>(i) + 1) = nodes[i] + 1;
    Handle(Poly_PolygonOnTriangulation) polygon = new Poly_PolygonOnTriangulation(numbers);
    polygon->Deflection(deflection);
    builder.UpdateEdge(edge, polygon, mesh, place);
  }
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
}

void meshFaces(const Shape& shape, const MeshQuality& quality, Progress& progress) {
  std::vector<TopoDS_Face> curved, planar;
  for (const TopoDS_Face& face : facesOf(shape.body().topology)) {
    TopLoc_Location place;
    if (!meshOf(face, place, quality.deflection).IsNull()) continue;
    const bool flat = BRepAdaptor_Surface(face, false).GetType() == GeomAbs_Plane;
    (flat ? planar : curved).push_back(face);
  }
  meshByKernel(curved, quality, progress);

  EdgePoints edgePoints(shape.body().topology, quality);
  std::vector<PlanarFace> prepared;
  std::vector<TopoDS_Face> rest;
  for (const TopoDS_Face& face : planar) {
    if (auto border = planarFace(face, edgePoints, quality))
      prepared.push_back(std::move(*border));
    else
      rest.push_back(face);
  }
  forEachInParallel(prepared.size(), "meshing", progress,
                    [&](std::size_t i) { triangulate(prepared[i], factsOf(shape, prepared[i].face).area); });
  for (const PlanarFace& face : prepared) {
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

void append(std::vector<float>& target, const gp_XYZ& value) {
  target.insert(target.end(), {float(value.X()), float(value.Y()), float(value.Z())});
}

void addFace(BodyMesh& result, const TopoDS_Face& face) {
  const auto firstVertex = static_cast<std::uint32_t>(result.points.size() / 3);
  const auto firstTriangle = static_cast<std::uint32_t>(result.triangles.size() / 3);
  TopLoc_Location place;
  const Triangles mesh = BRep_Tool::Triangulation(face, place);
  if (!mesh.IsNull()) {
    if (!mesh->HasNormals()) addNormals(face, mesh);
    const gp_Trsf move = place.Transformation();
    const bool reversed = face.Orientation() == TopAbs_REVERSED;
    for (int i = 1; i <= mesh->NbNodes(); ++i) {
      const gp_Pnt point = mesh->Node(i).Transformed(move);
      const gp_Dir normal = mesh->Normal(i).Transformed(move);
      append(result.points, point.XYZ());
      append(result.normals, reversed ? normal.XYZ().Reversed() : normal.XYZ());
      result.box.add(fromPnt(point));
    }
    for (int i = 1; i <= mesh->NbTriangles(); ++i) {
      int a = 0, b = 0, c = 0;
      mesh->Triangle(i).Get(a, b, c);
      if (reversed) std::swap(b, c);
      for (int corner : {a, b, c}) result.triangles.push_back(firstVertex + static_cast<std::uint32_t>(corner) - 1);
    }
  }
  result.faceVertices.push_back({firstVertex, static_cast<std::uint32_t>(result.points.size() / 3) - firstVertex});
  result.faceTriangles.push_back(
      {firstTriangle, static_cast<std::uint32_t>(result.triangles.size() / 3) - firstTriangle});
}

void addEdges(BodyMesh& result, const Shape& shape, const MeshQuality& quality) {
  TopTools_IndexedDataMapOfShapeListOfShape ancestors;
  TopExp::MapShapesAndUniqueAncestors(shape.body().topology, TopAbs_EDGE, TopAbs_FACE, ancestors);
  EdgePoints edgePoints(shape.body().topology, quality);
  ShapeMap<std::size_t> faceIndex;
  for (const TopoDS_Face& face : facesOf(shape.body().topology)) faceIndex.emplace(face, faceIndex.size());
  result.faceEdges.resize(faceIndex.size());
  // The same edges in the same order as edgesOf().
  for (int i = 1; i <= ancestors.Extent(); ++i) {
    const TopoDS_Edge& edge = TopoDS::Edge(ancestors.FindKey(i));
    if (BRep_Tool::Degenerated(edge)) continue;
    if (ancestors(i).Extent() == 1 && BRep_Tool::IsClosed(edge, TopoDS::Face(ancestors(i).First()))) continue;
    const auto first = static_cast<std::uint32_t>(result.edgePoints.size() / 3);
    for (const TopoDS_Shape& face : ancestors(i))
      result.faceEdges[faceIndex.at(face)].push_back(static_cast<std::uint32_t>(result.edges.size()));
    const std::vector<gp_Pnt>& points = edgePoints.of(edge);
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
  kernelCall("meshing", [&] { meshFaces(shape, quality, progress); });
  for (const TopoDS_Face& face : facesOf(shape.body().topology)) {
    progress.throwIfStopped();
    addFace(result, face);
  }
  addEdges(result, shape, quality);
  if (shape.kind() == BodyKind::Curve) result.box = shape.roughBox();
  TopTools_IndexedMapOfShape corners;
  TopExp::MapShapes(shape.body().topology, TopAbs_VERTEX, corners);
  for (int i = 1; i <= corners.Extent(); ++i) append(result.corners, BRep_Tool::Pnt(TopoDS::Vertex(corners(i))).XYZ());
  result.closed = shape.kind() == BodyKind::Solid && shape.watertight();
  return result;
}

}  // namespace kervo
