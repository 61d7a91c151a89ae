#include "geom/surface/border.h"

#include "base/say.h"
#include "geom/tolerances.h"

namespace kervo {

Border::Frame Border::at(double parameter) const {
  Frame frame;
  gp_Vec tangent;
  BRepAdaptor_Curve(edge, face).D1(parameter, frame.point, tangent);
  double first, last;
  const gp_Pnt2d uv = BRep_Tool::CurveOnSurface(edge, face, first, last)->Value(parameter);
  gp_Pnt at;
  gp_Vec du, dv;
  BRepAdaptor_Surface(face, false).D1(uv.X(), uv.Y(), at, du, dv);
  gp_Vec normal = du.Crossed(dv);
  if (normal.Magnitude() < tolerance::rounding || tangent.Magnitude() < tolerance::rounding)
    throw Error(say("a border of the surface comes to a point there"), "",
                say("Extend another border, or use it as it is"));
  if (face.Orientation() == TopAbs_REVERSED) normal.Reverse();
  if (edge.Orientation() == TopAbs_REVERSED) tangent.Reverse();
  // A face lies to the left of its border.
  frame.outwards = tangent.Crossed(normal).Normalized();
  return frame;
}

std::vector<Border> bordersOf(const TopoDS_Shape& surface) {
  TopTools_IndexedDataMapOfShapeListOfShape faces;
  TopExp::MapShapesAndAncestors(surface, TopAbs_EDGE, TopAbs_FACE, faces);
  std::vector<Border> borders;
  for (TopExp_Explorer face(surface, TopAbs_FACE); face.More(); face.Next())
    for (TopExp_Explorer it(face.Current(), TopAbs_EDGE); it.More(); it.Next()) {
      const TopoDS_Edge edge = TopoDS::Edge(it.Current());
      const TopoDS_Face owner = TopoDS::Face(face.Current());
      if (BRep_Tool::Degenerated(edge) || BRep_Tool::IsClosed(edge, owner)) continue;
      if (faces.FindFromKey(edge).Extent() == 1) borders.push_back({edge, owner});
    }
  return borders;
}

}  // namespace kervo
