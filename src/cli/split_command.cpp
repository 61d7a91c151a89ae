#include <iostream>
#include <memory>
#include <sstream>

#include "base/expression.h"
#include "cli/commands.h"
#include "cli/report.h"
#include "cli/terminal.h"
#include "geom/plane_split.h"
#include "geom/tolerances.h"

namespace kervo::cli {

namespace {

struct Options {
  std::string file;
  std::string plane;
  std::string kerf = "0 mm";
  std::string keep = "both";
  std::string output;
  bool json = false;
};

double lengthFrom(const std::string& text, const std::string& option) {
  try {
    const double value = Expression(text).evaluateAs(
        lengthDimension, *findUnit("mm"),
        [](const std::string& name) -> Quantity { throw Error("there is no dimension \"" + name + "\" here"); });
    if (std::abs(value) > tolerance::largestSize)
      throw Error("the value is beyond " + formatNumber(tolerance::largestSize) + " mm");
    return value;
  } catch (const Error& error) {
    throw UsageError(option + ": " + error.what());
  }
}

Plane planeFrom(const std::string& text) {
  std::vector<double> numbers;
  std::stringstream stream(text);
  for (std::string part; std::getline(stream, part, ',');) numbers.push_back(lengthFrom(part, "--plane"));
  if (numbers.size() != 6) throw UsageError("--plane needs six numbers x,y,z,nx,ny,nz: a point and a normal");
  const Vector normal{numbers[3], numbers[4], numbers[5]};
  if (length(normal) < 1e-12) throw UsageError("--plane: the normal nx,ny,nz is zero");
  return Plane::through({numbers[0], numbers[1], numbers[2]}, normal);
}

int run(const Options& options) {
  const Plane plane = planeFrom(options.plane);
  const double kerf = lengthFrom(options.kerf, "--kerf");
  if (kerf < 0) throw UsageError("--kerf is negative; use 0 or more");
  const FileContents contents = readBodiesFrom(options.file);
  std::vector<FileBody> kept;
  double waste = 0, before = 0, residual = 0;
  std::size_t missed = 0;
  for (std::size_t i = 0; i < contents.bodies.size(); ++i) {
    const FileBody& body = contents.bodies[i];
    const double count = static_cast<double>(contents.bodies.size());
    progress().enter(static_cast<double>(i) / count, static_cast<double>(i + 1) / count, "Splitting " + body.name);
    if (body.shape.kind() == BodyKind::Curve) {
      ++missed;
      continue;
    }
    const PlaneSplit split = splitByPlane("split", body.shape, plane, Kerf::centred(kerf), progress());
    missed += split.missed();
    before += split.cut.balance.before;
    residual += split.cut.balance.residual();
    waste += split.waste.volume();
    for (const auto& [side, parts] : {std::pair("front", split.front), std::pair("back", split.back)}) {
      if (options.keep != "both" && options.keep != side) continue;
      for (std::size_t n = 0; n < parts.size(); ++n)
        kept.push_back({body.name + ", " + side + (parts.size() > 1 ? " " + std::to_string(n + 1) : ""), parts[n],
                        body.color, body.layer});
    }
  }
  if (missed == contents.bodies.size())
    throw Error("the plane meets none of the bodies", options.file,
                "Move the plane; kervo-cli info shows the boxes of the bodies");
  if (options.json) {
    Json root;
    root["volume_before_mm3"] = before;
    root["volume_kerf_mm3"] = waste;
    root["balance_mm3"] = residual;
    root["bodies"] = Json::array();
    for (const FileBody& body : kept) root["bodies"].push_back(bodyJson(body));
    print(root);
  } else {
    clearProgress();
    out() << "kerf removes " << volumeText(waste) << " of " << volumeText(before) << "\n";
    for (const FileBody& body : kept) out() << bodyLine(body) << "\n";
    out().flush();
  }
  if (!options.output.empty()) writeBodies(options.output, kept, unitToWrite(contents), progress());
  return done;
}

}  // namespace

Command splitCommand(CLI::App& app) {
  auto options = std::make_shared<Options>();
  CLI::App* parser = app.add_subcommand("split", "Split the bodies of a file by a plane");
  parser->add_option("FILE", options->file, "What is split")->required();
  parser->add_option("--plane", options->plane, "x,y,z,nx,ny,nz: a point in mm and a normal")->required();
  parser->add_option("--kerf", options->kerf, "Width that the cut removes, centred (e.g. 2mm)");
  parser->add_option("--keep", options->keep, "front (where the normal points), back or both")
      ->check(CLI::IsMember({"front", "back", "both"}));
  parser->add_option("--out", options->output, "Write the result: .step, .stp or .brep");
  parser->add_flag("--json", options->json, "Print one JSON object");
  return {parser, [options] { return run(*options); }};
}

}  // namespace kervo::cli
