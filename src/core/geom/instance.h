// Instances: bodies that are one part at several places, with the part's surfaces and curves kept once.
#pragma once

#include <optional>

#include "geom/motion.h"
#include "geom/shape.h"

class TopoDS_Shape;

namespace kervo {

/// The part with the world's origin and axes come onto those of `place` (of unit length, right-handed), with the names
/// of its faces and all that is known of them. Surfaces, curves and triangles are the part's own. Throws Error for a
/// mesh.
Shape placed(const Shape& part, const Plane& place);

/// How an instance stands; none for a shape that is no instance.
std::optional<Plane> placeOf(const Shape& shape);
/// The same of the kernel's shape; none also for one that is mirrored or scaled.
std::optional<Plane> placeOf(const TopoDS_Shape& topology);
/// The part that an instance is, where it was made; the shape itself if it is no instance.
Shape partOf(const Shape& instance);
/// The same for all instances of a part and that part itself; null for the empty shape and for meshes.
const void* identityOfPart(const Shape& shape);
/// The motion that takes one instance of a part onto another.
Motion fromOneToOther(const Shape& one, const Shape& other);

/// An instance as a shape of its own: the kernel's operations are quicker and safer on shapes without locations. Made
/// once for each instance; the shape itself if it is none.
const Shape* plain(const Shape* shape);
inline Shape plain(const Shape& shape) {
  return *plain(&shape);
}

}  // namespace kervo
