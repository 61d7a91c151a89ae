#include "steps/lift.h"

#include "geom/sheet.h"
#include "steps/simple_step.h"

namespace kervo {

namespace {

class Lift : public SimpleStep {
 public:
  Lift()
      : SimpleStep("lift", "Lift",
                   {{.key = "faces",
                     .label = "Faces",
                     .type = FieldType::Faces,
                     .well = Well::Stock,
                     .help = "The surface follows these faces when they change"}}) {}

  StepResult evaluate(StepInputs& inputs, Progress&) const override {
    const auto& references = inputs.value<std::vector<FaceReference>>("faces");
    if (references.empty()) throw Error("no face is chosen", "field Faces", "Pick the faces to lift");
    std::vector<Face> faces;
    for (const FaceReference& reference : references) faces.push_back(inputs.face(reference, "faces"));
    const Shape surface = lifted(faces);
    StepResult result;
    result.audit.watertight = false;
    result.audit.touched = {inputs.id()};
    result.audit.notes.push_back("linked: the surface follows its faces. Frozen as a snapshot it stays as it is");
    result.pieces.push_back(
        {inputs.id(), inputs.id(), 0, surface.area(), surface.roughBox().centre(), true, surface, "", inputs.id()});
    result.made.push_back({inputs.id(), surface, "", "", std::nullopt, ""});
    return result;
  }
};

}  // namespace

const StepKind& liftStep() {
  static const Lift kind;
  return kind;
}

}  // namespace kervo
