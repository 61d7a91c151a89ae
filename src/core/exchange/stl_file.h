// STL files: bodies as triangles. Binary and text are read, binary is written.
#pragma once

#include "exchange/formats.h"

namespace kervo {

const Format& stlFormat();

/// Points in one place become one. A text file has a body for each of its solids. `unit`: what one unit of its lengths
/// is, since no STL file says so; empty for mm. Throws FileError.
FileContents readStl(const std::filesystem::path& path, const ReadWishes& wishes, Progress& progress);

/// Writes the triangles of all bodies into one file, lengths in a unit which the file itself cannot name: it stands in
/// the header. Names and colours are lost. Throws FileError, also for a curve and for a solid whose triangles do not
/// close.
void writeStl(const std::filesystem::path& path, const std::vector<FileBody>& bodies, const WriteWishes& wishes,
              Progress& progress);

}  // namespace kervo
