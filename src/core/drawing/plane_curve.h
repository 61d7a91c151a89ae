// Curves in a plane, behind one interface.
#pragma once

#include <concepts>
#include <memory>
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "geom/planes.h"
#include "geom/space_curve.h"
#include "geom/spline.h"

namespace kervo {

struct PlaneBox {
  PlanePoint low, high;
};

/// The unbounded line or circle that a curve is a part of: of these, meeting points are known in closed form.
struct Carrier {
  PlanePoint from, to;  ///< two points of a line
  PlanePoint centre;
  double radius = 0;  ///< 0 for a line
};

/// A motion in the plane: p ↦ x·p.u + y·p.v + by, with x and y of unit length at a right angle to each other.
struct PlaneMotion {
  PlanePoint x{1, 0}, y{0, 1}, by;

  static PlaneMotion shift(PlanePoint way) { return {{1, 0}, {0, 1}, way}; }
  /// Counter-clockwise, in radians.
  static PlaneMotion turn(PlanePoint about, double angle);
  /// To the other side of the line through two different points.
  static PlaneMotion mirror(PlanePoint from, PlanePoint to);

  PlanePoint turned(PlanePoint way) const { return x * way.u + y * way.v; }
  PlanePoint operator()(PlanePoint point) const { return turned(point) + by; }
  bool flips() const { return cross(x, y) < 0; }
};

/// A curve parametrized by t from 0 to 1. Immutable.
class PlaneCurve {
 public:
  PlaneCurve() = default;
  virtual ~PlaneCurve() = default;

  virtual bool closed() const { return false; }
  virtual PlanePoint at(double t) const = 0;
  /// Of unit length, in the direction of growing t.
  virtual PlanePoint tangentAt(double t) const = 0;
  /// A box around it that may be larger than the smallest one.
  virtual PlaneBox box() const = 0;
  /// Nothing for a curve that is not part of a line or circle; the kernel then finds where it meets others.
  virtual std::optional<Carrier> carrier() const { return std::nullopt; }
  /// Whether a point that is known to lie on its carrier lies on the curve itself, to tolerance::point.
  virtual bool holds(PlanePoint point) const = 0;
  virtual SpaceCurve on(const Plane& plane) const = 0;
  /// Throws Error at `place` for a curve without length, or one that is too large.
  virtual void require(const std::string& place) const = 0;
  virtual std::shared_ptr<const PlaneCurve> moved(const PlaneMotion& motion) const = 0;
  /// The stretch from one parameter to a larger one.
  virtual std::shared_ptr<const PlaneCurve> part(double from, double to) const = 0;
  /// The curve at that distance to its left, in mm; below zero to its right. Null where nothing is left of it, as
  /// inside of a small circle. Ellipses and splines come as splines that are off by less than 1e-6 mm. Throws Error
  /// where they bend more sharply than that.
  virtual std::shared_ptr<const PlaneCurve> beside(double left) const = 0;

 protected:
  PlaneCurve(const PlaneCurve&) = default;
  PlaneCurve& operator=(const PlaneCurve&) = default;
};

class LineCurve : public PlaneCurve {
 public:
  LineCurve(PlanePoint from, PlanePoint to) : from_(from), to_(to) {}

  PlanePoint at(double t) const override;
  PlanePoint tangentAt(double t) const override;
  PlaneBox box() const override;
  std::optional<Carrier> carrier() const override { return Carrier{from_, to_, {}, 0}; }
  bool holds(PlanePoint point) const override;
  SpaceCurve on(const Plane& plane) const override;
  void require(const std::string& place) const override;
  std::shared_ptr<const PlaneCurve> moved(const PlaneMotion& motion) const override;
  std::shared_ptr<const PlaneCurve> part(double from, double to) const override;
  std::shared_ptr<const PlaneCurve> beside(double left) const override;

 private:
  PlanePoint from_, to_;
};

/// Counter-clockwise from one angle to the other, in radians from the u axis; 0 < to − from < 2π.
class ArcCurve : public PlaneCurve {
 public:
  ArcCurve(PlanePoint centre, double radius, double fromAngle, double toAngle)
      : centre_(centre), radius_(radius), fromAngle_(fromAngle), toAngle_(toAngle) {}

