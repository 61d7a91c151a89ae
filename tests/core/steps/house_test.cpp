// The house stays as it is planned: a kind of step is named by its own file, and by nothing else.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <filesystem>
#include <fstream>
#include <regex>
#include <sstream>

#include "model/step.h"
#include "steps/registry.h"

namespace kervo {
namespace {

namespace fs = std::filesystem;

std::string contentOf(const fs::path& path) {
  std::ifstream file(path);
  std::ostringstream text;
  text << file.rdbuf();
  return text.str();
}

TEST(House, KindsOfStepAreNamedByTheirOwnFilesOnly) {
  std::string keys, functions;
  for (const StepKind* kind : allStepKinds().all()) keys += (keys.empty() ? "" : "|") + kind->key();
#define NAME(name) functions += (functions.empty() ? "" : "|") + std::string(#name "Step");
  KERVO_STEP_KINDS(NAME)
#undef NAME
  // Looked up, compared with, or called: find("cut"), kind == "cut", cutStep().
  const std::regex named("(find\\(|key\\(\\) [!=]= |kind [!=]= )\"(" + keys + ")\"|\\b(" + functions + ")\\(\\)");
  std::size_t files = 0;
  const fs::path source = fs::path(KERVO_SOURCE_DIR) / "src";
  for (const fs::directory_entry& entry : fs::recursive_directory_iterator(source)) {
    const std::string name = entry.path().lexically_relative(source).string();
    if (entry.path().extension() != ".cpp" && entry.path().extension() != ".h") continue;
    const bool ofKinds = entry.path().parent_path() == source / "core/steps";
    // Short commands are names for kinds; planes on the command line are made by one.
    if (ofKinds || name == "cli/short_commands.cpp" || name == "cli/workpieces.cpp") continue;
    ++files;
    const std::string text = contentOf(entry.path());
    std::smatch found;
    if (std::regex_search(text, found, named)) ADD_FAILURE() << name << " names a kind of step: " << found.str();
  }
  EXPECT_GT(files, 200u);
}

TEST(House, KindsSayWhatThereIsToSay) {
  std::set<std::string> keys, shortcuts;
  for (const StepKind* kind : allStepKinds().all()) {
    const KindTable& table = kind->table();
    EXPECT_TRUE(keys.insert(table.key).second) << table.key;
    EXPECT_FALSE(table.label.empty()) << table.key;
    EXPECT_FALSE(table.help.empty()) << table.key;
    EXPECT_TRUE(table.shortcut.empty() || shortcuts.insert(table.shortcut).second) << table.shortcut;
    // Nothing selected, in an empty document: it may offer itself or not, but can begin.
    Start start;
    kind->startFrom(Selected{}, start);
    EXPECT_NO_THROW(Step("x", *kind, start.fields)) << table.key;
    kind->offered(Selected{});
  }
}

TEST(House, EverySourceFileIsShort) {
  const fs::path source = fs::path(KERVO_SOURCE_DIR) / "src";
  for (const fs::directory_entry& entry : fs::recursive_directory_iterator(source)) {
    if (entry.path().extension() != ".cpp" && entry.path().extension() != ".h") continue;
    // Written by a program, as a list.
    if (entry.path().filename() == "kind_texts.cpp") continue;
    const std::string text = contentOf(entry.path());
    const auto lines = std::count(text.begin(), text.end(), '\n');
    EXPECT_LE(lines, 500) << entry.path();
  }
}

}  // namespace
}  // namespace kervo
