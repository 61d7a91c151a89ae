// What a thread takes away: a section carried along a helix.
#pragma once

#include <string>
#include <vector>

#include "base/progress.h"
#include "geom/shape.h"
#include "geom/space.h"

namespace kervo {

struct HelixForm {
  Plane at;                 ///< origin on the axis, normal along it
  double pitch = 0;         ///< mm for each turn
  bool right = true;        ///< turns as a screw of common thread
  double from = 0, to = 0;  ///< heights of the section's origin at both ends, mm; from < to
};

/// The solid over a convex section, whose corners are given by their distance from the axis (u) and their height (v),
/// counter-clockwise, all off the axis. Its faces are as exact as a helix through 64 points a turn: 3e-7 of the radius.
/// Faces are named `name`:flank1 … (one for each side of the section) and `name`:end. Throws Error where the section is
/// higher than the pitch, so that the solid would run into itself. Stopped on request.
Shape helicalGroove(const HelixForm& form, const std::vector<PlanePoint>& section, const std::string& name,
                    Progress& progress);

}  // namespace kervo
