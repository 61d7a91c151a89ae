#include "exchange/journal.h"

#include <gtest/gtest.h>
#include <sys/wait.h>

#include "exchange/body_file.h"
#include "geom/primitives.h"
#include "support/document_builder.h"
#include "support/temporary_folder.h"

namespace kervo {
namespace {

using namespace test;

/// Runs `work` with a journal in another process that then dies as a crash does.
void inCrashingProcess(const std::filesystem::path& home, const std::function<void(Journal&)>& work) {
  const pid_t child = fork();
  if (child == 0) {
    Journal journal(home);
    work(journal);
    kill(getpid(), SIGKILL);
  }
  int status = 0;
  waitpid(child, &status, 0);
  ASSERT_TRUE(WIFSIGNALED(status));
}

Document withImport() {
  FileContents contents;
  contents.bodies.push_back({"Part", makeBlock("part", Plane{}, 3, 4, 5), std::nullopt, ""});
  return withBroughtIn(documentOf({block("b", "10", "10", "10")}), contents, "part.step", allStepKinds());
}

TEST(JournalTest, NewestEditComesBackAfterACrash) {
  TemporaryFolder folder;
  inCrashingProcess(folder.path(), [](Journal& journal) {
    journal.append(documentOf({block("b", "10", "10", "10")}), "/some/where.kervo");
    journal.append(documentOf({block("b", "20", "10", "10"), block("c", "1", "1", "1")}), "/some/where.kervo");
  });
  const auto found = abandonedJournals(folder.path());
  ASSERT_EQ(found.size(), 1u);
  EXPECT_EQ(found[0].file, "/some/where.kervo");
  EXPECT_EQ(found[0].steps, 2u);
  EXPECT_FALSE(found[0].when.empty());
  EXPECT_DOUBLE_EQ(volume(made(recover(found[0], allStepKinds())), "b"), 2000);
  discard(found[0]);
  EXPECT_TRUE(abandonedJournals(folder.path()).empty());
}

TEST(JournalTest, ShapesComeBackToo) {
  TemporaryFolder folder;
  inCrashingProcess(folder.path(), [](Journal& journal) {
    const Document document = withImport();
    journal.keepShapes(document);
    journal.append(document, "");
  });
  const Document recovered = recover(abandonedJournals(folder.path()).at(0), allStepKinds());
  EXPECT_NEAR(volume(made(recovered), "import1"), 60, 1e-9);
}

TEST(JournalTest, LineThatWasCutOffIsLeftOut) {
  TemporaryFolder folder;
  inCrashingProcess(folder.path(), [](Journal& journal) {
    journal.append(documentOf({block("b", "10", "10", "10")}), "");
    std::ofstream(journal.folder() / "edits.jsonl", std::ios::app) << "{\"file\": \"x\", \"docum";
  });
  EXPECT_DOUBLE_EQ(volume(made(recover(abandonedJournals(folder.path()).at(0), allStepKinds())), "b"), 1000);
}

TEST(JournalTest, RunningAndSavedOnesAreNotAbandoned) {
  TemporaryFolder folder;
  Journal running(folder.path());
  running.append(documentOf({block("b", "10", "10", "10")}), "");
  EXPECT_TRUE(abandonedJournals(folder.path()).empty());
  inCrashingProcess(folder.path(), [](Journal& journal) {
    journal.append(documentOf({block("b", "10", "10", "10")}), "");
    journal.clear();
  });
  EXPECT_TRUE(abandonedJournals(folder.path()).empty());
}

TEST(JournalTest, CleanEndLeavesNothing) {
  TemporaryFolder folder;
  {
    Journal journal(folder.path());
    journal.append(documentOf({block("b", "10", "10", "10")}), "");
  }
  EXPECT_TRUE(std::filesystem::is_empty(folder.path()));
}

TEST(JournalTest, DamagedOneIsListedAndSaysSo) {
  TemporaryFolder folder;
  inCrashingProcess(folder.path(),
                    [](Journal& journal) { std::ofstream(journal.folder() / "edits.jsonl") << "nonsense\n"; });
  const auto found = abandonedJournals(folder.path());
  ASSERT_EQ(found.size(), 1u);
  EXPECT_EQ(found[0].steps, 0u);
  EXPECT_THROW(recover(found[0], allStepKinds()), FileError);
}

}  // namespace
}  // namespace kervo
