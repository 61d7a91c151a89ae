#include "geom/kernel_threads.h"

#include <OSD_ThreadPool.hxx>
#include <latch>
#include <system_error>
#include <thread>
#include <vector>

namespace kervo {

namespace {

/// How many of so many threads can be there at once.
int roomFor(int wanted) {
  std::latch all(1);
  std::vector<std::jthread> threads;
  try {
    while (static_cast<int>(threads.size()) < wanted) threads.emplace_back([&] { all.wait(); });
  } catch (const std::system_error&) {
    // Then there is room for those that were started.
  }
  all.count_down();
  return static_cast<int>(threads.size());
}

}  // namespace

void startKernelThreads() {
  const int wanted = static_cast<int>(std::thread::hardware_concurrency());
  const Handle(OSD_ThreadPool)& pool = OSD_ThreadPool::DefaultPool(roomFor(wanted) < wanted ? 1 : wanted);
  // They start with the first work that they get.
  OSD_ThreadPool::Launcher launcher(*pool, pool->NbThreads());
  launcher.Perform(0, pool->NbThreads(), [](int, int) {});
}

}  // namespace kervo
