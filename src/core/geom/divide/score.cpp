#include "geom/divide/score.h"

#include <BRepAlgoAPI_Section.hxx>
#include <TopoDS_Iterator.hxx>
#include <algorithm>

#include "base/quantity.h"
#include "base/say.h"
#include "geom/divide/checked_intersection.h"
#include "geom/divide/partition.h"
#include "geom/divide/trial_form.h"
#include "geom/kernel/topology_body.h"

namespace kervo {

namespace {

/// Edges where the faces of a body and a cutter meet.
TopoDS_Shape sectionEdges(const Shape& body, const Shape& cutter, const Attempt& attempt, Progress& progress) {
  if (cutter.empty() || !cutter.roughBox().overlaps(body.roughBox())) return {};
  TopTools_ListOfShape arguments, tools;
  arguments.Append(body.body().topology);
  tools.Append(nudged(cutter, attempt.move).body().topology);
  Handle(KernelProgress) indicator = new KernelProgress(progress);
  BRepAlgoAPI_Section section;
  section.SetArguments(arguments);
  section.SetTools(tools);
  section.SetNonDestructive(true);
  section.SetRunParallel(true);
  if (attempt.fuzzy > 0) section.SetFuzzyValue(attempt.fuzzy);
  section.Build(indicator->Start());
  progress.throwIfStopped();
  if (section.HasErrors()) throw Unsound{say("the faces could not be intersected")};
  return section.Shape();
}

bool hasEdges(const TopoDS_Shape& shape) {
  return !shape.IsNull() && TopExp_Explorer(shape, TopAbs_EDGE).More();
}

/// A part of a face on the same side as the face. Parts that coincide with a cutter's face may be taken from there.
TopoDS_Shape orientedLike(const TopoDS_Shape& part, const TopoDS_Face& whole, Sides& sides) {
  TopLoc_Location a, b;
  const TopoDS_Face forward = TopoDS::Face(part.Oriented(TopAbs_FORWARD));
  if (BRep_Tool::Surface(forward, a) == BRep_Tool::Surface(whole, b) && a == b)
    return part.Oriented(whole.Orientation());
  const std::optional<gp_Pnt> point = sides.pointOn(forward);
  if (!point) throw Unsound{say("a part of a face has no inside")};
  const bool same = outwardNormal(forward, *point).Dot(outwardNormal(whole, *point)) > 0;
  return part.Oriented(same ? TopAbs_FORWARD : TopAbs_REVERSED);
}

/// The shell with every face replaced by its parts.
TopoDS_Shell dividedShell(const TopoDS_Shape& shell, const Intersection& intersection, Sides& sides) {
  TopoDS_Shell result;
  BRep_Builder builder;
  builder.MakeShell(result);
  for (TopExp_Explorer it(shell.Oriented(TopAbs_FORWARD), TopAbs_FACE); it.More(); it.Next())
    for (const TopoDS_Shape& part : intersection.parts(it.Current()))
      builder.Add(result, orientedLike(part, TopoDS::Face(it.Current()), sides));
  result.Closed(shell.Closed());
  result.Orientation(shell.Orientation());
  return result;
}

/// The faces are divided by intersecting with the cutters; that the solid is divided as well is left unused. (Dividing
/// by section curves instead takes a minute on free-form faces, on which they lie everywhere.)
Shape scoredOnce(const Shape& body, const std::vector<Shape>& cutters, const Attempt& attempt, Progress& progress) {
  std::vector<Shape> arguments{body};
  for (const Shape& cutter : cutters)
    if (!cutter.empty() && cutter.roughBox().overlaps(body.roughBox()))
      arguments.push_back(nudged(cutter, attempt.move));
  if (arguments.size() == 1) return body;
  const Intersection intersection(arguments, attempt, progress);
  FaceTable table = intersection.faceTable();
  measureAll(table, progress);
  Sides sides;
  BRep_Builder builder;
  std::vector<TopoDS_Shape> parts;
  if (body.kind() == BodyKind::Solid) {
    for (const TopoDS_Shape& solid : solidsOf(body)) {
      TopoDS_Solid whole;
      builder.MakeSolid(whole);
      for (TopoDS_Iterator it(solid.Oriented(TopAbs_FORWARD)); it.More(); it.Next())
        if (it.Value().ShapeType() == TopAbs_SHELL) builder.Add(whole, dividedShell(it.Value(), intersection, sides));
      parts.push_back(whole.Oriented(solid.Orientation()));
    }
  } else {
    parts.push_back(dividedShell(body.body().topology, intersection, sides));
  }
  requireTightEdges(parts, intersection.allowedEdgeTolerance());
  markGiven(table, {body}, progress);
  requireSoundFaces(parts, table, progress);
  const Shape result = soundShape(parts, table, progress);
  requireBalance(body.volume(), result.volume(), body.area(), "the body");
  if (std::abs(result.area() - body.area()) > tolerance::balance * 10 * body.area())
    throw Unsound{say("the areas do not balance")};
  if (result.kind() != body.kind() || result.faceCount() < body.faceCount()) throw Unsound{say("a face was lost")};
  return result.faceCount() == body.faceCount() ? body : result;
}

}  // namespace

Shape scored(const Shape& body, const std::vector<Shape>& cutters, Progress& progress) {
  if (body.empty() || body.kind() == BodyKind::Curve)
    throw Error(say("a curve has no face to score"), "", say("Choose a solid or a surface"));
  return firstSound("scoring", {body}, progress, [&](const Attempt& attempt) {
    TrialForm form(attempt);
    return form.back(scoredOnce(form.still(body), form.still(cutters), attempt, progress), progress);
  });
}

Shape intersectionCurves(const Shape& body, const std::vector<Shape>& cutters, Progress& progress) {
  return firstSound("the intersection", {body}, progress, [&](const Attempt& attempt) {
    TrialForm form(attempt);
    const Shape still = form.still(body);
    std::vector<TopoDS_Shape> found;
    // One by one: together, those would be found as well in which cutters meet each other.
    for (const Shape& cutter : form.still(cutters)) {
      const TopoDS_Shape edges = sectionEdges(still, cutter, attempt, progress);
      if (!hasEdges(edges)) continue;
      for (TopExp_Explorer it(edges, TopAbs_EDGE); it.More(); it.Next())
        if (BRep_Tool::Tolerance(TopoDS::Edge(it.Current())) > tolerance::looseEdge + 2 * attempt.fuzzy)
          throw Unsound{say("an intersection curve could not be found closely enough")};
      found.push_back(edges);
    }
    if (found.empty()) return Shape();
    return makeShape(found.size() == 1 ? found.front() : TopoDS_Shape(compoundOf(found)), {}, "");
  });
}

namespace {
std::string overlapText(const std::string& first, const std::string& second, double volume) {
  return say("%1 and %2 overlap by %3 mm³, so they cannot share faces", first, second, formatNumber(volume, 6));
}
}  // namespace

SolidsOverlap::SolidsOverlap(std::size_t one, std::size_t other, double common)
    : Error(overlapText(say("body %1", one + 1), say("body %1", other + 1), common), "",
            say("Subtract one from the other first")),
      first(one),
      second(other),
      volume(common) {}

SolidsOverlap::SolidsOverlap(const SolidsOverlap& other, const std::string& nameOfFirst,
                             const std::string& nameOfSecond)
    : Error(overlapText("\"" + nameOfFirst + "\"", "\"" + nameOfSecond + "\"", other.volume), "",
            say("Subtract one from the other first")),
      first(other.first),
      second(other.second),
      volume(other.volume) {}

SharedFaces withSharedFaces(const std::vector<Shape>& solids, Progress& progress) {
  const Partition partition = kervo::partition(solids, {}, progress);
  SharedFaces result;
  result.remedy = partition.remedy;
  std::vector<FaceTable> tables(solids.size());
  std::vector<std::vector<TopoDS_Shape>> parts(solids.size());
  ShapeMap<std::vector<std::size_t>> users;
  for (const Part& part : partition.parts) {
    if (part.in.size() > 1) throw SolidsOverlap(part.in[0], part.in[1], part.shape.volume());
    const std::size_t solid = part.in.front();
    parts[solid].push_back(part.shape.body().topology);
    for (const auto& [face, facts] : part.shape.body().faces) {
      tables[solid].emplace(face, facts);
      users[face].push_back(solid);
    }
  }
  std::vector<bool> shares(solids.size(), false);
  for (const auto& [face, by] : users) {
    if (by.size() < 2) continue;
    ++result.count;
    for (const std::size_t solid : by) shares[solid] = true;
  }
  for (std::size_t i = 0; i < solids.size(); ++i) {
    result.solids.push_back(makeShape(compoundOf(parts[i]), std::move(tables[i]), "face:"));
    if (!shares[i]) result.alone.push_back(i);
  }
  return result;
}

}  // namespace kervo
