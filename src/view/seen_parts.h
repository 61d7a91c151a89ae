// Parts of bodies that sections cut: where they are still seen. For src/view only.
#pragma once

#include <QPointF>
#include <QRectF>
#include <optional>

#include "view/camera.h"
#include "view/cut_faces.h"

namespace kervo {

/// The place of a face, edge or corner within reach of a pixel that is seen first; nothing if all of it is hidden
/// there.
std::optional<Point> seenPlace(const Pick& pick, const BodyMesh& mesh, const Hidden& hidden, QPointF pixel,
                               double tolerance, const Camera& camera);

/// What a rectangle holds of the part of a face that is seen.
struct FaceSeen {
  bool any = false;      ///< something of it is seen, wherever
  bool inside = false;   ///< and all of that lies in the rectangle
  bool touches = false;  ///< and some of it
};
FaceSeen seenIn(const BodyMesh& mesh, std::size_t face, const Hidden& hidden, QRectF pixels, const Camera& camera);
/// The same for an edge: whether some of it, or all that is seen of it, lies in the rectangle.
bool edgeSeenIn(const BodyMesh& mesh, std::size_t edge, const Hidden& hidden, QRectF pixels, bool touching,
                const Camera& camera);

}  // namespace kervo
