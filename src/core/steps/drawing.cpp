// Curves on a plane or planar face, and the regions they enclose.
#include <set>

#include "base/say.h"
#include "fields/curves_field.h"
#include "model/step_inputs.h"
#include "steps/registry.h"

namespace kervo {

namespace {

class DrawingStep : public StepKind {
 public:
  DrawingStep()
      : StepKind({.key = "drawing",
                  .label = "Drawing",
                  .menu = KindMenu::Draw,
                  .verb = "Draw on …",
                  .shortcut = "Ctrl+Shift+D",
                  .help = "Lines, arcs, circles and rectangles on a plane or planar face",
                  .needsBodies = false,
                  .makes = Makes::Drawing}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    const auto plane = selected.plane();
    if (!plane) return;
    start.set(plane_, *plane);
    if (plane->kind == PlanePick::Kind::OnFace) start.name = say("Drawing on %1", selected.planarFace()->name);
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    if (selected.nothing()) return say("Draw on a plane");
    return selected.plane() ? std::optional<std::string>(say("Draw on it")) : std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    std::set<std::string> ids;
    for (const DrawnCurve& curve : curves_.in(inputs))
      if (!ids.insert(curve.id).second)
        curves_.fail(say("two curves have the id \"%1\"", curve.id), say("Give one of them another id"));
    const Plane plane = plane_.of(inputs);
    const std::vector<PlanarCurve> curves = curves_.of(inputs);
    if (curves.empty()) inputs.warn(say("nothing is drawn yet"));
    DrawingResult drawing = DrawingResult::of(plane, curves, progress);
    if (!curves.empty() && drawing.regions.empty())
      inputs.warn(say("the curves enclose no region; as open lines they can split a body"));
    StepResult result;
    result.made.push_back({.id = inputs.id(), .form = std::make_shared<const DrawingResult>(std::move(drawing))});
    return result;
  }

 private:
  const PlaneField plane_{*this, {.key = "plane", .label = "Plane"}};
  const CurvesField curves_{*this, {.key = "curves", .label = "Curves"}, plane_};
};

}  // namespace

const StepKind& drawingStep() {
  static const DrawingStep kind;
  return kind;
}

}  // namespace kervo
