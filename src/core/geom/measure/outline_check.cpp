#include "geom/measure/outline_check.h"

#include <BRep_CurveRepresentation.hxx>
#include <BRep_TEdge.hxx>
#include <ElSLib.hxx>
#include <Geom2dAdaptor_Curve.hxx>
#include <Geom2d_Curve.hxx>
#include <TopoDS_Iterator.hxx>
#include <cmath>
#include <numbers>

#include "geom/planes.h"
#include "geom/sweep/profile.h"

namespace kervo {

namespace {

/// Looser edges are left to the analyzer, and edges must keep this far apart.
constexpr double tight = 1e-6;

/// One edge in the coordinates of the plane, or of the unrolled cylinder, from its first corner to its last as the
/// outline runs.
struct Side {
  PlanePoint from, to;
  TopoDS_Edge edge;
  TopoDS_Vertex first, last;
  bool arc = false;
  PlanePoint centre;
  double radius = 0;
  double start = 0, sweep = 0;  ///< angle of `from`, and signed by how much it turns
  Box box;

  PlanePoint middle() const {
    if (!arc) return {(from.u + to.u) / 2, (from.v + to.v) / 2};
    const double angle = start + sweep / 2;
    return {centre.u + radius * std::cos(angle), centre.v + radius * std::sin(angle)};
  }
  bool holdsAngleOf(PlanePoint point) const {
    const PlanePoint spoke = point - centre;
    double turn = std::atan2(spoke.v, spoke.u) - start;
    if (sweep < 0) turn = -turn;
    turn = std::fmod(turn + 4 * std::numbers::pi, 2 * std::numbers::pi);
    return turn < std::abs(sweep);
  }
  /// The side's own point, if that point of its line or circle lies on it.
  bool holds(PlanePoint point) const {
    if (arc) return holdsAngleOf(point);
    const PlanePoint along = to - from;
    const double t = dot(point - from, along);
    return t >= 0 && t <= dot(along, along);
  }
};

class Outline {
 public:
  explicit Outline(const TopoDS_Face& face) : face_(TopoDS::Face(face.Oriented(TopAbs_FORWARD))) {}

  bool proven() { return read() && runsRoundOnce() && nowhereMeetsItself(); }

 private:
  bool read() {
    const BRepAdaptor_Surface surface(face_, false);
    round_ = surface.GetType() == GeomAbs_Cylinder;
    if (round_)
      cylinder_ = surface.Cylinder();
    else if (surface.GetType() == GeomAbs_Plane)
      plane_ = surface.Plane();
    else
      return false;
    TopoDS_Iterator wires(face_);
    if (!wires.More()) return false;
    const TopoDS_Shape wire = wires.Value();
    wires.Next();
    if (wires.More() || wire.ShapeType() != TopAbs_WIRE) return false;
    for (TopoDS_Iterator it(wire); it.More(); it.Next())
      if (!addSide(TopoDS::Edge(it.Value()))) return false;
    return sides_.size() > 1 && (!round_ || staysWithinOneTurn());
  }

  PlanePoint inPlane(const gp_Pnt& point) const {
    PlanePoint result;
    ElSLib::Parameters(plane_, point, result.u, result.v);
    return result;
  }

