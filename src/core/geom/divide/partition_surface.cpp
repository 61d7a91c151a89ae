#include <BRepGProp_Face.hxx>
#include <GeomAPI_ProjectPointOnCurve.hxx>
#include <algorithm>

#include "base/say.h"
#include "geom/divide/fragments.h"
#include "geom/divide/partition.h"
#include "geom/divide/trial_form.h"
#include "geom/kernel/topology_body.h"

namespace kervo {

namespace {

/// Faces of a divided surface that are connected by edges along which no cutting surface or curve runs.
std::vector<std::vector<TopoDS_Shape>> connected(const std::vector<TopoDS_Shape>& faces,
                                                 const ShapeMap<bool>& cutEdges) {
  std::map<std::size_t, std::vector<std::size_t>> groups;
  std::vector<std::size_t> group(faces.size());
  ShapeMap<std::size_t> firstAt;
  for (std::size_t i = 0; i < faces.size(); ++i) groups[group[i] = i] = {i};
  for (std::size_t i = 0; i < faces.size(); ++i)
    for (TopExp_Explorer it(faces[i], TopAbs_EDGE); it.More(); it.Next()) {
      if (cutEdges.contains(it.Current())) continue;
      const auto [place, isNew] = firstAt.emplace(it.Current(), i);
      const std::size_t a = group[place->second], b = group[i];
      if (isNew || a == b) continue;
      for (const std::size_t face : groups[b]) group[face] = a;
      groups[a].insert(groups[a].end(), groups[b].begin(), groups[b].end());
      groups.erase(b);
    }
  std::vector<std::vector<TopoDS_Shape>> result;
  for (const auto& [first, members] : groups) {
    auto& all = result.emplace_back();
    for (const std::size_t face : members) all.push_back(faces[face]);
  }
  return result;
}

TopoDS_Shape asShell(const std::vector<TopoDS_Shape>& faces) {
  if (faces.size() == 1) return faces.front();
  TopoDS_Shell shell;
  BRep_Builder builder;
  builder.MakeShell(shell);
  for (const TopoDS_Shape& face : faces) builder.Add(shell, face);
  return shell;
}

/// What one cutter left in an intersection: parts of its faces, or, of a curve, of its edges with its own edges.
struct Fragments {
  ShapeMap<bool> faces;
  ShapeMap<TopoDS_Edge> edges;

