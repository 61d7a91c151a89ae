// The gauge handle: two jaws and a bead on a line in space, dragged along it.
#pragma once

#include <QPointF>
#include <QPolygonF>
#include <optional>

#include "model/step_result.h"
#include "view/camera.h"

namespace kervo {

/// A gauge as it stands on screen, in pixels.
struct GaugeShape {
  QPointF first;   ///< jaw at the beginning
  QPointF second;  ///< jaw at the end
  QPointF bead;    ///< where it is taken
  QPointF along;   ///< unit direction on screen
};

GaugeShape shapeOf(const Gauge& gauge, const Camera& camera);

/// True if a pixel is on the bead or the jaw at the end, within `reach` pixels.
bool takes(const GaugeShape& shape, QPointF pixel, double reach);

/// An angle's arc as it stands on screen; empty for a length.
QPolygonF arcOf(const Gauge& gauge, const Camera& camera);

/// The value (mm, radians) when the end jaw is dragged to a pixel: the place on the gauge's line nearest to the line of
/// sight. Nothing while one looks straight along the gauge.
std::optional<double> dragged(const Gauge& gauge, QPointF pixel, const Camera& camera);

/// An angle on a whole number of degrees, on fives of them if it is near one.
double snappedAngle(double radians);

/// The round step (1, 2 or 5 times a power of ten) that is some 4 pixels long at this zoom, mm.
double roundStep(const Camera& camera);

/// The value on that step.
double snapped(double value, const Camera& camera);

}  // namespace kervo
