// A quick proof that flat and cylindrical faces of ordinary outlines are valid. For src/core/geom only.
#pragma once

#include <TopoDS_Face.hxx>

namespace kervo {

/// True only if a face with one outline is proven valid: a flat one of straight edges and arcs, or a part of a cylinder
/// between lines along it and arcs about it. Every edge lies on the surface and ends in its corners, the edges follow
/// each other once round, none meets another one elsewhere, and the outline runs round the face. False means that it
/// was not proven, not that the face is wrong: the kernel's analyzer decides then, which takes some 2 ms for a face of
/// four edges and 40 ms for one of 500, since it compares all edges with each other.
bool outlineIsProven(const TopoDS_Face& face);

}  // namespace kervo
