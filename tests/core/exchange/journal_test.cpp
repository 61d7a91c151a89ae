#include "exchange/journal.h"

#include <gtest/gtest.h>
#include <sys/resource.h>
#include <sys/wait.h>

#include <csignal>
#include <fstream>

#include "exchange/body_file.h"
#include "exchange/document_json.h"
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

TEST(JournalTest, WhateverIsInTheFolderIsListedAndKeptAside) {
  for (const std::string& text :
       std::vector<std::string>{"nonsense\n", "[]\n", "{\"file\":3}\n", "7\n", "\n\n", "",
                                "{\"file\":\"a\",\"document\":[]}\n", "{\"file\":\"a\",\"document\":\"[]\"}\n",
                                "{\"file\":\"a\",\"order\":[\"b\"]}\n", std::string("\xff\xfe\0\n", 4)}) {
    TemporaryFolder folder;
    inCrashingProcess(folder.path(), [&](Journal& journal) {
      std::ofstream(journal.folder() / "edits.jsonl", std::ios::binary) << text;
    });
    const auto found = abandonedJournals(folder.path());
    ASSERT_EQ(found.size(), 1u) << text;
    EXPECT_EQ(found[0].steps, 0u);
    EXPECT_NE(found[0].unreadable, "") << text;
    EXPECT_THROW(recover(found[0], allStepKinds()), FileError);
    const std::filesystem::path place = keepAside(found[0]);
    EXPECT_TRUE(std::filesystem::exists(place / "edits.jsonl"));
    EXPECT_TRUE(abandonedJournals(folder.path()).empty()) << "it is told of once";
  }
  TemporaryFolder folder;
  std::ofstream(folder / "session-1") << "a file, not a folder";
  EXPECT_TRUE(abandonedJournals(folder.path()).empty());
  EXPECT_TRUE(abandonedJournals(folder / "missing").empty());
}

TEST(JournalTest, LinesHoldWhatChanged) {
  TemporaryFolder folder;
  std::uintmax_t first = 0, last = 0;
  {
    Journal journal(folder.path());
    std::vector<Step> steps;
    for (int i = 0; i < 200; ++i) steps.push_back(block("b" + std::to_string(i), "10", "10", "10"));
    Document document = documentOf(steps);
    journal.append(document, "f");
    const auto lines = journal.folder() / "edits.jsonl";
    first = std::filesystem::file_size(lines);
    journal.append(document.withReplaced(block("b7", "20", "10", "10")), "f");
    last = std::filesystem::file_size(lines);
  }
  EXPECT_LT(last - first, first / 50);
}

TEST(JournalTest, HidingOneOfManyBodiesCostsItsOwnSize) {
  TemporaryFolder folder;
  std::uintmax_t first = 0, last = 0;
  {
    Journal journal(folder.path());
    Document document = documentOf({block("b", "10", "10", "10")});
    for (int i = 0; i < 500; ++i) document = document.withLook("b/" + std::to_string(i), {.name = "a long name"});
    journal.append(document, "f");
    const auto lines = journal.folder() / "edits.jsonl";
    first = std::filesystem::file_size(lines);
    journal.append(document.withLook("b/7", {.name = "a long name", .visible = false}), "f");
    last = std::filesystem::file_size(lines);
  }
  EXPECT_LT(last - first, 200u);
}

TEST(JournalTest, OneOfVersion1IsRecovered) {
  TemporaryFolder folder;
  inCrashingProcess(folder.path(), [&](Journal& journal) {
    std::ofstream(journal.folder() / "edits.jsonl")
        << R"({"file":"f","document":"{\"format\":\"kervo\",\"version\":1,\"steps\":[]}"})"
        << "\n"
        << R"({"file":"f","order":["b"],"put":{"b":{"id":"b","kind":"block","name":"Rail","fields":{"width":"5"}}}})"
        << "\n"
        << R"({"file":"f","rest":{"format":"kervo","version":1,"bodies":{"b":{"visible":false,"shielded":true}}}})"
        << "\n";
  });
  const Document document = recover(abandonedJournals(folder.path()).at(0), allStepKinds());
  const Model model = made(document);
  EXPECT_EQ(model.find("b")->name, "Rail");
  EXPECT_FALSE(model.find("b")->visible);
  EXPECT_TRUE(model.find("b")->shielded);
  EXPECT_NEAR(volume(model, "b"), 5 * 60 * 40, 1e-9);
}

