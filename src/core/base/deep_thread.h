// A thread with room for deep recursion.
#pragma once

#include <pthread.h>

#include <cstddef>
#include <functional>

namespace kervo {

/// Runs work on a thread of its own whose stack is large enough for what files nest (assemblies of some 100 000
/// levels). The pages of a stack are taken from the machine only when they are used.
class DeepThread {
 public:
  /// Address space, in bytes; less where that cannot be had.
  static constexpr std::size_t stackSize = 512'000'000;

  /// Throws std::system_error if no thread can be started.
  explicit DeepThread(std::function<void()> work);
  /// Waits for it.
  ~DeepThread() { join(); }
  DeepThread(const DeepThread&) = delete;
  DeepThread& operator=(const DeepThread&) = delete;

  void join();

 private:
  static void* run(void* self);

  std::function<void()> work_;
  pthread_t thread_{};
  bool joined_ = false;
};

}  // namespace kervo
