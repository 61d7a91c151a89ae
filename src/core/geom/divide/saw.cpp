#include "geom/divide/saw.h"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <Geom2d_Line.hxx>
#include <Geom_Circle.hxx>
#include <Geom_Line.hxx>
#include <TopoDS_Iterator.hxx>
#include <cmath>
#include <numbers>

#include "base/parallel.h"
#include "geom/kernel/skeleton.h"
#include "geom/kernel/surface_loops.h"
#include "geom/planes.h"

namespace kervo {

namespace {

/// What comes nearer to the plane than this, in mm, without going through it is left to the kernel.
constexpr double clearance = 1e-4;
/// Points are the same, in mm.
constexpr double same = 1e-6;

/// A face of the cutter that goes through the stock.
struct Blade {
  TopoDS_Face face;
  gp_Pln plane;
  gp_Vec out;  ///< away from the cutter, of length 1

  double height(const gp_Pnt& point) const { return gp_Vec(plane.Location(), point).Dot(out); }
  /// Along u × v: which side of the surface the kernel means by its normal.
  gp_Vec normal() const { return gp_Vec(plane.Position().XDirection()).Crossed(gp_Vec(plane.Position().YDirection())); }
};

/// The lowest and the highest corner of a box.
Span heights(const Blade& blade, const Box& box) {
  return spanAlong(box, fromPnt(blade.plane.Location()), fromVec(blade.out));
}

/// The faces of a block that reach into the box, if they go through all of it: one, or two that are parallel.
std::vector<Blade> bladesOf(const Shape& cutter, const Box& stock) {
  if (cutter.kind() != BodyKind::Solid || cutter.solidCount() != 1) return {};
  const Skeleton& skeleton = skeletonOf(cutter);
  std::vector<Blade> blades;
  for (const TopoDS_Face& face : skeleton.faces) {
    const BRepAdaptor_Surface surface(face, false);
    if (surface.GetType() != GeomAbs_Plane) return {};
    Blade blade{face, surface.Plane(), {}};
    blade.out = face.Orientation() == TopAbs_REVERSED ? -blade.normal() : blade.normal();
    // Nothing of a convex body lies before any of its faces.
    for (const Skeleton::VertexPart& corner : skeleton.vertices)
      if (blade.height(BRep_Tool::Pnt(corner.vertex)) > same) return {};
    if (heights(blade, stock).high > -clearance) blades.push_back(blade);
  }
  for (const Skeleton::EdgePart& part : skeleton.edges)
    if (BRepAdaptor_Curve(part.edge).GetType() != GeomAbs_Line) return {};
  const bool parallel = blades.size() == 2 && blades[0].out.IsOpposite(blades[1].out, tolerance::parallel);
  return blades.size() == 1 || parallel ? blades : std::vector<Blade>();
}

enum class Side { Front, Back, Both };

Side sideAt(double height) {
  if (std::abs(height) <= clearance) throw LeftToKernel();
  return height > 0 ? Side::Front : Side::Back;
}

/// A part of an edge on one side of the plane, as an outline uses it.
struct Stretch {
  TopoDS_Edge edge;
  Side side;
};

/// Cuts faces that together bound solids by one plane.
class Saw {
 public:
  Saw(const Blade& blade, const FaceFacts& facts, FaceTable& table)
      : blade_(blade), facts_(facts), table_(table), chart_(blade.face) {}

  std::vector<TopoDS_Shape> front, back;

  void cut(const std::vector<TopoDS_Shape>& faces, Progress& progress) {
    for (const TopoDS_Shape& shape : faces) {
      progress.throwIfStopped();
      const TopoDS_Face& face = TopoDS::Face(shape);
      switch (sideOf(face)) {
        case Side::Front:
          front.push_back(face);
          break;
        case Side::Back:
          back.push_back(face);
          break;
        case Side::Both:
          divide(face);
          break;
      }
    }
    addCaps();
  }

 private:
  /// An edge as the plane divides it: in the direction of its curve.
  struct Divided {
    Side side = Side::Both;
    std::vector<Stretch> stretches;  ///< if both
  };

  struct Crossing {
    TopoDS_Vertex vertex;
    PlanePoint place;
    double across = 0;  ///< on a cylinder: which of the two lines it lies on
    double along = 0;   ///< on the section
    bool frontEnds = false;
  };

