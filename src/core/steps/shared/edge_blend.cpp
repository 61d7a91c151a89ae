#include "steps/shared/edge_blend.h"

#include <algorithm>

#include "base/say.h"
#include "fields/reference_parts.h"
#include "steps/shared/changed_bodies.h"

namespace kervo {

std::optional<std::string> EdgeBlend::offered(const Selected& selected) const {
  if (selected.anyOf(Picked::What::Edge)) return say("%1 edges …", say(label().c_str()));
  return selected.anyOf(Picked::What::Face) ? std::optional(say("%1 its edges …", say(label().c_str()))) : std::nullopt;
}

std::vector<double> ChosenEdges::own(const std::vector<double>& sizes) const {
  std::vector<double> result;
  for (const int index : picked)
    result.push_back(
        index >= 0 && static_cast<std::size_t>(index) < sizes.size() ? sizes[static_cast<std::size_t>(index)] : 0);
  return result;
}

void EdgeBlend::requireEnoughEdges(const Inputs& inputs, const SizesField& sizes) const {
  const std::size_t given = sizes.of(inputs).size(), edges = edges_.in(inputs).size();
  if (given > edges)
    sizes.fail(say("%1 sizes are given for %2 edges", given, edges), say("Pick more edges, or take sizes out"));
}

std::map<BodyId, ChosenEdges> EdgeBlend::chosen(StepInputs& inputs) const {
  std::map<BodyId, ChosenEdges> all;
  const auto add = [&](const BodyId& body, const Edge& edge, int picked = -1) {
    ChosenEdges& chosen = all[body];
    const auto same = [&](const Edge& each) { return isSameEdge(each, edge); };
    if (std::any_of(chosen.edges.begin(), chosen.edges.end(), same)) return;
    chosen.edges.push_back(edge);
    chosen.picked.push_back(picked);
  };
  const bool others = !around_.in(inputs).empty() || !rims_.in(inputs).step.empty();
  const std::vector<EdgeReference>& picked = edges_.in(inputs);
  if (!others && picked.empty()) edges_.fail(say("no edge is chosen"), say("Pick the edges"));
  for (std::size_t i = 0; i < picked.size(); ++i)
    for (const auto& [body, edge] : edgesFor(inputs, picked[i], edges_).edges) add(body, edge, static_cast<int>(i));
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
    const int more = after.edges - static_cast<int>(chosen.edges.size());
    if (more > 0)
      result.audit.notes.push_back(sayCount(more, "\"%2\": %1 edge that continues a picked one tangentially goes along",
                                            "\"%2\": %1 edges that continue a picked one tangentially go along", body));
  }
  if (result.made.empty()) edges_.fail(say("all of the bodies are shielded"), say("Unshield one of them"));
  return result;
}

}  // namespace kervo
