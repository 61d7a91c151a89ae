#include "fields/choice_field.h"

#include <algorithm>

#include "base/error.h"
#include "base/say.h"

namespace kervo {

namespace {
std::string listed(const std::vector<std::string>& words) {
  std::string list;
  for (const std::string& word : words) list += (list.empty() ? "" : ", ") + word;
  return list;
}
}  // namespace

WordField::WordField(FieldTable& table, FieldText text, std::vector<std::string> words, std::size_t standard)
    : TextField(table, std::move(text), words.at(standard)), words_(std::move(words)) {}

std::string WordField::allowed() const {
  return listed(words_);
}

std::size_t WordField::numberOf(const std::string& word) const {
  const auto found = std::find(words_.begin(), words_.end(), word);
  if (found == words_.end())
    throw Error(say("the field \"%1\" cannot be \"%2\"", key(), word), "", say("Choose one of: %1", listed(words_)));
  return static_cast<std::size_t>(found - words_.begin());
}

void WordField::require(const std::string& value) const {
  numberOf(value);
}

When WordField::whenNumber(const std::vector<std::size_t>& numbers) const {
  std::vector<std::string> wanted;
  std::string text;
  for (const std::size_t number : numbers) {
    wanted.push_back(words_.at(number));
    text += (text.empty() ? "" : " or ") + wanted.back();
  }
  return {this,
          [wanted](const FieldValue& value) {
            return std::find(wanted.begin(), wanted.end(), value.as<std::string>()) != wanted.end();
          },
          label() + " is " + text};
}

}  // namespace kervo
