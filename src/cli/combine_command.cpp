#include <memory>

#include "cli/commands.h"
#include "cli/terminal.h"
#include "cli/workpieces.h"
#include "steps/registry.h"

namespace kervo::cli {

namespace {

struct Options {
  std::string verb = "subtract";
  std::vector<std::string> stock, cutters;
  std::string clearance = "0 mm";
  std::vector<std::string> drop;
  bool keepCutters = false;
  bool seams = false;
  std::string output;
  bool json = false;
};

int run(const Options& options) {
  lengthFrom(options.clearance, "--clearance");
  Workpieces pieces;
  const std::vector<BodyId> stock = pieces.addAll(options.stock), cutters = pieces.addAll(options.cutters);
  const std::map<std::string, FieldValue> fields{
      {"verb", options.verb},
      {"stock", BodyPick{false, stock}},
      {"cutters", BodyPick{false, cutters}},
      {"clearance", Expression(options.clearance)},
      {"after", std::string(options.keepCutters ? "keep" : "use up")},
      {"seams", options.seams},
      {"pieces", PieceChoice{{}, {options.drop.begin(), options.drop.end()}, {}}}};
  return finish(runStep(pieces, Step("combine", *allStepKinds().find("combine"), fields), {}), pieces, options.output,
                options.json);
}

}  // namespace

Command combineCommand(CLI::App& app) {
  auto options = std::make_shared<Options>();
  CLI::App* parser = app.add_subcommand("combine", "Subtract, unite, intersect or partition bodies");
  parser->add_option("--verb", options->verb, "subtract, union, intersect, exclusive or partition")
      ->check(CLI::IsMember({"subtract", "union", "intersect", "exclusive", "partition"}));
  parser->add_option("--stock", options->stock, "FILE or FILE#BODY")->required();
  parser->add_option("--cutter", options->cutters, "FILE or FILE#BODY");
  parser->add_option("--clearance", options->clearance, "Room round the cutters (e.g. 0.2mm; negative: tight)");
  parser->add_option("--drop", options->drop, "Pieces that go, by the names that --json gives as their \"key\"");
  parser->add_flag("--keep-cutters", options->keepCutters, "The cutters stay as bodies");
  parser->add_flag("--seams", options->seams, "A union keeps the edges between faces of one surface");
  parser->add_option("--out", options->output, "Write the result: " + endings(Format::Holds::Bodies, Direction::Write));
  parser->add_flag("--json", options->json, "Print one JSON object");
  return {parser, [options] { return run(*options); }};
}

}  // namespace kervo::cli
