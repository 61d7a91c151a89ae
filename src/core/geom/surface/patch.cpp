#include "geom/surface/patch.h"

#include <BRepBuilderAPI_FindPlane.hxx>
#include <BRepOffsetAPI_MakeFilling.hxx>
#include <Geom_Plane.hxx>
#include <algorithm>

#include "base/quantity.h"
#include "base/say.h"
#include "geom/kernel/topology_body.h"
#include "geom/measure/soundness.h"
#include "geom/surface/edge_walk.h"
#include "geom/sweep/region_body.h"

namespace kervo {

namespace {

/// The edges with the faces that they bound; a null face where they bound none, or one on both sides.
std::vector<Border> bordersFor(const PatchOrder& order) {
  std::vector<Border> result;
  for (const auto& [edge, shape] : order.edges) {
    Border found{edge.body().edge, {}};
    if (!shape.empty() && shape.kind() == BodyKind::Surface)
      for (const Border& border : bordersOf(shape.body().topology))
        if (border.edge.IsSame(found.edge)) found = border;
    result.push_back(found);
  }
  return result;
}

Shape named(const TopoDS_Face& face, const std::string& name) {
  FaceTable table;
  table.emplace(face, FaceFacts{originsOf(name + ":patch"), {}, false});
  return makeShape(face, std::move(table), name + ":patch");
}

}  // namespace

std::vector<Edge> loopOf(const Shape& surface, const std::vector<Edge>& edges) {
  const std::vector<Border> all = bordersOf(surface.body().topology);
  const auto first = std::find_if(all.begin(), all.end(), [&](const Border& border) {
    return !edges.empty() && border.edge.IsSame(edges.front().body().edge);
  });
  if (first == all.end()) return edges;
  const std::vector<Border> loop = wholeLoop(all, *first);
  std::vector<Edge> result;
  for (const Edge& edge : edgesOf(surface))
    if (std::any_of(loop.begin(), loop.end(),
                    [&](const Border& border) { return border.edge.IsSame(edge.body().edge); }))
      result.push_back(edge);
  return result;
}

Shape planarPatch(const Region& region, const std::string& name) {
  return named(region.body().face, name);
}

Patch patched(const PatchOrder& order, const std::string& name, Progress& progress) {
  const std::vector<Border> borders = bordersFor(order);
  return kernelCall("patching", [&] {
    const EdgeWalk walk(borders);
    if (!walk.closed())
      throw Error(say("the edges chosen do not close"), "", say("Pick more of them, until they go all round"));
    if (!order.tangent && order.through.empty()) {
      BRepBuilderAPI_MakeWire wire;
      TopTools_ListOfShape edges;
      for (const Border& border : borders) edges.Append(border.edge);
      wire.Add(edges);
      if (wire.IsDone()) {
        const BRepBuilderAPI_FindPlane plane(wire.Wire(), tolerance::sewing);
        if (plane.Found()) {
          const BRepBuilderAPI_MakeFace face(plane.Plane()->Pln(), wire.Wire(), true);
          if (face.IsDone()) return Patch{named(face.Face(), name)};
        }
      }
    }
    constexpr int degree = 3, points = 15, iterations = 3, mostDegree = 8, mostSpans = 20;
    constexpr double flat = 1e-5, apart = 1e-4, angle = 1e-2, bend = 0.1;
    BRepOffsetAPI_MakeFilling filling(degree, points, iterations, false, flat, apart, angle, bend, mostDegree,
                                      mostSpans);
    for (const Border& border : borders) {
      if (!order.tangent) {
        filling.Add(border.edge, GeomAbs_C0);
        continue;
      }
      if (border.face.IsNull())
        throw Error(say("an edge chosen bounds no open surface, so nothing can be tangent there"), "",
                    say("Let it touch only, or lift the faces off the solid first"));
      filling.Add(border.edge, border.face, GeomAbs_G1);
    }
    for (const Point& point : order.through) filling.Add(toPnt(point));
    filling.Build();
    progress.throwIfStopped();
    if (!filling.IsDone())
      throw Error(say("the loop could not be filled"), "", say("Let it touch only, or use fewer points"));
    TopoDS_Face face;
    for (TopExp_Explorer it(filling.Shape(), TopAbs_FACE); it.More(); it.Next()) face = TopoDS::Face(it.Current());
    if (face.IsNull())
      throw Error(say("the loop could not be filled"), "", say("Let it touch only, or use fewer points"));
    Patch patch{named(face, name), filling.G0Error(), order.tangent ? filling.G1Error() : 0};
    constexpr double stillTangent = 0.02;
    if (patch.angle > stillTangent)
      throw Error(say("no face was found that is tangent there: it would be off by %1°",
                      formatNumber(patch.angle * 180 / M_PI, 2)),
                  "", say("Let it touch only, or blend the border with another one"));
    if (const std::string fault = findFault(patch.surface.body(), progress); !fault.empty())
      throw Error(say("the patch is not sound: %1", fault), "", say("Let it touch only, or use fewer points"));
    return patch;
  });
}

}  // namespace kervo