  bool addSide(const TopoDS_Edge& edge) {
    if (edge.Orientation() != TopAbs_FORWARD && edge.Orientation() != TopAbs_REVERSED) return false;
    if (BRep_Tool::Degenerated(edge) || BRep_Tool::Tolerance(edge) > tight) return false;
    const BRepAdaptor_Curve curve(edge);
    if (curve.GetType() != GeomAbs_Circle && curve.GetType() != GeomAbs_Line) return false;
    Side side;
    double begin = curve.FirstParameter(), end = curve.LastParameter();
    if (edge.Orientation() == TopAbs_REVERSED) std::swap(begin, end);
    side.first = TopExp::FirstVertex(edge, true);
    side.last = TopExp::LastVertex(edge, true);
    if (side.first.IsNull() || side.last.IsNull()) return false;
    // All round a cylinder; a circle alone on a plane is left to the analyzer.
    if (side.first.IsSame(side.last) && !round_) return false;
    side.edge = edge;
    for (const auto& [corner, at] : {std::pair(side.first, begin), std::pair(side.last, end)}) {
      const double reach = BRep_Tool::Tolerance(corner);
      if (reach > tight || reach < BRep_Tool::Tolerance(edge)) return false;
      if (BRep_Tool::Pnt(corner).Distance(curve.Value(at)) > reach) return false;
    }
    if (!(round_ ? unroll(edge, curve, begin, end, side) : project(edge, curve, begin, end, side))) return false;
    if (length(side.to - side.from) < 100 * tight) return false;
    const auto reach = [&](PlanePoint p) { side.box.add(Point{p.u, p.v, 0}); };
    reach(side.from);
    reach(side.to);
    // Between its ends an arc bulges by no more than this.
    if (side.arc) side.box = side.box.enlarged(side.radius * (1 - std::cos(side.sweep / 2)));
    side.box = side.box.enlarged(tight);
    sides_.push_back(side);
    return true;
  }

  /// On a plane: as it is.
  bool project(const TopoDS_Edge& edge, const BRepAdaptor_Curve& curve, double begin, double end, Side& side) const {
    if (!staysOnPlane(edge, curve)) return false;
    side.from = inPlane(curve.Value(begin));
    side.to = inPlane(curve.Value(end));
    side.arc = curve.GetType() == GeomAbs_Circle;
    if (!side.arc) return true;
    const gp_Circ circle = curve.Circle();
    side.centre = inPlane(circle.Location());
    side.radius = circle.Radius();
    const PlanePoint spoke = side.from - side.centre;
    side.start = std::atan2(spoke.v, spoke.u);
    const gp_Vec up = gp_Vec(plane_.Position().XDirection()).Crossed(plane_.Position().YDirection());
    const gp_Vec turn = gp_Vec(circle.Position().XDirection()).Crossed(circle.Position().YDirection());
    side.sweep = (end - begin) * (up.Dot(turn) > 0 ? 1 : -1);
    return std::abs(side.sweep) < 2 * std::numbers::pi * 0.99;
  }

  /// On a cylinder: lines along the axis and arcs about it, which both become straight.
  bool unroll(const TopoDS_Edge& edge, const BRepAdaptor_Curve& curve, double begin, double end, Side& side) const {
    double first = 0, last = 0;
    const Handle(Geom2d_Curve) stored = BRep_Tool::CurveOnSurface(edge, face_, first, last);
    if (stored.IsNull() || Geom2dAdaptor_Curve(stored).GetType() != GeomAbs_Line) return false;
    if (first != curve.FirstParameter() || last != curve.LastParameter()) return false;
    const gp_Vec2d along(stored->Value(first), stored->Value(last));
    const bool arc = curve.GetType() == GeomAbs_Circle;
    if (std::abs(arc ? along.Y() : along.X() * cylinder_.Radius()) > tight) return false;
    const bool same = atSamples(curve, [&](double t) {
      const gp_Pnt2d uv = stored->Value(t);
      return ElSLib::Value(uv.X(), uv.Y(), cylinder_).Distance(curve.Value(t)) <= BRep_Tool::Tolerance(edge);
    });
    if (!same) return false;
    const auto unrolled = [&](double t) {
      const gp_Pnt2d uv = stored->Value(t);
      return PlanePoint{uv.X() * cylinder_.Radius(), uv.Y()};
    };
    side.from = unrolled(begin);
    side.to = unrolled(end);
    return true;
  }

  /// Unrolled, the sides do not reach those of the next turn, unless the two lines at its ends are one seam.
  bool staysWithinOneTurn() const {
    const auto middle = [](const Side& side) { return (side.from.u + side.to.u) / 2; };
    const auto before = [&](const Side& a, const Side& b) { return middle(a) < middle(b); };
    const auto [low, high] = std::minmax_element(sides_.begin(), sides_.end(), before);
    Box all;
    for (const Side& side : sides_) {
      all.add(side.box.low);
      all.add(side.box.high);
    }
    const double turn = 2 * std::numbers::pi * cylinder_.Radius(), width = all.high.x - all.low.x - 2 * tight;
    if (width < turn - 100 * tight) return true;
    return width < turn + tight && low->edge.IsSame(high->edge);
  }

