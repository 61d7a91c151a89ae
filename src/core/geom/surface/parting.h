// Where the two halves of a mould meet: round the silhouette of a body, seen the way that the halves are drawn off.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/progress.h"
#include "geom/shape.h"
#include "geom/space.h"

namespace kervo {

struct Parting {
  /// The height over the plane at which one plane parts everything; nothing if the silhouette rises and falls.
  std::optional<double> level;
  /// Without a level: round the body out to beyond the block, and across each hole that one sees through.
  std::vector<Shape> surfaces;
  double length = 0;  ///< of the outermost outline, mm; along it the halves meet within a twentieth of a millimetre
};

/// Along the silhouette of a solid, as near to `plane` as walls that run along its normal leave it free. `reach`: how
/// far surfaces go out from the middle of the silhouette, mm. Their faces are named `name`. Throws Error where the
/// silhouette has several outlines, rises and falls and has hollows that are not seen from a point or segment inside of
/// it, or where a hole has no level place.
Parting partingFor(const Shape& body, const Plane& plane, double reach, const std::string& name, Progress& progress);

}  // namespace kervo
