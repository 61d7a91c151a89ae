#include "geom/divide/obstacles.h"

#include "geom/planes.h"

namespace kervo {

namespace {

/// Well beyond what an intersection may widen or move: tolerance::fuzzy, tolerance::largerMove and the edges' own.
constexpr double margin = 0.01;

}  // namespace

Obstacles::Obstacles(const std::vector<Shape>& shapes) {
  for (const Shape& shape : shapes) {
    Body body{shape.roughBox().enlarged(margin), shape.kind() == BodyKind::Solid, {}};
    std::vector<Point> corners;
    for (TopExp_Explorer it(shape.body().topology, TopAbs_VERTEX); it.More(); it.Next())
      corners.push_back(fromPnt(BRep_Tool::Pnt(TopoDS::Vertex(it.Current()))));
    // Only a body of flat faces lies as a whole within the hull of its corners.
    bool flat = true;
    for (TopExp_Explorer it(shape.body().topology, TopAbs_FACE); it.More(); it.Next()) {
      const TopoDS_Face face = TopoDS::Face(it.Current());
      Side side{factsOf(shape, face).box.enlarged(margin), false, {}, false};
      const BRepAdaptor_Surface surface(face, false);
      side.isPlane = surface.GetType() == GeomAbs_Plane;
      flat &= side.isPlane;
      if (side.isPlane) {
        const gp_Pln plane = surface.Plane();
        const bool turned = (face.Orientation() == TopAbs_REVERSED) == plane.Direct();
        const Vector normal = fromDir(plane.Axis().Direction());
        side.plane = Plane::through(fromPnt(plane.Location()), turned ? -normal : normal);
        side.supports = body.solid && std::all_of(corners.begin(), corners.end(), [&](Point corner) {
                          return side.plane.signedDistance(corner) < tolerance::onBoundary;
                        });
      }
      body.sides.push_back(side);
    }
    if (!flat)
      for (Side& side : body.sides) side.supports = false;
    bodies_.push_back(std::move(body));
  }
}

bool Obstacles::facesKeepClearOf(const Box& box) const {
  for (const Body& body : bodies_) {
    if (!body.box.overlaps(box)) continue;
    for (const Side& side : body.sides) {
      if (!side.box.overlaps(box)) continue;
      if (!side.isPlane) return false;
      const auto [low, high] = spanAbove(side.plane, box);
      if (low < margin && high > -margin) return false;
    }
  }
  return true;
}

bool Obstacles::keepClearOf(const Box& box) const {
  if (!facesKeepClearOf(box)) return false;
  return std::none_of(bodies_.begin(), bodies_.end(), [&](const Body& body) {
    if (!body.solid || !body.box.overlaps(box)) return false;
    return std::none_of(body.sides.begin(), body.sides.end(),
                        [&](const Side& side) { return side.supports && spanAbove(side.plane, box).low > margin; });
  });
}

}  // namespace kervo
