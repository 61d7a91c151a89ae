// Bodies from a file, stored in the document.
#include "base/say.h"
#include "fields/brought_field.h"
#include "fields/text_field.h"
#include "geom/instance.h"
#include "geom/measure/soundness.h"
#include "model/step_inputs.h"
#include "steps/registry.h"

namespace kervo {

namespace {

class BringIn : public StepKind {
 public:
  BringIn() : StepKind({.key = "bring-in", .label = "Bring in", .help = "Bodies from a file", .needsBodies = false}) {}

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    StepResult result;
    const auto& bodies = bodies_.of(inputs);
    if (bodies.empty()) throw Error(say("no body was brought in"), "", say("Bring in a file that holds bodies"));
    // A single body is called like its step; of several, each like its place in the file, which never changes.
    const std::vector<BodyId> ids = idsOf(bodies, inputs.id());
    for (std::size_t i = 0; i < bodies.size(); ++i) {
      progress.throwIfStopped();
      const BroughtBody& body = bodies[i];
      const BodyId& id = ids[i];
      const Shape part = inputs.brought(body.shape), standing = body.place ? placed(part, *body.place) : part;
      const Shape named = withFaceColors(renamed(standing, id + ":face", body.faceNumbers), body.faceColors);
      const Shape shape = examined(named, progress);
      result.audit.volumeAfter += shape.volume();
      result.audit.touched.push_back(id);
      if (!shape.valid()) {
        result.audit.valid = false;
        if (const std::vector<Flaw> flaws = flawsOf(shape, progress); !flaws.empty())
          result.audit.warnings.push_back(say("\"%1\" came in damaged: %2. Cuts that meet that place are refused",
                                              body.name, flaws.front().text()));
      }
      if (shape.mesh() && !shape.watertight()) {
        result.audit.watertight = false;
        result.audit.warnings.push_back(
            say("\"%1\" is a mesh that is not closed: %2 of its edges lie open. Repair fills its holes", body.name,
                shape.mesh()->openEdges()));
      }
      if (shape.kind() == BodyKind::Solid && !shape.watertight()) {
        result.audit.watertight = false;
        result.audit.warnings.push_back(say("\"%1\" is not closed", body.name));
      }
      result.pieces.push_back(Piece::whole(body.name, id, shape));
      result.made.push_back({.id = id,
                             .form = shape,
                             .name = body.name,
                             .color = body.color,
                             .layer = body.layer,
                             .within = body.within});
    }
    return result;
  }

 private:
  const TextField source_{*this, {.key = "source", .label = "File", .help = "Where the bodies came from"}};
  const TextField unit_{*this, {.key = "unit", .label = "Unit", .help = "Length unit of the file"}};
  const BroughtField bodies_{*this, {.key = "bodies", .label = "Bodies"}};
};

}  // namespace

const StepKind& bringInStep() {
  static const BringIn kind;
  return kind;
}

}  // namespace kervo
