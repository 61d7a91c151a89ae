// How far apart two parts of bodies are, and how they stand to each other.
#pragma once

#include <optional>
#include <variant>

#include "base/progress.h"
#include "geom/topology.h"

namespace kervo {

/// What is measured from or to: a point, a part of a body, or a whole body.
using MeasuredPart = std::variant<Point, Edge, Face, Shape>;

struct Between {
  double distance = 0;  ///< the least one, in mm; 0 where they touch or lie in one another
  Point from, to;       ///< where it is, on the first and on the second
  /// Between directions, in radians: of straight edges and axes 0 … π/2, of a line and a plane likewise; of two planar
  /// faces the angle of the material between them, 0 … π.
  std::optional<double> angle = {};
  std::optional<double> planes = {};  ///< between parallel planes, however far apart the faces lie along them; mm
  std::optional<double> axes = {};    ///< between the axes of round faces and edges; mm
  /// Of what two solids have in common, mm³; nothing unless both are solids that touch.
  std::optional<double> overlap = {};
};

/// Throws Error if the kernel does not find it; Stopped on request.
Between measuredBetween(const MeasuredPart& a, const MeasuredPart& b, Progress& progress);

/// The radius of a cylinder or ball, or of a circular edge, in mm.
std::optional<double> radiusOf(const Face& face);
std::optional<double> radiusOf(const Edge& edge);

}  // namespace kervo
