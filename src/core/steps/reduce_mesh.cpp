// Meshes with fewer triangles.
#include "base/quantity.h"
#include "base/say.h"
#include "fields/number_field.h"
#include "geom/mesh/mesh_size.h"
#include "steps/registry.h"
#include "steps/shared/changed_bodies.h"
#include "steps/shared/divided_bodies.h"

namespace kervo {

namespace {

class ReduceMesh : public StepKind {
 public:
  ReduceMesh()
      : StepKind({.key = "reduce_mesh",
                  .label = "Reduce mesh",
                  .menu = KindMenu::Surface,
                  .help = "Fewer triangles, within a tolerance",
                  .takesMeshes = true}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    start.set(bodies_, BodyPick::only(selected.bodies()));
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    StepResult result;
    const Stock stock = stockOf(inputs, bodies_);
    result.audit.shielded = stock.shielded;
    for (const BodyId& body : stock.bodies) {
      progress.throwIfStopped();
      const Shape shape = inputs.shape(body);
      const Mesh* mesh = shape.mesh();
      if (!mesh)
        bodies_.fail(say("\"%1\" is exact and has no triangles", body), say("Choose meshes, or Make mesh first"));
      const Shape made(reduced(*mesh, length_.of(inputs), progress));
      const std::size_t before = mesh->triangles().size(), after = made.mesh()->triangles().size();
      if (before == after) {
        result.audit.spared.push_back(body);
        continue;
      }
      result.audit.watertight &= made.watertight();
      result.audit.notes.push_back(say("\"%1\": %2 triangles become %3", body, before, after));
      replaceBody(result, body, shape, made);
    }
    if (result.audit.touched.empty())
      length_.fail(say("no triangle can go within that tolerance"), say("Type a larger one"));
    return result;
  }

 private:
  const BodiesField bodies_{*this, {.key = "bodies", .label = "Meshes", .well = Well::Stock}, BodyPick::only({})};
  const LengthField length_{*this,
                            {.key = "tolerance",
                             .label = "Tolerance",
                             .well = Well::Reach,
                             .help = "No place moves farther than that; measured, not only estimated"},
                            "0.1 mm",
                            NumberRule::Positive};
};

}  // namespace

const StepKind& reduceMeshStep() {
  static const ReduceMesh kind;
  return kind;
}

}  // namespace kervo
