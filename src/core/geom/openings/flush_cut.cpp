#include "geom/openings/flush_cut.h"

#include <BRepTopAdaptor_FClass2d.hxx>
#include <ElSLib.hxx>
#include <TopoDS_Iterator.hxx>
#include <algorithm>
#include <memory>
#include <optional>

#include "base/say.h"
#include "geom/divide/side_by_side.h"
#include "geom/measure/soundness.h"
#include "geom/planes.h"

namespace kervo {

namespace {

/// What keeps this far apart does not meet, whatever the edges' tolerances.
constexpr double clearance = 10 * tolerance::looseEdge;

/// A face with what is asked of it again and again.
struct Side {
  TopoDS_Face face;
  Box box;
  std::optional<Plane> plane;  ///< its normal points outwards
};

std::vector<Side> sidesOf(const Shape& shape) {
  std::vector<Side> sides;
  for (TopExp_Explorer it(shape.body().topology, TopAbs_FACE); it.More(); it.Next()) {
    Side side{TopoDS::Face(it.Current()), factsOf(shape, it.Current()).box, {}};
    const BRepAdaptor_Surface surface(side.face, false);
    if (surface.GetType() == GeomAbs_Plane) {
      const gp_Pln plane = surface.Plane();
      const bool turned = (side.face.Orientation() == TopAbs_REVERSED) == plane.Direct();
      const Vector normal = fromDir(plane.Axis().Direction());
      side.plane = Plane::through(fromPnt(plane.Location()), turned ? -normal : normal);
    }
    sides.push_back(std::move(side));
  }
  return sides;
}

class FlushCut {
 public:
  explicit FlushCut(const Shape& body) : body_(body), sides_(sidesOf(body)) {
    std::size_t shell = 0;
    for (TopExp_Explorer shells(body.body().topology, TopAbs_SHELL); shells.More(); shells.Next(), ++shell)
      for (TopExp_Explorer it(shells.Current(), TopAbs_FACE); it.More(); it.Next()) shellOf_.push_back(shell);
    shells_ = shell;
  }

  /// Whether it can be cut out directly; it is remembered if so.
  bool accept(const Shape& solid) {
    if (solid.empty() || solid.kind() != BodyKind::Solid || solid.solidCount() != 1) return false;
    if (shellOf_.size() != sides_.size()) return false;
    Plug plug{solid, solid.roughBox().enlarged(clearance), sidesOf(solid), {}};
    if (!findHosts(plug) || !keepsClear(plug)) return false;
    for (const Plug& other : plugs_)
      if (other.box.overlaps(plug.box) && !apart(other, plug)) return false;
    plugs_.push_back(std::move(plug));
    return true;
  }

  bool any() const { return !plugs_.empty(); }

  /// Throws Error if the proof was wrong after all.
  Division build() const {
    BRep_Builder builder;
    FaceTable outsideTable = body_.body().faces, insideTable;
    std::vector<std::vector<TopoDS_Shape>> added(shells_);
    std::vector<std::vector<TopoDS_Wire>> holes(sides_.size());
    TopoDS_Compound inside;
    builder.MakeCompound(inside);
    for (const Plug& plug : plugs_) {
      for (TopExp_Explorer it(plug.solid.body().topology, TopAbs_SOLID); it.More(); it.Next())
        builder.Add(inside, it.Current());
      for (std::size_t f = 0; f < plug.sides.size(); ++f) {
        const TopoDS_Face& face = plug.sides[f].face;
        const FaceFacts& facts = factsOf(plug.solid, face);
        insideTable.emplace(face, facts);
        if (plug.hosts[f] >= 0) {
          const auto host = static_cast<std::size_t>(plug.hosts[f]);
          holes[host].push_back(outlineAsHole(face, sides_[host].face));
        } else {
          outsideTable.emplace(face, facts);
          added[shellOf_[static_cast<std::size_t>(plug.host)]].push_back(face.Reversed());
        }
      }
    }
    const TopoDS_Shape topology = rebuilt(holes, added, outsideTable);
    Shape outside = makeShape(topology, std::move(outsideTable), "face:");
    Shape taken = makeShape(inside, std::move(insideTable), "face:");
    const Balance balance{body_.volume(), outside.volume(), taken.volume()};
    if (std::abs(balance.residual()) > tolerance::balance * balance.before || !openEdges(topology).empty())
      throw Error(say("the direct cut is not sound"));
    return {std::move(outside), std::move(taken), balance, {}};
  }

