// The journal: every document that was made, written at once, so that a crash loses nothing.
#pragma once

#include <filesystem>
#include <memory>
#include <set>
#include <string>
#include <vector>

#include "model/document.h"

namespace kervo {

/// One running Kervo's journal: a folder with the shapes of its documents and one line for each edit. The folder is
/// locked while this lives; one that is there and not locked was left behind by a crash.
class Journal {
 public:
  /// Makes a new folder in `home`. Throws FileError.
  explicit Journal(const std::filesystem::path& home);
  ~Journal();
  Journal(const Journal&) = delete;
  Journal& operator=(const Journal&) = delete;

  /// Writes the shapes that are not there yet. May take long for large ones. Throws FileError.
  void keepShapes(const Document& document);
  /// Adds a line: the document, and the file it is (or will be) saved in. Its shapes must be kept. Throws FileError.
  void append(const Document& document, const std::filesystem::path& file);
  /// Says that nothing is unsaved: what is there need not be recovered. Throws FileError.
  void clear();

  const std::filesystem::path& folder() const { return folder_; }

 private:
  std::filesystem::path folder_;
  int lock_ = -1;
  std::set<std::string> kept_;
};

/// What a crash left behind.
struct Abandoned {
  std::filesystem::path folder;
  std::filesystem::path file;  ///< that the document was saved in; empty if never
  std::string when;            ///< of the last edit, local time
  std::size_t steps = 0;
};

/// All journals in `home` that hold unsaved work and belong to no running Kervo. Unreadable ones are listed too, with
/// no steps; empty ones are removed.
std::vector<Abandoned> abandonedJournals(const std::filesystem::path& home);
/// The newest document in a journal; a last line that was not written whole is left out. Throws FileError.
Document recover(const Abandoned& journal, const StepKinds& kinds);
/// Removes it for good.
void discard(const Abandoned& journal);

}  // namespace kervo
