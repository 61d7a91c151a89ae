#include "geom/flat/slices.h"

#include <BRepAlgoAPI_Section.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Wire.hxx>
#include <algorithm>
#include <map>
#include <optional>

#include "base/say.h"
#include "geom/curves/curve_body.h"
#include "geom/display/mesh_section.h"
#include "geom/divide/boolean.h"
#include "geom/divide/checked_intersection.h"
#include "geom/flat/flat_curves.h"
#include "geom/kernel/convert.h"
#include "geom/kernel/topology_body.h"
#include "geom/planes.h"
#include "geom/surface/sheet.h"
#include "geom/sweep/region_body.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

void countOutlines(Slice& slice) {
  slice.closed = closedChainCount(slice.curve);
  slice.open = chainCount(slice.curve) - slice.closed;
}

/// Faces on a plane, with their outlines.
Slice sliceOfFaces(std::size_t plane, const std::vector<TopoDS_Shape>& faces, const std::string& name) {
  FaceTable table;
  for (const TopoDS_Shape& face : faces) table.emplace(face, FaceFacts{originsOf(name), {}, true});
  Slice slice{.plane = plane, .faces = makeShape(compoundOf(faces), std::move(table), name)};
  slice.curve = curveBody({}, edgesOf(slice.faces));
  // Outlines may touch in a point, where curves cannot be followed.
  for (const TopoDS_Shape& face : faces)
    for (TopExp_Explorer it(face, TopAbs_WIRE); it.More(); it.Next()) ++slice.closed;
  return slice;
}

/// Faces of a solid that lie in the plane, turned along its normal.
std::vector<TopoDS_Shape> facesIn(const Shape& solid, const Plane& plane) {
  std::vector<TopoDS_Shape> result;
  for (const Face& face : facesOf(solid)) {
    const auto own = face.plane();
    if (!own || length(cross(own->normal, plane.normal)) > tolerance::sameDirection ||
        std::abs(plane.signedDistance(face.samplePoint())) > tolerance::samePlace)
      continue;
    const TopoDS_Face& kernelFace = face.body().face;
    result.push_back(dot(own->normal, plane.normal) > 0 ? TopoDS_Shape(kernelFace) : kernelFace.Reversed());
  }
  return result;
}

/// Which of the planes each face of a surface lies in.
std::map<std::size_t, std::vector<TopoDS_Shape>> byPlane(const Shape& surface, const std::vector<Plane>& planes) {
  std::map<std::size_t, std::vector<TopoDS_Shape>> result;
  for (const Face& face : facesOf(surface)) {
    const Point on = face.samplePoint();
    const auto nearest = std::min_element(planes.begin(), planes.end(), [&](const Plane& a, const Plane& b) {
      return std::abs(a.signedDistance(on)) < std::abs(b.signedDistance(on));
    });
    result[static_cast<std::size_t>(nearest - planes.begin())].push_back(face.body().face);
  }
  return result;
}

/// The planes that cross a solid as one surface, as far as they do.
struct Sheets {
  std::vector<std::size_t> planes;
  std::vector<TopoDS_Shape> faces;
  Shape surface;
};

Sheets sheetsAcross(const Box& box, const std::vector<Plane>& planes, const std::string& name) {
  Sheets sheets;
  FaceTable table;
  for (std::size_t i = 0; i < planes.size(); ++i) {
    if (!crosses(planes[i], box)) continue;
    const Shape sheet = planarSheet(planes[i], box, name);
    sheets.planes.push_back(i);
    sheets.faces.push_back(sheet.body().topology);
    table.insert(sheet.body().faces.begin(), sheet.body().faces.end());
  }
  if (!sheets.faces.empty()) sheets.surface = makeShape(compoundOf(sheets.faces), std::move(table), name);
  return sheets;
}

/// The edges along which the sheets meet the solid, by the sheet: the kernel's intersection without new faces.
std::vector<std::vector<TopoDS_Shape>> edgesAlong(const Shape& solid, const Sheets& sheets, Progress& progress) {
  Handle(KernelProgress) indicator = new KernelProgress(progress);
  BRepAlgoAPI_Section section(solid.body().topology, sheets.surface.body().topology, false);
  section.SetNonDestructive(true);
  section.SetRunParallel(true);
  section.Approximation(true);
  section.ComputePCurveOn1(false);
  section.ComputePCurveOn2(false);
  section.Build(indicator->Start());
  progress.throwIfStopped();
  std::vector<std::vector<TopoDS_Shape>> edges(sheets.faces.size());
  if (section.HasErrors()) return edges;
  for (TopExp_Explorer it(section.Shape(), TopAbs_EDGE); it.More(); it.Next()) {
    TopoDS_Shape face;
    if (!section.HasAncestorFaceOn2(it.Current(), face)) continue;
    for (std::size_t i = 0; i < sheets.faces.size(); ++i)
      if (face.IsSame(sheets.faces[i])) edges[i].push_back(it.Current());
  }
  return edges;
}

