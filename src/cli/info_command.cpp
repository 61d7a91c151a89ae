#include <filesystem>
#include <iostream>
#include <memory>

#include "cli/commands.h"
#include "cli/report.h"
#include "cli/terminal.h"
#include "exchange/kervo_file.h"
#include "exchange/mending.h"
#include "geom/measure/body_check.h"
#include "model/rebuild.h"
#include "steps/registry.h"

namespace kervo::cli {

namespace {

struct Options {
  std::string file;
  bool json = false;
  bool findings = false;
};

Json findingsOf(const FileBody& body) {
  Json json;
  const BodyCheck check = checkBody(body.shape, {}, progress());
  json = {{"solids", check.solids}, {"shells", check.shells},
          {"loops", check.loops},   {"edges", check.edges},
          {"points", check.points}, {"valid", check.valid},
          {"closed", check.closed}, {"largest_tolerance_mm", check.largestTolerance}};
  json["findings"] = Json::array();
  for (const BodyFinding& finding : check.findings)
    json["findings"].push_back({{"what", finding.text},
                                {"at_mm", {finding.place.x, finding.place.y, finding.place.z}},
                                {"size_mm", finding.size}});
  return json;
}

void printFindings(const FileBody& body) {
  const BodyCheck check = checkBody(body.shape, {}, progress());
  out() << "    solids " << check.solids << ", shells " << check.shells << ", loops " << check.loops << ", edges "
        << check.edges << ", points " << check.points << ", largest tolerance "
        << formatNumber(check.largestTolerance, 4) << " mm\n";
  for (const BodyFinding& finding : check.findings)
    out() << "    " << finding.text << " at " << formatNumber(finding.place.x, 6) << ", "
          << formatNumber(finding.place.y, 6) << ", " << formatNumber(finding.place.z, 6) << "\n";
}

void addBodies(Json& root, const std::vector<FileBody>& bodies, bool findings) {
  root["bodies"] = Json::array();
  for (const FileBody& body : bodies) {
    progress().throwIfStopped();
    root["bodies"].push_back(bodyJson(body));
    root["bodies"].back()["flaws"] = flawsIn(body, Search::Full, progress());
    if (findings) root["bodies"].back()["check"] = findingsOf(body);
  }
}

void printBodies(const std::string& unit, const std::vector<FileBody>& bodies, bool findings) {
  out() << "unit: " << unit << "\nbodies: " << bodies.size() << "\n";
  for (const FileBody& body : bodies) {
    out() << bodyLine(body) << "\n";
    for (const std::string& flaw : flawsIn(body, Search::Full, progress())) out() << "    " << flaw << "\n";
    if (findings) printFindings(body);
  }
}

int documentInfo(const Options& options) {
  const Document document = [&] {
    const InterruptEndsProcess whileReading;
    return readDocument(options.file, allStepKinds(), progress());
  }();
  Memo memo;
  const Model model = rebuild(document, memo, progress());
  const std::vector<FileBody> bodies = bodiesOf(model);
  if (options.json) {
    Json root;
    root["file"] = options.file;
    root["unit"] = document.made.unit;
    addBodies(root, bodies, options.findings);
    root["steps"] = Json::array();
    for (const StepReport& step : model.steps) root["steps"].push_back(stepJson(step, model, false));
    root["sections"] = Json::array();
    for (const StepReport& section : model.sections) root["sections"].push_back(stepJson(section, model, false));
    root["dimensions"] = dimensionsJson(document, model.dimensions);
    root["levels"] = levelsJson(document, model);
    print(root);
  } else {
    printBodies(document.made.unit, bodies, options.findings);
    out() << "steps: " << model.steps.size() << "\n";
    for (const StepReport& step : model.steps) {
      out() << "  " << step.id << ": " << step.name << ", " << nameOf(step.state);
      if (const DrawingResult* drawing = step.drawing(); drawing && drawing->solution.freedoms > 0)
        out() << ", ways left to move: " << drawing->solution.freedoms;
      out() << "\n";
    }
    if (!model.sections.empty()) out() << "sections: " << model.sections.size() << "\n";
    for (const StepReport& section : model.sections)
      out() << "  " << section.id << ": " << section.name << ", " << nameOf(section.state) << "\n";
    for (const StepReport& step : model.steps)
      if (step.result)
        if (const auto& measured = step.result->measured)
          out() << "  " << (step.measures.empty() ? step.name : step.measures)
                << ", measured: " << format(measured->value, unitNamed(document.made.unit)) << "\n";
    out() << "dimensions: " << document.made.dimensions.size() << "\n";
    for (std::size_t i = 0; i < document.made.dimensions.size(); ++i) {
      const auto& value = model.dimensions.value(i);
      const auto& error = model.dimensions.error(i);
      out() << "  " << document.made.dimensions[i].name << " = " << document.made.dimensions[i].expression.text()
            << " → "
            << (value   ? format(*value, unitNamed(document.made.unit))
                : error ? error->happened()
                        : "")
            << "\n";
    }
    if (!model.levels.empty()) out() << "levels: " << model.levels.size() << "\n";
    for (std::size_t i = 0; i < model.levels.size(); ++i) {
      const LevelNow& level = model.levels[i];
      const auto& error = model.dimensions.heightError(i);
      out() << "  " << level.name << " at " << document.made.levels[i].height.text() << " → "
            << (level.height ? format({*level.height, lengthDimension}, unitNamed(document.made.unit))
                : error      ? error->happened()
                             : "")
            << "\n";
    }
  }
  for (const auto* reports : {&model.steps, &model.sections})
    for (const StepReport& report : *reports)
      if (report.error) std::cerr << "kervo-cli: " << report.error->what() << "\n";
  return model.failed() ? stepFailed : done;
}

int run(const Options& options) {
  if (isDocumentFile(options.file)) return documentInfo(options);
  const FileContents contents = readBodiesFrom(options.file);
  if (options.json) {
    Json root;
    root["file"] = options.file;
    root["unit"] = contents.unit;
    addBodies(root, contents.bodies, options.findings);
    print(root);
  } else {
    printBodies(contents.unit, contents.bodies, options.findings);
  }
  return done;
}

}  // namespace

Command infoCommand(CLI::App& app) {
  auto options = std::make_shared<Options>();
  CLI::App* parser = app.add_subcommand("info", "List the bodies (and steps and dimensions) of a file");
  parser->add_option("FILE", options->file, endings(Direction::Read))->required();
  parser->add_flag("--json", options->json, "Print one JSON object");
  parser->add_flag("--findings", options->findings,
                   "Check every body: open edges, crossings, small edges and faces, tolerances, and where they are");
  return {parser, [options] { return run(*options); }};
}

}  // namespace kervo::cli
