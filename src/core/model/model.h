// The model: what a document amounts to. Immutable once published.
#pragma once

#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "base/dimension_table.h"
#include "model/step.h"
#include "model/step_result.h"

namespace kervo {

/// How a body is seen: what shown() fills in.
struct ShownAs {
  std::string name;
  std::optional<Color> color;
  std::string layer;
  bool visible = true;
  double density = 0;  ///< kg/m³; 0 if not set
};

/// A body as it is after the last step.
struct Body : ShownAs {
  BodyId id;
  Shape shape;
  bool shielded = false;   ///< no step cuts it
  bool holeMaker = false;  ///< taken away from the group that it is put into
};

enum class StepState { Made, Failed, Off };
const char* nameOf(StepState state);

/// What became of one step.
struct StepReport {
  StepId id;
  std::string kind;
  std::string label;  ///< the kind's, for people
  std::string name;   ///< what the step is called: filled in by shown()
  StepState state = StepState::Made;
  std::optional<Error> cause;  ///< of a failed step: the bodies are as they were before it
  std::optional<Error> error;  ///< the cause with the step as its place: filled in by shown()
  bool fromMemo = false;
  double seconds = 0;
  double volumeChange = 0;                   ///< mm³
  std::shared_ptr<const StepResult> result;  ///< null for a failed or switched-off step
  std::shared_ptr<const Finding> finding;    ///< also of a failed step; null if there is nothing to show

  /// The drawing that the step made, or null.
  const DrawingResult* drawing() const {
    if (!result) return nullptr;
    const auto& made = result->drawing;
    return made ? &*made : nullptr;
  }
};

struct Model {
  DimensionTable dimensions;
  std::vector<StepReport> steps;
  std::vector<Body> bodies;
  /// All bodies that were there after some step, also those that later ones used up: filled in by shown().
  std::map<BodyId, ShownAs> everShown;

  /// The body of that id, or null.
  const Body* find(const BodyId& id) const;
  bool failed() const;
};

}  // namespace kervo
