#include "geom/divide/perforate.h"

#include <BRepBuilderAPI_Transform.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <ElSLib.hxx>

#include "base/say.h"
#include "geom/kernel/parallel.h"
#include "geom/measure/face_integrals.h"
#include "geom/measure/soundness.h"
#include "geom/sweep/region_body.h"

namespace kervo {

namespace {

/// How far a profile must keep from everything for the direct way: well above the kernel's precision.
constexpr double clearance = 1e-5;

/// A box in the sweep plane's coordinates: x, y in the plane, z along its normal.
Box localBox(const TopoDS_Shape& shape, const TopLoc_Location& toPlane) {
  Bnd_Box bounds;
  BRepBndLib::Add(shape.Moved(toPlane), bounds, false);
  Box box;
  if (bounds.IsVoid()) return box;
  box.add(fromPnt(bounds.CornerMin()));
  box.add(fromPnt(bounds.CornerMax()));
  return box;
}

bool overlapInPlane(const Box& a, const Box& b, double gap) {
  return a.low.x < b.high.x + gap && b.low.x < a.high.x + gap && a.low.y < b.high.y + gap && b.low.y < a.high.y + gap;
}

/// A planar face across the sweep.
struct Cap {
  TopoDS_Face face;
  int shell = 0;
  bool facesForward = false;  ///< outward normal along the sweep plane's
  double height = 0;
  struct Border {
    TopoDS_Edge edge;
    Box box;
    bool round = false;  ///< part of a circle in the cap's plane
    PlanePoint centre;
    double radius = 0;
    PlanePoint point;
  };
  std::vector<Border> borders;
  /// One of its outlines. A classifier of all of them at once would take most of the time of a single hole.
  struct Outline {
    TopoDS_Wire wire;
    Box box;
    std::shared_ptr<BRepTopAdaptor_FClass2d> within;  ///< made when it is asked for
  };
  std::vector<Outline> outlines;  ///< the outer one first
  std::vector<TopoDS_Wire> holes;
};

struct StockFace {
  Box box;
  int cap = -1;
};

/// The profile of one region and what it meets.
struct Profile {
  const SweptRegion* swept;
  TopoDS_Wire outer;
  Box box;
  PlanePoint point;
  std::vector<int> caps;
};

class Perforation {
 public:
  Perforation(const Shape& stock, const Plane& plane) : stock_(stock), plane_(plane) {
    gp_Trsf toPlane;
    toPlane.SetTransformation(toAxes(plane));
    toPlane_ = TopLoc_Location(toPlane);
    int shell = 0;
    for (TopExp_Explorer shells(stock.body().topology, TopAbs_SHELL); shells.More(); shells.Next(), ++shell)
      for (TopExp_Explorer it(shells.Current(), TopAbs_FACE); it.More(); it.Next())
        addFace(TopoDS::Face(it.Current()), shell);
  }

  /// True if the region may be inserted directly; remembers it.
  bool accept(const SweptRegion& swept) {
    const RegionBody& region = swept.region.body();
    if (!swept.straight || region.islands > 0) return false;
    Profile profile{&swept, TopoDS::Wire(TopExp_Explorer(region.face, TopAbs_WIRE).Current()), {}, {}, {}};
    profile.box = region.planeBox;
    profile.point = middleOfFirstEdge(profile.outer);
    profile.box.low.z = swept.from;
    profile.box.high.z = swept.to;
    std::optional<BRepTopAdaptor_FClass2d> inProfile;
    for (const StockFace& face : faces_) {
      if (!overlapInPlane(face.box, profile.box, clearance)) continue;
      if (face.box.low.z > profile.box.high.z + clearance || face.box.high.z < profile.box.low.z - clearance) continue;
      if (face.cap < 0) return false;
      Cap& cap = caps_[static_cast<std::size_t>(face.cap)];
      if (!isPassed(cap, swept)) return false;
      if (!keepsClear(profile, region, cap, inProfile)) return false;
      const TopAbs_State state = stateIn(cap, profile.point);
      if (state == TopAbs_ON || state == TopAbs_UNKNOWN) return false;
      if (state == TopAbs_IN) profile.caps.push_back(face.cap);
    }
    if (!pairsUp(profile)) return false;
    profiles_.push_back(std::move(profile));
    return true;
  }