TEST(JournalTest, EveryKindOfEditIsReplayed) {
  TemporaryFolder folder;
  const auto steps = [](std::initializer_list<const char*> ids) {
    std::vector<Step> result;
    for (const char* id : ids) result.push_back(block(id, "10", "10", "10"));
    return documentOf(result);
  };
  Document last = steps({"c", "a", "d"}).withReplaced(block("a", "5", "5", "4"));
  last.made.dimensions.push_back({"wide", Expression("3 mm")});
  inCrashingProcess(folder.path(), [&](Journal& journal) {
    journal.append(steps({"a", "b", "c"}), "f");
    journal.append(steps({"a", "c"}), "f");
    journal.append(steps({"c", "a"}), "f");
    journal.append(steps({"c", "a", "d"}), "f");
    journal.append(last, "g");
    last = last.withStepNamed("a", "Rail").withLook("c", {.color = Color{1, 0, 0}});
    journal.append(last, "g");
    last = last.withStepNamed("a", "").withLook("c", {.visible = false}).withBody("d", {.shielded = true});
    journal.append(last, "g");
    last.seen.wallLimit = Expression("2 mm");
    journal.append(last, "g");
    std::ofstream(folder / "last.json") << documentToJson(last);
  });
  std::stringstream expected;
  expected << std::ifstream(folder / "last.json").rdbuf();
  const auto found = abandonedJournals(folder.path());
  EXPECT_EQ(found.at(0).file, "g");
  EXPECT_EQ(documentToJson(recover(found.at(0), allStepKinds())), expected.str());
}

// A line glued to half of another made everything after it unreadable.
TEST(JournalTest, AFullDiskCostsOneEditAndNoOther) {
  TemporaryFolder folder;
  bool told = false;
  inCrashingProcess(folder.path(), [&](Journal& journal) {
    const auto with = [](const char* width) { return documentOf({block("b", width, "10", "10")}); };
    journal.append(with("10"), "f");
    // A process may write no further than this into a file: the write is cut off in the middle, as on a full disk.
    const auto size = std::filesystem::file_size(journal.folder() / "edits.jsonl");
    signal(SIGXFSZ, SIG_IGN);
    rlimit limit{size + 20, RLIM_INFINITY};
    setrlimit(RLIMIT_FSIZE, &limit);
    try {
      journal.append(with("20"), "f");
    } catch (const FileError&) {
      std::ofstream(folder / "told");
    }
    limit.rlim_cur = RLIM_INFINITY;
    setrlimit(RLIMIT_FSIZE, &limit);
    journal.append(with("30"), "f");
    journal.append(with("40"), "f");
  });
  told = std::filesystem::exists(folder / "told");
  EXPECT_TRUE(told) << "the edit that could not be written has to be told of";
  const auto found = abandonedJournals(folder.path());
  ASSERT_EQ(found.size(), 1u);
  EXPECT_EQ(found[0].lost, 0u);
  EXPECT_DOUBLE_EQ(volume(made(recover(found[0], allStepKinds())), "b"), 4000);
}

TEST(JournalTest, ALineThatIsSpoiledLaterCostsWhatBuildsOnIt) {
  TemporaryFolder folder;
  inCrashingProcess(folder.path(), [&](Journal& journal) {
    journal.append(documentOf({block("b", "10", "10", "10")}), "f");
    std::ofstream(journal.folder() / "edits.jsonl", std::ios::app) << "{\"spoiled\n";
    journal.append(documentOf({block("b", "20", "10", "10")}), "f");
  });
  const auto found = abandonedJournals(folder.path());
  EXPECT_EQ(found.at(0).lost, 2u);
  EXPECT_DOUBLE_EQ(volume(made(recover(found[0], allStepKinds())), "b"), 1000);
}

TEST(JournalTest, FilesMayHaveAnyName) {
  TemporaryFolder folder;
  const std::filesystem::path name("/some/\xff\xfe.kervo");
  inCrashingProcess(folder.path(),
                    [&](Journal& journal) { journal.append(documentOf({block("b", "10", "10", "10")}), name); });
  EXPECT_EQ(abandonedJournals(folder.path()).at(0).file, name);
}

}  // namespace
}  // namespace kervo
