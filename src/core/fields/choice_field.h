// One of several words.
#pragma once

#include "fields/text_field.h"

namespace kervo {

class WordField : public TextField {
 public:
  WordField(FieldTable& table, FieldText text, std::vector<std::string> words, std::size_t standard);

  const std::vector<std::string>& words() const { return words_; }
  const char* typeName() const override { return "choice"; }
  std::string allowed() const override;

 protected:
  void require(const std::string& value) const override;
  /// The number of a word, from 0. Throws Error if it is none of them.
  std::size_t numberOf(const std::string& word) const;
  When whenNumber(const std::vector<std::size_t>& numbers) const;

 private:
  std::vector<std::string> words_;
};

/// The words stand for the values of an enumeration, in their order from 0.
template <class Choice>
class ChoiceField : public WordField {
 public:
  ChoiceField(FieldTable& table, FieldText text, std::vector<std::string> words, Choice standard = Choice{})
      : WordField(table, std::move(text), std::move(words), static_cast<std::size_t>(standard)) {}

  Choice of(const Inputs& inputs) const { return static_cast<Choice>(numberOf(in(inputs))); }
  /// While one of these is chosen.
  template <class... Choices>
  When is(Choices... choices) const {
    return whenNumber({static_cast<std::size_t>(choices)...});
  }
  FieldValue with(Choice choice) const { return words()[static_cast<std::size_t>(choice)]; }
};

}  // namespace kervo
