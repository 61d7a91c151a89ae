// Meshes with more triangles.
#include "steps/registry.h"
#include "steps/shared/resized_meshes.h"

namespace kervo {

const StepKind& refineMeshStep() {
  static const ResizedMeshes kind({.key = "refine_mesh",
                                   .label = "Refine mesh",
                                   .menu = KindMenu::Surface,
                                   .help = "Smaller triangles; the surface stays as it is",
                                   .takesMeshes = true},
                                  {.key = "longest",
                                   .label = "Longest edge",
                                   .well = Well::Reach,
                                   .help = "Triangles are divided until no edge is longer"},
                                  "5 mm", refined, later("all edges are that short already"),
                                  later("Type a smaller length"));
  return kind;
}

}  // namespace kervo
