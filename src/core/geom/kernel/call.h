// Calls into the geometry kernel: its exceptions and signals become Errors, its progress ours.
#pragma once

#include <Message_ProgressIndicator.hxx>
#include <OSD.hxx>
#include <Standard_ErrorHandler.hxx>
#include <Standard_Failure.hxx>
#include <Standard_OutOfMemory.hxx>
#include <csignal>
#include <iterator>
#include <new>
#include <string>

#include "base/error.h"
#include "base/progress.h"
#include "base/say.h"

namespace kervo {

/// Installs the kernel's signal handlers for crashes once for the process. It would take the signals that a person or
/// the system sends as well; those stay with whoever handled them before.
inline void catchKernelSignals() {
  static const bool installed = [] {
    constexpr int notCrashes[] = {SIGINT, SIGHUP, SIGQUIT, SIGTERM, SIGPIPE, SIGCHLD};
    struct sigaction before[std::size(notCrashes)];
    for (std::size_t i = 0; i < std::size(notCrashes); ++i) sigaction(notCrashes[i], nullptr, &before[i]);
    OSD::SetSignal(false);
    for (std::size_t i = 0; i < std::size(notCrashes); ++i) sigaction(notCrashes[i], &before[i], nullptr);
    return true;
  }();
  (void)installed;
}

/// Runs `work`. A kernel exception or signal in it becomes an Error "`activity` failed in the geometry kernel (…)".
template <class Work>
auto kernelCall(const std::string& activity, Work&& work) -> decltype(work()) {
  catchKernelSignals();
  try {
    OCC_CATCH_SIGNALS
    return work();
  } catch (const std::bad_alloc&) {
    throw Error(say("there is not enough memory for %1", say(activity.c_str())), "",
                say("Close other programs, or work on fewer bodies"));
  } catch (const Standard_OutOfMemory&) {
    throw Error(say("there is not enough memory for %1", say(activity.c_str())), "",
                say("Close other programs, or work on fewer bodies"));
  } catch (const Standard_Failure& failure) {
    const char* message = failure.GetMessageString();
    throw Error(say("%1 failed in the geometry kernel (%2%3)", say(activity.c_str()), failure.DynamicType()->Name(),
                    message && *message ? std::string(": ") + message : ""),
                "", say("Check the bodies involved, or change sizes slightly"));
  }
}

/// Hands the kernel's progress to a Progress and stops it there on request.
class KernelProgress : public Message_ProgressIndicator {
 public:
  explicit KernelProgress(Progress& progress) : progress_(progress) {}
  Standard_Boolean UserBreak() override { return progress_.stopRequested(); }
  void Show(const Message_ProgressScope&, const Standard_Boolean) override { progress_.report(GetPosition()); }

 private:
  Progress& progress_;
};

}  // namespace kervo
