#include "geom/openings/filled.h"

#include <BRepExtrema_DistShapeShape.hxx>
#include <ShapeFix_Edge.hxx>
#include <ShapeUpgrade_UnifySameDomain.hxx>
#include <TopTools_MapOfShape.hxx>
#include <TopoDS_Iterator.hxx>
#include <algorithm>
#include <optional>

#include "base/say.h"
#include "geom/divide/boolean.h"
#include "geom/faces/carried_faces.h"
#include "geom/faces/removed_faces.h"
#include "geom/kernel/topology_body.h"
#include "geom/measure/soundness.h"
#include "geom/topology.h"

namespace kervo {

namespace {

/// Thrown where a way of closing does not work out.
struct NotThisWay {};

TopoDS_Face emptyCopy(const TopoDS_Face& face) {
  TopoDS_Face copy = TopoDS::Face(face.EmptyCopied());
  copy.Orientation(TopAbs_FORWARD);
  BRep_Builder().NaturalRestriction(copy, false);
  return copy;
}

/// A face without some of its outlines.
TopoDS_Shape without(const TopoDS_Shape& face, const ShapeMap<bool>& wires) {
  BRep_Builder builder;
  TopoDS_Face whole = emptyCopy(TopoDS::Face(face));
  for (TopoDS_Iterator it(face.Oriented(TopAbs_FORWARD)); it.More(); it.Next())
    if (!wires.contains(it.Value())) builder.Add(whole, it.Value());
  return whole.Oriented(face.Orientation());
}

/// One part of what closes an opening: a stretch of a wall's surface.
struct Cap {
  TopoDS_Face face;  // oriented as the wall
  TopoDS_Face wall;
  bool open = false;  // beside the wall rather than in it: the wall is not closed round it
};

/// An opening of a solid, told by its faces: its border, the caps that close it.
class Gap {
 public:
  Gap(const Shape& solid, const std::vector<TopoDS_Face>& all, const std::vector<int>& numbers) : solid_(solid) {
    for (const int number : numbers) inside_[all.at(static_cast<std::size_t>(number))] = true;
    for (const TopoDS_Face& face : all)
      if (inside_.contains(face))
        for (TopExp_Explorer it(face, TopAbs_EDGE); it.More(); it.Next()) ++used_[it.Current()];
    for (const auto& [face, is] : inside_) leaveOpen(face);
    for (const TopoDS_Face& face : all)
      if (!inside_.contains(face)) lookAt(face);
    closeOpenSides();
    for (std::size_t g = 0; g < groups_.size(); ++g) {
      caps_.push_back(capOf(groups_[g]));
      caps_.back().open = std::find(open_.begin(), open_.end(), g) != open_.end();
    }
  }

  const std::vector<Cap>& caps() const { return caps_; }
  /// Whole inner outlines of walls that are left out, by wall.
  const ShapeMap<ShapeMap<bool>>& closedWires() const { return closed_; }
  const ShapeMap<bool>& faces() const { return inside_; }
  /// What closes openings that begin in its sides and go on elsewhere, by the side: they end there when it is closed.
  const std::vector<Cap>& floors() const { return floors_; }
  /// Corners where an open side begins: edges go straight through them when it is closed.
  const ShapeMap<bool>& ends() const { return ends_; }
  bool open() const { return !open_.empty(); }

  Shape filling() const {
    BRep_Builder builder;
    TopoDS_Shell shell;
    builder.MakeShell(shell);
    FaceTable table;
    for (const auto& [face, is] : inside_) {
      const FaceFacts& facts = factsOf(solid_, face);
      const auto left = leftOpen_.find(face);
      const TopoDS_Shape side = left == leftOpen_.end() ? face : without(face, left->second);
      table.emplace(side, side.IsSame(face) ? facts : FaceFacts{facts.origins, facts.color});
      builder.Add(shell, side.Reversed());
    }
    for (const Cap& cap : caps_) {
      const FaceFacts& facts = factsOf(solid_, cap.wall);
      table.emplace(cap.face, FaceFacts{facts.origins, facts.color});
      builder.Add(shell, cap.face);
    }
    shell.Closed(true);
    TopoDS_Solid solid;
    builder.MakeSolid(solid);
    builder.Add(solid, shell);
    const Shape result = makeShape(solid, std::move(table), "face:");
    if (!openEdges(solid).empty() || !(result.volume() > 0)) throw NotThisWay();
    return result;
  }

 private:
  /// Stretches of the border on one surface, taken as the cap has them.
  struct Group {
    TopoDS_Face wall;
    std::vector<TopoDS_Edge> edges;
  };

