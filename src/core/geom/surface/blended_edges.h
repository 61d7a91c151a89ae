// Edges of a solid rounded or chamfered.
#pragma once

#include <string>
#include <vector>

#include "base/progress.h"
#include "geom/topology.h"

namespace kervo {

/// A solid whose edges were blended.
struct BlendedEdges {
  Shape solid;
  int edges = 0;  ///< blended ones: those given, and those that continue one of them tangentially
};

/// The solid with edges rounded to a radius; edges that continue one of them tangentially are rounded with it. New
/// faces are named `name`:blend:(a|b) by the names a, b of the faces along the edge, corners `name`:corner. Throws
/// Error if the radius does not fit (the kernel then says done but gives an invalid body: that is checked).
BlendedEdges roundEdges(const std::string& name, const Shape& solid, const std::vector<Edge>& edges, double radius,
                        Progress& progress);

/// The same with a flat chamfer that begins at equal distances from the edge on both faces. New faces are named
/// `name`:chamfer:(a|b).
BlendedEdges chamferEdges(const std::string& name, const Shape& solid, const std::vector<Edge>& edges, double distance,
                          Progress& progress);

}  // namespace kervo
