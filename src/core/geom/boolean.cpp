// How a result is checked, and why each check is there:
// - solids and faces valid, closed: the kernel sometimes says "done" for a body that is neither;
// - volumes in balance, for the stock and for every cutter: a lost or doubled region shows here;
// - points on the faces of what lies outside must not lie inside a cutter, nor points on the rest of a cutter inside
//   the stock: an intersection that the kernel misses altogether (a torus against a tangent cylinder) balances, and
//   shows only here.
#include "geom/boolean.h"

#include <BOPAlgo_BOP.hxx>
#include <BOPAlgo_PaveFiller.hxx>
#include <BOPTools_AlgoTools.hxx>
#include <BOPTools_AlgoTools3D.hxx>
#include <BRepClass3d_SolidClassifier.hxx>
#include <BRepTools_History.hxx>
#include <IntTools_Context.hxx>
#include <ShapeUpgrade_UnifySameDomain.hxx>
#include <functional>
#include <set>

#include "base/quantity.h"
#include "geom/kernel/parallel.h"
#include "geom/soundness.h"

namespace kervo {

namespace {

struct Attempt {
  double fuzzy;
  double move;
  std::string remedy() const {
    if (fuzzy > 0) return "took points closer than " + std::to_string(fuzzy).substr(0, 5) + " mm as one";
    if (move > 0) {
      char text[60];
      std::snprintf(text, sizeof text, "moved the cutter by %.1e mm", move);
      return text;
    }
    return {};
  }
};

constexpr Attempt attempts[] = {
    {0, 0}, {tolerance::fuzzy, 0}, {0, tolerance::smallMove}, {0, tolerance::largerMove}};

/// What an attempt found wrong; never leaves this file.
struct Unsound {
  std::string reason;
};

/// The shape moved by a vector of this length in a direction parallel to nothing in particular.
Shape nudged(const Shape& shape, double by) {
  if (by == 0) return shape;
  gp_Trsf move;
  move.SetTranslation(gp_Vec(0.7715, -0.4153, 0.4817) * by);
  const TopLoc_Location location(move);
  FaceTable faces;
  for (const auto& [face, facts] : shape.body().faces) {
    FaceFacts moved{facts.origins, facts.color, 0, 0, {}, false, facts.sound};
    faces.emplace(face.Moved(location), std::move(moved));
  }
  return makeShape(shape.body().topology.Moved(location), std::move(faces), "face:");
}

std::vector<TopoDS_Shape> solidsOf(const Shape& shape) {
  std::vector<TopoDS_Shape> solids;
  for (TopExp_Explorer it(shape.body().topology, TopAbs_SOLID); it.More(); it.Next()) solids.push_back(it.Current());
  return solids;
}

double volumeOf(const TopoDS_Shape& solid, const FaceTable& faces) {
  double volume = 0;
  for (TopExp_Explorer it(solid, TopAbs_FACE); it.More(); it.Next()) {
    const double flux = faces.at(it.Current()).flux;
    if (it.Current().Orientation() == TopAbs_FORWARD) volume += flux;
    if (it.Current().Orientation() == TopAbs_REVERSED) volume -= flux;
  }
  return volume;
}

TopoDS_Compound compoundOf(const std::vector<TopoDS_Shape>& shapes) {
  TopoDS_Compound compound;
  BRep_Builder builder;
  builder.MakeCompound(compound);
  for (const TopoDS_Shape& shape : shapes) builder.Add(compound, shape);
  return compound;
}

/// All arguments intersected with each other once; parts are looked up in it.
class Intersection {
 public:
  Intersection(const std::vector<Shape>& arguments, double fuzzy, Progress& progress) : arguments_(arguments) {
    TopTools_ListOfShape list;
    for (const Shape& shape : arguments) {
      if (shape.kind() == BodyKind::Solid) {
        for (const TopoDS_Shape& solid : solidsOf(shape)) list.Append(solid);
      } else {
        list.Append(shape.body().topology);
      }
    }
    Handle(KernelProgress) indicator = new KernelProgress(progress);
    Message_ProgressScope scope(indicator->Start(), nullptr, 2);
    filler_.SetArguments(list);
    filler_.SetNonDestructive(true);
    filler_.SetRunParallel(true);
    if (fuzzy > 0) filler_.SetFuzzyValue(fuzzy);
    filler_.Perform(scope.Next());
    progress.throwIfStopped();
    if (filler_.HasErrors()) throw Unsound{"the faces could not be intersected"};
    builder_.SetArguments(list);
    builder_.SetRunParallel(true);
    builder_.PerformWithFiller(filler_, scope.Next());
    progress.throwIfStopped();
    if (builder_.HasErrors()) throw Unsound{"the regions could not be built"};
  }

