// Solids made from sizes: block, cylinder, cone, sphere, torus, and the slab that planes cut with.
#pragma once

#include <string>

#include "geom/shape.h"

namespace kervo {

// Every size is in mm and must be at least tolerance::smallestSize; a smaller, not finite or too large one throws an
// Error that names the size. Faces are named `name`:role, the roles standing with each function.

/// Corner at the plane's origin, along its x, y and normal. Roles: left (−x), right, front (−y), back, bottom, top.
Shape makeBlock(const std::string& name, const Plane& plane, double width, double depth, double height);
/// Axis from the plane's origin along its normal. Roles: side, bottom, top.
Shape makeCylinder(const std::string& name, const Plane& plane, double radius, double height);
/// As the cylinder, with a radius at the bottom and one at the top; one of them may be 0.
Shape makeCone(const std::string& name, const Plane& plane, double bottomRadius, double topRadius, double height);
/// Centre at the plane's origin. Role: side.
Shape makeSphere(const std::string& name, const Plane& plane, double radius);
/// The circle of radius `ringRadius` round the plane's origin in the plane, thickened by `tubeRadius` (which must be
/// smaller). Role: side.
Shape makeTorus(const std::string& name, const Plane& plane, double ringRadius, double tubeRadius);

/// Everything within `box` (with a margin) that lies between two distances above the plane, from < to; infinite
/// distances reach beyond the box. Roles: cut (the two faces along the plane), border.
Shape makeSlab(const std::string& name, const Plane& plane, double from, double to, const Box& box);

/// Throws an Error naming `what` unless the size is finite and between the smallest and largest allowed.
void requireSize(const std::string& what, double size);

}  // namespace kervo
