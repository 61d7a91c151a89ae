// BREP files, the kernel's own format, as text or binary.
#pragma once

#include <filesystem>

#include "exchange/formats.h"

namespace kervo {

const Format& brepFormat();

/// Reads either flavour. The file has no names: bodies are called after it. Throws FileError.
FileContents readBrep(const std::filesystem::path& path, const ReadWishes& wishes, Progress& progress);
/// Writes text BREP in mm, whatever the unit: the shape, or a compound of several. Names and colours are lost. Throws
/// FileError, also if the shapes that are read back differ.
void writeBrep(const std::filesystem::path& path, const std::vector<FileBody>& bodies, const WriteWishes& wishes,
               Progress& progress);

/// A shape as the kernel's binary BREP, and back. Throws FileError naming `where` if the bytes are no shape.
std::string brepToBytes(const Shape& shape);
Shape brepFromBytes(const std::string& bytes, const std::string& where);

}  // namespace kervo