  const std::vector<Profile>& profiles() const { return profiles_; }

  /// The stock with all accepted profiles inserted. Throws Error if the proof was wrong after all (open edges,
  /// volumes).
  Division build(Progress& progress) {
    BRep_Builder builder;
    std::vector<std::vector<TopoDS_Shape>> sidesOfShell(shellCount());
    TopoDS_Compound removed;
    builder.MakeCompound(removed);
    FaceTable outsideTable = stock_.body().faces;
    FaceTable insideTable;
    for (const Plug& plug : makePlugs(progress)) {
      builder.Add(removed, plug.solid);
      for (const auto& [face, facts] : plug.caps) insideTable.emplace(face, facts);
      for (const auto& [side, facts] : plug.sides) {
        insideTable.emplace(side, facts);
        outsideTable.emplace(side, facts);
        sidesOfShell[static_cast<std::size_t>(plug.entry->shell)].push_back(side.Reversed());
      }
      addHole(*plug.entry, plug.caps[0].first);
      addHole(*plug.exit, plug.caps[1].first);
    }
    TopoDS_Shape perforated = rebuilt(sidesOfShell, outsideTable);
    Shape outside = makeShape(perforated, std::move(outsideTable), "face:");
    Shape inside = makeShape(removed, std::move(insideTable), "face:");
    const Balance balance{stock_.volume(), outside.volume(), inside.volume()};
    if (std::abs(balance.residual()) > tolerance::balance * balance.before || !openEdges(perforated).empty())
      throw Error(say("the direct cut is not sound"));
    return {std::move(outside), std::move(inside), balance, {}};
  }

 private:
  std::size_t shellCount() const {
    std::size_t count = 0;
    for (TopExp_Explorer it(stock_.body().topology, TopAbs_SHELL); it.More(); it.Next()) ++count;
    return count;
  }

  PlanePoint local(const gp_Pnt& point) const {
    const Vector c = plane_.coordinates(fromPnt(point));
    return {c.x, c.y};
  }

  PlanePoint middleOfFirstEdge(const TopoDS_Shape& wire) const {
    const BRepAdaptor_Curve curve(TopoDS::Edge(TopExp_Explorer(wire, TopAbs_EDGE).Current()));
    return local(curve.Value((curve.FirstParameter() + curve.LastParameter()) / 2));
  }

  void addFace(const TopoDS_Face& face, int shell) {
    StockFace entry{localBox(face, toPlane_), -1};
    const BRepAdaptor_Surface surface(face, false);
    if (surface.GetType() == GeomAbs_Plane) {
      const gp_Pln plane = surface.Plane();
      Vector normal = fromDir(plane.Axis().Direction());
      if (length(cross(normal, plane_.normal)) < tolerance::parallel && plane.Direct()) {
        if (face.Orientation() == TopAbs_REVERSED) normal = -normal;
        entry.cap = static_cast<int>(caps_.size());
        caps_.push_back(
            capOf(face, shell, dot(normal, plane_.normal) > 0, plane_.signedDistance(fromPnt(plane.Location()))));
        entry.box.low.z = entry.box.high.z = caps_.back().height;
      }
    }
    faces_.push_back(entry);
  }

