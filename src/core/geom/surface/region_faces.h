// Faces on the surfaces of a mesh's regions, within their borders. For src/core/geom/surface only.
#pragma once

#include <TopoDS_Face.hxx>
#include <vector>

#include "geom/surface/region_borders.h"

namespace kervo {

/// One face a region, null for those without a surface, with common edges, and its front outside. Faces that go all
/// round have a seam that crosses no other border. Throws UnmadeRegions for those whose borders are not those of a
/// face.
std::vector<TopoDS_Face> facesWithin(const Mesh& mesh, const MeshRegions& regions, const RegionBorders& borders);

}  // namespace kervo
