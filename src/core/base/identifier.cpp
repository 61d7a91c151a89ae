#include "base/identifier.h"

#include <algorithm>
#include <array>
#include <cstdio>
#include <optional>
#include <utility>

#include "base/say.h"

namespace kervo {

namespace {

/// The code point that starts at `at`, which is moved behind it. Nothing for bytes that are not UTF-8.
std::optional<char32_t> nextCodePoint(std::string_view text, std::size_t& at) {
  const auto byte = [&](std::size_t i) { return static_cast<unsigned char>(text[i]); };
  const unsigned char first = byte(at);
  const int more = first < 0x80 ? 0 : first < 0xC2 ? -1 : first < 0xE0 ? 1 : first < 0xF0 ? 2 : first < 0xF5 ? 3 : -1;
  if (more < 0 || at + static_cast<std::size_t>(more) >= text.size()) return std::nullopt;
  char32_t point = more == 0 ? first : first & (0x3Fu >> more);
  for (int i = 1; i <= more; ++i) {
    const unsigned char next = byte(at + static_cast<std::size_t>(i));
    if ((next & 0xC0) != 0x80) return std::nullopt;
    point = (point << 6) | (next & 0x3Fu);
  }
  constexpr std::array<char32_t, 4> smallest{0, 0x80, 0x800, 0x10000};
  if (point < smallest[static_cast<std::size_t>(more)] || point > 0x10FFFF || (point >= 0xD800 && point <= 0xDFFF))
    return std::nullopt;
  at += static_cast<std::size_t>(more) + 1;
  return point;
}

/// Beyond ASCII letters of any language are taken, but nothing that is not seen, or changes how others are.
bool isIdCharacter(char32_t c) {
  if (c < 0x80)
    return (c >= '0' && c <= '9') || (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || c == '-' || c == '_';
  constexpr std::pair<char32_t, char32_t>
      refused[] = {{0x80, 0xBF},                    // controls, spaces, punctuation
                   {0xD7, 0xD7},     {0xF7, 0xF7},  // × and ÷
                   {0x61C, 0x61C},                  // a direction mark
                   {0x115F, 0x1160}, {0x1680, 0x1680},   {0x17B4, 0x17B5},   {0x180B, 0x180F},
                   {0x2000, 0x2BFF},  // spaces, direction marks, punctuation, arrows, signs, boxes
                   {0x3000, 0x3004}, {0x3008, 0x3020},   {0x3164, 0x3164},   {0xE000, 0xF8FF},  // private
                   {0xFE00, 0xFE0F}, {0xFEFF, 0xFEFF},   {0xFF00, 0xFF0F},   {0xFFA0, 0xFFA0},
                   {0xFFE0, 0xFFFF}, {0x1D173, 0x1D17A}, {0xE0000, 0x10FFFF}};
  return std::none_of(std::begin(refused), std::end(refused),
                      [&](const auto& range) { return c >= range.first && c <= range.second; });
}

/// Nothing if `text` has 1 to `longest` bytes, of UTF-8, and only characters that are allowed.
std::string whyNot(const std::string& what, const std::string& text, std::size_t longest, bool (*allowed)(char32_t)) {
  if (text.empty()) return say("%1 is empty", what);
  if (text.size() > longest) return say("%1 is longer than %2 bytes", what, longest);
  for (std::size_t at = 0; at < text.size();) {
    const std::optional<char32_t> c = nextCodePoint(text, at);
    if (!c) return say("%1 is not valid UTF-8", what);
    if (allowed(*c)) continue;
    char code[16];
    std::snprintf(code, sizeof code, "U+%04X", static_cast<unsigned>(*c));
    return say("%1 may not hold the character %2", what,
               *c > 0x20 && *c < 0x7F ? "\"" + std::string(1, char(*c)) + "\"" : code);
  }
  return {};
}

}  // namespace

bool isUtf8(std::string_view text) {
  for (std::size_t at = 0; at < text.size();)
    if (!nextCodePoint(text, at)) return false;
  return true;
}

std::string whyNotAnId(const std::string& id) {
  return whyNot(say("an id"), id, 200, isIdCharacter);
}

std::string whyNotAPart(const std::string& part) {
  return whyNot(say("a part of the id of a body"), part, 2000,
                [](char32_t c) { return c < 0x80 ? c >= 0x20 && c < 0x7F && c != '"' && c != '/' : isIdCharacter(c); });
}

}  // namespace kervo
