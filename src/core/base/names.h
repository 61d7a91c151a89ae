// Names in the texts of expressions: words of letters, and heights of levels, which are several words: "Lamp
// room.height". For expression.cpp only.
#pragma once

#include <functional>
#include <string>

namespace kervo {

/// All bytes that a word may hold: letters of any language, digits and _.
std::string nameCharacters();
/// What stands for blanks and points in heights of levels while they are read.
std::string marksInNames();
/// Calls `take` with every word and with all that stands between words, in turn.
void forEachWord(const std::string& text, const std::function<void(std::string)>& take);
/// The text with marks in its heights of levels, so that each is one word of the same length.
std::string withHeightsAsWords(const std::string& text);
/// A name as it was typed.
std::string withoutMarks(std::string name);

}  // namespace kervo
