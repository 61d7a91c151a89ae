#include "geom/surface/engraved.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Curve2d.hxx>
#include <BRepBndLib.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepTools.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Iterator.hxx>
#include <algorithm>
#include <array>
#include <cmath>
#include <memory>
#include <optional>

#include "base/say.h"
#include "geom/divide/side_by_side.h"
#include "geom/kernel/call.h"
#include "geom/kernel/topology_body.h"
#include "geom/measure/soundness.h"
#include "geom/mesh/mesh_offset.h"
#include "geom/mesh/meshed.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

/// What keeps this far apart does not meet, whatever the edges' tolerances.
constexpr double clearance = 10 * tolerance::looseEdge;

bool comesNear(const TopoDS_Shape& a, const TopoDS_Shape& b) {
  Bnd_Box one, other;
  BRepBndLib::Add(a, one, false);
  BRepBndLib::Add(b, other, false);
  if (one.Distance(other) > clearance) return false;
  const BRepExtrema_DistShapeShape apart(a, b);
  return !apart.IsDone() || apart.Value() < clearance;
}

class Engraving {
 public:
  Engraving(const Shape& stock, const TopoDS_Face& host, Relief relief) : stock_(stock), host_(host), relief_(relief) {
    TopLoc_Location place;
    geometry_ = BRep_Tool::Surface(host, place);
    placed_ = !place.IsIdentity();
    for (TopExp_Explorer it(host, TopAbs_EDGE); it.More(); it.Next()) borders_.push_back(TopoDS::Edge(it.Current()));
    for (TopExp_Explorer it(stock.body().topology, TopAbs_FACE); it.More(); it.Next())
      if (!it.Current().IsSame(host)) others_.push_back(TopoDS::Face(it.Current()));
  }

  /// Whether it can go without an intersection; it is remembered if so.
  bool accept(const Shape& solid) {
    if (placed_ || solid.empty() || solid.solidCount() != 1) return false;
    const std::optional<TopoDS_Face> cap = capOf(solid);
    if (!cap || !liesWithin(*cap)) return false;
    std::vector<Point> border = pointsAlong(*cap);
    if (meetsOthers(solid)) return false;
    for (const Plug& plug : plugs_)
      if (plug.solid.roughBox().enlarged(besideEachOther).overlaps(solid.roughBox()) && touch(plug.border, border))
        return false;
    plugs_.push_back({solid, *cap, std::move(border)});
    return true;
  }

  std::size_t count() const { return plugs_.size(); }

  /// Throws Error if the proof was wrong after all.
  Division build(Progress& progress) const {
    FaceTable table = stock_.body().faces, takenTable;
    BRep_Builder builder;
    TopoDS_Compound taken;
    builder.MakeCompound(taken);
    double volume = 0;
    std::vector<TopoDS_Shape> added;
    std::vector<Piece> pieces = islands();
    for (const Plug& plug : plugs_) {
      volume += plug.solid.volume();
      builder.Add(taken, plug.solid.body().topology);
      for (TopExp_Explorer it(plug.solid.body().topology, TopAbs_FACE); it.More(); it.Next()) {
        const FaceFacts& facts = factsOf(plug.solid, it.Current());
        takenTable.emplace(it.Current(), facts);
        if (it.Current().IsSame(plug.cap)) continue;
        table.emplace(it.Current(), facts);
        added.push_back(relief_ == Relief::Taken ? it.Current().Reversed() : it.Current());
      }
      // Both faces have one surface, on which what is left of a border is left of it for both.
      TopoDS_Face around = pieceAround(plug, pieces).face;
      builder.Add(around, outerOf(plug.cap).Reversed());
    }
    const FaceFacts old = table.at(host_);
    std::vector<TopoDS_Shape> left;
    for (const Piece& piece : pieces) {
      table.emplace(piece.face, FaceFacts{old.origins, old.color, false});
      left.push_back(piece.face);
    }
    const TopoDS_Shape topology = rebuilt(left, added);
    Shape outside = makeShape(topology, std::move(table), "face:");
    const double sign = relief_ == Relief::Taken ? 1 : -1;
    const Balance balance{stock_.volume(), outside.volume(), sign * volume};
    if (std::abs(balance.residual()) > tolerance::balance * balance.before)
      throw Error(say("the direct cut is not sound"));
    if (const std::string fault = findFault(outside.body(), progress); !fault.empty()) throw Error(fault);
    return {std::move(outside), makeShape(taken, std::move(takenTable), "face:"), balance, {}};
  }

