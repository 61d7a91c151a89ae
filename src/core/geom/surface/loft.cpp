#include "geom/surface/loft.h"

#include <BRepBuilderAPI_FindPlane.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepBuilderAPI_Sewing.hxx>
#include <GeomLib_IsPlanarSurface.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_Plane.hxx>
#include <TColStd_Array2OfReal.hxx>
#include <TColgp_Array2OfPnt.hxx>
#include <algorithm>
#include <cmath>
#include <map>

#include "base/say.h"
#include "geom/measure/soundness.h"
#include "geom/surface/edge_walk.h"
#include "geom/surface/loft_guides.h"
#include "geom/surface/sewn.h"
#include "geom/surface/skin.h"

namespace kervo {

namespace {

constexpr int fewestSpans = 8, mostSpans = 64, mostGuidedSpans = 512;
/// Faces follow their sections to this, mm, where these are of different kinds.
constexpr double follows = 1e-5;

EdgeWalk walkOf(const Shape& curve) {
  std::vector<Border> edges;
  for (TopExp_Explorer it(curve.body().topology, TopAbs_EDGE); it.More(); it.Next())
    edges.push_back({TopoDS::Edge(it.Current()), {}});
  return EdgeWalk(edges);
}

/// One loft.
class Lofting {
 public:
  Lofting(const LoftOrder& order, const std::string& name, Progress& progress)
      : order_(order), name_(name), progress_(progress), walks_(alignedWalks()) {
    setParameters();
    setGuides();
  }

  Shape run() {
    std::vector<std::pair<TopoDS_Face, std::string>> faces;
    const std::vector<double>& breaks = walks_.breaks();
    for (std::size_t i = 0; i + 1 < breaks.size(); ++i) {
      progress_.throwIfStopped();
      faces.emplace_back(faceOf(patch(breaks[i], breaks[i + 1])), name_ + ":side");
    }
    const bool closed = walks_.walk(0).closed();
    if (order_.solid && closed && !order_.closed) {
      addCap(faces, order_.sections.front(), ":start");
      addCap(faces, order_.sections.back(), ":end");
    }
    std::vector<Shape> parts;
    for (const auto& [face, facesName] : faces) {
      FaceTable table;
      table.emplace(face, FaceFacts{originsOf(facesName), {}, false});
      parts.push_back(makeShape(face, std::move(table), facesName));
    }
    Shape surface = parts.size() == 1 ? parts.front() : sewn(parts, tolerance::sewing, progress_).shape;
    if (order_.solid && closed) return solidWithin(surface, progress_);
    if (const std::string fault = findFault(surface.body(), progress_); !fault.empty())
      throw Error(say("the loft is not sound: %1", fault), "", say("Move the sections, or choose ruled"));
    return surface;
  }

 private:
  MatchedWalks alignedWalks() {
    std::vector<EdgeWalk> walks;
    for (const LoftSection& section : order_.sections) {
      if (section.curve.empty()) continue;
      const EdgeWalk walk = walkOf(section.curve);
      if (!walks.empty() && walk.closed() != walks.front().closed())
        throw Error(say("some sections are closed and some are open"), "", say("Close all of them, or none"));
      walks.push_back(walks.empty() ? walk : alignedWith(walks.back(), walk, false));
    }
    if (walks.empty()) throw Error(say("a loft needs a section that is a curve"), "", say("Add a curve or a drawing"));
    if (order_.sections.size() < 2) throw Error(say("a loft needs two sections or more"), "", say("Add a section"));
    if (order_.closed && (order_.sections.size() < 3 || walks.size() < order_.sections.size()))
      throw Error(say("a loft that closes needs three sections or more, none of them a point"), "",
                  say("Add a section"));
    for (std::size_t i = 1; i + 1 < order_.sections.size(); ++i)
      if (order_.sections[i].curve.empty())
        throw Error(say("a point can be the first or the last section only"), "", say("Reorder the sections"));
    return MatchedWalks(std::move(walks));
  }

  /// The points of all sections at a place, the first again at the end if it closes.
  std::vector<Point> pointsAt(double place) const {
    std::vector<Point> points;
    std::size_t number = 0;
    for (const LoftSection& section : order_.sections) {
      if (section.curve.empty()) {
        points.push_back(section.point);
        continue;
      }
      const double common = guides_ ? guides_->placeIn(points.size(), place) : place;
      points.push_back(walks_.walk(number).pointAt(walks_.shareOf(number, common)));
      ++number;
    }
    if (order_.closed) points.push_back(points.front());
    return points;
  }

