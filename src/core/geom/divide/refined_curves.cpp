#include "geom/divide/refined_curves.h"

#include <BRep_TEdge.hxx>
#include <Geom2dAPI_Interpolate.hxx>
#include <Geom2d_BSplineCurve.hxx>
#include <GeomAPI_Interpolate.hxx>
#include <Geom_BSplineCurve.hxx>
#include <TColStd_HArray1OfReal.hxx>
#include <TColgp_HArray1OfPnt.hxx>
#include <TColgp_HArray1OfPnt2d.hxx>
#include <math_Gauss.hxx>
#include <optional>

#include "geom/measure/border_quadrature.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

constexpr double exactEnough = 0.1 * tolerance::looseEdge;
constexpr std::size_t mostPoints = 4000;

/// A point on both surfaces.
struct Meeting {
  gp_Pnt point;
  gp_Pnt2d onFirst, onSecond;
};

/// A surface beside the edge, and the edge's curve on it.
struct Side {
  TopoDS_Face face;  ///< one of those that lie on it
  BRepAdaptor_Surface surface;
  Handle(Geom2d_Curve) curve;
};

class LooseCurve {
 public:
  LooseCurve(const TopoDS_Edge& edge, const std::vector<TopoDS_Face>& faces) : edge_(edge), curve_(edge) {
    for (const TopoDS_Face& face : faces) {
      double first = 0, last = 0;
      Side side{face, BRepAdaptor_Surface(face, false), BRep_Tool::CurveOnSurface(edge, face, first, last)};
      sound_ &= !side.curve.IsNull() && !BRep_Tool::IsClosed(edge, face) &&
                std::abs(first - curve_.FirstParameter()) < tolerance::rounding &&
                std::abs(last - curve_.LastParameter()) < tolerance::rounding;
      sides_.push_back(std::move(side));
    }
    const TopoDS_Vertex start = TopExp::FirstVertex(edge), end = TopExp::LastVertex(edge);
    if (!start.IsNull()) atStart_ = gp_Vec(curve_.Value(curve_.FirstParameter()), BRep_Tool::Pnt(start));
    if (!end.IsNull()) atEnd_ = gp_Vec(curve_.Value(curve_.LastParameter()), BRep_Tool::Pnt(end));
  }

  bool refine() {
    if (!sound_ || sides_.size() != 2) return false;
    std::vector<double> at = breaks(curve_.FirstParameter(), curve_.LastParameter(), curveKnots(curve_), false);
    at = halved(at);
    std::vector<Meeting> through;
    if (!meetingsAt(at, through)) return false;
    while (at.size() < mostPoints) {
      const std::vector<double> finer = halved(at);
      std::vector<Meeting> all;
      if (!meetingsAt(finer, all)) return false;
      if (fit(at, through) && farthest(finer, all) <= exactEnough) return store();
      at = finer;
      through = std::move(all);
    }
    return false;
  }

 private:
  static std::vector<double> halved(const std::vector<double>& at) {
    std::vector<double> result;
    for (std::size_t i = 0; i < at.size(); ++i) {
      if (i > 0) result.push_back((at[i - 1] + at[i]) / 2);
      result.push_back(at[i]);
    }
    return result;
  }

  bool meetingsAt(const std::vector<double>& at, std::vector<Meeting>& result) const {
    for (const double t : at) {
      const std::optional<Meeting> meeting = meetingAt(t);
      if (!meeting) return false;
      result.push_back(*meeting);
    }
    return true;
  }

  /// Where both surfaces meet in the plane across the curve: S(u, v) = T(s, t), (S − C)·C′ = 0. The corners are exact,
  /// since the kernel found them from edges and faces: the curve is shifted to begin and end there.
  std::optional<Meeting> meetingAt(double t) const {
    gp_Pnt on;
    gp_Vec along;
    curve_.D1(t, on, along);
    const double share = (t - curve_.FirstParameter()) / (curve_.LastParameter() - curve_.FirstParameter());
    on.Translate(atStart_ * (1 - share) + atEnd_ * share);
    if (along.Magnitude() < tolerance::rounding) return std::nullopt;
    along.Normalize();
    gp_Pnt2d a = sides_[0].curve->Value(t), b = sides_[1].curve->Value(t);
    const double farthest = 4 * BRep_Tool::Tolerance(edge_);
    for (int step = 0; step < 20; ++step) {
      gp_Pnt p, q;
      gp_Vec pu, pv, qu, qv;
      sides_[0].surface.D1(a.X(), a.Y(), p, pu, pv);
      sides_[1].surface.D1(b.X(), b.Y(), q, qu, qv);
      const gp_Vec gap(p, q), back(p, on);
      if (gap.Magnitude() < tolerance::direction && std::abs(back.Dot(along)) < tolerance::direction)
        return p.Distance(on) <= farthest ? std::optional(Meeting{p, a, b}) : std::nullopt;
      math_Matrix matrix(1, 4, 1, 4);
      math_Vector right(1, 4);
      for (int i = 1; i <= 3; ++i) {
        matrix(i, 1) = pu.Coord(i);
        matrix(i, 2) = pv.Coord(i);
        matrix(i, 3) = -qu.Coord(i);
        matrix(i, 4) = -qv.Coord(i);
        right(i) = gap.Coord(i);
      }
      matrix(4, 1) = pu.Dot(along);
      matrix(4, 2) = pv.Dot(along);
      matrix(4, 3) = matrix(4, 4) = 0;
      right(4) = back.Dot(along);
      math_Gauss solver(matrix, tolerance::finest);
      if (!solver.IsDone()) return std::nullopt;
      math_Vector change(1, 4);
      solver.Solve(right, change);
      a.SetCoord(a.X() + change(1), a.Y() + change(2));
      b.SetCoord(b.X() + change(3), b.Y() + change(4));
    }
    return std::nullopt;
  }

