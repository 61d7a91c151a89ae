// What to say when an exception leaves everything: the geometry kernel throws on its own threads, too.
#pragma once

namespace kervo {

/// Of the exception that is being handled, in a handler of std::set_terminate. Needs no memory.
const char* uncaughtReason() noexcept;

}  // namespace kervo