  /// By how far the sections lie apart, from 0 to 1.
  void setParameters() {
    constexpr int asked = 24;
    std::vector<double> apart(pointsAt(0).size() - 1, 0.0);
    for (int i = 0; i < asked; ++i) {
      const std::vector<Point> points = pointsAt((i + 0.5) / asked);
      for (std::size_t k = 0; k < apart.size(); ++k) apart[k] += distance(points[k], points[k + 1]);
    }
    double all = 0;
    for (const double each : apart) {
      if (each < tolerance::smallestSize)
        throw Error(say("two sections lie in one place"), "", say("Move one of them"));
      all += each;
    }
    parameters_ = {0};
    for (const double each : apart) parameters_.push_back(parameters_.back() + each / all);
    parameters_.back() = 1;
  }

  void setGuides() {
    if (order_.guides.empty()) return;
    if (order_.ruled || order_.closed)
      throw Error(say("guides lead a smooth loft from its first section to its last one"), "",
                  say("Choose smooth, and do not close it, or leave out the guides"));
    std::vector<std::optional<std::size_t>> sections;
    std::vector<Point> points;
    std::size_t number = 0;
    for (const LoftSection& section : order_.sections) {
      sections.push_back(section.curve.empty() ? std::nullopt : std::optional(number++));
      points.push_back(section.point);
    }
    guides_.emplace(order_.guides, walks_, sections, points, parameters_);
    constexpr int perSpan = 8;
    for (std::size_t i = 0; i + 1 < parameters_.size(); ++i)
      for (int k = 0; k < perSpan; ++k)
        between_.push_back(parameters_[i] + (parameters_[i + 1] - parameters_[i]) * k / perSpan);
    between_.push_back(1);
  }

  Row rowAt(double place, Across& across) const {
    return guides_ ? guidedRow(*guides_, place, across) : rowOf(pointsAt(place), across);
  }

  /// The points of the loft without guides at a place, at values along it.
  std::vector<Point> unguided(double place) const {
    Across across;
    const Row poles = rowOf(pointsAt(place), across);
    const Handle(Geom_BSplineCurve) curve = curveAcross(poles, across);
    std::vector<Point> points;
    for (const double along : between_) points.push_back(fromPnt(curve->Value(along)));
    return points;
  }

  /// Moved by what the guides are off there: all of it at a guide's own place, less towards the next one. Where guides
  /// meet sections nothing moves, so that sections stay.
  std::vector<Point> guidedPoints(const LoftGuides& guides, double place) const {
    std::vector<Point> points = unguided(place);
    const std::vector<double> weights = guides.weightsAt(place);
    for (std::size_t g = 0; g < weights.size(); ++g) {
      if (weights[g] == 0) continue;
      const std::vector<Vector>& off = offOf(guides, g);
      for (std::size_t i = 0; i < points.size(); ++i) points[i] = points[i] + off[i] * weights[g];
    }
    return points;
  }
  const std::vector<Vector>& offOf(const LoftGuides& guides, std::size_t guide) const {
    std::vector<Vector>& off = off_[guide];
    if (!off.empty()) return off;
    const std::vector<Point> without = unguided(guides.placeOf(guide));
    for (std::size_t i = 0; i < between_.size(); ++i) off.push_back(guides.at(guide, between_[i]) - without[i]);
    return off;
  }

  Row guidedRow(const LoftGuides& guides, double place, Across& across) const {
    const std::vector<Point> points = guidedPoints(guides, place);
    const std::size_t last = points.size() - 1;
    const auto slope = [&](std::size_t a, std::size_t b) {
      return (points[b] - points[a]) * (1 / (between_[b] - between_[a]));
    };
    const Vector start = slopeAtEnd(slope(0, 1), slope(1, 2), between_[1], between_[2]);
    const Vector end =
        slopeAtEnd(slope(last - 1, last), slope(last - 2, last - 1), 1 - between_[last - 1], 1 - between_[last - 2]);
    return rowThrough(points, between_, start, end, across);
  }

