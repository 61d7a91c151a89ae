#include "geom/faces/face_plan.h"

#include <Eigen/Dense>
#include <GeomAPI_ProjectPointOnCurve.hxx>
#include <Geom_Circle.hxx>
#include <Geom_Line.hxx>
#include <algorithm>
#include <cmath>

#include "base/say.h"
#include "geom/faces/new_surface.h"
#include "geom/faces/surface_meeting.h"
#include "geom/kernel/topology_body.h"
#include "geom/place_text.h"

namespace kervo {

namespace {

bool sameMotion(const Motion& a, const Motion& b) {
  for (std::size_t i = 0; i < 3; ++i)
    if (length(a.rows()[i] - b.rows()[i]) > tolerance::parallel) return false;
  return length(a.moving() - b.moving()) <= tolerance::rounding * std::max(1.0, length(a.moving()));
}

[[noreturn]] void throwNoMeeting(const gp_Pnt& place) {
  throw Error(say("the faces would not meet any more near %1", placeText(fromPnt(place))), "",
              say("Change them by less, or pick the faces beside them as well"));
}

}  // namespace

bool sameMotion(const FaceChange& a, const FaceChange& b) {
  return a.isMotion() && b.isMotion() && sameMotion(a.motion, b.motion);
}

const TopoDS_Face& FacePlan::faceAt(int number) const {
  return faces_.at(static_cast<std::size_t>(number)).body().face;
}

Handle(Geom_Curve) FacePlan::transformed(const TopoDS_Edge& edge, const Motion& motion) {
  double first = 0, last = 0;
  return Handle(Geom_Curve)::DownCast(BRep_Tool::Curve(edge, first, last)->Transformed(toTrsf(motion)));
}

FacePlan::FacePlan(const Shape& body, const std::map<int, FaceChange>& changes)
    : faces_(kervo::facesOf(body)), net_(body), changes_(changes) {
  for (std::size_t f = 0; f < faces_.size(); ++f) {
    const TopoDS_Face& face = faces_[f].body().face;
    number_[face] = static_cast<int>(f);
    for (TopExp_Explorer it(face, TopAbs_EDGE); it.More(); it.Next()) add(edges_[it.Current()], static_cast<int>(f));
    for (TopExp_Explorer it(face, TopAbs_VERTEX); it.More(); it.Next())
      add(corners_[it.Current()], static_cast<int>(f));
  }
  for (const BorderEdge& edge : net_.edges())
    if (edge.smooth) smooth_[edge.edge] = true;
  takeRoundsAlong();
  for (const auto& [number, change] : changes_) {
    const TopoDS_Face& face = faceAt(number);
    surfaces_[face] = newSurface(face, change);
    for (TopExp_Explorer it(face, TopAbs_VERTEX); it.More(); it.Next()) moving_[it.Current()] = true;
  }
  findCurves();
  for (const auto& [corner, is] : moving_) points_[corner] = pointOf(TopoDS::Vertex(corner));
  for (const auto& [edge, around] : edges_) placeEdge(TopoDS::Edge(edge));
}

std::vector<TopoDS_Edge> FacePlan::newEdges() const {
  std::vector<TopoDS_Edge> edges;
  for (const auto& [edge, placed] : placed_)
    if (!placed.asBefore) edges.push_back(TopoDS::Edge(edge));
  return edges;
}

void FacePlan::takeRoundsAlong() {
  std::set<int> tried, taken;
  for (bool more = true; more;) {
    more = false;
    for (const BorderEdge& edge : net_.edges()) {
      if (!edge.smooth || edge.twin < 0) continue;
      const int round = net_.edge(edge.twin).face;
      if (!changes_.contains(edge.face) || changes_.contains(round) || tried.contains(round)) continue;
      tried.insert(round);
      if (faces_[static_cast<std::size_t>(round)].plane()) continue;
      const Vector way = roundMotion(round, false);
      if (length(way) < tolerance::rounding) continue;
      changes_[round] = {Motion::by(way), 0, {}};
      taken.insert(round);
      more = true;
    }
  }
  // Together they must still touch each other.
  for (const int round : taken)
    if (length(roundMotion(round, true) - changes_.at(round).motion.moving()) > tolerance::samePlace)
      throw Error(
          say("the rounds near %1 would part", placeText(faces_[static_cast<std::size_t>(round)].samplePoint())), "",
          say("Pick their neighbours as well, or remove the rounds first"));
}

void FacePlan::addWishes(int neighbour, std::vector<std::pair<Vector, double>>& rows) const {
  const FaceChange* change = changeOf(neighbour);
  const Vector moves = change ? change->motion.moving() : Vector();
  if (change && (change->onto || !sameMotion(change->motion, Motion::by(moves))))
    throw Error(say("a round beside a face that is turned or replaced cannot go with it"), "",
                say("Remove the round first, and round the edge again"));
  const Face& face = faces_[static_cast<std::size_t>(neighbour)];
  if (const auto plane = face.plane()) {
    rows.emplace_back(plane->normal, dot(plane->normal, moves) + (change ? change->outwards : 0));
  } else if (const auto axis = face.axis()) {
    const Plane across = Plane::through({}, axis->direction);
    rows.emplace_back(across.x, dot(across.x, moves));
    rows.emplace_back(across.y, dot(across.y, moves));
  } else {
    for (const Vector way : {Vector{1, 0, 0}, Vector{0, 1, 0}, Vector{0, 0, 1}})
      rows.emplace_back(way, dot(way, moves));
  }
}

Vector FacePlan::roundMotion(int round, bool all) const {
  std::vector<std::pair<Vector, double>> rows;
  for (const BorderEdge& edge : net_.edges()) {
    if (!edge.smooth || edge.face != round || edge.twin < 0) continue;
    const int neighbour = net_.edge(edge.twin).face;
    if (all || changes_.contains(neighbour) || faces_[static_cast<std::size_t>(neighbour)].plane())
      addWishes(neighbour, rows);
  }
  Eigen::MatrixXd matrix(static_cast<Eigen::Index>(rows.size()), 3);
  Eigen::VectorXd wanted(static_cast<Eigen::Index>(rows.size()));
  for (std::size_t i = 0; i < rows.size(); ++i) {
    const auto row = static_cast<Eigen::Index>(i);
    matrix.row(row) << rows[i].first.x, rows[i].first.y, rows[i].first.z;
    wanted(row) = rows[i].second;
  }
  const Eigen::Vector3d way = matrix.completeOrthogonalDecomposition().solve(wanted);
  if ((matrix * way - wanted).norm() > tolerance::samePlace)
    throw Error(say("the round near %1 cannot keep its radius between its neighbours",
                    placeText(faces_[static_cast<std::size_t>(round)].samplePoint())),
                "", say("Pick its neighbours as well, or remove the round first"));
  return {way.x(), way.y(), way.z()};
}

void FacePlan::findCurves() {
  for (const auto& [shape, around] : edges_) {
    const TopoDS_Edge& edge = TopoDS::Edge(shape);
    if (BRep_Tool::Degenerated(edge)) continue;
    const FaceChange* a = changeOf(around.faces.front());
    const FaceChange* b = changeOf(around.faces.back());
    if (!a && !b) continue;
    if (around.faces.size() == 1) {
      known_[edge] = ofOneFace(edge, around.faces.front(), *a);
    } else if (a && b && sameMotion(*a, *b)) {
      known_[edge] = transformed(edge, a->motion);
    } else if (smooth_.contains(edge)) {
      // It belongs to the round, of two rounds to either.
      const bool second = faces_[static_cast<std::size_t>(around.faces.front())].plane().has_value();
      const FaceChange* round = second ? b : a;
      known_[edge] = transformed(edge, round ? round->motion : Motion());
    }
  }
}

Handle(Geom_Curve) FacePlan::ofOneFace(const TopoDS_Edge& edge, int face, const FaceChange& change) const {
  if (change.isMotion()) return transformed(edge, change.motion);
  if (change.onto)
    throw Error(say("a face that goes all round cannot take another surface over"), "",
                say("Give it a radius instead"));
  // Its parameters on the surface stay: lines move aside, circles change their radius.
  double first = 0, last = 0;
  const Handle(Geom_Curve) before = Handle(Geom_Curve)::DownCast(BRep_Tool::Curve(edge, first, last)->Copy());
  const Handle(Geom2d_Curve) flat = BRep_Tool::CurveOnSurface(edge, faceAt(face), first, last);
  const gp_Pnt old = before->Value(first);
  if (flat.IsNull()) throwNoMeeting(old);
  const gp_Pnt2d at = flat->Value(first);
  const gp_Pnt now = surfaces_.at(faceAt(face))->Value(at.X(), at.Y());
  if (before->IsKind(STANDARD_TYPE(Geom_Line)))
    before->Translate(old, now);
  else if (const auto circle = Handle(Geom_Circle)::DownCast(before); !circle.IsNull())
    circle->SetRadius(circle->Location().Distance(now));
  else
    throwNoMeeting(old);
  return before;
}

gp_Pnt FacePlan::pointOf(const TopoDS_Vertex& corner) const {
  const std::vector<int>& around = corners_.at(corner).faces;
  const gp_Pnt old = BRep_Tool::Pnt(corner);
  const FaceChange* first = nullptr;
  std::vector<Handle(Geom_Surface)> surfaces;
  for (const int face : around) {
    if (!first) first = changeOf(face);
    surfaces.push_back(surfaceOf(faceAt(face)));
  }
  if (!first) return old;
  const bool alike = std::all_of(around.begin(), around.end(), [&](int face) {
    const FaceChange* change = changeOf(face);
    return change && sameMotion(*change, *first);
  });
  const gp_Pnt start = old.Transformed(toTrsf(first->motion));
  if (alike) return start;
  std::vector<Bound> bounds;
  for (const auto& [edge, curve] : known_) {
    const bool seam = edges_.at(edge).faces.size() == 1;
    if (!seam && !smooth_.contains(edge)) continue;
    for (TopExp_Explorer it(edge, TopAbs_VERTEX); it.More(); it.Next())
      if (it.Current().IsSame(corner)) {
        bounds.push_back({curve});
        break;
      }
  }
  const auto found = pointOnAll(surfaces, bounds, start);
  if (!found) throwNoMeeting(old);
  return *found;
}

void FacePlan::placeEdge(const TopoDS_Edge& edge) {
  if (BRep_Tool::Degenerated(edge)) return;
  const Around& around = edges_.at(edge);
  const TopoDS_Vertex first = TopExp::FirstVertex(edge), last = TopExp::LastVertex(edge);
  const bool changes = std::any_of(around.faces.begin(), around.faces.end(), [&](int f) { return changeOf(f); });
  if (!changes && !moving_.contains(first) && !moving_.contains(last)) return;
  Placed placed;
  double from = 0, to = 0;
  const Handle(Geom_Curve) old = BRep_Tool::Curve(edge, from, to);
  const gp_Pnt oldFirst = BRep_Tool::Pnt(first), oldLast = BRep_Tool::Pnt(last), middle = old->Value((from + to) / 2);
  const gp_Pnt newFirst = pointFor(first) ? *pointFor(first) : oldFirst;
  const gp_Pnt newLast = pointFor(last) ? *pointFor(last) : oldLast;
  const gp_Pnt near(middle.XYZ() + (newFirst.XYZ() - oldFirst.XYZ() + newLast.XYZ() - oldLast.XYZ()) / 2);
  if (const auto known = known_.find(edge); known != known_.end()) {
    placed.curve = known->second;
  } else if (!changes) {
    placed.curve = old;
  } else {
    placed.asBefore = false;
    placed.curve = curveOfBoth(surfaceOf(faceAt(around.faces.front())), surfaceOf(faceAt(around.faces.back())), near);
    if (placed.curve.IsNull()) throwNoMeeting(middle);
  }
  if (first.IsSame(last))
    placeClosed(placed, old, from, to, near, newFirst);
  else
    placeOpen(placed, old, from, to, near, newFirst, newLast);
  placed_[edge] = placed;
}

double FacePlan::parameterOn(const Handle(Geom_Curve) & curve, const gp_Pnt& point) {
  const GeomAPI_ProjectPointOnCurve nearest(point, curve);
  double best = 0, distance = Box::infinity;
  if (nearest.NbPoints() > 0) {
    best = nearest.LowerDistanceParameter();
    distance = nearest.LowerDistance();
  }
  for (const double end : {curve->FirstParameter(), curve->LastParameter()})
    if (!Precision::IsInfinite(end) && curve->Value(end).Distance(point) < distance) {
      best = end;
      distance = curve->Value(end).Distance(point);
    }
  if (distance > tolerance::sameLine) throwNoMeeting(point);
  return best;
}

bool FacePlan::runsAlong(const Handle(Geom_Curve) & curve, double at, const Handle(Geom_Curve) & old, double oldAt) {
  gp_Pnt place;
  gp_Vec way, before;
  curve->D1(at, place, way);
  old->D1(oldAt, place, before);
  return way.Dot(before) > 0;
}

void FacePlan::placeClosed(Placed& placed, const Handle(Geom_Curve) & old, double from, double to, const gp_Pnt& near,
                           const gp_Pnt& start) {
  if (placed.asBefore) {
    placed.first = from;
    placed.last = to;
    return;
  }
  const GeomAPI_ProjectPointOnCurve nearest(near, placed.curve);
  if (nearest.NbPoints() > 0 && !runsAlong(placed.curve, nearest.LowerDistanceParameter(), old, (from + to) / 2))
    placed.curve = placed.curve->Reversed();
  if (!placed.curve->IsPeriodic()) throwNoMeeting(start);
  placed.first = parameterOn(placed.curve, start);
  placed.last = placed.first + placed.curve->Period();
}

void FacePlan::placeOpen(Placed& placed, const Handle(Geom_Curve) & old, double from, double to, const gp_Pnt& near,
                         const gp_Pnt& start, const gp_Pnt& end) {
  for (const bool reversed : {false, true}) {
    if (reversed && placed.asBefore) break;
    const Handle(Geom_Curve) curve = reversed ? placed.curve->Reversed() : placed.curve;
    double first = parameterOn(curve, start), last = parameterOn(curve, end);
    if (curve->IsPeriodic()) {
      if (placed.asBefore) first += std::round((from - first) / curve->Period()) * curve->Period();
      while (last < first + tolerance::parameterStep) last += curve->Period();
      while (last > first + curve->Period()) last -= curve->Period();
    }
    const double middle = (first + last) / 2;
    const bool straight = !curve->IsPeriodic();
    if (last - first < tolerance::parameterStep) continue;
    // Of the two ways round a circle, that on which the edge was; a line runs as it did.
    if (straight && !runsAlong(curve, middle, old, (from + to) / 2)) continue;
    if (!straight && curve->Value(middle).Distance(near) > curve->Value(middle + curve->Period() / 2).Distance(near))
      continue;
    placed.curve = curve;
    placed.first = first;
    placed.last = last;
    return;
  }
  throw Error(say("an edge near %1 would vanish or turn round", placeText(fromPnt(near))), "",
              say("Change the faces by less, or remove those that would be passed first"));
}

}  // namespace kervo
