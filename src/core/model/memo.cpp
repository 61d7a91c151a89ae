#include "model/memo.h"

#include <algorithm>

namespace kervo {

std::shared_ptr<const MemoEntry> Memo::find(const Key& own, const std::function<Key(const Read&)>& valueNow) {
  std::lock_guard lock(mutex_);
  const auto found = byOwnKey_.find(own);
  if (found == byOwnKey_.end()) return nullptr;
  for (const auto slot : found->second) {
    const auto& reads = slot->entry->reads;
    if (!std::all_of(reads.begin(), reads.end(), [&](const Read& read) { return valueNow(read) == read.value; }))
      continue;
    slots_.splice(slots_.begin(), slots_, slot);
    return slot->entry;
  }
  return nullptr;
}

void Memo::keep(const Key& own, std::shared_ptr<const MemoEntry> entry) {
  std::lock_guard lock(mutex_);
  slots_.push_front({own, std::move(entry)});
  byOwnKey_[own].push_back(slots_.begin());
  while (slots_.size() > capacity_) {
    const auto last = std::prev(slots_.end());
    auto& same = byOwnKey_[last->own];
    std::erase(same, last);
    if (same.empty()) byOwnKey_.erase(last->own);
    slots_.pop_back();
  }
}

std::size_t Memo::size() const {
  std::lock_guard lock(mutex_);
  return slots_.size();
}

}  // namespace kervo