  /// Whole inner outlines of a side beyond which other openings begin.
  void leaveOpen(const TopoDS_Shape& side) {
    const TopoDS_Shape outer = BRepTools::OuterWire(TopoDS::Face(side));
    for (TopoDS_Iterator wires(side); wires.More(); wires.Next()) {
      if (wires.Value().ShapeType() != TopAbs_WIRE || wires.Value().IsSame(outer)) continue;
      std::vector<TopoDS_Edge> edges;
      bool alone = true;
      for (TopExp_Explorer it(wires.Value(), TopAbs_EDGE); it.More(); it.Next()) {
        alone &= used_.at(it.Current()) == 1;
        edges.push_back(TopoDS::Edge(it.Current().Reversed()));
      }
      if (!alone) continue;
      leftOpen_[side][wires.Value()] = true;
      for (const TopoDS_Edge& edge : edges) used_.erase(edge);
      Cap floor = capOf({TopoDS::Face(side), std::move(edges)});
      floor.face = TopoDS::Face(floor.face.Reversed());
      floors_.push_back(std::move(floor));
    }
  }

  /// Edges of an outer face at which the opening lies.
  void lookAt(const TopoDS_Face& face) {
    for (TopoDS_Iterator wires(face); wires.More(); wires.Next()) {
      if (wires.Value().ShapeType() != TopAbs_WIRE) continue;
      std::vector<TopoDS_Edge> meeting;
      bool whole = true;
      for (TopExp_Explorer it(wires.Value(), TopAbs_EDGE); it.More(); it.Next())
        if (used_.contains(it.Current()))
          meeting.push_back(TopoDS::Edge(it.Current().Reversed()));
        else
          whole = false;
      if (meeting.empty()) continue;
      if (whole) {
        closed_[face][wires.Value()] = true;
        groups_.push_back({face, std::move(meeting)});
        continue;
      }
      Group& group = openGroupOn(face);
      group.edges.insert(group.edges.end(), meeting.begin(), meeting.end());
    }
  }

  static Face asFace(const TopoDS_Face& face) {
    return Face(std::make_shared<FaceBody>(FaceBody{face, nullptr, 0, false}));
  }

  Group& openGroupOn(const TopoDS_Face& wall) {
    for (const std::size_t g : open_)
      if (asFace(groups_[g].wall).onSameSurface(asFace(wall))) return groups_[g];
    open_.push_back(groups_.size());
    groups_.push_back({wall, {}});
    return groups_.back();
  }

  /// Between the ends of stretches on two surfaces runs an edge of both: there the open side is closed.
  void closeOpenSides() {
    std::vector<ShapeMap<int>> loose(groups_.size());  // corners: how many more edges leave than arrive
    for (const std::size_t g : open_) {
      for (const TopoDS_Edge& edge : groups_[g].edges) {
        ++loose[g][TopExp::FirstVertex(edge, true)];
        --loose[g][TopExp::LastVertex(edge, true)];
      }
      std::erase_if(loose[g], [](const auto& each) { return each.second == 0; });
      for (const auto& [corner, count] : loose[g]) ends_[corner] = true;
    }
    for (std::size_t i = 0; i < open_.size(); ++i)
      for (std::size_t k = i + 1; k < open_.size(); ++k) {
        Group &a = groups_[open_[i]], &b = groups_[open_[k]];
        TopoDS_Vertex from, to;  // as in a
        int shared = 0;
        for (const auto& [corner, count] : loose[open_[i]]) {
          if (!loose[open_[k]].contains(corner)) continue;
          ++shared;
          (count < 0 ? from : to) = TopoDS::Vertex(corner);
        }
        if (shared == 0) continue;
        if (shared != 2 || from.IsNull() || to.IsNull()) throw NotThisWay();
        const TopoDS_Edge edge = edgeBetween(from, to, a.wall, b.wall);
        closing_[edge] = true;
        a.edges.push_back(edge);
        b.edges.push_back(TopoDS::Edge(edge.Reversed()));
        for (const auto& [group, sign] : {std::pair(open_[i], 1), std::pair(open_[k], -1)}) {
          loose[group][from] += sign;
          loose[group][to] -= sign;
        }
      }
    for (const std::size_t g : open_)
      for (const auto& [corner, count] : loose[g])
        if (count != 0) throw NotThisWay();
  }

