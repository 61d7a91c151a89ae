// Planar curves and the regions they enclose: the profiles that are swept.
#pragma once

#include <memory>
#include <string>
#include <variant>
#include <vector>

#include "base/progress.h"
#include "geom/shape.h"

namespace kervo {

/// A point in a plane's own coordinates, mm.
struct PlanePoint {
  double u = 0;
  double v = 0;
  bool operator==(const PlanePoint&) const = default;
};

struct LineCurve {
  PlanePoint from, to;
};
/// Counter-clockwise from one angle to the other, in radians; 0 < to − from < 2π.
struct ArcCurve {
  PlanePoint centre;
  double radius;
  double fromAngle, toAngle;
};
/// Counter-clockwise.
struct CircleCurve {
  PlanePoint centre;
  double radius;
};

/// A curve with an id that stays the same when sizes change.
struct PlanarCurve {
  std::string id;
  std::variant<LineCurve, ArcCurve, CircleCurve> geometry;
};

struct RegionBody;

/// A region of a plane that curves enclose, islands left out of it.
class Region {
 public:
  explicit Region(std::shared_ptr<const RegionBody> body) : body_(std::move(body)) {}

  /// What bounds it, independent of sizes: each bounding curve's id with + where the region lies to its left and −
  /// where it lies to its right, joined by dots: "plate+.hole-" is the inside of plate without hole. Regions of equal
  /// description are numbered from left to right: "a+.b-", "a+.b-#2".
  const std::string& name() const;
  double area() const;  ///< mm²
  int islandCount() const;
  const RegionBody& body() const { return *body_; }

 private:
  std::shared_ptr<const RegionBody> body_;
};

/// Every region that the curves enclose, smallest last within larger ones; curves may cross, touch and overlap.
/// Curves that enclose nothing are left out. Throws Error for a curve without length; Stopped on request.
std::vector<Region> findRegions(const Plane& plane, const std::vector<PlanarCurve>& curves, Progress& progress);

/// The regions with those that share a border joined to one, the border removed.
std::vector<Region> joined(const std::vector<Region>& regions);

}  // namespace kervo
