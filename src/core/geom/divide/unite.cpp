// Unions and intersections of several solids.
#include <BOPAlgo_BOP.hxx>
#include <ShapeUpgrade_UnifySameDomain.hxx>

#include "base/say.h"
#include "geom/divide/boolean.h"
#include "geom/divide/checked_intersection.h"
#include "geom/divide/mesh_divide.h"
#include "geom/divide/trial_form.h"
#include "geom/faces/carried_faces.h"
#include "geom/measure/soundness.h"

namespace kervo {

namespace {

/// Merges faces of one surface, and edges of one curve if asked. Throws what the kernel throws: it fails on some tori.
Shape withMergedFaces(const TopoDS_Shape& united, const FaceTable& table, bool edgesToo, Progress& progress) {
  return kernelCall("removing seams", [&] {
    ShapeUpgrade_UnifySameDomain unify(united, edgesToo, true, false);
    unify.Build();
    progress.throwIfStopped();
    return carriedAlong(unify.Shape(), table, *unify.History());
  });
}

/// Faces of one plane, or of one and the same surface, that share an edge.
bool hasSeams(const TopoDS_Shape& united) {
  TopTools_IndexedDataMapOfShapeListOfShape facesAt;
  TopExp::MapShapesAndAncestors(united, TopAbs_EDGE, TopAbs_FACE, facesAt);
  for (int i = 1; i <= facesAt.Extent(); ++i) {
    if (facesAt(i).Extent() != 2 || facesAt(i).First().IsSame(facesAt(i).Last())) continue;
    const TopoDS_Face a = TopoDS::Face(facesAt(i).First()), b = TopoDS::Face(facesAt(i).Last());
    TopLoc_Location placeA, placeB;
    if (BRep_Tool::Surface(a, placeA) == BRep_Tool::Surface(b, placeB) && placeA == placeB) return true;
    const BRepAdaptor_Surface first(a, false), second(b, false);
    if (first.GetType() != GeomAbs_Plane || second.GetType() != GeomAbs_Plane) continue;
    const gp_Pln plane = first.Plane(), other = second.Plane();
    if (plane.Axis().IsParallel(other.Axis(), tolerance::parallel) &&
        plane.Distance(other.Location()) < tolerance::point)
      return true;
  }
  return false;
}

/// Without the seams between faces of one surface, as far as that leaves the body sound and its volume the same.
Shape withoutSeams(const TopoDS_Shape& united, const FaceTable& table, double volume, Progress& progress) {
  // With a torus the kernel's way of merging faces throws, and on one pair it never came back; it cannot be stopped.
  const bool torus = std::any_of(table.begin(), table.end(), [](const auto& each) {
    const GeomAbs_SurfaceType type = BRepAdaptor_Surface(TopoDS::Face(each.first), false).GetType();
    return type == GeomAbs_Torus || type == GeomAbs_SurfaceOfRevolution;
  });
  if (torus) return makeShape(united, table, "face:");
  for (const bool edgesToo : {true, false}) {
    try {
      const Shape result = withMergedFaces(united, table, edgesToo, progress);
      const bool same = std::abs(result.volume() - volume) <= tolerance::balance * volume;
      if (same && findFault(result.body(), progress).empty()) return result;
    } catch (const Error&) {
      // Seams are harmless: the next weaker way, or the union with its seams, is as right.
    }
  }
  return makeShape(united, table, "face:");
}

Union uniteOnce(const std::vector<Shape>& solids, Seams seams, const Attempt& attempt, Progress& progress) {
  TrialForm form(attempt);
  std::vector<Shape> arguments{form.still(solids.front())};
  for (std::size_t i = 1; i < solids.size(); ++i) arguments.push_back(form.moved(solids[i]));
  const Intersection intersection(arguments, attempt, progress);
  FaceTable regions = intersection.faceTable();
  measureAll(regions, progress);

  // The volume of the union is that of all regions, each once; every argument is the sum of its own regions.
  ShapeMap<bool> seen;
  double total = 0;
  std::vector<std::vector<TopoDS_Shape>> partsOfArgument;
  for (const Shape& argument : arguments) {
    double sum = 0;
    auto& parts = partsOfArgument.emplace_back();
    for (const TopoDS_Shape& solid : solidsOf(argument))
      for (const TopoDS_Shape& part : intersection.parts(solid)) {
        const double volume = volumeOf(part, regions);
        sum += volume;
        parts.push_back(part);
        if (seen.emplace(part, true).second) total += volume;
      }
    requireBalance(argument.volume(), sum, argument.area(), "a body");
  }
  Sides sides;
  std::vector<ShapeMap<bool>> own(arguments.size());
  for (std::size_t i = 0; i < arguments.size(); ++i)
    for (const TopoDS_Shape& part : partsOfArgument[i]) own[i][part] = true;
  for (std::size_t i = 0; i < arguments.size(); ++i)
    for (const TopoDS_Shape& part : partsOfArgument[i]) {
      const std::vector<gp_Pnt> points = sides.pointsOn(part);
      for (std::size_t j = 0; j < arguments.size(); ++j) {
        progress.throwIfStopped();
        if (i != j && !own[j].contains(part) && sides.anyInside(points, arguments[j]))
          throw Unsound{say("two bodies that overlap were not joined")};
      }
    }

  std::vector<TopoDS_Shape> allParts;
  for (const auto& parts : partsOfArgument) allParts.insert(allParts.end(), parts.begin(), parts.end());
  requireSmallEffect(attempt, allParts, regions, total);

  BOPAlgo_BOP fuse;
  fuse.SetOperation(BOPAlgo_FUSE);
  for (const TopoDS_Shape& solid : solidsOf(arguments.front())) fuse.AddArgument(solid);
  for (std::size_t i = 1; i < arguments.size(); ++i)
    for (const TopoDS_Shape& solid : solidsOf(arguments[i])) fuse.AddTool(solid);
  fuse.PerformWithFiller(intersection.filler());
  progress.throwIfStopped();
  if (fuse.HasErrors()) throw Unsound{say("the union could not be built")};
  FaceTable table = Intersection::faceTable(fuse, arguments, true);
  markGiven(table, arguments, progress);
  TopoDS_Shape joined = fuse.Shape();
  if (attempt.form == Attempt::Form::Revolved) {
    const Shape back = form.back(makeShape(joined, table, "face:"), progress);
    joined = back.body().topology;
    table = back.body().faces;
  }
  const Shape united =
      seams == Seams::Keep ? makeShape(joined, table, "face:") : withoutSeams(joined, table, total, progress);
  requireBalance(total, united.volume(), united.area(), "the union");
  const std::string fault = findFault(united.body(), progress);
  if (!fault.empty()) throw Unsound{fault};
  requireTightEdges({united.body().topology}, intersection.allowedEdgeTolerance());
  return {united, attempt.remedy(), seams == Seams::Remove && hasSeams(united.body().topology)};
}

void requireSolids(const std::vector<Shape>& solids, const char* verb) {
  for (const Shape& solid : solids)
    if (solid.kind() != BodyKind::Solid)
      throw Error(say("a %1 cannot take part in %2", say(nameOf(solid.kind())), say(verb)), "",
                  say("Choose solids, or make the surface a solid first"));
}

}  // namespace

Union unite(const std::vector<Shape>& solids, Seams seams, Progress& progress) {
  std::vector<Shape> present;
  for (const Shape& solid : solids)
    if (!solid.empty()) present.push_back(solid);
  if (anyMesh(present)) return uniteMeshes(present, progress);
  requireSolids(present, "a union");
  if (present.empty()) return {};
  if (present.size() == 1) return {present.front(), {}, false};
  present = withoutTwins(std::move(present));
  return firstSound("the union", present, progress,
                    [&](const Attempt& attempt) { return uniteOnce(present, seams, attempt, progress); });
}

Shape intersect(const std::vector<Shape>& solids, Progress& progress) {
  if (!anyMesh(solids)) requireSolids(solids, "an intersection");
  if (solids.empty()) return {};
  Shape common = solids.front();
  for (std::size_t i = 1; i < solids.size() && !common.empty(); ++i)
    common = divide(common, {solids[i]}, progress).inside;
  return common;
}

}  // namespace kervo
