// Bodies in files of any format: what comes in and what goes out.
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "base/error.h"
#include "base/progress.h"
#include "geom/mesh/meshed.h"
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
  std::vector<std::string> within = {};  ///< the names of the assemblies that it is in, the outermost first
  std::string level = {};                ///< on which it is; empty: on none
  std::vector<int>
      wrongSide{};  ///< faces, by number from 1, that lie on another side of their border than the file says
};

/// A level, for formats that have such.
struct FileLevel {
  std::string name;
  double height = 0;  ///< mm
};

/// A part of a broken file that could not be read.
struct LostPart {
  std::string happened;
  std::string help = {};
};

struct FileContents {
  std::vector<FileBody> bodies;
  std::string unit = "mm";  ///< the file's length unit: a unit's name, or what the file calls it. Shapes are in mm.
  std::vector<std::string> notes{};  ///< what was mended in it, and what could not be
  bool unitNamed = true;             ///< by the file or by who read it; false: mm were taken
  std::vector<FileLevel> levels{};   ///< of a building
  std::vector<LostPart> lost{};
};

/// What is wanted of a file that is read.
struct ReadWishes {
  std::string unit = {};  ///< what one unit of its lengths is, where it does not say so: mm, cm, m, in or ft
  bool parts = false;     ///< of a broken file what can be read; otherwise it is refused
};

/// A file that is not whole, of which a part may be readable.
class BrokenFile : public FileError {
 public:
  using FileError::FileError;
};

/// Reads a file of any format that holds bodies (formats.h), by its extension. Throws FileError (unknown extension,
/// unreadable, truncated, without bodies): nothing comes in half, unless it is wished; BrokenFile where that may help.
FileContents readBodies(const std::filesystem::path& path, const ReadWishes& wishes, Progress& progress);
inline FileContents readBodies(const std::filesystem::path& path, Progress& progress) {
  return readBodies(path, ReadWishes(), progress);
}
/// The bodies of these names, in the file's order. Throws FileError for a name that none has.
FileContents onlyOf(FileContents contents, const std::vector<std::string>& names, const std::filesystem::path& path);

/// Whether a file is read again and compared with what was written, before it takes its place.
enum class ReadBack { Compare, Skip };

/// What is wanted of a file that is written.
struct WriteWishes {
  std::string unit = "mm";  ///< mm, cm, m, in or ft
  ReadBack readBack = ReadBack::Compare;
  MeshFineness fineness = {};  ///< where exact bodies are written as triangles
  std::vector<FileLevel> levels = {};
};

/// Writes a file in the format of its extension, whole or not at all. Throws FileError, also if what is read back is
/// not what was written.
void writeBodies(const std::filesystem::path& path, const std::vector<FileBody>& bodies, const WriteWishes& wishes,
                 Progress& progress);
inline void writeBodies(const std::filesystem::path& path, const std::vector<FileBody>& bodies, const std::string& unit,
                        Progress& progress, ReadBack readBack = ReadBack::Compare) {
  writeBodies(path, bodies, WriteWishes{unit, readBack, {}, {}}, progress);
}

/// True if the extension is that of a format that holds bodies.
bool isBodyFile(const std::filesystem::path& path);

/// A document with a Bring in step for these bodies at its end, their shapes stored in it, and with the file's levels,
/// but for those that it has by name. `source` is the file's name.
Document withBroughtIn(const Document& document, const FileContents& contents, const std::string& source,
                       const StepKinds& kinds);

/// A body of a model, to be written. Faces that are coloured like another body have that one's present colour.
FileBody fileBodyOf(const Body& body, const Model& model);
/// All of them.
std::vector<FileBody> bodiesOf(const Model& model);
/// Those that have a height, from the lowest one up.
std::vector<FileLevel> levelsOf(const Model& model);

}  // namespace kervo
