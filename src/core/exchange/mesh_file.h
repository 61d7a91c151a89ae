// Bodies in files of triangles: what all such formats have in common.
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "exchange/body_file.h"
#include "exchange/instances.h"
#include "geom/mesh.h"

namespace kervo {

/// A body as triangles, in the file's unit.
struct MeshBody {
  std::string name;
  Mesh mesh = {};
  std::optional<Color> color = {};  ///< of triangles without a paint of their own
  std::string layer = {};
  std::vector<std::string> within = {};  ///< the names of the assemblies that it is in, the outermost first
  std::string broken = {};               ///< why it could not be read
  std::optional<Follows> follows = {};   ///< how it stands to an earlier one, in the file's unit

  /// Of one triangle.
  std::optional<Color> colorOf(std::size_t triangle) const;
};

/// Numbers of which precision a file holds.
enum class Precision { Single, Double };

/// The bodies as they go into a file: exact ones are meshed, lengths are in the wanted unit and numbers as the file
/// rounds them; of several instances of a part the first one, and the others as that one moved. Throws FileError for a
/// curve, and for a solid whose triangles do not close.
std::vector<MeshBody> meshBodies(const std::vector<FileBody>& bodies, const WriteWishes& wishes, Precision precision,
                                 const std::filesystem::path& path, Progress& progress);

/// Bodies that were read, of which those without triangles are left out with a note, and those that are too large are
/// lost. `unit`: in which their lengths are. Throws FileError if nothing was there.
FileContents contentsOf(std::vector<MeshBody> bodies, const std::string& unit, const std::filesystem::path& path);
/// … in the unit that is wanted, else that which the file says, else mm, which is noted. Either may be empty.
FileContents contentsOf(std::vector<MeshBody> bodies, const std::string& wanted, const std::string& said,
                        const std::filesystem::path& path);

/// Triangles of a polygon in space, seen from where it runs counter-clockwise, as numbers of its corners; also of one
/// that is not convex.
std::vector<Mesh::Triangle> trianglesOf(const std::vector<Point>& polygon);

/// Puts what was read beside what was written. Throws FileError if the triangles, names or colours differ.
void requireSame(const std::vector<MeshBody>& written, const FileContents& read, const std::string& unit,
                 const std::filesystem::path& path);

/// mm a unit of length is. Throws Error for another name than mm, cm, m, in or ft.
double lengthUnit(const std::string& unit);

/// Words and numbers of a text, line by line. It fails with the line's number.
class LineReader {
 public:
  LineReader(std::string_view text, std::string file) : text_(text), file_(std::move(file)) {}

  /// False at the end. A line that ends in a backslash goes on in the next one.
  bool nextLine();
  /// The next word of the line; empty at its end.
  std::string_view word();
  /// What is left of the line, without blanks at its ends.
  std::string_view rest();
  double number();
  std::int64_t wholeNumber();
  [[noreturn]] void fail(const std::string& what, const std::string& help = {}) const;
  std::size_t line() const { return line_; }

 private:
  std::string_view text_, now_;
  std::string joined_, file_;
  std::size_t at_ = 0, line_ = 0;
};

double numberFrom(std::string_view word, bool& good);

/// Larger files are refused.
inline constexpr std::uintmax_t mostMeshBytes = 2'000'000'000;
/// … and meshes of more triangles.
inline constexpr std::size_t mostTriangles = 50'000'000;

}  // namespace kervo
