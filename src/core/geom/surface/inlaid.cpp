// Floor, top and walls are made as they lie: what a wall stands on has one and the same parameters on the face and at
// every distance from it, so that nothing has to be intersected or sewn.
#include "geom/surface/inlaid.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepTools.hxx>
#include <BRepTools_WireExplorer.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <BRep_Builder.hxx>
#include <Geom2d_Line.hxx>
#include <GeomConvert_ApproxSurface.hxx>
#include <GeomLProp_SLProps.hxx>
#include <Geom_OffsetSurface.hxx>
#include <Geom_RectangularTrimmedSurface.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Shell.hxx>
#include <algorithm>
#include <array>
#include <atomic>
#include <cmath>
#include <functional>
#include <utility>

#include "base/parallel.h"
#include "base/quantity.h"
#include "geom/kernel/call.h"
#include "geom/kernel/topology_body.h"
#include "geom/measure/soundness.h"
#include "geom/motion.h"
#include "geom/surface/face_chart.h"
#include "geom/surface/skin.h"
#include "geom/sweep/region_body.h"
#include "geom/sweep/sweep.h"
#include "geom/tolerances.h"

namespace kervo {

PlanePoint DrawingPlace::operator()(PlanePoint point) const {
  const double c = scale * std::cos(turn), s = scale * std::sin(turn);
  return {x + c * point.u - s * point.v, y + s * point.u + c * point.v};
}

namespace {

/// One stretch of a region's border, from 0 to 1, with the region to its left.
struct BorderPart {
  std::function<PlanePoint(double)> at;
  std::string curve;

  BorderPart part(double from, double to) const {
    return {[whole = at, from, to](double t) { return whole(from + (to - from) * t); }, curve};
  }
};
using BorderLoop = std::vector<BorderPart>;

void turnAround(BorderLoop& loop) {
  std::reverse(loop.begin(), loop.end());
  for (BorderPart& each : loop) each = each.part(1, 0);
}

std::vector<BorderLoop> loopsOf(const Region& region, const DrawingPlace& place) {
  const RegionBody& body = region.body();
  std::vector<BorderLoop> loops;
  const TopoDS_Wire outer = BRepTools::OuterWire(body.face);
  for (TopExp_Explorer it(body.face, TopAbs_WIRE); it.More(); it.Next()) {
    BorderLoop loop;
    for (BRepTools_WireExplorer edges(TopoDS::Wire(it.Current()), body.face); edges.More(); edges.Next()) {
      const TopoDS_Edge& edge = edges.Current();
      auto curve = std::make_shared<BRepAdaptor_Curve>(edge);
      const bool reversed = edge.Orientation() == TopAbs_REVERSED;
      const double from = reversed ? curve->LastParameter() : curve->FirstParameter();
      const double to = reversed ? curve->FirstParameter() : curve->LastParameter();
      loop.push_back({[curve, from, to, place, plane = body.plane](double t) {
                        const Vector flat = plane.coordinates(fromPnt(curve->Value(from + (to - from) * t)));
                        return place({flat.x, flat.y});
                      },
                      body.curves.at(edge)});
    }
    // A wall needs two ends.
    if (loop.size() == 1) loop = {loop.front().part(0, 0.5), loop.front().part(0.5, 1)};
    loops.insert(it.Current().IsSame(outer) ? loops.begin() : loops.end(), std::move(loop));
  }
  return loops;
}

/// The surface of a face moved along its normal, with the same parameters.
class Level {
 public:
  Level(const TopoDS_Face& face, double outwards, const std::array<double, 4>& around) {
    geometry_ = BRep_Tool::Surface(face);
    const double by = face.Orientation() == TopAbs_REVERSED ? -outwards : outwards;
    if (std::abs(by) < tolerance::point) return;
    const Handle(Geom_OffsetSurface) moved = new Geom_OffsetSurface(geometry_, by);
    if (const Handle(Geom_Surface) elementary = moved->Surface(); !elementary.IsNull()) {
      geometry_ = elementary;
      return;
    }
    const auto [u0, u1, v0, v1] = around;
    const Handle(Geom_Surface) piece = new Geom_RectangularTrimmedSurface(moved, u0, u1, v0, v1);
    constexpr double wanted = 1e-6, enough = 1e-5;
    constexpr int degree = 9, segments = 100;
    const GeomConvert_ApproxSurface spline(piece, wanted, GeomAbs_C2, GeomAbs_C2, degree, degree, segments, 1);
    geometry_ = spline.HasResult() && spline.MaxError() < enough ? Handle(Geom_Surface)(spline.Surface())
                                                                 : Handle(Geom_Surface)(moved);
  }

