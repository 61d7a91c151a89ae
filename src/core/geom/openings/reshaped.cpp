#include "geom/openings/reshaped.h"

#include <BRepPrimAPI_MakeRevol.hxx>
#include <BRepTools_Modification.hxx>
#include <BRepTools_Modifier.hxx>
#include <GC_MakeArcOfCircle.hxx>
#include <Geom2d_Curve.hxx>
#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/quantity.h"
#include "base/say.h"
#include "geom/faces/face_net.h"
#include "geom/measure/soundness.h"

namespace kervo {

namespace {

/// The part of a solid in front of a plane moved away from the rest.
class Stretch : public BRepTools_Modification {
 public:
  Stretch(const Plane& at, double by) : at_(at), by_(by), way_(toVec(at.normal) * by) {}

  Standard_Boolean NewSurface(const TopoDS_Face& face, Handle(Geom_Surface) & surface, TopLoc_Location& place,
                              Standard_Real& tolerance, Standard_Boolean& turnWires,
                              Standard_Boolean& turnFace) override {
    const Side side = sideOf(face);
    if (side == Side::Crossing) requireAlong(face);
    if (side != Side::Front) return false;
    surface = Handle(Geom_Surface)::DownCast(BRep_Tool::Surface(face)->Translated(way_));
    place = {};
    tolerance = BRep_Tool::Tolerance(face);
    turnWires = turnFace = false;
    return true;
  }

  Standard_Boolean NewCurve(const TopoDS_Edge& edge, Handle(Geom_Curve) & curve, TopLoc_Location& place,
                            Standard_Real& tolerance) override {
    if (BRep_Tool::Degenerated(edge)) return false;
    double first = 0, last = 0;
    curve = Handle(Geom_Curve)::DownCast(BRep_Tool::Curve(edge, first, last)->Copy());
    place = {};
    tolerance = BRep_Tool::Tolerance(edge);
    const Side side = sideOf(edge);
    if (side == Side::Front) curve->Translate(way_);
    if (side == Side::Crossing) requireAlong(edge);
    return true;
  }

  Standard_Boolean NewPoint(const TopoDS_Vertex& corner, gp_Pnt& point, Standard_Real& tolerance) override {
    point = BRep_Tool::Pnt(corner);
    tolerance = BRep_Tool::Tolerance(corner);
    if (!isInFront(point)) return false;
    point.Translate(way_);
    return true;
  }

  Standard_Boolean NewParameter(const TopoDS_Vertex& corner, const TopoDS_Edge& edge, Standard_Real& parameter,
                                Standard_Real& tolerance) override {
    if (BRep_Tool::Degenerated(edge)) return false;
    parameter = BRep_Tool::Parameter(corner, edge);
    tolerance = BRep_Tool::Tolerance(corner);
    if (sideOf(edge) != Side::Crossing || !isInFront(BRep_Tool::Pnt(corner))) return true;
    parameter += BRepAdaptor_Curve(edge).Line().Direction().Dot(gp_Dir(toVec(at_.normal))) > 0 ? by_ : -by_;
    return true;
  }

  Standard_Boolean NewCurve2d(const TopoDS_Edge& edge, const TopoDS_Face& face, const TopoDS_Edge&, const TopoDS_Face&,
                              Handle(Geom2d_Curve) & curve, Standard_Real& tolerance) override {
    const BRepAdaptor_Surface surface(face, false);
    if (surface.GetType() == GeomAbs_Plane) return false;
    double first = 0, last = 0;
    const Handle(Geom2d_Curve) stored = BRep_Tool::CurveOnSurface(edge, face, first, last);
    if (stored.IsNull()) return false;
    curve = Handle(Geom2d_Curve)::DownCast(stored->Copy());
    tolerance = BRep_Tool::Tolerance(edge);
    if (sideOf(face) == Side::Crossing && sideOf(edge) == Side::Front)
      curve->Translate(gp_Vec2d(0, way_.Dot(gp_Vec(surface.Cylinder().Axis().Direction()))));
    return true;
  }

