#include "steps/shared/edge_blend.h"

#include "steps/shared/changed_bodies.h"

namespace kervo {

std::optional<std::string> EdgeBlend::offered(const Selected& selected) const {
  if (selected.anyOf(Picked::What::Edge)) return label() + " edges …";
  return selected.anyOf(Picked::What::Face) ? std::optional(label() + " its edges …") : std::nullopt;
}

StepResult EdgeBlend::evaluate(StepInputs& inputs, Progress& progress) const {
  StepResult result;
  for (const auto& [body, chosen] : edges_.of(inputs)) {
    if (inputs.shielded(body)) {
      inputs.warn("\"" + body + "\" is shielded and stays as it is");
      result.audit.shielded.push_back(body);
      continue;
    }
    const Shape before = inputs.shape(body);
    const BlendedEdges after = blended(inputs, before, chosen, progress);
    replaceBody(result, body, before, after.solid);
    const int more = after.edges - static_cast<int>(chosen.size());
    if (more > 0)
      result.audit.notes.push_back("\"" + body + "\": " + std::to_string(more) +
                                   (more == 1 ? " edge that continues" : " edges that continue") +
                                   " a picked one tangentially " + (more == 1 ? "goes" : "go") + " along");
  }
  if (result.made.empty()) edges_.fail("all of the bodies are shielded", "Unshield one of them");
  return result;
}

}  // namespace kervo