  /// The edge and what the face stores of it lie on the plane, at the same places.
  bool staysOnPlane(const TopoDS_Edge& edge, const BRepAdaptor_Curve& curve) const {
    const double off = BRep_Tool::Tolerance(edge);
    if (!atSamples(curve, [&](double t) { return plane_.Distance(curve.Value(t)) <= off; })) return false;
    TopLoc_Location place;
    const Handle(Geom_Surface)& surface = BRep_Tool::Surface(face_, place);
    const TopLoc_Location own = place.Predivided(edge.Location());
    for (const Handle(BRep_CurveRepresentation) & stored : Handle(BRep_TEdge)::DownCast(edge.TShape())->Curves()) {
      if (!stored->IsCurveOnSurface(surface, own)) continue;
      const Handle(Geom2d_Curve)& flat = stored->PCurve();
      if (stored->IsCurveOnClosedSurface() || Geom2dAdaptor_Curve(flat).GetType() != curve.GetType()) return false;
      const bool same = atSamples(curve, [&](double t) {
        const gp_Pnt2d uv = flat->Value(t);
        return ElSLib::Value(uv.X(), uv.Y(), plane_).Distance(curve.Value(t)) <= off;
      });
      if (!same) return false;
    }
    return true;
  }

  /// Lines and circles that agree in so many points agree everywhere.
  template <class Holds>
  static bool atSamples(const BRepAdaptor_Curve& curve, const Holds& holds) {
    constexpr int samples = 4;
    const double first = curve.FirstParameter(), last = curve.LastParameter();
    for (int i = 0; i <= samples; ++i)
      if (!holds(first + (last - first) * i / samples)) return false;
    return true;
  }

  /// Through every edge and back to the first one, the material to the left. Unrolled, they follow each other without a
  /// jump by a turn.
  bool runsRoundOnce() const {
    ShapeMap<std::vector<std::size_t>> starting;
    for (std::size_t i = 0; i < sides_.size(); ++i) starting[sides_[i].first].push_back(i);
    std::size_t at = 0, count = 0;
    double area = 0;
    do {
      const Side& side = sides_[at];
      area += cross(side.from, side.to) / 2;
      if (side.arc) area += side.radius * side.radius * (side.sweep - std::sin(side.sweep)) / 2;
      const auto candidates = starting.find(side.last);
      if (candidates == starting.end()) return false;
      const auto follows = [&](std::size_t i) { return length(sides_[i].from - side.to) < 10 * tight; };
      const std::vector<std::size_t>& next = candidates->second;
      if (std::count_if(next.begin(), next.end(), follows) != 1) return false;
      at = *std::find_if(next.begin(), next.end(), follows);
      ++count;
    } while (at != 0 && count <= sides_.size());
    return count == sides_.size() && area > 0;
  }

  bool nowhereMeetsItself() {
    std::vector<std::size_t> order(sides_.size()), active;
    for (std::size_t i = 0; i < order.size(); ++i) order[i] = i;
    std::sort(order.begin(), order.end(),
              [&](std::size_t a, std::size_t b) { return sides_[a].box.low.x < sides_[b].box.low.x; });
    for (const std::size_t i : order) {
      std::erase_if(active, [&](std::size_t j) { return sides_[j].box.high.x < sides_[i].box.low.x; });
      for (const std::size_t j : active)
        if (sides_[i].box.overlaps(sides_[j].box) && mayMeet(sides_[i], sides_[j])) return false;
      active.push_back(i);
    }
    return true;
  }

  static bool isEndOf(PlanePoint point, const Side& side) {
    return length(point - side.from) < 10 * tight || length(point - side.to) < 10 * tight;
  }

