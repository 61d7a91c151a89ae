#include "geom/surface/outline_cut.h"

#include <BRepTopAdaptor_FClass2d.hxx>
#include <ElSLib.hxx>
#include <GeomAPI_ProjectPointOnSurf.hxx>
#include <Poly_Triangulation.hxx>
#include <algorithm>
#include <array>
#include <cmath>

#include "geom/curves/curve_chains.h"
#include "geom/display/tessellate.h"
#include "geom/divide/checked_intersection.h"
#include "geom/measure/soundness.h"
#include "geom/planes.h"
#include "geom/surface/skin.h"

namespace kervo {

namespace {

/// It has to be intersected instead.
struct NotThisWay {};

constexpr int placesPerStretch = 64, fewestSpans = 8, mostSpans = 256;
constexpr double exact = 1e-5, exactEnough = 3e-5;
/// How steeply a face must be met, as the sine of the angle to it.
constexpr double steepEnough = 0.03;

using Flat = std::vector<gp_Pnt2d>;

bool cross(const gp_Pnt2d& a, const gp_Pnt2d& b, const gp_Pnt2d& c, const gp_Pnt2d& d) {
  const auto side = [](const gp_Pnt2d& from, const gp_Pnt2d& to, const gp_Pnt2d& p) {
    return (to.X() - from.X()) * (p.Y() - from.Y()) - (to.Y() - from.Y()) * (p.X() - from.X());
  };
  const double c1 = side(a, b, c), d1 = side(a, b, d), a1 = side(c, d, a), b1 = side(c, d, b);
  return c1 * d1 <= 0 && a1 * b1 <= 0;
}

struct FlatBox {
  double left = Box::infinity, right = -Box::infinity, below = Box::infinity, above = -Box::infinity;
  void add(const gp_Pnt2d& p) {
    left = std::min(left, p.X());
    right = std::max(right, p.X());
    below = std::min(below, p.Y());
    above = std::max(above, p.Y());
  }
  bool meets(const FlatBox& other) const {
    return left <= other.right && other.left <= right && below <= other.above && other.below <= above;
  }
  static FlatBox of(const Flat& line) {
    FlatBox box;
    for (const gp_Pnt2d& point : line) box.add(point);
    return box;
  }
};

bool linesCross(const Flat& a, const Flat& b) {
  if (!FlatBox::of(a).meets(FlatBox::of(b))) return false;
  for (std::size_t i = 0; i + 1 < a.size(); ++i) {
    FlatBox own;
    own.add(a[i]);
    own.add(a[i + 1]);
    for (std::size_t k = 0; k + 1 < b.size(); ++k) {
      FlatBox other;
      other.add(b[k]);
      other.add(b[k + 1]);
      if (own.meets(other) && cross(a[i], a[i + 1], b[k], b[k + 1])) return true;
    }
  }
  return false;
}

/// Twice the area to the left of a closed line.
double areaOf(const Flat& line) {
  double sum = 0;
  for (std::size_t i = 0; i + 1 < line.size(); ++i)
    sum += line[i].X() * line[i + 1].Y() - line[i + 1].X() * line[i].Y();
  return sum;
}

bool isInside(const gp_Pnt2d& point, const Flat& loop) {
  bool inside = false;
  for (std::size_t i = 0; i + 1 < loop.size(); ++i) {
    const gp_Pnt2d &a = loop[i], &b = loop[i + 1];
    if ((a.Y() > point.Y()) == (b.Y() > point.Y())) continue;
    if (point.X() < a.X() + (b.X() - a.X()) * (point.Y() - a.Y()) / (b.Y() - a.Y())) inside = !inside;
  }
  return inside;
}

/// A face that outlines come onto.
class Host {
 public:
  explicit Host(const TopoDS_Face& face) : face_(TopoDS::Face(face.Oriented(TopAbs_FORWARD))), surface_(face_, false) {}

  const TopoDS_Face& face() const { return face_; }
  const BRepAdaptor_Surface& surface() const { return surface_; }

