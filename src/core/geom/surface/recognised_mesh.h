// A mesh made exact where it consists of planes, cylinders, cones, spheres and tori.
#pragma once

#include <map>
#include <string>

#include "base/progress.h"
#include "geom/shape.h"

namespace kervo {

struct RecognisedMesh {
  Shape shape;                       ///< a solid if all was recognised, otherwise the surface of what was; may be empty
  std::map<std::string, int> kinds;  ///< how many faces became a "plane", "cylinder", …
  double off = 0;                    ///< mm, of the mesh's points from the surfaces at most
  int left = 0;                      ///< triangles that belong to none
  Point rest;                        ///< a place among them
};

/// `tolerance` (mm): how far the mesh's points may be from a surface; `angle` (radians): how far neighbouring triangles
/// of a round face may be turned from each other. Faces are named `name`:face1, … and have their triangles' colour
/// where it is one. A solid is checked: valid, closed, with a volume that differs from the mesh's by no more than their
/// facets are off. Throws Error for a mesh that is not closed, and if the faces do not fit together; Stopped on
/// request.
RecognisedMesh recognisedMesh(const Mesh& mesh, const std::string& name, double tolerance, double angle,
                              Progress& progress);

}  // namespace kervo
