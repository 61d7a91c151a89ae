// PLY files: bodies as triangles with colours. All three kinds are read, the binary one is written. Documents keep
// their meshes in it.
#pragma once

#include "exchange/formats.h"
#include "exchange/mesh_file.h"

namespace kervo {

const Format& plyFormat();

/// One body, or those that Kervo wrote into it. Polygons are divided into triangles; a colour of the points becomes one
/// of the triangles. `unit`: what one unit of its lengths is; empty for what Kervo wrote into it, else mm.
/// Throws FileError.
FileContents readPly(const std::filesystem::path& path, const ReadWishes& wishes, Progress& progress);
/// Throws FileError.
void writePly(const std::filesystem::path& path, const std::vector<FileBody>& bodies, const WriteWishes& wishes,
              Progress& progress);

/// What a PLY file holds: `unit` is empty if it is not said.
struct PlyContent {
  std::vector<MeshBody> bodies;
  std::string unit;
};
std::string plyFromMeshes(const std::vector<MeshBody>& bodies, const std::string& unit);
/// `where`: the file, for errors. Throws FileError.
PlyContent meshesFromPly(const std::string& bytes, const std::string& where, Progress& progress);

}  // namespace kervo
