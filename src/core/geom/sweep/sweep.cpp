#include "geom/sweep/sweep.h"

#include <BRepBuilderAPI_Transform.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepLib.hxx>
#include <BRepOffsetAPI_DraftAngle.hxx>

#include <stdexcept>

#include "base/parallel.h"
#include "base/quantity.h"
#include "base/say.h"
#include "geom/divide/boolean.h"
#include "geom/kernel/topology_body.h"
#include "geom/measure/soundness.h"
#include "geom/planes.h"
#include "geom/primitives.h"
#include "geom/surface/placed_face.h"
#include "geom/sweep/region_body.h"

namespace kervo {

namespace {

struct SweepNames {
  std::string side, start, end;
};

SweepNames namesFor(const std::string& name) {
  return {name + ":side:", name + ":start", name + ":end"};
}

/// The region's face moved to a distance along its normal, then swept to another one.
Shape prism(const RegionBody& region, const SweepNames& names, double from, double to, bool startsAtTo) {
  return kernelCall("sweeping a profile", [&] {
    const Vector normal = region.plane.normal;
    gp_Trsf move;
    move.SetTranslation(toVec(normal * from));
    // A copy, not a location: the kernel's booleans are quicker and safer on shapes without locations.
    BRepBuilderAPI_Transform moved(region.face, move, true);
    BRepPrimAPI_MakePrism make(moved.Shape(), toVec(normal * (to - from)));
    // Without plane curves the kernel projects every edge again each time it looks at it: a quarter of a cut's time.
    for (TopExp_Explorer face(make.Shape(), TopAbs_FACE); face.More(); face.Next())
      for (TopExp_Explorer it(face.Current(), TopAbs_EDGE); it.More(); it.Next())
        BRepLib::BuildPCurveForEdgeOnPlane(TopoDS::Edge(it.Current()), TopoDS::Face(face.Current()));
    FaceTable table;
    const auto put = [&](const TopoDS_Shape& face, const std::string& name) {
      table.emplace(face, FaceFacts{originsOf(name), {}, true});
    };
    put(make.FirstShape(), startsAtTo ? names.end : names.start);
    put(make.LastShape(), startsAtTo ? names.start : names.end);
    for (const auto& [edge, curve] : region.curves)
      for (const TopoDS_Shape& side : make.Generated(moved.ModifiedShape(edge)))
        if (side.ShapeType() == TopAbs_FACE) put(side, names.side + curve);
    return makeShape(make.Shape(), std::move(table), names.side);
  });
}

Span extent(const Plane& plane, const Box& box) {
  return box.empty() ? Span{0, 0} : spanAbove(plane, box);
}

/// The signed distance of a planar face that is parallel to the profile, along the sweep direction.
std::optional<double> parallelDistance(const Plane& plane, double direction, const SweepLimit& limit) {
  if (limit.kind != SweepLimit::Kind::AtFace || !limit.face) return std::nullopt;
  const std::optional<Plane> target = limit.face->plane();
  if (!target || length(cross(target->normal, plane.normal)) > tolerance::parallel) return std::nullopt;
  return direction * plane.signedDistance(target->origin);
}

bool hasOrigin(const Shape& shape, const std::string& origin) {
  for (const auto& [face, facts] : shape.body().faces)
    if (std::find(facts.origins->begin(), facts.origins->end(), origin) != facts.origins->end()) return true;
  return false;
}

double distanceToOrigin(const Shape& shape, const std::string& origin, const Face& target) {
  double nearest = Box::infinity;
  for (const auto& [face, facts] : shape.body().faces) {
    if (std::find(facts.origins->begin(), facts.origins->end(), origin) == facts.origins->end()) continue;
    const BRepExtrema_DistShapeShape extrema(face, target.body().face);
    if (extrema.IsDone()) nearest = std::min(nearest, extrema.Value());
  }
  return nearest;
}

/// Distances along the sweep between which the limits' faces can meet the swept profile. A plane's are exact, whatever
/// its tilt; a curved face is met within the box of everything, twice over.
Span reachOfFaces(const RegionBody& region, double direction, std::initializer_list<SweepLimit> limits,
                  const Box& around) {
  const Plane& plane = region.plane;
  const Box& profile = region.box;
  Span result{0, 0};
  for (const SweepLimit& limit : limits) {
    if (!limit.face) continue;
    if (const std::optional<Plane> target = limit.face->plane()) {
      const double slope = dot(target->normal, plane.normal);
      if (std::abs(slope) < tolerance::samePlace) continue;  // along the sweep: never met
      for (int i = 0; i < 8; ++i) {
        const Vector corner = plane.coordinates(profile.corner(i));
        result.add(-direction * target->signedDistance(plane.at(corner.x, corner.y)) / slope);
      }
      continue;
    }
    Box all = around;
    all.add(profile);
    Bnd_Box face;
    BRepBndLib::Add(limit.face->body().face, face, false);
    all.add(fromPnt(face.CornerMin()));
    all.add(fromPnt(face.CornerMax()));
    const Box twice = all.enlarged(all.diagonal());
    for (int i = 0; i < 8; ++i) result.add(direction * plane.signedDistance(twice.corner(i)));
  }
  return result;
}

/// A tilted or curved face as a limit; the end may be the start's own face moved along.
struct SurfaceLimit {
  Face face;
  Vector offset;
};

/// The part of a long prism between its start and its end, at least one of which is a tilted or curved face. Distances
/// are along the sweep direction.
Shape betweenFaces(const RegionBody& region, const std::string& name, double direction, double from, double to,
                   const std::optional<SurfaceLimit>& start, const std::optional<SurfaceLimit>& end, const Box& around,
                   Progress& progress) {
  const SweepNames final = namesFor(name);
  const SweepNames names{final.side, start ? name + ":far before" : final.start,  // for the machine
                         end ? name + ":far behind" : final.end};                 // for the machine
  const Shape longPrism = prism(region, names, std::min(direction * from, direction * to),
                                std::max(direction * from, direction * to), direction < 0);
  Box all = around;
  all.add(longPrism.box());
  std::vector<Shape> surfaces;
  if (start) surfaces.push_back(enlarged(start->face, all, final.start, start->offset));
  if (end) surfaces.push_back(enlarged(end->face, all, final.end, end->offset));

  std::vector<Shape> candidates;
  int startParts = 0;
  for (const Shape& part : splitBySurfaces(longPrism, surfaces, progress)) {
    const bool hasStart = hasOrigin(part, final.start);
    const bool hasEnd = hasOrigin(part, final.end);
    if (hasStart && hasEnd) candidates.push_back(part);
    startParts += hasStart;
  }
  if (candidates.empty())
    throw Error(say("the face does not reach across the profile \"%1\" in the direction of the cut", region.name),
                "reach", say("Choose a larger face, reverse the direction, or give a distance"));
  if (!start && startParts > 1)
    throw Error(say("the face crosses the profile \"%1\" where the cut starts", region.name), "reach",
                say("Choose a face that is entirely in front of the profile, or start further back"));
  if (candidates.size() == 1) return candidates.front();
  // A closed surface is met more than once: the part that starts (or ends) on the face itself is meant.
  const auto& reached = start ? start : end;
  if (!reached) return candidates.front();
  const Face& target = reached->face;
  const std::string& role = start ? final.start : final.end;
  std::vector<std::pair<double, Shape>> byDistance;
  for (const Shape& candidate : candidates)
    byDistance.emplace_back(distanceToOrigin(candidate, role, target), candidate);
  std::sort(byDistance.begin(), byDistance.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
  if (byDistance[1].first < byDistance[0].first + tolerance::samplePoint)
    throw Error(say("the face meets the profile \"%1\" in more than one place", region.name), "reach",
                say("Choose another face, or give a distance"));
  return byDistance.front().second;
}

}  // namespace

SweepLimit SweepLimit::atPlane(const Plane& where) {
  // A face is as large as it has to be: any one in the plane will do.
  for (const Face& face : facesOf(makeBlock("plane", where, 1, 1, 1)))
    if (face.origins().front() == "plane:bottom") return atFace(face);
  throw std::logic_error("a block without a bottom");
}

Shape solidOf(const SweptRegion& swept) {
  if (!swept.straight) return swept.cutter;
  return prism(swept.region.body(), namesFor(swept.name), swept.from, swept.to, swept.startsAtTo);
}

Shape drafted(const SweptRegion& swept, double angleRadians) {
  Shape straight = solidOf(swept);
  if (std::abs(angleRadians) < tolerance::parallel) return straight;
  const Error tooSteep(say("the sides of \"%1\" meet before the end at this draft", swept.region.name()),
                       say("field Draft"), say("Make the draft or the depth smaller"));
  if (!swept.straight)
    throw Error(say("a draft needs an end at a distance or through all"), say("field Draft"),
                say("Choose another end, or no draft"));
  const RegionBody& region = swept.region.body();
  const double start = swept.startsAtTo ? swept.to : swept.from;
  const double limit = 0.49 * M_PI;
  if (std::abs(angleRadians) > limit)
    throw Error(say("the draft is too steep"), say("field Draft"), say("Type less than 88°"));
  return kernelCall("drafting the sides", [&] {
    const gp_Pln neutral = toPln(region.plane.moved(start));
    const Vector way = swept.startsAtTo ? -region.plane.normal : region.plane.normal;
    BRepOffsetAPI_DraftAngle draft(straight.body().topology);
    const std::string side = namesFor(swept.name).side;
    for (const auto& [face, facts] : straight.body().faces) {
      if (facts.origins->front().compare(0, side.size(), side) != 0) continue;
      draft.Add(TopoDS::Face(face), toDir(way), angleRadians, neutral);
      if (!draft.AddDone()) throw tooSteep;
    }
    draft.Build();
    if (!draft.IsDone()) throw tooSteep;
    FaceTable table;
    for (const auto& [face, facts] : straight.body().faces) {
      TopoDS_Shape image = draft.ModifiedShape(face);
      table.emplace(image, FaceFacts{facts.origins, facts.color, false});
    }
    const Shape result = makeShape(draft.Shape(), std::move(table), side);
    Progress unstoppable;
    const bool smaller = result.volume() < straight.volume();
    if (result.kind() != BodyKind::Solid || smaller != (angleRadians > 0) ||
        !findFault(result.body(), unstoppable).empty())
      throw tooSteep;
    // Lean sides that passed each other leave a body that is valid but inside out at its end: it must lie within.
    if (angleRadians > 0) {
      const Box box = result.box(), room = straight.box().enlarged(tolerance::samePlace);
      if (!room.contains(box.low) || !room.contains(box.high)) throw tooSteep;
    }
    return result;
  });
}

Box sweptBox(const SweptRegion& swept) {
  const RegionBody& region = swept.region.body();
  Box box;
  for (const double distance : {swept.from, swept.to}) {
    box.add(region.box.low + region.plane.normal * distance);
    box.add(region.box.high + region.plane.normal * distance);
  }
  return box;
}

std::vector<SweptRegion> sweep(const std::string& name, const std::vector<Region>& regions, bool alongNormal,
                               const SweepLimit& start, const SweepLimit& end, const Box& around, Progress& progress) {
  using Kind = SweepLimit::Kind;
  std::vector<SweptRegion> result;
  if (regions.empty()) return result;
  const Plane& plane = regions.front().body().plane;
  const double direction = alongNormal ? 1 : -1;
  // All distances below are along the sweep direction, from the profile's plane.
  Span reachable = extent(plane, around);
  if (!alongNormal) reachable = {-reachable.high, -reachable.low};
  const double margin = 1 + 0.1 * (reachable.high - reachable.low);

  std::optional<double> from, to;
  if (start.kind == Kind::Distance) from = start.distance;
  if (start.kind == Kind::BeyondEverything) from = std::min(reachable.low, 0.0) - margin;
  if (start.kind == Kind::AtFace) from = parallelDistance(plane, direction, start);
  if (end.kind == Kind::Distance && from) to = *from + end.distance;
  if (end.kind == Kind::BeyondEverything) to = std::max(reachable.high, from.value_or(0)) + margin;
  if (end.kind == Kind::AtFace) to = parallelDistance(plane, direction, end);

  const bool straight = from && to;
  if (straight && *to < *from + tolerance::smallestSize) {
    if (end.kind == Kind::AtFace)
      throw Error(say("the face to cut to lies behind the start of the cut, by %1 mm", formatNumber(*from - *to)),
                  "reach", say("Reverse the direction, or choose another face"));
    throw Error(say("the cut has no depth (%1 mm)", formatNumber(*to - *from)), "reach",
                say("Type a depth greater than zero"));
  }
  for (const Region& region : regions) result.push_back({region, name, straight, 0, 0, !alongNormal, {}});
  inParallel(result.size(), [&](std::size_t i) {
    progress.throwIfStopped();
    SweptRegion& swept = result[i];
    const RegionBody& region = swept.region.body();
    if (straight) {
      swept.from = std::min(direction * *from, direction * *to);
      swept.to = std::max(direction * *from, direction * *to);
    } else {
      const Span faces = reachOfFaces(region, direction, {start, end}, around);
      const double room = 1 + 0.2 * (faces.high - faces.low) + std::abs(end.distance);
      std::optional<SurfaceLimit> startSurface, endSurface;
      if (!from) startSurface = SurfaceLimit{*start.face, {}};
      if (!to && end.kind == Kind::AtFace) endSurface = SurfaceLimit{*end.face, {}};
      if (!to && end.kind == Kind::Distance)
        endSurface = SurfaceLimit{*start.face, plane.normal * (direction * end.distance)};
      swept.cutter = betweenFaces(region, name, direction, from.value_or(faces.low - room),
                                  to.value_or(std::max(faces.high, from.value_or(0)) + room), startSurface, endSurface,
                                  around, progress);
    }
  });
  return result;
}

}  // namespace kervo
