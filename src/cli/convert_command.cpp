#include <filesystem>
#include <iostream>
#include <memory>
#include <numbers>
#include <set>

#include "base/say.h"
#include "cli/commands.h"
#include "cli/report.h"
#include "cli/terminal.h"
#include "exchange/curve_file.h"
#include "exchange/formats.h"
#include "exchange/kervo_file.h"
#include "exchange/mending.h"
#include "geom/tolerances.h"
#include "model/rebuild.h"
#include "steps/registry.h"

namespace kervo::cli {

namespace {

struct Options {
  std::string input;
  std::string output;
  std::string unit;
  double gap = tolerance::samePlace;
  bool middle = false;
  double tolerance = 0;  ///< mm
  double angle = 0.1;    ///< radians
  bool parts = false;
  std::vector<std::string> only;

  /// What IN does not say by itself is what is meant.
  bool unitOfInput() const {
    const Format* format = formatOf(input);
    return format && format->unitless;
  }
};

/// A document with the outlines of a file as drawings.
int drawCurves(const Options& options) {
  if (!isDocumentFile(options.output))
    throw UsageError("curves go into a document: write " + endings(Format::Holds::Document, Direction::Write));
  if (!(options.gap > 0)) throw UsageError("--gap must be above zero");
  const InterruptEndsProcess whileReading;
  FileCurves curves = readCurves(options.input, options.unit, progress());
  if (options.middle) curves = inTheMiddle(std::move(curves));
  for (const std::string& text : curves.notes) note(text);
  note(curves.unitNamed ? curves.unit : say("%1: the file does not say its unit", curves.unit), "unit");
  const PlaneBox box = boxOf(curves);
  note(formatNumber(box.high.u - box.low.u, 7) + " x " + formatNumber(box.high.v - box.low.v, 7) + " mm", "size");
  writeDocument(
      options.output,
      withDrawings({}, curves, std::filesystem::path(options.input).filename().string(), options.gap, allStepKinds()),
      progress());
  clearProgress();
  out() << curves.count() << (curves.count() == 1 ? " curve" : " curves") << " on " << curves.layers.size()
        << (curves.layers.size() == 1 ? " layer" : " layers") << " written to " << options.output << "\n";
  return done;
}

/// Bodies from a body file, or from a document that is rebuilt, and its levels.
FileContents contentsOf(const Options& options, std::vector<FileLevel>& levels) {
  if (!isDocumentFile(options.input)) {
    FileContents contents = readBodiesFrom(options.input, {options.unitOfInput() ? options.unit : "", options.parts});
    return options.only.empty() ? contents : onlyOf(std::move(contents), options.only, options.input);
  }
  const InterruptEndsProcess whileReading;
  const Document document = readDocument(options.input, allStepKinds(), progress());
  Memo memo;
  const Model model = rebuild(document, memo, progress());
  for (const StepReport& step : model.steps)
    if (step.error) throw *step.error;
  levels = levelsOf(model);
  return {bodiesOf(model), document.made.unit};
}

/// That STEP files are written in.
const std::set<std::string>& toUnits() {
  static const std::set<std::string> units{"mm", "cm", "m", "in", "ft"};
  return units;
}

int run(const Options& options) {
  requireWritable(options.output);
  const bool toDocument = isDocumentFile(options.output);
  if (toDocument && isDocumentFile(options.input)) {
    // Steps and dimensions stay; nothing is rebuilt.
    const Document document = readDocument(options.input, allStepKinds(), progress());
    writeDocument(options.output, document, progress());
    return done;
  }
  if (isCurveFile(options.input)) return drawCurves(options);
  if (!options.unit.empty() && !toUnits().contains(options.unit))
    throw UsageError("--unit must be mm, cm, m, in or ft");
  if (!(options.tolerance >= 0) || !(options.angle > 0)) throw UsageError("--tolerance and --angle must be above zero");
  setFineness({options.tolerance, options.angle});
  std::vector<FileLevel> levels;
  const FileContents contents = contentsOf(options, levels);
  if (toDocument) {
    for (const FileBody& body : contents.bodies)
      for (const std::string& flaw : flawsIn(body, Search::Quick, progress())) note(flaw, "damaged");
    Document document;
    const auto unit = findUnit(contents.unit);
    if (unit && unit->dimension == lengthDimension) document.made.unit = contents.unit;
    writeDocument(
        options.output,
        withBroughtIn(document, contents, std::filesystem::path(options.input).filename().string(), allStepKinds()),
        progress());
  } else {
    const std::string unit = options.unit.empty() || options.unitOfInput() ? unitToWrite(contents) : options.unit;
    writeBodiesTo(options.output, contents.bodies, unit, levels);
  }
  clearProgress();
  out() << contents.bodies.size() << (contents.bodies.size() == 1 ? " body" : " bodies") << " written to "
        << options.output << "\n";
  return done;
}

}  // namespace

Command convertCommand(CLI::App& app) {
  auto options = std::make_shared<Options>();
  CLI::App* parser = app.add_subcommand(
      "convert", "Write the bodies of a file in another format, or its curves as drawings of a document");
  parser->add_option("IN", options->input, endings(Direction::Read))->required();
  parser->add_option("OUT", options->output, endings(Direction::Write))->required();
  parser->add_option(
      "--unit", options->unit,
      "Of an STL, OBJ, PLY, DXF or SVG file that is read: what one unit of its coordinates is (mm, cm, m, in, ft; of "
      "curves also px or pt). Otherwise the length unit of the file that is written; that of IN if not given");
  parser->add_option("--tolerance", options->tolerance,
                     "In mm, between exact faces and the triangles of a file that holds meshes; 0: a ten-thousandth of "
                     "the body's size");
  parser->add_option_function<double>(
      "--angle", [options](const double& degrees) { options->angle = degrees * std::numbers::pi / 180; },
      "In degrees, between neighbouring triangles of it along a curve; 5.7 if not given");
  parser->add_option("--gap", options->gap, "Ends of curves of a DXF or SVG file nearer than this, in mm, are joined");
  parser->add_flag("--middle", options->middle, "Put the middle of a DXF or SVG file's curves at the origin");
  parser->add_flag("--parts", options->parts, "Of a file of bodies that is broken, what can be read of it");
  parser
      ->add_option("--only", options->only, "Of a file of bodies, only those of this name; may be given several times")
      ->allow_extra_args(false);
  return {parser, [options] { return run(*options); }};
}

}  // namespace kervo::cli
