// STEP files (ISO 10303-21; application protocols 203, 214 and 242 are read, 242 is written).
#pragma once

#include <filesystem>

#include "exchange/formats.h"

namespace kervo {

const Format& stepFormat();

/// Reads bodies with their names, colours and layers, assemblies taken apart into placed bodies. Throws FileError for a
/// file that is missing, not STEP, cut off, or without bodies.
FileContents readStep(const std::filesystem::path& path, const ReadWishes& wishes, Progress& progress);
/// Writes bodies with names, colours, layers and validation properties, lengths in `unit`. Faces on spheres are turned
/// so that their borders stay clear of the seam; what still comes back differently is turned, divided, and at last
/// written as splines. Throws FileError, also for a body that comes back differently whatever is done.
void writeStep(const std::filesystem::path& path, const std::vector<FileBody>& bodies, const WriteWishes& wishes,
               Progress& progress);

}  // namespace kervo
