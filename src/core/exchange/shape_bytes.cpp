#include "exchange/shape_bytes.h"

#include "base/error.h"
#include "base/hash.h"
#include "base/say.h"
#include "exchange/brep_file.h"
#include "exchange/ply_file.h"

namespace kervo {

namespace {

constexpr char meshPrefix[] = "mesh-";  // for the machine

}  // namespace

std::string shapeToBytes(const Shape& shape) {
  if (const Mesh* mesh = shape.mesh()) return plyFromMeshes({{"", *mesh, std::nullopt}}, "mm");
  return brepToBytes(shape);
}

Shape shapeFromBytes(const std::string& bytes, const std::string& where) {
  if (!bytes.starts_with("ply")) return brepFromBytes(bytes, where);
  Progress unstoppable;
  PlyContent content = meshesFromPly(bytes, where, unstoppable);
  if (content.bodies.empty() || content.bodies.front().mesh.empty())
    throw FileError(say("the stored shape is empty"), where);
  return Shape(std::move(content.bodies.front().mesh));
}

std::string keyOfStored(const Shape& shape) {
  return (shape.mesh() ? meshPrefix : "") + Hasher().add(shapeToBytes(shape)).key().text();
}

std::string fileNameOfStored(const std::string& key) {
  return key + (key.starts_with(meshPrefix) ? ".ply" : ".brep");
}

}  // namespace kervo
