// What counts as one body in a kernel shape from a file.
#pragma once

#include <TopoDS_Shape.hxx>
#include <vector>

namespace kervo {

/// Every solid, every connected surface outside solids, and every connected curve outside faces. All in their places.
std::vector<TopoDS_Shape> separateBodies(const TopoDS_Shape& shape);

/// The same with all placements (locations) worked into the geometry.
TopoDS_Shape withoutLocations(const TopoDS_Shape& shape);

}  // namespace kervo
