// For the thread sanitizer only: Qt starts a process by clone() on a stack of its own, which the sanitizer cannot
// follow. Here it is a fork, which it can.
#include <sched.h>
#include <sys/syscall.h>
#include <unistd.h>

#include <cstdarg>

extern "C" int clone(int (*start)(void*), void*, int flags, void* argument, ...) {
  const pid_t child = fork();
  if (child == 0) _exit(start(argument));
  if (child > 0 && (flags & CLONE_PIDFD) != 0) {
    va_list rest;
    va_start(rest, argument);
    *va_arg(rest, int*) = static_cast<int>(syscall(SYS_pidfd_open, child, 0));
    va_end(rest);
  }
  return child;
}