  bool fit(const std::vector<double>& at, const std::vector<Meeting>& through) {
    const int count = static_cast<int>(at.size());
    Handle(TColStd_HArray1OfReal) parameters = new TColStd_HArray1OfReal(1, count);
    Handle(TColgp_HArray1OfPnt) points = new TColgp_HArray1OfPnt(1, count);
    Handle(TColgp_HArray1OfPnt2d) first = new TColgp_HArray1OfPnt2d(1, count);
    Handle(TColgp_HArray1OfPnt2d) second = new TColgp_HArray1OfPnt2d(1, count);
    for (int i = 1; i <= count; ++i) {
      const Meeting& meeting = through[static_cast<std::size_t>(i - 1)];
      parameters->SetValue(i, at[static_cast<std::size_t>(i - 1)]);
      points->SetValue(i, meeting.point);
      first->SetValue(i, meeting.onFirst);
      second->SetValue(i, meeting.onSecond);
    }
    GeomAPI_Interpolate inSpace(points, parameters, false, tolerance::rounding);
    Geom2dAPI_Interpolate onFirst(first, parameters, false, tolerance::finest),
        onSecond(second, parameters, false, tolerance::finest);
    inSpace.Perform();
    onFirst.Perform();
    onSecond.Perform();
    if (!inSpace.IsDone() || !onFirst.IsDone() || !onSecond.IsDone()) return false;
    inSpace_ = inSpace.Curve();
    onSurfaces_ = {onFirst.Curve(), onSecond.Curve()};
    return true;
  }

  /// How far the fitted curves run from where the surfaces meet, at most.
  double farthest(const std::vector<double>& at, const std::vector<Meeting>& meetings) const {
    double result = 0;
    for (std::size_t i = 0; i < at.size(); ++i) {
      result = std::max(result, inSpace_->Value(at[i]).Distance(meetings[i].point));
      for (std::size_t side = 0; side < 2; ++side) {
        const gp_Pnt2d on = onSurfaces_[side]->Value(at[i]);
        result = std::max(result, sides_[side].surface.Value(on.X(), on.Y()).Distance(meetings[i].point));
      }
    }
    return result;
  }

  /// The corners hold the new ends as they are: other bodies may have them too.
  bool cornersHold() const {
    const TopoDS_Vertex start = TopExp::FirstVertex(edge_), end = TopExp::LastVertex(edge_);
    const auto holds = [&](const TopoDS_Vertex& corner, double t) {
      return !corner.IsNull() && BRep_Tool::Pnt(corner).Distance(inSpace_->Value(t)) <= BRep_Tool::Tolerance(corner);
    };
    return holds(start, curve_.FirstParameter()) && holds(end, curve_.LastParameter());
  }

  bool store() const {
    if (!cornersHold()) return false;
    const BRep_Builder builder;
    const double exactness = 2 * exactEnough;
    builder.UpdateEdge(edge_, inSpace_, exactness);
    for (std::size_t i = 0; i < 2; ++i) builder.UpdateEdge(edge_, onSurfaces_[i], sides_[i].face, exactness);
    builder.Range(edge_, curve_.FirstParameter(), curve_.LastParameter());
    Handle(BRep_TEdge)::DownCast(edge_.TShape())->Tolerance(exactness);
    return true;
  }

  TopoDS_Edge edge_;
  BRepAdaptor_Curve curve_;
  std::vector<Side> sides_;
  gp_Vec atStart_, atEnd_;  ///< from the curve's ends to the corners
  bool sound_ = true;
  Handle(Geom_BSplineCurve) inSpace_;
  std::vector<Handle(Geom2d_BSplineCurve)> onSurfaces_;
};

}  // namespace

void refineLooseCurves(const TopoDS_Shape& shape, const TopTools_IndexedMapOfShape& given, double allowedTolerance) {
  TopTools_IndexedDataMapOfShapeListOfShape facesAt;
  bool mapped = false;
  TopTools_IndexedMapOfShape edges;
  TopExp::MapShapes(shape, TopAbs_EDGE, edges);
  for (int i = 1; i <= edges.Extent(); ++i) {
    const TopoDS_Edge edge = TopoDS::Edge(edges(i).Oriented(TopAbs_FORWARD));
    if (given.Contains(edge) || BRep_Tool::Degenerated(edge) || BRep_Tool::Tolerance(edge) <= allowedTolerance)
      continue;
    if (!mapped) TopExp::MapShapesAndAncestors(shape, TopAbs_EDGE, TopAbs_FACE, facesAt);
    mapped = true;
    std::vector<TopoDS_Face> faces;  // one a surface
    for (const TopoDS_Shape& face : facesAt.FindFromKey(edges(i))) {
      TopLoc_Location place, other;
      const Handle(Geom_Surface)& surface = BRep_Tool::Surface(TopoDS::Face(face), place);
      if (std::none_of(faces.begin(), faces.end(), [&](const TopoDS_Face& known) {
            return BRep_Tool::Surface(known, other) == surface && other == place;
          }))
        faces.push_back(TopoDS::Face(face.Oriented(TopAbs_FORWARD)));
    }
    LooseCurve(edge, faces).refine();
  }
}

}  // namespace kervo
