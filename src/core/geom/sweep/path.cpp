#include "geom/sweep/path.h"

#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepPrimAPI_MakeRevol.hxx>
#include <algorithm>

#include "base/say.h"
#include "geom/kernel/curve_edges.h"
#include "geom/motion.h"
#include "geom/sweep/revolve.h"

namespace kervo {

Path::Path(Plane plane, std::vector<Link> links) : plane_(plane), links_(std::move(links)) {
  for (const Link& link : links_) {
    if (link.along.curve.closed())
      throw Error(say("a closed curve is part of an open path"), say("curve \"%1\"", link.along.name),
                  say("Draw it by itself"));
    name_ += (name_.empty() ? "" : ".") + link.along.name;
  }
}

double Path::length() const {
  double sum = 0;
  for (const Link& link : links_) sum += link.along.curve.length();
  return sum;
}

Point Path::at(double length) const {
  for (const Link& link : links_) {
    const double own = link.along.curve.length();
    if (length > own && &link != &links_.back()) {
      length -= own;
      continue;
    }
    return link.along.curve.at(link.backwards ? 1 - length / own : length / own);
  }
  return plane_.origin;
}

namespace {

/// Links that follow each other as a wire, and the edge of each.
struct Wire {
  TopoDS_Wire wire;
  std::vector<std::pair<TopoDS_Edge, std::string>> edges;

  explicit Wire(const std::vector<Path::Link>& links) {
    BRep_Builder builder;
    builder.MakeWire(wire);
    TopoDS_Vertex last = BRepBuilderAPI_MakeVertex(toPnt(links.front().start())).Vertex();
    for (const Path::Link& link : links) {
      const TopoDS_Vertex next = BRepBuilderAPI_MakeVertex(toPnt(link.end())).Vertex();
      TopoDS_Edge edge =
          link.backwards ? edgeAlong(link.along.curve, next, last) : edgeAlong(link.along.curve, last, next);
      if (edge.IsNull()) throw Error(say("the curve \"%1\" cannot be followed", link.along.name));
      edge.Orientation(link.backwards ? TopAbs_REVERSED : TopAbs_FORWARD);
      builder.Add(wire, edge);
      edges.emplace_back(edge, link.along.name);
      last = next;
    }
  }

  /// What a sweep has made of it, its faces named `name`:curve.
  template <class Sweep>
  Shape swept(Sweep& sweep, const std::string& name) const {
    FaceTable table;
    for (const auto& [edge, id] : edges)
      for (const TopoDS_Shape& face : sweep.Generated(edge))
        if (face.ShapeType() == TopAbs_FACE) table.emplace(face, FaceFacts{originsOf(name + ":" + id), {}, true});
    return makeShape(sweep.Shape(), std::move(table), name + ":");
  }
};

}  // namespace

Shape sweptPath(const Path& path, const std::string& name, double from, double to, double straightOn) {
  return kernelCall("sweeping a line", [&] {
    const Vector normal = path.plane().normal;
    std::vector<Path::Link> links = path.links();
    for (Path::Link& link : links) link.along.curve = link.along.curve.moved(normal * from);
    if (straightOn > 0) {
      const Path::Link first = links.front(), last = links.back();
      const Segment before{first.start() - first.startDirection() * straightOn, first.start()};
      const Segment behind{last.end(), last.end() + last.endDirection() * straightOn};
      links.insert(links.begin(), {{first.along.name + "+", before}, false});
      links.push_back({{last.along.name + "+", behind}, false});
    }
    const Wire wire(links);
    BRepPrimAPI_MakePrism prism(wire.wire, toVec(normal * (to - from)));
    return wire.swept(prism, name);
  });
}

Shape revolvedPath(const Path& path, const std::string& name, const Axis& axis, double from, double to) {
  return kernelCall("revolving a line", [&] {
    requireBesideAxis(path.plane(), {outlineOf(path)}, axis);
    const Wire wire(path.links());
    BRepPrimAPI_MakeRevol turned(wire.wire, gp_Ax1(toPnt(axis.point), toDir(axis.direction)), to - from, true);
    const Shape shape = wire.swept(turned, name);
    return from == 0 ? shape : moved(shape, Motion::turn(axis.point, axis.direction, from));
  });
}

Polyline outlineOf(const Path& path) {
  Polyline line;
  for (const Path::Link& link : path.links()) {
    Polyline part = link.along.curve.outline();
    if (link.backwards) std::reverse(part.begin(), part.end());
    line.insert(line.end(), part.begin() + (line.empty() ? 0 : 1), part.end());
  }
  return line;
}

}  // namespace kervo
