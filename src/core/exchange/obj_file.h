// OBJ files: bodies as triangles, with names, and colours in a file of materials beside it.
#pragma once

#include "exchange/formats.h"

namespace kervo {

const Format& objFormat();

/// A body for each object of the file, or for each group where it has no objects; polygons are divided into triangles.
/// `unit`: what one unit of its lengths is; empty for what Kervo wrote into it, else mm. Throws FileError.
FileContents readObj(const std::filesystem::path& path, const ReadWishes& wishes, Progress& progress);
/// The materials go into a file of the same name with the ending .mtl. Throws FileError.
void writeObj(const std::filesystem::path& path, const std::vector<FileBody>& bodies, const WriteWishes& wishes,
              Progress& progress);

}  // namespace kervo
