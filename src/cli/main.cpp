// kervo-cli: Kervo's work on the command line.
#include <unistd.h>

#include <cstdio>
#include <exception>
#include <iostream>
#include <string>
#include <system_error>
#include <vector>

#include "base/deep_thread.h"
#include "base/error.h"
#include "base/memory.h"
#include "cli/commands.h"
#include "cli/report.h"
#include "cli/terminal.h"
#include "geom/kernel_threads.h"
#include "geom/uncaught.h"

namespace {

using namespace kervo;
using namespace kervo::cli;

int report(const char* text, int code) {
  clearProgress();
  std::fprintf(stderr, "kervo-cli: %s\n", text);
  return code;
}

int run(const Command& command) {
  try {
    const int code = command.run();
    clearProgress();
    if (!out().flush()) return report("the output could not be written", fileError);
    return code;
  } catch (const Stopped&) {
    if (timeIsOver())
      return report("the time limit is over; nothing was written. Raise it with --time-limit", stepFailed);
    return report("stopped; nothing was written", stopped);
  } catch (const UsageError& error) {
    return report(error.what(), wrongUsage);
  } catch (const FileError& error) {
    return report(error.what(), fileError);
  } catch (const Error& error) {
    return report(error.what(), stepFailed);
  } catch (const std::bad_alloc&) {
    return report("there is not enough memory for this", stepFailed);
  } catch (const std::exception& error) {
    return report((std::string("this should not have happened: ") + error.what()).c_str(), stepFailed);
  }
}

int start(int argc, char** argv) {
  requireThrowingNew();
  startKernelThreads();
  catchInterrupt();
  std::set_terminate([] {
    report(uncaughtReason(), stepFailed);
    ::_exit(stepFailed);
  });
  CLI::App app(
      "Kervo cuts exact solid and surface bodies. Exit codes: 0 done, 1 a step failed, 2 wrong usage, 3 unreadable or "
      "unwritable file.",
      "kervo-cli");
  app.require_subcommand(1);
  app.fallthrough();
  bool noReadBack = false;
  app.add_flag("--no-read-back", noReadBack,
               "Do not read files back to compare them with what was written: faster, less certain");
  double timeLimit = 3600;
  app.add_option("--time-limit", timeLimit, "Seconds after which to give up (3600 if not given; 0: never)")
      ->check(CLI::Range(0.0, 1e7));
  std::uint64_t memoryLimit = 0;
  app.add_option("--memory-limit", memoryLimit, "MB of memory after which to give up (no limit if not given)")
      ->check(CLI::Range(50, 100'000'000));
  app.set_version_flag("--version", KERVO_VERSION);
  std::vector<Command> commands{infoCommand(app), rebuildCommand(app), doCommand(app)};
  for (Command& command : shortCommands(app)) commands.push_back(std::move(command));
  commands.push_back(convertCommand(app));
  commands.push_back(reloadCommand(app));
  commands.push_back(sheetsCommand(app));
  commands.push_back(sectionCommand(app));
  commands.push_back(viewCommand(app));
  commands.push_back(compareCommand(app));
  commands.push_back(checkCommand(app));
  commands.push_back(stepsCommand(app));
  commands.push_back(formatsCommand(app));
  for (Command& command : kindCommands(app)) commands.push_back(std::move(command));
  try {
    app.parse(argc, argv);
  } catch (const CLI::ParseError& error) {
    const int code = app.exit(error);
    if (!std::cout.flush()) return report("the output could not be written", fileError);
    return code == 0 ? done : wrongUsage;
  }
  silenceKernel();
  if (timeLimit > 0) limitTime(timeLimit);
  if (memoryLimit > 0) limitMemory(DeepThread::stackSize + memoryLimit * 1'000'000);
  if (noReadBack) setReadBack(ReadBack::Skip);
  int code = wrongUsage;
  DeepThread([&] {
    for (const Command& command : commands)
      if (command.parser->parsed()) code = run(command);
  }).join();
  return code;
}

}  // namespace

int main(int argc, char** argv) {
  try {
    return start(argc, argv);
  } catch (const std::system_error& error) {
    const bool full = error.code() == std::errc::resource_unavailable_try_again;
    return report(full ? "there is not enough memory to start a thread" : error.what(), stepFailed);
  } catch (const std::exception& error) {
    return report(error.what(), stepFailed);
  }
}
