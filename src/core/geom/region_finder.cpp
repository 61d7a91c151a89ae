// Finding the regions that curves enclose. Curves that do not cross are chained and nested directly, which takes
// milliseconds for thousands of them; as soon as two of them cross, touch or overlap, all are intersected by the
// kernel.
#include <BOPAlgo_Tools.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <Geom_Plane.hxx>
#include <numbers>
#include <set>

#include "base/quantity.h"
#include "geom/face_integrals.h"
#include "geom/kernel/region_body.h"
#include "geom/primitives.h"

namespace kervo {

namespace {

constexpr double near = tolerance::point;

double distance(PlanePoint a, PlanePoint b) {
  return std::hypot(a.u - b.u, a.v - b.v);
}

PlanePoint onCircle(PlanePoint centre, double radius, double angle) {
  return {centre.u + radius * std::cos(angle), centre.v + radius * std::sin(angle)};
}

/// A curve with what the tests need of it.
struct Piece {
  const PlanarCurve* curve;
  bool closed = false;
  PlanePoint from, to;
  // Either a segment (radius 0) or part of a circle.
  PlanePoint centre;
  double radius = 0;
  double fromAngle = 0, sweep = 0;
  double lowU, highU, lowV, highV;
};

void requireFinite(const PlanarCurve& curve, std::initializer_list<double> numbers) {
  for (double number : numbers)
    if (!std::isfinite(number) || std::abs(number) > tolerance::largestSize)
      throw Error("a coordinate is not finite or beyond " + formatNumber(tolerance::largestSize) + " mm",
                  "curve \"" + curve.id + "\"", "Type a smaller number");
}

Piece pieceOf(const PlanarCurve& curve) {
  Piece piece;
  piece.curve = &curve;
  const std::string place = "curve \"" + curve.id + "\"";
  const auto fail = [&](const std::string& what, const std::string& help) -> Piece { throw Error(what, place, help); };
  if (const auto* line = std::get_if<LineCurve>(&curve.geometry)) {
    requireFinite(curve, {line->from.u, line->from.v, line->to.u, line->to.v});
    if (distance(line->from, line->to) < tolerance::smallestSize)
      return fail("the line has no length", "Move one of its ends");
    piece.from = line->from;
    piece.to = line->to;
    piece.lowU = std::min(piece.from.u, piece.to.u);
    piece.highU = std::max(piece.from.u, piece.to.u);
    piece.lowV = std::min(piece.from.v, piece.to.v);
    piece.highV = std::max(piece.from.v, piece.to.v);
    return piece;
  }
  if (const auto* circle = std::get_if<CircleCurve>(&curve.geometry)) {
    piece.closed = true;
    piece.centre = circle->centre;
    piece.radius = circle->radius;
    piece.sweep = 2 * std::numbers::pi;
    piece.from = piece.to = onCircle(piece.centre, piece.radius, 0);
  } else {
    const auto& arc = std::get<ArcCurve>(curve.geometry);
    piece.centre = arc.centre;
    piece.radius = arc.radius;
    piece.fromAngle = arc.fromAngle;
    piece.sweep = arc.toAngle - arc.fromAngle;
    if (!(piece.sweep > 1e-9) || piece.sweep > 2 * std::numbers::pi - 1e-9)
      return fail("the arc spans no angle, or all of it", "Give it two different angles, or draw a circle");
    piece.from = onCircle(arc.centre, arc.radius, arc.fromAngle);
    piece.to = onCircle(arc.centre, arc.radius, arc.toAngle);
  }
  requireFinite(curve, {piece.centre.u, piece.centre.v, piece.radius, piece.fromAngle, piece.sweep});
  try {
    requireSize("radius", piece.radius);
  } catch (const Error& error) {
    throw error.within(place);
  }
  piece.lowU = piece.centre.u - piece.radius;
  piece.highU = piece.centre.u + piece.radius;
  piece.lowV = piece.centre.v - piece.radius;
  piece.highV = piece.centre.v + piece.radius;
  return piece;
}

bool liesOn(const Piece& piece, PlanePoint point) {
  if (piece.radius == 0) {
    const double length = distance(piece.from, piece.to);
    const double t = ((point.u - piece.from.u) * (piece.to.u - piece.from.u) +
                      (point.v - piece.from.v) * (piece.to.v - piece.from.v)) /
                     length;
    return t > -near && t < length + near;
  }
  if (piece.closed) return true;
  double angle = std::atan2(point.v - piece.centre.v, point.u - piece.centre.u) - piece.fromAngle;
  const double slack = near / piece.radius;
  while (angle < -slack) angle += 2 * std::numbers::pi;
  while (angle > 2 * std::numbers::pi - slack) angle -= 2 * std::numbers::pi;
  return angle < piece.sweep + slack;
}

/// Points where the carriers (line, circle) of two pieces meet; nothing with `overlap` set if they coincide.
std::vector<PlanePoint> carrierMeetings(const Piece& a, const Piece& b, bool& overlap) {
  overlap = false;
  if (a.radius == 0 && b.radius == 0) {
    const double au = a.to.u - a.from.u, av = a.to.v - a.from.v, bu = b.to.u - b.from.u, bv = b.to.v - b.from.v;
    const double determinant = au * bv - av * bu;
    const double scale = std::hypot(au, av) * std::hypot(bu, bv);
    const double wu = b.from.u - a.from.u, wv = b.from.v - a.from.v;
    if (std::abs(determinant) < 1e-9 * scale) {
      overlap = std::abs(au * wv - av * wu) / std::hypot(au, av) < 2 * near;
      return {};
    }
    const double t = (wu * bv - wv * bu) / determinant;
    return {{a.from.u + t * au, a.from.v + t * av}};
  }
  if (a.radius == 0) {
    const double length = distance(a.from, a.to);
    const double du = (a.to.u - a.from.u) / length, dv = (a.to.v - a.from.v) / length;
    const double along = (b.centre.u - a.from.u) * du + (b.centre.v - a.from.v) * dv;
    const PlanePoint foot{a.from.u + along * du, a.from.v + along * dv};
    const double height = distance(foot, b.centre);
    if (height > b.radius + near) return {};
    if (std::abs(height - b.radius) <= std::max(near, 1e-9 * b.radius)) return {foot};
    const double half = std::sqrt(b.radius * b.radius - height * height);
    return {{foot.u + half * du, foot.v + half * dv}, {foot.u - half * du, foot.v - half * dv}};
  }
  if (b.radius == 0) return carrierMeetings(b, a, overlap);
  const double d = distance(a.centre, b.centre);
  const double slack = std::max(near, 1e-9 * (a.radius + b.radius));
  if (d > a.radius + b.radius + near || d < std::abs(a.radius - b.radius) - near) return {};
  if (d < slack) {
    overlap = true;
    return {};
  }
  const double du = (b.centre.u - a.centre.u) / d, dv = (b.centre.v - a.centre.v) / d;
  const double along = (d * d + a.radius * a.radius - b.radius * b.radius) / (2 * d);
  const PlanePoint foot{a.centre.u + along * du, a.centre.v + along * dv};
  if (std::abs(std::abs(along) - a.radius) < slack) return {foot};
  const double half = std::sqrt(std::max(0.0, a.radius * a.radius - along * along));
  return {{foot.u - half * dv, foot.v + half * du}, {foot.u + half * dv, foot.v - half * du}};
}

/// True if two pieces meet anywhere but in ends of both.
bool cross(const Piece& a, const Piece& b) {
  bool overlap = false;
  for (PlanePoint point : carrierMeetings(a, b, overlap)) {
    if (!liesOn(a, point) || !liesOn(b, point)) continue;
    const auto isEnd = [&](const Piece& piece) {
      return !piece.closed && (distance(point, piece.from) < 2 * near || distance(point, piece.to) < 2 * near);
    };
    if (!isEnd(a) || !isEnd(b)) return true;
  }
  if (!overlap) return false;
  // On one carrier: they overlap if an end or the middle of one lies on the other, other than end on end.
  if (a.closed || b.closed) return true;
  const auto middle = [](const Piece& p) {
    return p.radius == 0 ? PlanePoint{(p.from.u + p.to.u) / 2, (p.from.v + p.to.v) / 2}
                         : onCircle(p.centre, p.radius, p.fromAngle + p.sweep / 2);
  };
  const auto touches = [&](const Piece& p, const Piece& q) {
    for (PlanePoint end : {p.from, p.to})
      if (liesOn(q, end) && distance(end, q.from) > 2 * near && distance(end, q.to) > 2 * near) return true;
    return liesOn(q, middle(p));
  };
  return touches(a, b) || touches(b, a);
}

bool anyCross(const std::vector<Piece>& pieces, Progress& progress) {
  std::vector<const Piece*> order;
  for (const Piece& piece : pieces) order.push_back(&piece);
  std::sort(order.begin(), order.end(), [](auto* a, auto* b) { return a->lowU < b->lowU; });
  std::vector<const Piece*> active;
  for (const Piece* piece : order) {
    progress.throwIfStopped();
    std::erase_if(active, [&](const Piece* other) { return other->highU < piece->lowU - near; });
    for (const Piece* other : active)
      if (other->lowV < piece->highV + near && other->highV > piece->lowV - near && cross(*piece, *other)) return true;
    active.push_back(piece);
  }
  return false;
}

/// Ends that coincide, as nodes with the pieces that meet there.
class Nodes {
 public:
  std::size_t at(PlanePoint point) {
    const auto cell = [](double x) { return static_cast<long long>(std::floor(x / cellSize)); };
    for (long long i = cell(point.u) - 1; i <= cell(point.u) + 1; ++i)
      for (long long j = cell(point.v) - 1; j <= cell(point.v) + 1; ++j)
        if (const auto found = cells_.find({i, j}); found != cells_.end())
          for (std::size_t node : found->second)
            if (distance(points[node], point) < 2 * near) return node;
    cells_[{cell(point.u), cell(point.v)}].push_back(points.size());
    points.push_back(point);
    pieces.emplace_back();
    return points.size() - 1;
  }

