// Where one looks from: one camera for drawing and picking.
#pragma once

#include <QMatrix4x4>
#include <QPointF>
#include <QSize>
#include <memory>

#include "geom/space.h"
#include "model/saved_view.h"

namespace kervo {

struct KernelCamera;

enum class Projection { Parallel, Perspective };
enum class StandardView { Home, Top, Front, Side };

/// Pixels are the screen's own (not scaled), y down. Orbits keep z upright.
class Camera {
 public:
  Camera();

  /// One like it that goes its own way: copies look where this one looks.
  Camera kept() const;

  void setViewport(QSize pixels);
  QSize viewport() const { return viewport_; }
  void setProjection(Projection projection);
  Projection projection() const { return projection_; }

  /// Where one looks from, to be kept.
  ViewCamera lookedFrom() const;
  void lookFrom(const ViewCamera& view);
  /// Turns to a standard view and fits the box.
  void look(StandardView view, const Box& box);
  /// Straight at a plane from the side of its normal, its y axis upwards, and fits the box.
  void lookAt(const Plane& plane, const Box& box);
  /// To the opposite side, the box's middle staying where it is.
  void flip(const Box& box);
  /// Shows the whole box with a small margin. An empty box shows 200 mm around the origin.
  void fit(const Box& box);
  /// Turns about a point as the pointer moves by these pixels.
  void orbit(Point about, double dx, double dy);
  /// Moves so that what was `depthPoint` under the pointer follows it.
  void pan(double dx, double dy);
  /// `factor` > 1 comes nearer; what is under the pixel stays there.
  void zoomAt(QPointF pixel, double factor);
  /// To be called when what is shown has changed: nothing of it is clipped then.
  void setScene(const Box& box);

  QPointF project(Point point) const;
  /// A point under the pixel on the plane through the middle of the view.
  Point under(QPointF pixel) const;
  /// The line of sight through a pixel: a point on it and its unit direction away from the eye.
  std::pair<Point, Vector> sight(QPointF pixel) const;
  Vector towardsEye() const;
  Point eye() const;
  Vector up() const;
  Vector right() const;
  /// mm per pixel at the middle of the view.
  double pixelSize() const;
  QMatrix4x4 matrix() const;
  /// As the kernel knows it; see kernel_camera.h.
  const KernelCamera& kernel() const { return *kernel_; }

 private:
  void turn(Vector towardsEye, Vector up);
  void updateDepth();

  std::shared_ptr<KernelCamera> kernel_;
  QSize viewport_{1, 1};
  Projection projection_ = Projection::Parallel;
  Box scene_;
};

}  // namespace kervo
