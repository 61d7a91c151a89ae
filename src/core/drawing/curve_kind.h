// The kinds of curve that can be drawn: the points or numbers each takes, what it comes to, and how it is drawn by
// hand.
#pragma once

#include <string>
#include <vector>

#include "base/quantity.h"
#include "drawing/drawing.h"
#include "drawing/plane_curve.h"
#include "geom/spline.h"

namespace kervo {

class CurveKind {
 public:
  struct Number {
    const char* name;
    Dimensionality dimension;
  };
  struct Table {
    const char* name;                      ///< in files, and of its icon
    std::vector<Number> numbers = {};      ///< that define one given by numbers, in their order; none: none can be
    std::vector<const char*> points = {};  ///< of one through points: what each is; none: none can be
    bool morePoints = false;               ///< the last may be repeated
    std::vector<const char*> sizes = {};   ///< of one through points: its own sizes, mm
    std::vector<Number> besides = {};      ///< of one through points: numbers that it has as well
    std::optional<Element> element = {};   ///< what it is to constraints; none: only its sides are something
  };
  explicit CurveKind(Table table)
      : name(table.name),
        numbers(std::move(table.numbers)),
        points(std::move(table.points)),
        morePoints(table.morePoints),
        sizeNames(std::move(table.sizes)),
        besides(std::move(table.besides)),
        element(table.element) {}
  CurveKind(const CurveKind&) = delete;
  CurveKind& operator=(const CurveKind&) = delete;
  virtual ~CurveKind() = default;

  const char* const name;
  const std::vector<Number> numbers;
  const std::vector<const char*> points;
  const bool morePoints;
  const std::vector<const char*> sizeNames;
  const std::vector<Number> besides;
  const std::optional<Element> element;

  /// One through points where those are at `at`, with those sizes. Throws Error for what makes no curve.
  virtual PlanarCurve through(const DrawnCurve& curve, const std::vector<PlanePoint>& at,
                              const std::vector<double>& sizes) const;
  /// … and all curves that it stands for, of one that has numbers besides: those in mm and rad.
  virtual std::vector<PlanarCurve> all(const DrawnCurve& curve, const std::vector<PlanePoint>& at,
                                       const std::vector<double>& sizes, const std::vector<double>& besides) const;
  /// The numbers of a curve, with or without points.
  const std::vector<Number>& numbersOf(const DrawnCurve& curve) const {
    return curve.points.empty() ? numbers : besides;
  }
  /// What a part of one that is given by numbers is: an end, the centre, a side.
  virtual std::optional<Element> part(const std::string& part) const;
  /// Throws Error for more than the count of points and sizes, e.g. a degree that a spline cannot have.
  virtual void require(const DrawnCurve& curve) const;

  /// The curve or curves it stands for. Values in mm and rad, as many as the kind takes. Throws Error for values that
  /// make none.
  virtual std::vector<PlanarCurve> curves(const std::string& id, const std::vector<double>& values) const;
  /// Values to begin with, for a curve about a point.
  virtual std::vector<double> about(PlanePoint middle) const;
};

/// By numbers: line (from u, from v, to u, to v), arc (centre u, centre v, radius, from angle, to angle), circle
/// (centre u, centre v, radius), rectangle (corner u, corner v, width, height; the four lines id.bottom, id.right,
/// id.top and id.left). Angles run counter-clockwise from the u axis. Through points: line (from, to), arc (centre,
/// from, to; counter-clockwise), circle (centre; radius), ellipse (centre, end of the long axis; half the short one),
/// elliptical_arc (the same, from, to), spline (through points), control_spline (control points, with degree and
/// weights) and text (where it begins; the height of capital letters and the angle of the line besides).
const std::vector<const CurveKind*>& curveKinds();
/// The kind of that name, or null.
const CurveKind* findCurveKind(const std::string& name);

/// Of a drawn spline, by either kind of points.
Spline splineOf(const DrawnCurve& curve, const std::vector<PlanePoint>& points);

}  // namespace kervo
