// The document as JSON: what stands in document.json of a .kervo file. Described in docs/file-format.md.
#pragma once

#include <string>
#include <vector>

#include "model/document.h"

namespace kervo {

/// The version that is written. Files of a later one are refused; those of earlier ones are brought up to it.
inline constexpr int documentVersion = 2;

/// The document without its shapes, indented to be read and edited by hand.
std::string documentToJson(const Document& document);

/// Throws FileError naming the place ("steps[3].fields.depth", or line and column of broken JSON). `shapes` stays
/// empty.
Document documentFromJson(const std::string& text, const StepKinds& kinds, const std::string& fileName);

/// Keys of the shapes that the document's steps use.
std::vector<std::string> shapeKeys(const Document& document);

}  // namespace kervo
