#include "geom/measure/box_along.h"

#include "geom/motion.h"

namespace kervo {

Box boxAlong(const Shape& shape, const Plane& plane) {
  if (shape.empty()) return {};
  return moved(shape, Motion::onto(plane, Plane{})).box();
}

}  // namespace kervo