  GeomAbs_Shape Continuity(const TopoDS_Edge& edge, const TopoDS_Face& a, const TopoDS_Face& b, const TopoDS_Edge&,
                           const TopoDS_Face&, const TopoDS_Face&) override {
    return BRep_Tool::Continuity(edge, a, b);
  }

 private:
  enum class Side { Front, Behind, Crossing };

  bool isInFront(const gp_Pnt& point) const { return at_.signedDistance(fromPnt(point)) > 0; }

  Side sideOf(const TopoDS_Shape& shape) {
    const auto known = sides_.find(shape);
    if (known != sides_.end()) return known->second;
    int front = 0, all = 0;
    for (TopExp_Explorer it(shape, TopAbs_EDGE); it.More(); it.Next()) {
      if (BRep_Tool::Degenerated(TopoDS::Edge(it.Current()))) continue;
      for (const gp_Pnt& place : placesAlong(TopoDS::Edge(it.Current()))) {
        front += isInFront(place);
        ++all;
      }
    }
    const Side side = front == 0 ? Side::Behind : front == all ? Side::Front : Side::Crossing;
    sides_.emplace(shape, side);
    return side;
  }

  void requireAlong(const TopoDS_Face& face) const {
    const BRepAdaptor_Surface surface(face, false);
    const gp_Dir way(toVec(at_.normal));
    const bool along = surface.GetType() == GeomAbs_Plane
                           ? surface.Plane().Axis().Direction().IsNormal(way, tolerance::sameDirection)
                           : surface.GetType() == GeomAbs_Cylinder &&
                                 surface.Cylinder().Axis().Direction().IsParallel(way, tolerance::sameDirection);
    if (!along) throwNotStraight();
  }
  void requireAlong(const TopoDS_Edge& edge) const {
    const BRepAdaptor_Curve curve(edge);
    if (curve.GetType() != GeomAbs_Line ||
        !curve.Line().Direction().IsParallel(gp_Dir(toVec(at_.normal)), tolerance::sameDirection))
      throwNotStraight();
    if (std::abs(curve.LastParameter() - curve.FirstParameter()) + by_ < tolerance::smallestSize)
      throw Error(say("nothing would be left between its rounds or corners"), "",
                  say("It can become smaller by less than %1 mm",
                      formatNumber(std::abs(curve.LastParameter() - curve.FirstParameter()), 6)));
  }
  [[noreturn]] static void throwNotStraight() {
    throw Error(say("its sides do not run straight that way: it would not keep its form"), "",
                say("Change another size, or close it and cut it again"));
  }

  Plane at_;
  double by_;
  gp_Vec way_;
  ShapeMap<Side> sides_;
};

/// A half of a solid's section through its axis, put together from what its faces are there: (distance from the axis,
/// place along it).
class Outline {
 public:
  struct Stretch {
    TopoDS_Edge edge;
    Origins origins;
    gp_Pnt2d from, to;
  };

  Outline(const Shape& solid, const Axis& axis, double by) : axis_(toPnt(axis.point), toDir(axis.direction)), by_(by) {
    for (const TopoDS_Face& face : facesOf(solid.body().topology)) add(face, factsOf(solid, face).origins);
  }

  /// In order round the half section.
  std::vector<Stretch> ordered() {
    std::vector<Stretch> result;
    // From the axis, or from anywhere if it does not reach it.
    auto first = std::find_if(stretches_.begin(), stretches_.end(), [](const Stretch& each) {
      return each.from.X() < tolerance::samePlace || each.to.X() < tolerance::samePlace;
    });
    if (first == stretches_.end()) first = stretches_.begin();
    gp_Pnt2d end = first->from.X() < tolerance::samePlace ? first->to : first->from;
    result.push_back(*first);
    stretches_.erase(first);
    while (!stretches_.empty()) {
      const auto next = std::find_if(stretches_.begin(), stretches_.end(), [&](const Stretch& each) {
        return each.from.Distance(end) < tolerance::sameLine || each.to.Distance(end) < tolerance::sameLine;
      });
      if (next == stretches_.end()) throwNotRound();
      end = next->from.Distance(end) < tolerance::sameLine ? next->to : next->from;
      result.push_back(*next);
      stretches_.erase(next);
    }
    return result;
  }