  const Divided& dividedEdge(const TopoDS_Edge& edge) {
    const auto [place, isNew] = edges_.try_emplace(edge);
    if (isNew) place->second = divided(TopoDS::Edge(edge.Oriented(TopAbs_FORWARD)));
    return place->second;
  }

  /// Where the plane crosses the curve, in ascending order.
  std::vector<double> crossings(const BRepAdaptor_Curve& curve) const {
    const double first = curve.FirstParameter(), last = curve.LastParameter();
    const double begin = blade_.height(curve.Value(first)), end = blade_.height(curve.Value(last));
    const bool opposite = sideAt(begin) != sideAt(end);
    if (curve.GetType() == GeomAbs_Line)
      return opposite ? std::vector{first + (last - first) * begin / (begin - end)} : std::vector<double>();
    const gp_Circ circle = curve.Circle();
    const double x = blade_.out.Dot(gp_Vec(circle.Position().XDirection())) * circle.Radius();
    const double y = blade_.out.Dot(gp_Vec(circle.Position().YDirection())) * circle.Radius();
    const double middle = blade_.height(circle.Location()), reach = std::hypot(x, y);
    // The plane touches the circle, or runs along it.
    if (std::abs(std::abs(middle) - reach) <= clearance) throw LeftToKernel();
    if (std::abs(middle) > reach) return {};
    const double top = std::atan2(y, x), half = std::acos(-middle / reach);
    std::vector<double> result;
    for (const double angle : {top - half, top + half}) {
      const double turns = std::ceil((first - angle) / (2 * std::numbers::pi));
      const double t = angle + turns * 2 * std::numbers::pi;
      if (t < last) result.push_back(t);
    }
    std::sort(result.begin(), result.end());
    return result;
  }

  /// Of an edge that must lie clear of the plane.
  Side sideOfBox(const TopoDS_Edge& edge) const {
    Bnd_Box bounds;
    BRepBndLib::Add(edge, bounds, false);
    Box box;
    box.add(fromPnt(bounds.CornerMin()));
    box.add(fromPnt(bounds.CornerMax()));
    const auto [low, high] = heights(blade_, box);
    if (low <= clearance && high >= -clearance) throw LeftToKernel();
    return sideAt(low > 0 ? low : high);
  }

  Divided divided(const TopoDS_Edge& edge) const {
    if (BRep_Tool::Degenerated(edge)) throw LeftToKernel();
    const BRepAdaptor_Curve curve(edge);
    const double first = curve.FirstParameter(), last = curve.LastParameter();
    if (curve.GetType() != GeomAbs_Line && curve.GetType() != GeomAbs_Circle) return {sideOfBox(edge), {}};
    const std::vector<double> at = crossings(curve);
    if (at.empty()) return {sideAt(blade_.height(curve.Value((first + last) / 2))), {}};
    const double loose = BRep_Tool::Tolerance(edge);
    if (loose > same) throw LeftToKernel();
    const BRep_Builder builder;
    Divided result;
    TopoDS_Vertex from = TopExp::FirstVertex(edge);
    double begin = first;
    for (std::size_t i = 0; i <= at.size(); ++i) {
      const double end = i < at.size() ? at[i] : last;
      TopoDS_Vertex to = TopExp::LastVertex(edge);
      if (i < at.size()) builder.MakeVertex(to, curve.Value(end), std::max(loose, tolerance::point));
      TopoDS_Edge part = TopoDS::Edge(edge.EmptyCopied());
      builder.Add(part, from.Oriented(TopAbs_FORWARD));
      builder.Add(part, to.Oriented(TopAbs_REVERSED));
      builder.Range(part, begin, end);
      result.stretches.push_back({part, sideAt(blade_.height(curve.Value((begin + end) / 2)))});
      from = to;
      begin = end;
    }
    return result;
  }

  Side sideOf(const TopoDS_Face& face) {
    // What the first blade left is measured when the second one has been through it.
    if (const FaceFacts& facts = table_.at(face); facts.measured) {
      const auto [low, high] = heights(blade_, facts.box);
      if (low > clearance) return Side::Front;
      if (high < -clearance) return Side::Back;
    }
    const BRepAdaptor_Surface surface(face, false);
    // A cylinder along the plane or across it is as high as the arcs and lines that it ends with.
    if (surface.GetType() == GeomAbs_Cylinder)
      requireStraight(surface.Cylinder(), face);
    else if (surface.GetType() != GeomAbs_Plane)
      throw LeftToKernel();
    bool front = false, back = false;
    for (TopExp_Explorer it(face, TopAbs_EDGE); it.More(); it.Next()) {
      const Side side = dividedEdge(TopoDS::Edge(it.Current())).side;
      front |= side != Side::Back;
      back |= side != Side::Front;
    }
    return front && back ? Side::Both : front ? Side::Front : Side::Back;
  }

