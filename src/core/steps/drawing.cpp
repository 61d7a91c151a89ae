#include "steps/drawing.h"

#include <set>

#include "steps/simple_step.h"

namespace kervo {

namespace {

class DrawingStep : public SimpleStep {
 public:
  DrawingStep()
      : SimpleStep("drawing", "Drawing",
                   {{.key = "plane", .label = "Plane", .type = FieldType::Plane, .defaultText = "xy"},
                    {.key = "curves", .label = "Curves", .type = FieldType::Curves}}) {}

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    std::set<std::string> ids;
    for (const DrawnCurve& curve : inputs.value<std::vector<DrawnCurve>>("curves"))
      if (!ids.insert(curve.id).second)
        throw Error("two curves have the id \"" + curve.id + "\"", "field Curves", "Give one of them another id");
    const Plane plane = inputs.plane("plane");
    const std::vector<PlanarCurve> curves = inputs.curves("curves");
    if (curves.empty()) inputs.warn("nothing is drawn yet");
    StepResult result;
    result.drawing = DrawingResult{plane, findRegions(plane, curves, progress), {}, {}};
    result.drawing->paths = findPaths(plane, curves, result.drawing->regions);
    for (const PlanarCurve& curve : curves) result.drawing->lines.push_back(outlineOf(curve, plane));
    if (!curves.empty() && result.drawing->regions.empty())
      inputs.warn("the curves enclose no region; as open lines they can split a body");
    return result;
  }
};

}  // namespace

const StepKind& drawingStep() {
  static const DrawingStep kind;
  return kind;
}

}  // namespace kervo
