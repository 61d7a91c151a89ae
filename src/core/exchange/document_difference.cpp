#include "exchange/document_difference.h"

#include <map>
#include <nlohmann/json.hpp>

#include "base/say.h"
#include "exchange/document_json.h"

namespace kervo {

namespace {

using nlohmann::json;

/// Steps without a name of their own are told apart by their ids.
std::string nameIn(const Document& document, const Step& step) {
  const std::string& name = document.nameOf(step);
  return document.seen.steps.contains(step.id()) ? name : name + " \"" + step.id() + "\"";
}

std::string shown(const json& value) {
  return value.is_null() ? "" : value.is_string() ? value.get<std::string>() : value.dump();
}

class Comparison {
 public:
  Comparison(const Document& here, const Document& there)
      : here_(here),
        there_(there),
        jsonHere_(json::parse(documentToJson(here))),
        jsonThere_(json::parse(documentToJson(there))) {}

  std::vector<DocumentDifference> run() {
    add(say("length unit"), jsonHere_["unit"], jsonThere_["unit"]);
    named("dimensions", "name", "is", say("dimension "));
    entries(byName(valueAt(jsonHere_, "levels"), "name"), byName(valueAt(jsonThere_, "levels"), "name"), say("level "));
    steps();
    keyed(jsonHere_, jsonThere_, "bodies", say("body "));
    const json seenHere = jsonHere_["seen"], seenThere = jsonThere_["seen"];
    keyed(seenHere, seenThere, "bodies", say("body "));
    keyed(seenHere, seenThere, "limits", say("limit for "));
    keyed(seenHere, seenThere, "on_levels", say("level of step "));
    keyed(seenHere, seenThere, "levels", say("levels, "));
    const auto listed = [&](const char* key, const char* name, const std::string& label) {
      entries(byName(valueAt(seenHere, key), name), byName(valueAt(seenThere, key), name), label);
    };
    listed("sections", "id", say("section "));
    listed("views", "name", say("view "));
    listed("materials", "name", say("material "));
    return std::move(found_);
  }

 private:
  void add(const std::string& what, const json& here, const json& there) {
    if (here != there) found_.push_back({what, shown(here), shown(there)});
  }

  static json valueAt(const json& object, const std::string& key) {
    return object.is_object() && object.contains(key) ? object[key] : json();
  }

  void named(const char* list, const char* name, const char* value, const std::string& label) {
    std::map<std::string, std::pair<json, json>> rows;
    for (const json& row : jsonHere_[list]) rows[row[name].get<std::string>()].first = row[value];
    for (const json& row : jsonThere_[list]) rows[row[name].get<std::string>()].second = row[value];
    for (const auto& [key, values] : rows) add(label + key, values.first, values.second);
  }

  void keyed(const json& documentHere, const json& documentThere, const std::string& key, const std::string& label) {
    entries(valueAt(documentHere, key), valueAt(documentThere, key), label);
  }

  void entries(const json& here, const json& there, const std::string& label) {
    json all = here.is_object() ? here : json::object();
    if (there.is_object()) all.update(there);
    for (const auto& item : all.items()) add(label + item.key(), valueAt(here, item.key()), valueAt(there, item.key()));
  }

  /// The entries of a list by the names in them.
  static json byName(const json& list, const char* name) {
    json entries = json::object();
    for (const json& entry : list) entries[entry[name].get<std::string>()] = entry;
    return entries;
  }

  static std::map<StepId, std::pair<const json*, std::size_t>> byId(const json& document) {
    std::map<StepId, std::pair<const json*, std::size_t>> result;
    std::size_t place = 0;
    for (const json& step : document["steps"]) result[step["id"].get<std::string>()] = {&step, ++place};
    return result;
  }

  void steps() {
    const auto here = byId(jsonHere_), there = byId(jsonThere_);
    for (const auto& step : here_.made.steps) {
      const auto other = there.find(step->id());
      if (other == there.end())
        found_.push_back({nameIn(here_, *step), say("step %1", here.at(step->id()).second), ""});
      else
        fields(*step, *here.at(step->id()).first, *other->second.first);
    }
    for (const auto& step : there_.made.steps)
      if (!here.contains(step->id()))
        found_.push_back({nameIn(there_, *step), "", say("step %1", there.at(step->id()).second)});
    order();
  }

  void fields(const Step& step, const json& here, const json& there) {
    const std::string name = nameIn(here_, step);
    for (const char* key : {"kind", "on"}) add(name + ", " + key, valueAt(here, key), valueAt(there, key));
    const auto ownName = [&](const json& document) { return valueAt(valueAt(document["seen"], "steps"), step.id()); };
    add(say("%1, name", name), ownName(jsonHere_), ownName(jsonThere_));
    for (const Field* field : step.kind().fields())
      add(name + ", " + field->label(), valueAt(valueAt(here, "fields"), field->key()),
          valueAt(valueAt(there, "fields"), field->key()));
  }

  /// Steps that both have, in another order.
  void order() {
    const auto common = [](const Document& of, const Document& other) {
      std::string names;
      for (const auto& step : of.made.steps)
        if (other.find(step->id())) names += (names.empty() ? "" : ", ") + nameIn(of, *step);
      return names;
    };
    const auto ids = [](const Document& of, const Document& other) {
      std::vector<StepId> result;
      for (const auto& step : of.made.steps)
        if (other.find(step->id())) result.push_back(step->id());
      return result;
    };
    if (ids(here_, there_) != ids(there_, here_))
      found_.push_back({say("order of the steps"), common(here_, there_), common(there_, here_)});
  }

  const Document& here_;
  const Document& there_;
  json jsonHere_, jsonThere_;
  std::vector<DocumentDifference> found_;
};

}  // namespace

std::vector<DocumentDifference> differencesBetween(const Document& here, const Document& there) {
  return Comparison(here, there).run();
}

}  // namespace kervo