  bool isAcross(const gp_Cylinder& cylinder) const {
    return gp_Vec(cylinder.Axis().Direction()).IsParallel(blade_.out, tolerance::parallel);
  }

  void requireStraight(const gp_Cylinder& cylinder, const TopoDS_Face& face) const {
    const gp_Dir& axis = cylinder.Axis().Direction();
    if (!isAcross(cylinder) && std::abs(blade_.out.Dot(gp_Vec(axis))) > tolerance::parallel) throw LeftToKernel();
    for (TopExp_Explorer it(face, TopAbs_EDGE); it.More(); it.Next()) {
      const BRepAdaptor_Curve curve(TopoDS::Edge(it.Current()));
      const bool line =
          curve.GetType() == GeomAbs_Line && curve.Line().Direction().IsParallel(axis, tolerance::parallel);
      const bool arc =
          curve.GetType() == GeomAbs_Circle && curve.Circle().Axis().Direction().IsParallel(axis, tolerance::parallel);
      if (!line && !arc) throw LeftToKernel();
    }
  }

  void divide(const TopoDS_Face& face) {
    const Chart chart(face);
    std::vector<Run> frontRuns, backRuns;
    std::vector<Hole> frontHoles, backHoles;
    std::vector<Crossing> crossings;
    int wires = 0;
    for (TopoDS_Iterator wire(chart.face()); wire.More(); wire.Next()) {
      if (wire.Value().ShapeType() != TopAbs_WIRE) throw LeftToKernel();
      ++wires;
      bool crossed = false;
      for (TopoDS_Iterator it(wire.Value()); it.More(); it.Next())
        crossed |= dividedEdge(TopoDS::Edge(it.Value())).side == Side::Both;
      if (!crossed) {
        const TopoDS_Edge edge = TopoDS::Edge(TopoDS_Iterator(wire.Value()).Value());
        (dividedEdge(edge).side == Side::Front ? frontHoles : backHoles)
            .push_back({TopoDS::Wire(wire.Value()), chart.run(edge).from});
        continue;
      }
      for (TopoDS_Iterator it(wire.Value()); it.More(); it.Next())
        addRuns(chart, TopoDS::Edge(it.Value()), frontRuns, backRuns, crossings);
    }
    if (!chart.isPlane() && wires > 1) throw LeftToKernel();
    addSections(face, chart, crossings, frontRuns, backRuns);
    put(face, chart, loopsOf(frontRuns), std::move(frontHoles), front);
    put(face, chart, loopsOf(backRuns), std::move(backHoles), back);
  }

  void addRuns(const Chart& chart, const TopoDS_Edge& edge, std::vector<Run>& frontRuns, std::vector<Run>& backRuns,
               std::vector<Crossing>& crossings) {
    const TopAbs_Orientation orientation = edge.Orientation();
    if (orientation != TopAbs_FORWARD && orientation != TopAbs_REVERSED) throw LeftToKernel();
    const Divided& divided = dividedEdge(edge);
    if (divided.side != Side::Both) {
      (divided.side == Side::Front ? frontRuns : backRuns).push_back(chart.run(edge));
      return;
    }
    for (std::size_t i = 0; i < divided.stretches.size(); ++i) {
      const auto& [part, side] = divided.stretches[i];
      const Run run = chart.run(TopoDS::Edge(part.Oriented(orientation)));
      (side == Side::Front ? frontRuns : backRuns).push_back(run);
      // The crossing at the end that has another stretch beyond it, as the outline runs.
      if (i + 1 == divided.stretches.size()) continue;
      const bool forward = orientation == TopAbs_FORWARD;
      Crossing crossing{forward ? run.last : run.first, forward ? run.to : run.from, 0, 0, false};
      crossing.frontEnds = (side == Side::Front) == forward;
      crossings.push_back(crossing);
    }
  }

