// Short names for steps that are made often: cut, split, combine, score and repair with fewer and plainer options.
#include <memory>

#include "cli/commands.h"
#include "cli/request.h"
#include "cli/terminal.h"
#include "fields/bodies_field.h"
#include "fields/cutters_field.h"
#include "fields/pieces_field.h"
#include "model/names_for_people.h"
#include "steps/registry.h"

namespace kervo::cli {

namespace {

struct Options {
  std::vector<std::string> files, stock, cutters, planes, drop;
  std::string verb = "subtract", keep, kerf = "0 mm", side = "centred", extend, clearance = "0 mm";
  bool finite = false, everything = false, keepCutters = false, seams = false, share = false, curves = false;
  std::string output;
  bool json = false;
};

/// The parser of a command, with the options that all of them have.
CLI::App* parserFor(CLI::App& app, const char* name, const char* help, Options& options) {
  CLI::App* parser = app.add_subcommand(name, help);
  parser->add_option("--stock", options.stock, "What is worked on: FILE or FILE#BODY, several if need be");
  parser->add_option("--out", options.output, "Write the result: " + endings(Format::Holds::Bodies, Direction::Write));
  parser->add_flag("--json", options.json, "Print one JSON object");
  return parser;
}

void addCutters(CLI::App* parser, Options& options) {
  parser->add_option("--cutter", options.cutters, "What cuts: FILE or FILE#BODY, several if need be");
}

void addPlanes(CLI::App* parser, Options& options) {
  parser->add_option("--plane", options.planes, "x,y,z,nx,ny,nz: a point in mm and a normal")->take_all();
}

void addClearance(CLI::App* parser, Options& options) {
  parser->add_option("--clearance", options.clearance, "Room round the cutters (e.g. 0.2mm; negative: tight)");
}

Request requestFor(const StepKind& kind, const Options& options) {
  Request request;
  request.kind = &kind;
  request.files = options.files;
  if (!options.output.empty()) request.outputs = {options.output};
  request.json = options.json;
  return request;
}

/// Planes before bodies, as cutters of one field.
std::vector<std::string> allCutters(const Options& options) {
  std::vector<std::string> all;
  for (const std::string& plane : options.planes) {
    planeFrom(plane, "--plane");
    all.push_back(plane);
  }
  all.insert(all.end(), options.cutters.begin(), options.cutters.end());
  return all;
}

Json balanceJson(const Audit& audit) {
  Json json;
  json["volume_before_mm3"] = audit.volumeBefore;
  json["balance_mm3"] = audit.balance;
  return json;
}

int runCut(const Options& options) {
  lengthFrom(options.clearance, "--clearance");
  Request request = requestFor(combineStep(), options);
  request.texts = {
      {"stock", options.stock}, {"cutters", options.cutters}, {"clearance", {options.clearance}}, {"after", {"keep"}}};
  request.more = [&](const std::map<std::string, FieldValue>& fields) {
    // What stays lies outside the cutters, inside them, or both.
    const std::vector<BodyId> stock = fields.at("stock").as<BodyPick>().bodies;
    PieceChoice choice;
    if (options.keep != "outside")
      for (const BodyId& body : stock) choice.keep.push_back(body.part("removed"));
    if (options.keep == "inside") choice.drop = stock;
    return std::map<std::string, FieldValue>{{"pieces", choice}};
  };
  request.extra = [](const StepRun& run) {
    const Audit& audit = run.report.result->audit;
    double inside = 0, outside = 0;
    for (const Piece& piece : run.report.result->pieces)
      (piece.key.text().find("/removed") == std::string::npos ? outside : inside) += piece.volume;
    Json extra = balanceJson(audit);
    extra["volume_outside_mm3"] = outside;
    extra["volume_inside_mm3"] = inside;
    extra["spared"] = audit.spared;
    extra["warnings"] = withNames(audit.warnings, run.model);
    return extra;
  };
  return run(request);
}

int runSplit(Options options) {
  options.stock.insert(options.stock.begin(), options.files.begin(), options.files.end());
  options.files.clear();
  if (options.stock.empty()) throw UsageError("split: name what is split, as FILE or --stock FILE#BODY");
  if (options.planes.empty() && options.cutters.empty()) throw UsageError("split: give a --plane or a --cutter");
  if (lengthFrom(options.kerf, "--kerf") < 0) throw UsageError("--kerf is negative; use 0 or more");
  Request request = requestFor(splitStep(), options);
  request.texts = {{"stock", options.stock}, {"cutters", allCutters(options)},
                   {"kerf", {options.kerf}}, {"kerf_side", {options.side}},
                   {"keep", {options.keep}}, {"everything", {options.everything ? "true" : "false"}}};
  if (options.finite) request.texts["extent"] = {"finite"};
  if (!options.extend.empty()) {
    if (lengthFrom(options.extend, "--extend") <= 0) throw UsageError("--extend: give a length greater than zero");
    request.texts["extent"] = {"extended"};
    request.texts["extend"] = {options.extend};
  }
  request.extra = [](const StepRun& run) {
    double kerf = 0;
    for (const Piece& piece : run.report.result->pieces)
      if (!piece.kept && piece.key.text().find("/kerf") != std::string::npos) kerf += piece.volume;
    Json extra = balanceJson(run.report.result->audit);
    extra["volume_kerf_mm3"] = kerf;
    return extra;
  };
  return run(request);
}

int runCombine(const Options& options) {
  lengthFrom(options.clearance, "--clearance");
  Request request = requestFor(combineStep(), options);
  request.texts = {{"verb", {options.verb}},
                   {"stock", options.stock},
                   {"clearance", {options.clearance}},
                   {"after", {options.keepCutters ? "keep" : "use up"}},
                   {"seams", {options.seams ? "true" : "false"}}};
  if (!options.cutters.empty()) request.texts["cutters"] = options.cutters;
  request.cuttersStay = true;
  request.more = [&](const auto&) {
    return std::map<std::string, FieldValue>{
        {"pieces", PieceChoice{{}, {options.drop.begin(), options.drop.end()}, {}}}};
  };
  return run(request);
}

int runScore(const Options& options) {
  if (options.share && options.curves) throw UsageError("score: --share-faces and --curves exclude each other");
  if (!options.share && options.planes.empty() && options.cutters.empty())
    throw UsageError("score: give a --plane or a --cutter, or --share-faces");
  Request request = requestFor(scoreStep(), options);
  request.texts = {{"verb",
                    {options.share    ? "share faces"
                     : options.curves ? "curves"
                                      : "mark"}},
                   {"stock", options.stock}};
  if (const auto cutters = allCutters(options); !cutters.empty()) request.texts["cutters"] = cutters;
  return run(request);
}

int runRepair(const Options& options) {
  Request request = requestFor(repairStep(), options);
  request.texts = {{"bodies", options.stock}};
  return run(request);
}

void require(CLI::App* parser, std::initializer_list<const char*> names) {
  for (const char* name : names) parser->get_option(name)->required();
}

Command cutCommand(CLI::App& app) {
  auto options = std::make_shared<Options>();
  options->keep = "outside";
  CLI::App* parser = parserFor(app, "cut", "Cut bodies with others", *options);
  addCutters(parser, *options);
  addClearance(parser, *options);
  parser->add_option("--keep", options->keep, "What stays: outside the cutters, inside, or both")
      ->check(CLI::IsMember({"outside", "inside", "both"}));
  require(parser, {"--stock", "--cutter"});
  return {parser, [options] { return runCut(*options); }};
}

Command splitCommand(CLI::App& app) {
  auto options = std::make_shared<Options>();
  options->keep = "both";
  CLI::App* parser = parserFor(app, "split", "Split bodies by planes, surfaces and bodies", *options);
  parser->add_option("FILE", options->files, "What is split: FILE or FILE#BODY");
  addCutters(parser, *options);
  addPlanes(parser, *options);
  parser->add_option("--kerf", options->kerf, "Width that the cut removes (e.g. 2mm)");
  parser->add_option("--kerf-side", options->side, "Where the kerf lies")
      ->check(CLI::IsMember({"centred", "front", "back"}));
  parser->add_option("--extend", options->extend, "Make surfaces longer by this over all borders");
  parser->add_flag("--finite", options->finite, "Surfaces cut only where they are");
  parser->add_option("--keep", options->keep, "front (where the normal points; outside of a body), back or both")
      ->check(CLI::IsMember({"front", "back", "both"}));
  parser->add_flag("--everything", options->everything, "Also remove bodies entirely on the other side");
  return {parser, [options] { return runSplit(*options); }};
}

Command combineCommand(CLI::App& app) {
  auto options = std::make_shared<Options>();
  CLI::App* parser = parserFor(app, "combine", "Subtract, unite, intersect or partition bodies", *options);
  addCutters(parser, *options);
  addClearance(parser, *options);
  parser->add_option("--verb", options->verb, "subtract, union, intersect, exclusive or partition")
      ->check(CLI::IsMember({"subtract", "union", "intersect", "exclusive", "partition"}));
  parser->add_option("--drop", options->drop, "Pieces that go, by the names that --json gives as their \"key\"");
  parser->add_flag("--keep-cutters", options->keepCutters, "The cutters stay as bodies");
  parser->add_flag("--seams", options->seams, "A union keeps the edges between faces of one surface");
  require(parser, {"--stock"});
  return {parser, [options] { return runCombine(*options); }};
}

Command scoreCommand(CLI::App& app) {
  auto options = std::make_shared<Options>();
  CLI::App* parser =
      parserFor(app, "score", "Mark faces without cutting volume, or share faces between bodies", *options);
  addCutters(parser, *options);
  addPlanes(parser, *options);
  parser->add_flag("--share-faces", options->share, "Touching bodies get common faces");
  parser->add_flag("--curves", options->curves, "Where stock and cutters meet, as curves");
  require(parser, {"--stock"});
  return {parser, [options] { return runScore(*options); }};
}

Command repairCommand(CLI::App& app) {
  auto options = std::make_shared<Options>();
  CLI::App* parser = parserFor(app, "repair", "Mend faces that are not valid and join free edges", *options);
  require(parser, {"--stock"});
  return {parser, [options] { return runRepair(*options); }};
}

}  // namespace

std::vector<Command> shortCommands(CLI::App& app) {
  return {cutCommand(app), splitCommand(app), combineCommand(app), scoreCommand(app), repairCommand(app)};
}

}  // namespace kervo::cli