  const BOPAlgo_PaveFiller& filler() const { return filler_; }

  /// The parts that a solid or face was divided into; itself if it was not.
  std::vector<TopoDS_Shape> parts(const TopoDS_Shape& original) const { return parts(builder_, original); }

  static std::vector<TopoDS_Shape> parts(const BOPAlgo_Builder& builder, const TopoDS_Shape& original) {
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

  /// Every part of every argument's faces with its origins. Where faces coincide, the first argument's name stands.
  FaceTable faceTable() const { return faceTable(builder_, arguments_, false); }

  static FaceTable faceTable(const BOPAlgo_Builder& builder, const std::vector<Shape>& arguments, bool mergeNames) {
    FaceTable table;
    for (const Shape& argument : arguments)
      for (const auto& [face, facts] : argument.body().faces)
        for (const TopoDS_Shape& part : parts(builder, face)) {
          const FaceFacts carried =
              part.IsSame(face) ? facts : FaceFacts{facts.origins, facts.color, 0, 0, {}, false, false};
          const auto [place, isNew] = table.emplace(part, carried);
          if (!isNew && mergeNames) place->second.origins = merged(place->second.origins, facts.origins);
        }
    return table;
  }

 private:
  const std::vector<Shape>& arguments_;
  BOPAlgo_PaveFiller filler_;
  BOPAlgo_Builder builder_;
};

void measureAll(FaceTable& table, Progress& progress) {
  std::vector<FaceTable::value_type*> unknown;
  for (auto& entry : table)
    if (!entry.second.measured) unknown.push_back(&entry);
  forEachInParallel(unknown.size(), "measuring the faces", progress,
                    [&](std::size_t i) { measure(TopoDS::Face(unknown[i]->first), unknown[i]->second); });
}

void requireBalance(double whole, double sum, double area, double allowed, const std::string& of) {
  // The area term is the volume of a skin as thick as the kernel's own precision.
  if (std::abs(whole - sum) <= allowed * std::abs(whole) + tolerance::point * area) return;
  throw Unsound{"the volumes of " + of + " do not balance (" + formatNumber(whole) + " mm³ before, " + formatNumber(sum) +
                " mm³ after)"};
}

/// Classifies points against solids; the kernel's classifiers are kept for the next point.
class Sides {
 public:
  Sides() : context_(new IntTools_Context) {}

  /// Points on up to `most` faces of a part.
  std::vector<gp_Pnt> pointsOn(const TopoDS_Shape& part, int most) {
    TopTools_IndexedMapOfShape faces;
    TopExp::MapShapes(part, TopAbs_FACE, faces);
    std::vector<gp_Pnt> points;
    const int step = std::max(1, faces.Extent() / most);
    for (int i = 1; i <= faces.Extent(); i += step)
      if (const std::optional<gp_Pnt> point = pointOn(TopoDS::Face(faces(i)))) points.push_back(*point);
    return points;
  }

