#include "geom/surface/reach_gap.h"

#include <BRepExtrema_DistShapeShape.hxx>
#include <IntCurvesFace_ShapeIntersector.hxx>

#include "geom/divide/checked_intersection.h"
#include "geom/mesh/mesh_pieces.h"
#include "geom/mesh/meshed.h"
#include "geom/surface/border.h"

namespace kervo {

namespace {

constexpr int samplesPerEdge = 48;

/// How far it is from a point inside to the last exit along a direction.
double lengthToOutside(IntCurvesFace_ShapeIntersector& boundary, const gp_Pnt& from, const gp_Dir& along) {
  boundary.Perform(gp_Lin(from, along), 0, RealLast());
  double farthest = 0;
  for (int i = 1; i <= boundary.NbPnt(); ++i) farthest = std::max(farthest, boundary.WParameter(i));
  return farthest;
}

}  // namespace

std::optional<ReachGap> gapOf(const Shape& solid, const Shape& surface, Progress& progress) {
  if (solid.empty() || surface.empty() || !solid.roughBox().overlaps(surface.roughBox())) return std::nullopt;
  return kernelCall("looking for the gap", [&]() -> std::optional<ReachGap> {
    ReachGap gap;
    Sides sides;
    IntCurvesFace_ShapeIntersector boundary;
    boundary.Load(solid.body().topology, tolerance::point);
    for (const Border& border : bordersOf(surface.body().topology)) {
      double first, last;
      BRep_Tool::Range(border.edge, first, last);
      Polyline line, exits;
      const auto finish = [&] {
        if (line.size() > 1) {
          gap.border.push_back(line);
          Polyline round = line;
          round.insert(round.end(), exits.rbegin(), exits.rend());
          round.push_back(line.front());
          gap.area.push_back(std::move(round));
        }
        line.clear();
        exits.clear();
      };
      for (int i = 0; i <= samplesPerEdge; ++i) {
        progress.throwIfStopped();
        const auto [point, outwards] = border.at(first + (last - first) * i / samplesPerEdge);
        if (!sides.anyInside({point}, solid)) {
          finish();
          continue;
        }
        line.push_back(fromPnt(point));
        const double missing = lengthToOutside(boundary, point, outwards);
        exits.push_back(line.back() + fromVec(outwards) * missing);
        gap.missing = std::max(gap.missing, missing);
      }
      finish();
    }
    if (gap.border.empty()) return std::nullopt;
    return gap;
  });
}

namespace {

/// What does not divide the other is inside it if one of its points is.
Meeting meetingOfMeshes(const Shape& stock, const Shape& cutter) {
  Progress unstoppable;
  const Mesh one = meshed(stock, {}, unstoppable), other = meshed(cutter, {}, unstoppable);
  if (inside(one, other.points().front())) return Meeting::CutterInside;
  return inside(other, one.points().front()) ? Meeting::StockInside : Meeting::Apart;
}

}  // namespace

Meeting meetingOf(const Shape& stock, const Shape& cutter) {
  if (stock.mesh() || cutter.mesh()) return meetingOfMeshes(stock, cutter);
  return kernelCall("comparing the bodies", [&] {
    Sides sides;
    const auto anyPointInside = [&](const Shape& inner, const Shape& outer) {
      return outer.kind() == BodyKind::Solid && sides.anyInside(sides.pointsOn(inner.body().topology), outer);
    };
    if (anyPointInside(cutter, stock)) return Meeting::CutterInside;
    if (anyPointInside(stock, cutter)) return Meeting::StockInside;
    if (!stock.roughBox().enlarged(tolerance::onBoundary).overlaps(cutter.roughBox())) return Meeting::Apart;
    const BRepExtrema_DistShapeShape nearest(stock.body().topology, cutter.body().topology);
    return nearest.IsDone() && nearest.Value() < tolerance::onBoundary ? Meeting::Touching : Meeting::Apart;
  });
}

}  // namespace kervo
