// Shapes as bytes: the kernel's binary BREP.
#pragma once

#include <string>

#include "geom/shape.h"

namespace kervo {

std::string shapeToBytes(const Shape& shape);
/// Throws FileError naming `where` if the bytes are no shape.
Shape shapeFromBytes(const std::string& bytes, const std::string& where);

}  // namespace kervo
