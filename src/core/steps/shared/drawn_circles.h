// The circles of a drawing whose middles are places: of drilled holes, of drains.
#pragma once

#include <string>
#include <vector>

#include "fields/regions_field.h"

namespace kervo {

struct DrawnCircle {
  std::string curve;
  Point middle;
  double radius = 0;  ///< mm
};

/// The widest circle around each region that was picked; of circles within each other one. Throws an Error at the field
/// for a region that no circle bounds.
std::vector<DrawnCircle> drawnCircles(const RegionsField& field, Inputs& inputs);

}  // namespace kervo
