// BREP files, the kernel's own format, as text or binary.
#pragma once

#include <filesystem>

#include "exchange/formats.h"

namespace kervo {

const Format& brepFormat();

/// Reads either flavour. The file has no names: bodies are called after it. Throws FileError.
FileContents readBrep(const std::filesystem::path& path, Progress& progress);
/// Writes text BREP in mm, whatever the unit: the shape, or a compound of several. Names and colours are lost. Throws
/// FileError, also if the shapes that are read back differ.
void writeBrep(const std::filesystem::path& path, const std::vector<FileBody>& bodies, const std::string& unit,
               ReadBack readBack, Progress& progress);

}  // namespace kervo
