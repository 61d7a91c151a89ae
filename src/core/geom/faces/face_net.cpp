#include "geom/faces/face_net.h"

#include <GeomAbs_SurfaceType.hxx>
#include <cmath>
#include <numbers>
#include <numeric>
#include <optional>

#include "geom/kernel/elementary.h"
#include "geom/kernel/topology_body.h"

namespace kervo {

namespace {

/// Sheets that meet at less than this are smooth there; files of other programs are this far off.
constexpr double smoothAngle = 0.01;
/// Bends of surfaces below this, in 1/mm, are flat.
constexpr double flatBend = 1e-7;
constexpr int samplesOfCurve = 16;

/// A face at places of its border.
class FaceSide {
 public:
  explicit FaceSide(const TopoDS_Face& face)
      : face_(face), surface_(face, false), sign_(face.Orientation() == TopAbs_REVERSED ? -1 : 1) {}

  const BRepAdaptor_Surface& surface() const { return surface_; }
  double sign() const { return sign_; }

  gp_Pnt2d parametersAt(const TopoDS_Edge& edge, double t, const gp_Pnt& place) const {
    if (const auto found = parametersOn(surface_, place)) return *found;
    double first = 0, last = 0;
    const Handle(Geom2d_Curve) curve = BRep_Tool::CurveOnSurface(edge, face_, first, last);
    return curve.IsNull() ? gp_Pnt2d() : curve->Value(t);
  }
  /// Outward, of unit length; none at a pole.
  gp_Vec normalAt(const gp_Pnt2d& at) const {
    gp_Pnt place;
    gp_Vec u, v;
    surface_.D1(at.X(), at.Y(), place, u, v);
    const gp_Vec normal = u.Crossed(v);
    const double size = normal.Magnitude();
    return size < tolerance::direction ? gp_Vec() : normal * (sign_ / size);
  }
  /// How it bends along a direction in it, in 1/mm; above zero: towards the outside.
  double bendAlong(const gp_Pnt2d& at, const gp_Vec& way) const {
    gp_Pnt place;
    gp_Vec u, v, uu, vv, uv;
    surface_.D2(at.X(), at.Y(), place, u, v, uu, vv, uv);
    const double e = u.Dot(u), f = u.Dot(v), g = v.Dot(v), determinant = e * g - f * f;
    if (determinant < tolerance::finest) return 0;
    const double a = (way.Dot(u) * g - way.Dot(v) * f) / determinant;
    const double b = (way.Dot(v) * e - way.Dot(u) * f) / determinant;
    return (uu * (a * a) + uv * (2 * a * b) + vv * (b * b)).Dot(normalAt(at));
  }

 private:
  TopoDS_Face face_;
  BRepAdaptor_Surface surface_;
  double sign_;
};

/// A place on an edge and the direction that it runs there, by its orientation.
struct OnEdge {
  double parameter;
  gp_Pnt place;
  gp_Vec way;
};

OnEdge onEdge(const TopoDS_Edge& edge, const BRepAdaptor_Curve& curve, double share) {
  const bool reversed = edge.Orientation() == TopAbs_REVERSED;
  const double from = reversed ? curve.LastParameter() : curve.FirstParameter();
  const double to = reversed ? curve.FirstParameter() : curve.LastParameter();
  OnEdge result{from + (to - from) * share, {}, {}};
  curve.D1(result.parameter, result.place, result.way);
  const double size = result.way.Magnitude();
  if (size > tolerance::direction) result.way *= (reversed ? -1 : 1) / size;
  return result;
}

double angleAbout(const gp_Vec& normal, const gp_Vec& from, const gp_Vec& to) {
  return std::atan2(from.Crossed(to).Dot(normal), from.Dot(to));
}

class Sets {
 public:
  explicit Sets(std::size_t count) : parent_(count) { std::iota(parent_.begin(), parent_.end(), 0); }
  int of(int i) {
    while (parent_[static_cast<std::size_t>(i)] != i) i = parent_[static_cast<std::size_t>(i)];
    return i;
  }
  void join(int a, int b) { parent_[static_cast<std::size_t>(of(a))] = of(b); }

