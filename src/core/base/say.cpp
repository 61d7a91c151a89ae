#include "base/say.h"

namespace kervo {
namespace {

Catalogue asked = nullptr;

}  // namespace

void speakWith(Catalogue catalogue) {
  asked = catalogue;
}

namespace detail {

std::string filled(const char* pattern, std::span<const std::string> parts) {
  std::string text = asked ? asked(pattern) : pattern;
  if (parts.empty()) return text;
  std::string result;
  for (std::size_t i = 0; i < text.size(); ++i) {
    const std::size_t place = text[i] == '%' && i + 1 < text.size() ? static_cast<std::size_t>(text[i + 1] - '1') : 9;
    if (place < parts.size())
      result += parts[place], ++i;
    else
      result += text[i];
  }
  return result;
}

}  // namespace detail
}  // namespace kervo