 private:
  struct Plug {
    Shape solid;
    TopoDS_Face cap;            ///< its face that lies on the host's surface
    std::vector<Point> border;  ///< along the cap's edges
  };

  /// Regions of a drawing have at most borders in common: then points of these are this near to each other.
  static constexpr double besideEachOther = 0.05;

  static std::vector<Point> pointsAlong(const TopoDS_Face& face) {
    std::vector<Point> points;
    for (TopExp_Explorer it(face, TopAbs_EDGE); it.More(); it.Next()) {
      const BRepAdaptor_Curve curve(TopoDS::Edge(it.Current()));
      const double from = curve.FirstParameter(), to = curve.LastParameter();
      const double size = distance(fromPnt(curve.Value(from)), fromPnt(curve.Value((from + to) / 2))) +
                          distance(fromPnt(curve.Value((from + to) / 2)), fromPnt(curve.Value(to)));
      constexpr int fewest = 8, most = 1000;
      const int count = std::clamp(static_cast<int>(2 * size / besideEachOther), fewest, most);
      for (int i = 0; i < count; ++i) points.push_back(fromPnt(curve.Value(from + (to - from) * i / count)));
    }
    return points;
  }

  /// As the face taken forward has it.
  static TopoDS_Wire outerOf(const TopoDS_Face& face) {
    return BRepTools::OuterWire(TopoDS::Face(face.Oriented(TopAbs_FORWARD)));
  }

  static bool touch(const std::vector<Point>& a, const std::vector<Point>& b) {
    Box around;
    for (const Point& point : a) around.add(point);
    around = around.enlarged(besideEachOther);
    for (const Point& point : b) {
      if (!around.contains(point)) continue;
      for (const Point& other : a)
        if (distance(point, other) < besideEachOther) return true;
    }
    return false;
  }

  /// Whether another face of the body comes near to a solid: by places all over it that are nearer to each other than
  /// to any of these faces; where that does not tell, by the kernel, which takes long for free-form faces.
  bool meetsOthers(const Shape& solid) {
    const Box box = solid.roughBox().enlarged(clearance);
    std::vector<TopoDS_Face> near;
    for (const TopoDS_Face& face : others_)
      if (factsOf(stock_, face).box.overlaps(box)) near.push_back(face);
    if (near.empty()) return false;
    TopoDS_Compound all;
    BRep_Builder builder;
    builder.MakeCompound(all);
    for (const TopoDS_Face& face : near) builder.Add(all, face);
    const double size = solid.volume() / std::max(solid.area(), tolerance::smallestSize), closeness = size / 4;
    Progress unstoppable;
    const MeshFineness fineness{closeness, MeshFineness().angleRadians};
    const Mesh others = meshed(makeShape(all, {}, "face"), fineness, unstoppable);
    const MeshDistance distance(others);
    constexpr double mostPlaces = 200'000;
    if (solid.area() / (closeness * closeness) < mostPlaces) {
      MeshDistance::Hint hint;
      const auto isClear = [&](const std::array<Point, 3>& corners, const auto& self) -> bool {
        const Point middle = (corners[0] + corners[1] + corners[2]) * (1.0 / 3);
        double reach = 0;
        for (const Point& corner : corners) reach = std::max(reach, kervo::distance(corner, middle));
        const double far = std::abs(distance.inside(middle, hint));
        if (far > reach + 2 * closeness + clearance) return true;
        if (reach < closeness) return false;
        // Halved at its longest edge.
        std::size_t k = 0;
        const auto edge = [&](std::size_t i) { return kervo::distance(corners[i], corners[(i + 1) % 3]); };
        for (std::size_t i = 1; i < 3; ++i)
          if (edge(i) > edge(k)) k = i;
        const Point a = corners[k], b = corners[(k + 1) % 3], c = corners[(k + 2) % 3], halfway = (a + b) * 0.5;
        return self(std::array<Point, 3>{a, halfway, c}, self) && self(std::array<Point, 3>{halfway, b, c}, self);
      };
      const Mesh own = meshed(solid, fineness, unstoppable);
      const bool clear = std::all_of(own.triangles().begin(), own.triangles().end(), [&](const Mesh::Triangle& t) {
        return isClear({own.points()[t[0]], own.points()[t[1]], own.points()[t[2]]}, isClear);
      });
      if (clear) return false;
    }
    return std::any_of(near.begin(), near.end(),
                       [&](const TopoDS_Face& face) { return comesNear(solid.body().topology, face); });
  }