  /// Along the line or circle in which both surfaces meet.
  static TopoDS_Edge edgeBetween(const TopoDS_Vertex& from, const TopoDS_Vertex& to, const TopoDS_Face& a,
                                 const TopoDS_Face& b) {
    const gp_Pnt start = BRep_Tool::Pnt(from), end = BRep_Tool::Pnt(to);
    const gp_Pnt middle((start.XYZ() + end.XYZ()) / 2);
    const auto isOn = [](const TopoDS_Face& face, const gp_Pnt& point) {
      const BRepAdaptor_Surface surface(face, false);
      if (surface.GetType() == GeomAbs_Plane) return surface.Plane().Distance(point) < tolerance::samePlace;
      if (surface.GetType() == GeomAbs_Cylinder)
        return std::abs(gp_Lin(surface.Cylinder().Axis()).Distance(point) - surface.Cylinder().Radius()) <
               tolerance::samePlace;
      return false;
    };
    if (isOn(a, middle) && isOn(b, middle)) {
      BRepBuilderAPI_MakeEdge made(from, to);
      if (made.IsDone()) return made.Edge();
    }
    for (const auto& [round, flat] : {std::pair(a, b), std::pair(b, a)}) {
      const BRepAdaptor_Surface cylinder(round, false), plane(flat, false);
      if (cylinder.GetType() != GeomAbs_Cylinder || plane.GetType() != GeomAbs_Plane) continue;
      const gp_Cylinder its = cylinder.Cylinder();
      if (!its.Axis().IsParallel(plane.Plane().Axis(), tolerance::sameDirection)) continue;
      const double along = gp_Vec(its.Location(), start).Dot(its.Axis().Direction());
      const gp_Pnt centre = its.Location().Translated(gp_Vec(its.Axis().Direction()) * along);
      // The shorter way round.
      gp_Dir axis = its.Axis().Direction();
      if (gp_Vec(centre, start).Crossed(gp_Vec(centre, end)).Dot(axis) < 0) axis.Reverse();
      BRepBuilderAPI_MakeEdge made(gp_Circ(gp_Ax2(centre, axis, gp_Dir(gp_Vec(centre, start))), its.Radius()), from,
                                   to);
      if (made.IsDone()) return made.Edge();
    }
    throw NotThisWay();
  }

  Cap capOf(const Group& group) const {
    BRep_Builder builder;
    TopoDS_Face cap = emptyCopy(group.wall);
    const bool reversed = group.wall.Orientation() == TopAbs_REVERSED;
    const bool flat = BRepAdaptor_Surface(cap, false).GetType() == GeomAbs_Plane;
    ShapeMap<std::vector<TopoDS_Edge>> leaving;
    for (const TopoDS_Edge& edge : group.edges) leaving[TopExp::FirstVertex(edge, true)].push_back(edge);
    std::size_t left = group.edges.size();
    TopoDS_Wire wire;
    builder.MakeWire(wire);
    TopoDS_Edge at = group.edges.front();
    // One loop: a surface that closes an opening in two places is left to the kernel.
    for (; left > 0; --left) {
      if (!flat) layOn(cap, at);
      builder.Add(wire, reversed ? at.Reversed() : at);
      std::vector<TopoDS_Edge>& next = leaving[TopExp::LastVertex(at, true)];
      if (left == 1) break;
      if (next.size() != 1) throw NotThisWay();
      at = next.front();
    }
    if (!TopExp::LastVertex(at, true).IsSame(TopExp::FirstVertex(group.edges.front(), true))) throw NotThisWay();
    wire.Closed(true);
    builder.Add(cap, wire);
    return {TopoDS::Face(cap.Oriented(group.wall.Orientation())), group.wall};
  }

  /// Edges that close an open side are new, and have no curve on the surface yet.
  void layOn(const TopoDS_Face& cap, const TopoDS_Edge& edge) const {
    double first = 0, last = 0;
    if (!BRep_Tool::CurveOnSurface(edge, cap, first, last).IsNull()) return;
    if (!closing_.contains(edge)) throw NotThisWay();
    if (!ShapeFix_Edge().FixAddPCurve(edge, cap, false, tolerance::point)) throw NotThisWay();
  }

  const Shape& solid_;
  ShapeMap<bool> inside_;
  ShapeMap<int> used_;  // edges of the opening's faces, and by how many
  ShapeMap<ShapeMap<bool>> leftOpen_;
  std::vector<Cap> floors_;
  std::vector<Group> groups_;
  std::vector<std::size_t> open_;  // groups that do not close by themselves
  ShapeMap<ShapeMap<bool>> closed_;
  ShapeMap<bool> ends_, closing_;
  std::vector<Cap> caps_;
};

/// Several gaps of a solid closed at once, all in the direct way.
class Closing {
 public:
  Closing(const Shape& solid, const std::vector<TopoDS_Face>& all) : solid_(solid), all_(all) {}

