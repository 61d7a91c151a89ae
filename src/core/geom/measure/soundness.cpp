// What has one ordinary outline is proven sound without the kernel's analyzer. Other faces of few wires are handed to
// it as they are. It compares every wire with every other, which takes seconds for a plate of 1000 holes; planar faces
// of many wires are therefore divided into groups of wires whose boxes overlap, and only the wires of a group are
// compared.
#include "geom/measure/soundness.h"

#include <BOPAlgo_CheckerSI.hxx>
#include <BOPDS_DS.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <boost/pending/disjoint_sets.hpp>
#include <numeric>

#include "base/quantity.h"
#include "base/say.h"
#include "geom/divide/checked_intersection.h"
#include "geom/kernel/convert.h"
#include "geom/kernel/parallel.h"
#include "geom/measure/outline_check.h"
#include "geom/mesh/mesh_boolean.h"

namespace kervo {

namespace {

constexpr int fewWires = 12;

bool analyzerAccepts(const TopoDS_Shape& shape) {
  return BRepCheck_Analyzer(shape).IsValid();
}

struct PlaneWire {
  TopoDS_Wire wire;
  Box box;  // in the plane's coordinates
};

std::vector<PlaneWire> planeWires(const TopoDS_Face& face, const Plane& plane) {
  std::vector<PlaneWire> wires;
  for (TopoDS_Iterator it(face); it.More(); it.Next()) {
    if (it.Value().ShapeType() != TopAbs_WIRE) continue;
    PlaneWire entry{TopoDS::Wire(it.Value()), {}};
    Bnd_Box bounds;
    gp_Trsf toPlane;
    toPlane.SetTransformation(toAxes(plane));
    BRepBndLib::Add(entry.wire.Moved(TopLoc_Location(toPlane)), bounds, false);
    entry.box.add(fromPnt(bounds.CornerMin()));
    entry.box.add(fromPnt(bounds.CornerMax()));
    wires.push_back(std::move(entry));
  }
  return wires;
}

TopoDS_Face faceWith(const TopoDS_Face& original, const std::vector<TopoDS_Wire>& wires) {
  TopoDS_Face face = TopoDS::Face(original.EmptyCopied());
  face.Orientation(TopAbs_FORWARD);
  BRep_Builder builder;
  for (const TopoDS_Wire& wire : wires) builder.Add(face, wire);
  return face;
}

/// Groups wires whose boxes overlap. Sorted by x, so that far wires are never compared.
std::vector<std::vector<std::size_t>> overlapping(const std::vector<PlaneWire>& wires) {
  boost::disjoint_sets_with_storage<> sets(wires.size());
  std::vector<std::size_t> order(wires.size());
  std::iota(order.begin(), order.end(), 0);
  std::sort(order.begin(), order.end(), [&](auto a, auto b) { return wires[a].box.low.x < wires[b].box.low.x; });
  std::vector<std::size_t> active;
  for (std::size_t i : order) {
    std::erase_if(active, [&](std::size_t j) { return wires[j].box.high.x < wires[i].box.low.x; });
    for (std::size_t j : active)
      if (wires[i].box.overlaps(wires[j].box)) sets.union_set(i, j);
    active.push_back(i);
  }
  std::map<std::size_t, std::vector<std::size_t>> groups;
  for (std::size_t i = 0; i < wires.size(); ++i) groups[sets.find_set(i)].push_back(i);
  std::vector<std::vector<std::size_t>> result;
  for (auto& [key, members] : groups) result.push_back(std::move(members));
  return result;
}

/// A whole circle or ellipse as one edge cannot meet itself.
bool isFullConic(const TopoDS_Wire& wire) {
  TopoDS_Iterator it(wire);
  const BRepAdaptor_Curve curve(TopoDS::Edge(it.Value()));
  it.Next();
  return !it.More() && (curve.GetType() == GeomAbs_Circle || curve.GetType() == GeomAbs_Ellipse) && curve.IsClosed();
}

bool manyWireFaceIsSound(const TopoDS_Face& face, const gp_Pln& kernelPlane, Progress& progress) {
  const gp_Ax3& axes = kernelPlane.Position();
  const Plane plane{fromPnt(axes.Location()), fromDir(axes.XDirection()),
                    cross(fromDir(axes.Direction()), fromDir(axes.XDirection())), fromDir(axes.Direction())};
  const TopoDS_Face forward = TopoDS::Face(face.Oriented(TopAbs_FORWARD));
  std::vector<PlaneWire> wires = planeWires(forward, plane);
  const auto size = [](const Box& box) { return (box.high.x - box.low.x) * (box.high.y - box.low.y); };
  const auto outer = std::max_element(
      wires.begin(), wires.end(), [&](const PlaneWire& a, const PlaneWire& b) { return size(a.box) < size(b.box); });
  const TopoDS_Wire outerWire = outer->wire;
  wires.erase(outer);

  const TopoDS_Face outerFace = faceWith(face, {outerWire});
  if (!outlineIsProven(outerFace) && !analyzerAccepts(outerFace)) return false;
  // Every hole lies inside the outer wire: its points are inside, and no edge meets the outer wire (the analyzer's
  // comparison of outer wire and hole, done only for holes whose boxes reach the box of an outer edge).
  const BRepTopAdaptor_FClass2d inside(outerFace, tolerance::point);
  std::vector<Box> outerEdges;
  gp_Trsf toPlane;
  toPlane.SetTransformation(axes);
  for (TopExp_Explorer it(outerWire, TopAbs_EDGE); it.More(); it.Next()) {
    Bnd_Box bounds;
    BRepBndLib::Add(it.Current().Moved(TopLoc_Location(toPlane)), bounds, false);
    Box box;
    box.add(fromPnt(bounds.CornerMin()));
    box.add(fromPnt(bounds.CornerMax()));
    outerEdges.push_back(box);
  }
  for (const auto& group : overlapping(wires)) {
    progress.throwIfStopped();
    std::vector<TopoDS_Wire> members;
    bool reachesOuter = false;
    for (std::size_t i : group) {
      members.push_back(wires[i].wire);
      for (const Box& edge : outerEdges) reachesOuter |= edge.overlaps(wires[i].box);
      const BRepAdaptor_Curve curve(TopoDS::Edge(TopExp_Explorer(wires[i].wire, TopAbs_EDGE).Current()));
      const gp_Pnt point = curve.Value((curve.FirstParameter() + curve.LastParameter()) / 2);
      const Vector local = plane.coordinates(fromPnt(point));
      if (inside.Perform(gp_Pnt2d(local.x, local.y)) != TopAbs_IN) return false;
    }
    if (reachesOuter || members.size() > 1) {
      members.insert(members.begin(), outerWire);
      if (!analyzerAccepts(faceWith(face, members))) return false;
    } else if (!isFullConic(members.front())) {
      // A lone hole: as the outer wire of a face of its own it must be valid too.
      if (!analyzerAccepts(faceWith(face, {TopoDS::Wire(members.front().Reversed())}))) return false;
    }
  }
  return true;
}

/// A face's border in the parameters of its surface, as straight lines.
std::vector<std::pair<gp_Pnt2d, gp_Pnt2d>> borderLines(const TopoDS_Face& forward, int pieces) {
  std::vector<std::pair<gp_Pnt2d, gp_Pnt2d>> lines;
  for (TopExp_Explorer it(forward, TopAbs_EDGE); it.More(); it.Next()) {
    // A seam has a curve for either direction, and the explorer comes by both.
    double first = 0, last = 0;
    const Handle(Geom2d_Curve) curve = BRep_Tool::CurveOnSurface(TopoDS::Edge(it.Current()), forward, first, last);
    if (curve.IsNull()) return {};
    for (int i = 0; i < pieces; ++i)
      lines.emplace_back(curve->Value(first + (last - first) * i / pieces),
                         curve->Value(first + (last - first) * (i + 1) / pieces));
  }
  return lines;
}

/// True if the face covers some of a surface that closes on itself more than once, which the analyzer does not notice.
/// A thread goes round several times, each time elsewhere; that is no fault.
bool coversTwice(const TopoDS_Face& forward, const BRepAdaptor_Surface& surface) {
  constexpr double slack = 1.01;
  const double roundU = surface.IsUPeriodic() ? surface.UPeriod() : Box::infinity;
  const double roundV = surface.IsVPeriodic() ? surface.VPeriod() : Box::infinity;
  if (roundU == Box::infinity && roundV == Box::infinity) return false;
  Box box;
  for (const auto& [from, to] : borderLines(forward, 4)) box.add(Point{from.X(), from.Y(), 0});
  const double width = box.high.x - box.low.x, height = box.high.y - box.low.y;
  if (box.empty() || (width <= roundU * slack && height <= roundV * slack)) return false;

  const auto lines = borderLines(forward, 64);
  const auto isInside = [&](double u, double v) {
    bool inside = false;
    for (const auto& [a, b] : lines)
      if ((a.Y() > v) != (b.Y() > v) && u < a.X() + (b.X() - a.X()) * (v - a.Y()) / (b.Y() - a.Y())) inside = !inside;
    return inside;
  };
  // Shares of the box that hit no grid of the border's own.
  constexpr int grid = 37;
  int inside = 0, twice = 0;
  for (int i = 0; i < grid; ++i)
    for (int k = 0; k < grid; ++k) {
      const double u = box.low.x + width * (i + 0.437) / grid, v = box.low.y + height * (k + 0.437) / grid;
      if (!isInside(u, v)) continue;
      ++inside;
      twice += (roundU < width && isInside(u + roundU, v)) || (roundV < height && isInside(u, v + roundV));
    }
  return twice > inside / 100;
}

bool faceIsSound(const TopoDS_Face& face, Progress& progress) {
  int wireCount = 0;
  for (TopoDS_Iterator it(face); it.More(); it.Next()) wireCount += it.Value().ShapeType() == TopAbs_WIRE;
  const BRepAdaptor_Surface surface(TopoDS::Face(face.Oriented(TopAbs_FORWARD)), false);
  if (coversTwice(TopoDS::Face(face.Oriented(TopAbs_FORWARD)), surface)) return false;
  if (wireCount == 1 && outlineIsProven(face)) return true;
  if (surface.GetType() == GeomAbs_Plane && wireCount > fewWires)
    return manyWireFaceIsSound(face, surface.Plane(), progress);
  return analyzerAccepts(face);
}

Box commonBox(const Bnd_Box& a, const Bnd_Box& b) {
  if (a.IsVoid() || b.IsVoid()) return {};
  const Point low = fromPnt(a.CornerMin()), high = fromPnt(a.CornerMax());
  const Point otherLow = fromPnt(b.CornerMin()), otherHigh = fromPnt(b.CornerMax());
  return {{std::max(low.x, otherLow.x), std::max(low.y, otherLow.y), std::max(low.z, otherLow.z)},
          {std::min(high.x, otherHigh.x), std::min(high.y, otherHigh.y), std::min(high.z, otherHigh.z)}};
}

std::string describe(const FaceFacts& facts) {
  return say("the face \"%1\" is not valid",
             facts.origins && !facts.origins->empty() ? facts.origins->front() : std::string("?"));
}

}  // namespace

std::vector<Point> openEdges(const TopoDS_Shape& topology) {
  ShapeMap<std::pair<int, int>> uses;  // forward, reversed
  for (TopExp_Explorer face(topology, TopAbs_FACE); face.More(); face.Next())
    for (TopExp_Explorer it(face.Current(), TopAbs_EDGE); it.More(); it.Next()) {
      if (BRep_Tool::Degenerated(TopoDS::Edge(it.Current()))) continue;
      auto& [forward, reversed] = uses[it.Current()];
      if (it.Current().Orientation() == TopAbs_FORWARD) ++forward;
      if (it.Current().Orientation() == TopAbs_REVERSED) ++reversed;
    }
  std::vector<Point> open;
  for (const auto& [edge, use] : uses) {
    if (use.first == use.second && use.first >= 1) continue;
    const BRepAdaptor_Curve curve(TopoDS::Edge(edge));
    open.push_back(fromPnt(curve.Value((curve.FirstParameter() + curve.LastParameter()) / 2)));
  }
  return open;
}

namespace {

/// Which of the faces are valid.
std::vector<char> checkedFaces(const std::vector<const FaceTable::value_type*>& faces, Progress& progress) {
  std::vector<char> sound(faces.size(), 1);
  forEachInParallel(faces.size(), "checking the faces", progress,
                    [&](std::size_t i) { sound[i] = faceIsSound(TopoDS::Face(faces[i]->first), progress); });
  return sound;
}

bool unchecked(const FaceFacts& facts) {
  return !facts.sound && !facts.flawed;
}

}  // namespace

std::string findFault(const ShapeBody& body, Progress& progress) {
  std::vector<const FaceTable::value_type*> unknown;
  for (const auto& entry : body.faces)
    if (unchecked(entry.second)) unknown.push_back(&entry);
  const std::vector<char> sound = checkedFaces(unknown, progress);
  for (std::size_t i = 0; i < unknown.size(); ++i)
    if (!sound[i]) return describe(unknown[i]->second);
  if (body.kind != BodyKind::Solid) return {};
  if (!openEdges(body.topology).empty()) return say("the body is not closed");
  for (TopExp_Explorer it(body.topology, TopAbs_SOLID); it.More(); it.Next())
    if (!(volumeOf(it.Current(), body.faces) > 0)) return say("the body is inside out or has no volume");
  return {};
}

void markChecked(const ShapeBody& body, FaceTable& table, Progress& progress) {
  std::vector<const FaceTable::value_type*> unknown;
  for (const auto& [face, facts] : body.faces)
    if (const auto found = table.find(face); found != table.end() && unchecked(found->second))
      unknown.push_back(&*found);
  const std::vector<char> sound = checkedFaces(unknown, progress);
  for (std::size_t i = 0; i < unknown.size(); ++i) {
    FaceFacts& facts = table.at(unknown[i]->first);
    (sound[i] ? facts.sound : facts.flawed) = true;
  }
}

Shape examined(const Shape& shape, Progress& progress) {
  if (shape.empty() || shape.mesh()) return shape;
  FaceTable table = shape.body().faces;
  kernelCall("checking the faces", [&] { markChecked(shape.body(), table, progress); });
  return makeShape(shape.body().topology, std::move(table), "face:");
}

std::string Flaw::text() const {
  // Rounded to a nanometre, so that 0 is not −2.2e-16.
  const auto text = [](double coordinate) { return formatNumber(std::round(coordinate * 1e6) / 1e6, 4); };
  return say("%1, at %2, %3, %4 mm", what, text(place.x), text(place.y), text(place.z));
}

namespace {

Point placeOf(const TopoDS_Shape& face, const FaceFacts& facts) {
  Sides sides;
  const std::optional<gp_Pnt> point = sides.pointOn(TopoDS::Face(face));
  return point ? fromPnt(*point) : facts.box.centre();
}

std::vector<Flaw> flawsOfMesh(const Mesh& mesh) {
  std::vector<Flaw> flaws;
  if (mesh.openEdges() > 0)
    flaws.push_back({sayCount(mesh.openEdges(), "the mesh is not closed: %1 edge lies open",
                              "the mesh is not closed: %1 edges lie open"),
                     mesh.openPlace()});
  else if (mesh.volume() < 0)
    flaws.push_back({say("the mesh is inside out"), mesh.box().centre()});
  if (const auto crossing = selfCrossing(mesh))
    flaws.push_back({sayCount(crossing->pairs, "%1 pair of triangles runs through each other",
                              "%1 pairs of triangles run through each other"),
                     crossing->near});
  return flaws;
}

}  // namespace

std::vector<Flaw> flawsOf(const Shape& shape, Progress& progress) {
  std::vector<Flaw> flaws;
  if (shape.empty()) return flaws;
  if (const Mesh* mesh = shape.mesh()) return flawsOfMesh(*mesh);
  const Shape known = examined(shape, progress);
  kernelCall("looking for flaws", [&] {
    for (const TopoDS_Face& face : facesOf(known.body().topology))
      if (const FaceFacts& facts = factsOf(known, face); facts.flawed)
        flaws.push_back({describe(facts), placeOf(face, facts)});
    if (known.kind() != BodyKind::Solid) return;
    for (const Point& place : openEdges(known.body().topology)) flaws.push_back({say("the body is not closed"), place});
    if (flaws.empty() && !findFault(known.body(), progress).empty())
      flaws.push_back({say("the body is inside out or has no volume"), known.roughBox().centre()});
  });
  return flaws;
}

std::optional<Flaw> selfCrossingOf(const Shape& shape, Progress& progress) {
  if (shape.empty() || shape.kind() == BodyKind::Curve) return std::nullopt;
  if (const Mesh* mesh = shape.mesh()) {
    const auto crossing = selfCrossing(*mesh);
    if (!crossing) return std::nullopt;
    return Flaw{say("the mesh runs through itself"), crossing->near};
  }
  return kernelCall("looking for crossings", [&]() -> std::optional<Flaw> {
    BOPAlgo_CheckerSI checker;
    TopTools_ListOfShape list;
    list.Append(shape.body().topology);
    checker.SetArguments(list);
    checker.SetNonDestructive(true);
    checker.SetRunParallel(true);
    const Handle(KernelProgress) indicator = new KernelProgress(progress);
    checker.Perform(indicator->Start());
    progress.throwIfStopped();
    const auto nameOf = [&](const TopoDS_Shape& part) -> std::string {
      const auto found = shape.body().faces.find(part);
      if (found == shape.body().faces.end() || found->second.origins->empty()) return {};
      return "\"" + found->second.origins->front() + "\"";
    };
    for (BOPDS_MapOfPair::Iterator it(checker.DS().Interferences()); it.More(); it.Next()) {
      const BOPDS_Pair& pair = it.Value();
      int first = 0, second = 0;
      pair.Indices(first, second);
      if (checker.DS().IsNewShape(first) || checker.DS().IsNewShape(second)) continue;
      const TopoDS_Shape a = checker.PDS()->Shape(first), b = checker.PDS()->Shape(second);
      Bnd_Box where, other;
      BRepBndLib::Add(a, where);
      BRepBndLib::Add(b, other);
      const Box common = commonBox(where, other);
      if (first == second && !nameOf(a).empty())
        return Flaw{say("the face %1 crosses itself", nameOf(a)), common.centre()};
      return Flaw{nameOf(a).empty() || nameOf(b).empty() ? say("the body cuts itself")
                                                         : say("the body cuts itself: %1 and %2", nameOf(a), nameOf(b)),
                  common.centre()};
    }
    return std::nullopt;
  });
}

}  // namespace kervo
