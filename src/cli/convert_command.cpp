#include <filesystem>
#include <iostream>
#include <memory>

#include "cli/commands.h"
#include "cli/report.h"
#include "cli/terminal.h"
#include "exchange/kervo_file.h"
#include "exchange/mending.h"
#include "model/rebuild.h"
#include "steps/registry.h"

namespace kervo::cli {

namespace {

struct Options {
  std::string input;
  std::string output;
  std::string unit;
};

/// Bodies from a body file, or from a document that is rebuilt.
FileContents contentsOf(const Options& options) {
  if (!isDocumentFile(options.input)) return readBodiesFrom(options.input);
  const InterruptEndsProcess whileReading;
  const Document document = readDocument(options.input, allStepKinds(), progress());
  Memo memo;
  const Model model = rebuild(document, memo, progress());
  for (const StepReport& step : model.steps)
    if (step.error) throw *step.error;
  return {bodiesOf(model), document.made.unit};
}

int run(const Options& options) {
  requireWritable(options.output);
  const bool toDocument = isDocumentFile(options.output);
  if (toDocument && isDocumentFile(options.input)) {
    // Steps and dimensions stay; nothing is rebuilt.
    const Document document = readDocument(options.input, allStepKinds(), progress());
    writeDocument(options.output, document, progress());
    return done;
  }
  const FileContents contents = contentsOf(options);
  if (toDocument) {
    for (const FileBody& body : contents.bodies)
      for (const std::string& flaw : flawsIn(body, Search::Quick, progress())) note(flaw, "damaged");
    Document document;
    const auto unit = findUnit(contents.unit);
    if (unit && unit->dimension == lengthDimension) document.made.unit = contents.unit;
    writeDocument(
        options.output,
        withBroughtIn(document, contents, std::filesystem::path(options.input).filename().string(), allStepKinds()),
        progress());
  } else {
    const std::string unit = options.unit.empty() ? unitToWrite(contents) : options.unit;
    writeBodiesTo(options.output, contents.bodies, unit);
  }
  clearProgress();
  out() << contents.bodies.size() << (contents.bodies.size() == 1 ? " body" : " bodies") << " written to "
        << options.output << "\n";
  return done;
}

}  // namespace

Command convertCommand(CLI::App& app) {
  auto options = std::make_shared<Options>();
  CLI::App* parser = app.add_subcommand("convert", "Write the bodies of a file in another format");
  parser->add_option("IN", options->input, endings(Direction::Read))->required();
  parser->add_option("OUT", options->output, endings(Direction::Write))->required();
  parser->add_option("--unit", options->unit, "Length unit of a STEP file; that of IN if not given")
      ->check(CLI::IsMember({"mm", "cm", "m", "in", "ft"}));
  return {parser, [options] { return run(*options); }};
}

}  // namespace kervo::cli
