#include "geom/sweep/profile.h"

#include <BOPAlgo_Tools.hxx>
#include <BRepTools_WireExplorer.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <Geom_Plane.hxx>
#include <numbers>

#include "geom/measure/face_integrals.h"
#include "geom/sweep/region_body.h"

namespace kervo {

const std::string& Region::name() const {
  return body_->name;
}

const Plane& Region::plane() const {
  return body_->plane;
}

double Region::area() const {
  return body_->area;
}

int Region::islandCount() const {
  return body_->islands;
}

std::vector<std::vector<PlanePoint>> Region::outlines() const {
  constexpr double step = std::numbers::pi / 36;
  std::vector<std::vector<PlanePoint>> result;
  for (TopExp_Explorer wire(body_->face, TopAbs_WIRE); wire.More(); wire.Next()) {
    std::vector<PlanePoint> line;
    for (BRepTools_WireExplorer edge(TopoDS::Wire(wire.Current()), body_->face); edge.More(); edge.Next()) {
      const BRepAdaptor_Curve curve(edge.Current());
      const double from = curve.FirstParameter(), to = curve.LastParameter();
      int steps = 1;
      if (curve.GetType() == GeomAbs_Circle || curve.GetType() == GeomAbs_Ellipse)
        steps = std::max(2, static_cast<int>(std::ceil((to - from) / step)));
      else if (curve.GetType() != GeomAbs_Line)
        steps = 48;
      for (int i = 0; i < steps; ++i) {
        const double share = static_cast<double>(i) / steps;
        const bool backwards = edge.Current().Orientation() == TopAbs_REVERSED;
        const Vector at = body_->plane.coordinates(
            fromPnt(curve.Value(backwards ? to + (from - to) * share : from + (to - from) * share)));
        line.push_back({at.x, at.y});
      }
    }
    result.push_back(std::move(line));
  }
  return result;
}

std::set<std::string> Region::curves() const {
  std::set<std::string> names;
  for (const auto& [edge, curve] : body_->curves) names.insert(curve);
  return names;
}

void RegionBody::measure() {
  area = integrate(face).area;
  Bnd_Box bounds;
  BRepBndLib::Add(face, bounds, false);
  box.add(fromPnt(bounds.CornerMin()));
  box.add(fromPnt(bounds.CornerMax()));
  gp_Trsf toPlane;
  toPlane.SetTransformation(toAxes(plane));
  Bnd_Box local;
  BRepBndLib::Add(face.Moved(TopLoc_Location(toPlane)), local, false);
  planeBox.add(fromPnt(local.CornerMin()));
  planeBox.add(fromPnt(local.CornerMax()));
}

std::vector<TopoDS_Face> nestedFaces(const Plane& plane, const std::vector<TopoDS_Wire>& loops, Progress& progress) {
  const gp_Pln pln = toPln(plane);
  gp_Trsf toPlane;
  toPlane.SetTransformation(toAxes(plane));
  struct Loop {
    TopoDS_Wire wire;  // counter-clockwise
    double area;
    Box box;
    PlanePoint point;
    std::unique_ptr<BRepTopAdaptor_FClass2d> classifier;
    std::vector<std::size_t> islands;
  };
  const Handle(Geom_Plane) surface = new Geom_Plane(pln);
  BRep_Builder builder;
  const auto faceOf = [&](const TopoDS_Wire& outer) {
    TopoDS_Face face;
    builder.MakeFace(face, surface, tolerance::point);
    builder.Add(face, outer);
    return face;
  };

  std::vector<Loop> sorted;
  for (const TopoDS_Wire& wire : loops) {
    const double area = loopArea(wire, pln);
    if (std::abs(area) < tolerance::smallestSize * tolerance::smallestSize) continue;
    Loop loop{area > 0 ? wire : TopoDS::Wire(wire.Reversed()), std::abs(area), {}, {}, nullptr, {}};
    Bnd_Box bounds;
    BRepBndLib::Add(loop.wire.Moved(TopLoc_Location(toPlane)), bounds, false);
    loop.box.add(fromPnt(bounds.CornerMin()));
    loop.box.add(fromPnt(bounds.CornerMax()));
    const BRepAdaptor_Curve curve(TopoDS::Edge(TopExp_Explorer(loop.wire, TopAbs_EDGE).Current()));
    const Vector local = plane.coordinates(fromPnt(curve.Value((curve.FirstParameter() + curve.LastParameter()) / 2)));
    loop.point = {local.x, local.y};
    sorted.push_back(std::move(loop));
  }
  std::sort(sorted.begin(), sorted.end(), [](const Loop& a, const Loop& b) { return a.area > b.area; });

  // The smallest larger loop that a loop lies in gets it as an island.
  for (std::size_t i = 1; i < sorted.size(); ++i) {
    progress.throwIfStopped();
    for (std::size_t j = i; j-- > 0;) {
      Loop& outer = sorted[j];
      const Box& a = outer.box;
      const Box& b = sorted[i].box;
      if (b.low.x < a.low.x || b.low.y < a.low.y || b.high.x > a.high.x || b.high.y > a.high.y) continue;
      if (!outer.classifier)
        outer.classifier = std::make_unique<BRepTopAdaptor_FClass2d>(faceOf(outer.wire), tolerance::point);
      if (outer.classifier->Perform(gp_Pnt2d(sorted[i].point.u, sorted[i].point.v)) != TopAbs_IN) continue;
      outer.islands.push_back(i);
      break;
    }
  }
  std::vector<TopoDS_Face> faces;
  for (const Loop& loop : sorted) {
    TopoDS_Face face = faceOf(loop.wire);
    for (std::size_t island : loop.islands) builder.Add(face, sorted[island].wire.Reversed());
    faces.push_back(face);
  }
  return faces;
}

std::vector<Region> joined(const std::vector<Region>& regions) {
  if (regions.size() < 2) return regions;
  ShapeMap<int> uses;
  for (const Region& region : regions)
    for (const auto& [edge, curve] : region.body().curves) ++uses[edge];
  const bool apart = std::all_of(uses.begin(), uses.end(), [](const auto& use) { return use.second == 1; });
  if (apart) return regions;

  const Plane& plane = regions.front().body().plane;
  ShapeMap<std::string> curves;
  std::string name;
  BRep_Builder builder;
  TopoDS_Compound border;
  builder.MakeCompound(border);
  for (const Region& region : regions) {
    name += (name.empty() ? "" : ",") + region.name();
    for (const auto& [edge, curve] : region.body().curves)
      if (uses[edge] == 1) {
        builder.Add(border, edge);
        curves.emplace(edge, curve);
      }
  }
  return kernelCall("joining regions", [&] {
    TopoDS_Shape wires;
    BOPAlgo_Tools::EdgesToWires(border, wires, true);
    std::vector<TopoDS_Wire> loops;
    for (TopExp_Explorer it(wires, TopAbs_WIRE); it.More(); it.Next()) loops.push_back(TopoDS::Wire(it.Current()));
    Progress unstoppable;
    std::vector<Region> result;
    double total = 0;
    for (const TopoDS_Face& face : nestedFaces(plane, loops, unstoppable)) {
      RegionBody body = RegionBody::of(name, plane, face, [&](const TopoDS_Shape& edge) { return curves.at(edge); });
      // A loop inside another one may bound what was not chosen: it belongs to a region only if a chosen one lies left
      // of its edges.
      const auto leftOf = [&](const Region& region) {
        for (TopExp_Explorer it(region.body().face, TopAbs_EDGE); it.More(); it.Next())
          for (TopExp_Explorer own(face, TopAbs_EDGE); own.More(); own.Next())
            if (own.Current().IsEqual(it.Current())) return true;
        return false;
      };
      if (!std::any_of(regions.begin(), regions.end(), leftOf)) continue;
      total += body.area;
      result.emplace_back(std::make_shared<const RegionBody>(std::move(body)));
    }
    double wanted = 0;
    for (const Region& region : regions) wanted += region.area();
    // Loops that touch in a point can be chained in more than one way; if the sum disagrees, the border stays.
    return std::abs(total - wanted) <= tolerance::balance * wanted ? result : regions;
  });
}

}  // namespace kervo
