#include "geom/surface/projected.h"

#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepClass_FaceClassifier.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepOffsetAPI_NormalProjection.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <algorithm>
#include <cmath>

#include "base/say.h"
#include "geom/curves/curve_chains.h"
#include "geom/divide/checked_intersection.h"
#include "geom/divide/score.h"
#include "geom/kernel/topology_body.h"
#include "geom/planes.h"
#include "geom/surface/border.h"
#include "geom/surface/curve_samples.h"
#include "geom/sweep/region_body.h"

namespace kervo {

namespace {

/// Of one stretch of a result: between two of them it may change which hit it is.
constexpr int samplesPerStretch = 48;
constexpr int halvings = 45;

/// Where the face under a curve on a body is seen along itself, between the curve's ends.
std::vector<double> silhouettesOn(const CurveStretch& stretch, const Shape& onto, Vector direction) {
  const Point middle = stretch.at((stretch.from + stretch.to) / 2);
  const std::vector<Face> faces = facesOf(onto);
  std::size_t nearest = 0;
  for (double least = Box::infinity; const Face& face : faces) {
    const double apart = faces.size() > 1 ? face.distanceTo(middle) : 0;
    if (apart >= least) continue;
    least = apart;
    nearest = static_cast<std::size_t>(&face - faces.data());
  }
  const auto towards = [&](double t) {
    return dot(fromDir(outwardNormal(faces[nearest].body().face, toPnt(stretch.at(t)))), direction) > 0;
  };
  std::vector<double> result;
  const auto place = [&](int i) { return stretch.from + (stretch.to - stretch.from) * (i + 0.5) / samplesPerStretch; };
  for (int i = 0; i + 1 < samplesPerStretch; ++i) {
    double low = place(i), high = place(i + 1);
    const bool atLow = towards(low);
    if (towards(high) == atLow) continue;
    for (int k = 0; k < halvings; ++k) {
      const double half = (low + high) / 2;
      (towards(half) == atLow ? low : high) = half;
    }
    result.push_back((low + high) / 2);
  }
  return result;
}

/// What counts of a curve on a body, between two places between which its face is nowhere seen along itself.
void addCounting(std::vector<CurveChain>& kept, const CurveStretch& stretch, double from, double to,
                 const HitFinder& finder) {
  // Near to the ends triangles are too coarse to tell one hit from another.
  constexpr int leastAsked = 7;
  const int asked =
      std::max(leastAsked, static_cast<int>(samplesPerStretch * (to - from) / (stretch.to - stretch.from)));
  const auto place = [&](int i) { return from + (to - from) * (i + 0.5) / asked; };
  const auto counts = [&](double t) { return finder.counts(stretch.at(t)); };
  double begun = from;
  bool now = counts(place(1));
  for (int i = 2; i < asked; ++i) {
    const bool end = i == asked - 1;
    if (!end && counts(place(i)) == now) continue;
    double until = to;
    if (!end) {
      double low = place(i - 1), high = place(i);
      for (int k = 0; k < halvings; ++k) {
        const double half = (low + high) / 2;
        (counts(half) == now ? low : high) = half;
      }
      until = (low + high) / 2;
    }
    if (now) kept.push_back({{{stretch.curve, begun, until}}});
    begun = until;
    now = !now;
  }
}

/// The stretches of curves on a body that count.
std::vector<CurveChain> counting(const Shape& curves, const Shape& onto, Vector direction, const HitFinder& finder,
                                 Progress& progress) {
  std::vector<CurveChain> kept;
  for (const CurveChain& chain : chainsOf(curves))
    for (const CurveStretch& stretch : chain.stretches) {
      progress.throwIfStopped();
      double from = stretch.from;
      for (const double silhouette : silhouettesOn(stretch, onto, direction)) {
        addCounting(kept, stretch, from, silhouette, finder);
        from = silhouette;
      }
      addCounting(kept, stretch, from, stretch.to, finder);
    }
  return kept;
}

void requireAcross(const CurveChain& chain, Vector direction) {
  for (const CurveStretch& stretch : chain.stretches)
    if (std::abs(dot(stretch.tangentAt((stretch.from + stretch.to) / 2), direction)) > 1 - tolerance::direction &&
        length(cross(stretch.end() - stretch.start(), direction)) < tolerance::point)
      throw Error(say("a curve runs along the direction in which it is projected"), "",
                  say("Choose another direction, or leave that curve out"));
}

/// A curve swept along a direction, from a distance to another.
Shape sheetAlong(const CurveChain& chain, Vector direction, double from, double to) {
  requireAcross(chain, direction);
  gp_Trsf move;
  move.SetTranslation(toVec(direction) * from);
  const TopoDS_Shape moved = BRepBuilderAPI_Transform(bodyOf({chain}).body().topology, move, true).Shape();
  return makeShape(BRepPrimAPI_MakePrism(moved, toVec(direction) * (to - from)).Shape(), {}, "projection:");
}

/// Distances along the direction between which a curve, moved along it, passes all of a box.
std::pair<double, double> passing(const CurveChain& chain, Vector direction, const Box& around) {
  const Box own = bodyOf({chain}).roughBox();
  const Span span = spanAlong(around, own.centre(), direction);
  const double margin = 1 + around.diagonal() / 10 + own.diagonal();
  return {std::min(span.low, 0.0) - margin, std::max(span.high, 0.0) + margin};
}

Shape sheetThrough(const CurveChain& chain, Vector direction, const Box& around) {
  const auto [from, to] = passing(chain, direction, around);
  return sheetAlong(chain, direction, from, to);
}

void requireFaces(const Shape& onto) {
  if (onto.empty() || onto.kind() == BodyKind::Curve)
    throw Error(say("a curve has no face to project on"), "", say("Choose a solid or a surface"));
}

}  // namespace

Shape projectedAlong(const Shape& curves, const Shape& onto, Vector direction, Hits hits, Progress& progress) {
  requireFaces(onto);
  return kernelCall("projecting", [&]() -> Shape {
    std::vector<Shape> sheets;
    for (const CurveChain& chain : chainsOf(curves)) sheets.push_back(sheetThrough(chain, direction, onto.roughBox()));
    const Shape lines = intersectionCurves(onto, sheets, progress);
    if (lines.empty()) return {};
    return chained(counting(lines, onto, direction, HitFinder(curves, onto, direction, hits), progress));
  });
}

namespace {

/// A curve on the body: how far along the direction it lies, and which of its places count.
struct Line {
  CurveChain chain;
  double low = Box::infinity, high = -Box::infinity;
  enum class Counts { All, None, Some } counts = Counts::None;
};

Line lineOf(const CurveChain& chain, Vector direction, const HitFinder& finder) {
  constexpr int asked = 3, placed = 16;
  Line line{chain};
  bool any = false, all = true;
  for (const CurveStretch& stretch : chain.stretches) {
    const auto place = [&](double share) { return stretch.at(stretch.from + (stretch.to - stretch.from) * share); };
    for (int i = 0; i <= placed; ++i) {
      const double along = dot(place(static_cast<double>(i) / placed), direction);
      line.low = std::min(line.low, along);
      line.high = std::max(line.high, along);
    }
    for (int i = 0; i < asked; ++i) {
      const bool counts = finder.counts(place((i + 0.5) / asked));
      any = any || counts;
      all = all && counts;
    }
  }
  line.counts = all ? Line::Counts::All : any ? Line::Counts::Some : Line::Counts::None;
  return line;
}

/// From where to where a sheet meets the lines that count and no other; nothing if there is no such stretch.
std::optional<std::pair<double, double>> stretchOf(const std::vector<Line>& lines, double room) {
  double low = Box::infinity, high = -Box::infinity, below = -Box::infinity, above = Box::infinity;
  for (const Line& line : lines) {
    if (line.counts == Line::Counts::Some) return std::nullopt;
    if (line.counts == Line::Counts::None) continue;
    low = std::min(low, line.low);
    high = std::max(high, line.high);
  }
  if (high < low) return std::nullopt;
  for (const Line& line : lines) {
    if (line.counts != Line::Counts::None) continue;
    if (line.high < low)
      below = std::max(below, line.high);
    else if (line.low > high)
      above = std::min(above, line.low);
    else
      return std::nullopt;
  }
  return std::pair(low - std::min(room, (low - below) / 2), high + std::min(room, (above - high) / 2));
}

}  // namespace

std::vector<Shape> cuttingSheets(const Shape& curves, const Shape& onto, Vector direction, Hits hits,
                                 Progress& progress) {
  requireFaces(onto);
  return kernelCall("projecting", [&] {
    std::vector<Shape> result;
    const HitFinder finder(curves, onto, direction, hits);
    const double room = 1 + onto.roughBox().diagonal() / 10;
    for (const CurveChain& chain : chainsOf(curves)) {
      progress.throwIfStopped();
      const Shape through = sheetThrough(chain, direction, onto.roughBox());
      if (hits == Hits::All) {
        result.push_back(through);
        continue;
      }
      const Shape found = intersectionCurves(onto, {through}, progress);
      if (found.empty()) continue;
      std::vector<Line> lines;
      for (const CurveChain& each : chainsOf(found)) lines.push_back(lineOf(each, direction, finder));
      Span own;
      for (const Point& place : sampled(bodyOf({chain}), Plane::through({}, direction))) own.add(place.z);
      const bool across = own.high - own.low < tolerance::point;
      if (const auto stretch = across ? stretchOf(lines, room) : std::nullopt) {
        result.push_back(sheetAlong(chain, direction, stretch->first - own.low, stretch->second - own.low));
        continue;
      }
      // What counts and what does not lie at one height: narrow strips through the lines that count.
      constexpr double narrow = 1e-3;
      const double half = narrow * room;
      const Shape kept = chained(counting(found, onto, direction, finder, progress));
      if (kept.empty()) continue;
      for (const CurveChain& each : chainsOf(kept)) result.push_back(sheetAlong(each, direction, -half, half));
    }
    return result;
  });
}

Shape projectedByNormals(const Shape& curves, const Shape& onto, Progress& progress) {
  requireFaces(onto);
  return kernelCall("projecting along normals", [&]() -> Shape {
    BRepOffsetAPI_NormalProjection projection(onto.body().topology);
    TopTools_IndexedMapOfShape edges;
    TopExp::MapShapes(curves.body().topology, TopAbs_EDGE, edges);
    for (int i = 1; i <= edges.Extent(); ++i) projection.Add(edges(i));
    constexpr double exact = 1e-4, inParameters = 1e-5;
    constexpr int mostDegree = 14, mostSpans = 64;
    projection.SetParams(exact, inParameters, GeomAbs_C2, mostDegree, mostSpans);
    projection.Build();
    progress.throwIfStopped();
    if (!projection.IsDone() || projection.Projection().IsNull()) return {};
    const TopoDS_Shape& found = projection.Projection();
    if (!TopExp_Explorer(found, TopAbs_EDGE).More()) return {};
    return chained(chainsOf(found));
  });
}

Shape together(const std::vector<Shape>& curves) {
  if (curves.size() == 1) return curves.front();
  std::vector<CurveChain> all;
  for (const Shape& curve : curves)
    for (const CurveChain& chain : chainsOf(curve)) all.push_back(chain);
  return all.empty() ? Shape() : bodyOf(all);
}

std::vector<LooseEnd> looseEndsOn(const Shape& curves, const Shape& surface) {
  return kernelCall("looking at the ends of curves", [&] {
    std::vector<TopoDS_Shape> edges;
    for (const Border& border : bordersOf(surface.body().topology)) edges.push_back(border.edge);
    std::vector<CurveChain> chains = chainsOf(curves);
    std::vector<LooseEnd> result;
    for (std::size_t i = 0; i < chains.size(); ++i) {
      if (chains[i].closed()) continue;
      for (const Point end : {chains[i].stretches.front().start(), chains[i].stretches.back().end()}) {
        const TopoDS_Vertex vertex = BRepBuilderAPI_MakeVertex(toPnt(end));
        // It may also end on another of the curves.
        const auto endsThere = [&](const CurveChain& other) {
          const BRepExtrema_DistShapeShape apart(vertex, bodyOf({other}).body().topology);
          return apart.IsDone() && apart.Value() < touching;
        };
        bool met = false;
        for (std::size_t k = 0; k < chains.size() && !met; ++k) met = k != i && endsThere(chains[k]);
        if (met) continue;
        double least = Box::infinity;
        if (!edges.empty()) {
          const BRepExtrema_DistShapeShape apart(vertex, compoundOf(edges));
          if (apart.IsDone()) least = apart.Value();
        }
        if (least > touching) result.push_back({end, least});
      }
    }
    return result;
  });
}

Shape bordersOf(const std::vector<Region>& regions) {
  return kernelCall("taking borders along", [&] {
    TopTools_IndexedMapOfShape edges;
    for (const Region& region : regions) TopExp::MapShapes(region.body().face, TopAbs_EDGE, edges);
    std::vector<TopoDS_Shape> all;
    for (int i = 1; i <= edges.Extent(); ++i) all.push_back(edges(i));
    return makeShape(compoundOf(all), {}, "curve");
  });
}

std::size_t regionAt(const std::vector<Region>& regions, PlanePoint point) {
  for (std::size_t i = 0; i < regions.size(); ++i) {
    const RegionBody& body = regions[i].body();
    const Point at = body.plane.at(point.u, point.v);
    BRepClass_FaceClassifier classifier(body.face, toPnt(at), tolerance::point);
    if (classifier.State() == TopAbs_IN) return i;
  }
  return regions.size();
}

}  // namespace kervo
