// The kinds of curve that can be drawn: the numbers that each takes, what it comes to, and how it is drawn by hand.
#pragma once

#include <functional>
#include <string>
#include <vector>

#include "base/expression.h"
#include "base/quantity.h"
#include "drawing/plane_curve.h"

namespace kervo {

class CurveKind {
 public:
  struct Number {
    const char* name;
    Dimensionality dimension;
  };
  CurveKind(const char* name, std::vector<Number> numbers) : name(name), numbers(std::move(numbers)) {}
  CurveKind(const CurveKind&) = delete;
  CurveKind& operator=(const CurveKind&) = delete;
  virtual ~CurveKind() = default;

  const char* const name;             ///< in files, and of its icon
  const std::vector<Number> numbers;  ///< that define it, in their order

  /// The curve or curves it stands for. Values in mm and rad, as many as the kind takes. Throws Error for values that
  /// make none.
  virtual std::vector<PlanarCurve> curves(const std::string& id, const std::vector<double>& values) const = 0;
  /// Values to begin with, for a curve about a point.
  virtual std::vector<double> about(PlanePoint middle) const = 0;

  /// Whether it can be drawn from one point to another.
  virtual bool drawn() const { return true; }
  /// Values of one that is drawn so; `rounded` makes a length a round one.
  using Rounded = std::function<double(double)>;
  virtual std::vector<double> drawn(PlanePoint from, PlanePoint to, const Rounded& rounded) const = 0;
  /// The sizes shown beside the pointer while it is drawn, mm.
  virtual std::vector<double> sizes(const std::vector<double>& values) const = 0;
};

/// line (from u, from v, to u, to v), arc (centre u, centre v, radius, from angle, to angle), circle (centre u,
/// centre v, radius), rectangle (corner u, corner v, width, height; the four lines id.bottom, id.right, id.top and
/// id.left). Angles run counter-clockwise from the u axis.
const std::vector<const CurveKind*>& curveKinds();
/// The kind of that name, or null.
const CurveKind* findCurveKind(const std::string& name);

/// A curve of a drawing: its kind and the numbers the kind takes, as expressions.
struct DrawnCurve {
  std::string id;
  std::string kind;
  std::vector<Expression> numbers;
  bool operator==(const DrawnCurve&) const = default;
};

}  // namespace kervo
