// All kinds of step there are.
#pragma once

#include "model/step_kind.h"

/// One line a kind, in the order of the menus: NAME stands for nameStep(), in the source file of the kind.
#define KERVO_STEP_KINDS(KIND) \
  KIND(bringIn)                \
  KIND(drawing)                \
  KIND(plane)                  \
  KIND(axis)                   \
  KIND(point)                  \
  KIND(block)                  \
  KIND(cylinder)               \
  KIND(cone)                   \
  KIND(sphere)                 \
  KIND(torus)                  \
  KIND(extrude)                \
  KIND(revolve)                \
  KIND(wall)                   \
  KIND(cut)                    \
  KIND(holes)                  \
  KIND(thread)                 \
  KIND(hollow)                 \
  KIND(key)                    \
  KIND(inlay)                  \
  KIND(buildSize)              \
  KIND(mould)                  \
  KIND(openThrough)            \
  KIND(split)                  \
  KIND(combine)                \
  KIND(score)                  \
  KIND(lift)                   \
  KIND(trim)                   \
  KIND(intersect)              \
  KIND(extend)                 \
  KIND(loft)                   \
  KIND(sweep)                  \
  KIND(blend)                  \
  KIND(patch)                  \
  KIND(offsetSurface)          \
  KIND(thicken)                \
  KIND(sew)                    \
  KIND(makeSolid)              \
  KIND(unsew)                  \
  KIND(flipSurface)            \
  KIND(makeMesh)               \
  KIND(reduceMesh)             \
  KIND(refineMesh)             \
  KIND(curve)                  \
  KIND(throughPoints)          \
  KIND(project)                \
  KIND(join)                   \
  KIND(lengthen)               \
  KIND(controlPoint)           \
  KIND(refit)                  \
  KIND(round)                  \
  KIND(chamfer)                \
  KIND(shiftOpening)           \
  KIND(resizeOpening)          \
  KIND(copyOpening)            \
  KIND(closeOpening)           \
  KIND(shiftFaces)             \
  KIND(removeFaces)            \
  KIND(place)                  \
  KIND(pattern)                \
  KIND(group)                  \
  KIND(takeApart)              \
  KIND(repair)                 \
  KIND(recognise)              \
  KIND(section)                \
  KIND(slices)                 \
  KIND(measure)

namespace kervo {

#define KERVO_DECLARE(name) const StepKind& name##Step();
KERVO_STEP_KINDS(KERVO_DECLARE)
#undef KERVO_DECLARE

const StepKinds& allStepKinds();

}  // namespace kervo
