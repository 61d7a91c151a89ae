// For the thread sanitizer only: Qt starts a process on a stack of its own, by clone(), which the sanitizer cannot
// follow. Without clone() it forks.
#include <cerrno>

extern "C" int clone(int (*)(void*), void*, int, void*, ...) {
  errno = ENOSYS;
  return -1;
}
