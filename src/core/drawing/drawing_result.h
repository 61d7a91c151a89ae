// What a drawing comes to: its plane, and what its curves enclose.
#pragma once

#include "drawing/regions.h"
#include "drawing/solve.h"

namespace kervo {

/// A straight line of a drawing, about which something can be revolved.
struct DrawnAxis {
  std::string curve;
  Axis axis;
  bool construction = false;
};

/// A drawing's plane, the regions and open lines found in it, and its curves as lines to be shown.
struct DrawingResult {
  Plane plane;
  std::vector<Region> regions;
  std::vector<Path> paths;               ///< open lines
  std::vector<Polyline> lines;           ///< in the order of the drawing, construction curves too
  std::vector<NamedCurve> curves = {};   ///< those that bound something
  std::vector<DrawnAxis> axes = {};      ///< its straight lines
  DrawingValues values = {};             ///< of its expressions
  Solution solution = {};                ///< of its constraints
  std::vector<std::string> copies = {};  ///< ids of what is copied, however many copies there are

  /// Of a drawing on a plane. Curves are where the solution has their points; those for construction bound nothing.
  /// Throws as findRegions() does.
  static DrawingResult of(const Plane& plane, const Drawing& drawing, const DrawingValues& values,
                          const Solution& solution, Progress& progress);
};

/// Whether a curve is that of this id, or one of several that it stands for: a side of a rectangle, a copy.
bool belongs(const std::string& curve, const std::string& id);

/// The curves of a drawing where a solution has their points: those drawn, those taken along, copies of them.
/// `construction`: those that bound nothing too. Throws Error for one that is none there.
std::vector<PlanarCurve> curvesOf(const Drawing& drawing, const DrawingValues& values, const Solution& solution,
                                  bool construction);

}  // namespace kervo
