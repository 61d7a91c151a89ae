// The seams of a surface of revolution, put where nothing is cut.
#pragma once

#include "geom/shape.h"

namespace kervo {

/// A surface all of whose faces go all round one axis, each between circles about it or poles, with its seams in the
/// middle of the widest gap that curves on it leave; the same Shape for other surfaces, and where the curves leave no
/// gap.
Shape withSeamAside(const Shape& surface, const Shape& curvesOnIt);
/// A part of a surface, of its faces those that only a seam of the surface divides made one; the same Shape where that
/// cannot be done, or there is none.
Shape withoutSeamsOf(const Shape& surface, const Shape& part);
/// Whether it is such a surface, that goes all round.
bool hasSeamToTurn(const Shape& surface);

}  // namespace kervo
