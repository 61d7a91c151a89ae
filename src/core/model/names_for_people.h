// What people call bodies and faces. Steps know them by ids, and put these in quotes wherever they write a text.
//
// People see the names in messages, in wells, in the names of pieces and on the command line.
#pragma once

#include <string>

#include "model/model.h"

namespace kervo {

enum class Quotes { Keep, Drop };

/// A text with the names of bodies and faces in place of their ids, which stand in quotes: "import1.7" as "Lid".
/// What is in quotes but no known id stays as it is.
std::string withNames(const std::string& text, const Model& model, Quotes quotes = Quotes::Keep);
std::vector<std::string> withNames(const std::vector<std::string>& texts, const Model& model);

/// A face's name for people: "import1.7:face3" as "face3 of Lid".
std::string faceName(const std::string& origin, const Model& model);
/// As above, but of the body that the reference looks in: its piece may have another name than it had as a whole.
std::string faceName(const FaceReference& face, const Model& model);
std::string edgeName(const EdgeReference& edge, const Model& model);

}  // namespace kervo
