#include "steps/registry.h"

#include "steps/block.h"
#include "steps/bring_in.h"
#include "steps/combine.h"
#include "steps/cone.h"
#include "steps/cut.h"
#include "steps/cylinder.h"
#include "steps/drawing.h"
#include "steps/extrude.h"
#include "steps/group.h"
#include "steps/lift.h"
#include "steps/pattern.h"
#include "steps/place.h"
#include "steps/plane.h"
#include "steps/repair.h"
#include "steps/round.h"
#include "steps/score.h"
#include "steps/sphere.h"
#include "steps/split.h"
#include "steps/torus.h"

namespace kervo {

const StepKinds& allStepKinds() {
  static const StepKinds kinds({&bringInStep(), &blockStep(), &cylinderStep(), &coneStep(), &sphereStep(), &torusStep(),
                                &planeStep(), &drawingStep(), &cutStep(), &splitStep(), &combineStep(), &scoreStep(),
                                &groupStep(), &roundStep(), &extrudeStep(), &liftStep(), &placeStep(), &patternStep(),
                                &repairStep()});
  return kinds;
}

}  // namespace kervo
