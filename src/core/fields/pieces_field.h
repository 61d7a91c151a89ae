// Which pieces of a cut stay and which go.
#pragma once

#include "fields/field.h"

namespace kervo {

/// Which pieces stay and which go, where that differs from what the step does by itself. By name, never by order.
struct PieceChoice {
  std::vector<BodyId> keep, drop;
  /// All the pieces that there were when this was chosen, so that one that appears later is announced.
  std::vector<BodyId> known;
  bool operator==(const PieceChoice&) const = default;
};

extern template class FieldOf<PieceChoice>;

class PiecesField : public FieldOf<PieceChoice> {
 public:
  explicit PiecesField(FieldTable& table)
      : FieldOf(table, {.key = "pieces", .label = "Chosen pieces", .well = Well::Pieces}) {}
  const char* typeName() const override { return "pieces"; }

 protected:
  nlohmann::json print(const PieceChoice& value) const override;
  PieceChoice parse(const nlohmann::json& json, const std::string& place) const override;
  void hash(Hasher& hasher, const PieceChoice& value) const override;
};

/// The field in which the pieces of a step are chosen; null if they cannot be.
const PiecesField* piecesFieldOf(const FieldTable& table);

}  // namespace kervo