  /// A part of the host that stays.
  struct Piece {
    TopoDS_Face face;  ///< forward
    std::shared_ptr<BRepTopAdaptor_FClass2d> within;
    double area = 0;
    const Plug* of = nullptr;  ///< whose island it is; null for the rest of the host
  };

  /// What is left of the host outside of all caps comes first, without its holes; then the islands in caps.
  std::vector<Piece> islands() const {
    const BRep_Builder builder;
    const auto empty = [&] {
      TopoDS_Face face = TopoDS::Face(host_.EmptyCopied());
      face.Orientation(TopAbs_FORWARD);
      return face;
    };
    std::vector<Piece> pieces{{empty(), nullptr, 0, nullptr}};
    for (TopoDS_Iterator wires(host_.Oriented(TopAbs_FORWARD), false); wires.More(); wires.Next())
      builder.Add(pieces.front().face, wires.Value());
    for (const Plug& plug : plugs_) {
      const TopoDS_Wire outer = outerOf(plug.cap);
      for (TopoDS_Iterator it(plug.cap, false); it.More(); it.Next()) {
        if (it.Value().ShapeType() != TopAbs_WIRE || it.Value().IsSame(outer)) continue;
        Piece& piece = pieces.emplace_back(Piece{empty(), nullptr, 0, &plug});
        builder.Add(piece.face, it.Value().Reversed());
        piece.within = std::make_shared<BRepTopAdaptor_FClass2d>(piece.face, tolerance::point);
        piece.area = integrate(piece.face).area;
      }
    }
    return pieces;
  }

  /// The smallest island that a cap lies in, or the rest.
  static const Piece& pieceAround(const Plug& plug, const std::vector<Piece>& pieces) {
    const BRepAdaptor_Curve2d line(TopoDS::Edge(TopExp_Explorer(plug.cap, TopAbs_EDGE).Current()), plug.cap);
    const gp_Pnt2d place = line.Value(line.FirstParameter());
    const Piece* best = &pieces.front();
    for (const Piece& piece : pieces)
      if (piece.of && piece.of != &plug && (!best->of || piece.area < best->area) &&
          piece.within->Perform(place, false) == TopAbs_IN)
        best = &piece;
    return *best;
  }

  std::optional<TopoDS_Face> capOf(const Shape& solid) const {
    for (TopExp_Explorer it(solid.body().topology, TopAbs_FACE); it.More(); it.Next()) {
      TopLoc_Location place;
      if (BRep_Tool::Surface(TopoDS::Face(it.Current()), place) == geometry_ && place.IsIdentity())
        return TopoDS::Face(it.Current());
    }
    return std::nullopt;
  }

