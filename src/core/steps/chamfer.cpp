// Edges replaced by flat faces at equal distances on both sides.
#include "fields/edges_field.h"
#include "fields/number_field.h"
#include "steps/registry.h"
#include "steps/shared/changed_bodies.h"

namespace kervo {

namespace {

class Chamfer : public StepKind {
 public:
  Chamfer()
      : StepKind({.key = "chamfer",
                  .label = "Chamfer",
                  .menu = KindMenu::Cut,
                  .verb = "Chamfer edges",
                  .shortcut = "Ctrl+Shift+H",
                  .help = "With the same distance on both faces"}) {}

  void startFrom(const Selected& selected, Start& start) const override { start.set(edges_, selected.edges()); }
  std::optional<std::string> offered(const Selected& selected) const override {
    if (selected.anyOf(Picked::What::Edge)) return "Chamfer edges …";
    return selected.anyOf(Picked::What::Face) ? std::optional<std::string>("Chamfer its edges …") : std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    const double distance = distance_.of(inputs);
    return withEdgesBlended(inputs, edges_, [&](const Shape& before, const std::vector<Edge>& edges) {
      return chamferEdges(inputs.id(), before, edges, distance, progress);
    });
  }

 private:
  const EdgesField edges_{*this,
                          {.key = "edges",
                           .label = "Edges",
                           .well = Well::Stock,
                           .help = "Edges that continue one of them tangentially go along"}};
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
