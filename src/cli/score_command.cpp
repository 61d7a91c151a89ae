#include <memory>

#include "cli/commands.h"
#include "cli/terminal.h"
#include "cli/workpieces.h"
#include "steps/registry.h"

namespace kervo::cli {

namespace {

struct Options {
  std::vector<std::string> stock, cutters, planes;
  bool share = false;
  bool curves = false;
  std::string output;
  bool json = false;
};

int run(const Options& options) {
  if (options.share && options.curves) throw UsageError("score: --share-faces and --curves exclude each other");
  if (!options.share && options.planes.empty() && options.cutters.empty())
    throw UsageError("score: give a --plane or a --cutter, or --share-faces");
  Workpieces pieces;
  std::vector<CutterPick> cutters;
  for (const std::string& plane : options.planes) cutters.push_back(pieces.addPlane(plane, "--plane"));
  const std::vector<BodyId> stock = pieces.addAll(options.stock), bodies = pieces.addAll(options.cutters);
  for (const BodyId& body : bodies) cutters.push_back(CutterPick::ofBody(body));
  const std::map<std::string, FieldValue> fields{{"verb", std::string(options.share    ? "share faces"
                                                                      : options.curves ? "curves"
                                                                                       : "mark")},
                                                 {"stock", BodyPick{false, stock}},
                                                 {"cutters", cutters}};
  return finish(runStep(pieces, Step("score", *allStepKinds().find("score"), fields), bodies), pieces, options.output,
                options.json);
}

}  // namespace

Command scoreCommand(CLI::App& app) {
  auto options = std::make_shared<Options>();
  CLI::App* parser = app.add_subcommand("score", "Mark faces without cutting volume, or share faces between bodies");
  parser->add_option("--stock", options->stock, "FILE or FILE#BODY")->required();
  parser->add_option("--cutter", options->cutters, "FILE or FILE#BODY");
  parser->add_option("--plane", options->planes, "x,y,z,nx,ny,nz: a point in mm and a normal")->take_all();
  parser->add_flag("--share-faces", options->share, "Touching bodies get common faces");
  parser->add_flag("--curves", options->curves, "Where stock and cutters meet, as curves");
  parser->add_option("--out", options->output, "Write the result: " + endings(Format::Holds::Bodies, Direction::Write));
  parser->add_flag("--json", options->json, "Print one JSON object");
  return {parser, [options] { return run(*options); }};
}

}  // namespace kervo::cli
