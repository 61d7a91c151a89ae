#include "fields/edges_field.h"

#include "base/say.h"
#include "fields/field_of.h"
#include "fields/json_parts.h"
#include "fields/reference_parts.h"

namespace kervo {

template class FieldOf<std::vector<EdgeReference>>;

std::map<BodyId, std::vector<Edge>> EdgesField::of(Inputs& inputs) const {
  if (in(inputs).empty()) fail(say("no edge is chosen"), say("Pick the edges"));
  std::map<BodyId, std::vector<Edge>> edges;
  for (const EdgeReference& reference : in(inputs))
    for (const auto& [body, edge] : edgesFor(inputs, reference, *this).edges) edges[body].push_back(edge);
  return edges;
}

Edge EdgesField::first(Inputs& inputs) const {
  if (in(inputs).empty()) fail(say("no edge is chosen"), say("Pick an edge"));
  return edgesFor(inputs, in(inputs).front(), *this).edges.front().second;
}

nlohmann::json EdgesField::print(const std::vector<EdgeReference>& value) const {
  nlohmann::json result = nlohmann::json::array();
  for (const EdgeReference& each : value) result.push_back(kervo::toJson(each));
  return result;
}

std::vector<EdgeReference> EdgesField::parse(const nlohmann::json& json, const std::string& place) const {
  return listFrom<EdgeReference>(json, place, edgeFrom);
}

void EdgesField::hash(Hasher& hasher, const std::vector<EdgeReference>& value) const {
  addTo(hasher, value);
}

void EdgesField::references(std::set<StepId>& steps, const std::vector<EdgeReference>& value) const {
  for (const EdgeReference& each : value) kervo::addSteps(steps, each);
}

}  // namespace kervo
