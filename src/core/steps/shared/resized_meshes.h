// What Reduce mesh and Refine mesh have in common: meshes with another number of triangles.
#pragma once

#include "base/say.h"
#include "fields/bodies_field.h"
#include "fields/number_field.h"
#include "geom/mesh/mesh_size.h"
#include "steps/shared/changed_bodies.h"
#include "steps/shared/divided_bodies.h"

namespace kervo {

class ResizedMeshes : public StepKind {
 public:
  using Change = Mesh (*)(const Mesh& mesh, double length, Progress& progress);

  /// `nothing`, `help`: what is said where no triangle changes, as later() gives them.
  ResizedMeshes(KindTable table, FieldText length, const char* standard, Change change, const char* nothing,
                const char* help)
      : StepKind(std::move(table)),
        length_(*this, std::move(length), standard, NumberRule::Positive),
        change_(change),
        nothing_(nothing),
        help_(help) {}

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
      const Shape made(change_(*mesh, length_.of(inputs), progress));
      const std::size_t before = mesh->triangles().size(), after = made.mesh()->triangles().size();
      if (before == after) {
        result.audit.spared.push_back(body);
        continue;
      }
      result.audit.watertight &= made.watertight();
      result.audit.notes.push_back(say("\"%1\": %2 triangles become %3", body, before, after));
      replaceBody(result, body, shape, made);
    }
    if (result.audit.touched.empty()) length_.fail(say(nothing_), say(help_));
    return result;
  }

 private:
  const BodiesField bodies_{*this, {.key = "bodies", .label = "Meshes", .well = Well::Stock}, BodyPick::only({})};
  const LengthField length_;
  Change change_;
  const char *nothing_, *help_;
};

}  // namespace kervo
