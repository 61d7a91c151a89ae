// Solids put beside each other.
#pragma once

#include "geom/shape.h"

namespace kervo {

/// The solids of both as one shape, with what is known of their faces. Either may be empty.
Shape sideBySide(const Shape& a, const Shape& b);

}  // namespace kervo
