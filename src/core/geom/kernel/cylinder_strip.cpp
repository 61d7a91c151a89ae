#include "geom/kernel/cylinder_strip.h"

#include <algorithm>

#include "geom/tolerances.h"

namespace kervo {

std::optional<std::pair<TopoDS_Edge, TopoDS_Edge>> rimsOfStrip(const TopoDS_Face& face) {
  if (BRepAdaptor_Surface(face, false).GetType() != GeomAbs_Cylinder) return std::nullopt;
  std::vector<TopoDS_Edge> rims;
  int straight = 0;
  for (TopExp_Explorer it(face, TopAbs_EDGE); it.More(); it.Next()) {
    const TopoDS_Edge& edge = TopoDS::Edge(it.Current());
    const bool border = edge.Orientation() == TopAbs_FORWARD || edge.Orientation() == TopAbs_REVERSED;
    if (!border || BRep_Tool::Degenerated(edge) || rims.size() + static_cast<std::size_t>(straight) == 4)
      return std::nullopt;
    if (BRepAdaptor_Curve(edge).GetType() == GeomAbs_Line)
      ++straight;
    else
      rims.push_back(edge);
  }
  if (straight != 2 || rims.size() != 2) return std::nullopt;
  return std::pair(rims[0], rims[1]);
}

Handle(BorderedMesh) stripBetween(const TopoDS_Face& face, const Rim& rim, const Rim& other) {
  const std::size_t count = rim.points.size();
  if (count < 2 || other.points.size() != count) return {};
  const gp_Cylinder cylinder = BRepAdaptor_Surface(face, false).Cylinder();
  const gp_XYZ axis = cylinder.Axis().Direction().XYZ();
  // Point i of the one rim lies opposite to this one of the other.
  const auto opposite = [&](std::size_t i, bool reversed) { return reversed ? count - 1 - i : i; };
  const auto inPairs = [&](bool reversed) {
    for (std::size_t i = 0; i < count; ++i)
      if ((other.points[opposite(i, reversed)].XYZ() - rim.points[i].XYZ()).Crossed(axis).Modulus() >
          tolerance::looseEdge)
        return false;
    return true;
  };
  const bool reversed = !inPairs(false);
  if (reversed && !inPairs(true)) return {};

  const auto number = [](std::size_t i) { return static_cast<int>(i) + 1; };
  Handle(BorderedMesh) mesh = new BorderedMesh(2 * count, 2 * count - 2, true);
  const gp_Trsf toFace = face.Location().Transformation().Inverted();
  // The normal of the surface itself; where the face is turned, the body's mesh turns it.
  const auto normalAt = [&](const gp_Pnt& point) {
    const gp_XYZ out = point.XYZ() - cylinder.Location().XYZ();
    gp_Dir normal(out - axis * out.Dot(axis));
    if (!cylinder.Direct()) normal.Reverse();
    return normal;
  };
  std::vector<int> nodes(count), otherNodes(count);
  for (std::size_t i = 0; i < count; ++i) {
    const gp_Pnt& beyond = other.points[opposite(i, reversed)];
    mesh->SetNode(number(i), rim.points[i].Transformed(toFace));
    mesh->SetNode(number(count + i), beyond.Transformed(toFace));
    // One for both: the other point lies along the cylinder.
    const gp_Dir normal = normalAt(rim.points[i]).Transformed(toFace);
    mesh->SetNormal(number(i), normal);
    mesh->SetNormal(number(count + i), normal);
    nodes[i] = static_cast<int>(i);
    otherNodes[opposite(i, reversed)] = static_cast<int>(count + i);
  }
  mesh->setBorder(face, rim.edge, std::move(nodes));
  mesh->setBorder(face, other.edge, std::move(otherNodes));
  const gp_XYZ corner = rim.points[0].XYZ();
  const gp_XYZ across = (rim.points[1].XYZ() - corner).Crossed(other.points[opposite(0, reversed)].XYZ() - corner);
  const bool turned = across.Dot(normalAt(rim.points[0]).XYZ()) < 0;
  const auto put = [&](std::size_t at, std::size_t a, std::size_t b, std::size_t c) {
    if (turned) std::swap(b, c);
    mesh->SetTriangle(number(at), Poly_Triangle(number(a), number(b), number(c)));
  };
  for (std::size_t i = 0; i + 1 < count; ++i) {
    put(2 * i, i, i + 1, count + i + 1);
    put(2 * i + 1, i, count + i + 1, count + i);
  }
  return mesh;
}

}  // namespace kervo