  /// Throws NotThisWay if what closes it runs into another part of the body.
  void add(Gap gap) {
    for (const Cap& cap : gap.caps()) requireRoom(gap, cap);
    gaps_.push_back(std::move(gap));
  }
  bool any() const { return !gaps_.empty(); }
  const std::vector<Gap>& gaps() const { return gaps_; }

  Shape result(Progress& progress) const {
    BRep_Builder builder;
    FaceTable table = solid_.body().faces;
    ShapeMap<bool> gone;
    ShapeMap<ShapeMap<bool>> left;
    bool open = false;
    for (const Gap& gap : gaps_) {
      gone.insert(gap.faces().begin(), gap.faces().end());
      for (const auto& [wall, wires] : gap.closedWires()) left[wall].insert(wires.begin(), wires.end());
      open |= gap.open();
    }
    TopoDS_Compound compound;
    builder.MakeCompound(compound);
    for (TopExp_Explorer solids(solid_.body().topology, TopAbs_SOLID); solids.More(); solids.Next()) {
      TopoDS_Solid rebuilt;
      builder.MakeSolid(rebuilt);
      for (TopExp_Explorer shells(solids.Current(), TopAbs_SHELL); shells.More(); shells.Next()) {
        TopoDS_Shell shell;
        builder.MakeShell(shell);
        for (TopExp_Explorer it(shells.Current(), TopAbs_FACE); it.More(); it.Next()) {
          for (const Gap& gap : gaps_)
            for (const Cap& floor : gap.floors())
              if (floor.wall.IsSame(it.Current())) {
                const FaceFacts& facts = solid_.body().faces.at(it.Current());
                table.emplace(floor.face, FaceFacts{facts.origins, facts.color});
                builder.Add(shell, floor.face);
              }
          if (gone.contains(it.Current())) continue;
          const auto wires = left.find(it.Current());
          if (wires == left.end()) {
            builder.Add(shell, it.Current());
          } else {
            const TopoDS_Shape whole = without(it.Current(), wires->second);
            const FaceFacts facts = table.at(it.Current());
            table.emplace(whole, FaceFacts{facts.origins, facts.color, facts.sound});
            builder.Add(shell, whole);
          }
          for (const Gap& gap : gaps_)
            for (const Cap& cap : gap.caps())
              if (cap.open && cap.wall.IsSame(it.Current())) {
                const FaceFacts& facts = table.at(it.Current());
                table.emplace(cap.face, FaceFacts{facts.origins, facts.color});
                builder.Add(shell, cap.face);
              }
        }
        shell.Closed(true);
        builder.Add(rebuilt, shell);
      }
      builder.Add(compound, rebuilt);
    }
    return open ? withoutSeams(compound, table, progress) : makeShape(compound, std::move(table), "face:");
  }

 private:
  void requireRoom(const Gap& gap, const Cap& cap) const {
    FaceFacts facts;
    measure(TopoDS::Face(cap.face.Oriented(TopAbs_FORWARD)), facts);
    const Box box = facts.box.enlarged(tolerance::looseEdge);
    for (const TopoDS_Face& face : all_) {
      if (gap.faces().contains(face) || face.IsSame(cap.wall) || !factsOf(solid_, face).box.overlaps(box)) continue;
      const bool wall =
          std::any_of(gap.caps().begin(), gap.caps().end(), [&](const Cap& each) { return each.wall.IsSame(face); });
      if (wall || isMetOnlyAtEdges(cap, face)) continue;
      const BRepExtrema_DistShapeShape between(cap.face, face);
      if (!between.IsDone() || between.Value() < tolerance::looseEdge) throw NotThisWay();
    }
  }

  /// The face has an edge of the opening's walls: an open side is closed along it.
  static bool isMetOnlyAtEdges(const Cap& cap, const TopoDS_Face& face) {
    ShapeMap<bool> corners;
    for (TopExp_Explorer it(cap.face, TopAbs_VERTEX); it.More(); it.Next()) corners[it.Current()] = true;
    for (TopExp_Explorer it(face, TopAbs_VERTEX); it.More(); it.Next())
      if (corners.contains(it.Current())) return true;
    return false;
  }

