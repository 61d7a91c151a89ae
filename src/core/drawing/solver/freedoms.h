// How the unknowns may still move where the equations hold, and which equations say nothing new.
#pragma once

#include <vector>

#include "drawing/solver/equations.h"

namespace kervo {

struct Freedoms {
  std::size_t rank = 0;
  /// One for each way left to move: the change of each of the part's unknowns, of unit length together.
  std::vector<std::vector<double>> movements;
};

/// Of a part at a place where its equations hold.
Freedoms freedomsOf(const Equations& equations, const Equations::Part& part);

/// The rows of the part, in order, that follow from the rows before them.
std::vector<bool> dependentRows(const Equations& equations, const Equations::Part& part);

}  // namespace kervo