  /// In the host's own range of parameters, and clear of its borders.
  bool liesWithin(const TopoDS_Face& cap) const {
    BRepTopAdaptor_FClass2d within(TopoDS::Face(host_.Oriented(TopAbs_FORWARD)), tolerance::point);
    for (TopExp_Explorer it(cap, TopAbs_EDGE); it.More(); it.Next()) {
      const BRepAdaptor_Curve2d line(TopoDS::Edge(it.Current()), cap);
      constexpr int places = 8;
      for (int i = 0; i < places; ++i) {
        const double t = line.FirstParameter() + (line.LastParameter() - line.FirstParameter()) * i / places;
        if (within.Perform(line.Value(t), false) != TopAbs_IN) return false;
      }
    }
    return std::none_of(borders_.begin(), borders_.end(), [&](const TopoDS_Edge& border) {
      return !BRep_Tool::Degenerated(border) && comesNear(cap, border);
    });
  }

  TopoDS_Shape rebuilt(const std::vector<TopoDS_Shape>& left, const std::vector<TopoDS_Shape>& added) const {
    BRep_Builder builder;
    TopoDS_Compound compound;
    builder.MakeCompound(compound);
    for (TopExp_Explorer solids(stock_.body().topology, TopAbs_SOLID); solids.More(); solids.Next()) {
      TopoDS_Solid solid;
      builder.MakeSolid(solid);
      for (TopExp_Explorer shells(solids.Current(), TopAbs_SHELL); shells.More(); shells.Next()) {
        TopoDS_Shell shell;
        builder.MakeShell(shell);
        for (TopExp_Explorer it(shells.Current(), TopAbs_FACE); it.More(); it.Next()) {
          if (!it.Current().IsSame(host_)) {
            builder.Add(shell, it.Current());
            continue;
          }
          for (const TopoDS_Shape& face : left) builder.Add(shell, face.Oriented(it.Current().Orientation()));
          for (const TopoDS_Shape& face : added) builder.Add(shell, face);
        }
        shell.Closed(true);
        builder.Add(solid, shell);
      }
      builder.Add(compound, solid);
    }
    return compound;
  }

  const Shape& stock_;
  TopoDS_Face host_;
  Relief relief_;
  Handle(Geom_Surface) geometry_;
  bool placed_ = false;
  std::vector<TopoDS_Edge> borders_;
  std::vector<TopoDS_Face> others_;
  std::vector<Plug> plugs_;
};

}  // namespace

Division engraved(const Shape& stock, const Face& face, Relief relief, const std::vector<Shape>& solids,
                  const std::function<Shape(std::size_t)>& reaching, Progress& progress, int* direct) {
  std::vector<std::size_t> general;
  Division done{stock, {}, {stock.volume(), stock.volume(), 0}, {}};
  if (direct) *direct = 0;
  kernelCall("engraving", [&] {
    Engraving engraving(stock, face.body().face, relief);
    for (std::size_t i = 0; i < solids.size(); ++i) {
      progress.throwIfStopped();
      if (!engraving.accept(solids[i])) general.push_back(i);
    }
    if (engraving.count() == 0) return;
    try {
      done = engraving.build(progress);
      if (direct) *direct = static_cast<int>(engraving.count());
    } catch (const Error&) {
      // The proof did not hold: everything goes the general way, which checks for itself.
      general.clear();
      for (std::size_t i = 0; i < solids.size(); ++i) general.push_back(i);
    }
  });
  if (general.empty()) return done;
  std::vector<Shape> cutters;
  for (const std::size_t i : general) cutters.push_back(reaching(i));
  if (relief == Relief::Added) {
    cutters.insert(cutters.begin(), done.outside);
    const Union joined = unite(cutters, progress);
    done.outside = joined.shape;
    done.remedy = joined.remedy;
    return done;
  }
  const Division rest = divide(done.outside, cutters, progress);
  const Shape inside = sideBySide(done.inside, rest.inside);
  const Balance balance{stock.volume(), rest.outside.volume(), inside.empty() ? 0 : inside.volume()};
  return {rest.outside, inside, balance, rest.remedy};
}

}  // namespace kervo
