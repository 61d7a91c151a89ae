#include "geom/sweep/inset_region.h"

#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepOffsetAPI_MakeOffset.hxx>
#include <BRepTools.hxx>
#include <TopoDS.hxx>
#include <algorithm>
#include <cmath>

#include "geom/kernel/call.h"
#include "geom/kernel/convert.h"
#include "geom/sweep/region_body.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

double areaWithin(const TopoDS_Wire& wire, const Plane& plane) {
  const BRepBuilderAPI_MakeFace face(toPln(plane), wire, true);
  return face.IsDone() ? std::abs(integrate(face.Face()).area) : 0;
}

/// The loops at a distance outside of one, or inside if negative.
std::vector<TopoDS_Wire> beside(const TopoDS_Wire& wire, double by, const Plane& plane) {
  std::vector<TopoDS_Wire> loops;
  const double before = areaWithin(wire, plane);
  // Which way is outside depends on how the loop runs.
  for (const double way : {by, -by}) {
    loops.clear();
    BRepOffsetAPI_MakeOffset offset(wire, GeomAbs_Arc);
    offset.Perform(way);
    if (!offset.IsDone()) continue;
    double after = 0;
    if (!offset.Shape().IsNull())
      for (TopExp_Explorer it(offset.Shape(), TopAbs_WIRE); it.More(); it.Next()) {
        loops.push_back(TopoDS::Wire(it.Current()));
        after += areaWithin(loops.back(), plane);
      }
    if (by < 0 ? after < before : after > before) return loops;
  }
  throw Error(say("a gap cannot be taken off a region"), "", say("Make the gap smaller, or simplify the drawing"));
}

}  // namespace

std::vector<Region> inset(const Region& region, double by) {
  const RegionBody& body = region.body();
  return kernelCall("taking a gap off a region", [&] {
    const TopoDS_Wire outer = BRepTools::OuterWire(body.face);
    const std::vector<TopoDS_Wire> within = beside(outer, -by, body.plane);
    std::vector<TopoDS_Wire> loops = within;
    std::vector<Region> result;
    if (loops.empty()) return result;
    for (TopExp_Explorer it(body.face, TopAbs_WIRE); it.More(); it.Next())
      if (!it.Current().IsSame(outer))
        for (const TopoDS_Wire& loop : beside(TopoDS::Wire(it.Current()), by, body.plane)) loops.push_back(loop);
    // An island that comes too near to the border, or to another one, leaves loops that cross.
    for (std::size_t i = 0; i < loops.size(); ++i)
      for (std::size_t k = i + 1; k < loops.size(); ++k)
        if (BRepExtrema_DistShapeShape(loops[i], loops[k]).Value() < tolerance::point)
          throw Error(say("a region is too narrow between its border and its islands for this gap"), "",
                      say("Make the gap smaller, or choose parts of the drawing"));
    Progress unstoppable;
    for (const TopoDS_Face& face : nestedFaces(body.plane, loops, unstoppable)) {
      // What lies within an island is no part of the region.
      const TopoDS_Shape border = TopExp_Explorer(face, TopAbs_WIRE).Current();
      if (std::none_of(within.begin(), within.end(), [&](const TopoDS_Wire& loop) { return loop.IsSame(border); }))
        continue;
      result.emplace_back(std::make_shared<const RegionBody>(
          RegionBody::of(body.name, body.plane, face, [](const TopoDS_Shape&) { return std::string("inset"); })));
    }
    return result;
  });
}

}  // namespace kervo
