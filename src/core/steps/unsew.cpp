// Bodies taken apart into their faces.
#include "base/say.h"
#include "geom/surface/sewn.h"
#include "steps/registry.h"
#include "steps/shared/divided_bodies.h"

namespace kervo {

namespace {

class Unsew : public StepKind {
 public:
  Unsew()
      : StepKind({.key = "unsew",
                  .label = "Unsew",
                  .menu = KindMenu::Surface,
                  .verb = "Unsew into faces",
                  .help = "Surfaces and solids taken apart: each face a surface of its own"}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    start.set(bodies_, BodyPick::only(selected.wholeBodies()));
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    StepResult result;
    const Stock stock = stockOf(inputs, bodies_);
    result.audit.shielded = stock.shielded;
    result.audit.watertight = false;
    for (const BodyId& body : stock.bodies) {
      progress.throwIfStopped();
      const Shape shape = inputs.shape(body);
      if (shape.kind() == BodyKind::Curve)
        bodies_.fail(say("\"%1\" is a curve", body), say("Choose surfaces or solids"));
      if (shape.faceCount() < 2) {
        result.audit.spared.push_back(body);
        continue;
      }
      result.audit.touched.push_back(body);
      result.consumed.push_back(body);
      const std::vector<Shape> faces = unsewn(shape);
      addKept(result, inputs, body, body, "", faces);
      result.audit.notes.push_back(say("\"%1\": %2 faces", body, faces.size()));
    }
    if (result.audit.touched.empty())
      bodies_.fail(say("each of them has one face only"), say("Choose bodies of several faces"));
    settlePieces(result, inputs, pieces_.in(inputs));
    return result;
  }

 private:
  const BodiesField bodies_{*this, {.key = "bodies", .label = "Bodies", .well = Well::Stock}, BodyPick::only({})};
  const PiecesField pieces_{*this};
};

}  // namespace

const StepKind& unsewStep() {
  static const Unsew kind;
  return kind;
}

}  // namespace kervo
