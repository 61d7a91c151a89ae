#include "geom/divide/checked_intersection.h"

#include <BOPDS_DS.hxx>
#include <BOPTools_AlgoTools.hxx>
#include <BOPTools_AlgoTools3D.hxx>
#include <BRepBuilderAPI_Copy.hxx>
#include <BRepClass3d_SolidClassifier.hxx>
#include <BRepLib.hxx>
#include <BRepTools.hxx>
#include <IntTools_FClass2d.hxx>

#include "base/quantity.h"
#include "base/say.h"
#include "geom/divide/refined_curves.h"
#include "geom/kernel/parallel.h"
#include "geom/measure/outline_check.h"
#include "geom/measure/soundness.h"

namespace kervo {

std::string Attempt::remedy() const {
  if (move > 0) return say("moved the cutter by %1 mm", formatNumber(move, 2));
  if (fuzzy > 0) return say("took points closer than %1 mm as one", formatNumber(fuzzy));
  return {};
}

void requireSmallEffect(const Attempt& attempt, const std::vector<TopoDS_Shape>& parts, const FaceTable& table,
                        double volume) {
  if (attempt.move == 0) return;
  ShapeMap<int> uses;
  double between = 0;
  for (const TopoDS_Shape& part : parts)
    for (TopExp_Explorer it(part, TopAbs_FACE); it.More(); it.Next())
      if (++uses[it.Current()] == 2) between += table.at(it.Current()).integrals.area;
  if (attempt.move * between > tolerance::balance * volume)
    throw Unsound{say("moving the cutter far enough would change the volumes by more than 1e-6 of them")};
}

std::vector<Attempt> attemptsInOrder() {
  return {{0, 0},
          {0, 0, Attempt::Order::Reversed},
          {0, 0, Attempt::Order::AsGiven, Attempt::Form::Revolved},
          {tolerance::fuzzy, 0},
          {0, tolerance::smallMove},
          {0, tolerance::largerMove}};
}

namespace {

/// Within reach of another argument. A single argument is worked on as a whole.
bool isReached(Point place, const Shape& argument, const std::vector<Shape>& arguments) {
  if (arguments.size() < 2) return true;
  return std::any_of(arguments.begin(), arguments.end(), [&](const Shape& other) {
    return &other != &argument && other.body().looseBox.enlarged(tolerance::looseEdge).contains(place);
  });
}

constexpr const char* repairFirst =
    later("Cut away that place first, repair the body in the program that made it, or use Repair");

}  // namespace

void throwIfFlawed(const std::string& verb, const std::vector<Shape>& arguments, Progress& progress) {
  for (const Shape& argument : arguments)
    for (const Flaw& flaw : flawsOf(argument, progress))
      if (isReached(flaw.place, argument, arguments))
        throw Error(say("%1 gives no sound result: a body was not sound before, %2", say(verb.c_str()), flaw.text()),
                    "", say(repairFirst));
}

void throwIfCrossing(const std::string& verb, const std::vector<Shape>& arguments, Progress& progress) {
  for (const Shape& argument : arguments)
    if (const std::optional<Flaw> flaw = selfCrossingOf(argument, progress))
      throw Error(say("%1 gives no sound result: a body was not sound before, %2", say(verb.c_str()), flaw->text()), "",
                  say(repairFirst));
}

void throwNothingSound(const std::string& verb, const Unsound& first) {
  throw Error(say("%1 gives no sound result: %2", say(verb.c_str()), first.reason), "",
              first.nearlyTouching
                  ? say("The bodies nearly touch along a curve there. Move or resize one of them a little")
                  : say("Move, turn or resize one of the bodies a little"));
}

std::vector<Shape> withoutTwins(std::vector<Shape> shapes) {
  ShapeMap<bool> seen;
  for (Shape& shape : shapes) {
    bool twin = false;
    for (const TopAbs_ShapeEnum type : {TopAbs_SOLID, TopAbs_SHELL})
      for (TopExp_Explorer it(shape.body().topology, type); it.More(); it.Next())
        twin |= !seen.emplace(it.Current(), true).second;
    if (!twin) continue;
    BRepBuilderAPI_Copy copy(shape.body().topology);
    FaceTable faces;
    for (const auto& [face, facts] : shape.body().faces) faces.emplace(copy.ModifiedShape(face), facts);
    shape = makeShape(copy.Shape(), std::move(faces), "face:");
  }
  return shapes;
}

Shape nudged(const Shape& shape, double by) {
  if (by == 0) return shape;
  gp_Trsf move;
  move.SetTranslation(gp_Vec(0.7715, -0.4153, 0.4817) * by);
  const TopLoc_Location location(move);
  FaceTable faces;
  for (const auto& [face, facts] : shape.body().faces) {
    FaceFacts moved{facts.origins, facts.color, facts.sound};
    moved.flawed = facts.flawed;
    faces.emplace(face.Moved(location), std::move(moved));
  }
  return makeShape(shape.body().topology.Moved(location), std::move(faces), "face:");
}

std::vector<TopoDS_Shape> solidsOf(const Shape& shape) {
  std::vector<TopoDS_Shape> solids;
  for (TopExp_Explorer it(shape.body().topology, TopAbs_SOLID); it.More(); it.Next()) solids.push_back(it.Current());
  return solids;
}

TopoDS_Compound compoundOf(const std::vector<TopoDS_Shape>& shapes) {
  TopoDS_Compound compound;
  BRep_Builder builder;
  builder.MakeCompound(compound);
  for (const TopoDS_Shape& shape : shapes) builder.Add(compound, shape);
  return compound;
}

std::vector<TopoDS_Shape> shellsOf(const std::vector<TopoDS_Shape>& faces) {
  TopTools_ListOfListOfShape blocks;
  TopTools_IndexedDataMapOfShapeListOfShape connections;
  BOPTools_AlgoTools::MakeConnexityBlocks(compoundOf(faces), TopAbs_EDGE, TopAbs_FACE, blocks, connections);
  std::vector<TopoDS_Shape> shells;
  BRep_Builder builder;
  for (const TopTools_ListOfShape& block : blocks) {
    TopoDS_Shell shell;
    builder.MakeShell(shell);
    for (const TopoDS_Shape& face : block) builder.Add(shell, face);
    shells.push_back(shell);
  }
  return shells;
}

double loosestEdge(const TopoDS_Shape& shape) {
  double loosest = 0;
  for (TopExp_Explorer it(shape, TopAbs_EDGE); it.More(); it.Next())
    loosest = std::max(loosest, BRep_Tool::Tolerance(TopoDS::Edge(it.Current())));
  return loosest;
}

void PartsBuilder::PostTreat(const Message_ProgressRange&) {
  TopTools_IndexedMapOfShape given;
  for (int i = 0; i < myDS->NbSourceShapes(); ++i) given.Add(myDS->ShapeInfo(i).Shape());
  std::vector<TopoDS_Shape> made;
  ShapeMap<bool> seen;
  for (TopExp_Explorer it(myShape, TopAbs_FACE); it.More(); it.Next()) {
    if (given.Contains(it.Current()) || !seen.emplace(it.Current(), true).second) continue;
    if (outlineIsProven(TopoDS::Face(it.Current())))
      proven_.emplace(it.Current(), true);
    else
      made.push_back(it.Current());
  }
  const TopoDS_Compound faces = compoundOf(made);
  BOPTools_AlgoTools::CorrectTolerances(faces, given, 0.05, myRunParallel);
  BOPTools_AlgoTools::CorrectShapeTolerances(faces, given, myRunParallel);
}

/// Notes on new edges where they run in planar faces. Else the kernel finds that out each time it asks, some ten times
/// an edge.
static void layOnPlanes(const BOPDS_DS& found) {
  for (int f = 0; f < found.FaceInfoPool().Length(); ++f) {
    const BOPDS_FaceInfo& info = found.FaceInfoPool()(f);
    const TopoDS_Face face = TopoDS::Face(found.Shape(info.Index()));
    if (BRepAdaptor_Surface(face, false).GetType() != GeomAbs_Plane) continue;
    for (const BOPDS_IndexedMapOfPaveBlock* blocks : {&info.PaveBlocksOn(), &info.PaveBlocksIn(), &info.PaveBlocksSc()})
      for (int i = 1; i <= blocks->Extent(); ++i) {
        int edge = -1;
        if ((*blocks)(i)->HasEdge(edge) && found.IsNewShape(edge))
          BRepLib::BuildPCurveForEdgeOnPlane(TopoDS::Edge(found.Shape(edge)), face);
      }
  }
}

Intersection::Intersection(const std::vector<Shape>& arguments, const Attempt& attempt, Progress& progress)
    : arguments_(arguments) {
  TopTools_ListOfShape list;
  // Points taken as one widen edges by up to that distance at both ends.
  allowedEdgeTolerance_ = tolerance::looseEdge + 2 * attempt.fuzzy;
  for (const Shape& shape : arguments)
    allowedEdgeTolerance_ = std::max(allowedEdgeTolerance_, 1.01 * loosestEdge(shape.body().topology));
  for (const Shape& shape : arguments) {
    if (shape.kind() == BodyKind::Solid) {
      for (const TopoDS_Shape& solid : solidsOf(shape)) list.Append(solid);
    } else {
      list.Append(shape.body().topology);
    }
  }
  if (attempt.order == Attempt::Order::Reversed) list.Reverse();
  Handle(KernelProgress) indicator = new KernelProgress(progress);
  Message_ProgressScope scope(indicator->Start(), nullptr, 2);
  filler_.SetArguments(list);
  filler_.SetNonDestructive(true);
  filler_.SetRunParallel(true);
  if (attempt.fuzzy > 0) filler_.SetFuzzyValue(attempt.fuzzy);
  filler_.Perform(scope.Next());
  progress.throwIfStopped();
  if (filler_.HasErrors()) throw Unsound{say("the faces could not be intersected")};
  layOnPlanes(*filler_.PDS());
  builder_.SetArguments(list);
  builder_.SetRunParallel(true);
  // Parts are looked up directly, and solids of positive volume are known not to be inside out.
  builder_.SetToFillHistory(false);
  const bool allPositive = std::all_of(arguments.begin(), arguments.end(), [](const Shape& shape) {
    return shape.kind() != BodyKind::Solid || (shape.solidCount() == 1 && shape.volume() > 0);
  });
  builder_.SetCheckInverted(!allPositive);
  builder_.PerformWithFiller(filler_, scope.Next());
  progress.throwIfStopped();
  if (builder_.HasErrors()) throw Unsound{say("the regions could not be built")};
  TopTools_IndexedMapOfShape given;
  for (const TopoDS_Shape& shape : list) TopExp::MapShapes(shape, TopAbs_EDGE, given);
  refineLooseCurves(builder_.Shape(), given, allowedEdgeTolerance_);
}

std::vector<TopoDS_Shape> Intersection::parts(const BOPAlgo_Builder& builder, const TopoDS_Shape& original) {
  std::vector<TopoDS_Shape> result;
  const auto add = [&](const TopoDS_Shape& part) {
    const TopoDS_Shape* same = builder.ShapesSD().Seek(part);
    result.push_back(same ? *same : part);
  };
  if (const TopTools_ListOfShape* images = builder.Images().Seek(original))
    for (const TopoDS_Shape& part : *images) add(part);
  else
    add(original);
  return result;
}

FaceTable Intersection::faceTable() const {
  FaceTable table = faceTable(builder_, arguments_, false);
  for (auto& [face, facts] : table) facts.sound = facts.sound || builder_.isProven(face);
  return table;
}

FaceTable Intersection::faceTable(const BOPAlgo_Builder& builder, const std::vector<Shape>& arguments,
                                  bool mergeNames) {
  FaceTable table;
  for (const Shape& argument : arguments)
    for (const auto& [face, facts] : argument.body().faces)
      for (const TopoDS_Shape& part : parts(builder, face)) {
        const FaceFacts carried = part.IsSame(face) ? facts : FaceFacts{facts.origins, facts.color, false};
        const auto [place, isNew] = table.emplace(part, carried);
        if (!isNew && mergeNames) place->second.origins = merged(place->second.origins, facts.origins);
      }
  return table;
}

void measureAll(FaceTable& table, Progress& progress) {
  std::vector<FaceTable::value_type*> unknown;
  for (auto& entry : table)
    if (!entry.second.measured) unknown.push_back(&entry);
  forEachInParallel(unknown.size(), "measuring the faces", progress,
                    [&](std::size_t i) { measure(TopoDS::Face(unknown[i]->first), unknown[i]->second); });
}

void markGiven(FaceTable& table, const std::vector<Shape>& arguments, Progress& progress) {
  for (const Shape& argument : arguments) markChecked(argument.body(), table, progress);
}

bool balances(double whole, double sum, double area) {
  // The area term is the volume of a skin as thick as the kernel's own precision.
  return std::abs(whole - sum) <= tolerance::balance * std::abs(whole) + tolerance::point * area;
}

void requireBalance(double whole, double sum, double area, const std::string& of) {
  if (balances(whole, sum, area)) return;
  throw Unsound{say("the volumes of %1 do not balance (%2 mm³ before, %3 mm³ after)", say(of.c_str()),
                    formatNumber(whole), formatNumber(sum))};
}

std::vector<gp_Pnt> Sides::pointsOn(const TopoDS_Shape& part, int most) {
  TopTools_IndexedMapOfShape faces;
  TopExp::MapShapes(part, TopAbs_FACE, faces);
  std::vector<gp_Pnt> points;
  const int step = std::max(1, faces.Extent() / most), perFace = faces.IsEmpty() ? 0 : most / faces.Extent();
  for (int i = 1; i <= faces.Extent(); i += step) {
    const TopoDS_Face& face = TopoDS::Face(faces(i));
    if (const std::optional<gp_Pnt> point = pointOn(face)) points.push_back(*point);
    if (perFace > 1) spreadOver(face, perFace - 1, points);
  }
  return points;
}

/// Halton's sequence: the digits of `number` in that base, mirrored at the point. In (0, 1), evenly spread.
static double spread(int number, int base) {
  double result = 0, digit = 1;
  for (; number > 0; number /= base) result += (digit /= base) * (number % base);
  return result;
}

void Sides::spreadOver(const TopoDS_Face& face, int count, std::vector<gp_Pnt>& points) {
  double fromU = 0, toU = 0, fromV = 0, toV = 0;
  BRepTools::UVBounds(face, fromU, toU, fromV, toV);
  const BRepAdaptor_Surface surface(face, false);
  for (int tried = 1, found = 0; tried <= 4 * count && found < count; ++tried) {
    const gp_Pnt2d at(fromU + (toU - fromU) * spread(tried, 2), fromV + (toV - fromV) * spread(tried, 3));
    if (!isInFace(at, face)) continue;
    points.push_back(surface.Value(at.X(), at.Y()));
    ++found;
  }
}

bool Sides::anyInside(const std::vector<gp_Pnt>& points, const Shape& shape) {
  for (const gp_Pnt& point : points) {
    if (!shape.body().looseBox.contains(fromPnt(point))) continue;
    for (const TopoDS_Shape& solid : solidsOf(shape))
      if (stateOf(point, solid) == TopAbs_IN) return true;
  }
  return false;
}

TopAbs_State Sides::stateOf(const gp_Pnt& point, const TopoDS_Shape& solid) {
  BRepClass3d_SolidClassifier& classifier = context_->SolidClassifier(TopoDS::Solid(solid));
  classifier.Perform(point, tolerance::onBoundary);
  return classifier.State();
}

std::optional<gp_Pnt> Sides::pointOn(const TopoDS_Face& face) {
  gp_Pnt point;
  gp_Pnt2d parameters;
  if (BOPTools_AlgoTools3D::PointInFace(face, point, parameters, context_) != 0) return std::nullopt;
  return point;
}

bool Sides::isInFace(const gp_Pnt2d& point, const TopoDS_Face& face) {
  return context_->FClass2d(face).Perform(point) == TopAbs_IN;
}

void requireTightEdges(const std::vector<TopoDS_Shape>& parts, double allowedTolerance) {
  for (const TopoDS_Shape& part : parts)
    if (const double loosest = loosestEdge(part); loosest > allowedTolerance)
      throw Unsound{say("an intersection curve could be found to %1 mm only", formatNumber(loosest, 2)), true};
}

void requireSoundFaces(const std::vector<TopoDS_Shape>& parts, FaceTable& table, Progress& progress) {
  ShapeBody once;
  for (const TopoDS_Shape& part : parts)
    for (TopExp_Explorer it(part, TopAbs_FACE); it.More(); it.Next())
      once.faces.emplace(it.Current(), table.at(it.Current()));
  once.kind = BodyKind::Surface;  // faces only; that solids are closed is checked on the results
  const std::string fault = findFault(once, progress);
  if (!fault.empty()) throw Unsound{fault};
  for (const auto& [face, facts] : once.faces) table.at(face).sound = !facts.flawed;
}

Shape soundShape(const std::vector<TopoDS_Shape>& parts, const FaceTable& table, Progress& progress) {
  if (parts.empty()) return {};
  Shape shape = makeShape(compoundOf(parts), table, "face:");
  const std::string fault = findFault(shape.body(), progress);
  if (!fault.empty()) throw Unsound{fault};
  return shape;
}

}  // namespace kervo