  Cap capOf(const TopoDS_Face& face, int shell, bool facesForward, double height) const {
    Cap cap;
    cap.face = face;
    cap.shell = shell;
    cap.facesForward = facesForward;
    cap.height = height;
    for (TopoDS_Iterator wires(face.Oriented(TopAbs_FORWARD)); wires.More(); wires.Next()) {
      if (wires.Value().ShapeType() != TopAbs_WIRE) continue;
      Cap::Outline outline{TopoDS::Wire(wires.Value()), {}, nullptr};
      for (TopExp_Explorer it(outline.wire, TopAbs_EDGE); it.More(); it.Next()) {
        cap.borders.push_back(borderOf(TopoDS::Edge(it.Current())));
        outline.box.add(cap.borders.back().box);
      }
      cap.outlines.push_back(std::move(outline));
    }
    const auto smaller = [](const Cap::Outline& a, const Cap::Outline& b) {
      return a.box.diagonal() < b.box.diagonal();
    };
    std::iter_swap(cap.outlines.begin(), std::max_element(cap.outlines.begin(), cap.outlines.end(), smaller));
    return cap;
  }

  Cap::Border borderOf(const TopoDS_Edge& edge) const {
    Cap::Border border;
    border.edge = edge;
    border.box = localBox(edge, toPlane_);
    const BRepAdaptor_Curve curve(edge);
    border.point = local(curve.Value((curve.FirstParameter() + curve.LastParameter()) / 2));
    if (curve.GetType() == GeomAbs_Circle) {
      border.round = true;
      border.centre = local(curve.Circle().Location());
      border.radius = curve.Circle().Radius();
    }
    return border;
  }

  /// The profile neither meets a border of the cap nor has one inside it.
  bool keepsClear(const Profile& profile, const RegionBody& region, const Cap& cap,
                  std::optional<BRepTopAdaptor_FClass2d>& inProfile) const {
    std::optional<TopoDS_Shape> placed;
    for (const Cap::Border& border : cap.borders) {
      if (!overlapInPlane(border.box, profile.box, clearance)) continue;
      if (border.round && clearOfCircle(profile.box, border)) continue;
      if (!placed) {
        gp_Trsf lift;
        lift.SetTranslation(toVec(plane_.normal * cap.height));
        placed = profile.outer.Moved(TopLoc_Location(lift));
      }
      const BRepExtrema_DistShapeShape extrema(*placed, border.edge);
      if (!extrema.IsDone() || extrema.Value() < clearance) return false;
      if (!inProfile) inProfile.emplace(region.face, tolerance::point);
      if (inProfile->Perform(gp_Pnt2d(border.point.u, border.point.v)) != TopAbs_OUT) return false;
    }
    return true;
  }

  /// The box lies entirely inside or entirely outside the circle.
  static bool clearOfCircle(const Box& box, const Cap::Border& circle) {
    const double u = std::max(std::abs(box.low.x - circle.centre.u), std::abs(box.high.x - circle.centre.u));
    const double v = std::max(std::abs(box.low.y - circle.centre.v), std::abs(box.high.y - circle.centre.v));
    if (std::hypot(u, v) < circle.radius - clearance) return true;
    const double du = std::max({box.low.x - circle.centre.u, circle.centre.u - box.high.x, 0.0});
    const double dv = std::max({box.low.y - circle.centre.v, circle.centre.v - box.high.y, 0.0});
    return std::hypot(du, dv) > circle.radius + clearance;
  }

  TopAbs_State stateIn(Cap& cap, PlanePoint point) const {
    const BRepAdaptor_Surface surface(cap.face, false);
    const gp_Pnt world = toPnt(plane_.at(point.u, point.v, cap.height));
    double u, v;
    ElSLib::Parameters(surface.Plane(), world, u, v);
    for (std::size_t i = 0; i < cap.outlines.size(); ++i) {
      Cap::Outline& outline = cap.outlines[i];
      const bool outer = i == 0;
      const bool near = point.u > outline.box.low.x - clearance && point.u < outline.box.high.x + clearance &&
                        point.v > outline.box.low.y - clearance && point.v < outline.box.high.y + clearance;
      TopAbs_State state = TopAbs_OUT;
      if (near) {
        if (!outline.within) outline.within = classifierOf(cap.face, outline.wire, outer);
        state = outline.within->Perform(gp_Pnt2d(u, v));
      }
      if (state != TopAbs_IN && state != TopAbs_OUT) return state;
      if ((state == TopAbs_IN) != outer) return TopAbs_OUT;
    }
    return TopAbs_IN;
  }

