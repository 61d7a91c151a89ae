// The borders of a face as loops of edges in space. For src/core/geom only.
#pragma once

#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <optional>
#include <vector>

namespace kervo {

using EdgeLoop = std::vector<TopoDS_Edge>;

/// The edges that bound the face in space, as loops: without poles, and seams, which it uses in both directions.
/// Nothing if they do not follow each other clearly.
std::optional<std::vector<EdgeLoop>> loopsInSpace(const TopoDS_Face& forward);

}  // namespace kervo
