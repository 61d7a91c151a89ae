// GLB files (binary glTF 2.0): bodies as triangles with names and colours.
#pragma once

#include "exchange/formats.h"

namespace kervo {

const Format& glbFormat();

/// A body for each node that has a mesh, in its place. Lengths are metres and y points up, as the standard has it,
/// whatever `unit` says. Throws FileError, also for what is compressed or lies in another file.
FileContents readGlb(const std::filesystem::path& path, const ReadWishes& wishes, Progress& progress);
/// Lengths are written in metres. Throws FileError.
void writeGlb(const std::filesystem::path& path, const std::vector<FileBody>& bodies, const WriteWishes& wishes,
              Progress& progress);

}  // namespace kervo
