#include "fields/pieces_field.h"

#include "fields/field_of.h"
#include "fields/json_parts.h"

namespace kervo {

template class FieldOf<PieceChoice>;

nlohmann::json PiecesField::print(const PieceChoice& value) const {
  nlohmann::json result = nlohmann::json::object();
  if (!value.keep.empty()) result["keep"] = value.keep;
  if (!value.drop.empty()) result["drop"] = value.drop;
  if (!value.known.empty()) result["known"] = value.known;
  return result;
}

PieceChoice PiecesField::parse(const nlohmann::json& json, const std::string& place) const {
  if (!json.is_object()) throw wrongJson(place, "an object with \"keep\" and \"drop\"");
  requireOnly(json, {"keep", "drop", "known"}, place);
  PieceChoice choice;
  for (auto [key, list] :
       {std::pair("keep", &choice.keep), std::pair("drop", &choice.drop), std::pair("known", &choice.known)})
    if (json.contains(key)) *list = bodyIdsFrom(json[key], place + "." + key);
  return choice;
}

void PiecesField::hash(Hasher& hasher, const PieceChoice& value) const {
  for (const std::vector<BodyId>* list : {&value.keep, &value.drop, &value.known}) {
    hasher.add(static_cast<std::uint64_t>(list->size()));
    for (const BodyId& piece : *list) hasher.add(piece);
  }
}

const PiecesField* piecesFieldOf(const FieldTable& table) {
  for (const Field* field : table.fields())
    if (const auto* pieces = dynamic_cast<const PiecesField*>(field)) return pieces;
  return nullptr;
}

}  // namespace kervo
