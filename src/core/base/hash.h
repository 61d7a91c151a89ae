// 128-bit keys of values, for the memo: XXH3 of their bytes.
#pragma once

#include <array>
#include <compare>
#include <concepts>
#include <cstddef>
#include <cstdint>
#include <functional>
#include <string>
#include <string_view>

#include "base/ids.h"

namespace kervo {

/// The key of a value. Two different values share one with probability 2^-128.
struct Key {
  std::uint64_t high = 0;
  std::uint64_t low = 0;
  auto operator<=>(const Key&) const = default;
  std::string text() const;  ///< 32 hexadecimal digits
};

/// Collects values into a Key; the order matters, and neighbouring texts do not run together.
class Hasher {
 public:
  Hasher();
  Hasher& add(std::uint64_t value);
  Hasher& add(double value);  ///< +0 and -0 count as equal
  Hasher& add(std::string_view text);
  template <class Id>
  requires std::same_as<Id, StepId> || std::same_as<Id, BodyId> Hasher& add(const Id& id) {
    return add(std::string_view(id.text()));
  }
  Hasher& add(const Key& key);
  Key key() const;

 private:
  static constexpr std::size_t stateSize = 576, stateAlignment = 64;
  /// The library's state, whose header stays out of this one.
  alignas(stateAlignment) std::array<std::byte, stateSize> state_;
};

}  // namespace kervo

template <>
struct std::hash<kervo::Key> {
  std::size_t operator()(const kervo::Key& key) const noexcept { return key.low; }
};