  const Handle(Geom_Surface) & geometry() const { return geometry_; }
  Point at(const gp_Pnt2d& place) const { return fromPnt(geometry_->Value(place.X(), place.Y())); }

 private:
  Handle(Geom_Surface) geometry_;
};

/// An edge at each of the two levels, and the wall between them.
struct BorderWall {
  TopoDS_Edge low, high;
  Handle(Geom_Surface) surface;
  std::string curve;
};

class Prism {
 public:
  Prism(const Region& region, const Face& face, const FaceChart& chart, const InlayWishes& wishes,
        const std::string& name, Progress& progress)
      : face_(face.body().face),
        chart_(chart),
        name_(name),
        startsHigh_(std::abs(wishes.to) < std::abs(wishes.from)),
        progress_(progress),
        loops_(loopsOf(region, wishes.place)) {
    const std::array<double, 4> around = lookRound(wishes);
    low_ = std::make_unique<Level>(face_, wishes.from, around);
    high_ = std::make_unique<Level>(face_, wishes.to, around);
  }

  Shape make() {
    BRep_Builder builder;
    TopoDS_Shell shell;
    builder.MakeShell(shell);
    TopoDS_Face floor, top;
    builder.MakeFace(floor, low_->geometry(), tolerance::point);
    builder.MakeFace(top, high_->geometry(), tolerance::point);
    const bool turned = face_.Orientation() == TopAbs_REVERSED;
    FaceTable table;
    for (const BorderLoop& loop : loops_) {
      progress_.throwIfStopped();
      TopoDS_Wire below, above;
      builder.MakeWire(below);
      builder.MakeWire(above);
      std::vector<BorderWall> walls;
      std::vector<TopoDS_Edge> posts;
      addLoop(loop, walls, posts);
      for (std::size_t i = 0; i < walls.size(); ++i) {
        const BorderWall& wall = walls[i];
        builder.Add(below, wall.low.Reversed());
        builder.Add(above, wall.high);
        const TopoDS_Face side = sideOf(wall, posts[i], posts[(i + 1) % posts.size()]);
        builder.Add(shell, side);
        table.emplace(side, FaceFacts{originsOf(name_ + ":side:" + wall.curve), {}, false});
      }
      below.Closed(true);
      above.Closed(true);
      // What is to be seen of a face that is turned is seen through it.
      builder.Add(floor, turned ? below : TopoDS::Wire(below.Reversed()));
      builder.Add(top, turned ? TopoDS::Wire(above.Reversed()) : above);
    }
    floor.Orientation(turned ? TopAbs_FORWARD : TopAbs_REVERSED);
    top.Orientation(turned ? TopAbs_REVERSED : TopAbs_FORWARD);
    builder.Add(shell, floor);
    builder.Add(shell, top);
    shell.Closed(true);
    TopoDS_Solid solid;
    builder.MakeSolid(solid);
    builder.Add(solid, shell);
    table.emplace(floor, FaceFacts{originsOf(name_ + (startsHigh_ ? ":end" : ":start")), {}, false});
    table.emplace(top, FaceFacts{originsOf(name_ + (startsHigh_ ? ":start" : ":end")), {}, false});
    Shape result = makeShape(solid, std::move(table), name_ + ":side");
    if (const std::string fault = findFault(result.body(), progress_); !fault.empty())
      throw Error(say("a region does not become a sound solid on the face: %1", fault), "",
                  say("Make it simpler or larger, or give it less depth"));
    return result;
  }

