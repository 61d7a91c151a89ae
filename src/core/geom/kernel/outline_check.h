// A quick proof that flat faces with long outlines are valid. For src/core/geom only.
#pragma once

#include <TopoDS_Face.hxx>

namespace kervo {

/// True only if a flat face with one outline of straight edges and arcs is proven valid: every edge lies on the plane
/// and ends in its corners, the edges follow each other once round, none meets another one elsewhere, and the outline
/// runs round the face. False means that it was not proven, not that the face is wrong: the kernel's analyzer decides
/// then, which compares all edges with each other and takes 40 ms for 500 of them.
bool outlineIsProven(const TopoDS_Face& face);

}  // namespace kervo
