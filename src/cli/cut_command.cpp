#include <memory>

#include "cli/commands.h"
#include "cli/terminal.h"
#include "cli/workpieces.h"
#include "model/names_for_people.h"
#include "steps/registry.h"

namespace kervo::cli {

namespace {

struct Options {
  std::vector<std::string> stock, cutters;
  std::string clearance = "0 mm";
  std::string keep = "outside";
  std::string output;
  bool json = false;
};

/// The step that keeps what lies outside the cutters, inside them, or both.
Step stepFor(const Options& options, const std::vector<BodyId>& stock, const std::vector<BodyId>& cutters) {
  PieceChoice choice;
  if (options.keep != "outside")
    for (const BodyId& body : stock) choice.keep.push_back(body.part("removed"));
  if (options.keep == "inside") choice.drop = stock;
  return Step("cut", *allStepKinds().find("combine"),
              {{"verb", std::string("subtract")},
               {"stock", BodyPick{false, stock}},
               {"cutters", BodyPick{false, cutters}},
               {"clearance", Expression(options.clearance)},
               {"after", std::string("keep")},
               {"pieces", choice}});
}

int run(const Options& options) {
  lengthFrom(options.clearance, "--clearance");
  Workpieces pieces;
  const std::vector<BodyId> stock = pieces.addAll(options.stock), cutters = pieces.addAll(options.cutters);
  const StepRun run = runStep(pieces, stepFor(options, stock, cutters), cutters);
  const Audit& audit = run.report.result->audit;
  double inside = 0, outside = 0;
  for (const Piece& piece : run.report.result->pieces)
    (piece.key.text().find("/removed") == std::string::npos ? outside : inside) += piece.volume;
  Json extra;
  extra["volume_before_mm3"] = audit.volumeBefore;
  extra["volume_outside_mm3"] = outside;
  extra["volume_inside_mm3"] = inside;
  extra["balance_mm3"] = audit.balance;
  extra["spared"] = audit.spared;
  extra["warnings"] = withNames(audit.warnings, run.model);
  return finish(run, pieces, options.output, options.json, extra);
}

}  // namespace

Command cutCommand(CLI::App& app) {
  auto options = std::make_shared<Options>();
  CLI::App* parser = app.add_subcommand("cut", "Cut bodies with others");
  parser->add_option("--stock", options->stock, "What is cut: FILE or FILE#BODY, several if need be")->required();
  parser->add_option("--cutter", options->cutters, "What cuts: FILE or FILE#BODY, several if need be")->required();
  parser->add_option("--clearance", options->clearance, "Room round the cutters (e.g. 0.2mm; negative: tight)");
  parser->add_option("--keep", options->keep, "What stays: outside the cutters, inside, or both")
      ->check(CLI::IsMember({"outside", "inside", "both"}));
  parser->add_option("--out", options->output, "Write the result: " + endings(Format::Holds::Bodies, Direction::Write));
  parser->add_flag("--json", options->json, "Print one JSON object");
  return {parser, [options] { return run(*options); }};
}

}  // namespace kervo::cli
