#include "geom/surface/sheet.h"

#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepBuilderAPI_Sewing.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepOffsetAPI_MakeOffset.hxx>
#include <BRepOffset_MakeOffset.hxx>
#include <GeomAPI_Interpolate.hxx>
#include <GeomConvert.hxx>
#include <GeomFill.hxx>
#include <GeomLib.hxx>
#include <Geom_BSplineSurface.hxx>
#include <Geom_BoundedSurface.hxx>
#include <Geom_RectangularTrimmedSurface.hxx>
#include <Geom_TrimmedCurve.hxx>
#include <TColStd_HArray1OfReal.hxx>
#include <TColgp_HArray1OfPnt.hxx>

#include "base/quantity.h"
#include "base/say.h"
#include "geom/divide/checked_intersection.h"
#include "geom/kernel/topology_body.h"
#include "geom/measure/soundness.h"
#include "geom/planes.h"
#include "geom/surface/border.h"

namespace kervo {

namespace {

constexpr int samplesPerEdge = 16;

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

/// The same face with its surface going on beyond its borders, if it fills its surface's rectangle; null otherwise.
TopoDS_Face grownNaturally(const TopoDS_Face& face, double by) {
  const BRepAdaptor_Surface surface(face, true);
  double u0, u1, v0, v1;
  BRepTools::UVBounds(face, u0, u1, v0, v1);
  for (TopExp_Explorer it(face, TopAbs_EDGE); it.More(); it.Next()) {
    // Every border must run along the rectangle.
    double a, b;
    const Handle(Geom2d_Curve) curve = BRep_Tool::CurveOnSurface(TopoDS::Edge(it.Current()), face, a, b);
    if (curve.IsNull()) return {};
    const gp_Pnt2d p = curve->Value(a), q = curve->Value(b), m = curve->Value((a + b) / 2);
    const double du = tolerance::parameterStep * (u1 - u0), dv = tolerance::parameterStep * (v1 - v0);
    const auto onSide = [&](double x, double side, double slack) { return std::abs(x - side) <= slack; };
    bool along = false;
    for (const double side : {u0, u1})
      along |= onSide(p.X(), side, du) && onSide(q.X(), side, du) && onSide(m.X(), side, du);
    for (const double side : {v0, v1})
      along |= onSide(p.Y(), side, dv) && onSide(q.Y(), side, dv) && onSide(m.Y(), side, dv);
    if (!along) return {};
  }
  Handle(Geom_Surface) geometry = BRep_Tool::Surface(face);
  if (const auto trimmed = Handle(Geom_RectangularTrimmedSurface)::DownCast(geometry); !trimmed.IsNull())
    geometry = trimmed->BasisSurface();
  if (surface.GetType() == GeomAbs_Cylinder) {
    const double turn = 2 * M_PI, more = by / surface.Cylinder().Radius();
    const bool whole = u1 - u0 + 2 * more >= turn;
    return BRepBuilderAPI_MakeFace(geometry, whole ? 0 : u0 - more, whole ? turn : u1 + more, v0 - by, v1 + by,
                                   tolerance::point);
  }
  const auto spline = Handle(Geom_BSplineSurface)::DownCast(geometry);
  if (spline.IsNull() || spline->IsUPeriodic() || spline->IsVPeriodic()) return {};
  Handle(Geom_BoundedSurface) longer = Handle(Geom_BoundedSurface)::DownCast(spline->Copy());
  double s0, s1, t0, t1;
  spline->Bounds(s0, s1, t0, t1);
  const bool filled = std::abs(s0 - u0) + std::abs(s1 - u1) <= tolerance::parameterStep * (s1 - s0) &&
                      std::abs(t0 - v0) + std::abs(t1 - v1) <= tolerance::parameterStep * (t1 - t0);
  if (!filled) {
    Handle(Geom_BSplineSurface) part = Handle(Geom_BSplineSurface)::DownCast(spline->Copy());
    part->Segment(u0, u1, v0, v1);
    longer = part;
  }
  for (const bool alongU : {true, false})
    for (const bool after : {true, false}) GeomLib::ExtendSurfByLength(longer, by, 1, alongU, after);
  return BRepBuilderAPI_MakeFace(longer, tolerance::point);
}

/// A planar face with its outer border moved outwards; holes stay.
TopoDS_Face grownInPlane(const TopoDS_Face& face, double by) {
  const BRepAdaptor_Surface surface(face, false);
  const TopoDS_Wire outer = BRepTools::OuterWire(face);
  TopoDS_Face outline = BRepBuilderAPI_MakeFace(surface.Plane(), TopoDS::Wire(outer.Oriented(TopAbs_FORWARD)), true);
  BRepOffsetAPI_MakeOffset offset(outline, GeomAbs_Intersection);
  offset.Perform(by);
  TopoDS_Wire wire;
  for (TopExp_Explorer it(offset.Shape(), TopAbs_WIRE); it.More(); it.Next()) {
    if (!wire.IsNull()) return {};
    wire = TopoDS::Wire(it.Current());
  }
  if (wire.IsNull()) return {};
  BRepBuilderAPI_MakeFace make(surface.Plane(), wire, true);
  for (TopExp_Explorer it(face, TopAbs_WIRE); it.More(); it.Next())
    if (!it.Current().IsSame(outer)) make.Add(TopoDS::Wire(it.Current()));
  TopoDS_Face result = make.Face();
  return TopoDS::Face(result.Oriented(face.Orientation()));
}

/// A strip that goes straight on from a border. At its ends it takes the direction that it shares with its neighbour.
TopoDS_Face stripAt(const Border& border, double by, const ShapeMap<gp_Vec>& mitres) {
  double first, last;
  BRep_Tool::Range(border.edge, first, last);
  const BRepAdaptor_Curve curve(border.edge);
  const TopoDS_Vertex atFirst = TopExp::FirstVertex(border.edge), atLast = TopExp::LastVertex(border.edge);
  const bool closed = atFirst.IsSame(atLast);
  Handle(TColgp_HArray1OfPnt) far = new TColgp_HArray1OfPnt(1, samplesPerEdge + 1);
  Handle(TColStd_HArray1OfReal) parameters = new TColStd_HArray1OfReal(1, samplesPerEdge + 1);
  for (int i = 0; i <= samplesPerEdge; ++i) {
    const double t = first + (last - first) * i / samplesPerEdge;
    const Border::Frame frame = border.at(t);
    gp_Vec way = frame.outwards;
    if (!closed && i == 0) way = mitres.at(atFirst);
    if (!closed && i == samplesPerEdge) way = mitres.at(atLast);
    far->SetValue(i + 1, frame.point.Translated(way * by));
    parameters->SetValue(i + 1, t);
  }
  Handle(Geom_Curve) outer;
  const bool straight = curve.GetType() == GeomAbs_Line &&
                        border.at(first).outwards.IsParallel(border.at(last).outwards, tolerance::parallel);
  Handle(Geom_Curve) inner = new Geom_TrimmedCurve(
      Handle(Geom_Curve)::DownCast(curve.Curve().Curve()->Transformed(curve.Trsf())), first, last);
  if (straight) {
    Handle(TColgp_HArray1OfPnt) ends = new TColgp_HArray1OfPnt(1, 2);
    ends->SetValue(1, far->First());
    ends->SetValue(2, far->Last());
    Handle(TColStd_HArray1OfReal) range = new TColStd_HArray1OfReal(1, 2);
    range->SetValue(1, first);
    range->SetValue(2, last);
    GeomAPI_Interpolate line(ends, range, false, tolerance::point);
    line.Perform();
    outer = line.Curve();
  } else {
    GeomAPI_Interpolate spline(far, parameters, false, tolerance::point);
    spline.Perform();
    outer = spline.Curve();
  }
  const Handle(Geom_Surface) ruled = GeomFill::Surface(GeomConvert::CurveToBSplineCurve(inner), outer);
  return BRepBuilderAPI_MakeFace(ruled, tolerance::point);
}

/// The direction in which the corner of two borders goes on, so that both strips end in one edge.
ShapeMap<gp_Vec> mitresOf(const std::vector<Border>& borders) {
  ShapeMap<std::vector<gp_Vec>> meeting;
  for (const Border& border : borders) {
    double first, last;
    BRep_Tool::Range(border.edge, first, last);
    meeting[TopExp::FirstVertex(border.edge)].push_back(border.at(first).outwards);
    meeting[TopExp::LastVertex(border.edge)].push_back(border.at(last).outwards);
  }
  ShapeMap<gp_Vec> mitres;
  for (const auto& [corner, ways] : meeting) {
    gp_Vec mitre = ways.front();
    if (ways.size() == 2) {
      const double together = 1 + ways[0].Dot(ways[1]);
      if (together < 0.05)
        throw Error(say("a corner of the surface's border is too sharp to be extended"), "",
                    say("Round the corner, or use the surface as it is"));
      mitre = (ways[0] + ways[1]) / together;
    }
    mitres.emplace(corner, mitre);
  }
  return mitres;
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

Shape extended(const Shape& surface, double by, const std::string& name) {
  requireSheet(surface);
  if (by < tolerance::smallestSize)
    throw Error(say("the extension is %1 mm", formatNumber(by)), "", say("Type a length greater than zero"));
  return kernelCall("extending the surface", [&] {
    const std::vector<TopoDS_Face> faces = facesOf(surface.body().topology);
    if (faces.size() == 1) {
      // The whole face becomes another one, with its own name.
      TopExp_Explorer only(surface.body().topology, TopAbs_FACE);
      const TopoDS_Face face = TopoDS::Face(only.Current());
      const bool planar = BRepAdaptor_Surface(face, false).GetType() == GeomAbs_Plane;
      TopoDS_Face larger = planar ? grownInPlane(face, by) : grownNaturally(face, by);
      if (!larger.IsNull()) {
        if (!planar) larger = TopoDS::Face(larger.Oriented(face.Orientation()));
        FaceTable table;
        const FaceFacts& facts = factsOf(surface, face);
        table.emplace(larger, FaceFacts{facts.origins, facts.color, false});
        return makeShape(larger, std::move(table), name + ":extension");
      }
    }
    const std::vector<Border> borders = bordersOf(surface.body().topology);
    if (borders.empty())
      throw Error(say("the surface has no open border to extend"), "", say("It is closed: make a solid of it instead"));
    const ShapeMap<gp_Vec> mitres = mitresOf(borders);
    BRepBuilderAPI_Sewing sewing(tolerance::sewing);
    sewing.Add(surface.body().topology);
    std::vector<TopoDS_Face> strips;
    for (const Border& border : borders) {
      strips.push_back(stripAt(border, by, mitres));
      sewing.Add(strips.back());
    }
    sewing.Perform();
    FaceTable table;
    const auto carry = [&](const TopoDS_Shape& from, const FaceFacts& facts) {
      for (TopExp_Explorer it(sewing.ModifiedSubShape(from), TopAbs_FACE); it.More(); it.Next())
        table.emplace(it.Current(), FaceFacts{facts.origins, facts.color, false});
    };
    for (const auto& [face, facts] : surface.body().faces) carry(face, facts);
    for (const TopoDS_Face& strip : strips) carry(strip, FaceFacts{originsOf(name + ":extension"), {}, false});
    Shape result = makeShape(sewing.SewedShape(), std::move(table), name + ":extension");
    if (result.kind() != BodyKind::Surface || result.area() <= surface.area())
      throw Error(say("the surface cannot be extended by %1 mm", formatNumber(by)), "", say("Try a smaller length"));
    return result;
  });
}

namespace {

/// What offsetting gave, with the faces that the surface's own faces became.
struct Offset {
  TopoDS_Shape shape;
  std::vector<std::pair<TopoDS_Shape, TopoDS_Shape>> images;  ///< face of the original → its image
};

Offset offsetOf(const TopoDS_Shape& shape, double by, GeomAbs_JoinType join, bool thickening) {
  BRepOffset_MakeOffset make;
  make.Initialize(shape, by, tolerance::sewing, BRepOffset_Skin, false, false, join, thickening);
  if (thickening)
    make.MakeThickSolid();
  else
    make.MakeOffsetShape();
  if (!make.IsDone() || make.Shape().IsNull()) return {};
  Offset result{make.Shape(), {}};
  for (const TopoDS_Face& face : facesOf(shape))
    for (const TopoDS_Shape& image : make.Generated(face))
      if (image.ShapeType() == TopAbs_FACE) result.images.emplace_back(face, image);
  return result;
}

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