 private:
  static constexpr int looks = 10;  ///< at a stretch, before it is followed closely

  /// Turns the loops so that the region lies to their left seen from outside, and finds out how far they reach.
  std::array<double, 4> lookRound(const InlayWishes& wishes) {
    std::array<double, 4> around{Box::infinity, -Box::infinity, Box::infinity, -Box::infinity};
    BRepTopAdaptor_FClass2d within(TopoDS::Face(face_.Oriented(TopAbs_FORWARD)), tolerance::point);
    double area = 0;
    for (const BorderLoop& loop : loops_) {
      std::vector<gp_Pnt2d> line;
      for (const BorderPart& part : loop)
        for (int i = 0; i < looks; ++i) line.push_back(chart_.at(part.at(static_cast<double>(i) / looks)));
      for (std::size_t i = 0; i < line.size(); ++i) {
        const gp_Pnt2d &a = line[i], &b = line[(i + 1) % line.size()];
        if (within.Perform(a) == TopAbs_OUT)
          throw Error(say("the drawing reaches beyond the face"), "",
                      say("Move it, make it smaller, or choose another face"));
        requireRoom(a, wishes);
        around = {std::min(around[0], a.X()), std::max(around[1], a.X()), std::min(around[2], a.Y()),
                  std::max(around[3], a.Y())};
        if (&loop == &loops_.front()) area += a.X() * b.Y() - b.X() * a.Y();
      }
    }
    const bool turned = face_.Orientation() == TopAbs_REVERSED;
    if ((area < 0) != turned)
      for (BorderLoop& loop : loops_) turnAround(loop);
    shiftIntoRange(around);
    // A little more on all sides, as far as the surface goes.
    double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
    const Handle(Geom_Surface) geometry = BRep_Tool::Surface(face_);
    geometry->Bounds(u0, u1, v0, v1);
    const double du = 0.02 * (around[1] - around[0]), dv = 0.02 * (around[3] - around[2]);
    return {geometry->IsUPeriodic() ? around[0] - du : std::max(u0, around[0] - du),
            geometry->IsUPeriodic() ? around[1] + du : std::min(u1, around[1] + du),
            geometry->IsVPeriodic() ? around[2] - dv : std::max(v0, around[2] - dv),
            geometry->IsVPeriodic() ? around[3] + dv : std::min(v1, around[3] + dv)};
  }

  /// Round a closed surface a place has many parameters: those of the face are taken where all of the region has some.
  void shiftIntoRange(std::array<double, 4>& around) {
    double low = 0, high = 0, v0 = 0, v1 = 0;
    BRepTools::UVBounds(face_, low, high, v0, v1);
    const Handle(Geom_Surface) geometry = BRep_Tool::Surface(face_);
    if (!geometry->IsUPeriodic()) return;
    const double period = geometry->UPeriod(), middle = (around[0] + around[1]) / 2;
    shift_ = period * std::floor((middle - low) / period);
    around[0] -= shift_;
    around[1] -= shift_;
  }
  gp_Pnt2d placeOf(PlanePoint point) const {
    const gp_Pnt2d at = chart_.at(point);
    return {at.X() - shift_, at.Y()};
  }

  /// Where the face is bent more tightly than it is moved it would fold.
  void requireRoom(const gp_Pnt2d& place, const InlayWishes& wishes) const {
    GeomLProp_SLProps bend(BRep_Tool::Surface(face_), place.X(), place.Y(), 2, tolerance::point);
    if (!bend.IsCurvatureDefined()) return;
    const double turned = face_.Orientation() == TopAbs_REVERSED ? -1 : 1;
    for (const double curvature : {bend.MaxCurvature(), bend.MinCurvature()})
      for (const double by : {wishes.from, wishes.to}) {
        constexpr double least = 0.02;
        if (1 - by * turned * curvature > least) continue;
        throw Error(say("the face is bent too tightly for %1 mm: its radius is %2 mm at %3", formatNumber(std::abs(by)),
                        formatNumber(std::abs(1 / curvature), 4), textOf(fromPnt(bend.Value()))),
                    "", say("Give it less depth"));
      }
  }
  static std::string textOf(Point p) {
    return formatNumber(p.x, 4) + ", " + formatNumber(p.y, 4) + ", " + formatNumber(p.z, 4);
  }

