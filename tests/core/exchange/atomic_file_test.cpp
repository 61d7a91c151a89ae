#include "exchange/atomic_file.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "base/error.h"
#include "support/temporary_folder.h"

namespace kervo {
namespace {

using namespace test;
using testing::HasSubstr;

void write(const std::filesystem::path& path, const std::string& content, Backup backup = Backup::None) {
  writeAtomically(path, backup, [&](const std::filesystem::path& temporary) { writeFile(temporary, content); });
}

int filesIn(const TemporaryFolder& folder) {
  return static_cast<int>(std::distance(std::filesystem::directory_iterator(folder.path()), {}));
}

template <class Work>
std::string errorOf(Work&& work) {
  try {
    work();
  } catch (const FileError& error) {
    return error.what();
  }
  return "no error";
}

TEST(AtomicFile, ReplacesInOneStepAndKeepsThePreviousIfAsked) {
  const TemporaryFolder folder;
  write(folder / "a", "one");
  write(folder / "a", "two");
  EXPECT_EQ(readFile(folder / "a"), "two");
  EXPECT_EQ(filesIn(folder), 1);
  write(folder / "a", "three", Backup::KeepPrevious);
  write(folder / "a", "four", Backup::KeepPrevious);
  EXPECT_EQ(readFile(folder / "a"), "four");
  EXPECT_EQ(readFile(folder / "a~"), "three");
  EXPECT_EQ(filesIn(folder), 2);
}

TEST(AtomicFile, AFailureLeavesWhatWasThere) {
  const TemporaryFolder folder;
  write(folder / "a", "one");
  EXPECT_THROW(writeAtomically(folder / "a", Backup::KeepPrevious,
                               [](const std::filesystem::path& temporary) {
                                 writeFile(temporary, "half");
                                 throw Stopped();
                               }),
               Stopped);
  EXPECT_EQ(readFile(folder / "a"), "one");
  EXPECT_EQ(filesIn(folder), 1);
  EXPECT_THAT(errorOf([&] { writeAtomically(folder / "a", Backup::None, [](const std::filesystem::path&) {}); }),
              HasSubstr("could not be written"));
  EXPECT_EQ(readFile(folder / "a"), "one");
}

TEST(AtomicFile, NamesWhatStandsInTheWay) {
  const TemporaryFolder folder;
  EXPECT_THAT(errorOf([&] { write(folder / "none/a", "x"); }), HasSubstr("there is no folder"));
  EXPECT_THAT(errorOf([&] { write(folder.path(), "x"); }), HasSubstr("this is a folder"));
}

TEST(AtomicFile, ReadingChecksFirst) {
  const TemporaryFolder folder;
  writeFile(folder / "a", "12345");
  EXPECT_EQ(readWhole(folder / "a", 5), "12345");
  EXPECT_THAT(errorOf([&] { readWhole(folder / "a", 4); }), HasSubstr("more than"));
  EXPECT_THAT(errorOf([&] { readWhole(folder / "b", 4); }), HasSubstr("there is no such file"));
  EXPECT_THAT(errorOf([&] { readWhole(folder.path(), 4); }), HasSubstr("this is not a file"));
}

}  // namespace
}  // namespace kervo
