// Shapes with some of their faces on other surfaces: clear of seams for a file, or mended after one. For src/core/geom
// and exchange only.
#pragma once

#include <vector>

#include "geom/shape.h"

namespace kervo {

/// A shape of which some faces were put on other surfaces.
struct Reseated {
  Shape shape;
  std::vector<int> faces;  ///< the numbers of those faces in the shape as it was, from 1, in its own order
};

/// Which faces are divided if they are too large to be turned: a cone or a ring that goes all round has its seam in its
/// border wherever that is, and does no harm.
enum class TooLarge { DivideSpheres, DivideAll };

/// The shape with those faces of revolution turned clear whose borders meet a seam or pole. Faces keep their names and
/// colours. Its area and volume flux prove each new face; one that fails stays as it was. The shape that was given is
/// not changed.
Reseated withSeamsClear(const Shape& shape, TooLarge tooLarge);

/// The shape with all faces of revolution whose borders meet a seam divided every 90°, and then turned clear.
Reseated dividedClear(const Shape& shape);

/// The shape with all its faces as rational B-splines, divided as above.
Reseated asSplines(const Shape& shape);

/// The shape with its torn faces put together again from their edges in space, and with the patches of spheres by these
/// numbers, which a reader took for the rest of the sphere, put on the right side of their borders. The numbers of
/// those that could not be mended stay out of `faces` and in `torn`.
struct Mended {
  Shape shape;
  std::vector<int> faces;
  std::vector<int> torn;
};
Mended withTornFacesMended(const Shape& shape, const std::vector<int>& onWrongSide);

}  // namespace kervo
