// Killed at any moment, while it edits or saves, Kervo loses no edit and breaks no file.
#include <gtest/gtest.h>

#include <QApplication>
#include <QProcess>
#include <QTest>
#include <chrono>
#include <filesystem>
#include <random>

#include "app/session.h"
#include "exchange/journal.h"
#include "exchange/kervo_file.h"
#include "steps/registry.h"
#include "support/temporary_folder.h"

namespace kervo::test {
namespace {

/// How often each is killed; packaging/harden asks for more.
int kills() {
  bool given = false;
  const int count = qEnvironmentVariableIntValue("KERVO_KILLS", &given);
  return given && count > 0 ? count : 4;
}

/// Starts this program, kills it some time after its first line, and gives the last whole number that it printed; a
/// number stands for work that was done.
int lastBeforeKill(const QStringList& arguments, std::mt19937& random) {
  QProcess child;
  child.setStandardErrorFile(QProcess::nullDevice());
  child.start(QApplication::applicationFilePath(), arguments);
  for (int i = 0; i < 3000 && !child.canReadLine(); ++i) QTest::qWait(10);
  EXPECT_TRUE(child.canReadLine()) << "it did nothing within 30 s";
  QTest::qWait(std::uniform_int_distribution(0, 250)(random));
  child.kill();
  child.waitForFinished();
  int last = 0;
  while (child.canReadLine()) last = child.readLine().trimmed().toInt();
  return last;
}

double kerfOf(const Document& document) {
  return QString::fromStdString(document.made.dimensions.back().expression.text()).remove(" mm").toDouble();
}

TEST(Kills, NoEditIsLost) {
  std::mt19937 random(20261127);
  for (int i = 0; i < kills(); ++i) {
    const int last = lastBeforeKill({"--edit-until-killed"}, random);
    ASSERT_GT(last, 0);
    const std::vector<Abandoned> left = abandonedJournals(app::journalHome());
    ASSERT_EQ(left.size(), 1u);
    EXPECT_TRUE(left.front().unreadable.empty()) << left.front().unreadable;
    // The edit that was being made may be there or not.
    const double kerf = kerfOf(recover(left.front(), allStepKinds()));
    EXPECT_GE(kerf, last);
    EXPECT_LE(kerf, last + 1);
    discard(left.front());
  }
}

TEST(Kills, NoFileIsBroken) {
  std::mt19937 random(20261128);
  const TemporaryFolder folder;
  const auto path = folder / "saved.kervo";
  for (int i = 0; i < kills(); ++i) {
    const int last = lastBeforeKill({"--save-until-killed", QString::fromStdString(path.string())}, random);
    ASSERT_GT(last, 0);
    Progress progress;
    const Document found = readDocument(path, allStepKinds(), progress);
    EXPECT_GE(kerfOf(found), last);
    EXPECT_LE(kerfOf(found), last + 1);
    if (last >= 2) {
      EXPECT_GE(kerfOf(readDocument(path.string() + "~", allStepKinds(), progress)), last - 1);
    }
    // The next save clears up what the killed one left, once it is old enough to be nobody's work.
    std::vector<std::filesystem::path> left;
    for (const auto& entry : std::filesystem::directory_iterator(folder.path()))
      if (entry.path().filename().string().find(".part") != std::string::npos) left.push_back(entry.path());
    EXPECT_LE(left.size(), 2u);
    for (const auto& each : left)
      last_write_time(each, std::filesystem::file_time_type::clock::now() - std::chrono::hours(1));
    writeDocument(path, found, progress);
    for (const auto& each : left) EXPECT_FALSE(exists(each)) << each;
  }
}

}  // namespace
}  // namespace kervo::test
