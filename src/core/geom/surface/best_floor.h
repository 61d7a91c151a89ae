// The face on which a piece is best laid down.
#pragma once

#include "geom/shape.h"

namespace kervo {

/// The plane, with its normal out of the piece, of the flat face that it stands on best: with a large area, and little
/// of the rest hanging over. The lowest one, or a level plane under it, if it has no flat face that it could stand on.
Plane bestFloor(const Shape& piece);

}  // namespace kervo
