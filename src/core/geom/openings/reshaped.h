// What fills an opening, made longer, shorter or wider.
#pragma once

#include "base/progress.h"
#include "geom/shape.h"

namespace kervo {

/// The solid with all that lies in front of a plane moved by `by` (mm) along its normal; what crosses the plane grows
/// or shrinks. Faces keep their names. Throws Error if an edge or a face crosses the plane that does not run straight
/// along the normal, or nothing would be left between its two ends.
Shape stretched(const Shape& solid, const Plane& at, double by);

/// A solid that goes all round an axis, each of its round faces farther from the axis by `by` (mm; nearer, if below
/// zero): chamfers and steps keep their widths. Faces keep their names. Throws Error if it does not go round the axis
/// between flat ends, or a face would reach the axis.
Shape widened(const Shape& solid, const Axis& axis, double by);

}  // namespace kervo
