// Edges replaced by flat faces at equal distances on both sides.
#include "fields/number_field.h"
#include "steps/registry.h"
#include "steps/shared/edge_blend.h"

namespace kervo {

namespace {

class Chamfer : public EdgeBlend {
 public:
  Chamfer() : EdgeBlend("chamfer", "Chamfer", "Ctrl+Shift+H", "With the same distance on both faces") {}

 protected:
  BlendedEdges blended(const Inputs& inputs, const Shape& before, const std::vector<Edge>& edges,
                       Progress& progress) const override {
    return chamferEdges(inputs.id(), before, edges, distance_.of(inputs), progress);
  }

 private:
  const LengthField distance_{*this,
                              {.key = "distance",
                               .label = "Distance",
                               .well = Well::Reach,
                               .help = "From the edge to where the chamfer begins, on each face"},
                              "1 mm",
                              NumberRule::Positive};
};

}  // namespace

const StepKind& chamferStep() {
  static const Chamfer kind;
  return kind;
}

}  // namespace kervo
