#include "base/memory.h"

#include <algorithm>
#include <cstddef>
#include <cstdlib>
#include <new>

namespace kervo {

void requireThrowingNew() {}

}  // namespace kervo

// The sanitizers bring functions of their own.
#ifndef KERVO_SANITIZED

namespace {

void* allocated(std::size_t size) noexcept {
  return std::malloc(std::max<std::size_t>(size, 1));
}

void* allocated(std::size_t size, std::align_val_t alignment) noexcept {
  // The size has to be a multiple of the alignment.
  const auto step = static_cast<std::size_t>(alignment);
  if (size > static_cast<std::size_t>(-1) - step) return nullptr;
  return std::aligned_alloc(step, std::max<std::size_t>((size + step - 1) / step * step, step));
}

void* orThrow(void* memory) {
  if (!memory) throw std::bad_alloc();
  return memory;
}

}  // namespace

// The replaceable allocation functions of the standard ([new.delete]), all of them: each is looked up for itself.
void* operator new(std::size_t size) {
  return orThrow(allocated(size));
}
void* operator new[](std::size_t size) {
  return orThrow(allocated(size));
}
void* operator new(std::size_t size, std::align_val_t alignment) {
  return orThrow(allocated(size, alignment));
}
void* operator new[](std::size_t size, std::align_val_t alignment) {
  return orThrow(allocated(size, alignment));
}
void* operator new(std::size_t size, const std::nothrow_t&) noexcept {
  return allocated(size);
}
void* operator new[](std::size_t size, const std::nothrow_t&) noexcept {
  return allocated(size);
}
void* operator new(std::size_t size, std::align_val_t alignment, const std::nothrow_t&) noexcept {
  return allocated(size, alignment);
}
void* operator new[](std::size_t size, std::align_val_t alignment, const std::nothrow_t&) noexcept {
  return allocated(size, alignment);
}
void operator delete(void* memory) noexcept {
  std::free(memory);
}
void operator delete[](void* memory) noexcept {
  std::free(memory);
}
void operator delete(void* memory, std::size_t) noexcept {
  std::free(memory);
}
void operator delete[](void* memory, std::size_t) noexcept {
  std::free(memory);
}
void operator delete(void* memory, std::align_val_t) noexcept {
  std::free(memory);
}
void operator delete[](void* memory, std::align_val_t) noexcept {
  std::free(memory);
}
void operator delete(void* memory, std::size_t, std::align_val_t) noexcept {
  std::free(memory);
}
void operator delete[](void* memory, std::size_t, std::align_val_t) noexcept {
  std::free(memory);
}
void operator delete(void* memory, const std::nothrow_t&) noexcept {
  std::free(memory);
}
void operator delete[](void* memory, const std::nothrow_t&) noexcept {
  std::free(memory);
}
void operator delete(void* memory, std::align_val_t, const std::nothrow_t&) noexcept {
  std::free(memory);
}
void operator delete[](void* memory, std::align_val_t, const std::nothrow_t&) noexcept {
  std::free(memory);
}

#endif
