// Independent short pieces of kernel work on all processors, on the kernel's threads, which wait for it. Where each
// piece takes long, see base/parallel.h.
#pragma once

#include <OSD_Parallel.hxx>
#include <cstddef>

#include "base/parallel.h"
#include "base/progress.h"
#include "geom/kernel/call.h"

namespace kervo {

/// A few short calls cost less than waking the threads.
enum class Calls { Short, Long };

/// Calls work(i) for i = 0 … count−1, in any order, on several threads. Stops early on request (throwing Stopped) or
/// when one call throws. Throws the LowestFailure, the kernel's as an Error "`activity` failed in the geometry kernel
/// (…)".
template <class Work>
void forEachInParallel(std::size_t count, const char* activity, Progress& progress, Work&& work,
                       Calls calls = Calls::Short) {
  LowestFailure failure;
  const auto one = [&](int i) {
    if (!progress.stopRequested()) failure.run(static_cast<std::size_t>(i), work);
  };
  OSD_Parallel::For(0, static_cast<int>(count), one, count < (calls == Calls::Short ? 8 : 2));
  progress.throwIfStopped();
  kernelCall(activity, [&] { failure.rethrow(); });
}

}  // namespace kervo
