// The subcommands. Each adds itself to the parser and gives what to run if it is chosen.
#pragma once

#include <CLI/CLI.hpp>

namespace kervo::cli {

/// A command's run() gives an exit code; it may throw Error, FileError, UsageError and Stopped.
struct Command {
  CLI::App* parser;
  std::function<int()> run;
};

Command checkCommand(CLI::App& app);
Command infoCommand(CLI::App& app);
Command rebuildCommand(CLI::App& app);
Command doCommand(CLI::App& app);
/// Kinds by their own names, but those that other commands have; to be called last.
std::vector<Command> kindCommands(CLI::App& app);
Command stepsCommand(CLI::App& app);
Command formatsCommand(CLI::App& app);
/// cut, split, combine, score, repair.
std::vector<Command> shortCommands(CLI::App& app);
Command convertCommand(CLI::App& app);
Command reloadCommand(CLI::App& app);
Command sheetsCommand(CLI::App& app);
Command sectionCommand(CLI::App& app);
Command viewCommand(CLI::App& app);
Command compareCommand(CLI::App& app);

}  // namespace kervo::cli
