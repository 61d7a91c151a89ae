// The numbers of GLB files (glTF 2.0, chapters 3 and 4), and their writer.
#pragma once

#include <bit>
#include <cstdint>
#include <string>
#include <vector>

#include "exchange/mesh_file.h"

namespace kervo {

namespace glb {

static_assert(std::endian::native == std::endian::little, "GLB has its numbers in this order");

inline constexpr std::uint32_t magic = 0x46546C67, jsonChunk = 0x4E4F534A, binaryChunk = 0x004E4942;
inline constexpr int typeFloat = 5126, typeByte = 5121, typeShort = 5123, typeInt = 5125;
inline constexpr int modeTriangles = 4;

}  // namespace glb

/// The bytes of a file of these bodies, lengths in metres. Of instances of a part the mesh is there once.
std::string glbFromMeshes(const std::vector<MeshBody>& bodies);

}  // namespace kervo
