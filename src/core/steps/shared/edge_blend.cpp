#include "steps/shared/edge_blend.h"

#include "base/say.h"
#include "steps/shared/changed_bodies.h"

namespace kervo {

std::optional<std::string> EdgeBlend::offered(const Selected& selected) const {
  if (selected.anyOf(Picked::What::Edge)) return say("%1 edges …", say(label().c_str()));
  return selected.anyOf(Picked::What::Face) ? std::optional(say("%1 its edges …", say(label().c_str()))) : std::nullopt;
}

StepResult EdgeBlend::evaluate(StepInputs& inputs, Progress& progress) const {
  StepResult result;
  for (const auto& [body, chosen] : edges_.of(inputs)) {
    if (inputs.shielded(body)) {
      inputs.warn(say("\"%1\" is shielded and stays as it is", body));
      result.audit.shielded.push_back(body);
      continue;
    }
    const Shape before = inputs.shape(body);
    const BlendedEdges after = blended(inputs, before, chosen, progress);
    replaceBody(result, body, before, after.solid);
    const int more = after.edges - static_cast<int>(chosen.size());
    if (more > 0)
      result.audit.notes.push_back(sayCount(more, "\"%2\": %1 edge that continues a picked one tangentially goes along",
                                            "\"%2\": %1 edges that continue a picked one tangentially go along", body));
  }
  if (result.made.empty()) edges_.fail(say("all of the bodies are shielded"), say("Unshield one of them"));
  return result;
}

}  // namespace kervo
