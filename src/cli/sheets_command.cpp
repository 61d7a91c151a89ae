#include <iostream>
#include <memory>

#include "base/say.h"
#include "cli/commands.h"
#include "cli/report.h"
#include "cli/terminal.h"
#include "cli/workpieces.h"
#include "exchange/kervo_file.h"
#include "model/rebuild.h"
#include "shop/section_picture.h"
#include "shop/sheets.h"
#include "shop/view_picture.h"
#include "steps/registry.h"

namespace kervo::cli {

namespace {

Model modelOf(const std::string& input) {
  if (!isDocumentFile(input)) throw UsageError("give a document");
  const InterruptEndsProcess whileReading;
  const Document document = readDocument(input, allStepKinds(), progress());
  Memo memo;
  Model model = rebuild(document, memo, progress());
  for (const StepReport& step : model.steps)
    if (step.error) throw *step.error;
  return model;
}

struct SheetOptions {
  std::string input, output, size = "600x400", spacing = "3mm", kerf = "0.2mm";
  std::vector<std::string> bodies;
  bool json = false;
};

int runSheets(const SheetOptions& options) {
  const Model model = modelOf(options.input);
  std::vector<Body> bodies;
  for (const Body& body : model.bodies) {
    const bool wanted = options.bodies.empty()
                            ? body.inSight()
                            : std::any_of(options.bodies.begin(), options.bodies.end(), [&](const std::string& each) {
                                return body.id == each || body.name == each || body.id.step() == each ||
                                       body.id.text().starts_with(each + "/");
                              });
    if (wanted) bodies.push_back(body);
  }
  const std::size_t cross = options.size.find('x');
  if (cross == std::string::npos) throw UsageError("--sheet is WIDTHxHEIGHT, such as 600x400");
  SheetOrder order{.width = lengthFrom(options.size.substr(0, cross), "--sheet"),
                   .height = lengthFrom(options.size.substr(cross + 1), "--sheet"),
                   .spacing = lengthFrom(options.spacing, "--spacing"),
                   .kerf = lengthFrom(options.kerf, "--kerf")};
  ShopParts parts = shopParts(bodies, progress());
  // Solids stand beside their slices in most documents.
  if (!options.bodies.empty())
    for (const std::string& text : parts.leftOut) note(text, "left out");
  const CutSheets sheets = cutSheets(parts.parts, order, progress());
  for (const std::string& text : sheets.notes) note(text);
  const auto files = writeSheets(options.output, sheets, progress());
  clearProgress();
  Json json;
  for (std::size_t i = 0; i < files.size(); ++i) {
    const CutSheets::Sheet& sheet = sheets.sheets[i];
    if (options.json)
      json["sheets"].push_back({{"file", files[i].string()}, {"used", sheet.used}, {"parts", sheet.parts}});
    else
      out() << files[i].string() << ": " << sheet.parts.size() << (sheet.parts.size() == 1 ? " part, " : " parts, ")
            << formatNumber(100 * sheet.used, 3) << " % of the sheet\n";
  }
  if (options.json) {
    json["notes"] = sheets.notes;
    print(json);
  }
  return done;
}

struct SectionOptions {
  std::string input, output, section, scale = "1:1";
};

int runSection(const SectionOptions& options) {
  const Model model = modelOf(options.input);
  const auto found = std::find_if(model.sections.begin(), model.sections.end(), [&](const StepReport& each) {
    return options.section.empty() || each.id == options.section || each.name == options.section;
  });
  if (found == model.sections.end())
    throw UsageError("there is no section \"" + options.section + "\" in the document");
  if (const auto& error = found->error) throw *error;
  if (!found->result) throw UsageError("the section \"" + found->name + "\" cannot be made");
  PaperOrder order{.name = found->name, .scale = scaleFrom(options.scale)};
  const SectionPicture picture = sectionPicture(model, *found->result->section, order, progress());
  writePicture(options.output, picture.picture, progress());
  clearProgress();
  out() << options.output << ": " << picture.bodies.size() << (picture.bodies.size() == 1 ? " body, " : " bodies, ")
        << formatNumber(picture.area / 100, 6) << " cm2 cut\n";
  return done;
}

struct ViewOptions {
  std::string input, output, view, scale = "1:1";
  bool visibleOnly = false;
};

int runView(const ViewOptions& options) {
  if (!isDocumentFile(options.input)) throw UsageError("give a document");
  const InterruptEndsProcess whileReading;
  const Document document = readDocument(options.input, allStepKinds(), progress());
  const auto& views = document.seen.views;
  const auto found = std::find_if(views.begin(), views.end(), [&](const SavedView& each) {
    return options.view.empty() || each.id == options.view || each.name == options.view;
  });
  if (found == views.end()) throw UsageError("there is no view \"" + options.view + "\" in the document");
  Memo memo;
  const Model model = rebuild(document, memo, progress());
  for (const StepReport& step : model.steps)
    if (step.error) throw *step.error;
  ViewPictureOrder order;
  order.name = found->name;
  order.scale = scaleFrom(options.scale);
  order.hidden = !options.visibleOnly;
  const ViewPicture picture = viewPicture(document, model, *found, order, progress());
  writePicture(options.output, picture.picture, progress());
  clearProgress();
  for (const std::string& text : picture.notes) note(text);
  out() << options.output << ": " << picture.bodies.size() << (picture.bodies.size() == 1 ? " body, " : " bodies, ")
        << formatNumber(picture.visible, 6) << " mm of edges seen, " << formatNumber(picture.hidden, 6)
        << " mm hidden\n";
  return done;
}

}  // namespace

Command sheetsCommand(CLI::App& app) {
  auto options = std::make_shared<SheetOptions>();
  CLI::App* parser =
      app.add_subcommand("sheets", "Lay planar surfaces, such as slices that give faces, out on sheets for a cutter");
  parser->add_option("FILE", options->input, "A document")->required();
  parser->add_option("OUT", options->output, endingsOfPictures() + "; several sheets are numbered")->required();
  parser->add_option("--sheet", options->size, "Width and height of a sheet (600x400 if not given)");
  parser->add_option("--spacing", options->spacing, "Between parts, and to the sheet's edge (3mm if not given)");
  parser->add_option("--kerf", options->kerf, "Width that the cutter takes away (0.2mm if not given)");
  parser->add_option("--bodies", options->bodies,
                     "Ids or names of bodies or of steps that made them; all visible ones");
  parser->add_flag("--json", options->json, "Print as JSON");
  return {parser, [options] { return runSheets(*options); }};
}

Command viewCommand(CLI::App& app) {
  auto options = std::make_shared<ViewOptions>();
  CLI::App* parser = app.add_subcommand("view", "Draw a kept view of a document at scale, with its hidden edges");
  parser->add_option("FILE", options->input, "A document with a kept view")->required();
  parser->add_option("OUT", options->output, endingsOfPictures())->required();
  parser->add_option("--view", options->view, "Its id or name; the first one if not given");
  parser->add_option("--scale", options->scale, "Such as 1:50 (1:1 if not given)");
  parser->add_flag("--visible-only", options->visibleOnly, "Without hidden edges");
  return {parser, [options] { return runView(*options); }};
}

Command sectionCommand(CLI::App& app) {
  auto options = std::make_shared<SectionOptions>();
  CLI::App* parser = app.add_subcommand("section", "Draw a section of a document at scale, its cut faces filled");
  parser->add_option("FILE", options->input, "A document with a section by a plane")->required();
  parser->add_option("OUT", options->output, endingsOfPictures())->required();
  parser->add_option("--section", options->section, "Its id or name; the first one if not given");
  parser->add_option("--scale", options->scale, "Such as 1:50 (1:1 if not given); DXF is always 1:1");
  return {parser, [options] { return runSection(*options); }};
}

}  // namespace kervo::cli
