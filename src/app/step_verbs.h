// The verbs that make steps, and those for groups.
#pragma once

#include <optional>

#include "app/desk.h"
#include "model/selected.h"

namespace kervo::app {

/// Puts a new step of that kind on the Bench, filled from the selection.
void startStep(Desk& desk, const StepKind& kind, const Selected& selected);
/// Puts a measured dimension on the Bench: `what`, as its field has it, of what is selected.
void startMeasure(Desk& desk, const Selected& selected, const std::string& what);
/// Begins with a drawing, filled from the selection; made, it is what a step of the kind begins with.
void drawFirst(Desk& desk, const StepKind& kind, const Selected& selected);

/// The step that brought in what is selected, a body or the step itself.
std::optional<StepId> broughtInBy(const Desk& desk);

/// Opens a closed group, or closes an open one behind everything that was done to its members.
void toggleGroup(Desk& desk, const StepId& id);
/// Marks the selected bodies as hole-makers, or takes the mark away.
void toggleHoleMaker(Desk& desk);

}  // namespace kervo::app