  void addLoop(const BorderLoop& loop, std::vector<BorderWall>& walls, std::vector<TopoDS_Edge>& posts) {
    const BRep_Builder builder;
    std::vector<TopoDS_Vertex> low(loop.size()), high(loop.size());
    constexpr double corner = 1e-6;
    for (std::size_t i = 0; i < loop.size(); ++i) {
      const gp_Pnt2d at = placeOf(loop[i].at(0));
      const gp_Pnt below = toPnt(low_->at(at)), above = toPnt(high_->at(at));
      builder.MakeVertex(low[i], below, corner);
      builder.MakeVertex(high[i], above, corner);
      TColgp_Array1OfPnt poles(1, 2);
      poles.SetValue(1, below);
      poles.SetValue(2, above);
      TColStd_Array1OfReal knots(1, 2);
      knots.SetValue(1, 0);
      knots.SetValue(2, 1);
      TColStd_Array1OfInteger counts(1, 2);
      counts.Init(2);
      const Handle(Geom_Curve) line = new Geom_BSplineCurve(poles, knots, counts, 1);
      posts.push_back(edgeOf(line, tolerance::point, low[i], high[i]));
    }
    for (std::size_t i = 0; i < loop.size(); ++i) {
      const std::size_t next = (i + 1) % loop.size();
      walls.push_back(wallAlong(loop[i], {low[i], low[next]}, {high[i], high[next]}));
    }
  }

  static TopoDS_Edge edgeOf(const Handle(Geom_Curve) & curve, double exactness, const TopoDS_Vertex& from,
                            const TopoDS_Vertex& to) {
    const BRep_Builder builder;
    TopoDS_Edge edge;
    builder.MakeEdge(edge, curve, exactness);
    builder.Add(edge, from.Oriented(TopAbs_FORWARD));
    builder.Add(edge, to.Oriented(TopAbs_REVERSED));
    builder.Range(edge, 0, 1);
    builder.SameRange(edge, true);
    builder.SameParameter(edge, true);
    return edge;
  }

  BorderWall wallAlong(const BorderPart& part, const std::array<TopoDS_Vertex, 2>& low,
                       const std::array<TopoDS_Vertex, 2>& high) {
    // An edge's curves must agree; the drawing is followed as well as its surface lets it, whose curvature may jump.
    constexpr double wanted = 1e-7, enough = 3e-5, follows = 3e-4;
    constexpr int fewest = 8, most = 128;
    const auto row = [&](double t) {
      const gp_Pnt2d at = placeOf(part.at(t));
      return Row{{at.X(), at.Y(), 0}, low_->at(at), high_->at(at)};
    };
    double before = Box::infinity;
    for (int spans = fewest;; spans *= 2) {
      progress_.throwIfStopped();
      const Columns columns = columnsThrough(row, 0, 1, spans);
      const Handle(Geom2d_BSplineCurve) flat = columns.flatCurve(0);
      const Handle(Geom_BSplineCurve) below = columns.curve(1), above = columns.curve(2);
      double off = 0, beside = 0;
      for (int i = 0; i < spans; ++i) {
        const double t = (i + 0.5) / spans;
        const gp_Pnt2d on = flat->Value(t), asked = placeOf(part.at(t));
        for (const auto& [level, curve] : {std::pair(low_.get(), below), std::pair(high_.get(), above)}) {
          off = std::max(off, distance(level->at(on), fromPnt(curve->Value(t))));
          beside = std::max(beside, distance(level->at(on), level->at(asked)));
        }
      }
      // Where more spans help little, it is as good as it gets.
      const double error = std::max(off, beside), last = std::exchange(before, error);
      const bool good = off <= enough && beside <= follows;
      if (error > wanted && spans < most && !(good && error > last / 3)) continue;
      if (!good)
        throw Error(say("the curve \"%1\" cannot be followed on the face", part.curve), "", say("Simplify it"));
      const double exactness = std::max(tolerance::point, 2 * off);
      BorderWall wall{
          edgeOf(below, exactness, low[0], low[1]), edgeOf(above, exactness, high[0], high[1]),
          skin(Columns{columns.knots, columns.multiplicities, {columns.poles[1], columns.poles[2]}}, Across::bezier(1)),
          part.curve};
      const BRep_Builder builder;
      builder.UpdateEdge(wall.low, flat, low_->geometry(), TopLoc_Location(), exactness);
      builder.UpdateEdge(wall.high, flat, high_->geometry(), TopLoc_Location(), exactness);
      return wall;
    }
  }