  /// Where lines along `direction` through a point meet the face's triangles, as parameters.
  std::vector<gp_Pnt2d> metBy(Point from, Vector direction) const {
    std::vector<gp_Pnt2d> found;
    const Plane across = Plane::through(from, direction);
    TopLoc_Location place;
    const Handle(Poly_Triangulation) triangles = BRep_Tool::Triangulation(face_, place);
    if (triangles.IsNull()) return found;
    const gp_Trsf move = place.Transformation();
    std::vector<Vector> corners;
    for (int i = 1; i <= triangles->NbNodes(); ++i)
      corners.push_back(across.coordinates(fromPnt(triangles->Node(i).Transformed(move))));
    for (int i = 1; i <= triangles->NbTriangles(); ++i) {
      std::array<int, 3> n{};
      triangles->Triangle(i).Get(n[0], n[1], n[2]);
      const Vector &a = corners[static_cast<std::size_t>(n[0]) - 1], &b = corners[static_cast<std::size_t>(n[1]) - 1],
                   &c = corners[static_cast<std::size_t>(n[2]) - 1];
      const double area = (b.x - a.x) * (c.y - a.y) - (c.x - a.x) * (b.y - a.y);
      if (std::abs(area) < tolerance::rounding) continue;
      const double u = (-a.x * (c.y - a.y) + (c.x - a.x) * a.y) / area;
      const double v = (-(b.x - a.x) * a.y + a.x * (b.y - a.y)) / area;
      if (u < 0 || v < 0 || u + v > 1) continue;
      if (triangles->HasUVNodes()) {
        const gp_XY at = triangles->UVNode(n[0]).XY() * (1 - u - v) + triangles->UVNode(n[1]).XY() * u +
                         triangles->UVNode(n[2]).XY() * v;
        found.emplace_back(at);
        continue;
      }
      const Vector at = a * (1 - u - v) + b * u + c * v;
      GeomAPI_ProjectPointOnSurf nearest(toPnt(from + direction * at.z), BRep_Tool::Surface(face_));
      if (nearest.NbPoints() == 0) continue;
      double s, t;
      nearest.LowerDistanceParameters(s, t);
      found.emplace_back(s, t);
    }
    return found;
  }

  /// From a guess to where the line along `direction` through a point meets the surface.
  gp_Pnt2d met(Point by, Vector direction, gp_Pnt2d guess) const {
    const Plane across = Plane::through(by, direction);
    constexpr int most = 30;
    for (int i = 0; i < most; ++i) {
      gp_Pnt at;
      gp_Vec du, dv;
      surface_.D1(guess.X(), guess.Y(), at, du, dv);
      const Vector off = across.coordinates(fromPnt(at));
      const Vector u = fromVec(du), v = fromVec(dv);
      const double a = dot(u, across.x), b = dot(v, across.x), c = dot(u, across.y), d = dot(v, across.y);
      const double size = a * d - b * c;
      if (std::abs(size) < steepEnough * length(kervo::cross(u, v))) throw NotThisWay{};
      const double stepU = (off.x * d - off.y * b) / size, stepV = (off.y * a - off.x * c) / size;
      guess.SetCoord(guess.X() - stepU, guess.Y() - stepV);
      if (std::abs(stepU) * length(u) + std::abs(stepV) * length(v) < tolerance::parallel) return guess;
    }
    throw NotThisWay{};
  }

  /// The borders in parameters.
  const std::vector<Flat>& borders() const {
    if (!borders_.empty()) return borders_;
    constexpr int places = 64;
    for (TopExp_Explorer it(face_, TopAbs_EDGE); it.More(); it.Next()) {
      double from, to;
      const Handle(Geom2d_Curve) curve = BRep_Tool::CurveOnSurface(TopoDS::Edge(it.Current()), face_, from, to);
      if (curve.IsNull()) throw NotThisWay{};
      Flat& line = borders_.emplace_back();
      for (int i = 0; i <= places; ++i) line.push_back(curve->Value(from + (to - from) * i / places));
    }
    return borders_;
  }

 private:
  TopoDS_Face face_;
  BRepAdaptor_Surface surface_;
  mutable std::vector<Flat> borders_;
};

/// An outline on its face.
struct Loop {
  std::size_t host = 0;
  TopoDS_Wire wire;  ///< with what it encloses to its left
  Flat line;         ///< closed
  int parent = -1;   ///< the innermost loop around it
};

class Cutting {
 public:
  Cutting(const Shape& surface, Progress& progress) : surface_(surface), progress_(progress) {
    (void)tessellate(surface, MeshQuality::forSize(surface.roughBox().diagonal()), progress);
    for (const TopoDS_Face& face : facesOf(surface.body().topology)) hosts_.emplace_back(face);
  }

  void add(const ProjectedOutlines& outlines) {
    const HitFinder finder(outlines.curves, surface_, outlines.along, outlines.hits);
    for (const CurveChain& chain : chainsOf(outlines.curves)) {
      progress_.throwIfStopped();
      if (!chain.closed()) throw NotThisWay{};
      const Point start = chain.stretches.front().start();
      bool any = false;
      for (std::size_t number = 0; number < hosts_.size(); ++number) {
        Flat met;
        for (const gp_Pnt2d& guess : hosts_[number].metBy(start, outlines.along)) {
          const gp_Pnt2d at = hosts_[number].met(start, outlines.along, guess);
          const bool known = std::any_of(met.begin(), met.end(), [&](const gp_Pnt2d& each) {
            return hosts_[number]
                       .surface()
                       .Value(each.X(), each.Y())
                       .Distance(hosts_[number].surface().Value(at.X(), at.Y())) < touching;
          });
          if (known || !finder.counts(fromPnt(hosts_[number].surface().Value(at.X(), at.Y())))) continue;
          met.push_back(at);
          addLoop(number, chain, outlines.along, at, finder);
          any = true;
        }
      }
      // It may begin beside the surface and meet it further on.
      if (!any) throw NotThisWay{};
    }
  }

