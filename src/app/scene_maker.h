// From models and trials to what the view shows.
#pragma once

#include "app/trial.h"
#include "view/overlay.h"
#include "view/scene.h"

namespace kervo::app {

/// The visible bodies, and the drawings that no step has used yet.
Scene sceneOf(const Made& made);
/// What goes, what stays in which pieces, and what cuts.
Scene sceneOf(const Tried& tried);
/// The bodies as they are before the step, to pick from; those picked already in their roles.
Scene pickingScene(const Tried& tried, const Step& step);

/// With the planes of the world in addition, a little larger than all that is there.
void addWorldPlanes(Scene& scene);
/// … and its axes.
void addWorldAxes(Scene& scene);

/// Sections that are on: what they take out of sight, of which bodies. Those that fail cut nothing.
void addSections(Scene& scene, const std::vector<StepReport>& sections, const Model& model, const Openings& openings);
/// "A" for the first one, whatever it is called.
std::string letterOf(const StepId& section, std::size_t place);

/// What steps of the model measured, where it is: "gap = 12.00 mm".
std::vector<MeasureMark> measureMarks(const Model& model, const std::string& unit);

/// The colour of a body that has none: a calm one from a row, always the same for the same id.
Color bodyColor(const Body& body);

}  // namespace kervo::app
