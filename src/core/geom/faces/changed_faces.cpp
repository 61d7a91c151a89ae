#include "geom/faces/changed_faces.h"

#include <BRepLib.hxx>
#include <BRepTools_Modification.hxx>
#include <BRepTools_Modifier.hxx>
#include <GeomAdaptor_Surface.hxx>
#include <GeomProjLib.hxx>
#include <Geom_Plane.hxx>
#include <algorithm>
#include <cmath>
#include <optional>

#include "base/say.h"
#include "geom/faces/face_plan.h"
#include "geom/faces/new_surface.h"
#include "geom/kernel/elementary.h"
#include "geom/kernel/topology_body.h"
#include "geom/measure/soundness.h"
#include "geom/place_text.h"

namespace kervo {

namespace {

/// Carries a plan out.
class Change : public BRepTools_Modification {
 public:
  explicit Change(const FacePlan& plan) : plan_(plan) {}

  Standard_Boolean NewSurface(const TopoDS_Face& face, Handle(Geom_Surface) & surface, TopLoc_Location& place,
                              Standard_Real& tolerance, Standard_Boolean& turnWires,
                              Standard_Boolean& turnFace) override {
    if (!plan_.isChanged(face)) return false;
    surface = plan_.surfaceOf(face);
    place = {};
    tolerance = BRep_Tool::Tolerance(face);
    turnWires = turnFace = false;
    return true;
  }
  Standard_Boolean NewCurve(const TopoDS_Edge& edge, Handle(Geom_Curve) & curve, TopLoc_Location& place,
                            Standard_Real& tolerance) override {
    const FacePlan::Placed* placed = plan_.placedFor(edge);
    if (!placed) return false;
    curve = placed->curve;
    place = {};
    tolerance = placed->asBefore ? BRep_Tool::Tolerance(edge) : tolerance::point;
    return true;
  }
  Standard_Boolean NewPoint(const TopoDS_Vertex& corner, gp_Pnt& point, Standard_Real& tolerance) override {
    const gp_Pnt* moved = plan_.pointFor(corner);
    if (!moved) return false;
    point = *moved;
    tolerance = BRep_Tool::Tolerance(corner);
    return true;
  }
  Standard_Boolean NewParameter(const TopoDS_Vertex& corner, const TopoDS_Edge& edge, Standard_Real& parameter,
                                Standard_Real& tolerance) override {
    const FacePlan::Placed* placed = plan_.placedFor(edge);
    if (!placed) return false;
    tolerance = BRep_Tool::Tolerance(corner);
    double first = 0, last = 0;
    BRep_Tool::Range(edge, first, last);
    const double before = BRep_Tool::Parameter(corner, edge);
    parameter = std::abs(before - first) <= std::abs(before - last) ? placed->first : placed->last;
    return true;
  }
  Standard_Boolean NewCurve2d(const TopoDS_Edge& edge, const TopoDS_Face& face, const TopoDS_Edge&, const TopoDS_Face&,
                              Handle(Geom2d_Curve) & curve, Standard_Real& tolerance) override {
    const Handle(Geom_Surface) surface = plan_.surfaceOf(face);
    if (!Handle(Geom_Plane)::DownCast(surface).IsNull()) return false;
    const FacePlan::Placed* placed = plan_.placedFor(edge);
    double first = 0, last = 0;
    const Handle(Geom2d_Curve) old = BRep_Tool::CurveOnSurface(edge, face, first, last);
    tolerance = BRep_Tool::Tolerance(edge);
    if (old.IsNull()) return false;
    if (!placed || BRep_Tool::IsClosed(edge, face)) {
      curve = Handle(Geom2d_Curve)::DownCast(old->Copy());
      return true;
    }
    double from = placed->first, to = placed->last, reached = tolerance::point;
    curve = GeomProjLib::Curve2d(placed->curve, from, to, surface, reached);
    if (curve.IsNull())
      throw Error(say("a new edge near %1 could not be laid onto its face",
                      placeText(fromPnt(placed->curve->Value((from + to) / 2)))),
                  "", say("Change the faces by less"));
    // Of all places that are one on a round surface, where the old one was.
    gp_Pnt2d before = old->Value((first + last) / 2);
    const gp_Pnt2d now = curve->Value((from + to) / 2);
    if (plan_.isReplaced(face)) before = parametersOn(GeomAdaptor_Surface(surface), amidCorners(face)).value_or(now);
    gp_Vec2d shift;
    if (surface->IsUPeriodic())
      shift.SetX(std::round((before.X() - now.X()) / surface->UPeriod()) * surface->UPeriod());
    if (surface->IsVPeriodic())
      shift.SetY(std::round((before.Y() - now.Y()) / surface->VPeriod()) * surface->VPeriod());
    curve->Translate(shift);
    tolerance = tolerance::point;
    return true;
  }
  GeomAbs_Shape Continuity(const TopoDS_Edge& edge, const TopoDS_Face& a, const TopoDS_Face& b, const TopoDS_Edge&,
                           const TopoDS_Face&, const TopoDS_Face&) override {
    return BRep_Tool::Continuity(edge, a, b);
  }