  gp_Pnt place(const gp_Pnt2d& at) const {
    return axis_.Location().XYZ() + axis_.XDirection().XYZ() * at.X() + axis_.Direction().XYZ() * at.Y();
  }
  gp_Ax1 axis() const { return axis_.Axis(); }

  [[noreturn]] static void throwNotRound() {
    throw Error(say("it does not go round one axis between flat ends"), "",
                say("Change its width or height, or close it and cut it again"));
  }

 private:
  gp_Pnt2d flat(const gp_Pnt& point) const {
    const gp_Vec way(axis_.Location(), point);
    const double along = way.Dot(gp_Vec(axis_.Direction()));
    return {(way - gp_Vec(axis_.Direction()) * along).Magnitude(), along};
  }

  void add(const TopoDS_Face& face, const Origins& origins) {
    const BRepAdaptor_Surface surface(face, false);
    double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
    BRepTools::UVBounds(face, u0, u1, v0, v1);
    if (surface.GetType() == GeomAbs_Plane) return addFlat(face, surface.Plane(), origins);
    if (!goesRound(surface)) throwNotRound();
    gp_Pnt2d from = flat(surface.Value(u0, v0)), to = flat(surface.Value(u0, v1));
    const gp_Pnt2d middle = flat(surface.Value(u0, (v0 + v1) / 2));
    const bool straight = surface.GetType() == GeomAbs_Cylinder || surface.GetType() == GeomAbs_Cone;
    // The tip of a cone goes on along it until it meets the axis again.
    for (gp_Pnt2d* end : {&from, &to}) {
      gp_Pnt2d& other = end == &from ? to : from;
      if (end->X() < tolerance::samePlace && straight) {
        const double slope = (end->Y() - other.Y()) / (other.X() - end->X());
        *end = gp_Pnt2d(0, end->Y() + slope * by_);
        other.SetX(other.X() + by_);
        return addLine(from, to, origins);
      }
    }
    if (from.X() < tolerance::samePlace || to.X() < tolerance::samePlace) throwNotRound();
    const gp_Vec2d wider(by_, 0);
    if (straight) return addLine(from.Translated(wider), to.Translated(wider), origins);
    addArc(from.Translated(wider), middle.Translated(wider), to.Translated(wider), origins);
  }

  bool goesRound(const BRepAdaptor_Surface& surface) const {
    gp_Ax1 its;
    switch (surface.GetType()) {
      case GeomAbs_Cylinder:
        its = surface.Cylinder().Axis();
        break;
      case GeomAbs_Cone:
        its = surface.Cone().Axis();
        break;
      case GeomAbs_Torus:
        its = surface.Torus().Axis();
        break;
      default:
        return false;
    }
    return gp_Lin(axis_.Axis()).Distance(its.Location()) < tolerance::samePlace &&
           its.IsParallel(axis_.Axis(), tolerance::sameDirection);
  }

  void addFlat(const TopoDS_Face& face, const gp_Pln& plane, const Origins& origins) {
    if (!plane.Axis().IsParallel(axis_.Axis(), tolerance::sameDirection)) throwNotRound();
    double least = Box::infinity, most = 0, height = 0;
    int borders = 0;
    for (TopExp_Explorer it(face, TopAbs_EDGE); it.More(); it.Next()) {
      const BRepAdaptor_Curve curve(TopoDS::Edge(it.Current()));
      if (curve.GetType() != GeomAbs_Circle ||
          gp_Lin(axis_.Axis()).Distance(curve.Circle().Location()) > tolerance::samePlace)
        throwNotRound();
      least = std::min(least, curve.Circle().Radius());
      most = std::max(most, curve.Circle().Radius());
      height = flat(curve.Circle().Location()).Y();
      ++borders;
    }
    addLine({borders > 1 ? least + by_ : 0, height}, {most + by_, height}, origins);
  }

  void requireRoom(const gp_Pnt2d& point) const {
    if (point.X() < -tolerance::rounding)
      throw Error(say("nothing would be left of it"), "", say("Give it a larger diameter"));
  }

