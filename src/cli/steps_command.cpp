// steps: every kind of step with its fields, as the page docs/steps.md.
#include "cli/commands.h"
#include "cli/report.h"
#include "cli/terminal.h"
#include "steps/registry.h"

namespace kervo::cli {

namespace {

const char* nameOf(Well well) {
  switch (well) {
    case Well::Setup:
      return "what it is";
    case Well::Stock:
      return "stock";
    case Well::Cutter:
      return "cutter";
    case Well::Reach:
      return "reach";
    case Well::Pieces:
      return "pieces";
  }
  return "";
}

/// In a cell of a table, which bars would end.
std::string cell(std::string text) {
  for (std::size_t at = text.find('|'); at != std::string::npos; at = text.find('|', at + 2)) text.insert(at, 1, '\\');
  return text;
}

std::string standardOf(const Field& field) {
  return field.isNothing(field.standard()) ? std::string() : "`" + cell(field.text(field.standard())) + "`";
}

std::string meaningOf(const Field& field) {
  std::vector<std::string> sentences;
  if (!field.allowed().empty()) sentences.push_back(field.allowed());
  if (!field.help().empty()) sentences.push_back(field.help());
  if (!field.when().words.empty()) sentences.push_back("Only while " + field.when().words);
  std::string text;
  for (const std::string& sentence : sentences) text += (text.empty() ? "" : ". ") + sentence;
  return cell(text);
}

void printKind(const StepKind& kind) {
  const KindTable& table = kind.table();
  out() << "## " << kind.label() << " (`" << kind.key() << "`)\n\n";
  if (!table.help.empty()) out() << table.help << ".";
  if (!table.shortcut.empty()) out() << " Shortcut: " << table.shortcut << ".";
  if (const auto& first = table.drawFirst)
    out() << " " << first->label << " (" << first->shortcut << "): " << first->help << ".";
  out() << "\n\n| key | label | well | type | if not given | meaning |\n|---|---|---|---|---|---|\n";
  for (const Field* field : kind.fields())
    out() << "| `" << field->key() << "` | " << field->label() << " | " << nameOf(field->well()) << " | "
          << field->typeName() << " | " << standardOf(*field) << " | " << meaningOf(*field) << " |\n";
  out() << "\n";
}

int runSteps() {
  out() << "# Steps\n\n"
           "Every kind of step and its fields. `kervo-cli steps` writes this page from the tables of the kinds; a test "
           "compares the two.\n"
           "A field stands under its key in documents (see [file-format.md](file-format.md)) and as an option of "
           "`kervo-cli do KIND`, and\n"
           "under its label on the Bench. Lengths without a unit take the document's, angles are degrees then.\n\n";
  for (const StepKind* kind : allStepKinds().all()) printKind(*kind);
  return done;
}

}  // namespace

Command stepsCommand(CLI::App& app) {
  return {app.add_subcommand("steps", "List every kind of step with its fields, as a page of the manual"), runSteps};
}

}  // namespace kervo::cli