 private:
  struct Plug {
    Shape solid;
    Box box;
    std::vector<Side> sides;
    std::vector<int> hosts;  ///< by side: the face of the body that it lies in, or −1
    int host = -1;           ///< one of them
  };

  static bool samePlane(const Plane& a, const Plane& b) {
    return length(a.normal - b.normal) < tolerance::sameDirection &&
           std::abs(a.signedDistance(b.origin)) < tolerance::samePlace;
  }

  bool findHosts(Plug& plug) const {
    for (const Side& side : plug.sides) {
      int host = -1;
      for (std::size_t f = 0; f < sides_.size(); ++f) {
        const auto &own = side.plane, &other = sides_[f].plane;
        if (!own || !other || !sides_[f].box.overlaps(side.box) || !samePlane(*other, *own)) continue;
        if (host >= 0) return false;
        host = static_cast<int>(f);
      }
      if (host >= 0 && !liesWithin(side, sides_[static_cast<std::size_t>(host)], plug)) return false;
      if (host >= 0 && plug.host >= 0 &&
          shellOf_[static_cast<std::size_t>(host)] != shellOf_[static_cast<std::size_t>(plug.host)])
        return false;
      if (host >= 0) plug.host = host;
      plug.hosts.push_back(host);
    }
    // Two in one face would touch each other there.
    std::vector<int> used;
    for (const int host : plug.hosts)
      if (host >= 0) used.push_back(host);
    std::sort(used.begin(), used.end());
    return plug.host >= 0 && std::adjacent_find(used.begin(), used.end()) == used.end();
  }

  /// The cap has one outline, the solid is behind it, and a corner of it is inside the host. That no border of the host
  /// comes near follows from what is beyond these borders.
  static bool liesWithin(const Side& cap, const Side& host, const Plug& plug) {
    int wires = 0;
    for (TopoDS_Iterator it(cap.face); it.More(); it.Next()) wires += it.Value().ShapeType() == TopAbs_WIRE;
    if (wires != 1 || !host.plane || !supports(*host.plane, plug)) return false;
    const gp_Pnt corner = BRep_Tool::Pnt(TopoDS::Vertex(TopExp_Explorer(cap.face, TopAbs_VERTEX).Current()));
    double u = 0, v = 0;
    ElSLib::Parameters(BRepAdaptor_Surface(host.face, false).Plane(), corner, u, v);
    return BRepTopAdaptor_FClass2d(host.face, tolerance::point).Perform(gp_Pnt2d(u, v)) == TopAbs_IN;
  }

  /// No face but the hosts comes near: it lies elsewhere, on one side of its plane, or beyond a side of the solid.
  bool keepsClear(const Plug& plug) const {
    for (std::size_t f = 0; f < sides_.size(); ++f) {
      if (std::find(plug.hosts.begin(), plug.hosts.end(), static_cast<int>(f)) != plug.hosts.end()) continue;
      const Side& side = sides_[f];
      if (!side.box.overlaps(plug.box)) continue;
      if (side.plane) {
        const Span span = spanAbove(*side.plane, plug.box);
        if (span.low > 0 || span.high < 0) continue;
      }
      if (!isBeyond(side.box, plug)) return false;
    }
    return true;
  }

  /// A box is in front of a side that the whole solid lies behind.
  static bool isBeyond(const Box& box, const Plug& plug) {
    return std::any_of(plug.sides.begin(), plug.sides.end(), [&](const Side& side) {
      return side.plane && spanAbove(*side.plane, box).low > clearance && supports(*side.plane, plug);
    });
  }
  static bool supports(const Plane& plane, const Plug& plug) {
    return std::all_of(plug.sides.begin(), plug.sides.end(), [&](const Side& side) {
      if (!side.plane) return spanAbove(plane, side.box).high < clearance;
      for (TopExp_Explorer it(side.face, TopAbs_EDGE); it.More(); it.Next()) {
        const BRepAdaptor_Curve curve(TopoDS::Edge(it.Current()));
        if (curve.GetType() != GeomAbs_Line) return spanAbove(plane, side.box).high < clearance;
        for (const double t : {curve.FirstParameter(), curve.LastParameter()})
          if (plane.signedDistance(fromPnt(curve.Value(t))) > tolerance::samePlace) return false;
      }
      return true;
    });
  }
  static bool apart(const Plug& a, const Plug& b) { return isBeyond(a.box, b) || isBeyond(b.box, a); }

