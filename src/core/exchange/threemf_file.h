// 3MF files: bodies as triangles with names, colours and units, for printers.
#pragma once

#include "exchange/formats.h"

namespace kervo {

const Format& threemfFormat();

/// Every item that is to be built, objects of several components taken apart into placed bodies. The file's own unit
/// counts, not `unit`. Throws FileError.
FileContents readThreemf(const std::filesystem::path& path, const ReadWishes& wishes, Progress& progress);
/// Lengths are written in mm, whatever the wishes say. Throws FileError.
void writeThreemf(const std::filesystem::path& path, const std::vector<FileBody>& bodies, const WriteWishes& wishes,
                  Progress& progress);

}  // namespace kervo
