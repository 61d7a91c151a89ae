#include "geom/surface/placed_face.h"

#include <BRepBuilderAPI_Transform.hxx>
#include <GeomLib.hxx>
#include <Geom_BSplineSurface.hxx>
#include <Geom_BoundedSurface.hxx>
#include <Geom_RectangularTrimmedSurface.hxx>

#include "geom/kernel/topology_body.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

/// The face extended beyond all four borders if it is a whole rectangular free-form surface, otherwise itself.
TopoDS_Face extended(const TopoDS_Face& face, double by) {
  TopLoc_Location location;
  Handle(Geom_Surface) surface = BRep_Tool::Surface(face, location);
  if (const auto trimmed = Handle(Geom_RectangularTrimmedSurface)::DownCast(surface); !trimmed.IsNull())
    surface = trimmed->BasisSurface();
  const auto spline = Handle(Geom_BSplineSurface)::DownCast(surface);
  if (spline.IsNull() || spline->IsUPeriodic() || spline->IsVPeriodic()) return face;
  double u0, u1, v0, v1, s0, s1, t0, t1;
  BRepTools::UVBounds(face, u0, u1, v0, v1);
  spline->Bounds(s0, s1, t0, t1);
  const double slack = tolerance::samePlace;
  if (u0 > s0 + slack || u1 < s1 - slack || v0 > t0 + slack || v1 < t1 - slack) return face;
  Handle(Geom_BoundedSurface) longer = Handle(Geom_BoundedSurface)::DownCast(spline->Copy());
  for (const bool alongU : {true, false})
    for (const bool after : {true, false}) GeomLib::ExtendSurfByLength(longer, by, 1, alongU, after);
  return TopoDS::Face(BRepBuilderAPI_MakeFace(longer, tolerance::point).Face().Moved(location));
}

}  // namespace

Shape enlarged(const Face& face, const Box& box, const std::string& name, Vector offset) {
  return kernelCall("enlarging a face", [&]() -> Shape {
    const TopoDS_Face& original = face.body().face;
    const BRepAdaptor_Surface surface(original, false);
    Box around = box;
    for (const Face& only : {face}) around.add(only.samplePoint());
    const double reach = 2 * around.diagonal() + 10;
    const gp_Trsf& placed = surface.Trsf();
    Handle(Geom_Surface) geometry = Handle(Geom_Surface)::DownCast(surface.Surface().Surface()->Transformed(placed));
    if (const auto trimmed = Handle(Geom_RectangularTrimmedSurface)::DownCast(geometry); !trimmed.IsNull())
      geometry = trimmed->BasisSurface();
    TopoDS_Face result;
    const double turn = 2 * M_PI;
    switch (surface.GetType()) {
      case GeomAbs_Plane: {
        // Round the box's centre, so that the plane's own origin may lie anywhere.
        const gp_Pln plane = surface.Plane();
        const gp_Vec to(plane.Location(), toPnt(around.centre()));
        const double u = to.Dot(plane.XAxis().Direction()), v = to.Dot(plane.YAxis().Direction());
        result = BRepBuilderAPI_MakeFace(plane, u - reach, u + reach, v - reach, v + reach);
        break;
      }
      case GeomAbs_Cylinder: {
        const gp_Vec to(surface.Cylinder().Location(), toPnt(around.centre()));
        const double v = to.Dot(surface.Cylinder().Axis().Direction());
        result = BRepBuilderAPI_MakeFace(geometry, 0, turn, v - reach, v + reach, tolerance::point);
        break;
      }
      case GeomAbs_Cone: {
        // One nappe only, up to the apex.
        const gp_Cone cone = surface.Cone();
        const double apex = -cone.RefRadius() / std::sin(cone.SemiAngle());
        double u0, u1, v0, v1;
        BRepTools::UVBounds(original, u0, u1, v0, v1);
        const bool above = (v0 + v1) / 2 > apex;
        const double far = reach + std::abs((v0 + v1) / 2 - apex);
        result = BRepBuilderAPI_MakeFace(geometry, 0, turn, above ? apex : apex - far, above ? apex + far : apex,
                                         tolerance::point);
        break;
      }
      case GeomAbs_Sphere:
      case GeomAbs_Torus:
        result = BRepBuilderAPI_MakeFace(geometry, tolerance::point);
        break;
      default:
        result = extended(original, reach / 4);
    }
    gp_Trsf move;
    move.SetTranslation(toVec(offset));
    const TopoDS_Shape moved =
        length(offset) > 0 ? BRepBuilderAPI_Transform(result, move, true).Shape() : TopoDS_Shape(result);
    FaceTable table;
    for (const TopoDS_Face& part : facesOf(moved)) table.emplace(part, FaceFacts{originsOf(name), {}, true});
    return makeShape(moved, std::move(table), name);
  });
}

}  // namespace kervo
