#include "steps/cut.h"

#include <algorithm>

#include "geom/perforate.h"
#include "geom/sweep.h"
#include "steps/divided_bodies.h"
#include "steps/simple_step.h"

namespace kervo {

namespace {

std::vector<Region> chosenRegions(const RegionPick& pick, const DrawingResult& drawing) {
  if (drawing.regions.empty())
    throw Error("the drawing encloses no region", "field Profiles", "Close its curves, or draw a circle or rectangle");
  if (pick.all) return joined(drawing.regions);
  std::vector<Region> chosen;
  for (const std::string& name : pick.regions) {
    const auto found = std::find_if(drawing.regions.begin(), drawing.regions.end(),
                                    [&](const Region& region) { return region.name() == name; });
    if (found == drawing.regions.end()) {
      std::string present;
      for (std::size_t i = 0; i < drawing.regions.size() && i < 8; ++i)
        present += (i ? ", " : "") + drawing.regions[i].name();
      throw Error("the drawing has no region \"" + name + "\" any more", "field Profiles",
                  "Pick the regions again; there are: " + present);
    }
    chosen.push_back(*found);
  }
  if (chosen.empty()) throw Error("no region is chosen", "field Profiles", "Pick at least one");
  return joined(chosen);
}

class Cut : public SimpleStep {
 public:
  Cut()
      : SimpleStep(
            "cut", "Cut",
            {{.key = "stock", .label = "Stock", .type = FieldType::Bodies, .well = Well::Stock, .defaultText = "all"},
             {.key = "profiles", .label = "Profiles", .type = FieldType::Regions, .well = Well::Cutter},
             {.key = "way",
              .label = "Way",
              .type = FieldType::Choice,
              .well = Well::Reach,
              .defaultText = "into",
              .choices = {"into", "out", "both"},
              .help = "into: against the drawing plane's normal, into the body whose face was drawn on"},
             {.key = "from",
              .label = "From",
              .type = FieldType::Choice,
              .well = Well::Reach,
              .defaultText = "profile",
              .choices = {"profile", "offset", "face"}},
             {.key = "from_offset",
              .label = "Start offset",
              .type = FieldType::Length,
              .well = Well::Reach,
              .defaultText = "0 mm",
              .help = "Along the way of the cut",
              .whenField = "from",
              .whenValues = {"offset"}},
             {.key = "from_face",
              .label = "Start face",
              .type = FieldType::Face,
              .well = Well::Reach,
              .whenField = "from",
              .whenValues = {"face"}},
             {.key = "to",
              .label = "To",
              .type = FieldType::Choice,
              .well = Well::Reach,
              .defaultText = "through",
              .choices = {"distance", "through", "face"}},
             {.key = "depth",
              .label = "Depth",
              .type = FieldType::Length,
              .well = Well::Reach,
              .defaultText = "10 mm",
              .rule = NumberRule::Positive,
              .whenField = "to",
              .whenValues = {"distance"}},
             {.key = "to_face",
              .label = "End face",
              .type = FieldType::Face,
              .well = Well::Reach,
              .whenField = "to",
              .whenValues = {"face"}}}) {}

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    const RegionPick& pick = inputs.value<RegionPick>("profiles");
    const std::vector<Region> regions = chosenRegions(pick, inputs.drawing(pick.drawing));
    const Stock stock = stockOf(inputs, "stock");
    Box around;
    for (const BodyId& body : stock.bodies) around.add(inputs.box(body));
    const std::vector<SweptRegion> cutters = swept(inputs, regions, around, progress);

