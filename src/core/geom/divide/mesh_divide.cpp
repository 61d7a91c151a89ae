#include "geom/divide/mesh_divide.h"

#include <algorithm>

#include "base/error.h"
#include "base/say.h"
#include "geom/mesh/mesh_boolean.h"
#include "geom/mesh/mesh_pieces.h"
#include "geom/mesh/mesh_plane.h"
#include "geom/mesh/meshed.h"
#include "geom/planes.h"
#include "geom/tolerances.h"
#include "geom/topology.h"

namespace kervo {

namespace {

/// The mesh of a body that divides or is divided; how finely an exact one was meshed is kept in its tolerance.
Mesh meshOf(const Shape& shape, Progress& progress) {
  if (shape.kind() == BodyKind::Surface)
    throw Error(say("a surface and a mesh cannot divide each other"), "", say("Use a plane or a solid as cutter"));
  return meshed(shape, {}, progress);
}

/// The largest distance by which an exact one among them is meshed.
double meshedWithin(const std::vector<Shape>& shapes) {
  double result = 0;
  for (const Shape& shape : shapes)
    if (!shape.empty() && !shape.mesh()) result = std::max(result, MeshFineness{}.chordFor(shape));
  return result;
}

/// The plane of a surface that is flat and reaches beyond the box.
Plane planeOf(const Shape& surface, const Box& box) {
  const std::vector<Face> faces = facesOf(surface);
  const std::optional<Plane> plane = faces.size() == 1 ? faces.front().plane() : std::nullopt;
  if (!plane)
    throw Error(say("a mesh is divided by planes and solids, not by other surfaces"), "",
                say("Thicken the surface, or split by a plane"));
  const Box own = boxIn(*plane, surface.box()), needed = boxIn(*plane, box);
  if (own.low.x > needed.low.x || own.low.y > needed.low.y || own.high.x < needed.high.x || own.high.y < needed.high.y)
    throw Error(say("a mesh is divided by whole planes only, and this one ends inside it"), "",
                say("Extend it, or let it cut as far as its surface goes"));
  return *plane;
}

}  // namespace

bool anyMesh(const std::vector<Shape>& shapes) {
  return std::any_of(shapes.begin(), shapes.end(), [](const Shape& shape) { return shape.mesh() != nullptr; });
}

Division divideMeshes(const Shape& stock, const std::vector<Shape>& cutters, Progress& progress) {
  std::vector<Shape> near;
  for (const Shape& cutter : cutters)
    if (!cutter.empty() && cutter.roughBox().overlaps(stock.roughBox())) near.push_back(cutter);
  Division missed{stock, {}, {stock.volume(), stock.volume(), 0}, {}};
  if (near.empty()) return missed;
  Mesh outside = meshOf(stock, progress);
  const double before = outside.volume();
  std::vector<Mesh> inside;
  for (const Shape& cutter : near) {
    if (outside.empty()) break;
    MeshDivision divided = divideMesh(outside, meshOf(cutter, progress), progress);
    if (divided.inside.empty()) continue;
    inside.push_back(std::move(divided.inside));
    outside = std::move(divided.outside);
  }
  if (inside.empty()) return missed;
  Division division;
  division.outside = Shape(std::move(outside));
  division.inside = Shape(inside.size() == 1 ? inside.front() : together(inside));
  division.balance = {before, division.outside.volume(), division.inside.volume()};
  near.push_back(stock);
  division.meshed = meshedWithin(near);
  return division;
}

Union uniteMeshes(const std::vector<Shape>& solids, Progress& progress) {
  Union result;
  Mesh all = meshOf(solids.front(), progress);
  for (std::size_t i = 1; i < solids.size(); ++i) {
    progress.report(static_cast<double>(i) / static_cast<double>(solids.size()));
    all = uniteMeshes(all, meshOf(solids[i], progress), progress);
  }
  result.shape = Shape(std::move(all));
  result.meshed = meshedWithin(solids);
  return result;
}

Partition partitionMeshes(const std::vector<Shape>& solids, const std::vector<Shape>& surfaces, Progress& progress) {
  struct Region {
    Mesh mesh;
    std::vector<std::size_t> in;
    std::vector<SheetSide> sides;
  };
  std::vector<Region> regions;
  Box box;
  for (std::size_t i = 0; i < solids.size(); ++i) {
    progress.report(static_cast<double>(i) / static_cast<double>(solids.size() + surfaces.size()));
    box.add(solids[i].box().low), box.add(solids[i].box().high);
    Mesh rest = meshOf(solids[i], progress);
    const Mesh whole = rest;
    std::vector<Region> next;
    for (Region& region : regions) {
      if (!region.mesh.box().overlaps(whole.box())) {
        next.push_back(std::move(region));
        continue;
      }
      MeshDivision divided = divideMesh(region.mesh, whole, progress);
      if (divided.inside.empty()) {
        next.push_back(std::move(region));
        continue;
      }
      if (!rest.empty()) rest = divideMesh(rest, region.mesh, progress).outside;
      std::vector<std::size_t> in = region.in;
      if (!divided.outside.empty()) next.push_back({std::move(divided.outside), region.in, {}});
      in.push_back(i);
      next.push_back({std::move(divided.inside), std::move(in), {}});
    }
    if (!rest.empty()) next.push_back({std::move(rest), {i}, {}});
    regions = std::move(next);
  }
  for (const Shape& surface : surfaces) {
    const Plane plane = planeOf(surface, box);
    std::vector<Region> next;
    for (Region& region : regions) {
      MeshHalves halves = splitByPlane(region.mesh, plane);
      for (const bool front : {true, false}) {
        Mesh& half = front ? halves.front : halves.back;
        if (half.empty()) continue;
        next.push_back({std::move(half), region.in, region.sides});
        next.back().sides.push_back(front ? SheetSide::Front : SheetSide::Back);
      }
    }
    regions = std::move(next);
  }
  Partition partition;
  for (const Region& region : regions)
    for (Mesh& piece : piecesOf(region.mesh))
      partition.parts.push_back({Shape(std::move(piece)), region.in, region.sides});
  partition.meshed = meshedWithin(solids);
  return partition;
}

PlaneSplit splitMeshByPlane(const Shape& stock, const Plane& plane, const Kerf& kerf, Progress& progress) {
  progress.throwIfStopped();
  const Mesh& mesh = *stock.mesh();
  PlaneSplit sides;
  const bool noKerf = kerf.width() < tolerance::smallestSize;
  MeshHalves halves = splitByPlane(mesh, plane.moved(noKerf ? 0 : kerf.to));
  progress.throwIfStopped();
  if (!noKerf && !halves.back.empty()) {
    MeshHalves lower = splitByPlane(halves.back, plane.moved(kerf.from));
    sides.waste = Shape(std::move(lower.front));
    halves.back = std::move(lower.back);
  }
  const Shape front(std::move(halves.front)), back(std::move(halves.back));
  sides.front = front.pieces();
  sides.back = back.pieces();
  const bool closed = mesh.watertight();
  const auto sizeOf = [&](const Shape& shape) { return closed ? shape.volume() : shape.area(); };
  const double waste = sizeOf(sides.waste);
  // As with an exact body: without a kerf the front is what lies in the cutter.
  sides.cut.outside =
      noKerf ? back : Shape(together({front.empty() ? Mesh() : *front.mesh(), back.empty() ? Mesh() : *back.mesh()}));
  sides.cut.inside = noKerf ? front : sides.waste;
  sides.cut.balance = {sizeOf(stock), noKerf ? sizeOf(back) : sizeOf(front) + sizeOf(back),
                       noKerf ? sizeOf(front) : waste};
  return sides;
}

}  // namespace kervo
