// Splines in the plane: B-splines, by control points or through points.
#pragma once

#include <vector>

#include "geom/planes.h"

namespace kervo {

/// A B-spline with weights. Its parameter runs from 0 to 1.
class Spline {
 public:
  static constexpr int highestDegree = 5;

  /// By control points; uniform knots, an open one starts at its first and ends at its last point. `degree` from 1 to
  /// highestDegree, more points than that (closed: at least as many); `weights` above zero, none for all 1.
  static Spline controlled(int degree, const std::vector<PlanePoint>& points, const std::vector<double>& weights,
                           bool closed);
  /// A smooth curve through points: cubic, of continuous second derivative, which does not change in the spans at open
  /// ends, so that it may bend there. Knots lie as far apart as the points. Two points give a line; a closed one needs
  /// three. Neighbours must not coincide.
  static Spline through(const std::vector<PlanePoint>& points, bool closed);

  /// Of a geometry kernel or a file: knots come as often as they count, degree + 1 more than there are control points,
  /// each at least the one before. Any degree. Where it does not start at its first and end at its last control point,
  /// it gets others that say the same. `closed`: it ends where it starts.
  static Spline of(int degree, std::vector<double> knots, std::vector<PlanePoint> poles, std::vector<double> weights,
                   bool closed);

  struct Frame {
    PlanePoint at, first, second;  ///< the point and the derivatives by the parameter

    PlanePoint tangent() const { return first * (1 / kervo::length(first)); }
    /// To the left above zero, 1/mm.
    double curvature() const;
  };
  Frame frame(double t) const;
  PlanePoint at(double t) const { return frame(t).at; }
  /// The stretch from one parameter to a larger one, as a spline of its own. A closed one may be followed past its end:
  /// `to` above 1 goes on from its start.
  Spline part(double from, double to) const;
  /// With its first or last span going on as it runs there, `by` (a share of the whole parameter) further. The rest
  /// stays where it is.
  Spline lengthened(bool atEnd, double by) const;
  /// The parameter of the nearest point.
  double nearest(PlanePoint point) const;

  int degree() const { return degree_; }
  bool closed() const { return closed_; }
  /// The curve starts at the first and ends at the last, a closed one too.
  const std::vector<PlanePoint>& poles() const { return poles_; }
  const std::vector<double>& weights() const { return weights_; }
  /// One for each pole and degree + 1 more; 0 and 1 come degree + 1 times.
  const std::vector<double>& knots() const { return knots_; }

 private:
  Spline(int degree, std::vector<double> knots, std::vector<PlanePoint> poles, std::vector<double> weights,
         bool closed);
  void clamp();
  /// Of the same degree, from where this one ends; the shares are what of the parameter each has.
  Spline followedBy(const Spline& next, double share, double nextShare) const;
  Spline reversed() const;
  /// The same curve on other knots, as far as it can be one on them: its spans go on where the knots reach further.
  Spline withKnots(std::vector<double> knots) const;

  int degree_;
  std::vector<double> knots_;
  std::vector<PlanePoint> poles_;
  std::vector<double> weights_;  ///< one for each pole
  bool closed_;
};

}  // namespace kervo
