// Intersection curves that the kernel fitted badly, found again point by point. For src/core/geom only.
//
// Where two faces meet at a small angle, or a surface turns quickly, the kernel's curve runs up to some hundredths of a
// millimetre beside the true one, and the edge's tolerance says so. The true curve is easily found from there: at each
// of many places along it, the point where both surfaces meet the plane across the curve (Newton's method).
#pragma once

#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS_Shape.hxx>

namespace kervo {

/// Replaces, in place, the curves of edges of `shape` that are less exact than `allowedTolerance`, lie between faces of
/// just two surfaces, and are not `given`: by curves that are exact to a tenth of tolerance::looseEdge. An edge for
/// which that cannot be done (the surfaces touch along it) stays as it was.
void refineLooseCurves(const TopoDS_Shape& shape, const TopTools_IndexedMapOfShape& given, double allowedTolerance);

}  // namespace kervo
