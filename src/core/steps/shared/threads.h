// Threads on round faces: as marks, or cut.
#pragma once

#include <string>
#include <vector>

#include "base/progress.h"
#include "geom/topology.h"
#include "steps/shared/metric_screws.h"

namespace kervo {

/// Profile by ISO 68-1; lengths in mm.
struct ThreadForm {
  std::string name;     ///< "M6", or "12 × 1"
  double diameter = 0;  ///< the larger one
  double pitch = 0;
  bool right = true;
};

/// A round face that gets a thread.
struct ThreadPlace {
  Plane at;           ///< origin on the axis, normal along it
  double radius = 0;  ///< of the face, mm
  bool inner = false;
  double from = 0, to = 0;              ///< where the thread is, from < to
  bool fromOpen = true, toOpen = true;  ///< nothing of the body stands in its way there
};

/// The whole of a face of a shape; nothing unless it is a cylinder.
std::optional<ThreadPlace> threadPlaceOf(const Shape& shape, const Face& face);

/// The screw of which the face would be the thread's outside (or core, of a hole); null if none is near.
const MetricScrew* screwFor(const ThreadPlace& place);

/// A curve body: a helix on the face, and at each end the circle of the thread's other diameter.
Shape threadMark(const ThreadForm& form, const ThreadPlace& place);

/// What is taken away; through open ends, and a turn short of others. Throws Error for a face shorter than that.
Shape threadCutter(const ThreadForm& form, const ThreadPlace& place, const std::string& name, Progress& progress);

}  // namespace kervo
