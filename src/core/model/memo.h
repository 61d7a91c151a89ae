// Results of steps, kept under what they were made from.
//
// A result is kept under the step's own key and the keys of everything it looked at while it was evaluated. So a cut
// on "all it touches" depends on the boxes of all bodies, but on the shapes of only those in reach.
#pragma once

#include <functional>
#include <list>
#include <memory>
#include <mutex>
#include <optional>
#include <string>
#include <unordered_map>
#include <vector>

#include "base/error.h"
#include "base/hash.h"
#include "model/step_result.h"

namespace kervo {

/// One thing that a step looked at while it was evaluated, and the key that it had.
struct Read {
  /// All of an output, only the box of a body, or only which bodies there are of a family.
  enum class Of { Form, Box, Members };
  Of of;
  BodyId id;
  Key value;
};

/// A kept result, or the error that came out instead.
struct MemoEntry {
  std::vector<Read> reads;
  std::shared_ptr<const StepResult> result;
  std::optional<Error> error;
  std::shared_ptr<const Finding> finding;  ///< null if nothing was found
  Key key;  ///< of the step's own key and all reads; bodies made by it derive theirs from it
};

/// Keeps results for as long as there is room; the least recently used go first. Safe to use from several threads.
class Memo {
 public:
  explicit Memo(std::size_t capacity = 20000) : capacity_(capacity) {}

  /// The entry for a step's own key all of whose reads still have the values that `valueNow` gives, or null.
  std::shared_ptr<const MemoEntry> find(const Key& own, const std::function<Key(const Read&)>& valueNow);
  void keep(const Key& own, std::shared_ptr<const MemoEntry> entry);
  std::size_t size() const;

 private:
  struct Slot {
    Key own;
    std::shared_ptr<const MemoEntry> entry;
  };
  std::size_t capacity_;
  mutable std::mutex mutex_;
  std::list<Slot> slots_;  // most recently used first
  std::unordered_map<Key, std::vector<std::list<Slot>::iterator>> byOwnKey_;
};

}  // namespace kervo
