// References as parts of values: written, read, compared, and found again in what is there now.
#pragma once

#include <nlohmann/json_fwd.hpp>
#include <set>
#include <string>
#include <vector>

#include "base/hash.h"
#include "fields/inputs.h"
#include "fields/reference.h"

namespace kervo {

nlohmann::json toJson(const FaceReference& face);
nlohmann::json toJson(const EdgeReference& edge);
nlohmann::json toJson(const PointReference& point);
/// They throw FileError naming `place`.
FaceReference faceFrom(const nlohmann::json& json, const std::string& place);
EdgeReference edgeFrom(const nlohmann::json& json, const std::string& place);
PointReference pointReferenceFrom(const nlohmann::json& json, const std::string& place);

void addTo(Hasher& hasher, const FaceReference& face);
void addTo(Hasher& hasher, const EdgeReference& edge);
void addTo(Hasher& hasher, const PointReference& point);
template <class T>
void addTo(Hasher& hasher, const std::vector<T>& list) {
  hasher.add(static_cast<std::uint64_t>(list.size()));
  for (const T& each : list) addTo(hasher, each);
}

/// The steps that made what is referred to.
void addSteps(std::set<StepId>& steps, const FaceReference& face);
void addSteps(std::set<StepId>& steps, const EdgeReference& edge);
void addSteps(std::set<StepId>& steps, const PointReference& point);

/// What the reference of a field means now, with a warning where only its position told. They throw an Error at the
/// field if it is lost. Bodies other than the named one are looked at, and the step made to depend on them, only if
/// that does not do.
Face faceFor(Inputs& inputs, const FaceReference& reference, const Field& field);
FoundEdges edgesFor(Inputs& inputs, const EdgeReference& reference, const Field& field);
Point pointFor(Inputs& inputs, const PointReference& reference, const Field& field);

}  // namespace kervo
