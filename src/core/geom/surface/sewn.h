// Surfaces sewn together where their borders meet, made solids of, taken apart and turned over.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/progress.h"
#include "geom/shape.h"
#include "geom/space_curve.h"

namespace kervo {

/// An edge that joins no two faces.
struct OpenEdge {
  Polyline line;   ///< to be shown
  double gap = 0;  ///< from its middle to the next such edge that it does not touch, mm; less than 0 if there is none
};

/// All of a surface or solid, the widest gap first.
std::vector<OpenEdge> openEdgesOf(const Shape& shape);

struct Sewn {
  Shape shape;
  double widestClosed = 0;  ///< of the gaps that were closed, mm: how exact its edges are
};

/// Surfaces as one where their borders are nearer than `tolerance` (mm), their faces turned to one side. Faces keep
/// their names and colours. Several surfaces come back if they do not all meet. Throws Error where the kernel fails.
Sewn sewn(const std::vector<Shape>& surfaces, double tolerance, Progress& progress);

/// What of some surfaces closes, found face by face: faces with an edge that no other face meets are left out, and then
/// those that they leave open, until none is.
struct ClosingPart {
  Shape surface;
  /// What is left of each surface; empty where all of it closes, nothing where none of it does.
  std::vector<std::optional<Shape>> left;
};
/// Throws Error if nothing closes, and if more than two of the faces that are left meet at one edge.
ClosingPart closingPartOf(const std::vector<Shape>& surfaces, double tolerance, Progress& progress);

/// The surface with a flat face, named `name`:cap, across each open loop that lies in a plane. The same Shape if no
/// loop does.
Shape capped(const Shape& surface, const std::string& name, Progress& progress);

/// The solid that a closed surface bounds, or several. Throws Error, with how many edges are open, if it does not
/// close, and if what it bounds is not sound.
Shape solidWithin(const Shape& surface, Progress& progress);

/// The surface with its front where its back was.
Shape flipped(const Shape& surface);

/// Each face as a surface of its own, in stored order.
std::vector<Shape> unsewn(const Shape& shape);

}  // namespace kervo
