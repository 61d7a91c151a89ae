#include "steps/shared/changed_bodies.h"

namespace kervo {

void replaceBody(StepResult& result, const BodyId& body, const Shape& before, const Shape& after) {
  result.audit.touched.push_back(body);
  result.audit.volumeBefore += before.volume();
  result.audit.volumeAfter += after.volume();
  result.consumed.push_back(body);
  result.pieces.push_back({body, body, after.volume(), after.area(), after.roughBox().centre(), true, after});
  result.made.push_back({body, after, body, "", std::nullopt, ""});
}

StepResult withEdgesBlended(
    StepInputs& inputs, const EdgesField& edges,
    const std::function<BlendedEdges(const Shape& before, const std::vector<Edge>& edges)>& blend) {
  StepResult result;
  for (const auto& [body, chosen] : edges.of(inputs)) {
    if (inputs.shielded(body)) {
      inputs.warn("\"" + body + "\" is shielded and stays as it is");
      result.audit.shielded.push_back(body);
      continue;
    }
    const Shape before = inputs.shape(body);
    const BlendedEdges after = blend(before, chosen);
    replaceBody(result, body, before, after.solid);
    const int more = after.edges - static_cast<int>(chosen.size());
    if (more > 0)
      result.audit.notes.push_back("\"" + body + "\": " + std::to_string(more) +
                                   (more == 1 ? " edge that continues" : " edges that continue") +
                                   " a picked one tangentially " + (more == 1 ? "goes" : "go") + " along");
  }
  if (result.made.empty()) edges.fail("all of the bodies are shielded", "Unshield one of them");
  return result;
}

}  // namespace kervo
