// Names that tell the pieces of a divided body apart, taken from their faces rather than from their order.
#pragma once

#include <string>
#include <vector>

#include "base/ids.h"
#include "geom/shape.h"

namespace kervo {

struct PieceNames {
  std::vector<std::string> names;   ///< one a piece, all different
  std::vector<std::string> spoken;  ///< the same for people, with names of other bodies' faces in quotes (withNames())
  bool byPosition = false;  ///< some pieces have no face of their own; they are numbered by place (x, then y, then z)
};

/// For each piece the first name (in alphabetical order) of a face that only this piece has, one of the body's own
/// faces if there is one; the body is left off the front of such a name.
PieceNames namePieces(const std::vector<Shape>& pieces, const BodyId& body);

}  // namespace kervo
