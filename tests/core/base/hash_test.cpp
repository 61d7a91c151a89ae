#include "base/hash.h"

#include <gtest/gtest.h>

#include <set>

#include "base/error.h"
#include "base/progress.h"

namespace kervo {
namespace {

TEST(Hash, EqualInputGivesEqualKeysAndOrderMatters) {
  EXPECT_EQ(Hasher().add(1.5).add("ab").key(), Hasher().add(1.5).add("ab").key());
  EXPECT_NE(Hasher().add("ab").add(1.5).key(), Hasher().add(1.5).add("ab").key());
  EXPECT_NE(Hasher().add("ab").add("c").key(), Hasher().add("a").add("bc").key());
  EXPECT_EQ(Hasher().add(0.0).key(), Hasher().add(-0.0).key());
}

TEST(Hash, NeighbouringValuesDoNotCollide) {
  std::set<Key> keys;
  for (int i = 0; i < 20000; ++i) {
    keys.insert(Hasher().add(static_cast<std::uint64_t>(i)).key());
    keys.insert(Hasher().add(i * 0.001 + 0.0005).key());
  }
  EXPECT_EQ(keys.size(), 40000u);
}

TEST(Progress, StopsAndReports) {
  double last = -1;
  Progress progress([&](double fraction, const std::string&) { last = fraction; });
  progress.enter(0.5, 1, "half");
  EXPECT_DOUBLE_EQ(last, 0.5);
  EXPECT_NO_THROW(progress.throwIfStopped());
  progress.requestStop();
  EXPECT_THROW(progress.throwIfStopped(), Stopped);
}

TEST(ErrorText, SaysWhereWhatAndHelp) {
  const Error error = Error("the depth is 0", "field depth", "Type a depth").within("step 3");
  EXPECT_STREQ(error.what(), "step 3, field depth: the depth is 0. Type a depth.");
}

}  // namespace
}  // namespace kervo
