// Walls along drawn lines: of a thickness, with clean corners and tees.
#include "base/say.h"
#include "fields/choice_field.h"
#include "fields/regions_field.h"
#include "geom/sweep/sweep.h"
#include "steps/registry.h"
#include "steps/shared/height_reach.h"
#include "steps/shared/profile_result.h"
#include "steps/shared/wall_plan.h"

namespace kervo {

namespace {

class WallStep : public StepKind {
 public:
  WallStep()
      : StepKind({.key = "wall",
                  .label = "Wall",
                  .menu = KindMenu::Draw,
                  .verb = "Wall along lines",
                  .help = "Walls of a thickness along the lines and arcs of a drawing, with clean corners and tees",
                  .needsBodies = false,
                  .wells = {.stock = {"Becomes", "a body, or a cut"},
                            .cutter = {"Wall", "along the lines"},
                            .reach = {"Height", "from the drawing's plane"}}}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    start.set(lines_, RegionPick{selected.drawing});
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    return selected.anyOf(Picked::What::Drawing) ? std::optional<std::string>(say("Wall along it")) : std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    const DrawingResult drawing = lines_.drawing(inputs);
    const double thick = thickness_.of(inputs);
    const Side side = side_.of(inputs);
    const double left = side == Side::Left ? thick : side == Side::Right ? 0 : thick / 2;
    StepResult result;
    std::vector<Shape> shapes;
    try {
      const std::vector<Region> plan = wallPlan(drawing, left, thick - left, progress);
      for (SweptRegion& swept :
           sweep(inputs.id(), plan, true, SweepLimit::at(from_.of(inputs)), reach_.end(inputs), Box(), progress))
        shapes.push_back(solidOf(swept));
    } catch (const Error& error) {
      throw error.within(lines_.place());
    }
    const Point middle = shapes.front().roughBox().centre();
    const Plane& plane = drawing.plane;
    if (reach_.isHeight(inputs))
      result.gauges.push_back({reach_.height.key(),
                               middle + plane.normal * (from_.of(inputs) - plane.signedDistance(middle)), plane.normal,
                               reach_.height.of(inputs)});
    become_.add(result, inputs, shapes, progress);
    return result;
  }

 private:
  enum class Side { Centred, Left, Right };

  const RegionsField lines_{
      *this, {.key = "lines", .label = "Lines", .help = "all lines and arcs of a drawing, but those for construction"}};
  const LengthField thickness_{
      *this, {.key = "thickness", .label = "Thickness", .well = Well::Cutter}, "200 mm", NumberRule::Positive};
  const ChoiceField<Side> side_{*this,
                                {.key = "side",
                                 .label = "Side",
                                 .well = Well::Cutter,
                                 .help = "of the lines, followed from where the first one begins",
                                 .telling = true},
                                {"centred", "left", "right"}};
  const LengthField from_{*this, {.key = "from_offset", .label = "Start offset", .well = Well::Reach}, "0 mm"};
  const HeightReach reach_{*this, Well::Reach, "2.5 m"};
  const ProfileResult become_{*this, lines_};
};

}  // namespace

const StepKind& wallStep() {
  static const WallStep kind;
  return kind;
}

}  // namespace kervo
