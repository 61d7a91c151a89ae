#include "geom/measure/thinnest_wall.h"

#include <BRepExtrema_DistShapeShape.hxx>
#include <ElSLib.hxx>
#include <algorithm>
#include <map>

#include "geom/divide/checked_intersection.h"
#include "geom/kernel/topology_body.h"
#include "geom/measure/mesh_wall.h"
#include "geom/topology.h"

namespace kervo {

namespace {

double distanceBetween(const Box& a, const Box& b) {
  const auto gap = [](double lowA, double highA, double lowB, double highB) {
    return std::max({0.0, lowB - highA, lowA - highB});
  };
  return length(Vector{gap(a.low.x, a.high.x, b.low.x, b.high.x), gap(a.low.y, a.high.y, b.low.y, b.high.y),
                       gap(a.low.z, a.high.z, b.low.z, b.high.z)});
}

bool shareACorner(const TopoDS_Shape& a, const TopoDS_Shape& b) {
  TopTools_IndexedMapOfShape corners;
  TopExp::MapShapes(a, TopAbs_VERTEX, corners);
  for (TopExp_Explorer it(b, TopAbs_VERTEX); it.More(); it.Next())
    if (corners.Contains(it.Current())) return true;
  return false;
}

struct Pair {
  TopoDS_Face first, second;
  double atLeast;
};

/// Faces that lie on another surface than those of their name did; a free-form surface is not compared.
void addMoved(std::vector<bool>& isNew, const std::vector<Face>& faces, const std::vector<Face>& before) {
  std::map<std::string, std::vector<const Face*>> byName;
  for (const Face& face : before)
    for (const std::string& origin : face.origins()) byName[origin].push_back(&face);
  for (std::size_t i = 0; i < faces.size(); ++i) {
    if (isNew[i] || faces[i].freeForm()) continue;
    const auto known = byName.find(faces[i].origins().front());
    if (known == byName.end()) continue;
    isNew[i] = std::none_of(known->second.begin(), known->second.end(),
                            [&](const Face* old) { return faces[i].onSameSurface(*old); });
  }
}

/// Pairs of a new face and any other, those whose boxes are nearest first.
std::vector<Pair> pairsOf(const Shape& body, const Shape& before, double limit, NewFaces which) {
  std::vector<Pair> pairs;
  const FaceTable old = before.empty() ? FaceTable() : before.body().faces;
  const std::vector<TopoDS_Face> faces = facesOf(body.body().topology);
  std::vector<bool> isNew;
  for (const TopoDS_Face& face : faces) {
    const auto& origins = *factsOf(body, face).origins;
    isNew.push_back(std::none_of(old.begin(), old.end(), [&](const auto& each) {
      return std::find(origins.begin(), origins.end(), each.second.origins->front()) != origins.end();
    }));
  }
  if (which == NewFaces::AlsoMoved)
    addMoved(isNew, facesOf(body), before.empty() ? std::vector<Face>() : facesOf(before));
  for (std::size_t i = 0; i < faces.size(); ++i) {
    if (!isNew[i]) continue;
    for (std::size_t j = 0; j < faces.size(); ++j) {
      if (i == j || (isNew[j] && j < i)) continue;
      const double atLeast = distanceBetween(factsOf(body, faces[i]).box, factsOf(body, faces[j]).box);
      if (atLeast < limit) pairs.push_back({faces[i], faces[j], atLeast});
    }
  }
  std::sort(pairs.begin(), pairs.end(), [](const Pair& a, const Pair& b) { return a.atLeast < b.atLeast; });
  return pairs;
}

/// Into the material at both faces, not across the gap that was cut, and with no gap between. The nearest points often
/// lie on the faces' borders, where a point half-way is on the body's boundary itself.
bool isThroughMaterial(const Pair& pair, const gp_Pnt& from, const gp_Pnt& to, const Shape& body, Sides& sides) {
  constexpr double square = 0.1;
  const gp_Dir way(gp_Vec(from, to));
  if (way.Dot(outwardNormal(pair.first, from)) > -square || way.Dot(outwardNormal(pair.second, to)) < square)
    return false;
  const gp_Pnt middle((from.XYZ() + to.XYZ()) / 2);
  for (const TopoDS_Shape& solid : solidsOf(body))
    if (sides.stateOf(middle, solid) != TopAbs_OUT) return true;
  return false;
}

/// Where two faces are nearest to each other.
struct Nearest {
  gp_Pnt from, to;
};

/// Between parallel planes that lie opposite each other somewhere: straight across. The kernel compares all edges with
/// each other, which takes minutes for two faces with 500 holes.
std::optional<Nearest> straightAcross(const Pair& pair, Sides& sides) {
  const BRepAdaptor_Surface a(pair.first, false), b(pair.second, false);
  if (a.GetType() != GeomAbs_Plane || b.GetType() != GeomAbs_Plane) return std::nullopt;
  if (!a.Plane().Axis().IsParallel(b.Plane().Axis(), tolerance::parallel)) return std::nullopt;
  const auto across = [](const gp_Pnt& point, const gp_Pln& plane) {
    double u = 0, v = 0;
    ElSLib::Parameters(plane, point, u, v);
    return ElSLib::Value(u, v, plane);
  };
  const auto lies = [&](const gp_Pnt& point, const TopoDS_Face& face, const gp_Pln& plane) {
    double u = 0, v = 0;
    ElSLib::Parameters(plane, point, u, v);
    return sides.isInFace(gp_Pnt2d(u, v), face);
  };
  if (const std::optional<gp_Pnt> point = sides.pointOn(pair.first))
    if (const gp_Pnt other = across(*point, b.Plane()); lies(other, pair.second, b.Plane()))
      return Nearest{*point, other};
  if (const std::optional<gp_Pnt> point = sides.pointOn(pair.second))
    if (const gp_Pnt other = across(*point, a.Plane()); lies(other, pair.first, a.Plane()))
      return Nearest{other, *point};
  return std::nullopt;
}

std::optional<Nearest> nearestPoints(const Pair& pair, Sides& sides, Progress& progress) {
  if (auto straight = straightAcross(pair, sides)) return straight;
  const Handle(KernelProgress) indicator = new KernelProgress(progress);
  const BRepExtrema_DistShapeShape nearest(pair.first, pair.second, Extrema_ExtFlag_MINMAX, Extrema_ExtAlgo_Grad,
                                           indicator->Start());
  progress.throwIfStopped();
  if (!nearest.IsDone() || nearest.NbSolution() == 0) return std::nullopt;
  return Nearest{nearest.PointOnShape1(1), nearest.PointOnShape2(1)};
}

}  // namespace

std::optional<Wall> thinnestWall(const Shape& before, const std::vector<Shape>& after, double limit, Progress& progress,
                                 NewFaces which) {
  std::optional<Wall> thinnest;
  kernelCall("measuring the walls", [&] {
    Sides sides;
    for (const Shape& body : after) {
      if (const Mesh* mesh = body.mesh(); mesh && before.empty())
        if (auto wall = thinnestWallOf(*mesh, thinnest ? thinnest->thickness : limit, progress)) thinnest = wall;
      if (body.empty() || body.kind() != BodyKind::Solid) continue;
      for (const Pair& pair : pairsOf(body, before, limit, which)) {
        progress.throwIfStopped();
        if (pair.atLeast >= (thinnest ? thinnest->thickness : limit)) break;
        if (shareACorner(pair.first, pair.second)) continue;
        const std::optional<Nearest> nearest = nearestPoints(pair, sides, progress);
        if (!nearest) continue;
        const auto& [from, to] = *nearest;
        const double thickness = from.Distance(to);
        if (thickness < tolerance::samplePoint || thickness >= (thinnest ? thinnest->thickness : limit)) continue;
        if (isThroughMaterial(pair, from, to, body, sides)) thinnest = Wall{thickness, fromPnt(from), fromPnt(to)};
      }
    }
  });
  return thinnest;
}

}  // namespace kervo
