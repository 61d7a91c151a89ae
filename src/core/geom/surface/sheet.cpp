#include "geom/surface/sheet.h"

#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepExtrema_DistShapeShape.hxx>

#include "base/quantity.h"
#include "base/say.h"
#include "geom/divide/checked_intersection.h"
#include "geom/kernel/topology_body.h"
#include "geom/measure/soundness.h"
#include "geom/planes.h"
#include "geom/surface/kernel_offset.h"

namespace kervo {

namespace {

/// Faces that are connected by edges as shells; a single face stays a face.
TopoDS_Shape joinedFaces(const std::vector<TopoDS_Face>& faces) {
  if (faces.size() == 1) return faces.front();
  const std::vector<TopoDS_Shape> shells = shellsOf({faces.begin(), faces.end()});
  return shells.size() == 1 ? shells.front() : TopoDS_Shape(compoundOf(shells));
}

FaceTable tableFor(const TopoDS_Shape& shape, const std::string& name) {
  FaceTable table;
  for (const TopoDS_Face& face : facesOf(shape)) table.emplace(face, FaceFacts{originsOf(name), {}, false});
  return table;
}

void requireSheet(const Shape& surface) {
  if (surface.empty() || surface.kind() != BodyKind::Surface)
    throw Error(say("only a surface can be taken here"), "", say("Lift faces off the body first"));
}

}  // namespace

Shape lifted(const std::vector<Face>& faces) {
  std::vector<TopoDS_Face> all;
  FaceTable table;
  for (const Face& face : faces) {
    all.push_back(face.body().face);
    table.emplace(face.body().face, FaceFacts{face.body().origins, {}, true});
  }
  if (all.empty()) return {};
  return makeShape(joinedFaces(all), std::move(table), "face:");
}

Shape planarSheet(const Plane& plane, const Box& box, const std::string& name) {
  Box local = boxIn(plane, box);
  local = local.enlarged(1 + 0.1 * local.diagonal());
  return kernelCall("making a plane", [&] {
    const TopoDS_Face face =
        BRepBuilderAPI_MakeFace(toPln(plane), local.low.x, local.high.x, local.low.y, local.high.y);
    FaceTable table;
    table.emplace(face, FaceFacts{originsOf(name), {}, true});
    return makeShape(face, std::move(table), name);
  });
}

namespace {

/// Distances of a point from a surface's faces: how far, and on which side (+1 front, −1 back, 0 on or beside it).
std::pair<double, int> sideOfSurface(const gp_Pnt& point, const TopoDS_Shape& surface) {
  const BRepExtrema_DistShapeShape nearest(BRepBuilderAPI_MakeVertex(point).Vertex(), surface);
  if (!nearest.IsDone() || nearest.NbSolution() == 0) return {Box::infinity, 0};
  if (nearest.SupportTypeShape2(1) != BRepExtrema_IsInFace) return {nearest.Value(), 0};
  const TopoDS_Face face = TopoDS::Face(nearest.SupportOnShape2(1));
  double u, v;
  nearest.ParOnFaceS2(1, u, v);
  gp_Pnt at;
  gp_Vec du, dv;
  BRepAdaptor_Surface(face, false).D1(u, v, at, du, dv);
  gp_Vec normal = du.Crossed(dv);
  if (face.Orientation() == TopAbs_REVERSED) normal.Reverse();
  const double along = gp_Vec(at, point).Dot(normal);
  return {nearest.Value(), along > 0 ? 1 : -1};
}

Shape prismOver(const TopoDS_Face& face, double from, double to, const std::string& name) {
  const BRepAdaptor_Surface surface(face, false);
  gp_Vec normal(surface.Plane().Axis().Direction());
  if (!surface.Plane().Direct()) normal.Reverse();
  if (face.Orientation() == TopAbs_REVERSED) normal.Reverse();
  gp_Trsf move;
  move.SetTranslation(normal * from);
  BRepBuilderAPI_Transform moved(face, move, true);
  BRepPrimAPI_MakePrism prism(moved.Shape(), normal * (to - from));
  FaceTable table = tableFor(prism.Shape(), name + ":border");
  table.at(prism.FirstShape()).origins = originsOf(name + ":back");
  table.at(prism.LastShape()).origins = originsOf(name + ":front");
  return makeShape(prism.Shape(), std::move(table), name + ":border");
}

}  // namespace

Shape thickened(const Shape& surface, double from, double to, const std::string& name, Progress& progress) {
  requireSheet(surface);
  const double width = to - from;
  if (width < tolerance::smallestSize)
    throw Error(say("the width is %1 mm", formatNumber(width)), "", say("Type a width greater than zero"));
  const Error tooTight(say("the surface is bent too tightly for a width of %1 mm", formatNumber(width)), "",
                       say("Make the width smaller, or smooth the surface"));
  return kernelCall("thickening the surface", [&] {
    const TopoDS_Shape& topology = surface.body().topology;
    TopExp_Explorer only(topology, TopAbs_FACE);
    const TopoDS_Face face = TopoDS::Face(only.Current());
    if (surface.faceCount() == 1 && BRepAdaptor_Surface(face, false).GetType() == GeomAbs_Plane)
      return prismOver(face, from, to, name);
    TopoDS_Shape base = topology;
    if (std::abs(from) > tolerance::point) {
      base = offsetOf(topology, from, GeomAbs_Intersection, false).shape;
      if (base.IsNull()) throw tooTight;
    }
    progress.throwIfStopped();
    TopoDS_Shape solid = offsetOf(base, width, GeomAbs_Intersection, true).shape;
    if (solid.IsNull()) throw tooTight;
    if (solid.ShapeType() == TopAbs_SHELL) {
      TopoDS_Solid closed;
      BRep_Builder().MakeSolid(closed);
      BRep_Builder().Add(closed, solid);
      solid = closed;
    }
    Shape body = makeShape(solid, {}, "face:");
    if (body.volume() < 0) {
      solid.Reverse();
      body = makeShape(solid, {}, "face:");
    }
    // Every part of the result must lie where it was asked for.
    Sides sides;
    FaceTable table = tableFor(body.body().topology, name + ":border");
    for (auto& [each, facts] : table) {
      progress.throwIfStopped();
      const std::optional<gp_Pnt> point = sides.pointOn(TopoDS::Face(each));
      if (!point) throw tooTight;
      const auto [distance, side] = sideOfSurface(*point, topology);
      const double at = distance * side, slack = tolerance::room + 1e-3 * width;
      // Beside the surface's border there is no side: a face there joins front and back.
      if (side == 0 && distance > slack) continue;
      if (distance < std::max(std::abs(from), std::abs(to)) + slack) {
        if (std::abs(at - to) < slack)
          facts.origins = originsOf(name + ":front");
        else if (std::abs(at - from) < slack)
          facts.origins = originsOf(name + ":back");
      } else if (side != 0) {
        throw tooTight;
      }
    }
    const auto named = [&](const std::string& role) {
      return std::any_of(table.begin(), table.end(),
                         [&](const auto& each) { return each.second.origins->front() == name + role; });
    };
    if (!named(":front") || !named(":back")) throw tooTight;
    const double expected = surface.area() * width;
    Shape result = makeShape(body.body().topology, std::move(table), name + ":border");
    if (result.kind() != BodyKind::Solid || !findFault(result.body(), progress).empty() ||
        std::abs(result.volume() - expected) > 0.5 * expected)
      throw tooTight;
    return result;
  });
}

namespace {

/// Whether every face of the grown body keeps its distance from the original.
bool keepsDistance(const Shape& original, const Shape& grown, double by, Progress& progress) {
  TopoDS_Compound boundary;
  BRep_Builder builder;
  builder.MakeCompound(boundary);
  for (TopExp_Explorer it(original.body().topology, TopAbs_SHELL); it.More(); it.Next())
    builder.Add(boundary, it.Current());
  Sides sides;
  const double slack = tolerance::room;
  for (const TopoDS_Face& face : facesOf(grown.body().topology)) {
    progress.throwIfStopped();
    const std::optional<gp_Pnt> point = sides.pointOn(face);
    if (!point) return false;
    const BRepExtrema_DistShapeShape nearest(BRepBuilderAPI_MakeVertex(*point).Vertex(), boundary);
    if (!nearest.IsDone() || nearest.Value() < std::abs(by) - slack) return false;
    if (nearest.Value() > 4 * std::abs(by) + slack) return false;
    const bool inside = sides.anyInside({*point}, original);
    if (inside != (by < 0)) return false;
  }
  return true;
}

}  // namespace

Shape grown(const Shape& solid, double by, Progress& progress) {
  if (solid.empty() || solid.kind() != BodyKind::Solid)
    throw Error(say("only a solid can be given a clearance"), "", say("Choose a solid, or thicken the surface first"));
  if (std::abs(by) < tolerance::smallestSize) return solid;
  const auto attempt = [&](GeomAbs_JoinType join) -> Shape {
    return kernelCall("offsetting the body", [&]() -> Shape {
      const Offset offset = offsetOf(solid.body().topology, by, join, false);
      if (offset.shape.IsNull()) return {};
      FaceTable table;
      for (const auto& [face, image] : offset.images)
        if (const auto known = solid.body().faces.find(face); known != solid.body().faces.end())
          table.emplace(image, FaceFacts{known->second.origins, known->second.color, false});
      TopoDS_Shape topology = offset.shape;
      if (topology.ShapeType() == TopAbs_SHELL) {
        TopoDS_Solid closed;
        BRep_Builder().MakeSolid(closed);
        BRep_Builder().Add(closed, topology);
        topology = closed;
      }
      return makeShape(topology, std::move(table), "clearance:");
    });
  };
  for (const GeomAbs_JoinType join : {GeomAbs_Intersection, GeomAbs_Arc}) {
    progress.throwIfStopped();
    try {
      Shape result = attempt(join);
      if (result.empty() || result.kind() != BodyKind::Solid) continue;
      const bool larger = by > 0 ? result.volume() > solid.volume() : result.volume() < solid.volume();
      const double reach = 4 * std::abs(by) + tolerance::room;
      const Box box = result.roughBox(), room = solid.box().enlarged(by > 0 ? reach : tolerance::room);
      const bool within = room.contains(box.low) && room.contains(box.high);
      if (larger && within && findFault(result.body(), progress).empty() && keepsDistance(solid, result, by, progress))
        return result;
    } catch (const Error&) {
      // The kernel cannot join the faces in this way; the other way is tried, then it is said.
      progress.throwIfStopped();
    }
  }
  throw Error(say("the body cannot be offset by %1 mm with all faces in place", formatNumber(by)), "",
              say("Try a smaller clearance, or remove small rounds and slivers first"));
}

}  // namespace kervo
