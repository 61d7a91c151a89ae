#include "geom/sweep/revolve.h"

#include <BRepBuilderAPI_Transform.hxx>
#include <BRepGProp.hxx>
#include <BRepPrimAPI_MakeRevol.hxx>
#include <GProp_GProps.hxx>
#include <numbers>

#include "base/quantity.h"
#include "base/say.h"
#include "geom/display/outline.h"
#include "geom/kernel/topology_body.h"
#include "geom/measure/soundness.h"
#include "geom/planes.h"
#include "geom/sweep/region_body.h"

namespace kervo {

void requireBesideAxis(const Plane& plane, const std::vector<std::vector<Point>>& lines, const Axis& axis) {
  if (std::abs(plane.signedDistance(axis.point)) > tolerance::samePlace ||
      std::abs(dot(plane.normal, axis.direction)) > tolerance::sameDirection)
    throw Error(say("the axis does not lie in the plane of the drawing"), say("field %1", say("Axis")),
                say("Pick an axis in that plane, or a line of the drawing"));
  const Vector across = cross(plane.normal, axis.direction);
  Span sides;
  for (const std::vector<Point>& line : lines)
    for (const Point& point : line) sides.add(dot(point - axis.point, across));
  if (sides.low < -tolerance::samePlace && sides.high > tolerance::samePlace)
    throw Error(say("the axis crosses the profile: it reaches %1 mm to one side and %2 mm to the other",
                    formatNumber(-sides.low, 4), formatNumber(sides.high, 4)),
                say("field %1", say("Axis")), say("Move the axis or the profile, so that it lies on one side"));
}

Shape revolved(const Region& region, const std::string& name, const Axis& axis, double from, double to,
               Progress& progress) {
  return kernelCall("revolving a profile", [&] {
    progress.throwIfStopped();
    const RegionBody& profile = region.body();
    requireBesideAxis(profile.plane, outlinesOf(region), axis);
    GProp_GProps area;
    BRepGProp::SurfaceProperties(profile.face, area);
    const Vector off = fromPnt(area.CentreOfMass()) - axis.point;
    // The kernel makes a solid with its outer side outside of a face that looks where it is swept to.
    const bool looksAhead = dot(cross(axis.direction, off), profile.plane.normal) > 0;
    const gp_Ax1 about(toPnt(axis.point), toDir(axis.direction));
    gp_Trsf turn;
    turn.SetRotation(about, from);
    BRepBuilderAPI_Transform turned(looksAhead ? TopoDS_Shape(profile.face) : profile.face.Reversed(), turn, true);
    BRepPrimAPI_MakeRevol make(turned.Shape(), about, to - from, true);
    FaceTable table;
    const auto put = [&](const TopoDS_Shape& face, const std::string& origin) {
      table.emplace(face, FaceFacts{originsOf(origin), {}, true});
    };
    if (to - from < 2 * std::numbers::pi) {
      put(make.FirstShape(), name + ":start");
      put(make.LastShape(), name + ":end");
    }
    for (const auto& [edge, curve] : profile.curves)
      for (const TopoDS_Shape& side : make.Generated(turned.ModifiedShape(edge)))
        if (side.ShapeType() == TopAbs_FACE) put(side, name + ":side:" + curve);
    const Shape solid = makeShape(make.Shape(), std::move(table), name + ":side:");
    // Pappus: the volume is the area times the way of its centre.
    const double wanted = std::abs(area.Mass()) * length(cross(off, axis.direction)) * (to - from);
    if (std::abs(solid.volume() - wanted) > tolerance::balance * wanted)
      throw Error(say("the revolved profile is not sound: it has %1 mm³ instead of %2 mm³",
                      formatNumber(solid.volume()), formatNumber(wanted)),
                  "", say("Keep the profile clear of the axis, or let it end on it"));
    return solid;
  });
}

}  // namespace kervo
