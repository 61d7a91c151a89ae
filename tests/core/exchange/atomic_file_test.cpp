#include "exchange/atomic_file.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

#include <chrono>
#include <thread>

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

TEST(AtomicFile, FollowsLinks) {
  namespace fs = std::filesystem;
  const TemporaryFolder folder;
  fs::create_directory(folder / "deep");
  writeFile(folder / "deep/a", "one");
  fs::create_symlink("deep/a", folder / "link");
  fs::create_symlink(folder / "link", folder / "link to link");
  write(folder / "link to link", "two");
  EXPECT_TRUE(fs::is_symlink(folder / "link"));
  EXPECT_TRUE(fs::is_symlink(folder / "link to link"));
  EXPECT_EQ(readFile(folder / "deep/a"), "two");
  // Also to where nothing is yet.
  fs::create_symlink("deep/new", folder / "dangling");
  write(folder / "dangling", "three");
  EXPECT_EQ(readFile(folder / "deep/new"), "three");
  fs::create_symlink("round", folder / "round");
  EXPECT_THAT(errorOf([&] { write(folder / "round", "x"); }), HasSubstr("circle"));
  EXPECT_EQ(filesIn(folder), 5);
}

TEST(AtomicFile, KeepsTheRights) {
  namespace fs = std::filesystem;
  const TemporaryFolder folder;
  writeFile(folder / "a", "one");
  const auto rights = fs::perms::owner_read | fs::perms::owner_write | fs::perms::group_read;
  fs::permissions(folder / "a", rights);
  write(folder / "a", "two", Backup::KeepPrevious);
  EXPECT_EQ(fs::status(folder / "a").permissions(), rights);
  EXPECT_EQ(fs::status(folder / "a~").permissions(), rights);
  EXPECT_EQ(readFile(folder / "a"), "two");
}

TEST(AtomicFile, WritesToPipesAndRefusesDevices) {
  const TemporaryFolder folder;
  const std::filesystem::path pipe = folder / "pipe";
  ASSERT_EQ(mkfifo(pipe.c_str(), 0600), 0);
  std::string read;
  std::thread reader([&] { read = readFile(pipe); });
  write(pipe, "through the pipe");
  reader.join();
  EXPECT_EQ(read, "through the pipe");
  EXPECT_TRUE(std::filesystem::is_fifo(pipe));
  EXPECT_EQ(filesIn(folder), 1);
  EXPECT_THAT(errorOf([&] { write("/dev/null", "x"); }), HasSubstr("this is a device"));
  EXPECT_TRUE(std::filesystem::is_character_file("/dev/null"));
}

TEST(AtomicFile, RemovesWhatKilledProcessesLeft) {
  namespace fs = std::filesystem;
  const TemporaryFolder folder;
  const pid_t gone = fork();
  if (gone == 0) _exit(0);
  waitpid(gone, nullptr, 0);
  const auto leftover = [&](const std::string& name, std::chrono::minutes age) {
    writeFile(folder / name, "half");
    fs::last_write_time(folder / name, fs::file_time_type::clock::now() - age);
    return folder / name;
  };
  using std::chrono::minutes;
  const fs::path old = leftover(".a.kervo." + std::to_string(gone) + ".part.kervo", minutes(30));
  const fs::path fresh = leftover(".b.kervo." + std::to_string(gone) + ".part.kervo", minutes(1));
  const fs::path running = leftover(".c.kervo." + std::to_string(getpid()) + ".part.kervo", minutes(30));
  const fs::path foreign = leftover(".d.1.party", minutes(30));
  write(folder / "x.kervo", "whole");
  EXPECT_FALSE(fs::exists(old));
  EXPECT_TRUE(fs::exists(fresh)) << "it may be of another machine";
  EXPECT_TRUE(fs::exists(running));
  EXPECT_TRUE(fs::exists(foreign));
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
