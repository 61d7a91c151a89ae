// Independent short pieces of kernel work on all processors, on the kernel's threads, which wait for it. Where each
// piece takes long, see base/parallel.h.
#pragma once

#include <OSD_Parallel.hxx>
#include <atomic>
#include <cstddef>
#include <exception>
#include <mutex>

#include "base/progress.h"
#include "geom/kernel/call.h"

namespace kervo {

/// A few short calls cost less than waking the threads.
enum class Calls { Short, Long };

/// Calls work(i) for i = 0 … count−1, in any order, on several threads. Stops early on request (throwing Stopped) or
/// when one call throws. Of those that threw, the failure of the lowest i is thrown again, the kernel's as an Error
/// "`activity` failed in the geometry kernel (…)".
template <class Work>
void forEachInParallel(std::size_t count, const char* activity, Progress& progress, Work&& work,
                       Calls calls = Calls::Short) {
  std::atomic<bool> failed = false;
  std::mutex mutex;
  std::exception_ptr cause;
  int failedAt = 0;
  const auto one = [&](int i) {
    if (failed || progress.stopRequested()) return;
    try {
      work(static_cast<std::size_t>(i));
    } catch (...) {
      const std::lock_guard lock(mutex);
      if (!failed || i < failedAt) {
        cause = std::current_exception();
        failedAt = i;
      }
      failed = true;
    }
  };
  OSD_Parallel::For(0, static_cast<int>(count), one, count < (calls == Calls::Short ? 8 : 2));
  progress.throwIfStopped();
  if (cause) kernelCall(activity, [&] { std::rethrow_exception(cause); });
}

}  // namespace kervo
