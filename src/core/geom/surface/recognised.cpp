#include "geom/surface/recognised.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepTools.hxx>
#include <Geom_Circle.hxx>
#include <Geom_Line.hxx>
#include <Geom_RectangularTrimmedSurface.hxx>
#include <Geom_SphericalSurface.hxx>
#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/say.h"
#include "geom/kernel/call.h"
#include "geom/kernel/convert.h"
#include "geom/kernel/elementary.h"
#include "geom/measure/soundness.h"
#include "geom/surface/elementary_face.h"
#include "geom/surface/face_workshop.h"
#include "geom/surface/fitted_surface.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

constexpr double turn = 2 * std::numbers::pi;
constexpr int samplesPerEdge = 24;
/// Lines and circles in place of splines make edges no looser than this, mm.
constexpr double edgesFit = 1e-5;
/// Ends of an edge nearer than this are one, mm.
constexpr double oneEnd = 1e-5;

bool isFreeForm(const TopoDS_Face& face) {
  return BRepAdaptor_Surface(face, false).GetType() > GeomAbs_Torus;
}

/// A line or a circle along an edge, with the parameters of its ends.
struct SimpleCurve {
  Handle(Geom_Curve) curve;
  double first = 0, last = 0;
};

std::optional<SimpleCurve> simpleCurve(const TopoDS_Edge& edge, double tolerance) {
  const BRepAdaptor_Curve curve(edge);
  if (curve.GetType() <= GeomAbs_Parabola) return std::nullopt;
  constexpr int spans = 4 * samplesPerEdge;
  std::vector<Point> points;
  for (int i = 0; i <= spans; ++i)
    points.push_back(
        fromPnt(curve.Value(curve.FirstParameter() + (curve.LastParameter() - curve.FirstParameter()) * i / spans)));
  const Vector way = points.back() - points.front();
  const double whole = length(way);
  if (whole > tolerance::smallestSize) {
    const Vector direction = way * (1 / whole);
    const bool straight = std::all_of(points.begin(), points.end(), [&](Point point) {
      return length(cross(point - points.front(), direction)) <= tolerance;
    });
    if (straight) return SimpleCurve{new Geom_Line(toPnt(points.front()), toDir(direction)), 0, whole};
  }
  auto circle = fittedCircle(points);
  if (!circle || circle->off > tolerance) return std::nullopt;
  Plane axes = circle->axes;
  if (dot(points[1] - points[0], axes.y) < 0) axes = {axes.origin, axes.x, -axes.y, -axes.normal};
  const Vector end = axes.coordinates(points.back());
  double angle = std::atan2(end.y, end.x);
  if (whole < oneEnd || angle <= 0) angle += turn;
  if (whole < oneEnd) angle = turn;
  return SimpleCurve{new Geom_Circle(gp_Ax2(toPnt(axes.origin), toDir(axes.normal), toDir(axes.x)), circle->radius), 0,
                     angle};
}

/// The surface with other axes where these matter: on a sphere poles lie where the face has its own, or else outside of
/// it. Several to be tried.
std::vector<Handle(Geom_Surface)> withAxesTried(const Handle(Geom_ElementarySurface) & surface,
                                                const TopoDS_Face& face) {
  const Handle(Geom_SphericalSurface) sphere = Handle(Geom_SphericalSurface)::DownCast(surface);
  if (sphere.IsNull()) return {Handle(Geom_Surface)(surface)};
  const Point centre = fromPnt(sphere->Location());
  std::vector<Vector> poles;
  for (TopExp_Explorer it(face, TopAbs_EDGE); it.More(); it.Next())
    if (BRep_Tool::Degenerated(TopoDS::Edge(it.Current())))
      poles.push_back(fromPnt(BRep_Tool::Pnt(TopExp::FirstVertex(TopoDS::Edge(it.Current())))) - centre);
  if (poles.empty()) {
    Vector mean;
    std::vector<Point> places;
    for (const SurfaceSample& sample : samplesOf(face)) {
      mean = mean + (sample.at - centre);
      places.push_back(sample.at);
    }
    const Plane across = length(mean) > tolerance::smallestSize ? Plane::through(centre, mean) : Plane();
    // A zone has its poles beside its borders, which are circles.
    if (const auto circle = fittedCircle(places)) poles.push_back(circle->axes.normal);
    for (const Vector& pole : {across.x, across.y, across.x + across.y, across.x - across.y}) poles.push_back(pole);
  }
  std::vector<Handle(Geom_Surface)> result;
  for (const Vector& pole : poles)
    result.push_back(new Geom_SphericalSurface(
        gp_Ax3(toPnt(centre), toDir(pole), toDir(Plane::through(centre, pole).x)), sphere->Radius()));
  return result;
}

/// By how much the volume may change if no face moves by more than the tolerance, mm³.
double allowedChange(const Shape& shape, double tolerance) {
  return shape.area() * tolerance + tolerance::balance * std::abs(shape.volume());
}

