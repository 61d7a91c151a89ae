#include <memory>

#include "cli/commands.h"
#include "cli/workpieces.h"
#include "steps/registry.h"

namespace kervo::cli {

namespace {

struct Options {
  std::vector<std::string> stock;
  std::string output;
  bool json = false;
};

int run(const Options& options) {
  Workpieces pieces;
  const std::map<std::string, FieldValue> fields{{"bodies", BodyPick{false, pieces.addAll(options.stock)}}};
  return finish(runStep(pieces, Step("repair", *allStepKinds().find("repair"), fields), {}), pieces, options.output,
                options.json);
}

}  // namespace

Command repairCommand(CLI::App& app) {
  auto options = std::make_shared<Options>();
  CLI::App* parser = app.add_subcommand("repair", "Mend faces that are not valid and join free edges");
  parser->add_option("--stock", options->stock, "FILE or FILE#BODY")->required();
  parser->add_option("--out", options->output, "Write the result: " + endings(Format::Holds::Bodies, Direction::Write));
  parser->add_flag("--json", options->json, "Print one JSON object");
  return {parser, [options] { return run(*options); }};
}

}  // namespace kervo::cli