  static Fragments of(const Shape& cutter, const Intersection& intersection, Sides& sides) {
    Fragments result;
    result.faces = fragmentsOf(cutter, intersection, sides);
    if (cutter.kind() != BodyKind::Curve) return result;
    for (TopExp_Explorer it(cutter.body().topology, TopAbs_EDGE); it.More(); it.Next())
      for (const TopoDS_Shape& part : intersection.parts(it.Current()))
        result.edges.emplace(part, TopoDS::Edge(it.Current()));
    return result;
  }
  void addEdges(ShapeMap<bool>& all) const {
    for (const auto& [fragment, sameWay] : faces)
      for (TopExp_Explorer it(fragment, TopAbs_EDGE); it.More(); it.Next()) all[it.Current()] = true;
    for (const auto& [part, whole] : edges) all[part] = true;
  }
};

SheetSide sideOf(bool front, bool back) {
  return front && back ? SheetSide::Both : front ? SheetSide::Front : back ? SheetSide::Back : SheetSide::None;
}

/// The normal of a face at the middle of an edge of its.
gp_Vec normalAtMiddle(const TopoDS_Edge& edge, const TopoDS_Face& face, gp_Pnt& middle) {
  double first = 0, last = 0;
  const Handle(Geom2d_Curve) curve = BRep_Tool::CurveOnSurface(edge, face, first, last);
  if (curve.IsNull()) throw Error(say("an edge of a face has no curve on the face's surface"));
  const gp_Pnt2d at = curve->Value((first + last) / 2);
  gp_Vec normal;
  BRepGProp_Face(face).Normal(at.X(), at.Y(), middle, normal);
  return normal;
}

/// On which side of a cutting surface a piece lies: asked just beside the surface, at a point inside the piece's face
/// next to the cut.
SheetSide sideOfSurface(const std::vector<TopoDS_Shape>& piece, const ShapeMap<bool>& fragments, Sides& sides) {
  TopTools_IndexedDataMapOfShapeListOfShape cutting;
  for (const auto& [fragment, sameWay] : fragments)
    TopExp::MapShapesAndAncestors(fragment, TopAbs_EDGE, TopAbs_FACE, cutting);
  bool front = false, back = false;
  for (const TopoDS_Shape& face : piece)
    for (TopExp_Explorer it(face, TopAbs_EDGE); it.More(); it.Next()) {
      if (!cutting.Contains(it.Current())) continue;
      const std::optional<gp_Pnt> point = sides.pointOn(TopoDS::Face(face));
      if (!point) continue;
      const TopoDS_Face fragment = TopoDS::Face(cutting.FindFromKey(it.Current()).First());
      gp_Pnt on;
      const gp_Vec normal =
          normalAtMiddle(TopoDS::Edge(it.Current()), TopoDS::Face(fragment.Oriented(TopAbs_FORWARD)), on);
      const bool along = gp_Vec(on, *point).Dot(normal) > 0;
      (along == fragments.at(fragment) ? front : back) = true;
    }
  return sideOf(front, back);
}

/// Whether a part of a curve runs the way that the curve runs.
bool runsAlong(const TopoDS_Edge& part, const TopoDS_Edge& whole) {
  const BRepAdaptor_Curve own(part), other(whole);
  gp_Pnt at, there;
  gp_Vec way, along;
  own.D1((own.FirstParameter() + own.LastParameter()) / 2, at, way);
  const GeomAPI_ProjectPointOnCurve nearest(at, other.Curve().Curve(), other.FirstParameter(), other.LastParameter());
  if (nearest.NbPoints() == 0) return true;
  other.D1(nearest.LowerDistanceParameter(), there, along);
  return (way.Dot(along) > 0) == (whole.Orientation() != TopAbs_REVERSED);
}

/// On which side of a curve on it a piece lies, seen from the surface's front; front is to the left of the curve.
SheetSide sideOfCurve(const std::vector<TopoDS_Shape>& piece, const ShapeMap<TopoDS_Edge>& fragments) {
  bool left = false, right = false;
  for (const TopoDS_Shape& face : piece)
    for (TopExp_Explorer it(face, TopAbs_EDGE); it.More(); it.Next()) {
      const auto found = fragments.find(it.Current());
      if (found == fragments.end()) continue;
      // A face lies to the left of its border.
      const TopoDS_Edge forward = TopoDS::Edge(it.Current().Oriented(TopAbs_FORWARD));
      const bool ahead = it.Current().Orientation() != TopAbs_REVERSED;
      (ahead == runsAlong(forward, found->second) ? left : right) = true;
    }
  return sideOf(left, right);
}

/// The arguments: surfaces that are divided, then those that only cut. Each is divided by all others.
std::vector<Partition> dividedOnce(const std::vector<Shape>& surfaces, const std::vector<Shape>& cutters,
                                   const Attempt& attempt, Progress& progress) {
  std::vector<Shape> arguments{surfaces.front()};
  for (std::size_t i = 1; i < surfaces.size(); ++i) arguments.push_back(nudged(surfaces[i], attempt.move));
  for (const Shape& cutter : cutters) arguments.push_back(nudged(cutter, attempt.move));
  const Intersection intersection(arguments, attempt, progress);
  FaceTable table = intersection.faceTable();
  measureAll(table, progress);
  Sides sides;
  std::vector<Fragments> fragments;
  for (const Shape& argument : arguments) fragments.push_back(Fragments::of(argument, intersection, sides));
  std::vector<Partition> all;
  for (std::size_t s = 0; s < surfaces.size(); ++s) {
    progress.throwIfStopped();
    const Shape& surface = arguments[s];
    std::vector<TopoDS_Shape> faces;
    double area = 0;
    for (TopExp_Explorer it(surface.body().topology, TopAbs_FACE); it.More(); it.Next())
      for (const TopoDS_Shape& part : intersection.parts(it.Current())) {
        faces.push_back(part.Oriented(it.Current().Orientation()));
        area += table.at(part).integrals.area;
      }
    if (std::abs(area - surface.area()) > tolerance::balance * 10 * surface.area())
      throw Unsound{say("the areas of the surface do not balance")};
    ShapeMap<bool> cutEdges;
    for (std::size_t i = 0; i < fragments.size(); ++i)
      if (i != s) fragments[i].addEdges(cutEdges);
    Partition& result = all.emplace_back();
    result.remedy = attempt.remedy();
    const auto pieces = connected(faces, cutEdges);
    if (pieces.size() < 2) {
      result.parts.push_back({surfaces[s], {s}, std::vector<SheetSide>(arguments.size() - 1, SheetSide::None)});
      continue;
    }
    requireTightEdges(faces, intersection.allowedEdgeTolerance());
    markGiven(table, {surface}, progress);
    requireSoundFaces(faces, table, progress);
    for (const auto& piece : pieces) {
      Part part{makeShape(asShell(piece), table, "face:"), {s}, {}};
      for (std::size_t i = 0; i < fragments.size(); ++i) {
        if (i == s) continue;
        const Fragments& by = fragments[i];
        part.sides.push_back(by.edges.empty() ? sideOfSurface(piece, by.faces, sides) : sideOfCurve(piece, by.edges));
      }
      result.parts.push_back(std::move(part));
    }
  }
  return all;
}

void requireSurface(const Shape& surface) {
  if (surface.empty() || surface.kind() != BodyKind::Surface)
    throw Error(say("only a surface can be divided like this"), "", say("Choose a surface as stock"));
}

std::vector<Partition> divided(const std::vector<Shape>& surfaces, const std::vector<Shape>& cutters,
                               Progress& progress) {
  return firstSound("the division of the surface", surfaces, progress, [&](const Attempt& attempt) {
    TrialForm form(attempt);
    std::vector<Partition> result = dividedOnce(form.still(surfaces), form.still(cutters), attempt, progress);
    for (Partition& one : result) {
      std::vector<Shape> shapes;
      for (const Part& part : one.parts) shapes.push_back(part.shape);
      shapes = form.back(std::move(shapes), progress);
      for (std::size_t i = 0; i < shapes.size(); ++i) one.parts[i].shape = shapes[i];
    }
    return result;
  });
}

}  // namespace

Partition partitionOfSurface(const Shape& surface, const std::vector<Shape>& cutters, Progress& progress) {
  progress.throwIfStopped();
  requireSurface(surface);
  if (cutters.empty()) return {{{surface, {0}, {}}}, {}};
  return divided({surface}, cutters, progress).front();
}

std::vector<Partition> partitionOfSurfaces(const std::vector<Shape>& surfaces, const std::vector<Shape>& cutters,
                                           Progress& progress) {
  progress.throwIfStopped();
  for (const Shape& surface : surfaces) requireSurface(surface);
  std::vector<Shape> all = surfaces;
  all.insert(all.end(), cutters.begin(), cutters.end());
  all = withoutTwins(std::move(all));
  const auto middle = all.begin() + static_cast<std::ptrdiff_t>(surfaces.size());
  if (all.size() < 2) {
    std::vector<Partition> alone;
    for (const Shape& surface : surfaces) alone.push_back({{{surface, {0}, {}}}, {}});
    return alone;
  }
  return divided({all.begin(), middle}, {middle, all.end()}, progress);
}

}  // namespace kervo