/// `spared`: faces, by their numbers, that are left as they are; those that could not be put on their new surface are
/// added, and then the result does not count.
Recognised attempt(const Shape& shape, const std::set<std::string>& only, double tolerance, bool edgesToo,
                   std::set<int>& spared, Progress& progress) {
  Recognised result{shape, {}, 0, 0, 0};
  FaceWorkshop workshop(shape);
  std::vector<FaceWorkshop::Place>& places = workshop.faces();
  const std::vector<TopoDS_Face> given = facesOf(shape.body().topology);
  // What came damaged is not to be told as damaged here.
  for (std::size_t i = 0; i < places.size(); ++i) places[i].facts.flawed = factsOf(shape, given[i]).flawed;
  std::vector<std::vector<Handle(Geom_Surface)>> targets(places.size());
  std::vector<char> changes(places.size(), 0);
  for (std::size_t i = 0; i < places.size(); ++i) {
    progress.throwIfStopped();
    progress.report(0.7 * static_cast<double>(i) / static_cast<double>(places.size()));
    const TopoDS_Face& face = places[i].face;
    if (!isFreeForm(face)) {
      Handle(Geom_Surface) surface = BRep_Tool::Surface(face);
      if (const auto trimmed = Handle(Geom_RectangularTrimmedSurface)::DownCast(surface); !trimmed.IsNull())
        surface = trimmed->BasisSurface();
      targets[i] = {surface};
      continue;
    }
    const std::vector<std::string>& names = *places[i].facts.origins;
    if (!only.empty() &&
        std::none_of(names.begin(), names.end(), [&](const std::string& name) { return only.contains(name); }))
      continue;
    const auto fitted = spared.contains(places[i].number) ? std::nullopt : fittedSurface(samplesOf(face), tolerance);
    if (!fitted) {
      ++result.left;
      continue;
    }
    targets[i] = withAxesTried(fitted->surface, face);
    changes[i] = 1;
    result.off = std::max(result.off, fitted->off);
  }
  if (std::none_of(changes.begin(), changes.end(), [](char each) { return each; })) return result;

  // Before any edge changes, since the old runs are asked for.
  std::vector<std::vector<FaceMaker>> reseatings(places.size());
  ShapeMap<std::vector<std::size_t>> facesAt;
  for (std::size_t i = 0; i < places.size(); ++i) {
    for (const auto& target : targets[i]) reseatings[i].push_back(reseatedOn(places[i].face, target));
    for (TopExp_Explorer it(places[i].face, TopAbs_EDGE); it.More(); it.Next()) facesAt[it.Current()].push_back(i);
  }
  const BRep_Builder builder;
  for (const auto& [shapeOfEdge, faces] : facesAt) {
    const TopoDS_Edge edge = TopoDS::Edge(shapeOfEdge.Oriented(TopAbs_FORWARD));
    const bool known = std::all_of(faces.begin(), faces.end(), [&](std::size_t i) { return !targets[i].empty(); });
    const bool touched = std::any_of(faces.begin(), faces.end(), [&](std::size_t i) { return changes[i] != 0; });
    if (!edgesToo || !known || !touched || BRep_Tool::Degenerated(edge)) continue;
    const auto simple = simpleCurve(edge, std::min(tolerance, edgesFit));
    if (!simple) continue;
    builder.UpdateEdge(edge, simple->curve, TopLoc_Location(), BRep_Tool::Tolerance(edge));
    builder.Range(edge, simple->first, simple->last);
    ++result.edges;
    for (const std::size_t i : faces)
      if (!changes[i]) changes[i] = 2;
  }
  for (std::size_t i = 0; i < places.size(); ++i) {
    if (!changes[i]) continue;
    const double area = integrate(given[i]).area;
    std::optional<TopoDS_Face> made;
    for (const FaceMaker& reseating : reseatings[i]) {
      try {
        made = reseating();
      } catch (const Standard_Failure&) {
        made.reset();  // and is told below, as one that could not be done
      }
      constexpr double sameShare = 1e-4;
      if (made && std::abs(signedIntegrals(*made).area - area) <= sameShare * area + 10 * tolerance * std::sqrt(area))
        break;
      made.reset();
    }
    if (!made) {
      spared.insert(places[i].number);
      continue;
    }
    if (changes[i] == 1) ++result.kinds[surfaceNameOf(BRepAdaptor_Surface(*made, false).GetType())];
    places[i].facts.flawed = false;
    workshop.replace(places[i], *made);
  }
  result.shape = workshop.result(shape).shape;
  BRepTools::RemoveUnusedPCurves(result.shape.body().topology);
  // Faces that did not change are taken for what they were.
  FaceTable table = result.shape.body().faces;
  markChecked(result.shape.body(), table, progress);
  for (std::size_t i = 0; i < places.size(); ++i)
    if (const auto facts = table.find(places[i].face); changes[i] && facts != table.end() && facts->second.flawed)
      spared.insert(places[i].number);
  return result;
}

}  // namespace

Recognised recognised(const Shape& given, const std::set<std::string>& only, double tolerance, Progress& progress) {
  const Shape shape = examined(given, progress);
  return kernelCall("recognising surfaces", [&] {
    // Lines and circles first; where they do not fit together, edges as they are.
    Recognised found{shape, {}, 0, 0, 0};
    std::string fault;
    for (const bool edgesToo : {true, false}) {
      std::set<int> spared;
      for (std::size_t before = 0;; before = spared.size()) {
        progress.throwIfStopped();
        found = attempt(shape, only, tolerance, edgesToo, spared, progress);
        if (spared.size() == before) break;
      }
      if (found.kinds.empty()) {
        found.shape = shape;
        if (spared.empty()) return found;
        continue;
      }
      fault = findFault(found.shape.body(), progress);
      if (found.shape.kind() != shape.kind() ||
          std::abs(found.shape.volume() - shape.volume()) > allowedChange(shape, tolerance))
        fault = say("the body would become another one");
      if (fault.empty()) return found;
    }
    if (!fault.empty())
      throw Error(say("the recognised faces do not fit together: %1", fault), "",
                  say("Choose single faces, or another tolerance"));
    return found;
  });
}

}  // namespace kervo