  std::vector<Shape> pieces() {
    nest();
    FaceTable table = surface_.body().faces;
    std::vector<TopoDS_Shape> outside;
    std::vector<TopoDS_Shape> inner;
    const std::vector<TopoDS_Face> faces = facesOf(surface_.body().topology);
    for (std::size_t number = 0; number < faces.size(); ++number) {
      const bool touched =
          std::any_of(loops_.begin(), loops_.end(), [&](const Loop& loop) { return loop.host == number; });
      if (!touched) {
        outside.push_back(faces[number]);
        continue;
      }
      const FaceFacts& whole = factsOf(surface_, faces[number]);
      const FaceFacts facts{whole.origins, whole.color, false};
      TopoDS_Face rest = emptyFace(number);
      BRep_Builder builder;
      for (TopExp_Explorer it(hosts_[number].face(), TopAbs_WIRE); it.More(); it.Next())
        builder.Add(rest, it.Current());
      addHoles(rest, number, -1);
      rest.Orientation(faces[number].Orientation());
      table.emplace(rest, facts);
      outside.push_back(rest);
      for (std::size_t i = 0; i < loops_.size(); ++i) {
        if (loops_[i].host != number) continue;
        TopoDS_Face piece = emptyFace(number);
        builder.Add(piece, loops_[i].wire);
        addHoles(piece, number, static_cast<int>(i));
        piece.Orientation(faces[number].Orientation());
        table.emplace(piece, facts);
        inner.push_back(piece);
      }
    }
    std::vector<Shape> result;
    double area = 0;
    const auto put = [&](const TopoDS_Shape& shape) {
      progress_.throwIfStopped();
      result.push_back(makeShape(shape, table, "face:"));
      area += result.back().area();
      if (!findFault(result.back().body(), progress_).empty()) throw NotThisWay{};
    };
    if (outside.size() == 1)
      put(outside.front());
    else
      for (const TopoDS_Shape& shell : shellsOf(outside)) put(shell);
    for (const TopoDS_Shape& piece : inner) put(piece);
    if (std::abs(area - surface_.area()) > tolerance::balance * surface_.area()) throw NotThisWay{};
    return result;
  }

 private:
  /// Follows the outline on the face, all round.
  void addLoop(std::size_t number, const CurveChain& chain, Vector along, gp_Pnt2d at, const HitFinder& finder) {
    const Host& host = hosts_[number];
    Loop loop{number, {}, {at}, -1};
    std::vector<TopoDS_Edge> edges;
    const BRep_Builder builder;
    TopoDS_Vertex first;
    builder.MakeVertex(first, host.surface().Value(at.X(), at.Y()), exactEnough);
    TopoDS_Vertex before = first;
    for (std::size_t s = 0; s < chain.stretches.size(); ++s) {
      const CurveStretch& stretch = chain.stretches[s];
      const auto source = [&](double t) { return stretch.at(stretch.from + (stretch.to - stretch.from) * t); };
      Flat line{loop.line.back()};
      for (int i = 1; i <= placesPerStretch; ++i)
        line.push_back(host.met(source(static_cast<double>(i) / placesPerStretch), along, line.back()));
      const auto parametersAt = [&](double t) {
        const auto guess = static_cast<std::size_t>(std::lround(t * placesPerStretch));
        return host.met(source(t), along, line[guess]);
      };
      const bool last = s + 1 == chain.stretches.size();
      TopoDS_Vertex after = first;
      if (!last) builder.MakeVertex(after, host.surface().Value(line.back().X(), line.back().Y()), exactEnough);
      edges.push_back(edgeAlong(host, parametersAt, before, after));
      before = after;
      loop.line.insert(loop.line.end(), line.begin() + 1, line.end());
      // That it stays the hit which counts is asked in between.
      constexpr int asked = 3;
      for (int i = 0; i < asked; ++i) {
        const gp_Pnt2d& place = line[static_cast<std::size_t>((2 * i + 1) * placesPerStretch / (2 * asked))];
        if (!finder.counts(fromPnt(host.surface().Value(place.X(), place.Y())))) throw NotThisWay{};
      }
    }
    const gp_Pnt2d &begin = loop.line.front(), &end = loop.line.back();
    if (begin.Distance(end) > tolerance::parameterStep) throw NotThisWay{};  // round the surface
    loop.line.back() = begin;
    requireInside(host, loop.line);
    const bool left = areaOf(loop.line) > 0;
    builder.MakeWire(loop.wire);
    if (!left) std::reverse(edges.begin(), edges.end());
    for (const TopoDS_Edge& edge : edges) builder.Add(loop.wire, left ? edge : TopoDS::Edge(edge.Reversed()));
    loop.wire.Closed(true);
    loops_.push_back(std::move(loop));
  }

