// Pictures of datums and drawings, so that they are drawn and picked as bodies are.
#pragma once

#include "geom/datum.h"
#include "geom/display/outline.h"
#include "view/body_picture.h"

namespace kervo {

/// A plane as a rectangle that covers `around`, an axis as a line past it, a point as a cross. From any thread.
std::shared_ptr<const BodyPicture> pictureOf(const Datum& datum, const Box& around);
/// A drawing by its lines.
std::shared_ptr<const BodyPicture> pictureOf(const std::vector<Polyline>& lines);

}  // namespace kervo
