#include "steps/shared/edge_blend.h"

#include <algorithm>

#include "base/say.h"
#include "steps/shared/changed_bodies.h"

namespace kervo {

std::optional<std::string> EdgeBlend::offered(const Selected& selected) const {
  if (selected.anyOf(Picked::What::Edge)) return say("%1 edges …", say(label().c_str()));
  return selected.anyOf(Picked::What::Face) ? std::optional(say("%1 its edges …", say(label().c_str()))) : std::nullopt;
}

std::map<BodyId, std::vector<Edge>> EdgeBlend::chosen(StepInputs& inputs) const {
  std::map<BodyId, std::vector<Edge>> all;
  const auto add = [&](const BodyId& body, const Edge& edge) {
    std::vector<Edge>& edges = all[body];
    if (std::none_of(edges.begin(), edges.end(), [&](const Edge& each) { return isSameEdge(each, edge); }))
      edges.push_back(edge);
  };
  const bool others = !around_.in(inputs).empty() || !rims_.in(inputs).step.empty();
  if (!others || !edges_.in(inputs).empty())
    for (const auto& [body, edges] : edges_.of(inputs))
      for (const Edge& edge : edges) add(body, edge);
  if (!others) return all;
  const std::vector<Face> faces = around_.in(inputs).empty() ? std::vector<Face>() : around_.of(inputs);
  const StepId& maker = rims_.in(inputs).step;
  const auto madeThere = [&](const std::vector<std::string>& origins) {
    return std::any_of(origins.begin(), origins.end(), [&](const std::string& each) { return makerOf(each) == maker; });
  };
  bool found = maker.empty();
  for (const BodyId& body : inputs.members("")) {
    if (inputs.isMesh(body)) continue;
    const Shape shape = inputs.shape(body);
    for (const Face& face : faces)
      for (const Edge& edge : edgesAround(shape, face)) add(body, edge);
    if (maker.empty()) continue;
    for (const Edge& edge : edgesOf(shape)) {
      if (edge.secondOrigins().empty() || madeThere(edge.firstOrigins()) == madeThere(edge.secondOrigins())) continue;
      add(body, edge);
      found = true;
    }
  }
  if (!found)
    rims_.fail(say("no face that \"%1\" made meets another one", maker), say("Choose another step, or pick edges"));
  return all;
}

StepResult EdgeBlend::evaluate(StepInputs& inputs, Progress& progress) const {
  StepResult result;
  for (const auto& [body, chosen] : chosen(inputs)) {
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
