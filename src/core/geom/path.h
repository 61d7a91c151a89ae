// Chains of open drawn curves, which are swept through a body to divide it.
#pragma once

#include <memory>
#include <string>
#include <vector>

#include "geom/outline.h"
#include "geom/profile.h"

namespace kervo {

struct PathBody;

/// Drawn curves that follow each other end to end without closing.
class Path {
 public:
  explicit Path(std::shared_ptr<const PathBody> body) : body_(std::move(body)) {}

  /// The ids of its curves in their order, joined by dots.
  const std::string& name() const;
  double length() const;  ///< mm
  /// The point at a length from its beginning, in space.
  Point at(double length) const;
  const PathBody& body() const { return *body_; }

 private:
  std::shared_ptr<const PathBody> body_;
};

/// The chains of those curves that bound none of the regions. Where more than two of them meet, chains end.
std::vector<Path> findPaths(const Plane& plane, const std::vector<PlanarCurve>& curves,
                            const std::vector<Region>& regions);

/// The path swept along its plane's normal from one distance to another, as a surface whose faces are named
/// `name`:curve. `straightOn`: by how much its ends go on along their tangents, mm.
Shape sweptPath(const Path& path, const std::string& name, double from, double to, double straightOn);

/// The path as a line to be shown.
Polyline outlineOf(const Path& path);

}  // namespace kervo
