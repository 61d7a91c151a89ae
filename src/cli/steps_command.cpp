// steps: every kind of step with its fields, as the page docs/steps.md.
#include <algorithm>
#include <memory>

#include "cli/commands.h"
#include "cli/report.h"
#include "cli/terminal.h"
#include "fields/choice_field.h"
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

/// Every text of the tables, for translators, in the order in which it comes first.
int printTexts() {
  std::vector<std::string> texts;
  const auto add = [&](const std::string& text) {
    if (!text.empty() && std::find(texts.begin(), texts.end(), text) == texts.end()) texts.push_back(text);
  };
  for (const StepKind* kind : allStepKinds().all()) {
    const KindTable& table = kind->table();
    for (const std::string& text : {table.label, table.verb, table.ofOpening, table.help}) add(text);
    for (const WellTitle& well : {table.wells.stock, table.wells.cutter, table.wells.reach})
      for (const std::string& text : {well.title, well.note}) add(text);
    if (const auto& first = table.drawFirst)
      for (const std::string& text : {first->label, first->offered, first->help}) add(text);
    for (const Field* field : kind->fields()) {
      add(field->label());
      add(field->help());
      if (const auto* choice = dynamic_cast<const WordField*>(field))
        for (const std::string& word : choice->words()) add(word);
    }
  }
  out()
      << "// Every text of the tables of kinds, for translators. Written by `kervo-cli steps --texts`; a test compares "
         "the two.\n// clang-format off\n#include <QtGlobal>\n\n[[maybe_unused]] static const char* const texts[] = "
         "{\n";
  for (const std::string& text : texts) out() << "    QT_TRANSLATE_NOOP(\"Kinds\", " << Json(text).dump() << "),\n";
  out() << "};\n";
  return done;
}

}  // namespace

Command stepsCommand(CLI::App& app) {
  CLI::App* parser = app.add_subcommand("steps", "List every kind of step with its fields, as a page of the manual");
  auto texts = std::make_shared<bool>(false);
  parser->add_flag("--texts", *texts, "All texts of the kinds instead, for translators");
  return {parser, [texts] { return *texts ? printTexts() : runSteps(); }};
}

}  // namespace kervo::cli