 private:
  std::vector<int> parent_;
};

}  // namespace

std::vector<gp_Pnt> placesAlong(const TopoDS_Edge& edge) {
  const BRepAdaptor_Curve curve(edge);
  const int steps = curve.GetType() == GeomAbs_Line ? 1 : samplesOfCurve;
  std::vector<gp_Pnt> places;
  for (int i = 0; i <= steps; ++i) places.push_back(onEdge(edge, curve, static_cast<double>(i) / steps).place);
  return places;
}

/// An edge as one face has it.
struct FaceNet::Use {
  TopoDS_Edge edge;
  int face;
  int other = -1;  // the use by the face on the other side
  EdgeBend bend = EdgeBend::Flat;
  bool smooth = false;
};

FaceNet::FaceNet(const Shape& shape) : faces_(kervo::facesOf(shape)) {
  kernelCall("reading the faces", [&] {
    std::vector<Use> uses;
    ShapeMap<std::vector<int>> usesOf;
    std::vector<FaceSide> sides;
    for (std::size_t f = 0; f < faces_.size(); ++f) {
      const TopoDS_Face& face = faces_[f].body().face;
      sides.emplace_back(face);
      for (TopExp_Explorer it(face, TopAbs_EDGE); it.More(); it.Next()) {
        const TopoDS_Edge& edge = TopoDS::Edge(it.Current());
        if (BRep_Tool::Degenerated(edge)) continue;
        usesOf[edge].push_back(static_cast<int>(uses.size()));
        uses.push_back({edge, static_cast<int>(f)});
      }
    }
    for (const auto& [edge, pair] : usesOf) {
      if (pair.size() != 2) continue;
      Use& a = uses[static_cast<std::size_t>(pair[0])];
      Use& b = uses[static_cast<std::size_t>(pair[1])];
      a.other = pair[1];
      b.other = pair[0];
      if (a.face == b.face) {
        a.smooth = b.smooth = true;
        continue;
      }
      const OnEdge middle = onEdge(a.edge, BRepAdaptor_Curve(a.edge), 0.5);
      const FaceSide& sideA = sides[static_cast<std::size_t>(a.face)];
      const FaceSide& sideB = sides[static_cast<std::size_t>(b.face)];
      const gp_Pnt2d atA = sideA.parametersAt(a.edge, middle.parameter, middle.place);
      const gp_Pnt2d atB = sideB.parametersAt(b.edge, middle.parameter, middle.place);
      const gp_Vec normalA = sideA.normalAt(atA), normalB = sideB.normalAt(atB), into = normalA.Crossed(middle.way);
      const double angle = std::atan2(normalB.Dot(into), normalA.Dot(normalB));
      a.smooth = b.smooth = std::abs(angle) < smoothAngle;
      const double bend = a.smooth ? sideA.bendAlong(atA, into) + sideB.bendAlong(atB, into) : angle;
      const double flat = a.smooth ? flatBend : 0;
      a.bend = b.bend = bend > flat ? EdgeBend::Concave : bend < -flat ? EdgeBend::Convex : EdgeBend::Flat;
    }
    findSheets(uses, usesOf);
    findBorders(usesOf, uses);
  });
}

void FaceNet::findSheets(const std::vector<Use>& uses, const ShapeMap<std::vector<int>>& usesOf) {
  Sets sets(faces_.size());
  for (const auto& [edge, pair] : usesOf) {
    if (pair.size() != 2) continue;
    const Use& a = uses[static_cast<std::size_t>(pair[0])];
    const Use& b = uses[static_cast<std::size_t>(pair[1])];
    if (a.face == b.face || !a.smooth || sets.of(a.face) == sets.of(b.face)) continue;
    if (faces_[static_cast<std::size_t>(a.face)].onSameSurface(faces_[static_cast<std::size_t>(b.face)]))
      sets.join(a.face, b.face);
  }
  sheetOf_.assign(faces_.size(), -1);
  std::vector<int> numberOf(faces_.size(), -1);
  for (int f = 0; f < static_cast<int>(faces_.size()); ++f) {
    int& number = numberOf[static_cast<std::size_t>(sets.of(f))];
    if (number < 0) {
      number = static_cast<int>(sheets_.size());
      sheets_.emplace_back();
    }
    sheetOf_[static_cast<std::size_t>(f)] = number;
    sheets_[static_cast<std::size_t>(number)].push_back(f);
  }
}

void FaceNet::findBorders(const ShapeMap<std::vector<int>>& usesOf, const std::vector<Use>& uses) {
  std::vector<int> numberOf(uses.size(), -1);
  std::vector<std::vector<int>> ofSheet(sheets_.size());
  for (std::size_t u = 0; u < uses.size(); ++u) {
    const Use& use = uses[u];
    const int sheet = sheetOf(use.face);
    const int beyond = use.other < 0 ? -1 : sheetOf(uses[static_cast<std::size_t>(use.other)].face);
    if (beyond == sheet || usesOf.at(use.edge).size() > 2) continue;
    numberOf[u] = static_cast<int>(edges_.size());
    ofSheet[static_cast<std::size_t>(sheet)].push_back(numberOf[u]);
    edges_.push_back({use.edge, use.face, sheet, beyond, -1, use.bend, use.smooth});
  }
  for (std::size_t u = 0; u < uses.size(); ++u)
    if (numberOf[u] >= 0 && uses[u].other >= 0)
      edges_[static_cast<std::size_t>(numberOf[u])].twin = numberOf[static_cast<std::size_t>(uses[u].other)];
  bordersOf_.resize(sheets_.size());
  std::vector<char> taken(edges_.size(), 0);
  for (std::size_t s = 0; s < sheets_.size(); ++s) {
    ShapeMap<std::vector<int>> startingAt;
    for (const int e : ofSheet[s]) startingAt[TopExp::FirstVertex(edge(e).edge, true)].push_back(e);
    const auto turnTo = [&](int from, int to) {
      const TopoDS_Edge &a = edge(from).edge, &b = edge(to).edge;
      const OnEdge end = onEdge(a, BRepAdaptor_Curve(a), 1), start = onEdge(b, BRepAdaptor_Curve(b), 0);
      const FaceSide own(faces_[static_cast<std::size_t>(edge(from).face)].body().face);
      return angleAbout(own.normalAt(own.parametersAt(a, end.parameter, end.place)), end.way, start.way);
    };
    for (const int begin : ofSheet[s]) {
      if (taken[static_cast<std::size_t>(begin)]) continue;
      SheetBorder border{static_cast<int>(s), {}, false};
      int at = begin;
      while (at >= 0 && !taken[static_cast<std::size_t>(at)]) {
        taken[static_cast<std::size_t>(at)] = 1;
        border.edges.push_back(at);
        const auto candidates = startingAt.find(TopExp::LastVertex(edge(at).edge, true));
        int next = -1;
        double sharpest = -4;
        if (candidates != startingAt.end())
          for (const int each : candidates->second) {
            if (taken[static_cast<std::size_t>(each)] && each != begin) continue;
            // Borders that touch are parted at the sharpest turn to the left.
            const double turn = turnTo(at, each);
            if (turn > sharpest) sharpest = turn, next = each;
          }
        if (next >= 0) edges_[static_cast<std::size_t>(at)].turnAtEnd = sharpest;
        at = next;
      }
      for (const int e : border.edges) {
        BorderEdge& each = edges_[static_cast<std::size_t>(e)];
        const BRepAdaptor_Curve curve(each.edge);
        if (curve.GetType() == GeomAbs_Line) continue;
        const FaceSide own(faces_[static_cast<std::size_t>(each.face)].body().face);
        for (int i = 0; i < samplesOfCurve; ++i) {
          const OnEdge a = onEdge(each.edge, curve, static_cast<double>(i) / samplesOfCurve);
          const OnEdge b = onEdge(each.edge, curve, static_cast<double>(i + 1) / samplesOfCurve);
          each.turn += angleAbout(own.normalAt(own.parametersAt(each.edge, a.parameter, a.place)), a.way, b.way);
        }
      }
      bordersOf_[s].push_back(static_cast<int>(borders_.size()));
      borders_.push_back(std::move(border));
      borders_.back().inner = runsRoundHole(borders_.back());
    }
  }
}

bool FaceNet::runsRoundHole(const SheetBorder& border) const {
  const FaceSide side(faceOf(border.sheet).body().face);
  const BRepAdaptor_Surface& surface = side.surface();
  const bool plane = surface.GetType() == GeomAbs_Plane;
  const double periodU = plane ? 0 : surface.IsUPeriodic() ? surface.UPeriod() : 0;
  const double periodV = plane ? 0 : surface.IsVPeriodic() ? surface.VPeriod() : 0;
  const auto nearest = [](double value, double to, double period) {
    return period > 0 ? value + std::round((to - value) / period) * period : value;
  };
  double area = 0, height = 0;
  int count = 0;
  std::optional<gp_Pnt2d> start, last;
  const auto add = [&](gp_Pnt2d at) {
    if (last) {
      at = {nearest(at.X(), last->X(), periodU), nearest(at.Y(), last->Y(), periodV)};
      area += (last->X() * at.Y() - last->Y() * at.X()) / 2;
    } else {
      start = at;
    }
    last = at;
    height += at.Y();
    ++count;
  };
  for (const int e : border.edges) {
    const TopoDS_Edge& each = edge(e).edge;
    const BRepAdaptor_Curve curve(each);
    const FaceSide own(faces_[static_cast<std::size_t>(edge(e).face)].body().face);
    const int steps = plane && curve.GetType() == GeomAbs_Line ? 1 : samplesOfCurve;
    for (int i = 0; i <= steps; ++i) {
      const OnEdge at = onEdge(each, curve, static_cast<double>(i) / steps);
      const auto onFirst = parametersOn(surface, at.place);
      add(onFirst ? *onFirst : own.parametersAt(each, at.parameter, at.place));
    }
  }
  if (!start || !last) return false;
  const double acrossU = last->X() - start->X(), acrossV = last->Y() - start->Y();
  area += (last->X() * start->Y() - last->Y() * start->X()) / 2;
  const bool wraps =
      (periodU > 0 && std::abs(acrossU) > periodU / 2) || (periodV > 0 && std::abs(acrossV) > periodV / 2);
  if (!wraps) return area * side.sign() < 0;
  if (surface.GetType() != GeomAbs_Sphere) return false;
  // The sheet lies above a border that runs towards growing angles; what is left out of the ball must be a small cap.
  constexpr double clearly = 0.1;
  return acrossU * side.sign() > 0 ? height / count < -clearly : height / count > clearly;
}

bool FaceNet::onSameSurface(int sheet, int other) const {
  return sheet == other || (sheet >= 0 && other >= 0 && faceOf(sheet).onSameSurface(faceOf(other)));
}

}  // namespace kervo
