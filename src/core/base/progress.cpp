#include "base/progress.h"

#include <algorithm>
#include <chrono>

#include "base/error.h"

namespace kervo {

namespace {
constexpr double reportIntervalSeconds = 0.05;

double nowSeconds() {
  return std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch()).count();
}
}  // namespace

void Progress::throwIfStopped() const {
  if (stopRequested()) throw Stopped();
}

void Progress::enter(double from, double to, std::string activity) {
  {
    std::lock_guard lock(mutex_);
    from_ = from;
    to_ = to;
    activity_ = std::move(activity);
  }
  report(0);
}

void Progress::report(double fractionOfPart) {
  if (!report_) return;
  std::lock_guard lock(mutex_);
  const double now = nowSeconds();
  if (now - lastReportSeconds_ < reportIntervalSeconds) return;
  lastReportSeconds_ = now;
  report_(from_ + (to_ - from_) * std::clamp(fractionOfPart, 0.0, 1.0), activity_);
}

}  // namespace kervo
