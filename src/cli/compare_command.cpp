#include <iostream>
#include <memory>

#include "cli/commands.h"
#include "cli/report.h"
#include "cli/terminal.h"
#include "exchange/kervo_file.h"
#include "model/compare.h"
#include "model/rebuild.h"
#include "steps/registry.h"

namespace kervo::cli {

namespace {

struct Options {
  std::string before, after;
  bool json = false;
};

/// The bodies of a document or of any other file. Those without an id are called by their place in it.
std::vector<Body> bodiesIn(const std::string& path, const std::string& called) {
  std::vector<Body> bodies;
  if (isDocumentFile(path)) {
    const Document document = [&] {
      const InterruptEndsProcess whileReading;
      return readDocument(path, allStepKinds(), progress());
    }();
    Memo memo;
    const Model model = rebuild(document, memo, progress());
    for (const StepReport& step : model.steps)
      if (step.error) throw *step.error;
    return model.bodies;
  }
  for (const FileBody& each : readBodiesFrom(path).bodies) {
    Body& body = bodies.emplace_back();
    body.id = BodyId(called + "." + std::to_string(bodies.size()));
    body.name = each.name;
    body.form = each.shape;
  }
  return bodies;
}

const char* nameOf(BodyChange::How how) {
  switch (how) {
    case BodyChange::How::Same:
      return "same";
    case BodyChange::How::Changed:
      return "changed";
    case BodyChange::How::Added:
      return "added";
    case BodyChange::How::Removed:
      return "removed";
  }
  return "";
}

int run(const Options& options) {
  const std::vector<Body> before = bodiesIn(options.before, "before"), after = bodiesIn(options.after, "after");
  const std::vector<BodyChange> changes = compareBodies(before, after, progress());
  clearProgress();
  Json bodies = Json::array();
  for (const BodyChange& change : changes) {
    if (options.json) {
      Json& body = bodies.emplace_back(Json{{"name", change.name}, {"state", nameOf(change.how)}});
      if (change.unknown)
        body["unknown"] = change.unknown->happened();
      else
        body.update({{"added_mm3", change.volumeAdded}, {"removed_mm3", change.volumeRemoved}});
      continue;
    }
    out() << change.name << ": " << nameOf(change.how);
    if (change.unknown)
      out() << " (" << change.unknown->happened() << ")";
    else if (change.how != BodyChange::How::Same)
      out() << ", " << volumeText(change.volumeAdded) << " added, " << volumeText(change.volumeRemoved) << " removed";
    out() << "\n";
  }
  if (options.json) print({{"bodies", bodies}});
  return done;
}

}  // namespace

Command compareCommand(CLI::App& app) {
  auto options = std::make_shared<Options>();
  CLI::App* parser = app.add_subcommand("compare", "Tell what material two states have that the other one has not");
  parser->add_option("BEFORE", options->before, endings(Direction::Read))->required();
  parser->add_option("AFTER", options->after, endings(Direction::Read))->required();
  parser->add_flag("--json", options->json, "Print one JSON object");
  return {parser, [options] { return run(*options); }};
}

}  // namespace kervo::cli