  /// New edges from where the outline leaves a side to where it comes back.
  void addSections(const TopoDS_Face& face, const Chart& chart, std::vector<Crossing>& crossings,
                   std::vector<Run>& frontRuns, std::vector<Run>& backRuns) {
    gp_Vec direction, across;
    const bool round = !chart.isPlane() && isAcross(chart.cylinder());
    if (round) {
      // About the axis: as the cylinder is unrolled.
    } else if (chart.isPlane()) {
      const gp_Vec normal(chart.plane().Axis().Direction());
      direction = normal.Crossed(blade_.out);
      if (direction.Magnitude() < tolerance::room) throw LeftToKernel();
      direction.Normalize();
    } else {
      direction = gp_Vec(chart.cylinder().Axis().Direction());
      across = direction.Crossed(blade_.out);
    }
    for (Crossing& crossing : crossings) {
      const gp_Vec place(blade_.plane.Location(), BRep_Tool::Pnt(crossing.vertex));
      crossing.along = round ? crossing.place.u : place.Dot(direction);
      crossing.across = place.Dot(across);
    }
    std::sort(crossings.begin(), crossings.end(), [](const Crossing& a, const Crossing& b) {
      return std::abs(a.across - b.across) > same ? a.across < b.across : a.along < b.along;
    });
    if (crossings.size() % 2 != 0) throw LeftToKernel();
    for (std::size_t i = 0; i < crossings.size(); i += 2) {
      const Crossing &from = crossings[i], &to = crossings[i + 1];
      const bool apart = to.along - from.along > clearance && std::abs(to.across - from.across) <= same;
      const bool next = i == 0 || std::abs(from.across - crossings[i - 1].across) > same ||
                        from.along - crossings[i - 1].along > clearance;
      if (!apart || !next || from.frontEnds == to.frontEnds) throw LeftToKernel();
      const TopoDS_Edge edge = round ? arcSection(chart, from, to) : lineSection(chart, from, to);
      // The front leaves its outline where it ends, and so runs along the section to where it begins again.
      const TopAbs_Orientation orientation = from.frontEnds ? TopAbs_FORWARD : TopAbs_REVERSED;
      const auto run = [&](TopAbs_Orientation way) {
        const bool forward = way == TopAbs_FORWARD;
        const Crossing &a = forward ? from : to, &b = forward ? to : from;
        return Run{TopoDS::Edge(edge.Oriented(way)), a.vertex, b.vertex, a.place, b.place};
      };
      frontRuns.push_back(run(orientation));
      backRuns.push_back(run(TopAbs::Reverse(orientation)));
      // The cap before the front runs against its faces.
      const bool turned = face.Orientation() == TopAbs_REVERSED;
      capEdges_.push_back(TopoDS::Edge(edge.Oriented(turned ? orientation : TopAbs::Reverse(orientation))));
    }
  }

  static TopoDS_Edge arcSection(const Chart& chart, const Crossing& from, const Crossing& to) {
    const gp_Cylinder& cylinder = chart.cylinder();
    const double v = from.place.v;
    if (std::abs(to.place.v - v) > same) throw LeftToKernel();
    const gp_Dir x = cylinder.Position().XDirection(), up = x.Crossed(cylinder.Position().YDirection());
    const gp_Pnt centre = cylinder.Location().Translated(gp_Vec(cylinder.Axis().Direction()) * v);
    const BRep_Builder builder;
    TopoDS_Edge edge;
    builder.MakeEdge(edge, new Geom_Circle(gp_Ax2(centre, up, x), cylinder.Radius()), tolerance::point);
    builder.Add(edge, from.vertex.Oriented(TopAbs_FORWARD));
    builder.Add(edge, to.vertex.Oriented(TopAbs_REVERSED));
    builder.UpdateEdge(edge, new Geom2d_Line(gp_Pnt2d(0, v), gp_Dir2d(1, 0)), chart.face(), tolerance::point);
    builder.Range(edge, from.place.u / cylinder.Radius(), to.place.u / cylinder.Radius());
    return edge;
  }

