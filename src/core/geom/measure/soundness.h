// Whether a body can be trusted: its faces valid, its edges joined.
#pragma once

#include <string>
#include <vector>

#include "base/progress.h"
#include "geom/shape.h"

class TopoDS_Shape;

namespace kervo {

struct ShapeBody;

/// Middles of edges that faces do not use equally often in both directions: free edges, and edges where the faces'
/// sides disagree. None means watertight.
std::vector<Point> openEdges(const TopoDS_Shape& topology);

/// Nothing if the body is sound, otherwise what is wrong with it. Looks only at faces that were not checked before, so
/// that flaws a body came with do not count; a solid must also be closed and enclose a positive volume.
std::string findFault(const ShapeBody& body, Progress& progress);

/// The shape with every face marked as sound or flawed, so that later operations do not check it again.
Shape examined(const Shape& shape, Progress& progress);

/// A place where a body cannot be trusted.
struct Flaw {
  std::string what;  ///< e.g. the face "lid:face7" is not valid
  Point place;
  std::string text() const;  ///< with the place
};

/// Faces that are not valid, edges that join no two faces, and the wrong side out. Throws Stopped on request.
std::vector<Flaw> flawsOf(const Shape& shape, Progress& progress);

/// Where two faces of the body cross without a common edge; nothing if none do. Takes as long as dividing the body
/// does.
std::optional<Flaw> selfCrossingOf(const Shape& shape, Progress& progress);

}  // namespace kervo
