// Meshes with fewer triangles.
#include "steps/registry.h"
#include "steps/shared/resized_meshes.h"

namespace kervo {

const StepKind& reduceMeshStep() {
  static const ResizedMeshes kind({.key = "reduce_mesh",
                                   .label = "Reduce mesh",
                                   .menu = KindMenu::Surface,
                                   .help = "Fewer triangles, within a tolerance",
                                   .takesMeshes = true},
                                  {.key = "tolerance",
                                   .label = "Tolerance",
                                   .well = Well::Reach,
                                   .help = "No place moves farther than that; measured, not only estimated"},
                                  "0.1 mm", reduced, later("no triangle can go within that tolerance"),
                                  later("Type a larger one"));
  return kind;
}

}  // namespace kervo
