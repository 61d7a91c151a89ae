#include <iostream>
#include <memory>

#include "cli/commands.h"
#include "cli/report.h"
#include "cli/terminal.h"
#include "geom/boolean.h"
#include "model/piece_names.h"

namespace kervo::cli {

namespace {

struct Options {
  std::string stock;
  std::string cutter;
  std::string keep = "outside";
  std::string output;
  bool json = false;
};

void addParts(std::vector<FileBody>& bodies, const FileBody& stock, const Shape& part, const std::string& side) {
  if (part.empty()) return;
  const std::vector<Shape> pieces = part.pieces();
  const std::string name = stock.name + (side.empty() ? "" : ", " + side);
  const PieceNames names = pieces.size() > 1 ? namePieces(pieces, "") : PieceNames{{""}, false};
  for (std::size_t i = 0; i < pieces.size(); ++i)
    bodies.push_back(
        {pieces.size() > 1 ? name + ", " + std::to_string(i + 1) : name, pieces[i], stock.color, stock.layer});
}

int run(const Options& options) {
  const FileContents stock = readBodiesFrom(options.stock);
  const FileContents cutter = readBodiesFrom(options.cutter);
  std::vector<Shape> cutters;
  for (const FileBody& body : cutter.bodies) cutters.push_back(body.shape);
  std::vector<FileBody> kept;
  Balance total;
  std::vector<std::string> spared, remedies;
  for (std::size_t i = 0; i < stock.bodies.size(); ++i) {
    const FileBody& body = stock.bodies[i];
    const double count = static_cast<double>(stock.bodies.size());
    progress().enter(static_cast<double>(i) / count, static_cast<double>(i + 1) / count, "Cutting " + body.name);
    const Division cut = divide(body.shape, cutters, progress());
    if (cut.inside.empty()) spared.push_back(body.name);
    if (!cut.remedy.empty()) remedies.push_back(body.name + ": " + cut.remedy);
    total.before += cut.balance.before;
    total.outside += cut.balance.outside;
    total.inside += cut.balance.inside;
    if (options.keep != "inside") addParts(kept, body, cut.outside, options.keep == "both" ? "outside" : "");
    if (options.keep != "outside") addParts(kept, body, cut.inside, options.keep == "both" ? "inside" : "");
  }
  if (spared.size() == stock.bodies.size())
    throw Error("the cutter meets none of the stock", options.cutter, "Check that both files use one origin and unit");
  if (options.json) {
    Json root;
    root["volume_before_mm3"] = total.before;
    root["volume_outside_mm3"] = total.outside;
    root["volume_inside_mm3"] = total.inside;
    root["balance_mm3"] = total.residual();
    root["spared"] = spared;
    root["warnings"] = remedies;
    root["bodies"] = Json::array();
    for (const FileBody& body : kept) root["bodies"].push_back(bodyJson(body));
    print(root);
  } else {
    clearProgress();
    out() << "removes " << volumeText(total.inside) << " of " << volumeText(total.before) << ", balance "
          << formatNumber(total.residual(), 2) << " mm³\n";
    for (const std::string& name : spared) out() << "not met: " << name << "\n";
    for (const std::string& remedy : remedies) out() << "note: the kernel needed help with " << remedy << "\n";
    for (const FileBody& body : kept) out() << bodyLine(body) << "\n";
    out().flush();
  }
  if (kept.empty()) std::cerr << "kervo-cli: nothing stays of the stock\n";
  if (!options.output.empty()) writeBodies(options.output, kept, unitToWrite(stock), progress());
  return done;
}

}  // namespace

Command cutCommand(CLI::App& app) {
  auto options = std::make_shared<Options>();
  CLI::App* parser = app.add_subcommand("cut", "Cut the bodies of one file with those of another");
  parser->add_option("--stock", options->stock, "File with what is cut")->required();
  parser->add_option("--cutter", options->cutter, "File with what cuts")->required();
  parser->add_option("--keep", options->keep, "What stays: outside the cutters, inside, or both")
      ->check(CLI::IsMember({"outside", "inside", "both"}));
  parser->add_option("--out", options->output, "Write the result: .step, .stp or .brep");
  parser->add_flag("--json", options->json, "Print one JSON object");
  return {parser, [options] { return run(*options); }};
}

}  // namespace kervo::cli
