// A face that fills a closed loop of edges.
#pragma once

#include <string>
#include <vector>

#include "base/progress.h"
#include "geom/shape.h"
#include "geom/sweep/profile.h"
#include "geom/topology.h"

namespace kervo {

struct PatchOrder {
  /// Of open borders, edges or curves; together they close. With their surfaces where they are borders.
  std::vector<std::pair<Edge, Shape>> edges;
  bool tangent = false;             ///< to the surfaces whose borders they are
  std::vector<Point> through = {};  ///< inner points
};

/// The edges of a surface's open border that go on from the first of those given, all round. Those given if it is at no
/// open border.
std::vector<Edge> loopOf(const Shape& surface, const std::vector<Edge>& edges);

struct Patch {
  Shape surface;
  double gap = 0;    ///< farthest from its edges, mm
  double angle = 0;  ///< farthest from being tangent, radians; 0 if that was not asked for
};

/// Planar where the loop is and nothing else is asked for. Named `name`:patch. Throws Error if the edges do not close,
/// if tangency is asked for at edges of no surface, and where the kernel fails.
Patch patched(const PatchOrder& order, const std::string& name, Progress& progress);

/// A region of a drawing as a planar surface, its islands left out. Named `name`:patch.
Shape planarPatch(const Region& region, const std::string& name);

}  // namespace kervo
