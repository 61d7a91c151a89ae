// Independent pieces of work on all processors.
#pragma once

#include <OSD_Parallel.hxx>
#include <atomic>
#include <cstddef>

#include "base/error.h"
#include "base/progress.h"

namespace kervo {

/// A few short calls cost less than waking the threads.
enum class Calls { Short, Long };

/// Calls work(i) for i = 0 … count−1, in any order, on several threads. Stops early on request (throwing Stopped) or
/// when one call throws (throwing an Error "`activity` failed"): nothing may leave a worker thread itself.
template <class Work>
void forEachInParallel(std::size_t count, const char* activity, Progress& progress, Work&& work,
                       Calls calls = Calls::Short) {
  std::atomic<bool> failed = false;
  const auto one = [&](int i) {
    if (failed || progress.stopRequested()) return;
    try {
      work(static_cast<std::size_t>(i));
    } catch (...) {
      failed = true;
    }
  };
  OSD_Parallel::For(0, static_cast<int>(count), one, count < (calls == Calls::Short ? 8 : 2));
  progress.throwIfStopped();
  if (failed) throw Error(std::string(activity) + " failed in the geometry kernel");
}

}  // namespace kervo
