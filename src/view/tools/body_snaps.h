// Corners, middles, centres and edges of the bodies on screen, seen along the normal of a drawing's plane: what is
// drawn against what stands there, above it or below.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "drawing/snap.h"
#include "view/scene.h"

namespace kervo {

class BodySnaps {
 public:
  /// Of all bodies of the scene that can be picked, and those whose lines it shows from other levels.
  BodySnaps(const Scene& scene, const Plane& plane);

  /// The best within reach (mm): corners, then middles of edges and centres of round ones, then places on edges, as
  /// exact as the bodies are. Its `on` holds the name of the body. Nothing if nothing is there.
  std::optional<Snap> at(PlanePoint place, double reach) const;

 private:
  struct Spot {
    PlanePoint at;
    SnapTo to;
    std::size_t body;
  };
  /// A straight edge, or one round an axis along the plane's normal.
  struct Line {
    PlanePoint from, to;
    std::optional<double> radius;  ///< round: about `from`
    PlanePoint low, high;          ///< the box around it
    std::size_t body;
  };
  void add(const BodyPicture& picture, std::size_t body, const Plane& plane);

  std::vector<std::string> names_;
  std::vector<Spot> spots_;  ///< by u
  std::vector<Line> lines_;
};

}  // namespace kervo
