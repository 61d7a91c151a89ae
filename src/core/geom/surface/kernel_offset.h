// The kernel's offset of faces, unchecked. For src/core/geom/surface only.
#pragma once

#include <BRepOffset_MakeOffset.hxx>
#include <TopoDS_Shape.hxx>
#include <utility>
#include <vector>

namespace kervo {

/// What offsetting gave, with the faces that the surface's own faces became.
struct Offset {
  TopoDS_Shape shape;
  std::vector<std::pair<TopoDS_Shape, TopoDS_Shape>> images;  ///< face of the original → its image
};

/// `by` in mm along the normals. `thickening`: the solid between both. A null shape where the kernel fails.
Offset offsetOf(const TopoDS_Shape& shape, double by, GeomAbs_JoinType join, bool thickening);

}  // namespace kervo
