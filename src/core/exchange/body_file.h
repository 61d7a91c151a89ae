// Bodies in files of any format: what comes in and what goes out.
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "base/progress.h"
#include "geom/shape.h"
#include "model/document.h"
#include "model/model.h"

namespace kervo {

/// A body as a file holds it.
struct FileBody {
  std::string name;
  Shape shape;  ///< its faces may have colours of their own, none like another body's
  std::optional<Color> color;
  std::string layer;
  std::optional<double> statedVolume = std::nullopt;  ///< what the file itself says, in mm³
  std::vector<int>
      wrongSide{};  ///< faces, by number from 1, that lie on another side of their border than the file says
};

struct FileContents {
  std::vector<FileBody> bodies;
  std::string unit = "mm";  ///< the file's length unit: a unit's name, or what the file calls it. Shapes are in mm.
  std::vector<std::string> notes{};  ///< what was mended in it, and what could not be
};

/// Reads a file of any format that holds bodies (formats.h), by its extension. Throws FileError (unknown extension,
/// unreadable, truncated, without bodies): nothing comes in half.
FileContents readBodies(const std::filesystem::path& path, Progress& progress);

/// Whether a file is read again and compared with what was written, before it takes its place.
enum class ReadBack { Compare, Skip };

/// Writes a file in the format of its extension, whole or not at all. `unit`: mm, cm, m, in or ft. Throws FileError,
/// also if what is read back is not what was written.
void writeBodies(const std::filesystem::path& path, const std::vector<FileBody>& bodies, const std::string& unit,
                 Progress& progress, ReadBack readBack = ReadBack::Compare);

/// True if the extension is that of a format that holds bodies.
bool isBodyFile(const std::filesystem::path& path);

/// A document with a Bring in step for these bodies at its end, their shapes stored in it. `source` is the file's name.
Document withBroughtIn(const Document& document, const FileContents& contents, const std::string& source,
                       const StepKinds& kinds);

/// A body of a model, to be written. Faces that are coloured like another body have that one's present colour.
FileBody fileBodyOf(const Body& body, const Model& model);
/// All of them.
std::vector<FileBody> bodiesOf(const Model& model);

}  // namespace kervo
