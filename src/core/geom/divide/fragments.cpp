#include "geom/divide/fragments.h"

#include "base/say.h"
#include "geom/kernel/topology_body.h"

namespace kervo {

namespace {

/// True if a fragment's surface, taken forward, has its normal on the outer side of the face it is a fragment of.
bool facesSameWay(const TopoDS_Face& fragment, const TopoDS_Face& whole, Sides& sides) {
  TopLoc_Location a, b;
  if (BRep_Tool::Surface(fragment, a) == BRep_Tool::Surface(whole, b) && a == b)
    return whole.Orientation() != TopAbs_REVERSED;
  const std::optional<gp_Pnt> point = sides.pointOn(fragment);
  if (!point) throw Unsound{say("a part of a surface has no inside")};
  return outwardNormal(TopoDS::Face(fragment.Oriented(TopAbs_FORWARD)), *point).Dot(outwardNormal(whole, *point)) > 0;
}

}  // namespace

ShapeMap<bool> fragmentsOf(const Shape& surface, const Intersection& intersection, Sides& sides) {
  ShapeMap<bool> fragments;
  for (TopExp_Explorer it(surface.body().topology, TopAbs_FACE); it.More(); it.Next()) {
    const TopoDS_Face whole = TopoDS::Face(it.Current());
    for (const TopoDS_Shape& fragment : intersection.parts(whole))
      fragments[fragment] = facesSameWay(TopoDS::Face(fragment), whole, sides);
  }
  return fragments;
}

}  // namespace kervo
