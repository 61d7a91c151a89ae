// Texts for people: English patterns in the code, in the window in its own language.
#pragma once

#include <array>
#include <span>
#include <string>
#include <type_traits>

namespace kervo {

/// Gives an English pattern in another language, or as it is.
using Catalogue = std::string (*)(const char* english);

/// What say() asks from now on. Called once, before any other thread runs; without it all texts are English.
void speakWith(Catalogue catalogue);

/// Marks a text that is kept now and goes through say() where it is shown.
constexpr const char* later(const char* english) {
  return english;
}

namespace detail {

std::string filled(const char* pattern, std::span<const std::string> parts);

template <class Part>
std::string asText(const Part& part) {
  if constexpr (std::is_integral_v<Part>)
    return std::to_string(part);
  else if constexpr (requires { part.text(); })
    return part.text();
  else
    return std::string(part);
}

}  // namespace detail

/// A text with `parts` (texts, ids or whole numbers) in the places %1 to %9 of the pattern.
/// The pattern is a literal, so that translators find it, or one that went through later().
template <class... Parts>
std::string say(const char* pattern, const Parts&... parts) {
  return detail::filled(pattern, std::array<std::string, sizeof...(Parts)>{detail::asText(parts)...});
}

/// The same for a count, which is %1: `one` for 1, `many` for any other.
template <class... Parts>
std::string sayCount(std::size_t count, const char* one, const char* many, const Parts&... parts) {
  return say(count == 1 ? one : many, count, parts...);
}

}  // namespace kervo