  /// Of what lies within the outline.
  static std::shared_ptr<BRepTopAdaptor_FClass2d> classifierOf(const TopoDS_Face& cap, const TopoDS_Wire& outline,
                                                               bool outer) {
    TopoDS_Face face = TopoDS::Face(cap.EmptyCopied());
    face.Orientation(TopAbs_FORWARD);
    BRep_Builder().Add(face, outline.Oriented(outer ? outline.Orientation() : TopAbs::Reverse(outline.Orientation())));
    return std::make_shared<BRepTopAdaptor_FClass2d>(face, tolerance::point);
  }

  /// The sweep goes right through the cap, or begins (ends) exactly on it with the material inside the sweep, as a cut
  /// does that is drawn on a face.
  static bool isPassed(const Cap& cap, const SweptRegion& swept) {
    constexpr double same = 10 * tolerance::point;
    if (std::abs(cap.height - swept.from) < same) return !cap.facesForward;
    if (std::abs(cap.height - swept.to) < same) return cap.facesForward;
    return cap.height > swept.from + clearance && cap.height < swept.to - clearance;
  }

  /// Entries and exits alternate along the sweep, each pair on one shell.
  bool pairsUp(Profile& profile) const {
    std::vector<int>& met = profile.caps;
    if (met.empty() || met.size() % 2 != 0) return false;
    const auto cap = [&](int i) -> const Cap& { return caps_[static_cast<std::size_t>(i)]; };
    std::sort(met.begin(), met.end(), [&](int a, int b) { return cap(a).height < cap(b).height; });
    for (std::size_t i = 0; i < met.size(); i += 2) {
      const Cap& entry = cap(met[i]);
      const Cap& exit = cap(met[i + 1]);
      if (entry.facesForward || !exit.facesForward || entry.shell != exit.shell) return false;
      if (exit.height - entry.height < clearance) return false;
    }
    return true;
  }

  /// The material that one profile takes between an entry and an exit.
  struct Plug {
    const Profile* profile;
    Cap* entry;
    Cap* exit;
    TopoDS_Shape solid;
    std::vector<std::pair<TopoDS_Shape, FaceFacts>> caps;   // entry, exit
    std::vector<std::pair<TopoDS_Shape, FaceFacts>> sides;  // oriented as in `solid`
  };

  /// All plugs, made on all processors: they do not depend on each other.
  std::vector<Plug> makePlugs(Progress& progress) {
    std::vector<Plug> plugs;
    for (const Profile& profile : profiles_)
      for (std::size_t i = 0; i + 1 < profile.caps.size(); i += 2)
        plugs.push_back({&profile,
                         &caps_[static_cast<std::size_t>(profile.caps[i])],
                         &caps_[static_cast<std::size_t>(profile.caps[i + 1])],
                         {},
                         {},
                         {}});
    forEachInParallel(plugs.size(), "sweeping the profiles", progress, [&](std::size_t i) { makePlug(plugs[i]); });
    return plugs;
  }

