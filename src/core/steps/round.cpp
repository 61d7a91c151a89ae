// Edges rounded with a constant radius.
#include "fields/edges_field.h"
#include "fields/number_field.h"
#include "geom/blended_edges.h"
#include "steps/registry.h"
#include "steps/shared/changed_bodies.h"

namespace kervo {

namespace {

class Round : public StepKind {
 public:
  Round()
      : StepKind({.key = "round",
                  .label = "Round",
                  .menu = KindMenu::Cut,
                  .verb = "Round edges",
                  .shortcut = "Ctrl+Shift+R",
                  .help = "With a constant radius"}) {}

  void startFrom(const Selected& selected, Start& start) const override { start.set(edges_, selected.edges()); }
  std::optional<std::string> offered(const Selected& selected) const override {
    if (selected.anyOf(Picked::What::Edge)) return "Round edges …";
    return selected.anyOf(Picked::What::Face) ? std::optional<std::string>("Round its edges …") : std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    const double radius = radius_.of(inputs);
    return withEdgesBlended(inputs, edges_, [&](const Shape& before, const std::vector<Edge>& edges) {
      return roundEdges(inputs.id(), before, edges, radius, progress);
    });
  }

 private:
  const EdgesField edges_{*this,
                          {.key = "edges",
                           .label = "Edges",
                           .well = Well::Stock,
                           .help = "Edges that continue one of them tangentially go along"}};
  const LengthField radius_{
      *this, {.key = "radius", .label = "Radius", .well = Well::Reach}, "1 mm", NumberRule::Positive};
};

}  // namespace

const StepKind& roundStep() {
  static const Round kind;
  return kind;
}

}  // namespace kervo
