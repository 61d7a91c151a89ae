#include "steps/cut.h"

#include <algorithm>

#include "geom/perforate.h"
#include "steps/cut_reach.h"
#include "steps/divided_bodies.h"
#include "steps/profiles.h"
#include "steps/simple_step.h"

namespace kervo {

namespace {

/// At least so many faces: both ends, and a side for each outline.
double faceCountOf(const std::vector<SweptRegion>& cutters) {
  double count = 0;
  for (const SweptRegion& cutter : cutters) count += 3 + cutter.region.islandCount();
  return count;
}

class Cut : public SimpleStep {
 public:
  Cut()
      : SimpleStep(
            "cut", "Cut",
            {{.key = "stock", .label = "Stock", .type = FieldType::Bodies, .well = Well::Stock, .defaultText = "all"},
             {.key = "profiles", .label = "Profiles", .type = FieldType::Regions, .well = Well::Cutter},
             {.key = "way",
              .label = "Direction",
              .type = FieldType::Choice,
              .well = Well::Reach,
              .defaultText = "into",
              .choices = {"into", "out", "both", "two depths"},
              .help =
                  "into: against the drawing plane's normal, into the body whose face was drawn on; two depths: one "
                  "into, another out"},
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
              .choices = {"distance", "through", "next wall", "face", "body"},
              .help = "next wall: stops behind the first wall that it passes"},
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
              .whenValues = {"face"}},
             {.key = "to_body",
              .label = "End body",
              .type = FieldType::Bodies,
              .well = Well::Reach,
              .help = "A solid or a surface; the cut ends where it meets it first",
              .whenField = "to",
              .whenValues = {"body"}},
             {.key = "out_depth",
              .label = "Depth out",
              .type = FieldType::Length,
              .well = Well::Reach,
              .defaultText = "10 mm",
              .rule = NumberRule::Positive,
              .whenField = "way",
              .whenValues = {"two depths"}},
             {.key = "draft",
              .label = "Draft",
              .type = FieldType::Angle,
              .well = Well::Reach,
              .defaultText = "0 deg",
              .help = "The sides lean inwards from where the cut starts; less than zero: outwards"},
             piecesField()}) {}

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    const Stock stock = stockOf(inputs, "stock");
    Box around;
    for (const BodyId& body : stock.bodies) around.add(inputs.box(body));
    const std::vector<SweptRegion> cutters = sweptProfiles(inputs, stock.bodies, around, progress);

    Box reach;
    for (const SweptRegion& cutter : cutters) reach.add(boxOf(cutter));
    StepResult result;
    show(result, inputs, cutters, reach, around);
    requireFeasible(inputs, stock.bodies, faceCountOf(cutters));
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
    if (result.audit.touched.empty()) {
      inputs.finding().cutterOutline = result.cutterOutline;
      inputs.finding().gauges = result.gauges;
      throw Error("the cut meets none of the stock", "reach",
                  "Reverse its direction, give it more depth, or check where the profile lies");
    }
    settlePieces(result, inputs);
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
    const std::string& chosen = inputs.choice("way");
    const bool out = chosen == "out", both = chosen == "both" || chosen == "two depths";
    const Vector way = out ? normalOf(first) : -normalOf(first);
    const double offset = inputs.choice("from") == "offset" ? inputs.number("from_offset") : 0;
    if (inputs.choice("from") == "offset") result.gauges.push_back({"from_offset", middleOf(first), way, offset});
    if (inputs.choice("to") == "distance" && inputs.choice("from") != "face")
      result.gauges.push_back({"depth", middleOf(first) + way * (both ? 0 : offset), way, inputs.number("depth")});
    if (chosen == "two depths")
      result.gauges.push_back({"out_depth", middleOf(first), normalOf(first), inputs.number("out_depth")});
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
};

}  // namespace

const StepKind& cutStep() {
  static const Cut kind;
  return kind;
}

}  // namespace kervo