  void makePlug(Plug& plug) const {
    const RegionBody& region = plug.profile->swept->region.body();
    gp_Trsf lift;
    lift.SetTranslation(toVec(plane_.normal * plug.entry->height));
    BRepBuilderAPI_Transform placed(region.face, lift, true);
    BRepPrimAPI_MakePrism prism(placed.Shape(), toVec(plane_.normal * (plug.exit->height - plug.entry->height)));
    plug.solid = prism.Shape();
    // Sound by construction: swept from a checked profile. Measured here, once for both sides of the cut.
    Box sideBox;
    for (const auto& [face, cap] :
         {std::pair(prism.FirstShape(), plug.entry), std::pair(prism.LastShape(), plug.exit)}) {
      const gp_Pln plane = BRepAdaptor_Surface(TopoDS::Face(face), false).Plane();
      const Vector normal = fromDir(plane.Axis().Direction()) * (plane.Direct() ? 1 : -1);
      // Seen from a point in its plane a flat face has no flux.
      const FaceIntegrals integrals{region.area, 0, normal * region.area, fromPnt(plane.Location())};
      const Vector by = plane_.normal * cap->height;
      const Box box{region.box.low + by, region.box.high + by};
      sideBox.add(box);
      plug.caps.emplace_back(face,
                             FaceFacts{factsOf(stock_, cap->face).origins, std::nullopt, true, true, integrals, box});
    }
    ShapeMap<Origins> names;
    for (const auto& [edge, curve] : region.curves)
      for (const TopoDS_Shape& side : prism.Generated(placed.ModifiedShape(edge)))
        names.emplace(side, originsOf(plug.profile->swept->name + ":side:" + curve));
    for (TopExp_Explorer it(plug.solid, TopAbs_FACE); it.More(); it.Next()) {
      const auto name = names.find(it.Current());
      if (name == names.end()) continue;
      plug.sides.emplace_back(it.Current(), FaceFacts{name->second, std::nullopt, true, true,
                                                      integrate(TopoDS::Face(it.Current())), sideBox});
    }
  }

  /// Remembers the outline of `hole` as a hole of the cap: clockwise round the cap's own surface normal.
  void addHole(Cap& cap, const TopoDS_Shape& hole) const {
    // The profile runs counter-clockwise round the sweep normal; translation keeps that.
    const TopoDS_Shape forward = hole.Oriented(TopAbs_FORWARD);
    const TopoDS_Wire outline = TopoDS::Wire(TopExp_Explorer(forward, TopAbs_WIRE).Current());
    const BRepAdaptor_Surface surface(cap.face, false);
    const bool along = dot(fromDir(surface.Plane().Axis().Direction()), plane_.normal) > 0;
    cap.holes.push_back(along ? TopoDS::Wire(outline.Reversed()) : outline);
  }

  TopoDS_Shape rebuilt(const std::vector<std::vector<TopoDS_Shape>>& sidesOfShell, FaceTable& table) const {
    BRep_Builder builder;
    ShapeMap<TopoDS_Shape> replaced;
    for (const Cap& cap : caps_) {
      if (cap.holes.empty()) continue;
      TopoDS_Face face = TopoDS::Face(cap.face.EmptyCopied());
      face.Orientation(TopAbs_FORWARD);
      for (TopoDS_Iterator it(cap.face.Oriented(TopAbs_FORWARD), false); it.More(); it.Next())
        builder.Add(face, it.Value());
      for (const TopoDS_Wire& hole : cap.holes) builder.Add(face, hole);
      const FaceFacts& old = table.at(cap.face);
      const FaceFacts facts{old.origins, old.color, old.sound};
      table.emplace(face, facts);
      replaced.emplace(cap.face, face);
    }
    TopoDS_Compound compound;
    builder.MakeCompound(compound);
    std::size_t number = 0;
    for (TopExp_Explorer solids(stock_.body().topology, TopAbs_SOLID); solids.More(); solids.Next()) {
      TopoDS_Solid solid;
      builder.MakeSolid(solid);
      for (TopExp_Explorer shells(solids.Current(), TopAbs_SHELL); shells.More(); shells.Next(), ++number) {
        TopoDS_Shell shell;
        builder.MakeShell(shell);
        for (TopExp_Explorer it(shells.Current(), TopAbs_FACE); it.More(); it.Next()) {
          const auto found = replaced.find(it.Current());
          builder.Add(shell,
                      found == replaced.end() ? it.Current() : found->second.Oriented(it.Current().Orientation()));
        }
        for (const TopoDS_Shape& side : sidesOfShell[number]) builder.Add(shell, side);
        shell.Closed(true);
        builder.Add(solid, shell);
      }
      builder.Add(compound, solid);
    }
    return compound;
  }

