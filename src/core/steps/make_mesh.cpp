// Exact bodies made meshes, to a stated tolerance.
#include <numbers>

#include "base/quantity.h"
#include "base/say.h"
#include "fields/number_field.h"
#include "geom/mesh/meshed.h"
#include "steps/registry.h"
#include "steps/shared/changed_bodies.h"
#include "steps/shared/divided_bodies.h"

namespace kervo {

namespace {

class MakeMesh : public StepKind {
 public:
  MakeMesh()
      : StepKind({.key = "make_mesh",
                  .label = "Make mesh",
                  .menu = KindMenu::Surface,
                  .help = "Exact bodies become triangles, within a tolerance",
                  .startsGroup = true}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    start.set(bodies_, BodyPick::only(selected.wholeBodies()));
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    StepResult result;
    const Stock stock = stockOf(inputs, bodies_);
    result.audit.shielded = stock.shielded;
    const MeshFineness fineness{chord_.of(inputs), angle_.of(inputs)};
    if (!(fineness.angleRadians > 0) || fineness.angleRadians > std::numbers::pi / 2)
      angle_.fail(say("the angle must lie above 0 and at most at 90 deg"), say("Type e.g. 6 deg"));
    for (const BodyId& body : stock.bodies) {
      progress.throwIfStopped();
      const Shape shape = inputs.shape(body);
      if (shape.kind() == BodyKind::Curve)
        bodies_.fail(say("\"%1\" is a curve", body), say("Choose surfaces or solids"));
      const Shape made(meshed(shape, fineness, progress));
      result.audit.watertight &= made.watertight() || shape.kind() == BodyKind::Surface;
      result.audit.notes.push_back(say("\"%1\": %2 triangles, within %3 mm", body, made.mesh()->triangles().size(),
                                       formatNumber(made.mesh()->tolerance(), 3)));
      replaceBody(result, body, shape, made);
    }
    return result;
  }

 private:
  const BodiesField bodies_{*this, {.key = "bodies", .label = "Bodies", .well = Well::Stock}, BodyPick::only({})};
  const LengthField chord_{
      *this,
      {.key = "tolerance",
       .label = "Tolerance",
       .well = Well::Reach,
       .help = "Between a face and its triangles, at most; 0: a ten-thousandth of the body's size"},
      "0 mm",
      NumberRule::NotNegative};
  const AngleField angle_{*this,
                          {.key = "angle",
                           .label = "Angle",
                           .well = Well::Reach,
                           .help = "Between neighbouring triangles along a curve, at most"},
                          "6 deg"};
};

}  // namespace

const StepKind& makeMeshStep() {
  static const MakeMesh kind;
  return kind;
}

}  // namespace kervo
