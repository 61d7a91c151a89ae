#include "geom/surface/surface_refinement.h"

#include <Eigen/Dense>
#include <GeomAdaptor_Surface.hxx>
#include <Geom_ConicalSurface.hxx>
#include <Geom_CylindricalSurface.hxx>
#include <Geom_SphericalSurface.hxx>
#include <Geom_ToroidalSurface.hxx>
#include <cmath>
#include <numbers>

#include "geom/kernel/convert.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

using Eigen::MatrixXd;
using Eigen::VectorXd;

/// A surface of revolution as numbers near to 0: how its centre and its axis move, and its sizes. Lengths are in units
/// of the points' extent.
class Model {
 public:
  Model(const std::vector<Point>& points, const Handle(Geom_ElementarySurface) & guess) {
    Box box;
    for (const Point& point : points) box.add(point);
    scale_ = box.diagonal();
    const GeomAdaptor_Surface surface(guess);
    type_ = surface.GetType();
    const gp_Ax3& axes = guess->Position();
    // Beside the points, so that turning the axis does not move it away from them.
    Point centre = fromPnt(type_ == GeomAbs_Cone ? surface.Cone().Apex() : axes.Location());
    if (type_ == GeomAbs_Cylinder) {
      const Vector along = fromDir(axes.Direction());
      centre = centre + along * dot(box.centre() - centre, along);
    }
    frame_ = Plane::through(centre, fromDir(axes.Direction()));
    switch (type_) {
      case GeomAbs_Cylinder:
        sizes_ = {surface.Cylinder().Radius() / scale_};
        break;
      case GeomAbs_Cone:
        sizes_ = {surface.Cone().SemiAngle()};
        break;
      case GeomAbs_Sphere:
        sizes_ = {surface.Sphere().Radius() / scale_};
        break;
      default:
        sizes_ = {surface.Torus().MajorRadius() / scale_, surface.Torus().MinorRadius() / scale_};
        break;
    }
    for (const Point& point : points) places_.push_back(frame_.coordinates(point) * (1 / scale_));
  }

  /// x, y, z of the centre, two turns of the axis, sizes.
  Eigen::Index count() const { return 5 + static_cast<Eigen::Index>(sizes_.size()); }
  double scale() const { return scale_; }
  Eigen::Index rows() const { return static_cast<Eigen::Index>(places_.size()); }

  VectorXd off(const VectorXd& x) const {
    VectorXd result(rows());
    const Vector centre{x(0), x(1), x(2)}, along = normalized(Vector{x(3), x(4), 1});
    const double cosine = std::cos(size(x, 0)), sine = std::sin(size(x, 0));
    for (Eigen::Index i = 0; i < rows(); ++i) {
      const Vector at = places_[static_cast<std::size_t>(i)] - centre;
      const double height = dot(at, along), aside = length(at - along * height);
      switch (type_) {
        case GeomAbs_Cylinder:
          result(i) = aside - size(x, 0);
          break;
        case GeomAbs_Cone:
          result(i) = aside * cosine - std::abs(height) * sine;
          break;
        case GeomAbs_Sphere:
          result(i) = length(at) - size(x, 0);
          break;
        default:
          result(i) = std::hypot(aside - size(x, 0), height) - size(x, 1);
          break;
      }
    }
    return result;
  }

  Handle(Geom_ElementarySurface) surface(const VectorXd& x) const {
    const Point centre = frame_.at(x(0) * scale_, x(1) * scale_, x(2) * scale_);
    const Vector along = normalized(frame_.x * x(3) + frame_.y * x(4) + frame_.normal);
    const gp_Ax3 axes(toPnt(centre), toDir(along), toDir(Plane::through(centre, along).x));
    const double first = size(x, 0) * (type_ == GeomAbs_Cone ? 1 : scale_);
    const bool fits = x.allFinite() && first > tolerance::smallestSize && first < tolerance::largestSize;
    if (!fits) return {};
    switch (type_) {
      case GeomAbs_Cylinder:
        return new Geom_CylindricalSurface(axes, first);
      case GeomAbs_Cone:
        return cone(centre, along, first);
      case GeomAbs_Sphere:
        return new Geom_SphericalSurface(axes, first);
      default: {
        const double tube = size(x, 1) * scale_;
        if (!(tube > tolerance::smallestSize) || !(first > tube)) return {};
        return new Geom_ToroidalSurface(axes, first, tube);
      }
    }
  }

 private:
  double size(const VectorXd& x, std::size_t i) const { return sizes_[i] + x(5 + static_cast<Eigen::Index>(i)); }

  /// With its reference circle among the points.
  Handle(Geom_ElementarySurface) cone(const Point& apex, Vector along, double angle) const {
    if (angle < tolerance::parallel || angle > std::numbers::pi / 2 - tolerance::parallel) return {};
    double mean = 0;
    for (const Vector& place : places_)
      mean += dot(frame_.at(place.x * scale_, place.y * scale_, place.z * scale_) - apex, along);
    mean /= static_cast<double>(places_.size());
    if (mean < 0) along = -along, mean = -mean;
    if (mean < tolerance::smallestSize) return {};
    const Point on = apex + along * mean;
    return new Geom_ConicalSurface(gp_Ax3(toPnt(on), toDir(along), toDir(Plane::through(on, along).x)), angle,
                                   mean * std::tan(angle));
  }

  GeomAbs_SurfaceType type_ = GeomAbs_Plane;
  Plane frame_;
  double scale_ = 1;
  std::vector<double> sizes_;
  std::vector<Vector> places_;
};

}  // namespace

Handle(Geom_ElementarySurface)
    nearerTo(const std::vector<Point>& points, const Handle(Geom_ElementarySurface) & guess, double tolerance) {
  if (GeomAdaptor_Surface(guess).GetType() == GeomAbs_Plane) return guess;
  const Model model(points, guess);
  VectorXd x = VectorXd::Zero(model.count());
  VectorXd off = model.off(x);
  double damping = 1e-3;
  constexpr int mostSteps = 60, stepsForHope = 6;
  const double hopeless = 10 * tolerance / model.scale() * std::sqrt(static_cast<double>(points.size()));
  for (int step = 0; step < mostSteps && damping < 1e6; ++step) {
    if (step == stepsForHope && off.norm() > hopeless) return {};
    MatrixXd change(model.rows(), model.count());
    for (Eigen::Index i = 0; i < model.count(); ++i) {
      VectorXd beside = x;
      beside(i) += tolerance::parameterStep;
      VectorXd before = x;
      before(i) -= tolerance::parameterStep;
      change.col(i) = (model.off(beside) - model.off(before)) / (2 * tolerance::parameterStep);
    }
    // What moves nothing, as a sphere's axis or a cylinder along its own, is held where it is by the damping.
    MatrixXd normal = change.transpose() * change;
    const double largest = normal.diagonal().maxCoeff();
    normal.diagonal() +=
        damping * normal.diagonal() +
        VectorXd::Constant(model.count(), tolerance::rounding * std::max(largest, tolerance::rounding));
    const VectorXd move = normal.ldlt().solve(-(change.transpose() * off));
    const VectorXd next = x + move, there = model.off(next);
    if (there.allFinite() && there.squaredNorm() <= off.squaredNorm()) {
      const bool settled = off.squaredNorm() - there.squaredNorm() <= tolerance::rounding * off.squaredNorm();
      x = next;
      off = there;
      if (settled) break;
      damping = std::max(damping / 10, tolerance::rounding);
      constexpr double still = 1e-13;
      if (move.norm() < still) break;
    } else {
      damping *= 10;
    }
  }
  return model.surface(x);
}

}  // namespace kervo
