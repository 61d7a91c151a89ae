#include <memory>

#include "cli/commands.h"
#include "cli/terminal.h"
#include "cli/workpieces.h"
#include "steps/registry.h"

namespace kervo::cli {

namespace {

struct Options {
  std::vector<std::string> files, stock, cutters, planes;
  std::string kerf = "0 mm";
  std::string side = "centred";
  std::string extend;
  bool finite = false;
  std::string keep = "both";
  bool everything = false;
  std::string output;
  bool json = false;
};

int run(Options options) {
  options.stock.insert(options.stock.begin(), options.files.begin(), options.files.end());
  if (options.stock.empty()) throw UsageError("split: name what is split, as FILE or --stock FILE#BODY");
  if (options.planes.empty() && options.cutters.empty()) throw UsageError("split: give a --plane or a --cutter");
  if (lengthFrom(options.kerf, "--kerf") < 0) throw UsageError("--kerf is negative; use 0 or more");
  Workpieces pieces;
  std::vector<CutterPick> cutters;
  for (const std::string& plane : options.planes) cutters.push_back(pieces.addPlane(plane, "--plane"));
  const std::vector<BodyId> stock = pieces.addAll(options.stock), bodies = pieces.addAll(options.cutters);
  for (const BodyId& body : bodies) cutters.push_back(CutterPick::ofBody(body));
  std::map<std::string, FieldValue> fields{
      {"stock", BodyPick{false, stock}}, {"cutters", cutters},   {"kerf", Expression(options.kerf)},
      {"kerf_side", options.side},       {"keep", options.keep}, {"everything", options.everything}};
  if (options.finite) fields["extent"] = std::string("finite");
  if (!options.extend.empty()) {
    if (lengthFrom(options.extend, "--extend") <= 0) throw UsageError("--extend: give a length greater than zero");
    fields["extent"] = std::string("extended");
    fields["extend"] = Expression(options.extend);
  }
  const StepRun run = runStep(pieces, Step("split", *allStepKinds().find("split"), fields), bodies);
  const Audit& audit = run.report.result->audit;
  double kerf = 0;
  for (const Piece& piece : run.report.result->pieces)
    if (!piece.kept && piece.key.text().find("/kerf") != std::string::npos) kerf += piece.volume;
  Json extra;
  extra["volume_before_mm3"] = audit.volumeBefore;
  extra["volume_kerf_mm3"] = kerf;
  extra["balance_mm3"] = audit.balance;
  return finish(run, pieces, options.output, options.json, extra);
}

}  // namespace

Command splitCommand(CLI::App& app) {
  auto options = std::make_shared<Options>();
  CLI::App* parser = app.add_subcommand("split", "Split bodies by planes, surfaces and bodies");
  parser->add_option("FILE", options->files, "What is split: FILE or FILE#BODY");
  parser->add_option("--stock", options->stock, "More of what is split");
  parser->add_option("--cutter", options->cutters, "A surface or body that splits: FILE or FILE#BODY");
  parser->add_option("--plane", options->planes, "x,y,z,nx,ny,nz: a point in mm and a normal")->take_all();
  parser->add_option("--kerf", options->kerf, "Width that the cut removes (e.g. 2mm)");
  parser->add_option("--kerf-side", options->side, "Where the kerf lies")
      ->check(CLI::IsMember({"centred", "front", "back"}));
  parser->add_option("--extend", options->extend, "Make surfaces longer by this over all borders");
  parser->add_flag("--finite", options->finite, "Surfaces cut only where they are");
  parser->add_option("--keep", options->keep, "front (where the normal points; outside of a body), back or both")
      ->check(CLI::IsMember({"front", "back", "both"}));
  parser->add_flag("--everything", options->everything, "Bodies wholly on the other side go as well");
  parser->add_option("--out", options->output, "Write the result: " + endings(Format::Holds::Bodies, Direction::Write));
  parser->add_flag("--json", options->json, "Print one JSON object");
  return {parser, [options] { return run(*options); }};
}

}  // namespace kervo::cli
