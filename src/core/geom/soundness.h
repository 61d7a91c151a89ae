// Whether a body can be trusted: its faces valid, its edges joined.
#pragma once

#include <string>
#include <vector>

#include "base/progress.h"
#include "geom/shape.h"

class TopoDS_Shape;

namespace kervo {

struct ShapeBody;
struct FaceFacts;

/// Middles of edges that faces do not use equally often in both directions: free edges, and edges where the faces'
/// sides disagree. None means watertight.
std::vector<Point> openEdges(const TopoDS_Shape& topology);

/// Nothing if the body is sound, otherwise what is wrong with it. Looks only at faces that were not found sound before;
/// a solid must also be closed and enclose a positive volume.
std::string findFault(const ShapeBody& body, Progress& progress);

/// The shape with every valid face marked as sound, so that later operations do not check it again.
Shape examined(const Shape& shape, Progress& progress);

}  // namespace kervo
