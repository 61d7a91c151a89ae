// Curves on a plane or planar face, and the regions they enclose.
#include "base/say.h"
#include "drawing/constraint_kind.h"
#include "fields/drawing_field.h"
#include "fields/taken_field.h"
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
                  .help = "Curves with constraints on a plane or planar face",
                  .needsBodies = false,
                  .makes = Makes::Drawing}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    const auto plane = selected.planeToDrawOn();
    if (!plane) return;
    start.set(plane_, *plane);
    if (plane->kind == PlanePick::Kind::OnFace) start.name = say("Drawing on %1", selected.planarFace()->name);
    if (plane->kind == PlanePick::Kind::AtHeight) start.name = say("Drawing on %1", selected.level);
    // A planar surface, such as a slice, is drawn on to go on from its outline.
    const Picked* face = selected.planarFace();
    if (plane->kind == PlanePick::Kind::OnFace && face->bodyKind == BodyKind::Surface)
      start.set(taken_, {{.id = "t1", .what = TakenAlong::What::Outline, .edge = {}, .face = face->face, .body = {}}});
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    if (selected.nothing()) return selected.level.empty() ? say("Draw on a plane") : say("Draw on %1", selected.level);
    if (selected.plane()) return say("Draw on it");
    return selected.planeToDrawOn() ? std::optional(say("Draw on its tangent plane")) : std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    const Plane plane = plane_.of(inputs);
    const Drawing& drawn = drawing_.in(inputs);
    DrawingValues values = drawing_.valuesOf(inputs);
    values.taken = taken_.on(inputs, plane, progress);
    try {
      requireSound(drawn, values.taken);
    } catch (const Error& error) {
      throw error.within(drawing_.place());
    }
    const Solution solution = solve(drawn, values);
    for (const Conflict& conflict : solution.conflicts) inputs.finding().conflicts.push_back(conflict);
    if (!solution.holds()) failFor(solution.conflicts.front(), drawn);
    const bool nothing = drawn.curves.empty() && values.taken.empty();
    if (nothing) inputs.warn(say("nothing is drawn yet"));
    DrawingResult drawing = DrawingResult::of(plane, drawn, values, solution, progress);
    if (!nothing && drawing.regions.empty())
      inputs.warn(say("the curves enclose no region; as open lines they can split a body"));
    StepResult result;
    result.made.push_back({.id = inputs.id(), .form = std::make_shared<const DrawingResult>(std::move(drawing))});
    return result;
  }

 private:
  [[noreturn]] void failFor(const Conflict& conflict, const Drawing& drawing) const {
    const auto spoken = [&](const std::string& id) {
      for (const DrawnConstraint& each : drawing.constraints)
        if (each.id == id) return say("%1 (%2)", id, say(findConstraintKind(each.kind)->label));
      return id;
    };
    const std::string which = spoken(conflict.constraint);
    if (conflict.with.empty())
      drawing_.fail(say("the constraint %1 cannot hold: %2", which, conflict.reason),
                    say("Change its value, or remove it"));
    std::string others;
    for (const std::string& id : conflict.with)
      others = others.empty() ? spoken(id) : say("%1, %2", others, spoken(id));
    drawing_.fail(say("the constraint %1 contradicts %2", which, others), say("Change or remove one of them"));
  }

  const PlaneField plane_{*this, {.key = "plane", .label = "Plane"}};
  const TakenField taken_{*this,
                          {.key = "taken", .label = "Taken along", .help = "What follows bodies and can be drawn to"}};
  const DrawingField drawing_{*this, {.key = "curves", .label = "Curves"}, plane_, &taken_};
};

}  // namespace

const StepKind& drawingStep() {
  static const DrawingStep kind;
  return kind;
}

}  // namespace kervo
