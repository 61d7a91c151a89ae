// Multiply-and-fold mixing over 128-bit products, two lanes with different constants.
#include "base/hash.h"

#include <bit>
#include <cstdio>
#include <cstring>

namespace kervo {

namespace {
std::uint64_t fold(std::uint64_t x, std::uint64_t y) {
  __extension__ using Wide = unsigned __int128;
  const Wide product = static_cast<Wide>(x) * y;
  return static_cast<std::uint64_t>(product) ^ static_cast<std::uint64_t>(product >> 64);
}
}  // namespace

std::string Key::text() const {
  char buffer[33];
  std::snprintf(buffer, sizeof buffer, "%016llx%016llx", static_cast<unsigned long long>(high),
                static_cast<unsigned long long>(low));
  return buffer;
}

Hasher& Hasher::add(std::uint64_t value) {
  a_ = fold(a_ ^ value, 0xA0761D6478BD642Full) + 0x8EBC6AF09C88C6E3ull;
  b_ = fold(b_ + value, 0xE7037ED1A0B428DBull) ^ std::rotl(value, 31);
  return *this;
}

Hasher& Hasher::add(double value) {
  return add(std::bit_cast<std::uint64_t>(value == 0 ? 0.0 : value));
}

Hasher& Hasher::add(std::string_view text) {
  add(static_cast<std::uint64_t>(text.size()));
  for (std::size_t i = 0; i < text.size(); i += 8) {
    std::uint64_t word = 0;
    std::memcpy(&word, text.data() + i, std::min<std::size_t>(8, text.size() - i));
    add(word);
  }
  return *this;
}

Hasher& Hasher::add(const Key& key) {
  return add(key.high).add(key.low);
}

Key Hasher::key() const {
  return {fold(a_ ^ 0x589965CC75374CC3ull, b_ | 1), fold(b_ ^ 0x1D8E4E27C47D124Full, a_ | 1)};
}

}  // namespace kervo
