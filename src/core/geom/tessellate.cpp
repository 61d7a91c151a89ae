#include "geom/tessellate.h"

#include <BRepMesh_IncrementalMesh.hxx>
#include <ElSLib.hxx>
#include <GCPnts_TangentialDeflection.hxx>
#include <GeomLib.hxx>
#include <Poly_PolygonOnTriangulation.hxx>
#include <Poly_Triangulation.hxx>
#include <TopoDS_Compound.hxx>
#include <cmath>

#include "geom/kernel/cylinder_strip.h"
#include "geom/kernel/parallel.h"
#include "geom/kernel/planar_triangles.h"
#include "geom/kernel/skeleton.h"

namespace kervo {

namespace {

using Triangles = Handle(Poly_Triangulation);

/// On the borders of planar faces: more take longer than waking another thread.
constexpr std::size_t manyPoints = 500;

/// The mesh a face has, if it is as good as wanted.
Triangles meshOf(const TopoDS_Face& face, TopLoc_Location& place, double deflection) {
  Triangles mesh = BRep_Tool::Triangulation(face, place);
  if (!mesh.IsNull() && mesh->Deflection() > deflection * 1.001) mesh.Nullify();
  return mesh;
}

bool liesInPlane(const TopoDS_Face& face) {
  return BRepAdaptor_Surface(face, false).GetType() == GeomAbs_Plane;
}

/// Points along every edge (in space), as its curved neighbours were meshed, so that no gaps show.
class EdgePoints {
 public:
  EdgePoints(const Skeleton& skeleton, const MeshQuality& quality)
      : skeleton_(skeleton), quality_(quality), points_(skeleton.edges.size()) {
    for (const TopoDS_Face& face : skeleton.faces) flat_.push_back(liesInPlane(face));
  }

  bool isFlat(std::size_t face) const { return flat_[face]; }

  /// By the edge's number, in the direction of its curve.
  const std::vector<gp_Pnt>& of(std::size_t edge) {
    std::vector<gp_Pnt>& points = points_[edge];
    if (points.empty()) points = found(skeleton_.edges[edge]);
    return points;
  }
  /// For an edge whose face is meshed only now.
  void forget(std::size_t edge) { points_[edge].clear(); }

 private:
  std::vector<gp_Pnt> found(const Skeleton::EdgePart& part) const {
    const TopoDS_Edge edge = TopoDS::Edge(part.edge.Oriented(TopAbs_FORWARD));
    std::vector<gp_Pnt> points = meshed(edge, part.faces);
    if (points.size() < 2) points = sampled(edge);
    // The ends are the shape's corners exactly: neighbouring edges then meet in one point.
    const TopoDS_Vertex first = TopExp::FirstVertex(edge), last = TopExp::LastVertex(edge);
    if (!first.IsNull()) points.front() = BRep_Tool::Pnt(first);
    if (!last.IsNull()) points.back() = BRep_Tool::Pnt(last);
    return points;
  }

  /// As a face beside the edge has them: a curved one if there is one, for those of planes are the easier to change.
  std::vector<gp_Pnt> meshed(const TopoDS_Edge& edge, const std::vector<std::uint32_t>& faces) const {
    for (const bool flat : {false, true})
      for (const std::uint32_t face : faces)
        if (isFlat(face) == flat)
          if (auto points = meshed(edge, skeleton_.faces[face]); !points.empty()) return points;
    return {};
  }

  std::vector<gp_Pnt> meshed(const TopoDS_Edge& edge, const TopoDS_Face& face) const {
    TopLoc_Location place;
    const Triangles mesh = meshOf(face, place, quality_.deflection);
    if (mesh.IsNull()) return {};
    std::vector<gp_Pnt> points;
    if (const auto bordered = Handle(BorderedMesh)::DownCast(mesh)) {
      for (const int node : bordered->border(edge)) points.push_back(mesh->Node(node + 1));
    } else if (const auto polygon = BRep_Tool::PolygonOnTriangulation(edge, mesh, place)) {
      points.reserve(static_cast<std::size_t>(polygon->NbNodes()));
      for (int i = 1; i <= polygon->NbNodes(); ++i) points.push_back(mesh->Node(polygon->Node(i)));
    }
    if (!place.IsIdentity())
      for (gp_Pnt& point : points) point.Transform(place.Transformation());
    return points;
  }

  /// Points on the curve itself. They are not kept with the edge: the kernel would take its box from them.
  std::vector<gp_Pnt> sampled(const TopoDS_Edge& edge) const {
    const BRepAdaptor_Curve curve(edge);
    if (curve.GetType() == GeomAbs_Line)
      return {curve.Value(curve.FirstParameter()), curve.Value(curve.LastParameter())};
    // The kernel's own meshes have twice as many points along circles: neighbours are to look alike.
    const GCPnts_TangentialDeflection sampler(curve, quality_.angleRadians / 2, quality_.deflection);
    std::vector<gp_Pnt> points;
    for (int i = 1; i <= sampler.NbPoints(); ++i) points.push_back(sampler.Value(i));
    return points;
  }

