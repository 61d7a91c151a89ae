// A drawing as a value: points that curves share, curves, and constraints between them. Ids never change their meaning.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/expression.h"
#include "geom/space.h"

namespace kervo {

/// A point that curves share. It is free unless constraints hold it.
struct DrawnPoint {
  std::string id;
  PlanePoint last;  ///< where it was last, mm: where solve() starts
  bool operator==(const DrawnPoint&) const = default;
};

/// A curve of a drawing, either through points of the drawing or given by numbers alone.
struct DrawnCurve {
  std::string id;
  std::string kind;                 ///< a CurveKind's name
  std::vector<Expression> numbers;  ///< all that define it, of one that has no points: then nothing can move it; of a
                                    ///< text what it has besides its point
  std::vector<std::string> points = {};
  std::vector<double> sizes = {};    ///< of one with points: its own sizes as they were last, mm
  int degree = 0;                    ///< of a spline by control points
  std::vector<double> weights = {};  ///< of a spline by control points; empty: all are 1
  std::vector<double> knots = {};    ///< of a spline by control points; empty: uniform ones
  bool closed = false;               ///< of a spline
  std::string text = {};             ///< of a text
  bool construction = false;         ///< helps to draw, bounds nothing
  std::string snapshotOf = {};       ///< of one that was copied from a body and does not follow it: from what
  bool operator==(const DrawnCurve&) const = default;
};

/// What holds between points and curves, or measures them.
struct DrawnConstraint {
  std::string id;
  std::string kind;             ///< a ConstraintKind's name
  std::vector<std::string> on;  ///< ids of points and curves
  std::optional<Expression> value = {};
  bool reference = false;  ///< of a dimension: it shows what it measures and drives nothing
  bool operator==(const DrawnConstraint&) const = default;
};

/// Curves that are made from others of the drawing, and follow them.
struct DrawnCopies {
  std::string id;
  std::string kind;             ///< a CopyKind's name
  std::vector<std::string> of;  ///< ids of curves, of what was taken along, or of copies before it
  std::string about = {};       ///< the point or line that the kind needs
  std::vector<Expression> numbers = {};
  std::string way = {};       ///< which of the kind's ways
  bool construction = false;  ///< they bound nothing
  bool operator==(const DrawnCopies&) const = default;
};

struct Drawing {
  std::vector<DrawnPoint> points;
  std::vector<DrawnCurve> curves;
  std::vector<DrawnConstraint> constraints;
  std::vector<DrawnCopies> copies = {};
  bool operator==(const Drawing&) const = default;

  /// One of curves that are given by numbers.
  static Drawing of(std::vector<DrawnCurve> curves) { return {{}, std::move(curves), {}}; }

  /// The index, or nothing.
  std::optional<std::size_t> point(const std::string& id) const;
  std::optional<std::size_t> curve(const std::string& id) const;
  /// … of one that is there. @throws std::out_of_range otherwise.
  std::size_t pointAt(const std::string& id) const;
  std::size_t curveAt(const std::string& id) const;
  bool empty() const { return curves.empty() && points.empty(); }
};

/// What a constraint can hold.
enum class Element { Point, Line, Round, Ellipse, Spline };

/// The point (0, 0) and the axes of the plane can be named in constraints.
inline constexpr const char* originId = "origin";
inline constexpr const char* uAxisId = "u_axis";
inline constexpr const char* vAxisId = "v_axis";

struct TakenCurve;

/// Throws Error that names the point, curve or constraint: an id that comes twice or cannot be one, a name of something
/// that is neither there nor `taken`, points that do not make a curve, a constraint on what it cannot hold.
void requireSound(const Drawing& drawing, const std::vector<TakenCurve>& taken);
/// … with nothing taken along.
void requireSound(const Drawing& drawing);

}  // namespace kervo
