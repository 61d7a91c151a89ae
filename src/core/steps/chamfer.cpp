// Edges replaced by flat faces, at one distance, two, or a distance and an angle.
#include <cmath>
#include <numbers>

#include "base/say.h"
#include "fields/choice_field.h"
#include "fields/flag_field.h"
#include "fields/number_field.h"
#include "steps/registry.h"
#include "steps/shared/edge_blend.h"

namespace kervo {

namespace {

enum class Ways { Equal, Two, Angle, Each };

class Chamfer : public EdgeBlend {
 public:
  Chamfer()
      : EdgeBlend("chamfer", "Chamfer", "Ctrl+Shift+H", "With one distance, two, an angle, or one for each edge") {}

 protected:
  BlendedEdges blended(const Inputs& inputs, const Shape& before, const ChosenEdges& chosen,
                       Progress& progress) const override {
    ChamferSize size{distance_.of(inputs)};
    const Ways sizes = sizes_.of(inputs);
    if (sizes == Ways::Two) size.second = second_.of(inputs);
    if (sizes == Ways::Angle) {
      const double angle = angle_.of(inputs);
      if (!(angle > 0 && angle < std::numbers::pi / 2 - 1e-3))
        angle_.fail(say("the angle is not between 0° and 90°"),
                    say("Type the angle between the chamfer and the first face"));
      size.second = size.first * std::tan(angle);
    }
    size.flip = (sizes == Ways::Two || sizes == Ways::Angle) && flip_.of(inputs);
    if (sizes == Ways::Each) {
      requireEnoughEdges(inputs, each_);
      size.own = chosen.own(each_.of(inputs));
    }
    return chamferEdges(inputs.id(), before, chosen.edges, size, progress);
  }

 private:
  const ChoiceField<Ways> sizes_{*this,
                                 {.key = "sizes", .label = "Sizes", .well = Well::Reach},
                                 {"one distance", "two distances", "distance and angle", "one for each edge"}};
  const LengthField distance_{*this,
                              {.key = "distance",
                               .label = "Distance",
                               .well = Well::Reach,
                               .help = "From the edge to where the chamfer begins; on the face that most of the edges "
                                       "have in common, where the other side differs"},
                              "1 mm",
                              NumberRule::Positive};
  const LengthField second_{*this,
                            {.key = "second",
                             .label = "Second",
                             .well = Well::Reach,
                             .help = "The distance on the other face",
                             .when = sizes_.is(Ways::Two)},
                            "2 mm",
                            NumberRule::Positive};
  const AngleField angle_{*this,
                          {.key = "angle",
                           .label = "Angle",
                           .well = Well::Reach,
                           .help = "Between the chamfer and the face on which the distance is, where faces meet at a "
                                   "right angle",
                           .when = sizes_.is(Ways::Angle)},
                          "30 deg"};
  const FlagField flip_{*this,
                        {.key = "flip",
                         .label = "Other face",
                         .well = Well::Reach,
                         .help = "The distance is on the other face",
                         .when = sizes_.is(Ways::Two, Ways::Angle)}};
  const SizesField each_{
      *this,
      {.key = "each",
       .label = "For each",
       .well = Well::Reach,
       .help = "Distances of the picked edges in their order; edges without one have the distance above",
       .when = sizes_.is(Ways::Each)},
      NumberRule::Positive};
};

}  // namespace

const StepKind& chamferStep() {
  static const Chamfer kind;
  return kind;
}

}  // namespace kervo
