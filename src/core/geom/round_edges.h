// Rounding edges of a solid with a constant radius.
#pragma once

#include <string>
#include <vector>

#include "base/progress.h"
#include "geom/topology.h"

namespace kervo {

/// The solid with edges rounded; edges that continue one of them tangentially are rounded with it. New faces are named
/// `name`:blend:(a|b) by the names a, b of the faces along the edge, corners `name`:corner.
/// Throws Error if the radius does not fit (the kernel then says done but gives an invalid body: that is checked).
Shape roundEdges(const std::string& name, const Shape& solid, const std::vector<Edge>& edges, double radius,
                 Progress& progress);

}  // namespace kervo
