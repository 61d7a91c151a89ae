// All that is needed to draw a body and to pick its parts, made in a worker and immutable from then on.
#pragma once

#include <Standard_Handle.hxx>
#include <memory>
#include <vector>

#include "base/progress.h"
#include "geom/tessellate.h"
#include "geom/topology.h"
#include "model/reference.h"

class SelectMgr_SelectableObject;

namespace kervo {

struct BodyPicture {
  Shape shape;
  BodyMesh mesh;
  std::vector<Face> faces;  ///< by the mesh's numbers
  std::vector<Edge> edges;
  std::vector<Corner> corners;
  Handle(SelectMgr_SelectableObject) selectable;  ///< search trees are built already
};

std::shared_ptr<const BodyPicture> pictureOf(const Shape& shape, Progress& progress);

/// What a pick takes: a whole body, or one of its parts by its number in the picture.
struct Pick {
  enum class Kind { Body, Face, Edge, Corner };
  Kind kind = Kind::Body;
  BodyId body;
  int index = 0;
  bool operator==(const Pick&) const = default;
};

}  // namespace kervo
