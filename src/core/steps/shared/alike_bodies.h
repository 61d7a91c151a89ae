// What is done to one body, done to every other instance of the same part as well.
#pragma once

#include "fields/bodies_field.h"
#include "fields/choice_field.h"
#include "model/step_inputs.h"
#include "model/step_result.h"

namespace kervo {

/// Whether bodies that are the same part as one of the stock stay as they are.
enum class BodiesAlike { Stay, Likewise };

/// The choice, in the stock well.
class AlikeField : public ChoiceField<BodiesAlike> {
 public:
  explicit AlikeField(FieldTable& table, When when = {});

  /// If so chosen: gives every body that is the same part (motionOnto()) as one that the step has touched the same
  /// result, at its own place, and says so. Left alone are shielded ones (which are named), those that the step has
  /// touched or used up itself, and `others`: its cutters. Volumes of the audit grow by theirs.
  void carry(StepResult& result, StepInputs& inputs, const std::vector<BodyId>& others, Progress& progress) const;
};

}  // namespace kervo
