#include "exchange/known_shapes.h"

#include <fstream>

namespace kervo {

namespace {

constexpr std::size_t keyLength = 32;
constexpr std::size_t mostKeys = 50'000;

}  // namespace

Key shapeBytesKey(const std::string& bytes) {
  return Hasher().add(bytes).key();
}

KnownShapes::KnownShapes(std::filesystem::path file) : file_(std::move(file)) {
  std::ifstream lines(file_);
  for (std::string line; keys_.size() < mostKeys && std::getline(lines, line);)
    if (line.size() == keyLength) keys_.insert(std::move(line));
  keepShort();
}

/// Forgets all keys when there are too many. Each shape is then checked once more.
void KnownShapes::keepShort() {
  if (keys_.size() < mostKeys) return;
  keys_.clear();
  std::error_code ignored;  // a file that cannot be removed is forgotten again at the next start
  std::filesystem::remove(file_, ignored);
}

bool KnownShapes::holds(const Key& key) const {
  const std::lock_guard lock(mutex_);
  return keys_.count(key.text()) > 0;
}

void KnownShapes::add(const std::vector<Key>& keys) {
  const std::lock_guard lock(mutex_);
  std::string lines;
  for (const Key& key : keys)
    if (keys_.insert(key.text()).second) lines += key.text() + "\n";
  if (lines.empty() || file_.empty()) return;
  std::error_code ignored;  // the stream tells
  std::filesystem::create_directories(file_.parent_path(), ignored);
  std::ofstream(file_, std::ios::app) << lines;
}

}  // namespace kervo