 private:
  const FacePlan& plan_;
};

/// New edges say how far they are from a face that they bound.
void tellTolerances(const TopoDS_Face& face, const ShapeMap<bool>& news) {
  const BRepAdaptor_Surface surface(face, false);
  for (TopExp_Explorer it(face, TopAbs_EDGE); it.More(); it.Next()) {
    const TopoDS_Edge& edge = TopoDS::Edge(it.Current());
    if (!news.contains(edge)) continue;
    double from = 0, to = 0, first = 0, last = 0, worst = 0;
    const Handle(Geom_Curve) curve = BRep_Tool::Curve(edge, from, to);
    const bool flat = surface.GetType() == GeomAbs_Plane;
    const Handle(Geom2d_Curve) image =
        flat ? Handle(Geom2d_Curve)() : BRep_Tool::CurveOnSurface(edge, face, first, last);
    constexpr int places = 45;
    for (int i = 0; i <= places; ++i) {
      const double at = from + (to - from) * i / places;
      const gp_Pnt place = curve->Value(at);
      if (flat) {
        worst = std::max(worst, surface.Plane().Distance(place));
      } else if (!image.IsNull()) {
        const gp_Pnt2d on = image->Value(at);
        worst = std::max(worst, surface.Value(on.X(), on.Y()).Distance(place));
      }
    }
    if (worst > tolerance::looseEdge)
      throw Error(say("a new edge near %1 could not be found exactly enough", placeText(fromPnt(curve->Value(from)))),
                  "", say("Change the faces by a slightly different distance"));
    constexpr double margin = 1.5;
    BRep_Builder().UpdateEdge(edge, std::max(worst * margin, tolerance::point));
  }
}

}  // namespace

Shape withFacesChanged(const Shape& body, const std::map<int, FaceChange>& changes, Progress& progress) {
  if (changes.empty()) return body;
  return kernelCall("changing faces", [&] {
    // All alike and as a whole, it is a motion.
    const bool all = changes.size() == static_cast<std::size_t>(body.faceCount());
    if (all && std::all_of(changes.begin(), changes.end(),
                           [&](const auto& each) { return sameMotion(each.second, changes.begin()->second); }))
      return moved(body, changes.begin()->second.motion);
    const FacePlan plan(body, changes);
    progress.throwIfStopped();
    BRepTools_Modifier modifier(body.body().topology, new Change(plan));
    if (!modifier.IsDone())
      throw Error(say("the faces could not be changed"), "", say("Change them by less, or fewer at once"));
    ShapeMap<bool> news;
    for (const TopoDS_Edge& edge : plan.newEdges()) news[modifier.ModifiedShape(edge)] = true;
    for (const auto& [face, facts] : body.body().faces)
      tellTolerances(TopoDS::Face(modifier.ModifiedShape(face)), news);
    // Corners are as loose as the edges that end in them.
    BRepLib::UpdateTolerances(modifier.ModifiedShape(body.body().topology));
    FaceTable table;
    for (const auto& [face, facts] : body.body().faces) {
      const TopoDS_Shape& image = modifier.ModifiedShape(face);
      table.emplace(image, image.IsSame(face) ? facts : FaceFacts{facts.origins, facts.color});
    }
    Shape result = makeShape(modifier.ModifiedShape(body.body().topology), std::move(table), "face:");
    std::string fault = findFault(result.body(), progress);
    if (fault.empty())
      if (const auto crossing = selfCrossingOf(result, progress)) fault = crossing->text();
    if (!fault.empty())
      throw Error(say("the faces do not fit together there: %1", fault), "",
                  say("Change them by less, or pick the faces beside them as well"));
    return result;
  });
}

std::set<int> roundsBeside(const Shape& body, const std::set<int>& faces) {
  const FaceNet net(body);
  std::set<int> rounds;
  for (const BorderEdge& edge : net.edges()) {
    if (!edge.smooth || edge.twin < 0 || !faces.contains(edge.face)) continue;
    const int other = net.edge(edge.twin).face;
    if (!faces.contains(other) && !net.faces()[static_cast<std::size_t>(other)].plane()) rounds.insert(other);
  }
  return rounds;
}

}  // namespace kervo
