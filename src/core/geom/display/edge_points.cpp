#include "geom/display/edge_points.h"

#include <GCPnts_TangentialDeflection.hxx>
#include <Poly_PolygonOnTriangulation.hxx>

#include "geom/display/bordered_mesh.h"

namespace kervo {

Handle(Poly_Triangulation) meshOf(const TopoDS_Face& face, TopLoc_Location& place, double deflection) {
  Handle(Poly_Triangulation) mesh = BRep_Tool::Triangulation(face, place);
  if (!mesh.IsNull() && mesh->Deflection() > deflection * 1.001) mesh.Nullify();
  return mesh;
}

EdgePoints::EdgePoints(const Skeleton& skeleton, const MeshQuality& quality)
    : skeleton_(skeleton), quality_(quality), points_(skeleton.edges.size()) {
  for (const TopoDS_Face& face : skeleton.faces)
    flat_.push_back(BRepAdaptor_Surface(face, false).GetType() == GeomAbs_Plane);
}

const std::vector<gp_Pnt>& EdgePoints::of(std::size_t edge) {
  std::vector<gp_Pnt>& points = points_[edge];
  if (points.empty()) points = found(skeleton_.edges[edge]);
  return points;
}

std::vector<std::vector<gp_Pnt>> EdgePoints::taken() && {
  for (std::size_t i = 0; i < points_.size(); ++i)
    if (skeleton_.edges[i].visible) of(i);
  return std::move(points_);
}

std::vector<gp_Pnt> EdgePoints::found(const Skeleton::EdgePart& part) const {
  const TopoDS_Edge edge = TopoDS::Edge(part.edge.Oriented(TopAbs_FORWARD));
  std::vector<gp_Pnt> points = meshed(edge, part.faces);
  if (points.size() < 2) points = sampled(edge);
  // The ends are the shape's corners exactly: neighbouring edges then meet in one point.
  const TopoDS_Vertex first = TopExp::FirstVertex(edge), last = TopExp::LastVertex(edge);
  if (!first.IsNull()) points.front() = BRep_Tool::Pnt(first);
  if (!last.IsNull()) points.back() = BRep_Tool::Pnt(last);
  return points;
}

std::vector<gp_Pnt> EdgePoints::meshed(const TopoDS_Edge& edge, const std::vector<std::uint32_t>& faces) const {
  for (const bool flat : {false, true})
    for (const std::uint32_t face : faces)
      if (isFlat(face) == flat)
        if (auto points = meshed(edge, skeleton_.faces[face]); !points.empty()) return points;
  return {};
}

std::vector<gp_Pnt> EdgePoints::meshed(const TopoDS_Edge& edge, const TopoDS_Face& face) const {
  TopLoc_Location place;
  const Handle(Poly_Triangulation) mesh = meshOf(face, place, quality_.deflection);
  if (mesh.IsNull()) return {};
  std::vector<gp_Pnt> points;
  if (const auto bordered = Handle(BorderedMesh)::DownCast(mesh)) {
    for (const int node : bordered->border(face, edge)) points.push_back(mesh->Node(node + 1));
  } else if (const auto polygon = BRep_Tool::PolygonOnTriangulation(edge, mesh, place)) {
    points.reserve(static_cast<std::size_t>(polygon->NbNodes()));
    for (int i = 1; i <= polygon->NbNodes(); ++i) points.push_back(mesh->Node(polygon->Node(i)));
  }
  if (!place.IsIdentity())
    for (gp_Pnt& point : points) point.Transform(place.Transformation());
  return points;
}

std::vector<gp_Pnt> EdgePoints::sampled(const TopoDS_Edge& edge) const {
  const BRepAdaptor_Curve curve(edge);
  if (curve.GetType() == GeomAbs_Line) return {curve.Value(curve.FirstParameter()), curve.Value(curve.LastParameter())};
  // The kernel's own meshes have twice as many points along circles: neighbours are to look alike.
  const GCPnts_TangentialDeflection sampler(curve, quality_.angleRadians / 2, quality_.deflection);
  std::vector<gp_Pnt> points;
  for (int i = 1; i <= sampler.NbPoints(); ++i) points.push_back(sampler.Value(i));
  return points;
}

}  // namespace kervo
