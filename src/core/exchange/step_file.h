// STEP files (ISO 10303-21; application protocols 203, 214 and 242 are read, 214 is written).
#pragma once

#include <filesystem>

#include "exchange/body_file.h"

namespace kervo {

/// Reads bodies with their names, colours and layers, assemblies taken apart into placed bodies. Throws FileError for a
/// file that is missing, not STEP, cut off, or without bodies.
FileContents readStep(const std::filesystem::path& path, Progress& progress);
/// Writes bodies with names, colours and layers, lengths in `unit`. Throws FileError.
void writeStep(const std::filesystem::path& path, const std::vector<FileBody>& bodies, const std::string& unit,
               Progress& progress);

}  // namespace kervo
