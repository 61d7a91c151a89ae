// Edges rounded with one radius, or with one that changes along each of them.
#include "fields/choice_field.h"
#include "fields/flag_field.h"
#include "fields/number_field.h"
#include "steps/registry.h"
#include "steps/shared/edge_blend.h"

namespace kervo {

namespace {

enum class Radii { One, Changing, Each };

class Round : public EdgeBlend {
 public:
  Round()
      : EdgeBlend("round", "Round", "Ctrl+Shift+R",
                  "With one radius, one that changes along the edge, or one for each edge") {}

 protected:
  BlendedEdges blended(const Inputs& inputs, const Shape& before, const ChosenEdges& chosen,
                       Progress& progress) const override {
    RoundSize size{radius_.of(inputs)};
    if (radii_.of(inputs) == Radii::Changing) {
      size.end = end_.of(inputs);
      size.flip = flip_.of(inputs);
    }
    if (radii_.of(inputs) == Radii::Each) {
      requireEnoughEdges(inputs, each_);
      size.own = chosen.own(each_.of(inputs));
    }
    return roundEdges(inputs.id(), before, chosen.edges, size, progress);
  }

 private:
  const ChoiceField<Radii> radii_{*this,
                                  {.key = "radii", .label = "Radii", .well = Well::Reach},
                                  {"one radius", "changing along the edge", "one for each edge"}};
  const LengthField radius_{
      *this, {.key = "radius", .label = "Radius", .well = Well::Reach}, "1 mm", NumberRule::Positive};
  const LengthField end_{*this,
                         {.key = "end",
                          .label = "At the end",
                          .well = Well::Reach,
                          .help = "The radius at the other end of the edge",
                          .when = radii_.is(Radii::Changing)},
                         "2 mm",
                         NumberRule::Positive};
  const FlagField flip_{
      *this, {.key = "flip", .label = "From the other end", .well = Well::Reach, .when = radii_.is(Radii::Changing)}};
  const SizesField each_{*this,
                         {.key = "each",
                          .label = "For each",
                          .well = Well::Reach,
                          .help = "Radii of the picked edges in their order; edges without one have the radius above",
                          .when = radii_.is(Radii::Each)},
                         NumberRule::Positive};
};

}  // namespace

const StepKind& roundStep() {
  static const Round kind;
  return kind;
}

}  // namespace kervo
