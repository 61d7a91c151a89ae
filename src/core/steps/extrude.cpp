// Regions of a drawing to solids, open lines to surfaces; new, joined or common.
#include "base/say.h"
#include "fields/choice_field.h"
#include "fields/regions_field.h"
#include "geom/divide/boolean.h"
#include "geom/sweep/sweep.h"
#include "steps/registry.h"
#include "steps/shared/divided_bodies.h"

namespace kervo {

namespace {

class Extrude : public StepKind {
 public:
  Extrude()
      : StepKind({.key = "extrude",
                  .label = "Extrude",
                  .menu = KindMenu::Draw,
                  .shortcut = "Ctrl+Shift+E",
                  .help = "Regions of a drawing to solids, open lines to surfaces",
                  .startsGroup = true,
                  .needsBodies = false}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    start.set(profiles_, RegionPick{selected.drawing});
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    return selected.anyOf(Picked::What::Drawing) ? std::optional<std::string>(say("Extrude it")) : std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    const DrawingResult drawing = profiles_.drawing(inputs);
    const Way way = way_.of(inputs);
    const double height = height_.of(inputs), offset = offset_.of(inputs);
    const double from = way == Way::Out ? offset : way == Way::Into ? -offset - height : offset - height / 2;
    StepResult result;
    std::vector<Shape> shapes;
    if (drawing.regions.empty() && !drawing.paths.empty()) {
      for (const Path& path : drawing.paths)
        shapes.push_back(sweptPath(path, inputs.id() + ":side", from, from + height, 0));
    } else {
      for (SweptRegion& swept : sweep(inputs.id(), joined(profiles_.of(inputs)), true, SweepLimit::at(from),
                                      SweepLimit::at(height), Box(), progress)) {
        swept.startsAtTo = way == Way::Into;
        shapes.push_back(drafted(swept, draft_.of(inputs)));
      }
    }
    const Plane& plane = drawing.plane;
    const Vector along = way == Way::Into ? -plane.normal : plane.normal;
    if (!shapes.empty())
      result.gauges.push_back({height_.key(),
                               middleOf(shapes, plane) + along * (way == Way::Both ? offset : std::abs(offset)), along,
                               height, way == Way::Both});
    if (then_.of(inputs) == Then::New)
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

  void addToStock(StepResult& result, StepInputs& inputs, const std::vector<Shape>& shapes, Progress& progress) const {
    const bool join = then_.of(inputs) == Then::Joined;
    const Stock stock = stockOf(inputs, stock_);
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
      if (!joined.remedy.empty()) inputs.warn(say("the kernel needed help with the union: %1", joined.remedy));
      const std::vector<Shape> pieces = joined.shape.pieces();
      if (pieces.size() > stock.bodies.size())
        inputs.warn(say("the profile does not touch the stock everywhere: the result is in %1 pieces", pieces.size()));
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
      height_.fail(say("the profile has nothing in common with the stock"),
                   say("Make it longer, or reverse its direction"));
  }

  enum class Way { Out, Into, Both };
  enum class Then { New, Joined, Common };
  const RegionsField profiles_{*this,
                               {.key = "profiles",
                                .label = "Profiles",
                                .help = "Regions become solids; a drawing of open lines only becomes surfaces"}};
  const ChoiceField<Way> way_{*this,
                              {.key = "way", .label = "Direction", .help = "out: along the drawing plane's normal"},
                              {"out", "into", "both"}};
  const LengthField height_{*this,
                            {.key = "height", .label = "Height", .help = "Both ways: half of it on each side"},
                            "10 mm",
                            NumberRule::Positive};
  const LengthField offset_{*this, {.key = "from_offset", .label = "Start offset"}, "0 mm"};
  const AngleField draft_{
      *this, {.key = "draft", .label = "Draft", .help = "Sides lean inwards; less than zero: outwards"}, "0 deg"};
  const ChoiceField<Then> then_{*this, {.key = "then", .label = "Result"}, {"new", "joined", "common"}};
  const BodiesField stock_{
      *this, {.key = "stock", .label = "Joined to", .well = Well::Stock, .when = then_.is(Then::Joined, Then::Common)}};
};

}  // namespace

const StepKind& extrudeStep() {
  static const Extrude kind;
  return kind;
}

}  // namespace kervo
