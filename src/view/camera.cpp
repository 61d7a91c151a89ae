#include "view/camera.h"

#include <Bnd_Box.hxx>
#include <cmath>
#include <numbers>

#include "view/kernel_camera.h"

namespace kervo {

namespace {

constexpr double fieldOfViewDegrees = 30;
constexpr double emptySceneSize = 200;
constexpr double margin = 1.18;
constexpr double smallestScale = 1e-3, largestScale = 1e8;
constexpr double orbitRadiansPerPixel = 0.008;

gp_Pnt pnt(Point p) {
  return {p.x, p.y, p.z};
}
Vector vector(const gp_XYZ& v) {
  return {v.X(), v.Y(), v.Z()};
}

Vector turned(Vector v, Vector axis, double angle) {
  return v * std::cos(angle) + cross(axis, v) * std::sin(angle) + axis * (dot(axis, v) * (1 - std::cos(angle)));
}

Box shown(const Box& box) {
  if (!box.empty()) return box;
  const double half = emptySceneSize / 2;
  return {{-half, -half, -half}, {half, half, half}};
}

}  // namespace

Camera::Camera() : kernel_(std::make_shared<KernelCamera>()) {
  kernel_->camera->SetProjectionType(Graphic3d_Camera::Projection_Orthographic);
  kernel_->camera->SetFOVy(fieldOfViewDegrees);
  kernel_->camera->SetZeroToOneDepth(false);
  look(StandardView::Home, {});
}

Camera Camera::kept() const {
  Camera result;
  result.kernel_->camera->Copy(kernel_->camera);
  result.viewport_ = viewport_;
  result.projection_ = projection_;
  result.scene_ = scene_;
  return result;
}

void Camera::setViewport(QSize pixels) {
  viewport_ = pixels.expandedTo({1, 1});
  kernel_->camera->SetAspect(double(viewport_.width()) / viewport_.height());
}

void Camera::setProjection(Projection projection) {
  const double scale = kernel_->camera->Scale();
  projection_ = projection;
  kernel_->camera->SetProjectionType(projection == Projection::Parallel ? Graphic3d_Camera::Projection_Orthographic
                                                                        : Graphic3d_Camera::Projection_Perspective);
  kernel_->camera->SetScale(scale);
  updateDepth();
}

void Camera::turn(Vector towardsEye, Vector up) {
  const gp_Pnt centre = kernel_->camera->Center();
  const double distance = std::max(kernel_->camera->Distance(), 1.0);
  const Vector eye = vector(centre.XYZ()) + normalized(towardsEye) * distance;
  kernel_->camera->SetEyeAndCenter(pnt(eye), centre);
  kernel_->camera->SetUp(gp_Dir(up.x, up.y, up.z));
  kernel_->camera->OrthogonalizeUp();
}

ViewCamera Camera::lookedFrom() const {
  return {vector(kernel_->camera->Center().XYZ()), towardsEye(), up(), kernel_->camera->Scale(),
          projection_ == Projection::Perspective};
}

void Camera::lookFrom(const ViewCamera& view) {
  setProjection(view.perspective ? Projection::Perspective : Projection::Parallel);
  const double distance = std::max(kernel_->camera->Distance(), 1.0);
  kernel_->camera->SetEyeAndCenter(pnt(view.centre + normalized(view.towardsEye) * distance), pnt(view.centre));
  kernel_->camera->SetUp(gp_Dir(view.up.x, view.up.y, view.up.z));
  kernel_->camera->OrthogonalizeUp();
  kernel_->camera->SetScale(std::clamp(view.height, smallestScale, largestScale));
  updateDepth();
}

void Camera::look(StandardView view, const Box& box) {
  switch (view) {
    case StandardView::Home:
      turn({-0.62, -1, 0.72}, {0, 0, 1});
      break;
    case StandardView::Top:
      turn({0, 0, 1}, {0, 1, 0});
      break;
    case StandardView::Front:
      turn({0, -1, 0}, {0, 0, 1});
      break;
    case StandardView::Side:
      turn({1, 0, 0}, {0, 0, 1});
      break;
  }
  fit(box);
}

void Camera::lookAt(const Plane& plane, const Box& box) {
  turn(plane.normal, plane.y);
  fit(box);
}

void Camera::flip(const Box& box) {
  const Point middle = shown(box).centre();
  const Vector axis = std::abs(towardsEye().z) > 0.99 ? normalized(up()) : Vector{0, 0, 1};
  const auto about = [&](Point p) { return middle + turned(p - middle, axis, std::numbers::pi); };
  const Vector newUp = turned(up(), axis, std::numbers::pi);
  kernel_->camera->SetEyeAndCenter(pnt(about(vector(kernel_->camera->Eye().XYZ()))),
                                   pnt(about(vector(kernel_->camera->Center().XYZ()))));
  kernel_->camera->SetUp(gp_Dir(newUp.x, newUp.y, newUp.z));
  kernel_->camera->OrthogonalizeUp();
  updateDepth();
}

void Camera::fit(const Box& wanted) {
  const Box box = shown(wanted);
  scene_.add(box);
  double width = 0, height = 0;
  for (int i = 0; i < 8; ++i) {
    const Vector fromMiddle = box.corner(i) - box.centre();
    width = std::max(width, 2 * std::abs(dot(fromMiddle, right())));
    height = std::max(height, 2 * std::abs(dot(fromMiddle, up())));
  }
  const double aspect = double(viewport_.width()) / viewport_.height();
  // A view of a flat thing from its side still has some height.
  const double scale = std::max({height, width / std::min(aspect, 1e3), box.diagonal() * 0.05, smallestScale}) * margin;
  const Vector back = towardsEye();
  const double distance = std::max(3 * box.diagonal(), 1.0);
  kernel_->camera->SetEyeAndCenter(pnt(box.centre() + back * distance), pnt(box.centre()));
  kernel_->camera->SetScale(std::clamp(scale, smallestScale, largestScale));
  updateDepth();
}

void Camera::orbit(Point about, double dx, double dy) {
  const double yaw = -dx * orbitRadiansPerPixel;
  double pitch = -dy * orbitRadiansPerPixel;
  // Not past straight from above or below: z stays upright.
  const double now = std::asin(std::clamp(towardsEye().z, -1.0, 1.0));
  const double limit = std::numbers::pi / 2;
  pitch = -(std::clamp(now - pitch, -limit, limit) - now);
  const Vector sideways = right();
  const auto rotated = [&](Vector v) { return turned(turned(v, sideways, pitch), {0, 0, 1}, yaw); };
  const Vector newUp = rotated(up());
  kernel_->camera->SetEyeAndCenter(pnt(about + rotated(vector(kernel_->camera->Eye().XYZ()) - about)),
                                   pnt(about + rotated(vector(kernel_->camera->Center().XYZ()) - about)));
  kernel_->camera->SetUp(gp_Dir(newUp.x, newUp.y, newUp.z));
  kernel_->camera->OrthogonalizeUp();
  updateDepth();
}

void Camera::pan(double dx, double dy) {
  const Vector move = right() * (-dx * pixelSize()) + up() * (dy * pixelSize());
  kernel_->camera->SetEyeAndCenter(pnt(vector(kernel_->camera->Eye().XYZ()) + move),
                                   pnt(vector(kernel_->camera->Center().XYZ()) + move));
  updateDepth();
}

void Camera::zoomAt(QPointF pixel, double factor) {
  const Point before = under(pixel);
  kernel_->camera->SetScale(std::clamp(kernel_->camera->Scale() / factor, smallestScale, largestScale));
  const Vector move = before - under(pixel);
  kernel_->camera->SetEyeAndCenter(pnt(vector(kernel_->camera->Eye().XYZ()) + move),
                                   pnt(vector(kernel_->camera->Center().XYZ()) + move));
  updateDepth();
}

void Camera::setScene(const Box& box) {
  scene_ = shown(box);
  updateDepth();
}

void Camera::updateDepth() {
  const Box box = shown(scene_);
  const double radius = box.diagonal() / 2 * 1.3 + kernel_->camera->Scale() * 0.1;
  if (projection_ == Projection::Parallel) {
    // The eye's distance changes nothing but depth: keep it outside everything.
    const Vector back = towardsEye();
    const Point centre = vector(kernel_->camera->Center().XYZ());
    const double distance = std::max(length(box.centre() - centre) + 2 * radius, 1.0);
    kernel_->camera->SetEyeAndCenter(pnt(centre + back * distance), pnt(centre));
  }
  const double middle = dot(vector(kernel_->camera->Eye().XYZ()) - box.centre(), towardsEye());
  const double far = std::max(middle + radius, 1e-3);
  const double near =
      projection_ == Projection::Parallel ? std::max(middle - radius, 0.0) : std::max(middle - radius, far * 1e-3);
  kernel_->camera->SetZRange(near, std::max(far, near + 1e-3));
}

QPointF Camera::project(Point point) const {
  const gp_Pnt ndc = kernel_->camera->Project(pnt(point));
  return {(ndc.X() + 1) / 2 * viewport_.width(), (1 - ndc.Y()) / 2 * viewport_.height()};
}

Point Camera::under(QPointF pixel) const {
  const auto [from, direction] = sight(pixel);
  const Vector back = towardsEye();
  const Point centre = vector(kernel_->camera->Center().XYZ());
  return from + direction * (dot(centre - from, back) / dot(direction, back));
}

std::pair<Point, Vector> Camera::sight(QPointF pixel) const {
  const double x = 2 * pixel.x() / viewport_.width() - 1, y = 1 - 2 * pixel.y() / viewport_.height();
  const double scale = kernel_->camera->Scale() / 2, aspect = kernel_->camera->Aspect();
  const Point centre = vector(kernel_->camera->Center().XYZ());
  const Point onPlane = centre + right() * (x * scale * aspect) + up() * (y * scale);
  if (projection_ == Projection::Parallel) return {onPlane, -towardsEye()};
  const Point eye = vector(kernel_->camera->Eye().XYZ());
  return {eye, normalized(onPlane - eye)};
}

Point Camera::eye() const {
  return vector(kernel_->camera->Eye().XYZ());
}

Vector Camera::towardsEye() const {
  return -vector(kernel_->camera->Direction().XYZ());
}

Vector Camera::up() const {
  return vector(kernel_->camera->Up().XYZ());
}

Vector Camera::right() const {
  return cross(up(), towardsEye());
}

double Camera::pixelSize() const {
  return kernel_->camera->Scale() / viewport_.height();
}

QMatrix4x4 Camera::matrix() const {
  // The kernel's matrices are stored by columns.
  return QMatrix4x4(kernel_->camera->ProjectionMatrixF().GetData()).transposed() *
         QMatrix4x4(kernel_->camera->OrientationMatrixF().GetData()).transposed();
}

}  // namespace kervo
