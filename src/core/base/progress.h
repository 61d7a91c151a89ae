// Progress and stop of long work, shared between the thread that works and the one that watches.
#pragma once

#include <atomic>
#include <functional>
#include <mutex>
#include <string>

namespace kervo {

class Progress {
 public:
  /// Called from the working thread with the finished fraction (0…1) and what is being done.
  using Report = std::function<void(double fraction, const std::string& activity)>;

  Progress() = default;
  explicit Progress(Report report) : report_(std::move(report)) {}
  Progress(const Progress&) = delete;
  Progress& operator=(const Progress&) = delete;

  /// May be called from any thread and from a signal handler.
  void requestStop() noexcept { stop_.store(true, std::memory_order_relaxed); }
  bool stopRequested() const noexcept { return stop_.load(std::memory_order_relaxed); }

  /// Throws Stopped once a stop was requested. Long loops call this at least every few milliseconds.
  void throwIfStopped() const;

  /// Sets the part of the whole (0…1) that what follows will fill, and its name.
  void enter(double from, double to, std::string activity);
  /// Reports the finished fraction (0…1) of the part entered last. Throttled to 20 calls a second.
  void report(double fractionOfPart);

 private:
  std::atomic<bool> stop_{false};
  Report report_;
  std::mutex mutex_;
  double from_ = 0;
  double to_ = 1;
  std::string activity_;
  double lastReportSeconds_ = -1;
};

}  // namespace kervo
