#include "geom/path.h"

#include <BRepBuilderAPI_MakeVertex.hxx>
#include <Geom_Circle.hxx>
#include <Geom_Line.hxx>
#include <algorithm>
#include <cmath>
#include <map>
#include <set>

#include "geom/kernel/path_body.h"
#include "geom/kernel/region_body.h"

namespace kervo {

namespace {

constexpr double near = 2 * tolerance::point;

struct Ends {
  PlanePoint from, to;
};

PlanePoint onArc(const ArcCurve& arc, double angle) {
  return {arc.centre.u + arc.radius * std::cos(angle), arc.centre.v + arc.radius * std::sin(angle)};
}

/// Nothing for a circle.
std::optional<Ends> endsOf(const PlanarCurve& curve) {
  if (const auto* line = std::get_if<LineCurve>(&curve.geometry)) return Ends{line->from, line->to};
  if (const auto* arc = std::get_if<ArcCurve>(&curve.geometry))
    return Ends{onArc(*arc, arc->fromAngle), onArc(*arc, arc->toAngle)};
  return std::nullopt;
}

bool same(PlanePoint a, PlanePoint b) {
  return std::hypot(a.u - b.u, a.v - b.v) < near;
}

/// The direction of a curve where it begins or ends, in the direction it is followed, unit length.
PlanePoint directionAt(const PathBody::Link& link, bool atBeginning) {
  const bool first = atBeginning != link.backwards;
  PlanePoint way;
  if (const auto* line = std::get_if<LineCurve>(&link.curve.geometry)) {
    const double size = std::hypot(line->to.u - line->from.u, line->to.v - line->from.v);
    way = {(line->to.u - line->from.u) / size, (line->to.v - line->from.v) / size};
  } else {
    const auto& arc = std::get<ArcCurve>(link.curve.geometry);
    const double angle = first ? arc.fromAngle : arc.toAngle;
    way = {-std::sin(angle), std::cos(angle)};
  }
  return link.backwards ? PlanePoint{-way.u, -way.v} : way;
}

Ends endsOf(const PathBody::Link& link) {
  if (const auto ends = endsOf(link.curve)) return *ends;
  throw Error("a closed curve is part of an open path", "curve \"" + link.curve.id + "\"", "Draw it by itself");
}

PlanePoint pointAt(const PathBody::Link& link, bool atBeginning) {
  const Ends ends = endsOf(link);
  return atBeginning != link.backwards ? ends.from : ends.to;
}

double lengthOf(const PathBody::Link& link) {
  if (const auto* arc = std::get_if<ArcCurve>(&link.curve.geometry))
    return arc->radius * (arc->toAngle - arc->fromAngle);
  const Ends ends = endsOf(link);
  return std::hypot(ends.to.u - ends.from.u, ends.to.v - ends.from.v);
}

gp_Pnt inSpace(const Plane& plane, PlanePoint p) {
  return toPnt(plane.at(p.u, p.v));
}

TopoDS_Edge edgeOf(const PlanarCurve& curve, const Plane& plane, const TopoDS_Vertex& from, const TopoDS_Vertex& to) {
  if (const auto* line = std::get_if<LineCurve>(&curve.geometry)) {
    const gp_Pnt a = inSpace(plane, line->from), b = inSpace(plane, line->to);
    return BRepBuilderAPI_MakeEdge(new Geom_Line(a, gp_Dir(gp_Vec(a, b))), from, to, 0, a.Distance(b));
  }
  const auto& arc = std::get<ArcCurve>(curve.geometry);
  const gp_Ax2 axes(inSpace(plane, arc.centre), toDir(plane.normal), toDir(plane.x));
  return BRepBuilderAPI_MakeEdge(new Geom_Circle(axes, arc.radius), from, to, arc.fromAngle, arc.toAngle);
}

}  // namespace

const std::string& Path::name() const {
  return body_->name;
}

double Path::length() const {
  double sum = 0;
  for (const PathBody::Link& link : body_->links) sum += lengthOf(link);
  return sum;
}

Point Path::at(double length) const {
  for (const PathBody::Link& link : body_->links) {
    const double own = lengthOf(link);
    if (length > own && &link != &body_->links.back()) {
      length -= own;
      continue;
    }
    const double share = link.backwards ? 1 - length / own : length / own;
    PlanePoint p;
    if (const auto* arc = std::get_if<ArcCurve>(&link.curve.geometry)) {
      p = onArc(*arc, arc->fromAngle + (arc->toAngle - arc->fromAngle) * share);
    } else {
      const Ends ends = endsOf(link);
      p = {ends.from.u + (ends.to.u - ends.from.u) * share, ends.from.v + (ends.to.v - ends.from.v) * share};
    }
    return body_->plane.at(p.u, p.v);
  }
  return body_->plane.origin;
}

std::vector<Path> findPaths(const Plane& plane, const std::vector<PlanarCurve>& curves,
                            const std::vector<Region>& regions) {
  std::set<std::string> bounding;
  for (const Region& region : regions)
    for (const auto& [edge, curve] : region.body().curves) bounding.insert(curve);
  std::vector<const PlanarCurve*> open;
  for (const PlanarCurve& curve : curves)
    if (!bounding.contains(curve.id) && endsOf(curve)) open.push_back(&curve);

  // Which ends meet: a path goes on where exactly two do.
  const auto meetingAt = [&](PlanePoint point) {
    std::vector<std::pair<const PlanarCurve*, bool>> result;  // the curve, and whether its beginning is there
    for (const PlanarCurve* curve : open) {
      const Ends ends = *endsOf(*curve);
      if (same(ends.from, point)) result.emplace_back(curve, true);
      if (same(ends.to, point)) result.emplace_back(curve, false);
    }
    return result;
  };
  std::set<const PlanarCurve*> used;
  const auto followed = [&](std::vector<PathBody::Link> links) {
    for (;;) {
      const auto meeting = meetingAt(pointAt(links.back(), false));
      if (meeting.size() != 2) return links;
      const auto next =
          std::find_if(meeting.begin(), meeting.end(), [&](const auto& each) { return !used.contains(each.first); });
      if (next == meeting.end()) return links;
      used.insert(next->first);
      links.push_back({*next->first, !next->second});
    }
  };
  std::vector<Path> paths;
  for (const PlanarCurve* curve : open) {
    if (used.contains(curve)) continue;
    used.insert(curve);
    // Back to one end first, then from there to the other.
    std::vector<PathBody::Link> links = followed({{*curve, true}});
    std::reverse(links.begin(), links.end());
    for (PathBody::Link& link : links) link.backwards = !link.backwards;
    links = followed(std::move(links));
    auto body = std::make_shared<PathBody>();
    body->plane = plane;
    for (const PathBody::Link& link : links) body->name += (body->name.empty() ? "" : ".") + link.curve.id;
    body->links = std::move(links);
    paths.emplace_back(std::move(body));
  }
  return paths;
}

Shape sweptPath(const Path& path, const std::string& name, double from, double to, double straightOn) {
  return kernelCall("sweeping a line", [&] {
    const PathBody& body = path.body();
    const Plane plane = body.plane.moved(from);
    std::vector<PathBody::Link> links = body.links;
    if (straightOn > 0) {
      const PlanePoint start = pointAt(links.front(), true), end = pointAt(links.back(), false);
      const PlanePoint away = directionAt(links.front(), true), on = directionAt(links.back(), false);
      const PlanePoint before{start.u - away.u * straightOn, start.v - away.v * straightOn};
      const PlanePoint behind{end.u + on.u * straightOn, end.v + on.v * straightOn};
      links.insert(links.begin(), {{links.front().curve.id + "+", LineCurve{before, start}}, false});
      links.push_back({{links.back().curve.id + "+", LineCurve{end, behind}}, false});
    }
    BRep_Builder builder;
    TopoDS_Wire wire;
    builder.MakeWire(wire);
    TopoDS_Vertex last = BRepBuilderAPI_MakeVertex(inSpace(plane, pointAt(links.front(), true))).Vertex();
    std::vector<std::pair<TopoDS_Edge, std::string>> edges;
    for (const PathBody::Link& link : links) {
      const TopoDS_Vertex next = BRepBuilderAPI_MakeVertex(inSpace(plane, pointAt(link, false))).Vertex();
      TopoDS_Edge edge = link.backwards ? edgeOf(link.curve, plane, next, last) : edgeOf(link.curve, plane, last, next);
      if (edge.IsNull()) throw Error("the curve \"" + link.curve.id + "\" cannot be followed");
      edge.Orientation(link.backwards ? TopAbs_REVERSED : TopAbs_FORWARD);
      builder.Add(wire, edge);
      edges.emplace_back(edge, link.curve.id);
      last = next;
    }
    BRepPrimAPI_MakePrism prism(wire, toVec(plane.normal * (to - from)));
    FaceTable table;
    for (const auto& [edge, id] : edges)
      for (const TopoDS_Shape& face : prism.Generated(edge))
        if (face.ShapeType() == TopAbs_FACE) table.emplace(face, FaceFacts{originsOf(name + ":" + id), {}, true});
    return makeShape(prism.Shape(), std::move(table), name + ":");
  });
}

Polyline outlineOf(const Path& path) {
  Polyline line;
  for (const PathBody::Link& link : path.body().links) {
    Polyline part = outlineOf(link.curve, path.body().plane);
    if (link.backwards) std::reverse(part.begin(), part.end());
    line.insert(line.end(), part.begin() + (line.empty() ? 0 : 1), part.end());
  }
  return line;
}

}  // namespace kervo
