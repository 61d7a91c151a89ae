// IGES 5.3 files: exact solids and surfaces.
#pragma once

#include "exchange/formats.h"

namespace kervo {

const Format& igesFormat();

/// Solids as they are; loose faces are sewn together, and what then closes becomes a solid. What stays open is said in
/// the notes. The file's own unit counts, not `unit`. Throws FileError.
FileContents readIges(const std::filesystem::path& path, const ReadWishes& wishes, Progress& progress);
/// Writes solids as solids, with names and colours. Throws FileError, also for a body that is read back differently.
void writeIges(const std::filesystem::path& path, const std::vector<FileBody>& bodies, const WriteWishes& wishes,
               Progress& progress);

}  // namespace kervo
