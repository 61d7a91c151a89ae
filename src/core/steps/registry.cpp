#include "steps/registry.h"

namespace kervo {

const StepKinds& allStepKinds() {
#define KERVO_ENTRY(name) &name##Step(),
  static const StepKinds kinds({KERVO_STEP_KINDS(KERVO_ENTRY)});
#undef KERVO_ENTRY
  return kinds;
}

}  // namespace kervo