    Box reach;
    for (const SweptRegion& cutter : cutters) reach.add(boxOf(cutter));
    StepResult result;
    show(result, inputs, cutters, reach, around);
    for (std::size_t i = 0; i < stock.bodies.size(); ++i) {
      const BodyId& body = stock.bodies[i];
      progress.report(static_cast<double>(i) / static_cast<double>(stock.bodies.size()));
      if (!inputs.box(body).overlaps(reach) || inputs.shape(body).kind() == BodyKind::Curve) {
        result.audit.spared.push_back(body);
        continue;
      }
      const Division cut = cutSwept(inputs.shape(body), cutters, progress);
      if (cut.inside.empty())
        result.audit.spared.push_back(body);
      else
        addDivided(result, inputs, body, cut);
    }
    for (const BodyId& body : stock.shielded)
      if (inputs.box(body).overlaps(reach)) result.audit.shielded.push_back(body);
    if (result.audit.touched.empty())
      throw Error("the cut meets none of the stock", "reach",
                  "Turn its way round, give it more depth, or check where the profile lies");
    return result;
  }

 private:
  /// The swept outlines where they begin and end (as far as the stock reaches), and gauges for the depths.
  static void show(StepResult& result, StepInputs& inputs, const std::vector<SweptRegion>& cutters, const Box& reach,
                   const Box& around) {
    for (const SweptRegion& cutter : cutters) {
      const Vector normal = normalOf(cutter.region);
      const double base = dot(middleOf(cutter.region), normal), margin = 0.06 * around.diagonal();
      const auto [nearest, farthest] = along(normal, around);
      auto [low, high] =
          cutter.straight ? std::pair(cutter.from + base, cutter.to + base) : along(normal, cutter.cutter.roughBox());
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
    const bool out = inputs.choice("way") == "out", both = inputs.choice("way") == "both";
    const Vector way = out ? normalOf(first) : -normalOf(first);
    const double offset = inputs.choice("from") == "offset" ? inputs.number("from_offset") : 0;
    if (inputs.choice("from") == "offset") result.gauges.push_back({"from_offset", middleOf(first), way, offset});
    if (inputs.choice("to") == "distance" && inputs.choice("from") != "face")
      result.gauges.push_back({"depth", middleOf(first) + way * (both ? 0 : offset), way, inputs.number("depth")});
  }

  /// The nearest and farthest of a box along a direction.
  static std::pair<double, double> along(Vector direction, const Box& box) {
    double low = Box::infinity, high = -Box::infinity;
    for (int i = 0; i < 8; ++i) {
      low = std::min(low, dot(box.corner(i), direction));
      high = std::max(high, dot(box.corner(i), direction));
    }
    return {low, high};
  }

  /// A box around a swept region without making its solid.
  static Box boxOf(const SweptRegion& cutter) { return cutter.straight ? sweptBox(cutter) : cutter.cutter.roughBox(); }

  static std::vector<SweptRegion> swept(StepInputs& inputs, const std::vector<Region>& regions, const Box& around,
                                        Progress& progress) {
    const std::string& way = inputs.choice("way");
    const std::string& from = inputs.choice("from");
    const std::string& to = inputs.choice("to");
    const SweepLimit end = to == "face"       ? SweepLimit::atFace(inputs.face("to_face"))
                           : to == "distance" ? SweepLimit::at(inputs.number("depth"))
                                              : SweepLimit::beyond();
    if (way == "both") return sweptBothWays(inputs, regions, end, around, progress);
    const SweepLimit start = from == "face" ? SweepLimit::atFace(inputs.face("from_face"))
                                            : SweepLimit::at(from == "offset" ? inputs.number("from_offset") : 0);
    return sweep(inputs.id(), regions, way == "out", start, end, around, progress);
  }

  static std::vector<SweptRegion> sweptBothWays(StepInputs& inputs, const std::vector<Region>& regions,
                                                const SweepLimit& end, const Box& around, Progress& progress) {
    if (inputs.choice("from") != "profile" || end.kind == SweepLimit::Kind::AtFace)
      throw Error("a cut both ways starts at the profile and goes a distance or through all", "reach",
                  "Choose one way, or another start and end");
    if (end.kind == SweepLimit::Kind::BeyondEverything)
      return sweep(inputs.id(), regions, false, SweepLimit::beyond(), end, around, progress);
    return sweep(inputs.id(), regions, false, SweepLimit::at(-end.distance), SweepLimit::at(2 * end.distance), around,
                 progress);
  }
};

}  // namespace

const StepKind& cutStep() {
  static const Cut kind;
  return kind;
}

}  // namespace kervo
