#include "geom/built_planes.h"

#include <BRepClass_FaceClassifier.hxx>
#include <BRepTools.hxx>
#include <GeomAPI_ProjectPointOnSurf.hxx>
#include <GeomLProp_SLProps.hxx>
#include <algorithm>

#include "base/error.h"
#include "base/say.h"
#include "geom/kernel/topology_body.h"
#include "geom/tolerances.h"

namespace kervo {

Plane midwayPlane(const Plane& a, const Plane& b, Between between) {
  const Vector line = cross(a.normal, b.normal);
  if (length(line) < tolerance::direction) {
    // Opposite faces look away from each other: the first one's normal counts.
    const double apart = a.signedDistance(b.origin);
    if (std::abs(apart) < tolerance::direction)
      throw Error(say("both are the same plane"), "", say("Pick another face or plane"));
    return a.moved(apart / 2);
  }
  // A point of both: solved for the two distances and along the line.
  const double da = dot(a.origin, a.normal), db = dot(b.origin, b.normal);
  const Point on = (cross(b.normal, line) * da + cross(line, a.normal) * db) * (1 / dot(line, line));
  const bool sum = between == Between::Planes && dot(a.normal, b.normal) > 0;
  return Plane::through(on, sum ? a.normal + b.normal : a.normal - b.normal);
}

Plane planeThrough(Point a, Point b, Point c) {
  const Vector normal = cross(b - a, c - a);
  const double longest = std::max({distance(a, b), distance(b, c), distance(a, c)});
  if (length(normal) < tolerance::direction * longest * longest)
    throw Error(say("the three points lie on one line"), "", say("Pick another point"));
  const Vector up = normalized(normal);
  const bool flip = up.z < -tolerance::direction ||
                    (std::abs(up.z) <= tolerance::direction &&
                     (up.y < -tolerance::direction || (std::abs(up.y) <= tolerance::direction && up.x < 0)));
  return Plane::through((a + b + c) * (1.0 / 3), flip ? -up : up);
}

Plane planeAcross(const Edge& edge) {
  const auto axis = edge.axis();
  if (!axis) throw Error(say("the edge is neither straight nor round"), "", say("Pick another edge"));
  const Vector along = edge.middle() - axis->point;
  const bool straight = length(cross(along, axis->direction)) < tolerance::direction;
  return Plane::through(straight ? edge.middle() : axis->point, axis->direction);
}

Plane tangentPlane(const Face& face, Point near) {
  const TopoDS_Face& topology = face.body().face;
  return kernelCall("finding a tangent plane", [&] {
    double u1 = 0, u2 = 0, v1 = 0, v2 = 0;
    BRepTools::UVBounds(topology, u1, u2, v1, v2);
    const Handle(Geom_Surface) surface = BRep_Tool::Surface(topology);
    const GeomAPI_ProjectPointOnSurf nearest(toPnt(near), surface, u1, u2, v1, v2);
    if (nearest.NbPoints() == 0)
      throw Error(say("no place of the face is nearest to the point"), "", say("Pick another place on it"));
    double u = 0, v = 0;
    nearest.LowerDistanceParameters(u, v);
    BRepClass_FaceClassifier within(topology, gp_Pnt2d(u, v), tolerance::point);
    if (within.State() == TopAbs_OUT)
      throw Error(say("the face is no longer there where the plane touches it"), "", say("Pick another place on it"));
    GeomLProp_SLProps properties(surface, u, v, 1, tolerance::point);
    if (!properties.IsNormalDefined())
      throw Error(say("the face has no normal there"), "", say("Pick another place on it"));
    const Vector normal = fromDir(properties.Normal());
    return Plane::through(fromPnt(properties.Value()), topology.Orientation() == TopAbs_REVERSED ? -normal : normal);
  });
}

Plane planeAcross(const Face& face) {
  const auto axis = face.axis();
  if (!axis)
    throw Error(say("a %1 face has no axis", say(face.surfaceName().c_str())), "",
                say("Pick a round face; Recognise finds those that came as splines"));
  const double along = dot(face.middle() - axis->point, axis->direction);
  return Plane::through(axis->point + axis->direction * along, axis->direction);
}

}  // namespace kervo
