#include "geom/divide/divided_near.h"

#include <BOPTools_AlgoTools.hxx>

#include "base/say.h"
#include "geom/kernel/skeleton.h"

namespace kervo {

namespace {

/// Smaller bodies are intersected as fast as they are taken apart.
constexpr int fewFaces = 20;

/// A boundary as a sum of oriented faces: what is on it in both directions is not on it at all.
class BoundarySum {
 public:
  void add(const TopoDS_Shape& face) { count(face, 1); }
  void subtract(const TopoDS_Shape& face) { count(face, -1); }

  std::vector<TopoDS_Shape> faces() const {
    std::vector<TopoDS_Shape> result;
    for (const TopoDS_Shape& face : order_) {
      const int times = times_.at(face);
      if (std::abs(times) > 1) throw Unsound{say("a face bounds a part twice")};
      if (times != 0) result.push_back(face.Oriented(times > 0 ? TopAbs_FORWARD : TopAbs_REVERSED));
    }
    return result;
  }

 private:
  void count(const TopoDS_Shape& face, int sign) {
    if (face.Orientation() != TopAbs_FORWARD && face.Orientation() != TopAbs_REVERSED)
      throw Unsound{say("a face lies inside a part")};
    const auto [place, isNew] = times_.emplace(face, 0);
    if (isNew) order_.push_back(face);
    place->second += face.Orientation() == TopAbs_FORWARD ? sign : -sign;
  }

  ShapeMap<int> times_;
  std::vector<TopoDS_Shape> order_;
};

class NearDivision {
 public:
  NearDivision(const Shape& stock, const std::vector<Shape>& cutters) : stock_(stock), cutters_(cutters) {
    for (const TopoDS_Face& face : skeletonOf(stock).faces) (isNear(face) ? near_ : far_).push_back(face);
  }

  /// Also where all faces are near: the kernel need not sort them into solids then.
  bool worthwhile() const { return !near_.empty(); }

  DividedParts parts(const Attempt& attempt, Progress& progress) {
    FaceTable nearTable;
    for (const TopoDS_Shape& face : near_) nearTable.emplace(face, factsOf(stock_, face));
    std::vector<Shape> arguments{makeShape(compoundOf(near_), std::move(nearTable), "face:")};
    arguments.insert(arguments.end(), cutters_.begin(), cutters_.end());
    const Intersection intersection(arguments, attempt, progress);

    DividedParts result;
    result.table = intersection.faceTable();
    for (const TopoDS_Shape& face : far_) result.table.emplace(face, factsOf(stock_, face));
    measureAll(result.table, progress);
    result.allowedEdgeTolerance =
        std::max(intersection.allowedEdgeTolerance(), 1.01 * loosestEdge(stock_.body().topology));

    for (const TopoDS_Shape& face : far_) rest_.add(face);
    for (const TopoDS_Shape& face : near_)
      for (const TopoDS_Shape& part : intersection.parts(face)) {
        const TopoDS_Shape oriented = alike(TopoDS::Face(part), TopoDS::Face(face));
        stockSide_.emplace(oriented, oriented.Orientation());
        rest_.add(oriented);
      }
    sortCutters(intersection, result, progress);
    result.outside = solidsBoundedBy(rest_.faces(), result.table);
    return result;
  }

 private:
  bool isNear(const TopoDS_Face& face) const {
    const Box& box = factsOf(stock_, face).box;
    return std::any_of(cutters_.begin(), cutters_.end(),
                       [&](const Shape& cutter) { return cutter.body().looseBox.overlaps(box); });
  }

  /// The part of the face, with its outer side where the face has it.
  TopoDS_Shape alike(const TopoDS_Face& part, const TopoDS_Face& face) {
    if (part.IsSame(face)) return face;
    int error = 0;
    const TopoDS_Face forward = TopoDS::Face(part.Oriented(TopAbs_FORWARD));
    const bool reverse = BOPTools_AlgoTools::IsSplitToReverse(forward, face, context_, &error);
    if (error != 0) throw Unsound{say("a part of a face has no clear outer side")};
    return forward.Oriented(reverse ? TopAbs_REVERSED : TopAbs_FORWARD);
  }

  /// The kernel divided the cutters by all that is near: what of them lies in the stock is taken from it.
  void sortCutters(const Intersection& intersection, DividedParts& result, Progress& progress) {
    ShapeMap<bool> seen;
    for (const Shape& cutter : cutters_) {
      progress.throwIfStopped();
      double sum = 0;
      for (const TopoDS_Shape& solid : solidsOf(cutter))
        for (const TopoDS_Shape& part : intersection.parts(solid)) {
          sum += volumeOf(part, result.table);
          if (!seen.emplace(part, true).second) continue;
          if (!isInStock(part)) {
            result.cutterRest.push_back(part);
            continue;
          }
          result.inside.push_back(part);
          for (TopExp_Explorer it(part, TopAbs_FACE); it.More(); it.Next()) rest_.subtract(it.Current());
        }
      requireBalance(cutter.volume(), sum, cutter.area(), "a cutter");
    }
  }

  /// A part that has a piece of the stock's boundary lies on the stock's side of it or on the other.
  bool isInStock(const TopoDS_Shape& part) {
    bool within = false, beyond = false;
    for (TopExp_Explorer it(part, TopAbs_FACE); it.More(); it.Next())
      if (const auto side = stockSide_.find(it.Current()); side != stockSide_.end())
        (side->second == it.Current().Orientation() ? within : beyond) = true;
    if (within && beyond) throw Unsound{say("a part lies on both sides of the stock's boundary")};
    if (within || beyond) return within;
    const std::vector<gp_Pnt> points = sides_.pointsOn(part, 1);
    const TopAbs_State state =
        points.empty() ? TopAbs_UNKNOWN : sides_.stateOf(points.front(), solidsOf(stock_).front());
    if (state != TopAbs_IN && state != TopAbs_OUT) throw Unsound{say("a part of a cutter has no clear place")};
    return state == TopAbs_IN;
  }

  const Shape& stock_;
  const std::vector<Shape>& cutters_;
  std::vector<TopoDS_Shape> near_, far_;
  BoundarySum rest_;
  ShapeMap<TopAbs_Orientation> stockSide_;
  Handle(IntTools_Context) context_ = new IntTools_Context;
  Sides sides_;
};

}  // namespace

std::optional<DividedParts> dividedNear(const Shape& stock, const std::vector<Shape>& cutters, const Attempt& attempt,
                                        Progress& progress) {
  if (stock.faceCount() < fewFaces || stock.solidCount() != 1) return std::nullopt;
  NearDivision division(stock, cutters);
  if (!division.worthwhile()) return std::nullopt;
  return division.parts(attempt, progress);
}

}  // namespace kervo
