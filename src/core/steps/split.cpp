#include "steps/split.h"

#include "geom/plane_split.h"
#include "steps/divided_bodies.h"
#include "steps/simple_step.h"

namespace kervo {

namespace {

Kerf kerfOf(const StepInputs& inputs) {
  const double width = inputs.number("kerf");
  const std::string& side = inputs.choice("kerf_side");
  return side == "front" ? Kerf::inFront(width) : side == "back" ? Kerf::behind(width) : Kerf::centred(width);
}

class Split : public SimpleStep {
 public:
  Split()
      : SimpleStep(
            "split", "Split",
            {{.key = "stock", .label = "Stock", .type = FieldType::Bodies, .well = Well::Stock, .defaultText = "all"},
             {.key = "plane", .label = "Plane", .type = FieldType::Plane, .well = Well::Cutter, .defaultText = "xy"},
             {.key = "offset",
              .label = "Offset",
              .type = FieldType::Length,
              .well = Well::Cutter,
              .defaultText = "0 mm",
              .help = "Along the plane's normal"},
             {.key = "kerf",
              .label = "Kerf",
              .type = FieldType::Length,
              .well = Well::Reach,
              .defaultText = "0 mm",
              .rule = NumberRule::NotNegative,
              .help = "Width that the cut removes"},
             {.key = "kerf_side",
              .label = "Kerf side",
              .type = FieldType::Choice,
              .well = Well::Reach,
              .defaultText = "centred",
              .choices = {"centred", "front", "back"}},
             {.key = "keep",
              .label = "Keep",
              .type = FieldType::Choice,
              .well = Well::Pieces,
              .defaultText = "both",
              .choices = {"both", "front", "back"},
              .help = "front: the side that the plane's normal points to"}}) {}

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    const Plane plane = inputs.plane("plane").moved(inputs.number("offset"));
    const Kerf kerf = kerfOf(inputs);
    const Stock stock = stockOf(inputs, "stock");
    StepResult result;
    Box around;
    for (const BodyId& body : stock.bodies) around.add(inputs.box(body));
    show(result, inputs, plane, around);
    std::string whereTheyLie;
    for (const BodyId& body : stock.bodies) {
      if (inputs.shape(body).kind() == BodyKind::Curve) {
        result.audit.spared.push_back(body);
        continue;
      }
      const PlaneSplit sides = splitByPlane(inputs.id(), inputs.shape(body), plane, kerf, progress);
      if (sides.missed()) {
        result.audit.spared.push_back(body);
        whereTheyLie += (whereTheyLie.empty() ? "\"" : "; \"") + body + "\" lies wholly " +
                        (sides.front.empty() ? "behind it" : "in front of it");
        continue;
      }
      add(result, inputs, body, sides);
    }
    for (const BodyId& body : stock.shielded) result.audit.shielded.push_back(body);
    if (result.audit.touched.empty())
      throw Error("the plane does not meet the stock: " + whereTheyLie, "field Plane",
                  "Move the plane, or choose other stock");
    return result;
  }

 private:
  /// The plane as a rectangle around the stock, and gauges at its nearer edge.
  static void show(StepResult& result, StepInputs& inputs, const Plane& plane, const Box& around) {
    const Polyline rectangle = rectangleAround(around, plane, 0.1 * around.diagonal());
    result.cutterOutline.push_back(rectangle);
    const Point corner = rectangle[1];
    const Point edge = (rectangle[0] + rectangle[1]) * 0.5;
    const double offset = inputs.number("offset");
    result.gauges.push_back({"offset", edge - plane.normal * offset, plane.normal, offset});
    const std::string& side = inputs.choice("kerf_side");
    const Vector along = side == "back" ? -plane.normal : plane.normal;
    result.gauges.push_back({"kerf", corner, along, inputs.number("kerf"), side == "centred"});
  }

  static void add(StepResult& result, StepInputs& inputs, const BodyId& body, const PlaneSplit& sides) {
    const std::string& keep = inputs.choice("keep");
    addBalance(result.audit, body, sides.cut);
    result.consumed.push_back(body);
    for (const auto& [name, parts] : {std::pair("front", sides.front), std::pair("back", sides.back)}) {
      if (parts.empty()) continue;
      double volume = 0;
      for (const Shape& part : parts) volume += part.volume();
      if (keep == "both" || keep == name) {
        result.audit.volumeAfter += volume;
        addKept(result, inputs, body, body + "/" + name, name, parts);
      } else {
        result.audit.volumeRemoved += volume;
        for (const Shape& part : parts) addDropped(result, body, name, part);
      }
    }
    result.audit.volumeRemoved += sides.waste.volume();
    addDropped(result, body, "kerf of " + body, sides.waste);
  }
};

}  // namespace

const StepKind& splitStep() {
  static const Split kind;
  return kind;
}

}  // namespace kervo