/// Faces within closed outlines, if these close all and what they enclose has material all over, so that nothing is
/// missing; nothing where the division has to find it.
std::optional<std::vector<TopoDS_Shape>> facesWithin(const std::vector<TopoDS_Shape>& edges, const Plane& plane,
                                                     const Shape& solid, Sides& sides, Progress& progress) {
  std::vector<TopoDS_Shape> result;
  if (edges.empty()) return std::nullopt;
  const Shape outlines = curveBody({}, edgesOf(makeShape(compoundOf(edges), {}, "curve")));
  if (closedChainCount(outlines) != chainCount(outlines)) return std::nullopt;
  std::vector<TopoDS_Wire> loops;
  for (TopExp_Explorer it(outlines.body().topology, TopAbs_WIRE); it.More(); it.Next())
    loops.push_back(TopoDS::Wire(it.Current()));
  for (const TopoDS_Face& face : nestedFaces(plane, loops, progress)) {
    const std::vector<gp_Pnt> points = sides.pointsOn(face, 4);
    std::size_t inside = 0;
    for (const gp_Pnt& point : points)
      for (const TopoDS_Shape& part : solidsOf(solid)) inside += sides.stateOf(point, part) == TopAbs_IN ? 1 : 0;
    if (points.empty() || (inside != 0 && inside != points.size())) return std::nullopt;
    if (inside > 0) result.push_back(face);
  }
  return result.empty() ? std::nullopt : std::optional(result);
}

std::vector<Slice> slicesOfSolid(const Shape& solid, const std::vector<Plane>& planes, const std::string& name,
                                 Progress& progress) {
  const Box box = solid.roughBox();
  const Sheets sheets = sheetsAcross(box, planes, name);
  std::map<std::size_t, std::vector<TopoDS_Shape>> cut;
  if (!sheets.faces.empty()) {
    const auto edges = edgesAlong(solid, sheets, progress);
    Sides sides;
    std::vector<Plane> left;
    for (std::size_t i = 0; i < edges.size(); ++i) {
      progress.throwIfStopped();
      const std::size_t plane = sheets.planes[i];
      if (auto faces = facesWithin(edges[i], planes[plane], solid, sides, progress))
        cut[plane] = std::move(*faces);
      else
        left.push_back(planes[plane]);
    }
    if (!left.empty())
      for (auto& [plane, faces] :
           byPlane(divide(sheetsAcross(box, left, name).surface, {solid}, progress).inside, planes))
        cut[plane] = std::move(faces);
  }
  std::vector<Slice> slices;
  for (std::size_t i = 0; i < planes.size(); ++i) {
    std::vector<TopoDS_Shape> faces = cut[i];
    if (faces.empty()) faces = facesIn(solid, planes[i]);
    if (!faces.empty()) slices.push_back(sliceOfFaces(i, faces, name));
  }
  return slices;
}

std::vector<Slice> slicesOfSurface(const Shape& surface, const std::vector<Plane>& planes, Progress& progress) {
  std::vector<Slice> slices;
  for (std::size_t i = 0; i < planes.size(); ++i) {
    std::vector<SpaceCurve> curves;
    for (NamedCurve& each : flatSection(surface, planes[i], progress)) curves.push_back(std::move(each.curve));
    if (curves.empty()) continue;
    Slice slice{.plane = i, .curve = curveBody(curves, {})};
    countOutlines(slice);
    slices.push_back(std::move(slice));
  }
  return slices;
}

TopoDS_Wire polygonOf(const std::vector<PlanePoint>& loop, const Plane& plane, bool closed) {
  BRepBuilderAPI_MakePolygon polygon;
  for (const PlanePoint& point : loop) polygon.Add(toPnt(plane.at(point.u, point.v)));
  if (closed) polygon.Close();
  return polygon.Wire();
}

std::vector<Slice> slicesOfMesh(const Mesh& mesh, const std::vector<Plane>& planes, const std::string& name,
                                Progress& progress) {
  const BodyMesh body = meshForDisplay(mesh);
  std::vector<Slice> slices;
  for (std::size_t i = 0; i < planes.size(); ++i) {
    progress.throwIfStopped();
    const MeshSection section = sectionOf(body, planes[i]);
    if (section.empty()) continue;
    std::vector<TopoDS_Wire> loops;
    for (const auto& loop : section.loops)
      if (loop.size() > 2) loops.push_back(polygonOf(loop, planes[i], true));
    std::vector<TopoDS_Shape> faces;
    for (const TopoDS_Face& face : nestedFaces(planes[i], loops, progress)) {
      const Point on = facesOf(makeShape(face, {}, name)).front().samplePoint();
      const Vector at = planes[i].coordinates(on);
      if (section.holds({at.x, at.y})) faces.push_back(face);
    }
    Slice slice = faces.empty() ? Slice{.plane = i} : sliceOfFaces(i, faces, name);
    if (!section.open.empty()) {
      std::vector<SpaceCurve> lines;
      for (const auto& line : section.open)
        for (std::size_t p = 1; p < line.size(); ++p)
          lines.emplace_back(Segment{planes[i].at(line[p - 1].u, line[p - 1].v), planes[i].at(line[p].u, line[p].v)});
      const Shape ends = curveBody(lines, {});
      slice.open = chainCount(ends);
      slice.curve = slice.curve.empty() ? ends : curveBody(lines, edgesOf(slice.curve));
    }
    if (!slice.curve.empty()) slices.push_back(std::move(slice));
  }
  return slices;
}

}  // namespace

std::vector<Slice> slicesOf(const BodyForm& body, const std::vector<Plane>& planes, const std::string& name,
                            Progress& progress) {
  return kernelCall("slicing", [&] {
    if (const Mesh* mesh = body.mesh()) return slicesOfMesh(*mesh, planes, name, progress);
    const Shape& shape = *body.shape();
    switch (shape.kind()) {
      case BodyKind::Solid:
        return slicesOfSolid(shape, planes, name, progress);
      case BodyKind::Surface:
        return slicesOfSurface(shape, planes, progress);
      default:
        throw Error(say("a curve has no slices"), "", say("Pick solids, surfaces or meshes"));
    }
  });
}

}  // namespace kervo