  Row rowOf(const std::vector<Point>& points, Across& across) const {
    const std::size_t last = points.size() - 1;
    if (order_.ruled || (last == 1 && !order_.atStart && !order_.atEnd)) return rowThrough(points, parameters_, across);
    const auto between = [&](std::size_t a, std::size_t b) {
      return (points[b] - points[a]) * (1 / (parameters_[b] - parameters_[a]));
    };
    const double firstSpan = parameters_[1], lastSpan = 1 - parameters_[last - 1];
    Vector start = last == 1 ? between(0, 1) : slopeAtEnd(between(0, 1), between(1, 2), firstSpan, parameters_[2]);
    Vector end = last == 1 ? between(0, 1)
                           : slopeAtEnd(between(last - 1, last), between(last - 2, last - 1), lastSpan,
                                        1 - parameters_[last - 2]);
    if (order_.closed) {
      // It goes on as it began.
      const Vector through =
          (between(last - 1, last) * firstSpan + between(0, 1) * lastSpan) * (1 / (firstSpan + lastSpan));
      start = end = through;
    }
    // A third of a span's derivative is how far a spline follows it.
    if (const auto& along = order_.atStart) start = *along * (3 / firstSpan);
    if (const auto& along = order_.atEnd) end = *along * (3 / lastSpan);
    return rowThrough(points, parameters_, start, end, across);
  }

  /// That of the parabola through the first three points.
  static Vector slopeAtEnd(Vector first, Vector second, double firstSpan, double bothSpans) {
    return first + (first - second) * (firstSpan / bothSpans);
  }

  Handle(Geom_BSplineSurface) patch(double from, double to) const {
    Across across;
    (void)rowAt((from + to) / 2, across);
    if (!guides_)
      if (const auto exact = exactPatch(from, to); !exact.IsNull()) return exact;
    const auto row = [&](double place) {
      Across same;
      return rowAt(place, same);
    };
    for (int spans = fewestSpans;; spans *= 2) {
      const Handle(Geom_BSplineSurface) made = skin(row, from, to, spans, across);
      if (spans >= (guides_ ? mostGuidedSpans : mostSpans) || follow(made, from, to, spans)) return made;
    }
  }

  /// Where the sections are curves of one kind all along, such as circles or lines: through their own control points.
  /// Null where they are not.
  Handle(Geom_BSplineSurface) exactPatch(double from, double to) const {
    std::vector<Handle(Geom_BSplineCurve)> curves;
    std::size_t number = 0;
    for (const LoftSection& section : order_.sections) {
      if (section.curve.empty()) return {};
      const Handle(Geom_BSplineCurve) curve =
          walks_.walk(number).stretch(walks_.shareOf(number, from), walks_.shareOf(number, to));
      ++number;
      if (curve.IsNull() || (!curves.empty() && !alike(curves.front(), curve))) return {};
      curves.push_back(curve);
    }
    const Handle(Geom_BSplineCurve)& first = curves.front();
    const int poles = first->NbPoles();
    std::vector<Row> rows;
    Across across;
    for (int i = 1; i <= poles; ++i) {
      std::vector<Point> points;
      for (const auto& curve : curves) points.push_back(fromPnt(curve->Pole(i)));
      if (order_.closed) points.push_back(points.front());
      rows.push_back(rowOf(points, across));
    }
    const auto count = static_cast<int>(rows.front().size());
    TColgp_Array2OfPnt grid(1, poles, 1, count);
    TColStd_Array2OfReal weights(1, poles, 1, count);
    for (int i = 1; i <= poles; ++i)
      for (int k = 1; k <= count; ++k) {
        grid.SetValue(i, k, toPnt(rows[static_cast<std::size_t>(i) - 1][static_cast<std::size_t>(k) - 1]));
        weights.SetValue(i, k, first->Weight(i));
      }
    TColStd_Array1OfReal uKnots(1, first->NbKnots());
    TColStd_Array1OfInteger uCounts(1, first->NbKnots());
    first->Knots(uKnots);
    first->Multiplicities(uCounts);
    const auto knots = static_cast<int>(across.knots.size());
    TColStd_Array1OfReal vKnots(1, knots);
    TColStd_Array1OfInteger vCounts(1, knots);
    for (int i = 1; i <= knots; ++i) {
      vKnots.SetValue(i, across.knots[static_cast<std::size_t>(i) - 1]);
      vCounts.SetValue(i, across.multiplicities[static_cast<std::size_t>(i) - 1]);
    }
    return new Geom_BSplineSurface(grid, weights, uKnots, vKnots, uCounts, vCounts, first->Degree(), across.degree);
  }