  std::vector<PlanePoint> points;
  std::vector<std::vector<std::size_t>> pieces;

 private:
  static constexpr double cellSize = 1e-5;
  std::map<std::pair<long long, long long>, std::vector<std::size_t>> cells_;
};

class Builder {
 public:
  Builder(const Plane& plane, std::vector<Piece> pieces) : plane_(plane), pieces_(std::move(pieces)) {
    for (const Piece& piece : pieces_) {
      const bool closed = piece.closed;
      ends_.emplace_back(closed ? none : nodes_.at(piece.from), closed ? none : nodes_.at(piece.to));
    }
    for (std::size_t i = 0; i < pieces_.size(); ++i)
      if (!pieces_[i].closed)
        for (std::size_t node : {ends_[i].first, ends_[i].second}) nodes_.pieces[node].push_back(i);
    for (PlanePoint point : nodes_.points)
      vertices_.push_back(BRepBuilderAPI_MakeVertex(toPnt(plane_.at(point.u, point.v))).Vertex());
    for (std::size_t i = 0; i < pieces_.size(); ++i) {
      edges_.push_back(edgeOf(i));
      curves_.emplace(edges_.back(), pieces_[i].curve->id);
    }
  }

  bool branches() const {
    return std::any_of(nodes_.pieces.begin(), nodes_.pieces.end(), [](const auto& at) { return at.size() > 2; });
  }

