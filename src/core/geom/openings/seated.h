// What filled an opening, put into another place: its ends are made to lie on the walls that are there.
#pragma once

#include <vector>

#include "base/progress.h"
#include "geom/openings/openings.h"

namespace kervo {

/// The numbers, in facesOf(filling), of the faces that close an opening of `body`: those on its walls.
std::vector<int> endsOf(const Shape& filling, const Shape& body, const Opening& opening);

/// A solid whose ends, by their numbers, lie on faces of a body: the foremost along `out` (of unit length) on the face
/// that is met nearest to it there, the other one behind that, where the body ends. Sides grow or shrink with them.
/// Throws Error if no face is met, the sides do not reach it, or there are more than two ends; Stopped on request.
Shape seated(const Shape& solid, const std::vector<int>& ends, const Shape& body, Vector out, Progress& progress);

/// A place on a face, its normal out of the body and y up as far as that goes: from the middle of the face along it and
/// up, in mm; on a round one around it. The middle of one that goes all round is in front, or on top of one that lies.
/// Throws Error if a face of free form does not reach as far.
Plane placeOn(const Face& wall, double along, double up);

}  // namespace kervo
