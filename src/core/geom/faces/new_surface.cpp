#include "geom/faces/new_surface.h"

#include <GeomAdaptor_Surface.hxx>
#include <Geom_ConicalSurface.hxx>
#include <Geom_CylindricalSurface.hxx>
#include <Geom_Plane.hxx>
#include <Geom_SphericalSurface.hxx>
#include <Geom_ToroidalSurface.hxx>
#include <cmath>

#include "base/quantity.h"
#include "base/say.h"
#include "geom/faces/surface_meeting.h"
#include "geom/kernel/topology_body.h"

namespace kervo {

gp_Trsf toTrsf(const Motion& motion) {
  const auto& m = motion.rows();
  const Vector t = motion.moving();
  gp_Trsf result;
  result.SetValues(m[0].x, m[0].y, m[0].z, t.x, m[1].x, m[1].y, m[1].z, t.y, m[2].x, m[2].y, m[2].z, t.z);
  return result;
}

gp_Pnt amidCorners(const TopoDS_Face& face) {
  gp_XYZ sum;
  int corners = 0;
  for (TopExp_Explorer it(face, TopAbs_VERTEX); it.More(); it.Next(), ++corners)
    sum += BRep_Tool::Pnt(TopoDS::Vertex(it.Current())).XYZ();
  return sum / std::max(corners, 1);
}

namespace {

/// The surface with its seam and poles on the other side of a place.
void turnSeamFrom(const Handle(Geom_Surface) & surface, const gp_Pnt& place) {
  const auto elementary = Handle(Geom_ElementarySurface)::DownCast(surface);
  if (elementary.IsNull() || surface->IsKind(STANDARD_TYPE(Geom_Plane))) return;
  const gp_Ax3 axes = elementary->Position();
  gp_Vec out(axes.Location(), place);
  const bool ball = surface->IsKind(STANDARD_TYPE(Geom_SphericalSurface));
  if (!ball) out -= gp_Vec(axes.Direction()) * out.Dot(gp_Vec(axes.Direction()));
  if (out.Magnitude() < tolerance::point) return;
  const gp_Dir away = gp_Dir(out).Reversed();
  gp_Ax3 turned = ball ? gp_Ax3(axes.Location(), gp_Ax2(axes.Location(), away).XDirection(), away)
                       : gp_Ax3(axes.Location(), axes.Direction(), away);
  if (turned.Direct() != axes.Direct()) turned.YReverse();
  elementary->SetPosition(turned);
}

/// The surface of another face, with its normal to the same side as that of the face that takes it over.
Handle(Geom_Surface) takenOver(const TopoDS_Face& face, const Face& from) {
  Handle(Geom_Surface) surface = Handle(Geom_Surface)::DownCast(BRep_Tool::Surface(from.body().face)->Copy());
  const gp_Pnt place = amidCorners(face);
  turnSeamFrom(surface, place);
  const auto before = fromSurface(BRep_Tool::Surface(face), place), now = fromSurface(surface, place);
  if (!before || !now || std::abs(before->way.Dot(now->way)) < tolerance::sameDirection)
    throw Error(say("the other surface stands across the face: they cannot take each other's place"), "",
                say("Pick a surface that runs more like the face"));
  if (before->way.Dot(now->way) > 0) return surface;
  if (const auto plane = Handle(Geom_Plane)::DownCast(surface); !plane.IsNull())
    return new Geom_Plane(plane->Location(), plane->Axis().Direction().Reversed());
  return surface->UReversed();
}

}  // namespace

Handle(Geom_Surface) newSurface(const TopoDS_Face& face, const FaceChange& change) {
  if (change.onto) return takenOver(face, *change.onto);
  const Handle(Geom_Surface) surface =
      Handle(Geom_Surface)::DownCast(BRep_Tool::Surface(face)->Transformed(toTrsf(change.motion)));
  if (change.outwards == 0) return surface;
  // Normals of surfaces on left-handed axes point the other way.
  const auto elementary = Handle(Geom_ElementarySurface)::DownCast(surface);
  const bool turned =
      (face.Orientation() == TopAbs_REVERSED) != (!elementary.IsNull() && !elementary->Position().Direct());
  const double by = turned ? -change.outwards : change.outwards;
  const auto grown = [&](double size) {
    if (size + by < tolerance::smallestSize)
      throw Error(say("nothing would be left of a face with a radius of %1 mm", formatNumber(size, 6)), "",
                  say("Change it by less"));
    return size + by;
  };
  if (const auto plane = Handle(Geom_Plane)::DownCast(surface); !plane.IsNull()) {
    const gp_Vec normal(plane->Pln().Axis().Direction());
    plane->Translate(normal * by);
  } else if (const auto cylinder = Handle(Geom_CylindricalSurface)::DownCast(surface); !cylinder.IsNull()) {
    cylinder->SetRadius(grown(cylinder->Radius()));
  } else if (const auto sphere = Handle(Geom_SphericalSurface)::DownCast(surface); !sphere.IsNull()) {
    sphere->SetRadius(grown(sphere->Radius()));
  } else if (const auto torus = Handle(Geom_ToroidalSurface)::DownCast(surface); !torus.IsNull()) {
    torus->SetMinorRadius(grown(torus->MinorRadius()));
  } else if (const auto cone = Handle(Geom_ConicalSurface)::DownCast(surface); !cone.IsNull()) {
    // Along its normal: the radius where the axis begins grows by more.
    const double at = cone->RefRadius() + by / std::cos(cone->SemiAngle());
    if (at >= 0)
      cone->SetRadius(at);
    else
      throw Error(say("the cone would turn inside out"), "", say("Change it by less"));
  } else {
    throw Error(say("a free-form face has no size that could change"), "",
                say("Recognise what it is, or move it as a whole"));
  }
  return surface;
}

}  // namespace kervo