  /// The outline of a cap as a hole in the host taken forward.
  static TopoDS_Wire outlineAsHole(const TopoDS_Face& cap, const TopoDS_Face& host) {
    for (TopoDS_Iterator it(cap); it.More(); it.Next())
      if (it.Value().ShapeType() == TopAbs_WIRE) {
        const TopoDS_Shape against = it.Value().Reversed();
        return TopoDS::Wire(host.Orientation() == TopAbs_REVERSED ? against.Reversed() : against);
      }
    return {};
  }

  TopoDS_Shape rebuilt(const std::vector<std::vector<TopoDS_Wire>>& holes,
                       const std::vector<std::vector<TopoDS_Shape>>& added, FaceTable& table) const {
    BRep_Builder builder;
    TopoDS_Compound compound;
    builder.MakeCompound(compound);
    std::size_t f = 0, number = 0;
    for (TopExp_Explorer solids(body_.body().topology, TopAbs_SOLID); solids.More(); solids.Next()) {
      TopoDS_Solid solid;
      builder.MakeSolid(solid);
      for (TopExp_Explorer shells(solids.Current(), TopAbs_SHELL); shells.More(); shells.Next(), ++number) {
        TopoDS_Shell shell;
        builder.MakeShell(shell);
        for (TopExp_Explorer it(shells.Current(), TopAbs_FACE); it.More(); it.Next(), ++f) {
          if (holes[f].empty()) {
            builder.Add(shell, it.Current());
            continue;
          }
          TopoDS_Face face = TopoDS::Face(it.Current().EmptyCopied());
          face.Orientation(TopAbs_FORWARD);
          for (TopoDS_Iterator wires(it.Current().Oriented(TopAbs_FORWARD), false); wires.More(); wires.Next())
            builder.Add(face, wires.Value());
          for (const TopoDS_Wire& hole : holes[f]) builder.Add(face, hole);
          const FaceFacts old = table.at(it.Current());
          table.emplace(face, FaceFacts{old.origins, old.color, old.sound});
          builder.Add(shell, face.Oriented(it.Current().Orientation()));
        }
        for (const TopoDS_Shape& side : added[number]) builder.Add(shell, side);
        shell.Closed(true);
        builder.Add(solid, shell);
      }
      builder.Add(compound, solid);
    }
    return compound;
  }

  const Shape& body_;
  std::vector<Side> sides_;
  std::vector<std::size_t> shellOf_;  // by side
  std::size_t shells_ = 0;
  std::vector<Plug> plugs_;
};

}  // namespace

Division cutFlush(const Shape& body, const std::vector<Shape>& solids, Progress& progress, int* direct) {
  std::vector<Shape> general;
  Division division{body, {}, {body.volume(), body.volume(), 0}, {}};
  if (direct) *direct = 0;
  kernelCall("the cut", [&] {
    FlushCut cut(body);
    for (const Shape& solid : solids) {
      progress.throwIfStopped();
      if (!cut.accept(solid)) general.push_back(solid);
    }
    if (!cut.any()) return;
    try {
      division = cut.build();
      if (direct) *direct = static_cast<int>(solids.size() - general.size());
    } catch (const Error&) {
      // The proof did not hold: everything goes the general way, which checks for itself.
      general = solids;
    }
  });
  if (general.empty()) return division;
  Division rest = divide(division.outside, general, progress);
  if (division.inside.empty()) return rest;
  if (rest.inside.empty()) return division;
  const Balance balance{body.volume(), rest.outside.volume(), division.inside.volume() + rest.inside.volume()};
  return {rest.outside, sideBySide(division.inside, rest.inside), balance, rest.remedy};
}

}  // namespace kervo
