// How planes come onto cylinders and cones with lengths kept. For src/core/geom/surface only.
#pragma once

#include <BRepAdaptor_Surface.hxx>
#include <Geom_ConicalSurface.hxx>
#include <Geom_CylindricalSurface.hxx>
#include <cmath>
#include <gp_GTrsf2d.hxx>

#include "base/error.h"
#include "base/say.h"
#include "geom/kernel/convert.h"
#include "geom/tolerances.h"

namespace kervo {

/// How a plane comes onto a cylinder or cone: from its coordinates to the parameters of the surface.
class Wrapping {
 public:
  Wrapping(const Plane& plane, const TopoDS_Face& face) : plane_(plane) {
    const BRepAdaptor_Surface surface(face, false);
    const bool cylinder = surface.GetType() == GeomAbs_Cylinder, cone = surface.GetType() == GeomAbs_Cone;
    if (!cylinder && !cone)
      throw Error(say("curves are wrapped round cylinders and cones only"), "",
                  say("Project them, or pick a round face"));
    const gp_Ax3 axes = cylinder ? surface.Cylinder().Position() : surface.Cone().Position();
    axis_ = fromDir(axes.Direction());
    centre_ = fromPnt(axes.Location());
    x_ = fromDir(axes.XDirection());
    y_ = fromDir(axes.YDirection());
    radius_ = cylinder ? surface.Cylinder().Radius() : surface.Cone().RefRadius();
    slope_ = cylinder ? 0 : surface.Cone().SemiAngle();
    geometry_ = cylinder ? Handle(Geom_Surface)(new Geom_CylindricalSurface(surface.Cylinder()))
                         : Handle(Geom_Surface)(new Geom_ConicalSurface(surface.Cone()));
    place();
  }

  const Handle(Geom_Surface) & surface() const { return geometry_; }
  bool straight() const { return slope_ == 0; }

  /// The parameters of a point of the plane.
  gp_Pnt2d at(PlanePoint point) const {
    const double round = point.u * xRound_ + point.v * yRound_, up = point.u * xUp_ + point.v * yUp_;
    if (straight()) return {angle_ + round / radius_, height_ + up};
    // Unrolled, a cone is a sector about its apex.
    const double far = slant_ + up, way = std::hypot(round, far);
    if (far <= 0)
      throw Error(say("a wrapped curve would pass the tip of the cone"), "", say("Move the drawing away from the tip"));
    return {angle_ + std::atan2(round, far) / std::abs(std::sin(slope_)), height_ + (way - slant_) * upSign_};
  }
  /// On a cylinder: the map as a linear one.
  gp_GTrsf2d linear() const {
    gp_GTrsf2d map;
    map.SetValue(1, 1, xRound_ / radius_);
    map.SetValue(1, 2, yRound_ / radius_);
    map.SetValue(2, 1, xUp_);
    map.SetValue(2, 2, yUp_);
    map.SetValue(1, 3, angle_);
    map.SetValue(2, 3, height_);
    return map;
  }

 private:
  void place() {
    const Vector off = plane_.origin - centre_;
    const double along = dot(off, axis_);
    const Vector out = off - axis_ * along;
    Vector radial =
        length(out) > tolerance::point ? normalized(out) : plane_.normal - axis_ * dot(plane_.normal, axis_);
    if (length(radial) < tolerance::sameDirection)
      throw Error(say("the plane lies across the axis of the round face"), "",
                  say("Draw on a plane beside the face, along its axis"));
    radial = normalized(radial);
    angle_ = std::atan2(dot(radial, y_), dot(radial, x_));
    const Vector round = cross(axis_, radial);
    // Along the surface, away from the tip of a cone.
    Vector up = axis_;
    if (straight()) {
      height_ = along;
    } else {
      const double tip = -radius_ / std::sin(slope_);
      const Vector way = axis_ * std::cos(slope_) + radial * std::sin(slope_);
      height_ = dot(off, way) - radius_ * std::sin(slope_);
      upSign_ = height_ > tip ? 1 : -1;
      up = way * upSign_;
      slant_ = std::abs(height_ - tip);
    }
    const double xr = dot(plane_.x, round), xu = dot(plane_.x, up);
    const double size = std::hypot(xr, xu);
    constexpr double leastAlong = 0.05;
    if (size < leastAlong || std::abs(dot(plane_.normal, radial)) < leastAlong)
      throw Error(say("the plane stands upright on the round face"), "",
                  say("Draw on a plane that faces it: tangent to it, or beside it along its axis"));
    xRound_ = xr / size;
    xUp_ = xu / size;
    // y goes to that side of x where it is, seen across the face.
    const double turn = dot(plane_.y, round) * -xUp_ + dot(plane_.y, up) * xRound_ < 0 ? -1 : 1;
    yRound_ = -xUp_ * turn;
    yUp_ = xRound_ * turn;
  }

  Plane plane_;
  Vector axis_, x_, y_;
  Point centre_;
  double radius_ = 0, slope_ = 0;
  Handle(Geom_Surface) geometry_;
  double angle_ = 0, height_ = 0, slant_ = 0, upSign_ = 1;
  double xRound_ = 1, xUp_ = 0, yRound_ = 0, yUp_ = 1;
};

}  // namespace kervo
