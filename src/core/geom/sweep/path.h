// Chains of open curves, which are swept through a body to divide it.
#pragma once

#include <string>
#include <vector>

#include "geom/shape.h"
#include "geom/space_curve.h"

namespace kervo {

/// Curves on a plane that follow each other end to end without closing.
class Path {
 public:
  struct Link {
    NamedCurve along;
    bool backwards = false;  ///< followed from its end to its beginning

    Point start() const { return along.curve.at(backwards ? 1 : 0); }
    Point end() const { return along.curve.at(backwards ? 0 : 1); }
    /// In the direction in which it is followed, unit length.
    Vector startDirection() const { return backwards ? -along.curve.tangentAt(1) : along.curve.tangentAt(0); }
    Vector endDirection() const { return backwards ? -along.curve.tangentAt(0) : along.curve.tangentAt(1); }
  };

  /// @throws Error for a closed curve.
  Path(Plane plane, std::vector<Link> links);

  /// The names of its curves in their order, joined by dots.
  const std::string& name() const { return name_; }
  const Plane& plane() const { return plane_; }
  const std::vector<Link>& links() const { return links_; }
  double length() const;  ///< mm
  /// The point at a length from its beginning.
  Point at(double length) const;

 private:
  std::string name_;
  Plane plane_;
  std::vector<Link> links_;
};

/// The path swept along its plane's normal from one distance to another, as a surface whose faces are named
/// `name`:curve. `straightOn`: by how much its ends go on along their tangents, mm.
Shape sweptPath(const Path& path, const std::string& name, double from, double to, double straightOn);

/// The path turned about an axis from one angle to another, in radians, as a surface whose faces are named
/// `name`:curve. From 0 to 2π it closes. Throws Error if the axis does not lie in the path's plane, or crosses it.
Shape revolvedPath(const Path& path, const std::string& name, const Axis& axis, double from, double to);

/// The path as a line to be shown.
Polyline outlineOf(const Path& path);

}  // namespace kervo
