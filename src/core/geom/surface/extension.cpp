#include "geom/surface/extension.h"

#include <BRepBuilderAPI_Sewing.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepOffsetAPI_MakeOffset.hxx>
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
#include <algorithm>
#include <cmath>

#include "base/quantity.h"
#include "base/say.h"
#include "geom/kernel/topology_body.h"
#include "geom/surface/border.h"
#include "geom/surface/reach_gap.h"

namespace kervo {

namespace {

constexpr int samplesPerEdge = 16;

void requireSheet(const Shape& surface, double by) {
  if (surface.empty() || surface.kind() != BodyKind::Surface)
    throw Error(say("only a surface can be extended"), "", say("Lift faces off the body first"));
  if (by < tolerance::smallestSize)
    throw Error(say("the extension is %1 mm", formatNumber(by)), "", say("Type a length greater than zero"));
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
  struct Way {
    gp_Vec outwards, normal;
  };
  ShapeMap<std::vector<Way>> meeting;
  for (const Border& border : borders) {
    double first, last;
    BRep_Tool::Range(border.edge, first, last);
    const auto add = [&](const TopoDS_Vertex& corner, double at) {
      const Border::Frame frame = border.at(at);
      meeting[corner].push_back({frame.outwards, gp_Vec(outwardNormal(border.face, frame.point))});
    };
    add(TopExp::FirstVertex(border.edge), first);
    add(TopExp::LastVertex(border.edge), last);
  }
  constexpr double folded = 0.05;
  ShapeMap<gp_Vec> mitres;
  for (const auto& [corner, ways] : meeting) {
    gp_Vec mitre = ways.front().outwards;
    if (ways.size() == 2) {
      const gp_Vec fold = ways[0].normal.Crossed(ways[1].normal);
      const double along = fold.Dot(ways[0].outwards) + fold.Dot(ways[1].outwards);
      if (fold.Magnitude() > folded && std::abs(along) > folded) {
        // Two faces that meet at an angle: along the line in which their tangent planes meet.
        mitres.emplace(corner, fold * (2 / along));
        continue;
      }
      const double together = 1 + ways[0].outwards.Dot(ways[1].outwards);
      if (together < folded)
        throw Error(say("a corner of the surface's border is too sharp to be extended"), "",
                    say("Round the corner, or use the surface as it is"));
      mitre = (ways[0].outwards + ways[1].outwards) / together;
    }
    mitres.emplace(corner, mitre);
  }
  return mitres;
}

/// The surface with other faces in place of some of its own, and strips, all sewn together.
Shape sewnWith(const Shape& surface, const ShapeMap<TopoDS_Face>& instead, const std::vector<TopoDS_Face>& strips,
               double by, const std::string& name) {
  BRepBuilderAPI_Sewing sewing(tolerance::sewing);
  std::vector<std::pair<TopoDS_Face, FaceFacts>> all;
  for (const TopoDS_Face& face : facesOf(surface.body().topology)) {
    const FaceFacts& facts = factsOf(surface, face);
    const auto other = instead.find(face);
    all.emplace_back(other == instead.end() ? face : other->second, FaceFacts{facts.origins, facts.color, false});
  }
  for (const TopoDS_Face& strip : strips) all.emplace_back(strip, FaceFacts{originsOf(name + ":extension"), {}, false});
  for (const auto& [face, facts] : all) sewing.Add(face);
  sewing.Perform();
  FaceTable table;
  for (const auto& [face, facts] : all)
    for (TopExp_Explorer it(sewing.ModifiedSubShape(face), TopAbs_FACE); it.More(); it.Next())
      table.emplace(it.Current(), facts);
  Shape result = makeShape(sewing.SewedShape(), std::move(table), name + ":extension");
  if (result.empty() || result.kind() != BodyKind::Surface || result.area() <= surface.area() ||
      result.pieces().size() > surface.pieces().size())
    throw Error(say("the surface cannot be extended by %1 mm", formatNumber(by)), "", say("Try a smaller length"));
  return result;
}

Shape withStrips(const Shape& surface, const std::vector<Border>& borders, double by, const std::string& name) {
  if (borders.empty())
    throw Error(say("the surface has no open border to extend"), "", say("It is closed: make a solid of it instead"));
  const ShapeMap<gp_Vec> mitres = mitresOf(borders);
  std::vector<TopoDS_Face> strips;
  for (const Border& border : borders) strips.push_back(stripAt(border, by, mitres));
  return sewnWith(surface, {}, strips, by, name);
}

/// The sides of its surface's rectangle.
struct FaceSides {
  bool beforeU = false, afterU = false, beforeV = false, afterV = false;
};

const Error& cannotRunOn() {
  static const Error error(later("a face does not go on as it runs"), "",
                           later("Let it go on straight; as it runs it goes on where its border follows its surface"));
  return error;
}

/// Which sides of its surface a face's chosen borders run along. Throws where one runs across.
FaceSides sidesOf(const TopoDS_Face& face, const std::vector<Border>& borders) {
  double u0, u1, v0, v1;
  BRepTools::UVBounds(face, u0, u1, v0, v1);
  FaceSides sides;
  for (const Border& border : borders) {
    if (!border.face.IsSame(face)) continue;
    double a, b;
    const Handle(Geom2d_Curve) curve = BRep_Tool::CurveOnSurface(border.edge, face, a, b);
    const auto along = [&](double side, double span, bool u) {
      for (const double t : {a, (a + b) / 2, b}) {
        const gp_Pnt2d at = curve->Value(t);
        if (std::abs((u ? at.X() : at.Y()) - side) > tolerance::parameterStep * span) return false;
      }
      return true;
    };
    if (along(u0, u1 - u0, true))
      sides.beforeU = true;
    else if (along(u1, u1 - u0, true))
      sides.afterU = true;
    else if (along(v0, v1 - v0, false))
      sides.beforeV = true;
    else if (along(v1, v1 - v0, false))
      sides.afterV = true;
    else
      throw Error(cannotRunOn());
  }
  return sides;
}

/// Every border runs along the rectangle of the surface: nothing of it is trimmed away.
bool fillsItsRectangle(const TopoDS_Face& face) {
  std::vector<Border> all;
  for (TopExp_Explorer it(face, TopAbs_EDGE); it.More(); it.Next()) {
    if (BRep_Tool::Degenerated(TopoDS::Edge(it.Current()))) return false;
    all.push_back({TopoDS::Edge(it.Current()), face});
  }
  try {
    sidesOf(face, all);
    return true;
  } catch (const Error&) {
    return false;
  }
}

/// The face with its own surface going on beyond some sides.
TopoDS_Face runOn(const TopoDS_Face& face, const FaceSides& sides, double by) {
  if (!fillsItsRectangle(face)) throw Error(cannotRunOn());
  double u0, u1, v0, v1;
  BRepTools::UVBounds(face, u0, u1, v0, v1);
  const BRepAdaptor_Surface surface(face, false);
  Handle(Geom_Surface) geometry = BRep_Tool::Surface(face);
  if (const auto trimmed = Handle(Geom_RectangularTrimmedSurface)::DownCast(geometry); !trimmed.IsNull())
    geometry = trimmed->BasisSurface();
  TopoDS_Face result;
  const bool along = sides.beforeV || sides.afterV, across = sides.beforeU || sides.afterU;
  const GeomAbs_SurfaceType type = surface.GetType();
  const bool straightV =
      type == GeomAbs_Cylinder || type == GeomAbs_Cone || type == GeomAbs_Plane || type == GeomAbs_SurfaceOfExtrusion;
  const bool straightU = type == GeomAbs_Plane || type == GeomAbs_Cylinder;
  if ((!along || straightV) && (!across || straightU)) {
    // One unit of the parameter: a millimetre, but round a cylinder.
    const double round = type == GeomAbs_Cylinder ? surface.Cylinder().Radius() : 1;
    const double low = u0 - (sides.beforeU ? by / round : 0), high = u1 + (sides.afterU ? by / round : 0);
    if (type == GeomAbs_Cylinder && high - low > 2 * M_PI + tolerance::sameDirection)
      throw Error(say("it would go round more than once"), "", say("Make the length smaller"));
    result = BRepBuilderAPI_MakeFace(geometry, low, high, v0 - (sides.beforeV ? by : 0), v1 + (sides.afterV ? by : 0),
                                     tolerance::point);
  } else {
    Handle(Geom_BSplineSurface) spline = Handle(Geom_BSplineSurface)::DownCast(geometry);
    if (spline.IsNull() || (across && spline->IsUPeriodic()) || (along && spline->IsVPeriodic()))
      throw Error(cannotRunOn());
    spline = Handle(Geom_BSplineSurface)::DownCast(spline->Copy());
    double s0, s1, t0, t1;
    spline->Bounds(s0, s1, t0, t1);
    if (std::abs(s0 - u0) + std::abs(s1 - u1) > tolerance::parameterStep * (s1 - s0) ||
        std::abs(t0 - v0) + std::abs(t1 - v1) > tolerance::parameterStep * (t1 - t0))
      spline->Segment(u0, u1, v0, v1);
    Handle(Geom_BoundedSurface) longer = spline;
    constexpr int curvatureGoesOn = 2;
    if (sides.beforeU) GeomLib::ExtendSurfByLength(longer, by, curvatureGoesOn, true, false);
    if (sides.afterU) GeomLib::ExtendSurfByLength(longer, by, curvatureGoesOn, true, true);
    if (sides.beforeV) GeomLib::ExtendSurfByLength(longer, by, curvatureGoesOn, false, false);
    if (sides.afterV) GeomLib::ExtendSurfByLength(longer, by, curvatureGoesOn, false, true);
    result = BRepBuilderAPI_MakeFace(longer, tolerance::point);
  }
  return TopoDS::Face(result.Oriented(face.Orientation()));
}

/// No two chosen borders of different faces may meet: as they run, their surfaces do not.
void requireNoCorners(const std::vector<Border>& borders) {
  ShapeMap<TopoDS_Face> at;
  for (const Border& border : borders)
    for (const TopoDS_Vertex& end : {TopExp::FirstVertex(border.edge), TopExp::LastVertex(border.edge)}) {
      const auto [place, isNew] = at.emplace(end, border.face);
      if (!isNew && !place->second.IsSame(border.face))
        throw Error(say("neighbouring faces do not meet any more when they go on as they run"), "",
                    say("Let them go on straight, or extend one at a time"));
    }
}

std::vector<Border> chosen(const Shape& surface, const std::vector<Edge>& edges) {
  std::vector<Border> all = bordersOf(surface.body().topology);
  if (edges.empty()) return all;
  std::vector<Border> result;
  for (const Edge& edge : edges) {
    const auto found = std::find_if(all.begin(), all.end(),
                                    [&](const Border& border) { return border.edge.IsSame(edge.body().edge); });
    if (found == all.end())
      throw Error(say("an edge chosen is no open border of the surface"), "", say("Pick edges at its border"));
    result.push_back(*found);
  }
  return result;
}

}  // namespace

Shape extended(const Shape& surface, double by, const std::string& name) {
  requireSheet(surface, by);
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
    return withStrips(surface, bordersOf(surface.body().topology), by, name);
  });
}

