#include "geom/thinnest_wall.h"

#include <BRepExtrema_DistShapeShape.hxx>
#include <algorithm>

#include "geom/kernel/checked_intersection.h"
#include "geom/kernel/topology_body.h"

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

/// Pairs of a new face and any other, those whose boxes are nearest first.
std::vector<Pair> pairsOf(const Shape& body, const FaceTable& old, double limit) {
  std::vector<Pair> pairs;
  const std::vector<TopoDS_Face> faces = facesOf(body.body().topology);
  std::vector<bool> isNew;
  for (const TopoDS_Face& face : faces) {
    const auto& origins = *factsOf(body, face).origins;
    isNew.push_back(std::none_of(old.begin(), old.end(), [&](const auto& each) {
      return std::find(origins.begin(), origins.end(), each.second.origins->front()) != origins.end();
    }));
  }
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

}  // namespace

std::optional<Wall> thinnestWall(const Shape& before, const std::vector<Shape>& after, double limit,
                                 Progress& progress) {
  std::optional<Wall> thinnest;
  kernelCall("measuring the walls", [&] {
    Sides sides;
    for (const Shape& body : after) {
      if (body.empty() || body.kind() != BodyKind::Solid) continue;
      for (const Pair& pair : pairsOf(body, before.empty() ? FaceTable() : before.body().faces, limit)) {
        progress.throwIfStopped();
        if (pair.atLeast >= (thinnest ? thinnest->thickness : limit)) break;
        if (shareACorner(pair.first, pair.second)) continue;
        const BRepExtrema_DistShapeShape nearest(pair.first, pair.second);
        if (!nearest.IsDone() || nearest.NbSolution() == 0) continue;
        const double thickness = nearest.Value();
        if (thickness < tolerance::samplePoint || thickness >= (thinnest ? thinnest->thickness : limit)) continue;
        const gp_Pnt from = nearest.PointOnShape1(1), to = nearest.PointOnShape2(1);
        if (isThroughMaterial(pair, from, to, body, sides)) thinnest = Wall{thickness, fromPnt(from), fromPnt(to)};
      }
    }
  });
  return thinnest;
}

}  // namespace kervo
