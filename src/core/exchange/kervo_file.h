// .kervo files: a zip of document.json and the brought-in shapes.
#pragma once

#include <filesystem>
#include <vector>

#include "base/error.h"
#include "base/hash.h"
#include "base/progress.h"
#include "base/say.h"
#include "exchange/formats.h"
#include "exchange/known_shapes.h"
#include "model/document.h"

namespace kervo {

const Format& kervoFormat();
/// A bare document.json, written by hand.
const Format& documentTextFormat();

/// Reads a .kervo file, or a bare document.json whose brought-in shapes lie beside it in shapes/. Everything is checked
/// before anything is given back. Throws FileError naming the place.
Document readDocument(const std::filesystem::path& path, const StepKinds& kinds, Progress& progress);

/// A document has shapes that nobody has read yet, so that reading them may crash or never end.
class ShapesNotKnown : public FileError {
 public:
  ShapesNotKnown(const std::string& path, std::vector<Key> keys)
      : FileError(say("it has shapes that were not read before"), path), keys_(std::move(keys)) {}
  const std::vector<Key>& keys() const { return keys_; }

 private:
  std::vector<Key> keys_;
};

/// The same, where all of its shapes are known. Throws ShapesNotKnown where not, before it reads any.
Document readKnownDocument(const std::filesystem::path& path, const StepKinds& kinds, const KnownShapes& known,
                           Progress& progress);

/// Writes a .kervo file whole or not at all; the one that was there stays as `path`~. Gives the keys of the stored
/// shapes. Throws FileError.
std::vector<Key> writeDocument(const std::filesystem::path& path, const Document& document, Progress& progress);

}  // namespace kervo