  const Skeleton& skeleton_;
  MeshQuality quality_;
  std::vector<char> flat_;
  std::vector<std::vector<gp_Pnt>> points_;
};

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
  Borders(const Skeleton& skeleton, EdgePoints& points) : skeleton_(skeleton), points_(points) {
    for (std::size_t i = 0; i < skeleton.edges.size(); ++i) numberOf_.emplace(skeleton.edges[i].edge, i);
  }
  const std::vector<gp_Pnt>& pointsOf(const TopoDS_Edge& edge) { return points_.of(numberOf_.at(edge)); }
  void forget(const TopoDS_Edge& edge) { points_.forget(numberOf_.at(edge)); }
  /// All faces at the edge but this one are planes.
  bool onlyPlanesBeside(const TopoDS_Face& face, const TopoDS_Edge& edge) const {
    const std::vector<std::uint32_t>& faces = skeleton_.edges[numberOf_.at(edge)].faces;
    return std::all_of(faces.begin(), faces.end(),
                       [&](std::uint32_t i) { return skeleton_.faces[i].IsSame(face) || points_.isFlat(i); });
  }

 private:
  const Skeleton& skeleton_;
  EdgePoints& points_;
  ShapeMap<std::size_t> numberOf_;
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
  for (std::size_t i = 0; i < face.edges.size(); ++i) mesh->setBorder(face.edges[i], std::move(face.lines[i]));
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
      const std::vector<int>& nodes = meshes[face]->border(skeleton.edges[i].edge);
      if (nodes.empty() || nodes.size() == edgePoints.of(i).size()) continue;
      result.push_back(skeleton.faces[face]);
      meshes[face].Nullify();
    }
  return result;
}

void meshFaces(const Shape& shape, EdgePoints& edgePoints, const MeshQuality& quality, Progress& progress) {
  const Skeleton& skeleton = skeletonOf(shape);
  std::vector<TopoDS_Face> curved, planar;
  for (std::size_t i = 0; i < skeleton.faces.size(); ++i) {
    TopLoc_Location place;
    if (meshOf(skeleton.faces[i], place, quality.deflection).IsNull())
      (edgePoints.isFlat(i) ? planar : curved).push_back(skeleton.faces[i]);
  }
  if (curved.empty() && planar.empty()) return;
  Borders borders(skeleton, edgePoints);
  std::erase_if(curved, [&](const TopoDS_Face& face) { return meshedAsStrip(face, borders, quality.deflection); });
  meshByKernel(curved, quality, progress);
  for (const TopoDS_Face& face : outdated(skeleton, edgePoints, quality)) planar.push_back(face);

  std::vector<PlanarFace> prepared;
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
      [&](std::size_t i) { triangulate(prepared[i], factsOf(shape, prepared[i].face).area); },
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

void addFaces(BodyMesh& result, const Skeleton& skeleton, Progress& progress) {
  std::vector<Triangles> meshes;
  std::vector<TopLoc_Location> places(skeleton.faces.size());
  std::uint32_t vertices = 0, triangles = 0;
  for (std::size_t i = 0; i < skeleton.faces.size(); ++i) {
    const Triangles mesh = BRep_Tool::Triangulation(skeleton.faces[i], places[i]);
    const auto vertexCount = static_cast<std::uint32_t>(mesh.IsNull() ? 0 : mesh->NbNodes());
    const auto triangleCount = static_cast<std::uint32_t>(mesh.IsNull() ? 0 : mesh->NbTriangles());
    result.faceVertices.push_back({vertices, vertexCount});
    result.faceTriangles.push_back({triangles, triangleCount});
    vertices += vertexCount;
    triangles += triangleCount;
    meshes.push_back(mesh);
  }
  result.points.resize(3 * std::size_t{vertices});
  result.normals.resize(3 * std::size_t{vertices});
  result.triangles.resize(3 * std::size_t{triangles});
  for (std::size_t i = 0; i < meshes.size(); ++i) {
    progress.throwIfStopped();
    if (meshes[i].IsNull()) continue;
    const TopoDS_Face& face = skeleton.faces[i];
    if (!meshes[i]->HasNormals()) addNormals(face, meshes[i]);
    const bool reversed = face.Orientation() == TopAbs_REVERSED;
    const std::uint32_t first = result.faceVertices[i].first;
    addVertices(*meshes[i], places[i], reversed, result.points.data() + 3 * first, result.normals.data() + 3 * first);
    addTriangles(*meshes[i], reversed, first, result.triangles.data() + 3 * result.faceTriangles[i].first);
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
void addEdges(BodyMesh& result, const Skeleton& skeleton, EdgePoints& edgePoints) {
  result.faceEdges.resize(skeleton.faces.size());
  for (std::size_t i = 0; i < skeleton.edges.size(); ++i) {
    const Skeleton::EdgePart& part = skeleton.edges[i];
    if (!part.visible) continue;
    const auto first = static_cast<std::uint32_t>(result.edgePoints.size() / 3);
    for (const std::uint32_t face : part.faces)
      result.faceEdges[face].push_back(static_cast<std::uint32_t>(result.edges.size()));
    const std::vector<gp_Pnt>& points = edgePoints.of(i);
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
  EdgePoints edgePoints(skeleton, quality);
  kernelCall("meshing", [&] { meshFaces(shape, edgePoints, quality, progress); });
  addFaces(result, skeleton, progress);
  addEdges(result, skeleton, edgePoints);
  if (shape.kind() == BodyKind::Curve) result.box = shape.roughBox();
  for (const Skeleton::VertexPart& part : skeleton.vertices) append(result.corners, BRep_Tool::Pnt(part.vertex).XYZ());
  result.closed = shape.kind() == BodyKind::Solid && shape.watertight();
  return result;
}

}  // namespace kervo
