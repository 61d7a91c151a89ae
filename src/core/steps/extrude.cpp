// Regions of a drawing to solids, open lines to surfaces; new, joined or common.
#include "base/say.h"
#include "fields/choice_field.h"
#include "fields/regions_field.h"
#include "geom/sweep/sweep.h"
#include "steps/registry.h"
#include "steps/shared/height_reach.h"
#include "steps/shared/profile_result.h"

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
    const Plane& plane = drawing.plane;
    const double offset = offset_.of(inputs), along = way == Way::Into ? -1 : 1;
    if (way == Way::Both && !reach_.isHeight(inputs))
      reach_.until.fail(say("a profile that is extruded both ways ends at a height"),
                        say("Choose one direction, or a height"));
    StepResult result;
    std::vector<Shape> shapes;
    if (drawing.regions.empty() && !drawing.paths.empty()) {
      const double height = reach_.parallelHeight(inputs, plane, offset, along);
      const double from = way == Way::Out ? offset : way == Way::Into ? -offset - height : offset - height / 2;
      for (const Path& path : drawing.paths)
        shapes.push_back(sweptPath(path, inputs.id() + ":side", from, from + height, 0));
    } else {
      const double start = way == Way::Both ? offset - reach_.height.of(inputs) / 2 : offset;
      for (const SweptRegion& swept : sweep(inputs.id(), joined(profiles_.of(inputs)), way != Way::Into,
                                            SweepLimit::at(start), reach_.end(inputs), Box(), progress))
        shapes.push_back(drafted(swept, draft_.of(inputs)));
    }
    if (!shapes.empty() && reach_.isHeight(inputs))
      result.gauges.push_back({reach_.height.key(),
                               middleOf(shapes, plane) + plane.normal * (way == Way::Both ? offset : along * offset),
                               plane.normal * along, reach_.height.of(inputs), way == Way::Both});
    const Then then = then_.of(inputs);
    if (then == Then::New)
      addNewBodies(result, inputs, shapes);
    else if (then == Then::Joined)
      addJoined(result, inputs, stockOf(inputs, stock_), shapes, progress);
    else if (!addCommon(result, inputs, stockOf(inputs, stock_), shapes, progress))
      profiles_.fail(say("the profile has nothing in common with the stock"),
                     say("Make it longer, or reverse its direction"));
    return result;
  }

 private:
  static Point middleOf(const std::vector<Shape>& shapes, const Plane& plane) {
    const Point centre = shapes.front().roughBox().centre();
    return centre - plane.normal * plane.signedDistance(centre);
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
  const HeightReach reach_{*this, Well::Setup, "10 mm", "Both ways: half of it on each side"};
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
