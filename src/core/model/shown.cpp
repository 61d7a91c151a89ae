#include "model/shown.h"

#include <algorithm>
#include <map>
#include <string_view>
#include <unordered_map>

#include "base/say.h"
#include "model/names_for_people.h"

namespace kervo {

namespace {

/// Goes through the steps again, with names and looks in place of shapes.
class Showing {
 public:
  Showing(Model model, const SeenHalf& seen) : model_(std::move(model)), seen_(seen) { sightOfLevels(); }

  Model run() {
    model_.everShown.clear();
    for (StepReport& report : model_.steps) {
      call(report);
      if (!report.cause && report.result) take(*report.result, report);
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
  /// What is on no level stays in sight.
  void sightOfLevels() {
    using Show = LevelSight::Show;
    const auto working = std::find_if(model_.levels.begin(), model_.levels.end(),
                                      [&](const LevelNow& level) { return level.name == seen_.levels.working; });
    if (seen_.levels.show == Show::All || working == model_.levels.end()) return;
    const double here = working->height.value_or(0);
    for (const LevelNow& level : model_.levels) {
      const bool below = level.height && level.height.value_or(0) < here;
      const bool faded = seen_.levels.show == Show::Below && below;
      sights_[level.name] = faded ? ShownAs::Sight::Faded : ShownAs::Sight::Hidden;
    }
    sights_[working->name] = ShownAs::Sight::Shown;
  }

  void call(StepReport& report) const {
    const auto name = seen_.steps.find(report.id);
    report.name = name == seen_.steps.end() ? report.label : name->second;
    if (report.cause) report.error = report.cause->within(say("step \"%1\" (%2)", report.id, report.name));
  }

  void take(const StepResult& result, const StepReport& report) {
    std::vector<ShownAs> made;
    made.reserve(result.made.size());
    for (const Output& output : result.made) {
      const auto& consumed = result.consumed;
      const bool copied = std::find(consumed.begin(), consumed.end(), output.from) == consumed.end();
      made.push_back(lookOf(output, report, copied));
      // Names of later pieces may speak of earlier ones.
      model_.everShown.insert_or_assign(output.id, made.back());
    }
    for (const BodyId& id : result.consumed) present_.erase(id.text());
    for (std::size_t i = 0; i < made.size(); ++i)
      present_.insert_or_assign(result.made[i].id.text(), std::move(made[i]));
  }

  /// On a level, and on the layer of what is new there. One that is not there any more is none.
  void putOn(ShownAs& look, const std::string& level) const {
    const auto found = std::find_if(model_.levels.begin(), model_.levels.end(),
                                    [&](const LevelNow& each) { return each.name == level; });
    look.level = found == model_.levels.end() ? std::string() : level;
    if (found != model_.levels.end()) look.layer = found->layer;
  }

  /// The look that the body inherits from its parent, with what a person set on it. `copied`: the parent, if any,
  /// stays.
  ShownAs lookOf(const Output& made, const StepReport& report, bool copied) const {
    ShownAs look;
    const auto ofStep = seen_.onLevels.find(report.id);
    if (const auto parent = present_.find(made.from.text()); parent != present_.end()) {
      look = parent->second;
      if (!made.name.empty()) look.name += ", " + withNames(made.name, model_, Quotes::Drop);
      if (copied && ofStep != seen_.onLevels.end()) putOn(look, ofStep->second);
    } else {
      look.name = !made.name.empty() ? withNames(made.name, model_, Quotes::Drop) : report.name;
      if (ofStep != seen_.onLevels.end()) putOn(look, ofStep->second);
      if (!made.layer.empty()) look.layer = made.layer;
      look.within = made.within;
    }
    if (made.visible) look.visible = *made.visible;
    if (made.color) look.color = made.color;
    if (const auto found = seen_.bodies.find(made.id); found != seen_.bodies.end()) {
      const BodyLook& set = found->second;
      if (set.name) look.name = *set.name;
      if (set.color) look.color = set.color;
      if (set.level) putOn(look, *set.level);
      if (set.layer) look.layer = *set.layer;
      if (set.within) look.within = *set.within;
      if (set.visible) look.visible = *set.visible;
      if (set.faded) look.faded = *set.faded;
      if (set.material) look.material = *set.material;
      if (set.material || set.density) {
        const std::vector<Material>& materials = seen_.materials.empty() ? shippedMaterials() : seen_.materials;
        const Material* material = findMaterial(materials, look.material);
        look.density = set.density ? *set.density : material ? material->density : 0;
      }
    }
    const auto sight = sights_.find(look.level);
    look.sight = sight == sights_.end() ? ShownAs::Sight::Shown : sight->second;
    return look;
  }

  Model model_;
  const SeenHalf& seen_;
  std::map<std::string, ShownAs::Sight> sights_;  ///< by levels
  /// By the ids of what was made, which the model keeps.
  std::unordered_map<std::string_view, ShownAs> present_;
};

}  // namespace

Model shown(Model model, const SeenHalf& seen) {
  return Showing(std::move(model), seen).run();
}

}  // namespace kervo
