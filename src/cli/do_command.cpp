// do KIND, or just KIND: any step, with its fields as options.
#include <memory>

#include "cli/commands.h"
#include "cli/request.h"
#include "steps/registry.h"

namespace kervo::cli {

namespace {

/// Kinds whose bodies come from a file by other means.
bool bringsIn(const StepKind& kind) {
  return &kind == &allStepKinds().bringingIn();
}

/// --kerf_side, and also --kerf-side.
std::string optionNames(const Field& field) {
  std::string dashed = field.key();
  std::replace(dashed.begin(), dashed.end(), '_', '-');
  return dashed == field.key() ? "--" + dashed : "--" + field.key() + ",--" + dashed;
}

CLI::App* addKind(CLI::App& parent, const std::string& name, const StepKind& kind, Request& chosen) {
  CLI::App* parser = parent.add_subcommand(name, kind.table().help);
  auto request = std::make_shared<Request>();
  request->kind = &kind;
  parser->add_option("FILE", request->files, "What it works on: FILE or FILE#BODY, or first a document to go on with");
  for (const Field* field : kind.fields()) {
    CLI::Option* option = parser->add_option(optionNames(*field), request->texts[field->key()], argumentHelp(*field));
    // One value an occurrence: a list in brackets is one value, and JSON.
    option->type_name(field->typeName())->allow_extra_args(false)->take_all();
  }
  parser->add_option("--out", request->outputs, "Write the result: " + endings(Direction::Write))->take_all();
  parser->add_flag("--json", request->json, "Print one JSON object");
  parser->callback([request, &chosen] {
    std::erase_if(request->texts, [](const auto& text) { return text.second.empty(); });
    chosen = *request;
  });
  return parser;
}

/// The command that has this name already, or null.
const CLI::App* commandNamed(const CLI::App& app, const std::string& name) {
  for (const CLI::App* each : app.get_subcommands([](const CLI::App*) { return true; }))
    if (each->check_name(name)) return each;
  return nullptr;
}

}  // namespace

Command doCommand(CLI::App& app) {
  CLI::App* parser = app.add_subcommand("do", "Make any step: do KIND, or KIND; do KIND --help lists its fields");
  parser->require_subcommand(1);
  parser->fallthrough();
  auto chosen = std::make_shared<Request>();
  for (const StepKind* kind : allStepKinds().all())
    if (!bringsIn(*kind)) addKind(*parser, kind->key(), *kind, *chosen);
  return {parser, [chosen] { return run(*chosen); }};
}

std::vector<Command> kindCommands(CLI::App& app) {
  std::vector<Command> commands;
  for (const StepKind* kind : allStepKinds().all())
    for (const std::string& name : std::vector{kind->key(), kind->table().command}) {
      if (bringsIn(*kind) || name.empty() || commandNamed(app, name)) continue;
      auto chosen = std::make_shared<Request>();
      // Found by who types it; the list of commands is long enough.
      CLI::App* parser = addKind(app, name, *kind, *chosen)->group("");
      commands.push_back({parser, [chosen] { return run(*chosen); }});
    }
  return commands;
}

}  // namespace kervo::cli
