// Independent pieces of work on all processors, for work that may fail.
#pragma once

#include <algorithm>
#include <atomic>
#include <cstddef>
#include <exception>
#include <mutex>
#include <system_error>
#include <thread>
#include <vector>

namespace kervo {

/// What went wrong in calls that are made side by side: of those that threw, the failure of the lowest number counts,
/// as if they had been made one after another. Once one has failed, no other is begun.
class LowestFailure {
 public:
  template <class Work>
  void run(std::size_t number, const Work& work) {
    if (failed_) return;
    try {
      work(number);
    } catch (...) {
      const std::lock_guard lock(mutex_);
      if (!cause_ || number < number_) {
        cause_ = std::current_exception();
        number_ = number;
      }
      failed_ = true;
    }
  }
  bool failed() const { return failed_; }
  /// To be called when all have ended.
  void rethrow() const {
    if (cause_) std::rethrow_exception(cause_);
  }

 private:
  std::atomic<bool> failed_ = false;
  std::mutex mutex_;
  std::exception_ptr cause_;
  std::size_t number_ = 0;
};

/// Calls work(i) for i = 0 … count−1 on as many threads as there are processors, and returns when all are done. Throws
/// the LowestFailure.
template <class Work>
void inParallel(std::size_t count, const Work& work) {
  const std::size_t threads = std::min<std::size_t>(count, std::max(1U, std::thread::hardware_concurrency()));
  std::atomic<std::size_t> next = 0;
  LowestFailure failure;
  const auto run = [&] {
    for (std::size_t i = next++; i < count && !failure.failed(); i = next++) failure.run(i, work);
  };
  {
    std::vector<std::jthread> others;
    try {
      for (std::size_t t = 1; t < threads; ++t) others.emplace_back(run);
    } catch (const std::system_error&) {
      // No room for one more: those that are there do the work.
    }
    run();
  }
  failure.rethrow();
}

}  // namespace kervo