  const Shape& stock_;
  Plane plane_;
  TopLoc_Location toPlane_;
  std::vector<StockFace> faces_;
  std::vector<Cap> caps_;
  std::vector<Profile> profiles_;
};

/// Indices of regions whose outlines come too close to each other in their plane to be inserted independently.
std::vector<bool> tooClose(const std::vector<SweptRegion>& regions, Progress& progress) {
  std::vector<bool> result(regions.size(), false);
  std::vector<Box> boxes;
  for (const SweptRegion& swept : regions) boxes.push_back(swept.region.body().planeBox);
  std::vector<std::size_t> order(regions.size());
  for (std::size_t i = 0; i < order.size(); ++i) order[i] = i;
  std::sort(order.begin(), order.end(), [&](auto a, auto b) { return boxes[a].low.x < boxes[b].low.x; });
  std::vector<std::size_t> active;
  for (std::size_t i : order) {
    progress.throwIfStopped();
    std::erase_if(active, [&](std::size_t j) { return boxes[j].high.x + clearance < boxes[i].low.x; });
    for (std::size_t j : active) {
      if (!overlapInPlane(boxes[i], boxes[j], clearance)) continue;
      const BRepExtrema_DistShapeShape extrema(TopExp_Explorer(regions[i].region.body().face, TopAbs_WIRE).Current(),
                                               TopExp_Explorer(regions[j].region.body().face, TopAbs_WIRE).Current());
      if (!extrema.IsDone() || extrema.Value() < clearance) result[i] = result[j] = true;
    }
    active.push_back(i);
  }
  return result;
}

}  // namespace

Division cutSwept(const Shape& stock, const std::vector<SweptRegion>& regions, Progress& progress, CutPath* path) {
  std::vector<const SweptRegion*> general;
  Division division{stock, {}, {stock.volume(), stock.volume(), 0}, {}};
  if (stock.kind() == BodyKind::Solid && !regions.empty()) {
    kernelCall("the cut", [&] {
      const std::vector<bool> close = tooClose(regions, progress);
      Perforation perforation(stock, regions.front().region.body().plane);
      for (std::size_t i = 0; i < regions.size(); ++i) {
        progress.throwIfStopped();
        if (close[i] || !perforation.accept(regions[i])) general.push_back(&regions[i]);
      }
      if (perforation.profiles().empty()) return;
      try {
        division = perforation.build(progress);
        if (path) path->direct = static_cast<int>(perforation.profiles().size());
      } catch (const Error&) {
        // The proof did not hold: everything goes the general way, which checks for itself.
        general.clear();
        for (const SweptRegion& swept : regions) general.push_back(&swept);
      }
    });
  } else {
    for (const SweptRegion& swept : regions) general.push_back(&swept);
  }
  if (path) path->general = static_cast<int>(general.size());
  if (general.empty()) return division;

  std::vector<Shape> cutters;
  for (const SweptRegion* swept : general) cutters.push_back(solidOf(*swept));
  Division rest = divide(division.outside, cutters, progress);
  if (division.inside.empty()) return rest;
  if (rest.inside.empty()) return division;
  // Both ways took something: the parts inside are put side by side.
  FaceTable table = division.inside.body().faces;
  for (const auto& entry : rest.inside.body().faces) table.insert(entry);
  TopoDS_Compound inside;
  BRep_Builder builder;
  builder.MakeCompound(inside);
  for (const Shape* part : {&division.inside, &rest.inside})
    for (TopExp_Explorer it(part->body().topology, TopAbs_SOLID); it.More(); it.Next())
      builder.Add(inside, it.Current());
  const Balance balance{stock.volume(), rest.balance.outside, division.balance.inside + rest.balance.inside};
  return {rest.outside, makeShape(inside, std::move(table), "face:"), balance, rest.remedy};
}

}  // namespace kervo
