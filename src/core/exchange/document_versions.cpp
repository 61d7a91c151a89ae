#include "exchange/document_versions.h"

#include <nlohmann/json.hpp>

#include "exchange/document_json.h"

namespace kervo {

using nlohmann::json;

namespace {

void move(json& from, json& to, const char* key) {
  if (!from.contains(key)) return;
  to[key] = std::move(from[key]);
  from.erase(key);
}

/// Version 1 had names beside the fields of steps, looks beside the treatment of bodies, and limits at the top.
void fromVersion1(json& document) {
  json seen = json::object();
  if (document.contains("steps") && document["steps"].is_array())
    for (json& step : document["steps"])
      if (step.is_object() && step.contains("name") && step.contains("id") && step["id"].is_string()) {
        const bool meantNone = step["name"].is_string() && step["name"].get<std::string>().empty();
        if (!meantNone) seen["steps"][step["id"].get<std::string>()] = step["name"];
        step.erase("name");
      }
  if (document.contains("bodies") && document["bodies"].is_object()) {
    for (auto& [id, body] : document["bodies"].items()) {
      if (!body.is_object()) continue;
      json look = json::object();
      for (const char* key : {"name", "color", "layer", "visible", "density"}) move(body, look, key);
      if (!look.empty()) seen["bodies"][id] = std::move(look);
    }
    std::erase_if(document["bodies"].get_ref<json::object_t&>(),
                  [](const auto& body) { return body.second.is_object() && body.second.empty(); });
  }
  move(document, seen, "limits");
  if (!seen.empty()) document["seen"] = std::move(seen);
}

}  // namespace

void bringUpToDate(json& document) {
  if (document["version"] == 1) fromVersion1(document);
  document["version"] = documentVersion;
}

}  // namespace kervo
