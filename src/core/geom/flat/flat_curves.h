// Curves of bodies as they lie on a plane: seen along its normal, cut by it, or as the shadow that a body throws on it.
#pragma once

#include <optional>
#include <vector>

#include "base/progress.h"
#include "geom/space_curve.h"
#include "geom/topology.h"

namespace kervo {

/// An edge as it is seen along the plane's normal, on the plane; nothing where it is seen as a point. Lines, circles
/// and ellipses come as such, what else there is as a spline with the same control points. Throws Error for an edge
/// without a curve.
std::optional<SpaceCurve> flattened(const Edge& edge, const Plane& plane);

/// The edges around a face, each with the origin of the face on its other side. Those that are seen as one line come
/// once.
std::vector<NamedCurve> flatOutline(const Shape& shape, const Face& face, const Plane& plane);

/// The borders of a face as loops of curves that follow each other, each of which may run either way; the outermost
/// first. Throws Error if they cannot be followed.
std::vector<std::vector<SpaceCurve>> flatLoops(const Face& face, const Plane& plane);

/// Where the plane meets the faces of a body, each curve with the origin of its face. Where the plane lies on a face:
/// that face's outline. Throws Error if the kernel does not find it; Stopped on request.
std::vector<NamedCurve> flatSection(const Shape& shape, const Plane& plane, Progress& progress);

/// What bounds the shadow of a solid or surface on the plane, the light along its normal; holes through which one sees
/// are holes of it. Each curve with the origin of a face at its edge, or of the face that bends away there. Throws
/// Error for a shape that is seen as a line; Stopped on request.
std::vector<NamedCurve> flatSilhouette(const Shape& shape, const Plane& plane, Progress& progress);

/// The curves with ends that are nearer to each other than `gap` put into one place. Edges of bodies from other
/// programs end only near their corners.
std::vector<NamedCurve> withMetEnds(std::vector<NamedCurve> curves, double gap);

/// The same curve, from either end.
bool sameFlatCurve(const SpaceCurve& a, const SpaceCurve& b);

}  // namespace kervo