  static bool alike(const Handle(Geom_BSplineCurve) & a, const Handle(Geom_BSplineCurve) & b) {
    constexpr double same = 1e-12;
    if (a->Degree() != b->Degree() || a->NbPoles() != b->NbPoles() || a->NbKnots() != b->NbKnots()) return false;
    for (int i = 1; i <= a->NbKnots(); ++i)
      if (std::abs(a->Knot(i) - b->Knot(i)) > same || a->Multiplicity(i) != b->Multiplicity(i)) return false;
    for (int i = 1; i <= a->NbPoles(); ++i)
      if (std::abs(a->Weight(i) - b->Weight(i)) > same) return false;
    return true;
  }

  bool follow(const Handle(Geom_BSplineSurface) & patch, double from, double to, int spans) const {
    for (int i = 0; i < spans; ++i) {
      const double place = from + (to - from) * (i + 0.5) / spans;
      const std::vector<Point> points = guides_ ? guidedPoints(*guides_, place) : pointsAt(place);
      const std::vector<double>& along = guides_ ? between_ : parameters_;
      for (std::size_t k = 0; k < points.size(); ++k)
        if (distance(fromPnt(patch->Value(place, along[k])), points[k]) > follows) return false;
    }
    return true;
  }

  /// A plane where it is one.
  static TopoDS_Face faceOf(const Handle(Geom_BSplineSurface) & patch) {
    const GeomLib_IsPlanarSurface planar(patch, tolerance::point);
    double u0, u1, v0, v1;
    patch->Bounds(u0, u1, v0, v1);
    const auto straight = [&](bool alongU, double at) {
      const auto value = [&](double t) { return alongU ? patch->Value(t, at) : patch->Value(at, t); };
      const double a = alongU ? u0 : v0, b = alongU ? u1 : v1;
      const gp_Pnt from = value(a), to = value(b);
      if (from.Distance(to) < tolerance::point) return true;
      const gp_Lin line(from, gp_Dir(gp_Vec(from, to)));
      constexpr int asked = 7;
      for (int i = 1; i < asked; ++i)
        if (line.Distance(value(a + (b - a) * i / asked)) > tolerance::point) return false;
      return true;
    };
    if (planar.IsPlanar() && straight(true, v0) && straight(true, v1) && straight(false, u0) && straight(false, u1)) {
      BRepBuilderAPI_MakePolygon outline;
      for (const gp_Pnt& corner :
           {patch->Value(u0, v0), patch->Value(u1, v0), patch->Value(u1, v1), patch->Value(u0, v1)})
        outline.Add(corner);
      outline.Close();
      if (outline.IsDone()) {
        BRepBuilderAPI_MakeFace face(planar.Plan(), outline.Wire(), true);
        if (face.IsDone()) return face.Face();
      }
    }
    const BRepBuilderAPI_MakeFace face(patch, tolerance::point);
    if (!face.IsDone()) throw Error(say("a face of the loft could not be made"), "", say("Move the sections"));
    return face.Face();
  }

  void addCap(std::vector<std::pair<TopoDS_Face, std::string>>& faces, const LoftSection& section,
              const char* role) const {
    if (section.curve.empty()) return;
    TopoDS_Wire wire;
    for (TopExp_Explorer it(section.curve.body().topology, TopAbs_WIRE); it.More(); it.Next())
      wire = TopoDS::Wire(it.Current());
    if (wire.IsNull()) {
      BRepBuilderAPI_MakeWire make;
      for (TopExp_Explorer it(section.curve.body().topology, TopAbs_EDGE); it.More(); it.Next())
        make.Add(TopoDS::Edge(it.Current()));
      wire = make.Wire();
    }
    const BRepBuilderAPI_FindPlane plane(wire, tolerance::sewing);
    if (!plane.Found())
      throw Error(say("the first or last section does not lie in a plane, so that no solid can be closed there"), "",
                  say("Make a surface, or patch the ends"));
    const BRepBuilderAPI_MakeFace face(plane.Plane()->Pln(), wire, true);
    if (!face.IsDone()) throw Error(say("an end of the loft could not be closed"), "", say("Make a surface of it"));
    faces.emplace_back(face.Face(), name_ + role);
  }

  const LoftOrder& order_;
  const std::string& name_;
  Progress& progress_;
  MatchedWalks walks_;
  std::vector<double> parameters_;
  std::optional<LoftGuides> guides_;
  std::vector<double> between_;  ///< values along a guided loft at which it has points
  mutable std::map<std::size_t, std::vector<Vector>> off_;
};

}  // namespace

Shape lofted(const LoftOrder& order, const std::string& name, Progress& progress) {
  return kernelCall("lofting", [&] { return Lofting(order, name, progress).run(); });
}

}  // namespace kervo
