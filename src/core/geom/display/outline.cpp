#include "geom/display/outline.h"

#include <BRepTools_WireExplorer.hxx>
#include <GCPnts_TangentialDeflection.hxx>
#include <cmath>
#include <numbers>

#include "geom/kernel/topology_body.h"
#include "geom/planes.h"
#include "geom/sweep/region_body.h"

namespace kervo {

namespace {

constexpr double stepRadians = std::numbers::pi / 36;

void append(Polyline& loop, const TopoDS_Edge& edge) {
  const BRepAdaptor_Curve curve(edge);
  const GCPnts_TangentialDeflection sampler(curve, stepRadians, 1e6);
  const int count = sampler.NbPoints();
  for (int i = 1; i <= count; ++i) {
    const Point point = fromPnt(sampler.Value(edge.Orientation() == TopAbs_REVERSED ? count + 1 - i : i));
    if (loop.empty() || distance(loop.back(), point) > tolerance::point) loop.push_back(point);
  }
}

}  // namespace

std::vector<Polyline> outlinesOf(const Region& region) {
  return kernelCall("outlining a region", [&] {
    std::vector<Polyline> loops;
    for (TopExp_Explorer it(region.body().face, TopAbs_WIRE); it.More(); it.Next()) {
      Polyline loop;
      for (BRepTools_WireExplorer edge(TopoDS::Wire(it.Current())); edge.More(); edge.Next())
        append(loop, edge.Current());
      if (loop.size() < 2) continue;
      if (distance(loop.front(), loop.back()) > tolerance::point) loop.push_back(loop.front());
      loops.push_back(std::move(loop));
    }
    return loops;
  });
}

Point middleOf(const Region& region) {
  const Point middle = region.body().planeBox.centre();
  return region.body().plane.at(middle.x, middle.y);
}

std::vector<Polyline> edgeLines(const Shape& shape) {
  std::vector<Polyline> lines;
  for (const Edge& edge : edgesOf(shape)) append(lines.emplace_back(), edge.body().edge);
  return lines;
}

Vector normalOf(const Region& region) {
  return region.body().plane.normal;
}

Polyline rectangleAround(const Box& box, const Plane& plane, double margin) {
  const Box flat = boxIn(plane, box).enlarged(margin);
  return {plane.at(flat.low.x, flat.low.y), plane.at(flat.high.x, flat.low.y), plane.at(flat.high.x, flat.high.y),
          plane.at(flat.low.x, flat.high.y), plane.at(flat.low.x, flat.low.y)};
}

}  // namespace kervo
