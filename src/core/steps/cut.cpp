// Regions of a drawing swept through stock and taken away.
#include <algorithm>

#include "base/say.h"
#include "geom/display/outline.h"
#include "geom/divide/perforate.h"
#include "geom/planes.h"
#include "steps/registry.h"
#include "steps/shared/alike_bodies.h"
#include "steps/shared/cut_reach.h"
#include "steps/shared/cut_stock.h"

namespace kervo {

namespace {

/// At least so many faces: both ends, and a side for each outline.
double faceCountOf(const std::vector<SweptRegion>& cutters) {
  double count = 0;
  for (const SweptRegion& cutter : cutters) count += 3 + cutter.region.islandCount();
  return count;
}

class Cut : public StepKind {
 public:
  Cut()
      : StepKind({.key = "cut",
                  .label = "Cut",
                  .menu = KindMenu::Cut,
                  .shortcut = "Ctrl+Shift+X",
                  .help = "With the regions of a drawing",
                  .takesMeshes = true,
                  .drawFirst = DrawFirst{.key = "cut-through",
                                         .label = "Draw and cut",
                                         .offered = "Cut through it",
                                         .shortcut = "Ctrl+Shift+C",
                                         .help = "Draw on the selected face or plane, then cut through it"}}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    start.set(reach_.profiles, RegionPick{selected.drawing});
    if (const auto bodies = selected.wholeBodies(); !bodies.empty()) start.set(stock_, BodyPick::only(bodies));
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    const bool drawn = selected.anyOf(Picked::What::Drawing) || (selected.nothing() && !selected.drawing.empty());
    return selected.anyBody && drawn ? std::optional(say("Cut with %1", selected.drawingName)) : std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    const Stock stock = stockOf(inputs, stock_);
    Box around;
    for (const BodyId& body : stock.bodies) around.add(inputs.box(body));
    const std::vector<SweptRegion> cutters = reach_.swept(inputs, stock.bodies, around, progress);

    Box reach;
    for (const SweptRegion& cutter : cutters) reach.add(boxOf(cutter));
    StepResult result;
    show(result, inputs, cutters, reach, around);
    requireFeasible(inputs, stock.bodies, faceCountOf(cutters));
    const bool met = cutStock(
        result, inputs, stock, reach, [&](const Shape& shape) { return cutSwept(shape, cutters, progress); }, progress);
    if (!met) {
      inputs.finding().cutterOutline = result.cutterOutline;
      inputs.finding().gauges = result.gauges;
      throw Error(say("the cut meets none of the stock"), "reach",
                  say("Reverse its direction, give it more depth, or check where the profile lies"));
    }
    settlePieces(result, inputs, pieces_.in(inputs));
    alike_.carry(result, inputs, {}, progress);
    return result;
  }

 private:
  /// The swept outlines where they begin and end (as far as the stock reaches), and gauges for the depths.
  void show(StepResult& result, StepInputs& inputs, const std::vector<SweptRegion>& cutters, const Box& reach,
            const Box& around) const {
    for (const SweptRegion& cutter : cutters) {
      const Vector normal = normalOf(cutter.region);
      const double base = dot(middleOf(cutter.region), normal), margin = 0.06 * around.diagonal();
      const auto [nearest, farthest] = spanAlong(around, {}, normal);
      auto [low, high] = cutter.straight ? Span{cutter.from + base, cutter.to + base}
                                         : spanAlong(cutter.cutter.roughBox(), {}, normal);
      low = std::max(low, nearest - margin) - base, high = std::min(high, farthest + margin) - base;
      for (const Polyline& loop : outlinesOf(cutter.region)) {
        for (const double at : {low, high}) {
          Polyline moved = loop;
          for (Point& point : moved) point = point + normal * at;
          result.cutterOutline.push_back(std::move(moved));
        }
        for (std::size_t quarter = 0; quarter < 4; ++quarter) {
          const Point point = loop[quarter * (loop.size() - 1) / 4];
          result.cutterOutline.push_back({point + normal * low, point + normal * high});
        }
      }
    }
    if (cutters.empty() || reach.empty()) return;
    const Region& first = cutters.front().region;
    const CutReach::Way way = reach_.way.of(inputs);
    const CutReach::From from = reach_.from.of(inputs);
    const bool twoDepths = way == CutReach::Way::TwoDepths, both = twoDepths || way == CutReach::Way::Both;
    const Vector along = way == CutReach::Way::Out ? normalOf(first) : -normalOf(first);
    const double offset = reach_.fromOffset.of(inputs);
    if (from == CutReach::From::Offset)
      result.gauges.push_back({reach_.fromOffset.key(), middleOf(first), along, offset});
    if (reach_.to.of(inputs) == CutReach::To::Distance && from != CutReach::From::Face)
      result.gauges.push_back(
          {reach_.depth.key(), middleOf(first) + along * (both ? 0 : offset), along, reach_.depth.of(inputs)});
    if (twoDepths)
      result.gauges.push_back({reach_.outDepth.key(), middleOf(first), normalOf(first), reach_.outDepth.of(inputs)});
  }

  /// A box around a swept region without making its solid.
  static Box boxOf(const SweptRegion& cutter) { return cutter.straight ? sweptBox(cutter) : cutter.cutter.roughBox(); }

  const BodiesField stock_{*this, {.key = "stock", .label = "Stock", .well = Well::Stock}, BodyPick::everything()};
  const AlikeField alike_{*this};
  const CutReach reach_{*this};
  const PiecesField pieces_{*this};
};

}  // namespace

const StepKind& cutStep() {
  static const Cut kind;
  return kind;
}

}  // namespace kervo
