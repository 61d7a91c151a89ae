#include "steps/round.h"

#include <map>

#include "geom/round_edges.h"
#include "steps/simple_step.h"

namespace kervo {

namespace {

class Round : public SimpleStep {
 public:
  Round()
      : SimpleStep("round", "Round",
                   {{.key = "edges", .label = "Edges", .type = FieldType::Edges, .well = Well::Stock},
                    {.key = "radius",
                     .label = "Radius",
                     .type = FieldType::Length,
                     .well = Well::Reach,
                     .defaultText = "1 mm",
                     .rule = NumberRule::Positive}}) {}

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    const auto& references = inputs.value<std::vector<EdgeReference>>("edges");
    if (references.empty()) throw Error("no edge is chosen", "field Edges", "Pick the edges to round");
    std::map<BodyId, std::vector<Edge>> edges;
    for (const EdgeReference& reference : references) {
      const FoundEdges found = [&] {
        try {
          return inputs.edges(reference);
        } catch (const Error& error) {
          throw error.within("field Edges");
        }
      }();
      if (found.how == Found::ByPosition)
        inputs.warn("the edge \"" + reference.first + " | " + reference.second + "\" was found by its position only");
      for (const auto& [body, edge] : found.edges) edges[body].push_back(edge);
    }
    StepResult result;
    for (const auto& [body, chosen] : edges) {
      if (inputs.shielded(body)) {
        inputs.warn("\"" + body + "\" is shielded and stays as it is");
        result.audit.shielded.push_back(body);
        continue;
      }
      const Shape before = inputs.shape(body);
      const Shape after = roundEdges(inputs.id(), before, chosen, inputs.number("radius"), progress);
      result.audit.touched.push_back(body);
      result.audit.volumeBefore += before.volume();
      result.audit.volumeAfter += after.volume();
      result.consumed.push_back(body);
      result.pieces.push_back({body, body, after.volume(), after.area(), after.roughBox().centre(), true, after});
      result.made.push_back({body, after, body, "", std::nullopt, ""});
    }
    if (result.made.empty()) throw Error("all of the bodies are shielded", "field Edges", "Unshield one of them");
    return result;
  }
};

}  // namespace

const StepKind& roundStep() {
  static const Round kind;
  return kind;
}

}  // namespace kervo
