// Independent pieces of work on all processors, for work that may fail.
#pragma once

#include <algorithm>
#include <atomic>
#include <cstddef>
#include <exception>
#include <system_error>
#include <thread>
#include <vector>

namespace kervo {

/// Calls work(i) for i = 0 … count−1 on as many threads as there are processors, and returns when all are done. If
/// calls throw, the exception of the lowest i is thrown again, as if they had been made one after another; what was not
/// begun by then is left out.
template <class Work>
void inParallel(std::size_t count, const Work& work) {
  const std::size_t threads = std::min<std::size_t>(count, std::max(1U, std::thread::hardware_concurrency()));
  if (threads < 2) {
    for (std::size_t i = 0; i < count; ++i) work(i);
    return;
  }
  std::atomic<std::size_t> next = 0;
  std::atomic<bool> failed = false;
  std::vector<std::exception_ptr> failures(count);
  const auto run = [&] {
    for (std::size_t i = next++; i < count && !failed; i = next++) {
      try {
        work(i);
      } catch (...) {
        failures[i] = std::current_exception();
        failed = true;
      }
    }
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
  for (const std::exception_ptr& failure : failures)
    if (failure) std::rethrow_exception(failure);
}

}  // namespace kervo