  /// The wall's face, seen from outside with the low edge below.
  static TopoDS_Face sideOf(const BorderWall& wall, const TopoDS_Edge& first, const TopoDS_Edge& last) {
    const BRep_Builder builder;
    TopoDS_Face face;
    builder.MakeFace(face, wall.surface, tolerance::point);
    const auto lay = [&](const TopoDS_Edge& edge, double u, double v, double du, double dv) {
      builder.UpdateEdge(edge, new Geom2d_Line(gp_Pnt2d(u, v), gp_Dir2d(du, dv)), wall.surface, TopLoc_Location(),
                         tolerance::point);
    };
    lay(wall.low, 0, 0, 1, 0);
    lay(wall.high, 0, 1, 1, 0);
    lay(first, 0, 0, 0, 1);
    lay(last, 1, 0, 0, 1);
    TopoDS_Wire wire;
    builder.MakeWire(wire);
    builder.Add(wire, wall.low);
    builder.Add(wire, last);
    builder.Add(wire, wall.high.Reversed());
    builder.Add(wire, first.Reversed());
    wire.Closed(true);
    builder.Add(face, wire);
    return face;
  }

  TopoDS_Face face_;
  const FaceChart& chart_;
  std::string name_;
  bool startsHigh_;
  Progress& progress_;
  std::vector<BorderLoop> loops_;
  double shift_ = 0;
  std::unique_ptr<Level> low_, high_;
};

/// A drawing's plane as it lies on a flat face, with its lengths; its normal may look inwards.
std::optional<Plane> laidFlat(const Plane& plane, const Face& face, Laying laying) {
  const auto flat = face.plane();
  if (!flat) return std::nullopt;
  const Vector n = flat->normal;
  if (laying == Laying::Projected && length(cross(plane.normal, n)) > tolerance::parallel) return std::nullopt;
  const Vector x = plane.x - n * dot(plane.x, n);
  constexpr double upright = 0.03;
  if (length(x) < upright || std::abs(dot(plane.normal, n)) < upright)
    throw Error(say("the plane stands upright on the face"), "", say("Draw on a plane that faces it"));
  const Vector along = normalized(x), side = cross(n, along);
  const double way = dot(side, plane.y) < 0 ? -1 : 1;
  return Plane{plane.origin - n * flat->signedDistance(plane.origin), along, side * way, n * way};
}

/// A region moved onto another plane, in its place there.
Region regionOn(const Plane& target, const Region& region, const DrawingPlace& place) {
  const RegionBody& body = region.body();
  const Motion motion = Motion::onto(body.plane, target)
                            .then(Motion::turn(target.origin, target.normal, place.turn))
                            .then(Motion::scale(target.origin, place.scale))
                            .then(Motion::by(target.x * place.x + target.y * place.y));
  gp_Trsf move;
  const auto& m = motion.rows();
  const Vector t = motion.moving();
  move.SetValues(m[0].x, m[0].y, m[0].z, t.x, m[1].x, m[1].y, m[1].z, t.y, m[2].x, m[2].y, m[2].z, t.z);
  BRepBuilderAPI_Transform moved(body.face, move, true);
  ShapeMap<std::string> curves;
  for (const auto& [edge, curve] : body.curves) curves.emplace(moved.ModifiedShape(edge), curve);
  return Region(std::make_shared<const RegionBody>(RegionBody::of(
      body.name, target, TopoDS::Face(moved.Shape()), [&](const TopoDS_Shape& edge) { return curves.at(edge); })));
}

/// On a flat face everything is as exact as it is drawn.
Shape flatPrism(const Region& region, const Plane& target, const Face& face, const InlayWishes& wishes,
                const std::string& name) {
  const double looksOut = dot(target.normal, face.normal());
  const double from = looksOut > 0 ? wishes.from : -wishes.to, to = looksOut > 0 ? wishes.to : -wishes.from;
  SweptRegion swept{regionOn(target, region, wishes.place), name, true, from, to, std::abs(to) < std::abs(from), {}};
  for (const auto& [edge, curve] : swept.region.body().curves) {
    (void)curve;
    const BRepAdaptor_Curve line(TopoDS::Edge(edge));
    for (const double t : {line.FirstParameter(), (line.FirstParameter() + line.LastParameter()) / 2})
      if (face.distanceTo(fromPnt(line.Value(t))) > tolerance::onBoundary)
        throw Error(say("the drawing reaches beyond the face"), "",
                    say("Move it, make it smaller, or choose another face"));
  }
  return wishes.draft == 0 ? solidOf(swept) : drafted(swept, wishes.draft);
}

}  // namespace

std::vector<Shape> inlaid(const std::vector<Region>& regions, const Face& face, const InlayWishes& wishes,
                          const std::string& name, Progress& progress) {
  return kernelCall("laying a drawing onto a face", [&] {
    std::vector<Shape> result(regions.size());
    if (wishes.draft != 0 && !face.plane())
      throw Error(say("walls lean on flat faces only"), "", say("Leave the draft at 0, or choose a flat face"));
    std::atomic<int> done = 0;
    inParallel(regions.size(), [&](std::size_t i) {
      progress.report(static_cast<double>(done++) / static_cast<double>(regions.size()));
      progress.throwIfStopped();
      const Plane& plane = regions[i].body().plane;
      if (const auto target = laidFlat(plane, face, wishes.laying)) {
        result[i] = flatPrism(regions[i], *target, face, wishes, name);
        return;
      }
      std::array<double, 4> around{Box::infinity, -Box::infinity, Box::infinity, -Box::infinity};
      const auto outlines = regions[i].outlines();
      for (const PlanePoint& drawn : outlines.front()) {
        const PlanePoint at = wishes.place(drawn);
        around = {std::min(around[0], at.u), std::max(around[1], at.u), std::min(around[2], at.v),
                  std::max(around[3], at.v)};
      }
      const auto chart = chartOf(face.body().face, plane, wishes.laying, around);
      result[i] = Prism(regions[i], face, *chart, wishes, name, progress).make();
    });
    return result;
  });
}

Plane inlayAnchor(const Plane& plane, const Face& face, const InlayWishes& wishes) {
  return kernelCall("laying a drawing onto a face", [&]() -> Plane {
    const auto placeOf = [&](PlanePoint point) { return wishes.place(point); };
    constexpr double step = 1e-3;
    if (const auto target = laidFlat(plane, face, wishes.laying)) {
      const PlanePoint at = placeOf({0, 0});
      return {target->at(at.u, at.v), target->x, target->y, face.normal()};
    }
    const auto chart = chartOf(face.body().face, plane, wishes.laying);
    const Level level(face.body().face, 0, {});
    const PlanePoint at = placeOf({0, 0});
    const Point origin = level.at(chart->at(at));
    const Vector x = normalized(level.at(chart->at({at.u + step, at.v})) - origin);
    const Vector y = level.at(chart->at({at.u, at.v + step})) - origin;
    return {origin, x, normalized(y - x * dot(x, y)), fromDir(outwardNormal(face.body().face, toPnt(origin)))};
  });
}

}  // namespace kervo
