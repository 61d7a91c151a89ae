#include "model/shown.h"

#include <string_view>
#include <unordered_map>

#include "base/say.h"
#include "model/names_for_people.h"

namespace kervo {

namespace {

/// Goes through the steps again, with names and looks in place of shapes.
class Showing {
 public:
  Showing(Model model, const SeenHalf& seen) : model_(std::move(model)), seen_(seen) {}

  Model run() {
    model_.everShown.clear();
    for (StepReport& report : model_.steps) {
      call(report);
      if (!report.cause && report.result) take(*report.result, report.name);
    }
    for (StepReport& report : model_.sections) call(report);
    for (Body& body : model_.bodies) static_cast<ShownAs&>(body) = present_.at(body.id.text());
    for (Guide& guide : model_.guides) {
      static_cast<ShownAs&>(guide) = present_.at(guide.id.text());
      guide.visible = !guide.used;
      if (const auto set = seen_.bodies.find(guide.id); set != seen_.bodies.end())
        guide.visible = set->second.visible.value_or(guide.visible);
    }
    return std::move(model_);
  }

 private:
  void call(StepReport& report) const {
    const auto name = seen_.steps.find(report.id);
    report.name = name == seen_.steps.end() ? report.label : name->second;
    if (report.cause) report.error = report.cause->within(say("step \"%1\" (%2)", report.id, report.name));
  }

  void take(const StepResult& result, const std::string& stepName) {
    std::vector<ShownAs> made;
    made.reserve(result.made.size());
    for (const Output& output : result.made) {
      made.push_back(lookOf(output, stepName));
      // Names of later pieces may speak of earlier ones.
      model_.everShown.insert_or_assign(output.id, made.back());
    }
    for (const BodyId& id : result.consumed) present_.erase(id.text());
    for (std::size_t i = 0; i < made.size(); ++i)
      present_.insert_or_assign(result.made[i].id.text(), std::move(made[i]));
  }

  /// The look that the body inherits from its parent, with what a person set on it.
  ShownAs lookOf(const Output& made, const std::string& stepName) const {
    ShownAs look;
    if (const auto parent = present_.find(made.from.text()); parent != present_.end()) {
      look = parent->second;
      if (!made.name.empty()) look.name += ", " + withNames(made.name, model_, Quotes::Drop);
    } else {
      look.name = !made.name.empty() ? withNames(made.name, model_, Quotes::Drop) : stepName;
      look.layer = made.layer;
    }
    if (made.visible) look.visible = *made.visible;
    if (made.color) look.color = made.color;
    if (const auto found = seen_.bodies.find(made.id); found != seen_.bodies.end()) {
      const BodyLook& set = found->second;
      if (set.name) look.name = *set.name;
      if (set.color) look.color = set.color;
      if (set.layer) look.layer = *set.layer;
      if (set.visible) look.visible = *set.visible;
      if (set.material) look.material = *set.material;
      if (set.material || set.density) {
        const std::vector<Material>& materials = seen_.materials.empty() ? shippedMaterials() : seen_.materials;
        const Material* material = findMaterial(materials, look.material);
        look.density = set.density ? *set.density : material ? material->density : 0;
      }
    }
    return look;
  }

  Model model_;
  const SeenHalf& seen_;
  /// By the ids of what was made, which the model keeps.
  std::unordered_map<std::string_view, ShownAs> present_;
};

}  // namespace

Model shown(Model model, const SeenHalf& seen) {
  return Showing(std::move(model), seen).run();
}

}  // namespace kervo