  void addLine(const gp_Pnt2d& from, const gp_Pnt2d& to, const Origins& origins) {
    requireRoom(from);
    requireRoom(to);
    stretches_.push_back({BRepBuilderAPI_MakeEdge(place(from), place(to)).Edge(), origins, from, to});
  }
  void addArc(const gp_Pnt2d& from, const gp_Pnt2d& middle, const gp_Pnt2d& to, const Origins& origins);

  gp_Ax2 axis_;
  double by_;
  std::vector<Stretch> stretches_;
};

void Outline::addArc(const gp_Pnt2d& from, const gp_Pnt2d& middle, const gp_Pnt2d& to, const Origins& origins) {
  requireRoom(from);
  requireRoom(to);
  const GC_MakeArcOfCircle arc(place(from), place(middle), place(to));
  if (!arc.IsDone()) throwNotRound();
  stretches_.push_back({BRepBuilderAPI_MakeEdge(arc.Value()).Edge(), origins, from, to});
}

/// The shape with new faces, if it is sound.
Shape soundOrError(const TopoDS_Shape& topology, FaceTable table, Progress& progress) {
  Shape result = makeShape(topology, std::move(table), "face:");
  if (result.volume() < 0) result = makeShape(topology.Reversed(), result.body().faces, "face:");
  if (!findFault(result.body(), progress).empty())
    throw Error(say("its sides would cross each other"), "", say("Change it by less"));
  return result;
}

}  // namespace

Shape stretched(const Shape& solid, const Plane& at, double by) {
  if (by == 0) return solid;
  return kernelCall("stretching an opening", [&] {
    Progress progress;
    BRepTools_Modifier modifier(solid.body().topology, new Stretch(at, by));
    if (!modifier.IsDone()) throw Error(say("the opening could not be stretched"), "", say("Change it by less"));
    FaceTable table;
    for (const auto& [face, facts] : solid.body().faces)
      table.emplace(modifier.ModifiedShape(face), FaceFacts{facts.origins, facts.color});
    return soundOrError(modifier.ModifiedShape(solid.body().topology), std::move(table), progress);
  });
}

Shape widened(const Shape& solid, const Axis& axis, double by) {
  if (by == 0) return solid;
  return kernelCall("widening an opening", [&] {
    Progress progress;
    Outline outline(solid, axis, by);
    const std::vector<Outline::Stretch> stretches = outline.ordered();
    BRepBuilderAPI_MakeWire wire;
    gp_Pnt2d begin = stretches.front().from, end = stretches.front().to;
    if (stretches.size() > 1) {
      const Outline::Stretch& next = stretches[1];
      const auto meets = [&](const gp_Pnt2d& point) {
        return next.from.Distance(point) < tolerance::sameLine || next.to.Distance(point) < tolerance::sameLine;
      };
      if (meets(begin)) std::swap(begin, end);
    }
    for (const Outline::Stretch& each : stretches) {
      wire.Add(each.edge);
      if (&each != &stretches.front()) end = each.from.Distance(end) < tolerance::sameLine ? each.to : each.from;
    }
    if (begin.Distance(end) > tolerance::sameLine)
      wire.Add(BRepBuilderAPI_MakeEdge(outline.place(end), outline.place(begin)).Edge());
    if (!wire.IsDone()) Outline::throwNotRound();
    const BRepBuilderAPI_MakeFace half(wire.Wire(), true);
    if (!half.IsDone()) Outline::throwNotRound();
    BRepPrimAPI_MakeRevol turned(half.Face(), outline.axis());
    FaceTable table;
    for (const Outline::Stretch& each : stretches)
      for (TopExp_Explorer it(wire.Wire(), TopAbs_EDGE); it.More(); it.Next()) {
        const BRepAdaptor_Curve a(TopoDS::Edge(it.Current())), b(each.edge);
        const auto middle = [](const BRepAdaptor_Curve& curve) {
          return curve.Value((curve.FirstParameter() + curve.LastParameter()) / 2);
        };
        if (middle(a).Distance(middle(b)) > tolerance::point) continue;
        for (const TopoDS_Shape& side : turned.Generated(it.Current()))
          table.emplace(side, FaceFacts{each.origins, {}});
      }
    return soundOrError(turned.Shape(), std::move(table), progress);
  });
}

}  // namespace kervo
