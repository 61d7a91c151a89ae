#include "cli/terminal.h"

#include <sys/resource.h>
#include <unistd.h>

#include <atomic>
#include <chrono>
#include <csignal>
#include <cstdio>
#include <iostream>
#include <thread>

namespace kervo::cli {

namespace {

using Clock = std::chrono::steady_clock;
const Clock::time_point started = Clock::now();
bool lineShown = false;
std::atomic<bool> over = false;
volatile std::sig_atomic_t endsAtOnce = 0;
volatile std::sig_atomic_t interrupts = 0;

void show(double fraction, const std::string& activity) {
  if (!isatty(STDERR_FILENO) || Clock::now() - started < std::chrono::seconds(1)) return;
  std::fprintf(stderr, "\r\033[K%3d %%  %s", static_cast<int>(fraction * 100), activity.c_str());
  std::fflush(stderr);
  lineShown = true;
}

void onInterrupt(int) {
  interrupts = interrupts + 1;
  if (endsAtOnce || interrupts > 1) {
    constexpr char text[] = "\nkervo-cli: stopped; nothing was written\n";
    [[maybe_unused]] const auto written = ::write(STDERR_FILENO, text, sizeof text - 1);
    ::_exit(stopped);
  }
  progress().requestStop();
}

}  // namespace

std::ostream& out() {
  static std::ostream stream(std::cout.rdbuf());
  return stream;
}

void silenceKernel() {
  out();  // takes the real buffer before it is replaced
  std::cout.rdbuf(nullptr);
}

Progress& progress() {
  static Progress instance(show);
  return instance;
}

void clearProgress() {
  if (lineShown) std::fputs("\r\033[K", stderr);
  lineShown = false;
}

void catchInterrupt() {
  progress();  // made before a signal can ask for it
  struct sigaction action = {};
  action.sa_handler = onInterrupt;
  sigaction(SIGINT, &action, nullptr);
}

void limitTime(double seconds) {
  std::thread([seconds] {
    std::this_thread::sleep_for(std::chrono::duration<double>(seconds));
    over = true;
    progress().requestStop();
    std::this_thread::sleep_for(std::chrono::seconds(2));
    constexpr char text[] = "\nkervo-cli: the time limit is over; nothing was written\n";
    [[maybe_unused]] const auto written = ::write(STDERR_FILENO, text, sizeof text - 1);
    ::_exit(stepFailed);
  }).detach();
}

void limitMemory(std::uint64_t bytes) {
  // Sanitizers map more than any machine has.
#ifndef KERVO_SANITIZED
  const rlimit limit{bytes, bytes};
  if (setrlimit(RLIMIT_DATA, &limit) != 0) throw UsageError("the memory cannot be limited to so few bytes");
#else
  static_cast<void>(bytes);
#endif
}

bool timeIsOver() {
  return over;
}

InterruptEndsProcess::InterruptEndsProcess() {
  endsAtOnce = 1;
}

InterruptEndsProcess::~InterruptEndsProcess() {
  endsAtOnce = 0;
}

}  // namespace kervo::cli
