// Inside of Path. For src/core/geom only.
#pragma once

#include "geom/path.h"

namespace kervo {

struct PathBody {
  struct Link {
    PlanarCurve curve;
    bool backwards;  ///< followed from its end to its beginning
  };
  std::string name;
  Plane plane;
  std::vector<Link> links;
};

}  // namespace kervo
