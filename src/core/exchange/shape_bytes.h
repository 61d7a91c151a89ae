// Shapes as bytes, as documents keep them: exact ones as the kernel's binary BREP, meshes as PLY.
#pragma once

#include <string>

#include "geom/shape.h"

namespace kervo {

std::string shapeToBytes(const Shape& shape);
/// Throws FileError naming `where` if the bytes are no shape.
Shape shapeFromBytes(const std::string& bytes, const std::string& where);

/// The key under which a shape is stored: equal shapes share one, and a key never stands for another shape. Those of
/// meshes begin with "mesh-".
std::string keyOfStored(const Shape& shape);
/// What its file is called: KEY.brep, or KEY.ply for a mesh.
std::string fileNameOfStored(const std::string& key);

}  // namespace kervo
