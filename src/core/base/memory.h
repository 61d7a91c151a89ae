// What happens when there is no memory left: std::bad_alloc, of which every program here tells.
//
// The geometry kernel brings an allocator along whose operator new ends the process without a word. A program that
// calls requireThrowingNew() uses the operators of memory.cpp instead, in all of its libraries.
#pragma once

namespace kervo {

/// Links the operators in. To be called in main().
void requireThrowingNew();

}  // namespace kervo