  /// True unless it is clear that they have no point in common but a corner that they share.
  static bool mayMeet(const Side& a, const Side& b) {
    const bool aThenB = a.last.IsSame(b.first), bThenA = b.last.IsSame(a.first);
    // Two sides alone: not along each other in between.
    if (aThenB && bThenA && length(a.middle() - b.middle()) < 100 * tight) return true;
    for (const PlanePoint point : crossings(a, b)) {
      if (std::isnan(point.u)) return true;  // along each other
      if (!a.holds(point) || !b.holds(point)) continue;
      if (!(aThenB || bThenA) || !isEndOf(point, a) || !isEndOf(point, b)) return true;
    }
    // Ends that come close to the other side without a crossing.
    for (const PlanePoint end : {a.from, a.to})
      if (!isEndOf(end, b) && isNear(end, b)) return true;
    for (const PlanePoint end : {b.from, b.to})
      if (!isEndOf(end, a) && isNear(end, a)) return true;
    if (aThenB || bThenA) return false;
    for (const PlanePoint end : {a.from, a.to})
      if (isEndOf(end, b)) return true;
    return false;
  }

  static bool isNear(PlanePoint point, const Side& side) {
    if (!side.holds(point)) return false;
    if (side.arc) return std::abs(length(point - side.centre) - side.radius) < 10 * tight;
    const PlanePoint along = side.to - side.from;
    return std::abs(cross(along, point - side.from)) < 10 * tight * length(along);
  }

  /// Where the lines or circles of two sides cross; not a number where they run along each other or nearly so.
  static std::vector<PlanePoint> crossings(const Side& a, const Side& b) {
    const PlanePoint none{std::nan(""), std::nan("")};
    if (!a.arc && !b.arc) {
      const PlanePoint p = a.to - a.from, q = b.to - b.from;
      const double across = cross(p, q);
      if (std::abs(across) < tolerance::parallel * length(p) * length(q)) {
        // Parallel: one after the other on a line is fine, so is a distance.
        if (std::abs(cross(p, b.from - a.from)) > 10 * tight * length(p)) return {};
        const double low = std::min(dot(p, b.from - a.from), dot(p, b.to - a.from)),
                     high = std::max(dot(p, b.from - a.from), dot(p, b.to - a.from)), end = dot(p, p);
        const double slack = 10 * tight * length(p);
        return high < slack || low > end - slack ? std::vector<PlanePoint>{} : std::vector{none};
      }
      const double t = cross(b.from - a.from, q) / across;
      return {{a.from.u + t * p.u, a.from.v + t * p.v}};
    }
    if (a.arc && b.arc) {
      const PlanePoint line = b.centre - a.centre;
      const double apart = length(line);
      if (apart < 10 * tight) {
        if (std::abs(a.radius - b.radius) > 20 * tight) return {};
        // Of one circle: one after the other is fine, so is a distance.
        const auto within = [](const Side& side, const Side& other) {
          const auto inner = [&](PlanePoint end) { return !isEndOf(end, other) && other.holds(end); };
          return inner(side.from) || inner(side.to) || inner(side.middle());
        };
        return within(a, b) || within(b, a) ? std::vector{none} : std::vector<PlanePoint>{};
      }
      return ends(chordOfCircles(a.centre, a.radius, b.centre, b.radius), a.radius);
    }
    const Side &circle = a.arc ? a : b, &straight = a.arc ? b : a;
    return ends(chordOfLine(straight.from, straight.to, circle.centre, circle.radius), circle.radius);
  }

  static std::vector<PlanePoint> ends(const Chord& chord, double radius) {
    // Nearly tangent: as if they touched.
    if (chord.square < -20 * tight * radius) return {};
    const PlanePoint half = chord.along * std::sqrt(std::max(chord.square, 0.0));
    return {chord.middle + half, chord.middle - half};
  }

  TopoDS_Face face_;
  bool round_ = false;
  gp_Pln plane_;
  gp_Cylinder cylinder_;
  std::vector<Side> sides_;
};

}  // namespace

bool outlineIsProven(const TopoDS_Face& face) {
  return Outline(face).proven();
}

}  // namespace kervo
