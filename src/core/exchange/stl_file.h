// STL files: bodies as triangles, binary.
#pragma once

#include "exchange/formats.h"

namespace kervo {

const Format& stlFormat();

/// Writes the triangles of all bodies into one file, lengths in `unit`, which the file itself cannot name: it stands in
/// the header. Triangles stay within a ten-thousandth of a body's size of its faces. Names and colours are lost. Throws
/// FileError, also for a curve and for a solid whose triangles do not close.
void writeStl(const std::filesystem::path& path, const std::vector<FileBody>& bodies, const std::string& unit,
              ReadBack readBack, Progress& progress);

}  // namespace kervo
