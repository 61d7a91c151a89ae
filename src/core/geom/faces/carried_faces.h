// What is known of faces, carried along through an operation of the kernel. For src/core/geom only.
#pragma once

#include <BRepTools_History.hxx>

#include "geom/kernel/shape_body.h"

namespace kervo {

/// The shape that a history leads to. Faces that several became have what all of them had in their names.
Shape carriedAlong(const TopoDS_Shape& topology, const FaceTable& table, const BRepTools_History& history);

}  // namespace kervo