  /// Loops of pieces that meet end to end. Chains with a free end enclose nothing and are left out.
  std::vector<TopoDS_Wire> chains() const {
    std::vector<TopoDS_Wire> wires;
    std::vector<bool> used(pieces_.size(), false);
    for (std::size_t start = 0; start < pieces_.size(); ++start) {
      if (used[start]) continue;
      std::vector<std::size_t> chain{start};
      used[start] = true;
      bool closes = pieces_[start].closed;
      for (std::size_t node = ends_[start].second; !closes;) {
        const auto& at = nodes_.pieces[node];
        if (at.size() < 2) break;
        const std::size_t next = at[0] == chain.back() ? at[1] : at[0];
        if (next == start) {
          closes = chain.size() > 1;
          break;
        }
        if (used[next]) break;
        used[next] = true;
        chain.push_back(next);
        node = ends_[next].first == node ? ends_[next].second : ends_[next].first;
      }
      if (closes) wires.push_back(wireOf(chain));
    }
    return wires;
  }

  const std::vector<TopoDS_Edge>& edges() const { return edges_; }
  const ShapeMap<std::string>& curves() const { return curves_; }

 private:
  static constexpr std::size_t none = static_cast<std::size_t>(-1);

  TopoDS_Edge edgeOf(std::size_t i) const {
    const Piece& piece = pieces_[i];
    if (piece.radius == 0) return BRepBuilderAPI_MakeEdge(vertices_[ends_[i].first], vertices_[ends_[i].second]).Edge();
    const gp_Circ circle(
        gp_Ax2(toPnt(plane_.at(piece.centre.u, piece.centre.v)), toDir(plane_.normal), toDir(plane_.x)), piece.radius);
    if (piece.closed) return BRepBuilderAPI_MakeEdge(circle).Edge();
    return BRepBuilderAPI_MakeEdge(circle, vertices_[ends_[i].first], vertices_[ends_[i].second]).Edge();
  }

