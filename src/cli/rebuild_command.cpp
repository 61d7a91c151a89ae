#include <algorithm>
#include <cstdio>
#include <iostream>
#include <memory>
#include <sstream>

#include "cli/commands.h"
#include "cli/report.h"
#include "cli/terminal.h"
#include "exchange/kervo_file.h"
#include "model/assembly_path.h"
#include "model/names_for_people.h"
#include "model/rebuild.h"
#include "steps/registry.h"

namespace kervo::cli {

namespace {

struct Options {
  std::string document;
  std::vector<std::string> settings, assemblies;
  std::vector<std::string> outputs;
  bool json = false;
};

Document withSettings(Document document, const std::vector<std::string>& settings) {
  for (const std::string& setting : settings) {
    const auto equals = setting.find('=');
    if (equals == std::string::npos || equals == 0)
      throw UsageError("--set needs NAME=EXPRESSION, not \"" + setting + "\"");
    const std::string name = setting.substr(0, equals);
    const Expression value(setting.substr(equals + 1));
    const auto isLevel = [&](const Level& level) { return heightOfLevel(level.name) == name; };
    const auto& levels = document.made.levels;
    if (const auto level = std::find_if(levels.begin(), levels.end(), isLevel); level != levels.end()) {
      document = withLevel(document, {level->name, value, level->layer});
      continue;
    }
    const bool known = std::any_of(document.made.dimensions.begin(), document.made.dimensions.end(),
                                   [&](const DimensionRow& row) { return row.name == name; });
    if (!known) {
      std::string names;
      for (const DimensionRow& row : document.made.dimensions) names += (names.empty() ? "" : ", ") + row.name;
      for (const Level& level : levels) names += (names.empty() ? "" : ", ") + heightOfLevel(level.name);
      throw UsageError("--set: the document has no dimension \"" + name +
                       "\"; it has: " + (names.empty() ? "none" : names));
    }
    document = document.withDimension(name, value);
  }
  return document;
}

Document withAssemblies(Document document, const std::vector<std::string>& settings) {
  for (const std::string& setting : settings) {
    const auto equals = setting.find('=');
    if (equals == std::string::npos || equals == 0)
      throw UsageError("--put needs BODY,BODY=ASSEMBLY, not \"" + setting + "\"");
    const std::vector<std::string> path = assemblyPath(setting.substr(equals + 1));
    std::istringstream names(setting.substr(0, equals));
    for (std::string name; std::getline(names, name, ',');) {
      BodyLook look = document.lookOf(BodyId(name));
      look.within = path;
      document = document.withLook(BodyId(name), std::move(look));
    }
  }
  return document;
}

/// A body that is put into an assembly must be there.
void requireBodies(const Model& model, const std::vector<std::string>& settings) {
  for (const std::string& setting : settings) {
    std::istringstream names(setting.substr(0, setting.find('=')));
    for (std::string name; std::getline(names, name, ',');) {
      if (model.find(BodyId(name))) continue;
      std::string known;
      for (const Body& body : model.bodies) known += (known.empty() ? "" : ", ") + body.id.text();
      throw UsageError("--put: there is no body \"" + name + "\"; there is: " + known);
    }
  }
}

/// printf to the standard output that the kernel cannot write to.
template <class... Values>
void line(const char* format, Values... values) {
  char text[1000];
  std::snprintf(text, sizeof text, format, values...);
  out() << text;
}

void printSteps(const Model& model) {
  line("%3s  %-22s %-8s %10s  %-9s %s\n", "No", "Step", "State", "ms", "", "Volume");
  for (std::size_t i = 0; i < model.steps.size(); ++i) {
    const StepReport& step = model.steps[i];
    const std::string change =
        step.volumeChange == 0 ? "" : (step.volumeChange > 0 ? "+" : "") + volumeText(step.volumeChange);
    line("%3zu  %-22s %-8s %10.2f  %-9s %s\n", i + 1, step.name.c_str(), nameOf(step.state), step.seconds * 1000,
         step.state == StepState::Off ? ""
         : step.fromMemo              ? "memo"
                                      : "computed",
         change.c_str());
    if (!step.result) continue;
    const Audit& audit = step.result->audit;
    if (audit.cuts)
      line("     removes %s, balance %.1e mm³, %s\n", volumeText(audit.volumeRemoved).c_str(), audit.balance,
           audit.watertight ? "watertight" : "not watertight");
    if (step.result->pieces.size() > 1)
      for (const Piece& piece : step.result->pieces)
        line("     %s %s: %s\n", piece.kept ? "keeps" : "drops",
             (piece.key.empty() ? piece.name : piece.key.text()).c_str(), volumeText(piece.volume).c_str());
    for (const std::string& warning : withNames(audit.warnings, model)) line("     note: %s\n", warning.c_str());
  }
  line("\n%zu bodies\n", model.bodies.size());
  for (const FileBody& body : bodiesOf(model)) line("%s\n", bodyLine(body).c_str());
  if (!model.guides.empty()) line("\n%s\n", "Datums and drawings");
  for (const Guide& guide : model.guides) line("%s\n", guideLine(guide).c_str());
}

void write(const std::string& path, const Document& document, const Model& model) {
  progress().enter(1, 1, "Writing " + path);
  if (isDocumentFile(path))
    writeDocument(path, document, progress());
  else
    writeBodiesTo(path, bodiesOf(model), document.made.unit, levelsOf(model));
}

int run(const Options& options) {
  for (const std::string& output : options.outputs) requireWritable(output);
  const Document document = withAssemblies(withSettings(
                                               [&] {
                                                 const InterruptEndsProcess whileReading;
                                                 return readDocument(options.document, allStepKinds(), progress());
                                               }(),
                                               options.settings),
                                           options.assemblies);
  Memo memo;
  const Model model = rebuild(document, memo, progress());
  requireBodies(model, options.assemblies);
  clearProgress();
  if (options.json) {
    Json root;
    root["file"] = options.document;
    root["unit"] = document.made.unit;
    root["steps"] = Json::array();
    for (const StepReport& step : model.steps) root["steps"].push_back(stepJson(step, model, true));
    root["dimensions"] = dimensionsJson(document, model.dimensions);
    root["bodies"] = Json::array();
    for (const FileBody& body : bodiesOf(model)) root["bodies"].push_back(bodyJson(body));
    root["datums_and_drawings"] = Json::array();
    for (const Guide& guide : model.guides) root["datums_and_drawings"].push_back(guideJson(guide));
    print(root);
  } else {
    printSteps(model);
  }
  for (const StepReport& step : model.steps)
    if (step.error) std::cerr << "kervo-cli: " << step.error->what() << "\n";
  for (std::size_t i = 0; i < document.made.dimensions.size(); ++i)
    if (const auto& error = model.dimensions.error(i)) std::cerr << "kervo-cli: " << error->what() << "\n";
  if (model.failed() && !options.outputs.empty()) {
    std::cerr << "kervo-cli: nothing was written, since a step failed\n";
    return stepFailed;
  }
  for (const std::string& output : options.outputs) write(output, document, model);
  return model.failed() ? stepFailed : done;
}

}  // namespace

Command rebuildCommand(CLI::App& app) {
  auto options = std::make_shared<Options>();
  CLI::App* parser = app.add_subcommand("rebuild", "Make all steps of a document and report on each");
  parser->add_option("DOC", options->document, "The document: " + endings(Format::Holds::Document, Direction::Read))
      ->required();
  parser
      ->add_option("--set", options->settings,
                   "NAME=EXPRESSION: give a dimension another value, or a level (\"Roof.height=6 m\")")
      ->allow_extra_args(false);
  parser
      ->add_option("--put", options->assemblies,
                   "BODY,BODY=ASSEMBLY: put bodies into an assembly (\"lid,rim=Crate / Lid\"), or out of it (\"lid=\")")
      ->allow_extra_args(false);
  parser->add_option("--out", options->outputs, "Write the result: " + endings(Direction::Write))
      ->allow_extra_args(false);
  parser->add_flag("--json", options->json, "Print one JSON object");
  return {parser, [options] { return run(*options); }};
}

}  // namespace kervo::cli
