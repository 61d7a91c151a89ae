// What the commands share of the terminal: exit codes, progress, Ctrl+C.
#pragma once

#include <cstdint>
#include <ostream>

#include "base/progress.h"

namespace kervo::cli {

/// Exit codes, as promised in the README.
enum ExitCode { done = 0, stepFailed = 1, wrongUsage = 2, fileError = 3, stopped = 130 };

/// Wrong values on the command line that only show after parsing.
class UsageError : public std::exception {
 public:
  explicit UsageError(std::string text) : text_(std::move(text)) {}
  const char* what() const noexcept override { return text_.c_str(); }

 private:
  std::string text_;
};

/// Standard output. The geometry kernel's own chatter on std::cout is thrown away, so that only what the commands print
/// here comes out.
std::ostream& out();
void silenceKernel();

/// The progress of this run: shown on a terminal for anything over a second, stopped by Ctrl+C.
Progress& progress();
/// Removes the progress line, if there is one.
void clearProgress();
/// From now on Ctrl+C stops progress(); a second one ends the process at once.
void catchInterrupt();

/// After so many seconds progress() is stopped; what does not stop then ends with the process two seconds later.
void limitTime(double seconds);
/// What would need more than so many bytes ends as std::bad_alloc.
void limitMemory(std::uint64_t bytes);
/// True once that time is over.
bool timeIsOver();

/// While it lives, Ctrl+C ends the process at once: for reading files, which changes nothing and cannot be stopped
/// inside.
class InterruptEndsProcess {
 public:
  InterruptEndsProcess();
  ~InterruptEndsProcess();
  InterruptEndsProcess(const InterruptEndsProcess&) = delete;
  InterruptEndsProcess& operator=(const InterruptEndsProcess&) = delete;
};

}  // namespace kervo::cli
