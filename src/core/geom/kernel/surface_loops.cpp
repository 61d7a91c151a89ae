#include "geom/kernel/surface_loops.h"

#include <BRepTopAdaptor_FClass2d.hxx>
#include <ElSLib.hxx>
#include <cmath>
#include <memory>

#include "geom/kernel/shape_body.h"
#include "geom/planes.h"

namespace kervo {

namespace {

/// Points of one outline are the same, in mm.
constexpr double same = 1e-5;
/// Smaller faces are none, in mm².
constexpr double smallest = 1e-8;

TopoDS_Wire wireOf(const Loop& loop) {
  const BRep_Builder builder;
  TopoDS_Wire wire;
  builder.MakeWire(wire);
  for (const Run& run : loop) builder.Add(wire, run.edge);
  wire.Closed(true);
  return wire;
}

}  // namespace

Chart::Chart(const TopoDS_Face& face) : face_(TopoDS::Face(face.Oriented(TopAbs_FORWARD))) {
  const BRepAdaptor_Surface surface(face, false);
  if (surface.GetType() == GeomAbs_Plane)
    plane_ = surface.Plane();
  else if (surface.GetType() == GeomAbs_Cylinder)
    cylinder_ = surface.Cylinder();
  else
    throw LeftToKernel();
}

const gp_Pln& Chart::plane() const {
  if (!plane_) throw LeftToKernel();
  return *plane_;
}

const gp_Cylinder& Chart::cylinder() const {
  if (!cylinder_) throw LeftToKernel();
  return *cylinder_;
}

Run Chart::run(const TopoDS_Edge& edge) const {
  Run result{edge, TopExp::FirstVertex(edge, true), TopExp::LastVertex(edge, true), {}, {}};
  if (result.first.IsNull() || result.last.IsNull()) throw LeftToKernel();
  if (isPlane()) {
    result.from = flat(BRep_Tool::Pnt(result.first));
    result.to = flat(BRep_Tool::Pnt(result.last));
    return result;
  }
  double begin = 0, end = 0;
  const Handle(Geom2d_Curve) stored = BRep_Tool::CurveOnSurface(edge, face_, begin, end);
  if (stored.IsNull()) throw LeftToKernel();
  if (edge.Orientation() == TopAbs_REVERSED) std::swap(begin, end);
  const gp_Pnt2d from = stored->Value(begin), to = stored->Value(end);
  result.from = {from.X() * cylinder().Radius(), from.Y()};
  result.to = {to.X() * cylinder().Radius(), to.Y()};
  return result;
}

PlanePoint Chart::flat(const gp_Pnt& point) const {
  PlanePoint result;
  ElSLib::Parameters(plane(), point, result.u, result.v);
  return result;
}

double Chart::areaOf(const Loop& loop) const {
  const gp_Vec up = gp_Vec(plane().Position().XDirection()).Crossed(gp_Vec(plane().Position().YDirection()));
  double area = 0;
  const auto between = [](PlanePoint a, PlanePoint b) { return (a.u * b.v - a.v * b.u) / 2; };
  for (const Run& run : loop) {
    const BRepAdaptor_Curve curve(run.edge);
    if (curve.GetType() != GeomAbs_Line && curve.GetType() != GeomAbs_Circle) {
      // Only its sign counts.
      constexpr int steps = 32;
      const bool reversed = run.edge.Orientation() == TopAbs_REVERSED;
      const double begin = reversed ? curve.LastParameter() : curve.FirstParameter();
      const double end = reversed ? curve.FirstParameter() : curve.LastParameter();
      PlanePoint last = run.from;
      for (int i = 1; i <= steps; ++i) {
        const PlanePoint next = i == steps ? run.to : flat(curve.Value(begin + (end - begin) * i / steps));
        area += between(last, next);
        last = next;
      }
      continue;
    }
    area += between(run.from, run.to);
    if (curve.GetType() == GeomAbs_Line) continue;
    const gp_Circ circle = curve.Circle();
    const gp_Vec axis = gp_Vec(circle.Position().XDirection()).Crossed(gp_Vec(circle.Position().YDirection()));
    const double turn = (up.Dot(axis) > 0) == (run.edge.Orientation() == TopAbs_FORWARD) ? 1 : -1;
    const double sweep = (curve.LastParameter() - curve.FirstParameter()) * turn;
    area += circle.Radius() * circle.Radius() * (sweep - std::sin(sweep)) / 2;
  }
  return area;
}

std::vector<Loop> loopsOf(const std::vector<Run>& runs) {
  ShapeMap<std::vector<std::size_t>> starting;
  for (std::size_t i = 0; i < runs.size(); ++i) starting[runs[i].first].push_back(i);
  std::vector<char> used(runs.size(), 0);
  std::vector<Loop> loops;
  for (std::size_t begin = 0; begin < runs.size(); ++begin) {
    if (used[begin]) continue;
    Loop loop;
    std::size_t at = begin;
    do {
      used[at] = 1;
      loop.push_back(runs[at]);
      const auto candidates = starting.find(runs[at].last);
      if (candidates == starting.end()) throw LeftToKernel();
      std::size_t next = runs.size();
      for (const std::size_t i : candidates->second) {
        if (distance(runs[i].from, runs[at].to) > same) continue;
        if (next != runs.size()) throw LeftToKernel();  // an outline that touches itself
        next = i;
      }
      if (next == runs.size() || (used[next] && next != begin)) throw LeftToKernel();
      at = next;
    } while (at != begin);
    loops.push_back(std::move(loop));
  }
  return loops;
}

TopoDS_Face faceWithin(const TopoDS_Face& original, const Loop& loop) {
  TopoDS_Face face = TopoDS::Face(original.EmptyCopied());
  face.Orientation(TopAbs_FORWARD);
  const BRep_Builder builder;
  builder.NaturalRestriction(face, false);
  builder.Add(face, wireOf(loop));
  return face;
}

std::vector<TopoDS_Face> flatFaces(const Chart& chart, const std::vector<Loop>& loops, std::vector<Hole> holes) {
  std::vector<TopoDS_Face> faces;
  for (const Loop& loop : loops) {
    const double area = chart.areaOf(loop);
    if (std::abs(area) < smallest) throw LeftToKernel();
    if (area > 0)
      faces.push_back(faceWithin(chart.face(), loop));
    else
      holes.push_back({wireOf(loop), loop.front().from});
  }
  if (faces.empty()) throw LeftToKernel();
  std::vector<std::vector<TopoDS_Wire>> within(faces.size());
  std::vector<std::unique_ptr<BRepTopAdaptor_FClass2d>> classifiers;
  if (faces.size() > 1 && !holes.empty())
    for (const TopoDS_Face& face : faces)
      classifiers.push_back(std::make_unique<BRepTopAdaptor_FClass2d>(face, tolerance::point));
  for (const Hole& hole : holes) {
    std::size_t place = faces.size() == 1 ? 0 : faces.size();
    for (std::size_t i = 0; i < classifiers.size(); ++i) {
      if (classifiers[i]->Perform(gp_Pnt2d(hole.point.u, hole.point.v)) != TopAbs_IN) continue;
      if (place != faces.size()) throw LeftToKernel();
      place = i;
    }
    if (place == faces.size()) throw LeftToKernel();
    within[place].push_back(hole.wire);
  }
  for (std::size_t i = 0; i < faces.size(); ++i)
    for (const TopoDS_Wire& wire : within[i]) BRep_Builder().Add(faces[i], wire);
  return faces;
}

}  // namespace kervo