  TopoDS_Wire wireOf(const std::vector<std::size_t>& chain) const {
    TopoDS_Wire wire;
    BRep_Builder builder;
    builder.MakeWire(wire);
    std::size_t node = ends_[chain.front()].first;
    for (std::size_t i : chain) {
      const bool forward = pieces_[i].closed || ends_[i].first == node;
      builder.Add(wire, edges_[i].Oriented(forward ? TopAbs_FORWARD : TopAbs_REVERSED));
      node = forward ? ends_[i].second : ends_[i].first;
    }
    wire.Closed(true);
    return wire;
  }

  const Plane& plane_;
  std::vector<Piece> pieces_;
  Nodes nodes_;
  std::vector<std::pair<std::size_t, std::size_t>> ends_;
  std::vector<TopoDS_Vertex> vertices_;
  std::vector<TopoDS_Edge> edges_;
  ShapeMap<std::string> curves_;
};

/// The face with only the wires that bound it, on our plane, its outer wire counter-clockwise.
TopoDS_Face rebuilt(const TopoDS_Face& face, const Plane& plane) {
  const gp_Pln pln = toPln(plane);
  std::vector<std::pair<double, TopoDS_Wire>> wires;
  for (TopoDS_Iterator it(face); it.More(); it.Next()) {
    if (it.Value().ShapeType() != TopAbs_WIRE) continue;
    const TopExp_Explorer edge(it.Value(), TopAbs_EDGE);
    if (!edge.More() || edge.Current().Orientation() == TopAbs_INTERNAL) continue;
    wires.emplace_back(loopArea(it.Value(), pln), TopoDS::Wire(it.Value()));
  }
  std::sort(wires.begin(), wires.end(),
            [](const auto& a, const auto& b) { return std::abs(a.first) > std::abs(b.first); });
  TopoDS_Face result;
  BRep_Builder builder;
  builder.MakeFace(result, new Geom_Plane(pln), tolerance::point);
  for (std::size_t i = 0; i < wires.size(); ++i) {
    const bool positive = wires[i].first > 0;
    builder.Add(result, positive == (i == 0) ? wires[i].second : TopoDS_Shape(wires[i].second.Reversed()));
  }
  return result;
}

std::vector<TopoDS_Face> intersectedFaces(const Plane& plane, const Builder& curves, ShapeMap<std::string>& names,
                                          Progress& progress) {
  BOPAlgo_Builder builder;
  for (const TopoDS_Edge& edge : curves.edges()) builder.AddArgument(edge);
  Handle(KernelProgress) indicator = new KernelProgress(progress);
  builder.Perform(indicator->Start());
  progress.throwIfStopped();
  if (builder.HasErrors())
    throw Error("the curves could not be intersected with each other", "",
                "Some of them probably run along each other almost exactly; move one");
  BRep_Builder make;
  TopoDS_Compound edges;
  make.MakeCompound(edges);
  names.clear();
  for (const TopoDS_Edge& edge : curves.edges()) {
    const std::string& id = curves.curves().at(edge);
    const TopTools_ListOfShape* images = builder.Images().Seek(edge);
    const auto add = [&](const TopoDS_Shape& part) {
      const TopoDS_Shape* same = builder.ShapesSD().Seek(part);
      const TopoDS_Shape& kept = same ? *same : part;
      if (names.emplace(kept, id).second) make.Add(edges, kept.Oriented(TopAbs_FORWARD));
    };
    if (images)
      for (const TopoDS_Shape& part : *images) add(part);
    else
      add(edge);
  }
  TopoDS_Shape wires, faces;
  BOPAlgo_Tools::EdgesToWires(edges, wires, true);
  progress.throwIfStopped();
  BOPAlgo_Tools::WiresToFaces(wires, faces);
  std::vector<TopoDS_Face> result;
  if (faces.IsNull()) return result;
  for (TopExp_Explorer it(faces, TopAbs_FACE); it.More(); it.Next())
    result.push_back(rebuilt(TopoDS::Face(it.Current()), plane));
  return result;
}

std::string groupOf(const std::string& curve) {
  return curve.substr(0, curve.find('.'));
}

std::string describe(const TopoDS_Face& face, const ShapeMap<std::string>& curves) {
  std::set<std::string> sides;
  for (TopExp_Explorer it(face, TopAbs_EDGE); it.More(); it.Next())
    sides.insert(groupOf(curves.at(it.Current())) + (it.Current().Orientation() == TopAbs_REVERSED ? "-" : "+"));
  std::string name;
  for (const std::string& side : sides) name += (name.empty() ? "" : ".") + side;
  return name;
}

}  // namespace

std::vector<Region> findRegions(const Plane& plane, const std::vector<PlanarCurve>& curves, Progress& progress) {
  std::vector<Piece> pieces;
  for (const PlanarCurve& curve : curves) pieces.push_back(pieceOf(curve));
  if (pieces.empty()) return {};
  return kernelCall("finding regions", [&] {
    const bool crossing = anyCross(pieces, progress);
    const Builder builder(plane, std::move(pieces));
    ShapeMap<std::string> names = builder.curves();
    const std::vector<TopoDS_Face> faces = crossing || builder.branches()
                                               ? intersectedFaces(plane, builder, names, progress)
                                               : nestedFaces(plane, builder.chains(), progress);
    std::vector<RegionBody> found;
    for (const TopoDS_Face& face : faces) {
      progress.throwIfStopped();
      found.push_back(
          RegionBody::of(describe(face, names), plane, face, [&](const TopoDS_Shape& edge) { return names.at(edge); }));
    }
    std::sort(found.begin(), found.end(), [](const RegionBody& a, const RegionBody& b) {
      const Point p = a.planeBox.centre(), q = b.planeBox.centre();
      return std::tie(a.name, p.x, p.y) < std::tie(b.name, q.x, q.y);
    });
    std::vector<Region> regions;
    std::string base;
    int same = 0;
    for (RegionBody& body : found) {
      same = body.name == base ? same + 1 : 1;
      base = body.name;
      if (same > 1) body.name += "#" + std::to_string(same);
      regions.emplace_back(std::make_shared<const RegionBody>(std::move(body)));
    }
    return regions;
  });
}

}  // namespace kervo
