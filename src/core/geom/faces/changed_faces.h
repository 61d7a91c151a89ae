// Faces of a body moved, turned or made larger, their neighbours following: the same faces meet at the same edges and
// corners, which are found again where the new surfaces meet.
#pragma once

#include <map>
#include <optional>
#include <set>
#include <string>
#include <vector>

#include "base/progress.h"
#include "geom/motion.h"
#include "geom/topology.h"

namespace kervo {

/// What becomes of one face's surface.
struct FaceChange {
  Motion motion = {};  ///< of the whole surface; must keep sizes
  /// After that, outwards by so many mm: flat faces along their normal, round ones by their radius.
  double outwards = 0;
  /// Instead of both: the surface of this face, of any body.
  std::optional<Face> onto = {};

  /// It keeps its sizes, and its edges what they are on it.
  bool isMotion() const { return outwards == 0 && !onto; }
};

/// The body with faces, by their numbers in facesOf(body), changed. Neighbours stay on their surfaces and grow or
/// shrink to the new edges; rounds that meet a changed face smoothly go with it and keep their radius. Names and
/// colours stay. Throws Error, with the place, if an edge would vanish or turn round, surfaces do not meet any more, a
/// face of free form would have to grow, or the body would cut itself; Stopped on request.
Shape withFacesChanged(const Shape& body, const std::map<int, FaceChange>& changes, Progress& progress);

/// The faces that go with others because they are rounds between them and their neighbours: those that meet one of them
/// smoothly and are no planes.
std::set<int> roundsBeside(const Shape& body, const std::set<int>& faces);

}  // namespace kervo