  static TopoDS_Edge lineSection(const Chart& chart, const Crossing& from, const Crossing& to) {
    const gp_Pnt begin = BRep_Tool::Pnt(from.vertex), end = BRep_Tool::Pnt(to.vertex);
    const double length = begin.Distance(end);
    const BRep_Builder builder;
    TopoDS_Edge edge;
    builder.MakeEdge(edge, new Geom_Line(begin, gp_Dir(gp_Vec(begin, end))), tolerance::point);
    builder.Add(edge, from.vertex.Oriented(TopAbs_FORWARD));
    builder.Add(edge, to.vertex.Oriented(TopAbs_REVERSED));
    if (!chart.isPlane()) {
      const double u = from.place.u / chart.cylinder().Radius();
      if (std::abs(to.place.u - from.place.u) > same) throw LeftToKernel();
      const gp_Dir2d up(0, to.place.v > from.place.v ? 1 : -1);
      builder.UpdateEdge(edge, new Geom2d_Line(gp_Pnt2d(u, from.place.v), up), chart.face(), tolerance::point);
    }
    builder.Range(edge, 0, length);
    return edge;
  }

  void put(const TopoDS_Face& original, const Chart& chart, const std::vector<Loop>& loops, std::vector<Hole> holes,
           std::vector<TopoDS_Shape>& side) {
    std::vector<TopoDS_Face> faces;
    if (chart.isPlane())
      faces = flatFaces(chart, loops, std::move(holes));
    else
      for (const Loop& loop : loops) faces.push_back(faceWithin(chart.face(), loop));
    for (const TopoDS_Face& face : faces) {
      side.push_back(face.Oriented(original.Orientation()));
      note(face, table_.at(original));
    }
  }

  void addCaps() {
    if (capEdges_.empty()) return;
    // The front's cap looks against `out`.
    const bool surfaceLooksOut = blade_.normal().Dot(blade_.out) > 0;
    std::vector<Run> runs;
    for (const TopoDS_Edge& edge : capEdges_)
      runs.push_back(chart_.run(surfaceLooksOut ? TopoDS::Edge(edge.Reversed()) : edge));
    for (const TopoDS_Face& face : flatFaces(chart_, loopsOf(runs), {})) {
      front.push_back(face.Oriented(surfaceLooksOut ? TopAbs_REVERSED : TopAbs_FORWARD));
      back.push_back(face.Oriented(surfaceLooksOut ? TopAbs_FORWARD : TopAbs_REVERSED));
      note(face, facts_);
    }
  }

  void note(const TopoDS_Face& face, const FaceFacts& from) {
    table_.emplace(face, FaceFacts{from.origins, from.color, false});
  }

  const Blade& blade_;
  const FaceFacts& facts_;
  FaceTable& table_;
  const Chart chart_;
  ShapeMap<Divided> edges_;
  std::vector<TopoDS_Edge> capEdges_;  ///< as the cap before the front runs along them
};

}  // namespace

std::optional<DividedParts> sawn(const Shape& stock, const std::vector<Shape>& cutters, Progress& progress) {
  if (cutters.size() != 1 || stock.solidCount() != 1) return std::nullopt;
  const std::vector<Blade> blades = bladesOf(cutters.front(), stock.body().looseBox);
  if (blades.empty()) return std::nullopt;
  DividedParts result;
  result.table = stock.body().faces;
  const std::vector<TopoDS_Face>& all = skeletonOf(stock).faces;
  // Before the first blade, before the second one, and the rest.
  std::vector<std::vector<TopoDS_Shape>> boundaries{{all.begin(), all.end()}};
  try {
    for (const Blade& blade : blades) {
      Saw saw(blade, factsOf(cutters.front(), blade.face), result.table);
      saw.cut(boundaries.back(), progress);
      boundaries.back() = std::move(saw.front);
      boundaries.push_back(std::move(saw.back));
    }
  } catch (const LeftToKernel&) {
    return std::nullopt;
  }
  const bool anyBefore =
      std::any_of(boundaries.begin(), boundaries.end() - 1, [](const auto& b) { return !b.empty(); });
  if (boundaries.back().empty() || !anyBefore) return std::nullopt;
  FaceTable table;
  for (const auto& boundary : boundaries)
    for (const TopoDS_Shape& face : boundary) table.emplace(face, result.table.at(face));
  result.table = std::move(table);
  measureAll(result.table, progress);
  std::vector<std::vector<TopoDS_Shape>> solids(boundaries.size());
  inParallel(boundaries.size(), [&](std::size_t i) { solids[i] = solidsBoundedBy(boundaries[i], result.table); });
  result.inside = std::move(solids.back());
  solids.pop_back();
  for (const auto& some : solids) result.outside.insert(result.outside.end(), some.begin(), some.end());
  result.allowedEdgeTolerance = std::max(tolerance::looseEdge, 1.01 * loosestEdge(stock.body().topology));
  return result;
}

}  // namespace kervo
