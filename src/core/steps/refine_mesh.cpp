// Meshes with more triangles.
#include "base/quantity.h"
#include "base/say.h"
#include "fields/number_field.h"
#include "geom/mesh/mesh_size.h"
#include "steps/registry.h"
#include "steps/shared/changed_bodies.h"
#include "steps/shared/divided_bodies.h"

namespace kervo {

namespace {

class RefineMesh : public StepKind {
 public:
  RefineMesh()
      : StepKind({.key = "refine_mesh",
                  .label = "Refine mesh",
                  .menu = KindMenu::Surface,
                  .help = "Smaller triangles; the surface stays as it is",
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
      const Shape made(refined(*mesh, length_.of(inputs), progress));
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
      length_.fail(say("all edges are that short already"), say("Type a smaller length"));
    return result;
  }

 private:
  const BodiesField bodies_{*this, {.key = "bodies", .label = "Meshes", .well = Well::Stock}, BodyPick::only({})};
  const LengthField length_{*this,
                            {.key = "longest",
                             .label = "Longest edge",
                             .well = Well::Reach,
                             .help = "Triangles are divided until no edge is longer"},
                            "5 mm",
                            NumberRule::Positive};
};

}  // namespace

const StepKind& refineMeshStep() {
  static const RefineMesh kind;
  return kind;
}

}  // namespace kervo