  /// Caps are merged with the walls beside them, and edges with those that go on from them; all other edges stay.
  Shape withoutSeams(const TopoDS_Shape& topology, const FaceTable& table, Progress& progress) const {
    ShapeMap<bool> ends, seams;
    for (const Gap& gap : gaps_) {
      ends.insert(gap.ends().begin(), gap.ends().end());
      for (const Cap& cap : gap.caps())
        if (cap.open)
          for (TopExp_Explorer it(cap.face, TopAbs_EDGE); it.More(); it.Next()) seams[it.Current()] = true;
    }
    ShapeUpgrade_UnifySameDomain unify(topology, true, true, false);
    TopTools_MapOfShape keep;
    for (TopExp_Explorer it(topology, TopAbs_EDGE); it.More(); it.Next()) {
      const TopoDS_Edge& edge = TopoDS::Edge(it.Current());
      const bool meetsEnd = ends.contains(TopExp::FirstVertex(edge)) || ends.contains(TopExp::LastVertex(edge));
      if (!seams.contains(edge) && !meetsEnd) keep.Add(edge);
    }
    for (TopExp_Explorer it(topology, TopAbs_VERTEX); it.More(); it.Next())
      if (!ends.contains(it.Current())) keep.Add(it.Current());
    unify.KeepShapes(keep);
    unify.Build();
    progress.throwIfStopped();
    return carriedAlong(unify.Shape(), table, *unify.History());
  }

  const Shape& solid_;
  const std::vector<TopoDS_Face>& all_;
  std::vector<Gap> gaps_;
};

/// The numbers that faces of an older body have in this one.
std::vector<int> numbersIn(const Shape& body, const std::vector<TopoDS_Face>& old, const std::vector<int>& faces) {
  const std::vector<TopoDS_Face> now = facesOf(body.body().topology);
  std::vector<int> numbers;
  for (const int face : faces) {
    const TopoDS_Face& wanted = old.at(static_cast<std::size_t>(face));
    const auto found =
        std::find_if(now.begin(), now.end(), [&](const TopoDS_Face& each) { return each.IsSame(wanted); });
    // Closing another one has changed it.
    if (found == now.end()) throw NotThisWay();
    numbers.push_back(static_cast<int>(found - now.begin()));
  }
  return numbers;
}

[[noreturn]] void throwStaysOpen() {
  throw Error(say("the opening cannot be closed: its walls do not meet over it"), "",
              say("Pick other openings, or close it with a body that you join"));
}

void requireSound(const Shape& before, const Filled& after, Progress& progress) {
  double sum = before.volume();
  for (const Shape& filling : after.fillings) sum += filling.volume();
  const std::string fault = findFault(after.body.body(), progress);
  if (!fault.empty() || std::abs(sum - after.body.volume()) > tolerance::balance * after.body.volume())
    throw NotThisWay();
}

}  // namespace

Filled filled(const Shape& solid, const std::vector<std::vector<int>>& openings, Progress& progress) {
  return kernelCall("closing openings", [&] {
    const std::vector<TopoDS_Face> all = facesOf(solid.body().topology);
    Closing closing(solid, all);
    Filled result{solid, std::vector<Shape>(openings.size())};
    std::vector<std::size_t> left;
    for (std::size_t i = 0; i < openings.size(); ++i) {
      progress.throwIfStopped();
      try {
        Gap gap(solid, all, openings[i]);
        result.fillings[i] = gap.filling();
        closing.add(std::move(gap));
      } catch (const NotThisWay&) {
        result.fillings[i] = {};
        left.push_back(i);
      }
    }
    if (closing.any()) {
      try {
        Filled direct{closing.result(progress), {}};
        for (const Shape& filling : result.fillings)
          if (!filling.empty()) direct.fillings.push_back(filling);
        requireSound(solid, direct, progress);
        result.body = direct.body;
      } catch (const NotThisWay&) {
        left.resize(openings.size());
        for (std::size_t i = 0; i < left.size(); ++i) left[i] = i;
      }
    }
    for (const std::size_t i : left) {
      progress.throwIfStopped();
      try {
        Filled next{withoutFaces(result.body, numbersIn(result.body, all, openings[i]), progress), {}};
        next.fillings.push_back(divide(next.body, {result.body}, progress).outside);
        requireSound(result.body, next, progress);
        result.body = next.body;
        result.fillings[i] = next.fillings.front();
      } catch (const NotThisWay&) {
        throwStaysOpen();
      } catch (const Error&) {
        throwStaysOpen();
      }
    }
    return result;
  });
}

}  // namespace kervo