  PlanePoint at(double t) const override;
  PlanePoint tangentAt(double t) const override;
  PlaneBox box() const override;
  std::optional<Carrier> carrier() const override { return Carrier{{}, {}, centre_, radius_}; }
  bool holds(PlanePoint point) const override;
  SpaceCurve on(const Plane& plane) const override;
  void require(const std::string& place) const override;
  std::shared_ptr<const PlaneCurve> moved(const PlaneMotion& motion) const override;
  std::shared_ptr<const PlaneCurve> part(double from, double to) const override;
  std::shared_ptr<const PlaneCurve> beside(double left) const override;
  double fromAngle() const { return fromAngle_; }
  double toAngle() const { return toAngle_; }

 protected:
  PlanePoint centre_;
  double radius_, fromAngle_, toAngle_;
};

/// Counter-clockwise.
class CircleCurve : public ArcCurve {
 public:
  CircleCurve(PlanePoint centre, double radius);
  bool closed() const override { return true; }
  bool holds(PlanePoint) const override { return true; }
  std::shared_ptr<const PlaneCurve> moved(const PlaneMotion& motion) const override;
  std::shared_ptr<const PlaneCurve> beside(double left) const override;
};

/// Counter-clockwise about its centre, from one parameter to the other: centre + a·cos(p) + b·sin(p), with a from the
/// centre to the end of an axis and b at a right angle to it, to the left.
class EllipseCurve : public PlaneCurve {
 public:
  EllipseCurve(PlanePoint centre, PlanePoint end, double other, double from, double to)
      : centre_(centre), axis_(end - centre), other_(other), from_(from), to_(to) {}

  bool closed() const override;
  PlanePoint at(double t) const override;
  PlanePoint tangentAt(double t) const override;
  PlaneBox box() const override;
  bool holds(PlanePoint point) const override;
  SpaceCurve on(const Plane& plane) const override;
  void require(const std::string& place) const override;
  std::shared_ptr<const PlaneCurve> moved(const PlaneMotion& motion) const override;
  std::shared_ptr<const PlaneCurve> part(double from, double to) const override;
  std::shared_ptr<const PlaneCurve> beside(double left) const override;
  PlanePoint centre() const { return centre_; }
  /// The end of its first half axis, and the length of the other.
  PlanePoint end() const { return centre_ + axis_; }
  double other() const { return other_; }
  /// Its parameters, where it starts and ends.
  double from() const { return from_; }
  double to() const { return to_; }
  /// The parameter of a point on the ellipse.
  double angleAt(PlanePoint point) const;

 private:
  PlanePoint across() const;
  PlanePoint centre_, axis_;
  double other_, from_, to_;
};

class SplineCurve : public PlaneCurve {
 public:
  explicit SplineCurve(Spline spline) : spline_(std::move(spline)) {}

  bool closed() const override { return spline_.closed(); }
  PlanePoint at(double t) const override { return spline_.at(t); }
  PlanePoint tangentAt(double t) const override { return spline_.frame(t).tangent(); }
  PlaneBox box() const override;
  bool holds(PlanePoint point) const override;
  SpaceCurve on(const Plane& plane) const override;
  void require(const std::string& place) const override;
  std::shared_ptr<const PlaneCurve> moved(const PlaneMotion& motion) const override;
  std::shared_ptr<const PlaneCurve> part(double from, double to) const override;
  std::shared_ptr<const PlaneCurve> beside(double left) const override;
  const Spline& spline() const { return spline_; }

 private:
  Spline spline_;
};

/// A curve with an id that stays the same when sizes change.
struct PlanarCurve {
  std::string id;
  std::shared_ptr<const PlaneCurve> geometry;

  PlanarCurve(std::string id, std::shared_ptr<const PlaneCurve> geometry)
      : id(std::move(id)), geometry(std::move(geometry)) {}
  template <std::derived_from<PlaneCurve> Curve>
  PlanarCurve(std::string id, const Curve& curve) : id(std::move(id)), geometry(std::make_shared<const Curve>(curve)) {}

  NamedCurve on(const Plane& plane) const { return {id, geometry->on(plane)}; }
};

/// A curve that lies on the plane, in its coordinates.
std::shared_ptr<const PlaneCurve> planeCurveOf(const SpaceCurve& curve, const Plane& plane);

/// Where the carriers of two curves meet.
struct Meetings {
  std::vector<PlanePoint> points;
  bool overlap = false;  ///< they are the same line or circle; no points then
};
Meetings meetings(const Carrier& a, const Carrier& b);

}  // namespace kervo
