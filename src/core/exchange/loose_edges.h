// Edges of a file whose stated tolerance is far larger than they are off.
#pragma once

#include <TopoDS_Shape.hxx>

namespace kervo {

/// Sets the tolerance of edges and corners that claim to be loose to what they are off in fact, in place. Some programs
/// write 1 mm and more for edges that are exact; an intersection then takes everything within it for one point, and the
/// parts no longer add up. Exact ones are left alone, and none becomes looser.
void tightenLooseEdges(const TopoDS_Shape& shape);

}  // namespace kervo
