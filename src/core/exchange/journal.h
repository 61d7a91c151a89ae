// The journal: what every edit changed, written at once, so that a crash loses nothing.
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
  /// Adds a line: what differs from the document of the line before (all of it in the first line), and the file it is
  /// (or will be) saved in. Its shapes must be kept. Throws FileError; what was there stays readable then, and the next
  /// line holds the whole document.
  void append(const Document& document, const std::filesystem::path& file);
  /// Says that nothing is unsaved: what is there need not be recovered. Throws FileError.
  void clear();

  const std::filesystem::path& folder() const { return folder_; }

 private:
  struct Written;

  std::filesystem::path folder_;
  int lock_ = -1;
  std::set<std::string> kept_;
  std::unique_ptr<Written> last_;  ///< what the last line left; null: the next one is to hold all
};

/// What a crash left behind.
struct Abandoned {
  std::filesystem::path folder;
  std::filesystem::path file;  ///< that the document was saved in; empty if never
  std::string when;            ///< of the last edit, local time
  std::size_t steps = 0;
  std::size_t lost = 0;    ///< lines at the end that cannot be read
  std::string unreadable;  ///< why nothing of it can be read; empty for a readable one
};

/// All journals in `home` that hold unsaved work and belong to no running Kervo, the newest first. Empty ones are
/// removed. Throws nothing, whatever is there.
std::vector<Abandoned> abandonedJournals(const std::filesystem::path& home);
/// The newest document in a journal that can be read. Lines that were not written whole are left out. Throws FileError.
Document recover(const Abandoned& journal, const StepKinds& kinds);
/// Moves it where it is not found again; gives the place. Throws FileError.
std::filesystem::path keepAside(const Abandoned& journal);
/// Removes it for good.
void discard(const Abandoned& journal);

}  // namespace kervo
