#include "base/deep_thread.h"

#include <cerrno>
#include <system_error>

namespace kervo {

DeepThread::DeepThread(std::function<void()> work) : work_(std::move(work)) {
  constexpr std::size_t least = 2'000'000;
  int code = 0;
  for (std::size_t size = stackSize; size >= least; size /= 4) {
    pthread_attr_t attributes;
    pthread_attr_init(&attributes);
    pthread_attr_setstacksize(&attributes, size / 4096 * 4096);
    code = pthread_create(&thread_, &attributes, run, this);
    pthread_attr_destroy(&attributes);
    if (code == 0) return;
  }
  throw std::system_error(
      code, std::generic_category(),
      code == EAGAIN ? "there is not enough memory to start a thread, or too many run" : "a thread cannot be started");
}

void DeepThread::join() {
  if (!joined_) pthread_join(thread_, nullptr);
  joined_ = true;
}

void* DeepThread::run(void* self) {
  static_cast<DeepThread*>(self)->work_();
  return nullptr;
}

}  // namespace kervo
