#include "exchange/reload.h"

#include <filesystem>
#include <memory>

#include "cli/commands.h"
#include "cli/report.h"
#include "cli/terminal.h"
#include "exchange/kervo_file.h"
#include "fields/brought_field.h"
#include "steps/registry.h"

namespace kervo::cli {

namespace {

struct Options {
  std::string document, file, output, step, unit;
};

/// The step that is meant: the one that was named, or the only one that brings bodies in.
StepId stepOf(const Document& document, const std::string& named) {
  if (!named.empty()) return named;
  std::vector<StepId> bring;
  for (const auto& step : document.made.steps)
    if (&step->kind() == &allStepKinds().bringingIn()) bring.push_back(step->id());
  if (bring.size() == 1) return bring.front();
  std::string names;
  for (const StepId& id : bring) names += (names.empty() ? "" : ", ") + id.text();
  throw UsageError(bring.empty() ? "the document brings nothing in"
                                 : "--step is needed; the document brings bodies in by " + names);
}

/// In which unit a file without one was read before.
std::string unitOf(const Document& document, const StepId& step) {
  const auto found = document.find(step);
  return found ? found->value("unit").as<std::string>() : std::string();
}

int run(const Options& options) {
  if (!isDocumentFile(options.output)) throw UsageError("--out must be a document");
  const Document document = [&] {
    const InterruptEndsProcess whileReading;
    return readDocument(options.document, allStepKinds(), progress());
  }();
  const StepId step = stepOf(document, options.step);
  const Format* format = formatOf(options.file);
  const std::string before = format && format->unitless ? unitOf(document, step) : "";
  const FileContents contents = readBodiesFrom(options.file, {.unit = options.unit.empty() ? before : options.unit});
  const Document brought =
      withBroughtIn({}, contents, std::filesystem::path(options.file).filename().string(), allStepKinds());
  const Reloaded result = reloaded(document, step, brought);
  writeDocument(options.output, result.document, progress());
  clearProgress();
  out() << reloadText(result) << "\n";
  for (const std::string& each : result.lost) note(each, "lost");
  return done;
}

}  // namespace

Command reloadCommand(CLI::App& app) {
  auto options = std::make_shared<Options>();
  CLI::App* parser = app.add_subcommand(
      "reload", "Take the bodies of a file in the place of those that a step brought in, and list what steps lose");
  parser->add_option("DOCUMENT", options->document, "A document")->required();
  parser->add_option("FILE", options->file, "The file as it is now")->required();
  parser->add_option("--step", options->step, "The step that brought it in; needed if there are several");
  parser->add_option("--unit", options->unit,
                     "Of an STL, OBJ or PLY file: what one unit of its coordinates is; as before if not given");
  parser->add_option("-o,--out", options->output, "The document that is written")->required();
  return {parser, [options] { return run(*options); }};
}

}  // namespace kervo::cli