  /// True if one of the points lies inside a solid of the shape, clear of its boundary.
  bool anyInside(const std::vector<gp_Pnt>& points, const Shape& shape) {
    for (const gp_Pnt& point : points) {
      if (!shape.body().looseBox.contains(fromPnt(point))) continue;
      for (const TopoDS_Shape& solid : solidsOf(shape))
        if (stateOf(point, solid) == TopAbs_IN) return true;
    }
    return false;
  }

  TopAbs_State stateOf(const gp_Pnt& point, const TopoDS_Shape& solid) {
    BRepClass3d_SolidClassifier& classifier = context_->SolidClassifier(TopoDS::Solid(solid));
    classifier.Perform(point, classificationTolerance);
    return classifier.State();
  }

  std::optional<gp_Pnt> pointOn(const TopoDS_Face& face) {
    gp_Pnt point;
    gp_Pnt2d parameters;
    if (BOPTools_AlgoTools3D::PointInFace(face, point, parameters, context_) != 0) return std::nullopt;
    return point;
  }

 private:
  // Nearer points count as on the boundary and say nothing.
  static constexpr double classificationTolerance = 1e-5;
  Handle(IntTools_Context) context_;
};

constexpr int facesAskedPerPart = 8;

/// What lies outside must not reach into a cutter, the rest of a cutter not into the stock.
void requireSides(const std::vector<TopoDS_Shape>& outside, const std::vector<Shape>& cutters, const Shape& stock,
                  const std::vector<TopoDS_Shape>& cutterRest, bool nothingDivided, Progress& progress) {
  Sides sides;
  const int asked = nothingDivided ? 64 : facesAskedPerPart;
  const std::string reason = "a part was put on the wrong side of the cut";
  for (const TopoDS_Shape& part : outside) {
    const std::vector<gp_Pnt> points = sides.pointsOn(part, asked);
    for (const Shape& cutter : cutters) {
      progress.throwIfStopped();
      if (sides.anyInside(points, cutter)) throw Unsound{reason};
    }
  }
  for (const TopoDS_Shape& part : cutterRest) {
    progress.throwIfStopped();
    if (sides.anyInside(sides.pointsOn(part, asked), stock)) throw Unsound{reason};
  }
}

/// Checks the faces of `parts` and marks them in the table, so that both sides of a cut check each face once.
void requireSoundFaces(const std::vector<TopoDS_Shape>& parts, FaceTable& table, Progress& progress) {
  ShapeBody once;
  for (const TopoDS_Shape& part : parts)
    for (TopExp_Explorer it(part, TopAbs_FACE); it.More(); it.Next())
      once.faces.emplace(it.Current(), table.at(it.Current()));
  once.kind = BodyKind::Surface;  // faces only; that solids are closed is checked on the results
  const std::string fault = findFault(once, progress);
  if (!fault.empty()) throw Unsound{fault};
  for (const auto& [face, facts] : once.faces) table.at(face).sound = true;
}

Shape soundShape(const std::vector<TopoDS_Shape>& parts, const FaceTable& table, Progress& progress) {
  if (parts.empty()) return {};
  Shape shape = makeShape(compoundOf(parts), table, "face:");
  const std::string fault = findFault(shape.body(), progress);
  if (!fault.empty()) throw Unsound{fault};
  return shape;
}

Division divideSolid(const Shape& stock, const std::vector<Shape>& cutters, const Attempt& attempt,
                     Progress& progress) {
  std::vector<Shape> arguments{stock};
  arguments.insert(arguments.end(), cutters.begin(), cutters.end());
  const Intersection intersection(arguments, attempt.fuzzy, progress);
  FaceTable table = intersection.faceTable();
  measureAll(table, progress);

  const double allowed = attempt.fuzzy > 0 ? tolerance::balance * 10 : tolerance::balance;
  std::vector<TopoDS_Shape> outside, inside, cutterRest;
  ShapeMap<bool> inCutter, inStock;
  for (const TopoDS_Shape& solid : solidsOf(stock))
    for (const TopoDS_Shape& part : intersection.parts(solid)) inStock[part] = true;
  for (const Shape& cutter : cutters) {
    double sum = 0;
    for (const TopoDS_Shape& solid : solidsOf(cutter))
      for (const TopoDS_Shape& part : intersection.parts(solid)) {
        sum += volumeOf(part, table);
        if (inCutter.emplace(part, true).second && !inStock.contains(part)) cutterRest.push_back(part);
      }
    requireBalance(cutter.volume(), sum, cutter.area(), allowed, "a cutter");
  }
  Balance balance{stock.volume(), 0, 0};
  for (const TopoDS_Shape& solid : solidsOf(stock))
    for (const TopoDS_Shape& part : intersection.parts(solid)) {
      const bool cut = inCutter.contains(part);
      (cut ? inside : outside).push_back(part);
      (cut ? balance.inside : balance.outside) += volumeOf(part, table);
    }
  requireBalance(balance.before, balance.outside + balance.inside, stock.area(), allowed, "the stock");
  requireSides(outside, cutters, stock, cutterRest, inside.empty(), progress);
  if (inside.empty()) return {stock, {}, {stock.volume(), stock.volume(), 0}, attempt.remedy()};

  std::vector<TopoDS_Shape> both = outside;
  both.insert(both.end(), inside.begin(), inside.end());
  requireSoundFaces(both, table, progress);
  return {soundShape(outside, table, progress), soundShape(inside, table, progress), balance, attempt.remedy()};
}

/// Faces that hang together by edges, as shells.
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

Division divideSurface(const Shape& stock, const std::vector<Shape>& cutters, const Attempt& attempt,
                       Progress& progress) {
  std::vector<Shape> arguments{stock};
  arguments.insert(arguments.end(), cutters.begin(), cutters.end());
  const Intersection intersection(arguments, attempt.fuzzy, progress);
  FaceTable table = intersection.faceTable();
  measureAll(table, progress);

  Sides sides;
  std::vector<TopoDS_Shape> outside, inside;
  Balance balance{stock.area(), 0, 0};
  for (TopExp_Explorer it(stock.body().topology, TopAbs_FACE); it.More(); it.Next()) {
    progress.throwIfStopped();
    for (const TopoDS_Shape& part : intersection.parts(it.Current())) {
      const std::optional<gp_Pnt> point = sides.pointOn(TopoDS::Face(part));
      if (!point) throw Unsound{"a part of a face has no inside"};
      bool cut = false;
      for (const Shape& cutter : cutters)
        if (cutter.body().looseBox.contains(fromPnt(*point)))
          for (const TopoDS_Shape& solid : solidsOf(cutter)) cut |= sides.stateOf(*point, solid) == TopAbs_IN;
      const TopoDS_Shape oriented = part.Oriented(it.Current().Orientation());
      (cut ? inside : outside).push_back(oriented);
      (cut ? balance.inside : balance.outside) += table.at(part).area;
    }
  }
  if (std::abs(balance.residual()) > tolerance::balance * 10 * balance.before)
    throw Unsound{"the areas of the surface do not balance"};
  if (inside.empty()) return {stock, {}, {stock.area(), stock.area(), 0}, attempt.remedy()};
  std::vector<TopoDS_Shape> both = outside;
  both.insert(both.end(), inside.begin(), inside.end());
  requireSoundFaces(both, table, progress);
  const auto surface = [&](const std::vector<TopoDS_Shape>& faces) {
    return faces.empty() ? Shape() : makeShape(compoundOf(shellsOf(faces)), table, "face:");
  };
  return {surface(outside), surface(inside), balance, attempt.remedy()};
}

/// Runs `work` with one attempt after another until one passes.
template <class Work>
auto firstSound(const std::string& verb, Progress& progress, Work&& work) {
  std::string firstReason;
  for (const Attempt& attempt : attempts) {
    try {
      return kernelCall(verb, [&] { return work(attempt); });
    } catch (const Unsound& unsound) {
      progress.throwIfStopped();
      if (firstReason.empty()) firstReason = unsound.reason;
    } catch (const Stopped&) {
      throw;
    } catch (const Error& error) {
      progress.throwIfStopped();
      if (firstReason.empty()) firstReason = error.happened();
    }
  }
  throw Error(verb + " gives no sound result: " + firstReason, "",
              "The bodies probably touch along a curve or nearly coincide there. Move or resize one of them a little");
}

}  // namespace

Division divide(const Shape& stock, const std::vector<Shape>& cutters, Progress& progress) {
  progress.throwIfStopped();
  if (stock.empty()) return {};
  const bool solid = stock.kind() == BodyKind::Solid;
  if (stock.kind() == BodyKind::Curve)
    throw Error("a curve cannot be cut by a body", "", "Choose a solid or a surface as stock");
  std::vector<Shape> near;
  for (const Shape& cutter : cutters) {
    if (cutter.empty()) continue;
    if (cutter.kind() != BodyKind::Solid)
      throw Error(std::string("the cutter is a ") + nameOf(cutter.kind()) + ", which has no inside", "",
                  "Choose a solid as cutter");
    if (cutter.body().looseBox.overlaps(stock.body().looseBox)) near.push_back(cutter);
  }
  const double measure = solid ? stock.volume() : stock.area();
  if (near.empty()) return {stock, {}, {measure, measure, 0}, {}};
  return firstSound("the cut", progress, [&](const Attempt& attempt) {
    std::vector<Shape> moved;
    for (const Shape& cutter : near) moved.push_back(nudged(cutter, attempt.move));
    return solid ? divideSolid(stock, moved, attempt, progress) : divideSurface(stock, moved, attempt, progress);
  });
}

std::vector<Shape> splitBySurfaces(const Shape& solid, const std::vector<Shape>& surfaces, Progress& progress) {
  return firstSound("the split", progress, [&](const Attempt& attempt) {
    std::vector<Shape> arguments{solid};
    for (const Shape& surface : surfaces) arguments.push_back(nudged(surface, attempt.move));
    const Intersection intersection(arguments, attempt.fuzzy, progress);
    FaceTable table = intersection.faceTable();
    measureAll(table, progress);
    std::vector<TopoDS_Shape> parts;
    double sum = 0;
    for (const TopoDS_Shape& whole : solidsOf(solid))
      for (const TopoDS_Shape& part : intersection.parts(whole)) {
        parts.push_back(part);
        sum += volumeOf(part, table);
      }
    const double allowed = attempt.fuzzy > 0 ? tolerance::balance * 10 : tolerance::balance;
    requireBalance(solid.volume(), sum, solid.area(), allowed, "the body");
    requireSoundFaces(parts, table, progress);
    std::vector<Shape> result;
    for (const TopoDS_Shape& part : parts) result.push_back(soundShape({part}, table, progress));
    return result;
  });
}

namespace {

/// Merges faces of one surface, and edges of one curve if asked. Throws what the kernel throws: it fails on some tori.
Shape withMergedFaces(const TopoDS_Shape& united, const FaceTable& table, bool edgesToo, Progress& progress) {
  return kernelCall("removing seams", [&] {
    ShapeUpgrade_UnifySameDomain unify(united, edgesToo, true, false);
    unify.Build();
    progress.throwIfStopped();
    FaceTable merging;
    for (const auto& [face, facts] : table) {
      std::vector<TopoDS_Shape> images;
      for (const TopoDS_Shape& image : unify.History()->Modified(face)) images.push_back(image);
      if (images.empty() && !unify.History()->IsRemoved(face)) images.push_back(face);
      for (const TopoDS_Shape& image : images) {
        const FaceFacts carried =
            image.IsSame(face) ? facts : FaceFacts{facts.origins, facts.color, 0, 0, {}, false, false};
        const auto [place, isNew] = merging.emplace(image, carried);
        if (!isNew) place->second.origins = merged(place->second.origins, facts.origins);
      }
    }
    return makeShape(unify.Shape(), std::move(merging), "face:");
  });
}

/// Without the seams between faces of one surface, as far as that leaves the body sound and its volume the same.
Shape withoutSeams(const TopoDS_Shape& united, const FaceTable& table, double volume, Progress& progress) {
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

Shape uniteOnce(const std::vector<Shape>& solids, const Attempt& attempt, Progress& progress) {
  std::vector<Shape> arguments{solids.front()};
  for (std::size_t i = 1; i < solids.size(); ++i) arguments.push_back(nudged(solids[i], attempt.move));
  const Intersection intersection(arguments, attempt.fuzzy, progress);
  FaceTable regions = intersection.faceTable();
  measureAll(regions, progress);
  const double allowed = attempt.fuzzy > 0 ? tolerance::balance * 10 : tolerance::balance;

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
    requireBalance(argument.volume(), sum, argument.area(), allowed, "a body");
  }
  Sides sides;
  std::vector<ShapeMap<bool>> own(arguments.size());
  for (std::size_t i = 0; i < arguments.size(); ++i)
    for (const TopoDS_Shape& part : partsOfArgument[i]) own[i][part] = true;
  for (std::size_t i = 0; i < arguments.size(); ++i)
    for (const TopoDS_Shape& part : partsOfArgument[i]) {
      const std::vector<gp_Pnt> points = sides.pointsOn(part, facesAskedPerPart);
      for (std::size_t j = 0; j < arguments.size(); ++j) {
        progress.throwIfStopped();
        if (i != j && !own[j].contains(part) && sides.anyInside(points, arguments[j]))
          throw Unsound{"two bodies that overlap were not joined"};
      }
    }

  BOPAlgo_BOP fuse;
  fuse.SetOperation(BOPAlgo_FUSE);
  for (const TopoDS_Shape& solid : solidsOf(arguments.front())) fuse.AddArgument(solid);
  for (std::size_t i = 1; i < arguments.size(); ++i)
    for (const TopoDS_Shape& solid : solidsOf(arguments[i])) fuse.AddTool(solid);
  fuse.PerformWithFiller(intersection.filler());
  progress.throwIfStopped();
  if (fuse.HasErrors()) throw Unsound{"the union could not be built"};
  FaceTable table = Intersection::faceTable(fuse, arguments, true);
  const Shape united = withoutSeams(fuse.Shape(), table, total, progress);
  requireBalance(total, united.volume(), united.area(), allowed, "the union");
  const std::string fault = findFault(united.body(), progress);
  if (!fault.empty()) throw Unsound{fault};
  return united;
}

void requireSolids(const std::vector<Shape>& solids, const char* verb) {
  for (const Shape& solid : solids)
    if (solid.kind() != BodyKind::Solid)
      throw Error(std::string("a ") + nameOf(solid.kind()) + " cannot take part in " + verb, "",
                  "Choose solids, or make the surface a solid first");
}

}  // namespace

Shape unite(const std::vector<Shape>& solids, Progress& progress) {
  std::vector<Shape> present;
  for (const Shape& solid : solids)
    if (!solid.empty()) present.push_back(solid);
  requireSolids(present, "a union");
  if (present.empty()) return {};
  if (present.size() == 1) return present.front();
  return firstSound("the union", progress,
                    [&](const Attempt& attempt) { return uniteOnce(present, attempt, progress); });
}

Shape intersect(const std::vector<Shape>& solids, Progress& progress) {
  requireSolids(solids, "an intersection");
  if (solids.empty()) return {};
  Shape common = solids.front();
  for (std::size_t i = 1; i < solids.size() && !common.empty(); ++i)
    common = divide(common, {solids[i]}, progress).inside;
  return common;
}

}  // namespace kervo
