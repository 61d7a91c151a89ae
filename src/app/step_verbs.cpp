#include "app/step_verbs.h"

#include "app/selected.h"
#include "model/document_edits.h"
#include "steps/registry.h"

namespace kervo::app {

namespace {

void begin(Desk& desk, const StepKind& kind, const Selected& selected, std::function<void()> then = {}) {
  Start start;
  kind.startFrom(selected, start);
  desk.trial.begin(Step(desk.session.document().freeId(kind.key()), kind, start.fields), std::move(then), start.name);
}

}  // namespace

void startStep(Desk& desk, const StepKind& kind, const Selected& selected) {
  begin(desk, kind, selected);
}

void startMeasure(Desk& desk, const Selected& selected, const std::string& what) {
  const StepKind& kind = allStepKinds().measuring();
  Start start;
  kind.startFrom(selected, start);
  start.fields.insert_or_assign("what", FieldValue(what));
  desk.trial.begin(Step(desk.session.document().freeId(kind.key()), kind, start.fields), {}, start.name);
}

void drawFirst(Desk& desk, const StepKind& kind, const Selected& selected) {
  begin(desk, allStepKinds().drawing(), selected, [&desk, &kind] { startStep(desk, kind, SelectedNow(desk).get()); });
}

std::optional<StepId> broughtInBy(const Desk& desk) {
  StepId id = desk.selection.step();
  if (const auto bodies = desk.selection.bodies(); !bodies.empty()) id = bodies.front().step();
  const auto step = desk.session.document().find(id);
  if (!step || &step->kind() != &allStepKinds().bringingIn()) return std::nullopt;
  return id;
}

void toggleGroup(Desk& desk, const StepId& id) {
  const auto step = desk.session.document().find(id);
  if (!step) return;
  const bool open = !step->on();
  desk.session.edit(
      open ? QObject::tr("Close the group") : QObject::tr("Open the group"), [&](const Document& document) {
        if (!open) return document.withReplaced(step->switched(false));
        const Document closed = document.withReplaced(step->switched(true));
        // Members may have been changed by steps that now stand behind it.
        return stepsThatRead(document, id).empty() ? withStepMoved(closed, id, closed.made.steps.size()) : closed;
      });
}

void toggleHoleMaker(Desk& desk) {
  const auto bodies = desk.selection.bodies();
  if (bodies.empty()) return;
  const Body* first = desk.session.made()->model->find(bodies.front());
  const bool makes = !(first && first->holeMaker);
  desk.session.edit(makes ? QObject::tr("Hole-maker") : QObject::tr("Make it solid again"),
                    [&](const Document& document) {
                      Document result = document;
                      for (const BodyId& body : bodies) {
                        BodyTreatment treatment = result.treatmentOf(body);
                        treatment.holeMaker = makes;
                        result = result.withBody(body, treatment);
                      }
                      return result;
                    });
}

}  // namespace kervo::app
