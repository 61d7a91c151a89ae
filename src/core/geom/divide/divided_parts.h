// What a solid was divided into, however that was found, before it is checked.
#pragma once

#include <vector>

#include "geom/divide/checked_intersection.h"

namespace kervo {

/// What a solid and its cutters were divided into.
struct DividedParts {
  std::vector<TopoDS_Shape> outside;     ///< parts of the stock that no cutter takes
  std::vector<TopoDS_Shape> inside;      ///< those that one does
  std::vector<TopoDS_Shape> cutterRest;  ///< parts of cutters outside the stock
  FaceTable table;                       ///< of all their faces, measured
  double allowedEdgeTolerance = 0;
};

/// The solids that the faces bound, which are measured in the table; hollows belong to the only solid there is. Throws
/// Unsound if they do not close.
std::vector<TopoDS_Shape> solidsBoundedBy(const std::vector<TopoDS_Shape>& faces, const FaceTable& table);

}  // namespace kervo
