#include "steps/extrude.h"

#include "geom/boolean.h"
#include "geom/sweep.h"
#include "steps/divided_bodies.h"
#include "steps/profiles.h"
#include "steps/simple_step.h"

namespace kervo {

namespace {

class Extrude : public SimpleStep {
 public:
  Extrude()
      : SimpleStep("extrude", "Extrude",
                   {{.key = "profiles",
                     .label = "Profiles",
                     .type = FieldType::Regions,
                     .help = "Regions become solids; a drawing of open lines only becomes surfaces"},
                    {.key = "way",
                     .label = "Direction",
                     .type = FieldType::Choice,
                     .defaultText = "out",
                     .choices = {"out", "into", "both"},
                     .help = "out: along the drawing plane's normal"},
                    {.key = "height",
                     .label = "Height",
                     .type = FieldType::Length,
                     .defaultText = "10 mm",
                     .rule = NumberRule::Positive,
                     .help = "Both ways: half of it on each side"},
                    {.key = "from_offset", .label = "Start offset", .type = FieldType::Length, .defaultText = "0 mm"},
                    {.key = "draft",
                     .label = "Draft",
                     .type = FieldType::Angle,
                     .defaultText = "0 deg",
                     .help = "Sides lean inwards; less than zero: outwards"},
                    {.key = "then",
                     .label = "Result",
                     .type = FieldType::Choice,
                     .defaultText = "new",
                     .choices = {"new", "joined", "common"}},
                    {.key = "stock",
                     .label = "Joined to",
                     .type = FieldType::Bodies,
                     .well = Well::Stock,
                     .whenField = "then",
                     .whenValues = {"joined", "common"}}}) {}

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    const RegionPick& pick = inputs.value<RegionPick>("profiles");
    const DrawingResult drawing = inputs.drawing(pick.drawing);
    const std::string& way = inputs.choice("way");
    const double height = inputs.number("height"), offset = inputs.number("from_offset");
    const double from = way == "out" ? offset : way == "into" ? -offset - height : offset - height / 2;
    StepResult result;
    std::vector<Shape> shapes;
    if (drawing.regions.empty() && !drawing.paths.empty()) {
      for (const Path& path : drawing.paths)
        shapes.push_back(sweptPath(path, inputs.id() + ":side", from, from + height, 0));
    } else {
      for (SweptRegion& swept : sweep(inputs.id(), chosenRegions(pick, drawing), true, SweepLimit::at(from),
                                      SweepLimit::at(height), Box(), progress)) {
        swept.startsAtTo = way == "into";
        shapes.push_back(drafted(swept, inputs.number("draft")));
      }
    }
    const Plane& plane = drawing.plane;
    const Vector along = way == "into" ? -plane.normal : plane.normal;
    if (!shapes.empty())
      result.gauges.push_back({"height", middleOf(shapes, plane) + along * (way == "both" ? offset : std::abs(offset)),
                               along, height, way == "both"});
    if (inputs.choice("then") == "new")
      addNew(result, inputs, shapes);
    else
      addToStock(result, inputs, shapes, progress);
    return result;
  }

 private:
  static Point middleOf(const std::vector<Shape>& shapes, const Plane& plane) {
    const Point centre = shapes.front().roughBox().centre();
    return centre - plane.normal * plane.signedDistance(centre);
  }

  static void addNew(StepResult& result, StepInputs& inputs, const std::vector<Shape>& shapes) {
    addKept(result, inputs, "", inputs.id(), "", shapes);
    for (const Shape& shape : shapes) result.audit.volumeAfter += shape.volume();
    result.audit.touched = {inputs.id()};
    // New bodies are called like the step.
    if (shapes.size() == 1) result.made.front().name.clear();
  }

  static void addToStock(StepResult& result, StepInputs& inputs, const std::vector<Shape>& shapes, Progress& progress) {
    const bool join = inputs.choice("then") == "joined";
    const Stock stock = stockOf(inputs, "stock");
    result.audit.shielded = stock.shielded;
    std::vector<Shape> parts;
    for (const BodyId& body : stock.bodies) {
      parts.push_back(inputs.shape(body));
      result.audit.volumeBefore += parts.back().volume();
      result.audit.touched.push_back(body);
    }
    result.consumed = stock.bodies;
    if (join) {
      parts.insert(parts.end(), shapes.begin(), shapes.end());
      const Union joined = unite(parts, progress);
      noteSeams(result.audit, joined);
      if (!joined.remedy.empty()) inputs.warn("the kernel needed help with the union: " + joined.remedy);
      const std::vector<Shape> pieces = joined.shape.pieces();
      if (pieces.size() > stock.bodies.size())
        inputs.warn("the profile does not touch the stock everywhere: the result is in " +
                    std::to_string(pieces.size()) + " pieces");
      result.audit.volumeAfter = joined.shape.volume();
      addKept(result, inputs, stock.bodies.front(), stock.bodies.front(), "", pieces);
      return;
    }
    result.audit.cuts = true;
    for (std::size_t i = 0; i < stock.bodies.size(); ++i) {
      const Shape shared = divide(parts[i], shapes, progress).inside;
      result.audit.volumeAfter += shared.volume();
      if (!shared.empty()) addKept(result, inputs, stock.bodies[i], stock.bodies[i], "", shared.pieces());
    }
    result.audit.volumeRemoved = result.audit.volumeBefore - result.audit.volumeAfter;
    if (result.made.empty())
      throw Error("the profile has nothing in common with the stock", "field Height",
                  "Make it longer, or turn its way");
  }
};

}  // namespace

const StepKind& extrudeStep() {
  static const Extrude kind;
  return kind;
}

}  // namespace kervo
