// Between Kervo's points and planes and the kernel's.
#pragma once

#include <gp_Ax3.hxx>
#include <gp_Dir.hxx>
#include <gp_Pln.hxx>
#include <gp_Pnt.hxx>
#include <gp_Vec.hxx>

#include "geom/space.h"

namespace kervo {

inline gp_Pnt toPnt(Point p) {
  return {p.x, p.y, p.z};
}
inline gp_Vec toVec(Vector v) {
  return {v.x, v.y, v.z};
}
inline gp_Dir toDir(Vector v) {
  return {v.x, v.y, v.z};
}
inline Point fromPnt(const gp_Pnt& p) {
  return {p.X(), p.Y(), p.Z()};
}
inline Vector fromDir(const gp_Dir& d) {
  return {d.X(), d.Y(), d.Z()};
}
inline Vector fromVec(const gp_Vec& v) {
  return {v.X(), v.Y(), v.Z()};
}
inline gp_Ax3 toAxes(const Plane& plane) {
  return {toPnt(plane.origin), toDir(plane.normal), toDir(plane.x)};
}
inline gp_Pln toPln(const Plane& plane) {
  return gp_Pln(toAxes(plane));
}

}  // namespace kervo
