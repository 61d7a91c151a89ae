#include <algorithm>
#include <filesystem>
#include <memory>

#include "cli/commands.h"
#include "cli/report.h"
#include "cli/terminal.h"
#include "exchange/atomic_file.h"
#include "exchange/brep_file.h"
#include "exchange/kervo_file.h"
#include "exchange/shape_bytes.h"
#include "steps/registry.h"

namespace kervo::cli {

namespace {

std::string counted(std::size_t count, const std::string& one) {
  return std::to_string(count) + " " + one + (count == 1 ? "" : "s");
}

/// The shapes that a journal keeps.
int checkFolder(const std::filesystem::path& folder) {
  constexpr std::uintmax_t mostBytes = 2'000'000'000;
  std::vector<std::filesystem::path> files;
  const std::filesystem::path shapes = folder / "shapes";
  if (std::filesystem::exists(shapes))
    for (const auto& entry : std::filesystem::directory_iterator(shapes))
      if (formatOf(entry.path()) == &brepFormat()) files.push_back(entry.path());
  std::sort(files.begin(), files.end());
  for (const auto& file : files) shapeFromBytes(readWhole(file, mostBytes), file.string());
  out() << folder.string() << ": " << counted(files.size(), "shape") << ", all readable\n";
  return done;
}

int run(const std::string& path) {
  const InterruptEndsProcess whileReading;
  if (std::filesystem::is_directory(path)) return checkFolder(path);
  if (!isDocumentFile(path))
    throw UsageError("give a document (" + endings(Format::Holds::Document, Direction::Read) +
                     "), or the folder of a journal");
  const Document document = readDocument(path, allStepKinds(), progress());
  out() << path << ": " << counted(document.made.steps.size(), "step") << ", "
        << counted(document.made.shapes.size(), "stored shape") << ", all readable\n";
  return done;
}

}  // namespace

Command checkCommand(CLI::App& app) {
  auto path = std::make_shared<std::string>();
  CLI::App* parser = app.add_subcommand("check", "Read a document with all of its stored shapes, and rebuild nothing");
  parser->add_option("FILE", *path, endings(Format::Holds::Document, Direction::Read) + ", or a journal's folder")
      ->required();
  return {parser, [path] { return run(*path); }};
}

}  // namespace kervo::cli