  static TopoDS_Edge edgeAlong(const Host& host, const std::function<gp_Pnt2d(double)>& parametersAt,
                               const TopoDS_Vertex& from, const TopoDS_Vertex& to) {
    const auto row = [&](double t) {
      const gp_Pnt2d at = parametersAt(t);
      return Row{{at.X(), at.Y(), 0}, fromPnt(host.surface().Value(at.X(), at.Y()))};
    };
    for (int spans = fewestSpans;; spans *= 2) {
      const Columns columns = columnsThrough(row, 0, 1, spans);
      const Handle(Geom2d_BSplineCurve) flat = columns.flatCurve(0);
      const Handle(Geom_BSplineCurve) curve = columns.curve(1);
      double off = 0;
      for (int i = 0; i < spans; ++i) {
        const double t = (i + 0.5) / spans;
        const gp_Pnt2d own = flat->Value(t), wanted = parametersAt(t);
        const gp_Pnt at = host.surface().Value(wanted.X(), wanted.Y());
        off = std::max({off, at.Distance(curve->Value(t)), at.Distance(host.surface().Value(own.X(), own.Y()))});
      }
      if (off > exact && spans < mostSpans) continue;
      if (off > exactEnough) throw NotThisWay{};
      const BRep_Builder builder;
      TopoDS_Edge edge;
      builder.MakeEdge(edge, curve, std::max(tolerance::point, 2 * off));
      builder.Add(edge, from.Oriented(TopAbs_FORWARD));
      builder.Add(edge, to.Oriented(TopAbs_REVERSED));
      TopLoc_Location place;
      const Handle(Geom_Surface) geometry = BRep_Tool::Surface(host.face(), place);
      builder.UpdateEdge(edge, flat, geometry, place, std::max(tolerance::point, 2 * off));
      builder.Range(edge, 0, 1);
      builder.SameRange(edge, true);
      builder.SameParameter(edge, true);
      return edge;
    }
  }

  static void requireInside(const Host& host, const Flat& line) {
    for (const Flat& border : host.borders())
      if (linesCross(border, line)) throw NotThisWay{};
    BRepTopAdaptor_FClass2d within(host.face(), tolerance::point);
    for (std::size_t i = 0; i < line.size(); i += 8)
      if (within.Perform(line[i]) != TopAbs_IN) throw NotThisWay{};
  }

  /// Which loop lies in which. None may cross another.
  void nest() {
    for (std::size_t i = 0; i < loops_.size(); ++i) {
      double least = Box::infinity;
      for (std::size_t k = 0; k < loops_.size(); ++k) {
        if (k == i || loops_[k].host != loops_[i].host) continue;
        if (k > i && linesCross(loops_[i].line, loops_[k].line)) throw NotThisWay{};
        const double area = std::abs(areaOf(loops_[k].line));
        if (area >= least || !isInside(loops_[i].line.front(), loops_[k].line)) continue;
        least = area;
        loops_[i].parent = static_cast<int>(k);
      }
    }
  }

  TopoDS_Face emptyFace(std::size_t host) const {
    TopLoc_Location place;
    const Handle(Geom_Surface) geometry = BRep_Tool::Surface(hosts_[host].face(), place);
    TopoDS_Face face;
    BRep_Builder().MakeFace(face, geometry, place, BRep_Tool::Tolerance(hosts_[host].face()));
    return face;
  }

  void addHoles(TopoDS_Face& face, std::size_t host, int parent) const {
    for (const Loop& loop : loops_)
      if (loop.host == host && loop.parent == parent) BRep_Builder().Add(face, loop.wire.Reversed());
  }

  const Shape& surface_;
  Progress& progress_;
  std::vector<Host> hosts_;
  std::vector<Loop> loops_;
};

}  // namespace

std::optional<std::vector<Shape>> cutByOutlines(const Shape& surface, const std::vector<ProjectedOutlines>& outlines,
                                                Progress& progress) {
  return kernelCall("trimming", [&]() -> std::optional<std::vector<Shape>> {
    try {
      Cutting cutting(surface, progress);
      for (const ProjectedOutlines& each : outlines) cutting.add(each);
      return cutting.pieces();
    } catch (const NotThisWay&) {
      return std::nullopt;
    } catch (const Standard_Failure&) {
      // The kernel's intersection finds its way, or says what is wrong.
      progress.throwIfStopped();
      return std::nullopt;
    }
  });
}

}  // namespace kervo
