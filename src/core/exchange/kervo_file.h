// .kervo files: a zip of document.json and the brought-in shapes.
#pragma once

#include <filesystem>

#include "base/progress.h"
#include "model/document.h"

namespace kervo {

/// Reads a .kervo file, or a bare document.json whose brought-in shapes lie beside it in shapes/. Everything is checked
/// before anything is given back. Throws FileError naming the place.
Document readDocument(const std::filesystem::path& path, const StepKinds& kinds, Progress& progress);

/// Writes a .kervo file whole or not at all; the one that was there stays as `path`~. Throws FileError.
void writeDocument(const std::filesystem::path& path, const Document& document, Progress& progress);

}  // namespace kervo
