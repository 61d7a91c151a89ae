// The wall of a hole, or of the end of a slot: a part of a cylinder between two rims that run side by side. Such faces
// come in hundreds, and the kernel takes a millisecond for each.
#pragma once

#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <optional>
#include <utility>
#include <vector>

#include "geom/display/bordered_mesh.h"

namespace kervo {

/// The two rims of a face that is a cylinder's and has two straight borders besides.
std::optional<std::pair<TopoDS_Edge, TopoDS_Edge>> rimsOfStrip(const TopoDS_Face& face);

/// A rim and the points along its curve.
struct Rim {
  TopoDS_Edge edge;
  std::vector<gp_Pnt> points;
};

/// Triangles between two rims, with normals, in the face's own place. Null if the points do not lie in pairs along the
/// cylinder, as they do not where one rim is slanted.
Handle(BorderedMesh) stripBetween(const TopoDS_Face& face, const Rim& rim, const Rim& other);

}  // namespace kervo
