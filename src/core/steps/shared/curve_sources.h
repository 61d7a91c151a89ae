// Fields for curves that a step follows: a drawing, curve bodies, or edges.
#pragma once

#include <string>
#include <vector>

#include "fields/bodies_field.h"
#include "fields/edges_field.h"
#include "fields/step_field.h"
#include "model/step_inputs.h"

namespace kervo {

class CurveSources {
 public:
  struct Keys {
    std::string drawing, curves, edges;
  };
  struct Labels {
    std::string drawing, curves, edges;
  };
  CurveSources(FieldTable& table, const Keys& keys, const Labels& labels, Well well, const When& when = {});

  /// All that is chosen as one curve body; empty if nothing is. Throws an Error at the field for a body that is no
  /// curve, and a step that draws nothing.
  Shape of(StepInputs& inputs) const;
  /// … and throws one with this text if nothing is chosen.
  Shape forSure(StepInputs& inputs, const std::string& why) const;
  /// The drawing chosen; null if none is.
  const DrawingResult* drawn(StepInputs& inputs) const;

  const StepField drawing;
  const BodiesField curves;
  const EdgesField edges;
};

/// The curves of a drawing.
std::vector<SpaceCurve> curvesOf(const DrawingResult& drawing);

}  // namespace kervo
