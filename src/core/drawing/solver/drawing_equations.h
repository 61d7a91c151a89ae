// The equations that a drawing comes to.
#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "drawing/drawing.h"
#include "drawing/solve.h"
#include "drawing/solver/equations.h"
#include "geom/spline.h"

namespace kervo {

class DrawingEquations {
 public:
  /// Whether scalars that are to be the same become one, which is fast, or stay apart with an equation between them,
  /// so that every constraint has rows of its own.
  enum class Same { One, Apart };

  /// `drives`: for each constraint. Those that cannot be built are left out and stand in `refused`.
  DrawingEquations(const Drawing& drawing, const DrawingValues& values, const std::vector<bool>& drives, Same same);

  Equations equations;
  std::vector<ScalarPoint> points;                ///< of the drawing
  std::vector<std::vector<std::size_t>> through;  ///< of each curve: the indices of its points
  std::vector<std::vector<Scalar>> sizes;         ///< of each curve that has points
  double extent = 1;                              ///< of the drawing, mm
  /// Of each constraint: how many of its rows only made scalars one, and how many of those did nothing.
  std::vector<int> united, idle;
  std::map<std::size_t, std::string> refused;  ///< constraints that cannot hold, and why

  /// Of everything that a constraint is on.
  std::vector<Scalar> scalarsOf(std::size_t constraint) const;
  /// What a dimension measures at the present place.
  double measured(std::size_t constraint) const;

 private:
  struct LineShape {
    ScalarPoint from, to;
  };
  struct RoundShape {
    ScalarPoint centre;
    Scalar radius;
    std::vector<ScalarPoint> ends = {};
  };
  struct EllipseShape {
    ScalarPoint centre, end;  ///< of the long axis
    Scalar small;             ///< half the short axis
  };
  struct SplineShape {
    std::size_t curve;                 ///< of the drawing, unless it stands still
    std::vector<ScalarPoint> points;   ///< of one that stands still: its ends
    std::optional<Spline> still = {};  ///< of one that was taken along

    Spline through(const Drawing& drawing, const std::vector<PlanePoint>& at) const;
    bool closed(const Drawing& drawing) const;
  };
  struct Named {
    Element element;
    std::size_t index;  ///< among the shapes of its sort
  };

  void addPoints();
  void addCurve(std::size_t index);
  /// A curve that nothing moves: by numbers, or taken along.
  void addStill(const PlanarCurve& curve);
  void addConstraint(std::size_t index);
  std::vector<Named> elementsOf(const DrawnConstraint& constraint) const;

  void same(int constraint, Scalar a, Scalar b);
  void samePlace(int constraint, ScalarPoint a, ScalarPoint b);
  void fix(int constraint, Scalar scalar);
  template <class Formula>
  void rows(int constraint, const std::vector<Scalar>& scalars, std::size_t count, Formula formula) {
    equations.add({.scalars = scalars, .rows = count, .formula = formula, .constraint = constraint});
  }
  void computed(int constraint, std::vector<Scalar> scalars, std::size_t count,
                std::function<void(const double*, double*)> formula);

  void tangent(int constraint, const std::vector<Named>& on, bool smooth);
  void splineContact(int constraint, const SplineShape& spline, const Named& named, bool smooth);
  void symmetric(int constraint, const std::vector<Named>& on);
  void onCurve(int constraint, ScalarPoint point, const Named& curve);
  void dimension(std::size_t index, const std::vector<Named>& on, double value);
  /// The signed distance of a point from a line has the sign that it has now.
  double sideNow(ScalarPoint point, const LineShape& line) const;
  /// What an angle between two lines is multiplied by, so that its row is about a distance, mm.
  double longer(const LineShape& a, const LineShape& b) const;
  /// The same point of the drawing, or points that a constraint makes one.
  bool meet(ScalarPoint a, ScalarPoint b) const;

  const Drawing& drawing_;
  const DrawingValues& values_;
  const std::vector<bool>& drives_;
  Same same_;
  std::vector<LineShape> lines_;
  std::vector<RoundShape> rounds_;
  std::vector<EllipseShape> ellipses_;
  std::vector<SplineShape> splines_;
  std::vector<ScalarPoint> places_;  ///< points of all sorts
  std::map<std::string, Named> named_;
  std::map<Scalar, std::size_t> meeting_;  ///< by the u scalar of a point: those that are made one share a number
};

}  // namespace kervo
