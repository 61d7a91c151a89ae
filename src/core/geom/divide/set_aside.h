// Features of a solid that an intersection does not come near, taken off before it and put back after it. For
// src/core/geom only.
//
// The kernel's cost grows with all faces and wires of a body, not with those that a cut meets: a plate of 500 holes
// takes half a second to split although the cut meets twenty of them. A feature here is a set of faces that joins the
// rest of the body by whole inner outlines of flat faces only: a hole, a pocket, a boss. Without it the flat faces are
// whole, and the body is closed as before. After the intersection each outline lies in exactly one of the flat faces'
// parts, since nothing comes near it, and goes back there with its faces.
#pragma once

#include <TopoDS_Face.hxx>
#include <TopoDS_Wire.hxx>
#include <gp_Pnt.hxx>
#include <vector>

#include "base/progress.h"
#include "geom/kernel/shape_body.h"

namespace kervo {

class SetAside {
 public:
  /// Whether features inside another solid may go: not if that solid's own parts are wanted, which must show the hole.
  enum class Inside { MayGo, Stays };

  /// `others`: all that the solid is about to be intersected with.
  SetAside(const Shape& solid, const std::vector<Shape>& others, Inside inside);

  bool any() const { return !features_.empty(); }
  /// The solid without the features.
  const Shape& plain() const { return plain_; }
  /// The parts of plain() with the features on them. Throws Unsound if a feature finds no place, or more than one, or
  /// a part is not sound with them.
  std::vector<Shape> putBack(const std::vector<Shape>& parts, Progress& progress) const;

 private:
  /// Where a feature begins: an inner outline of a flat face.
  struct Mouth {
    TopoDS_Wire wire;  ///< as in the host taken forward
    TopoDS_Face host;
    gp_Pnt point;  ///< on the outline
  };
  struct Feature {
    std::vector<TopoDS_Shape> faces;  ///< oriented as in the solid
    std::vector<Mouth> mouths;
  };
  class Search;
  class Rebuilding;

  Shape solid_;
  std::vector<Feature> features_;
  Shape plain_;
};

}  // namespace kervo
