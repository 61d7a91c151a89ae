// Inside of Region. For src/core/geom only.
#pragma once

#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>

#include "geom/kernel/shape_body.h"
#include "geom/profile.h"

namespace kervo {

struct RegionBody {
  std::string name;
  Plane plane;
  TopoDS_Face face;             ///< normal along the plane's; edges with the region to their left
  ShapeMap<std::string> curves;  ///< edge → id of its curve
  double area = 0;
  int islands = 0;
};

/// Which loops lie in which: faces on `plane` from closed wires that do not meet each other.
std::vector<TopoDS_Face> nestedFaces(const Plane& plane, const std::vector<TopoDS_Wire>& loops, Progress& progress);

}  // namespace kervo
