#include "shop/polygons.h"

#include <cmath>

namespace kervo {

ClipperLib::Path polygonOf(const FlatChain& chain, double closeness) {
  ClipperLib::Path path;
  for (const Cubic& c : cubicsOf(chain)) {
    path.push_back(toGrid(c.from));
    if (c.straight) continue;
    // A cubic leaves its chord by less than 3/4 of what its inner points do; in n parts by a n²th of that.
    const PlanePoint chord = c.to - c.from;
    const double reach =
        std::max(length(c.first - c.from - chord * (1.0 / 3)), length(c.second - c.to + chord * (1.0 / 3)));
    const int count = std::max(1, static_cast<int>(std::ceil(std::sqrt(reach / closeness))));
    for (int i = 1; i < count; ++i) {
      const double t = static_cast<double>(i) / count, s = 1 - t;
      path.push_back(
          toGrid(c.from * (s * s * s) + c.first * (3 * s * s * t) + c.second * (3 * s * t * t) + c.to * (t * t * t)));
    }
  }
  return path;
}

ClipperLib::Paths grownBy(const ClipperLib::Paths& paths, double by) {
  ClipperLib::ClipperOffset offset(2, perMillimetre * 0.005);
  offset.AddPaths(paths, ClipperLib::jtRound, ClipperLib::etClosedPolygon);
  ClipperLib::Paths result;
  offset.Execute(result, by * perMillimetre);
  return result;
}

double areaOf(const ClipperLib::Paths& paths) {
  double sum = 0;
  for (const ClipperLib::Path& path : paths) sum += ClipperLib::Area(path);
  return sum / perMillimetre / perMillimetre;
}

ClipperLib::Paths without(const ClipperLib::Paths& from, const ClipperLib::Paths& what) {
  ClipperLib::Clipper clipper;
  clipper.AddPaths(from, ClipperLib::ptSubject, true);
  clipper.AddPaths(what, ClipperLib::ptClip, true);
  ClipperLib::Paths result;
  clipper.Execute(ClipperLib::ctDifference, result, ClipperLib::pftNonZero, ClipperLib::pftNonZero);
  return result;
}

}  // namespace kervo
