#include "base/names.h"

#include <algorithm>
#include <string_view>

#include "base/expression.h"
#include "base/identifier.h"
#include "base/say.h"

namespace kervo {

namespace {

/// Heights of levels are names of several words, "Lamp room.height". The parser gets them with these in place of blanks
/// and points, so that they are one word of the same length.
constexpr char blankInName = 1, pointInName = 2;
constexpr std::string_view ofHeight = ".height";

/// Where the word that begins at `i` ends; of a height, where all of it ends.
std::size_t endOfWord(const std::string& text, std::size_t i) {
  static const std::string characters = nameCharacters();
  const auto wordEnd = [&](std::size_t from) {
    return std::min(text.find_first_not_of(characters, from), text.size());
  };
  const std::size_t first = wordEnd(i);
  if (first == i || (text[i] >= '0' && text[i] <= '9')) return first;
  for (std::size_t end = first;;) {
    const std::size_t behind = end + ofHeight.size();
    if (text.compare(end, ofHeight.size(), ofHeight) == 0 && wordEnd(behind) == behind) return behind;
    if (end >= text.size() || text[end] != ' ' || wordEnd(end + 1) == end + 1) return first;
    end = wordEnd(end + 1);
  }
}

bool isHeight(const std::string& word) {
  return word.size() > ofHeight.size() && word.ends_with(ofHeight);
}

}  // namespace

std::string nameCharacters() {
  std::string characters = "0123456789_abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ";
  for (int c = 0x80; c <= 0xFF; ++c) characters += static_cast<char>(c);  // letters of any language, as UTF-8
  return characters;
}

std::string marksInNames() {
  return {blankInName, pointInName};
}

void forEachWord(const std::string& text, const std::function<void(std::string)>& take) {
  for (std::size_t i = 0; i < text.size();) {
    const std::size_t end = endOfWord(text, i);
    take(text.substr(i, end == i ? 1 : end - i));
    i = end == i ? i + 1 : end;
  }
}

std::string withHeightsAsWords(const std::string& text) {
  std::string result;
  forEachWord(text, [&](std::string word) {
    if (isHeight(word)) {
      std::replace(word.begin(), word.end(), ' ', blankInName);
      std::replace(word.begin(), word.end(), '.', pointInName);
    }
    result += word;
  });
  return result;
}

std::string withoutMarks(std::string name) {
  std::replace(name.begin(), name.end(), blankInName, ' ');
  std::replace(name.begin(), name.end(), pointInName, '.');
  return name;
}

std::string heightOfLevel(const std::string& level) {
  return level + std::string(ofHeight);
}

std::string whyNotALevel(const std::string& name) {
  if (name.empty()) return say("a level needs a name");
  if (name.size() > 200) return say("a name may have at most 200 characters");
  if (name[0] >= '0' && name[0] <= '9') return say("the name \"%1\" starts with a digit", name);
  const bool words = name.front() != ' ' && name.back() != ' ' && name.find("  ") == std::string::npos;
  if (!words || name.find_first_not_of(nameCharacters() + " ") != std::string::npos || !isUtf8(name))
    return say("the name \"%1\" may hold words of letters, digits and _, with one blank between, only", name);
  return {};
}

}  // namespace kervo
