// Which stored shapes are known to be readable.
#pragma once

#include <filesystem>
#include <mutex>
#include <set>
#include <string>
#include <vector>

#include "base/hash.h"

namespace kervo {

/// The key of a stored shape: of its bytes.
Key shapeBytesKey(const std::string& bytes);

/// The stored shapes that this person's Kervo has read or written before. A stored shape can be made so that reading it
/// crashes or never ends; one that was read once can be read again. The keys are kept in a file, one a line; where that
/// cannot be written, they are known until the process ends. Any thread may use it.
class KnownShapes {
 public:
  explicit KnownShapes(std::filesystem::path file);

  bool holds(const Key& key) const;
  void add(const std::vector<Key>& keys);

 private:
  void keepShort();

  mutable std::mutex mutex_;
  std::filesystem::path file_;
  std::set<std::string> keys_;
};

}  // namespace kervo