Shape extendedAt(const Shape& surface, const std::vector<Edge>& edges, double by, SurfaceGoesOn way,
                 const std::string& name) {
  requireSheet(surface, by);
  return kernelCall("extending the surface", [&] {
    const std::vector<Border> borders = chosen(surface, edges);
    if (way == SurfaceGoesOn::Straight || borders.empty()) return withStrips(surface, borders, by, name);
    requireNoCorners(borders);
    ShapeMap<TopoDS_Face> instead;
    for (const Border& border : borders)
      if (!instead.contains(border.face))
        instead.emplace(border.face, runOn(border.face, sidesOf(border.face, borders), by));
    return sewnWith(surface, instead, {}, by, name);
  });
}

Shape extendedThrough(const Shape& surface, const std::vector<Edge>& edges, const Shape& solid, SurfaceGoesOn way,
                      const std::string& name, double& by, Progress& progress) {
  const double size = solid.roughBox().diagonal(), margin = 1e-2 * size;
  by = margin;
  // Where it does not come near the solid yet.
  if (!surface.roughBox().overlaps(solid.roughBox())) {
    const BRepExtrema_DistShapeShape apart(surface.body().topology, solid.body().topology);
    if (apart.IsDone()) by += apart.Value();
  }
  constexpr int most = 12;
  for (int attempt = 0; attempt < most; ++attempt) {
    progress.throwIfStopped();
    const Shape longer = extendedAt(surface, edges, by, way, name);
    const auto gap = gapOf(solid, longer, progress);
    const bool meets = longer.roughBox().overlaps(solid.roughBox());
    if (meets && !gap) return longer;
    by += gap ? gap->missing + margin : size / 4;
    if (by > 2 * size + surface.roughBox().diagonal()) break;
  }
  throw Error(say("the surface does not reach through, even %1 mm longer", formatNumber(by, 4)), "",
              say("Choose other borders, or let it go on the other way"));
}

}  // namespace kervo
