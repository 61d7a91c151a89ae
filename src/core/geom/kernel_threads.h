// The geometry kernel's own threads.
#pragma once

namespace kervo {

/// Starts them while there is memory for it. To be called at the start of a program: a thread that cannot be started
/// later would be waited for without end. Where there is no room for threads even now, the kernel works without.
void startKernelThreads();

}  // namespace kervo
