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

/// A body as it is after the last step.
struct Body {
  BodyId id;
  std::string name;
  Shape shape;
  std::optional<Color> color;
  std::string layer;
  bool visible = true;
  bool shielded = false;   ///< no step cuts it
  bool holeMaker = false;  ///< taken away from the group that it is put into
  double density = 0;      ///< kg/m³; 0 if not set
};

enum class StepState { Made, Failed, Off };
const char* nameOf(StepState state);

/// What became of one step.
struct StepReport {
  StepId id;
  std::string kind;
  std::string name;
  StepState state = StepState::Made;
  std::optional<Error> error;  ///< of a failed step: the bodies are as they were before it
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
  /// What all bodies are called that were there after some step, also those that later ones used up.
  std::map<BodyId, std::string> names;

  /// The body of that id, or null.
  const Body* find(const BodyId& id) const;
  bool failed() const;
};

}  // namespace kervo
