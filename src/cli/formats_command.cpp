// formats: every format of files with what it carries, as the page docs/formats.md.
#include "base/say.h"
#include "cli/commands.h"
#include "cli/report.h"
#include "cli/terminal.h"
#include "exchange/formats.h"

namespace kervo::cli {

namespace {

const char* yes(bool is) {
  return is ? "yes" : "–";
}

std::string holdsOf(const Format& format) {
  switch (format.holds) {
    case Format::Holds::Document:
      return "documents";
    case Format::Holds::Curves:
      return "curves";
    case Format::Holds::Bodies:
      break;
  }
  return format.triangles ? "meshes" : "exact bodies";
}

int runFormats() {
  out() << "# Formats of files\n\nWritten by `kervo-cli formats` from the table that dialogs, drag and drop and the "
           "command line follow.\n\n| format | endings | holds | read | written | keeps | unit |\n"
           "|---|---|---|---|---|---|---|\n";
  for (const Format* format : allFormats()) {
    std::string extensions;
    for (const std::string& extension : format->extensions)
      extensions += (extensions.empty() ? "`" : ", `") + extension + "`";
    const bool written = allows(*format, Direction::Write) || format->writePicture;
    out() << "| " << format->name << " | " << extensions << " | " << holdsOf(*format) << " | "
          << yes(allows(*format, Direction::Read)) << " | " << yes(written) << " | " << say(format->carries.c_str())
          << " | " << (format->unitless ? "asked for" : "known") << " |\n";
  }
  out()
      << "\nA file is brought in whole or not at all. What is read from outside is checked before it counts; bodies "
         "with damaged faces, open meshes and meshes that run through themselves are named and offered for Repair.\n\n"
         "Files of triangles: exact bodies are meshed with `--tolerance` (mm between a face and its triangles; if not "
         "given, a ten-thousandth of the body's size) and `--angle`. The triangles of a solid always close; if they "
         "do not, nothing is written. Meshes go to files of triangles only. Every file is read back and compared "
         "before it takes its place, but for IFC4.\n";
  return done;
}

}  // namespace

Command formatsCommand(CLI::App& app) {
  CLI::App* parser = app.add_subcommand("formats", "List every format of files, as a page of the manual");
  return {parser, [] { return runFormats(); }};
}

}  // namespace kervo::cli
