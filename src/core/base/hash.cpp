#include "base/hash.h"

#define XXH_INLINE_ALL
#include <xxhash.h>

#include <cstdio>
#include <new>

namespace kervo {

namespace {

XXH3_state_t* stateIn(std::byte* bytes) {
  return std::launder(reinterpret_cast<XXH3_state_t*>(bytes));
}

}  // namespace

std::string Key::text() const {
  char buffer[33];
  std::snprintf(buffer, sizeof buffer, "%016llx%016llx", static_cast<unsigned long long>(high),
                static_cast<unsigned long long>(low));
  return buffer;
}

Hasher::Hasher() {
  static_assert(sizeof(XXH3_state_t) == stateSize && alignof(XXH3_state_t) <= stateAlignment);
  XXH3_128bits_reset(new (state_.data()) XXH3_state_t);
}

Hasher& Hasher::add(std::uint64_t value) {
  XXH3_128bits_update(stateIn(state_.data()), &value, sizeof value);
  return *this;
}

Hasher& Hasher::add(double value) {
  const double stored = value == 0 ? 0.0 : value;
  XXH3_128bits_update(stateIn(state_.data()), &stored, sizeof stored);
  return *this;
}

Hasher& Hasher::add(std::string_view text) {
  add(static_cast<std::uint64_t>(text.size()));
  XXH3_128bits_update(stateIn(state_.data()), text.data(), text.size());
  return *this;
}

Hasher& Hasher::add(const Key& key) {
  return add(key.high).add(key.low);
}

Key Hasher::key() const {
  const XXH128_hash_t hash = XXH3_128bits_digest(std::launder(reinterpret_cast<const XXH3_state_t*>(state_.data())));
  return {hash.high64, hash.low64};
}

}  // namespace kervo
