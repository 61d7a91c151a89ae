#include "geom/score.h"

#include <BRepAlgoAPI_Section.hxx>
#include <algorithm>

#include "base/quantity.h"
#include "geom/kernel/checked_intersection.h"
#include "geom/partition.h"

namespace kervo {

namespace {

/// Edges where the faces of a body and the cutters meet.
TopoDS_Shape sectionEdges(const Shape& body, const std::vector<Shape>& cutters, const Attempt& attempt,
                          Progress& progress) {
  TopTools_ListOfShape arguments, tools;
  arguments.Append(body.body().topology);
  for (const Shape& cutter : cutters)
    if (!cutter.empty() && cutter.roughBox().overlaps(body.roughBox()))
      tools.Append(nudged(cutter, attempt.move).body().topology);
  if (tools.IsEmpty()) return {};
  Handle(KernelProgress) indicator = new KernelProgress(progress);
  BRepAlgoAPI_Section section;
  section.SetArguments(arguments);
  section.SetTools(tools);
  section.SetNonDestructive(true);
  section.SetRunParallel(true);
  if (attempt.fuzzy > 0) section.SetFuzzyValue(attempt.fuzzy);
  section.Build(indicator->Start());
  progress.throwIfStopped();
  if (section.HasErrors()) throw Unsound{"the faces could not be intersected"};
  return section.Shape();
}

bool hasEdges(const TopoDS_Shape& shape) {
  return !shape.IsNull() && TopExp_Explorer(shape, TopAbs_EDGE).More();
}

Shape scoredOnce(const Shape& body, const std::vector<Shape>& cutters, const Attempt& attempt, Progress& progress) {
  const TopoDS_Shape edges = sectionEdges(body, cutters, attempt, progress);
  if (!hasEdges(edges)) return body;
  const std::vector<Shape> arguments{body, makeShape(edges, {}, "")};
  const Intersection intersection(arguments, {attempt.fuzzy, 0}, progress);
  FaceTable table = intersection.faceTable();
  measureAll(table, progress);
  std::vector<TopoDS_Shape> parts;
  if (body.kind() == BodyKind::Solid) {
    for (const TopoDS_Shape& solid : solidsOf(body))
      for (const TopoDS_Shape& part : intersection.parts(solid)) parts.push_back(part);
  } else {
    TopoDS_Shell shell;
    BRep_Builder builder;
    builder.MakeShell(shell);
    for (TopExp_Explorer it(body.body().topology, TopAbs_FACE); it.More(); it.Next())
      for (const TopoDS_Shape& part : intersection.parts(it.Current()))
        builder.Add(shell, part.Oriented(it.Current().Orientation()));
    parts.push_back(shell);
  }
  requireTightEdges(parts, intersection.allowedEdgeTolerance());
  requireSoundFaces(parts, table, progress);
  const Shape result = makeShape(compoundOf(parts), table, "face:");
  const double allowed = attempt.allowedImbalance();
  requireBalance(body.volume(), result.volume(), body.area(), allowed, "the body");
  if (std::abs(result.area() - body.area()) > allowed * 10 * body.area()) throw Unsound{"the areas do not balance"};
  if (result.kind() != body.kind() || result.faceCount() < body.faceCount()) throw Unsound{"a face was lost"};
  return result;
}

}  // namespace

Shape scored(const Shape& body, const std::vector<Shape>& cutters, Progress& progress) {
  if (body.empty() || body.kind() == BodyKind::Curve)
    throw Error("a curve has no face to score", "", "Choose a solid or a surface");
  return firstSound("scoring", progress,
                    [&](const Attempt& attempt) { return scoredOnce(body, cutters, attempt, progress); });
}

Shape intersectionCurves(const Shape& body, const std::vector<Shape>& cutters, Progress& progress) {
  return firstSound("the intersection", progress, [&](const Attempt& attempt) {
    const TopoDS_Shape edges = sectionEdges(body, cutters, attempt, progress);
    if (!hasEdges(edges)) return Shape();
    for (TopExp_Explorer it(edges, TopAbs_EDGE); it.More(); it.Next())
      if (BRep_Tool::Tolerance(TopoDS::Edge(it.Current())) > tolerance::looseEdge + 2 * attempt.fuzzy)
        throw Unsound{"an intersection curve could not be found closely enough"};
    return makeShape(edges, {}, "");
  });
}

SharedFaces withSharedFaces(const std::vector<Shape>& solids, Progress& progress) {
  const Partition partition = kervo::partition(solids, {}, progress);
  SharedFaces result;
  result.remedy = partition.remedy;
  std::vector<FaceTable> tables(solids.size());
  std::vector<std::vector<TopoDS_Shape>> parts(solids.size());
  ShapeMap<std::vector<std::size_t>> users;
  for (const Part& part : partition.parts) {
    if (part.in.size() > 1)
      throw Error("body " + std::to_string(part.in[0] + 1) + " and body " + std::to_string(part.in[1] + 1) +
                      " overlap by " + formatNumber(part.shape.volume(), 6) + " mm³, so they cannot share faces",
                  "", "Subtract one from the other first");
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
