// Edges rounded with a constant radius.
#include "fields/number_field.h"
#include "steps/registry.h"
#include "steps/shared/edge_blend.h"

namespace kervo {

namespace {

class Round : public EdgeBlend {
 public:
  Round() : EdgeBlend("round", "Round", "Ctrl+Shift+R", "With a constant radius") {}

 protected:
  BlendedEdges blended(const Inputs& inputs, const Shape& before, const std::vector<Edge>& edges,
                       Progress& progress) const override {
    return roundEdges(inputs.id(), before, edges, radius_.of(inputs), progress);
  }

 private:
  const LengthField radius_{
      *this, {.key = "radius", .label = "Radius", .well = Well::Reach}, "1 mm", NumberRule::Positive};
};

}  // namespace

const StepKind& roundStep() {
  static const Round kind;
  return kind;
}

}  // namespace kervo
