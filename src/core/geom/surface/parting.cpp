// The silhouette is followed point by point. A little inside of each point, a line along the way of drawing goes
// through the body from one height to another; how these two run together towards the silhouette tells between which
// heights the halves can meet there: at one where the body bends or has an edge, anywhere on a wall.
#include "geom/surface/parting.h"

#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepClass3d_SolidClassifier.hxx>
#include <GeomAPI_Interpolate.hxx>
#include <GeomFill.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_BSplineSurface.hxx>
#include <IntCurvesFace_ShapeIntersector.hxx>
#include <TColgp_HArray1OfPnt.hxx>
#include <algorithm>
#include <cmath>

#include "base/quantity.h"
#include "base/say.h"
#include "geom/flat/flat_curves.h"
#include "geom/kernel/topology_body.h"
#include "geom/planes.h"
#include "geom/surface/sewn.h"

namespace kervo {

namespace {

/// How far inside of the silhouette surfaces begin, mm; and how far inside of it they come to the height at which the
/// halves meet. On the silhouette itself they would run along edges of the body, which no intersection finds for sure.
constexpr double inwards = 0.2, nearEdge = inwards / 4;

/// A place on the silhouette.
struct Place {
  PlanePoint at, in;         ///< on the silhouette, and the unit direction into the shadow
  double low = 0, high = 0;  ///< the halves can meet between these heights
  double within = 0;         ///< a height inside of the body, `inwards` from the silhouette
  Span inside = {};          ///< of the body there
  Span atEdge = {};          ///< … `nearEdge` from it
  double along = 0;          ///< the way to it round the outline, mm
  double height = 0;         ///< where they do
};

/// Stretches between corners, each with the places at both its ends.
struct Outline {
  std::vector<std::vector<Place>> stretches;
  double area = 0;  ///< signed
  double length = 0;
};

std::vector<Place> placesOn(const SpaceCurve& curve, const Plane& plane, bool backwards) {
  const bool straight = std::holds_alternative<Segment>(curve.form());
  constexpr int ofLines = 16, ofCurves = 64;  // both powers of two: they are thinned by halves
  const int count = straight ? ofLines : curve.closed() ? 2 * ofCurves : ofCurves;
  std::vector<Place> places;
  for (int i = 0; i <= count; ++i) {
    const double t = static_cast<double>(backwards ? count - i : i) / count;
    const Vector at = plane.coordinates(curve.at(t)), way = plane.coordinates(plane.origin + curve.tangentAt(t));
    const double sign = backwards ? -1 : 1, size = std::hypot(way.x, way.y);
    // To the left.
    places.push_back({.at = {at.x, at.y}, .in = {-sign * way.y / size, sign * way.x / size}});
  }
  return places;
}

void turnRound(Outline& outline) {
  std::reverse(outline.stretches.begin(), outline.stretches.end());
  for (std::vector<Place>& stretch : outline.stretches) {
    std::reverse(stretch.begin(), stretch.end());
    for (Place& place : stretch) place.in = place.in * -1;
  }
  outline.area = -outline.area;
}

/// What stands at corners looks between its two neighbours.
void joinCorners(Outline& outline) {
  for (std::size_t i = 0; i < outline.stretches.size(); ++i) {
    Place& end = outline.stretches[i].back();
    Place& start = outline.stretches[(i + 1) % outline.stretches.size()].front();
    const PlanePoint sum = end.in + start.in;
    const double size = length(sum);
    constexpr double opposite = 1e-3;
    if (size > opposite) end.in = start.in = sum * (1 / size);
    start.at = end.at;
  }
}

void measure(Outline& outline) {
  for (const std::vector<Place>& stretch : outline.stretches)
    for (std::size_t i = 0; i + 1 < stretch.size(); ++i) outline.area += cross(stretch[i].at, stretch[i + 1].at) / 2;
  // Around the left, so that what lies inside is there.
  if (outline.area < 0) turnRound(outline);
  for (std::vector<Place>& stretch : outline.stretches)
    for (std::size_t i = 0; i < stretch.size(); ++i) {
      if (i > 0) outline.length += distance(stretch[i - 1].at, stretch[i].at);
      stretch[i].along = outline.length;
    }
}

/// The curves as outlines that close.
std::vector<Outline> outlinesOf(std::vector<NamedCurve> curves, const Plane& plane) {
  std::vector<Outline> outlines;
  while (!curves.empty()) {
    Outline outline;
    const SpaceCurve first = curves.back().curve;
    curves.pop_back();
    outline.stretches.push_back(placesOn(first, plane, false));
    Point end = first.at(1);
    while (!first.closed() && distance(end, first.at(0)) > tolerance::samePlace) {
      const auto next = std::min_element(curves.begin(), curves.end(), [&](const NamedCurve& a, const NamedCurve& b) {
        const auto away = [&](const NamedCurve& c) {
          return std::min(distance(c.curve.at(0), end), distance(c.curve.at(1), end));
        };
        return away(a) < away(b);
      });
      if (next == curves.end()) throw Error(say("the silhouette does not close"));
      const bool backwards = distance(next->curve.at(1), end) < distance(next->curve.at(0), end);
      outline.stretches.push_back(placesOn(next->curve, plane, backwards));
      end = next->curve.at(backwards ? 0 : 1);
      curves.erase(next);
    }
    measure(outline);
    joinCorners(outline);
    outlines.push_back(std::move(outline));
  }
  return outlines;
}

bool isWithin(PlanePoint point, const Outline& outline) {
  bool inside = false;
  for (const std::vector<Place>& stretch : outline.stretches)
    for (std::size_t i = 0; i + 1 < stretch.size(); ++i) {
      const PlanePoint a = stretch[i].at, b = stretch[i + 1].at;
      if ((a.v > point.v) != (b.v > point.v) && point.u < (b.u - a.u) * (point.v - a.v) / (b.v - a.v) + a.u)
        inside = !inside;
    }
  return inside;
}

/// What lines along the normal of a plane meet of a body.
class Plumb {
 public:
  Plumb(const Shape& body, const Plane& plane) : plane_(plane), solid_(body.body().topology) {
    lines_.Load(body.body().topology, tolerance::point);
    classifier_.Load(solid_);
  }

  /// From where to where the line over a point of the plane is inside of the body; what is nearest to a height.
  std::optional<Span> through(PlanePoint point, double near) {
    const Point foot = plane_.at(point.u, point.v);
    lines_.Perform(gp_Lin(toPnt(foot), toDir(plane_.normal)), -Precision::Infinite(), Precision::Infinite());
    std::vector<double> heights;
    for (int i = 1; lines_.IsDone() && i <= lines_.NbPnt(); ++i) heights.push_back(lines_.WParameter(i));
    std::sort(heights.begin(), heights.end());
    std::vector<Span> spans;
    for (std::size_t i = 0; i + 1 < heights.size(); ++i) {
      if (heights[i + 1] - heights[i] < tolerance::point) continue;
      const Point middle = foot + plane_.normal * ((heights[i] + heights[i + 1]) / 2);
      classifier_.Perform(toPnt(middle), tolerance::point);
      if (classifier_.State() != TopAbs_IN) continue;
      if (!spans.empty() && heights[i] - spans.back().high < tolerance::point)
        spans.back().high = heights[i + 1];
      else
        spans.push_back({heights[i], heights[i + 1]});
    }
    const auto away = [&](const Span& span) { return std::max({span.low - near, near - span.high, 0.0}); };
    const auto nearest =
        std::min_element(spans.begin(), spans.end(), [&](const Span& a, const Span& b) { return away(a) < away(b); });
    return nearest == spans.end() ? std::nullopt : std::optional<Span>(*nearest);
  }

 private:
  Plane plane_;
  TopoDS_Shape solid_;
  IntCurvesFace_ShapeIntersector lines_;
  BRepClass3d_SolidClassifier classifier_;
};

/// Where a sequence that approaches something by equal shares ends.
double limitOf(double a, double b, double c) {
  const double first = b - a, second = c - b, bend = second - first;
  if (std::abs(first) < tolerance::point || std::abs(bend) < tolerance::point) return c;
  return c - second * second / bend;
}

/// Fills in what is free at a place; false where nothing was met.
bool settle(Place& place, Plumb& plumb, double near) {
  constexpr double share = 4;
  std::array<Span, 3> spans;
  double by = inwards;
  for (Span& span : spans) {
    const auto met = plumb.through(place.at + place.in * by, &span == spans.data() ? near : place.within);
    if (!met) return false;
    span = *met;
    if (&span == spans.data()) {
      place.inside = span;
      const double room = (span.high - span.low) / 4;
      place.within = std::clamp(near, span.low + room, span.high - room);
    }
    by /= share;
  }
  place.atEdge = spans[1];
  place.low = limitOf(spans[0].low, spans[1].low, spans[2].low);
  place.high = limitOf(spans[0].high, spans[1].high, spans[2].high);
  // Nearer together than they could be told apart: a bend, or an edge.
  constexpr double one = 1e-3;
  if (place.high - place.low < one) place.low = place.high = (place.low + place.high) / 2;
  return true;
}

/// What is free at the places of an outline, found from the body.
void settleAll(Outline& outline, Plumb& plumb, double near, Progress& progress) {
  for (std::vector<Place>& stretch : outline.stretches) {
    progress.throwIfStopped();
    std::vector<bool> met;
    for (Place& place : stretch) met.push_back(settle(place, plumb, near));
    // A line that runs along a face meets nothing that counts: as at the next place.
    for (std::size_t i = 0; i < stretch.size(); ++i)
      for (std::size_t away = 1; !met[i] && away < stretch.size(); ++away)
        for (const std::size_t k : {i - away, i + away})
          if (k < stretch.size() && met[k] && !met[i]) {
            const auto [at, in, along] = std::tuple(stretch[i].at, stretch[i].in, stretch[i].along);
            stretch[i] = stretch[k];
            stretch[i].at = at;
            stretch[i].in = in;
            stretch[i].along = along;
            met[i] = true;
          }
    if (std::none_of(met.begin(), met.end(), [](bool each) { return each; }))
      throw Error(say("the body was not met below its silhouette"), "", say("Part it by a plane"));
  }
}

template <class Do>
void forEach(Outline& outline, Do&& work) {
  for (std::vector<Place>& stretch : outline.stretches)
    for (Place& place : stretch) work(place);
}

/// The heights at which one plane would do for all of the outline.
Span commonOf(Outline& outline) {
  Span common{-Box::infinity, Box::infinity};
  forEach(outline, [&](const Place& place) {
    common.low = std::max(common.low, place.low);
    common.high = std::min(common.high, place.high);
  });
  return common;
}

/// As near to a height as is free, and no steeper than need be. Throws Error where the silhouette jumps from one place
/// of the body to another.
void rise(Outline& outline, double near) {
  std::vector<Place*> all;
  forEach(outline, [&](Place& place) { all.push_back(&place); });
  for (Place* place : all) {
    // Clear of the edges of walls, where it would run along what lies beside them.
    constexpr double clear = 0.1;
    const double margin = std::min(clear, (place->high - place->low) / 4);
    place->low += margin;
    place->high -= margin;
  }
  bool possible = false;
  for (const double slope : {0.25, 0.5, 1.0, 2.0, 4.0, 8.0}) {
    possible = true;
    for (Place* place : all) {
      double low = place->low, high = place->high;
      for (const Place* other : all) {
        const double direct = std::abs(other->along - place->along), away = std::min(direct, outline.length - direct);
        low = std::max(low, other->low - slope * away);
        high = std::min(high, other->high + slope * away);
      }
      possible = possible && low <= high + tolerance::point;
      place->height = low <= high ? std::clamp(near, low, high) : (low + high) / 2;
    }
    if (possible) break;
  }
  if (!possible)
    throw Error(say("the silhouette jumps from one part of the body to another that is higher or lower"), "",
                say("Part it by a plane, or by surfaces of your own"));
  for (Place* place : all) {
    const double room = (place->inside.high - place->inside.low) / 4;
    place->within = std::clamp(place->height, place->inside.low + room, place->inside.high - room);
    const double edge = (place->atEdge.high - place->atEdge.low) / 4;
    place->height = std::clamp(place->height, place->atEdge.low + edge, place->atEdge.high - edge);
  }
}

/// What the surface round an outline goes away from: along the ways from its nearest points, which never cross.
struct Spine {
  PlanePoint from, to;

  PlanePoint nearest(PlanePoint point) const {
    const PlanePoint along = to - from;
    const double square = dot(along, along);
    const double share = square > 0 ? std::clamp(dot(point - from, along) / square, 0.0, 1.0) : 0;
    return from + along * share;
  }
};

/// The spine, a point or a segment, from which all of an outline is seen best; nothing if there is none.
std::optional<Spine> spineOf(const Outline& outline) {
  Box box;
  std::vector<const Place*> places;
  for (const std::vector<Place>& stretch : outline.stretches)
    for (const Place& place : stretch) {
      box.add(Point{place.at.u, place.at.v, 0});
      places.push_back(&place);
    }
  constexpr int steps = 9;
  std::vector<PlanePoint> grid;
  for (int i = 1; i < steps; ++i)
    for (int k = 1; k < steps; ++k)
      grid.push_back(
          {box.low.x + (box.high.x - box.low.x) * i / steps, box.low.y + (box.high.y - box.low.y) * k / steps});
  std::optional<Spine> best;
  double most = 0.05;  // so that no way grazes the outline
  const auto look = [&](const Spine& spine) {
    double worst = 1;
    for (const Place* place : places) {
      const PlanePoint to = place->at - spine.nearest(place->at);
      worst = std::min(worst, -dot(to, place->in) / std::max(length(to), tolerance::point));
      if (worst <= most) return;
    }
    most = worst;
    best = spine;
  };
  for (const PlanePoint& point : grid) look({point, point});
  if (best) return best;
  for (std::size_t i = 0; i < grid.size(); ++i)
    for (std::size_t k = 0; k < i; ++k) look({grid[k], grid[i]});
  return best;
}

/// Through every so manieth of some points; parameters are their numbers.
Handle(Geom_BSplineCurve) curveThrough(const std::vector<Point>& points, std::size_t every) {
  const int count = static_cast<int>((points.size() - 1) / every) + 1;
  Handle(TColgp_HArray1OfPnt) poles = new TColgp_HArray1OfPnt(1, count);
  Handle(TColStd_HArray1OfReal) parameters = new TColStd_HArray1OfReal(1, count);
  for (int i = 0; i < count; ++i) {
    const std::size_t number = static_cast<std::size_t>(i) * every;
    poles->SetValue(i + 1, toPnt(points[number]));
    parameters->SetValue(i + 1, static_cast<double>(number));
  }
  GeomAPI_Interpolate through(poles, parameters, false, tolerance::point / 10);
  through.Perform();
  if (!through.IsDone()) throw Error(say("the parting could not be followed along the silhouette"));
  return through.Curve();
}

double farthestOff(const Handle(Geom_BSplineCurve) & curve, const std::vector<Point>& points) {
  double most = 0;
  for (std::size_t i = 0; i < points.size(); ++i)
    most = std::max(most, distance(fromPnt(curve->Value(static_cast<double>(i))), points[i]));
  return most;
}

/// Rows of points side by side, as few of them as will do: what is straight has two.
struct Rows {
  std::vector<Point> inner, edge, outer;

  std::size_t thinnedBy() const {
    constexpr double close = nearEdge / 5, beside = 3e-2;  // mm: of the edge itself, and of what lies beside it
    std::size_t every = edge.size() - 1;
    const auto follows = [&](const std::vector<Point>& row, double off) {
      return farthestOff(curveThrough(row, every), row) <= off;
    };
    while (every > 1 && !(follows(edge, close) && follows(inner, beside) && follows(outer, beside))) every /= 2;
    return every;
  }
};

Shape between(const std::vector<Point>& from, const std::vector<Point>& to, std::size_t every,
              const std::string& name) {
  const Handle(Geom_Surface) surface = GeomFill::Surface(curveThrough(from, every), curveThrough(to, every));
  return makeShape(BRepBuilderAPI_MakeFace(surface, tolerance::point).Face(), {}, name);
}

/// From inside of the body over the silhouette to beyond the block.
Shape surfaceAround(const Outline& outline, const Plane& plane, double reach, const std::string& name,
                    Progress& progress) {
  const auto spine = spineOf(outline);
  if (!spine)
    throw Error(say("the silhouette rises and falls, and has hollows that are not seen from its middle"), "",
                say("Part it by a plane, or by surfaces of your own"));
  std::vector<Shape> faces;
  for (const std::vector<Place>& stretch : outline.stretches) {
    Rows rows;
    for (const Place& place : stretch) {
      const PlanePoint in = place.at + place.in * inwards, edge = place.at + place.in * nearEdge,
                       middle = spine->nearest(place.at), away = place.at - middle;
      const PlanePoint out = middle + away * (reach / length(away));
      rows.inner.push_back(plane.at(in.u, in.v) + plane.normal * place.within);
      rows.edge.push_back(plane.at(edge.u, edge.v) + plane.normal * place.height);
      rows.outer.push_back(plane.at(out.u, out.v) + plane.normal * place.height);
    }
    const std::size_t every = rows.thinnedBy();
    faces.push_back(between(rows.inner, rows.edge, every, name));
    faces.push_back(between(rows.edge, rows.outer, every, name));
  }
  return sewn(faces, tolerance::sewing, progress).shape;
}

/// A flat face across a hole, its border inside of the body.
Shape patchAcross(const Outline& hole, const Plane& plane, double height, const std::string& name) {
  BRepBuilderAPI_MakePolygon border;
  const auto over = [&](const Place& place) {
    const PlanePoint in = place.at + place.in * inwards;
    return plane.at(in.u, in.v) + plane.normal * height;
  };
  for (const std::vector<Place>& stretch : hole.stretches) {
    std::vector<Point> all;
    for (const Place& place : stretch) all.push_back(over(place));
    // As few corners as keep it within the body.
    std::size_t every = stretch.size() - 1;
    const auto off = [&] {
      double most = 0;
      for (std::size_t i = 0; i + every < all.size(); i += every)
        for (std::size_t k = i + 1; k < i + every; ++k) {
          const Vector along = normalized(all[i + every] - all[i]);
          most = std::max(most, length(cross(all[k] - all[i], along)));
        }
      return most;
    };
    const auto isClosed = distance(all.front(), all.back()) < tolerance::samePlace;
    while (every > 1 && ((isClosed && every + 1 == all.size()) || off() > inwards / 2)) every /= 2;
    for (std::size_t i = 0; i + every < all.size(); i += every) border.Add(toPnt(all[i]));
  }
  border.Close();
  return makeShape(BRepBuilderAPI_MakeFace(toPln(plane.moved(height)), border.Wire()).Face(), {}, name);
}

}  // namespace

Parting partingFor(const Shape& body, const Plane& plane, double reach, const std::string& name, Progress& progress) {
  std::vector<Outline> outlines = outlinesOf(flatSilhouette(body, plane, progress), plane);
  std::sort(outlines.begin(), outlines.end(), [](const Outline& a, const Outline& b) { return a.area > b.area; });
  const std::vector<Outline> known = outlines;
  for (std::size_t i = 1; i < outlines.size(); ++i) {
    if (!isWithin(outlines[i].stretches.front().front().at, known.front()))
      throw Error(say("the body is seen as several parts"), "", say("Take each for itself, or part them by a plane"));
    turnRound(outlines[i]);  // the body lies outside of its holes
  }
  return kernelCall("parting a mould", [&] {
    Plumb plumb(body, plane);
    std::vector<Span> common;
    Span all{-Box::infinity, Box::infinity};
    for (Outline& outline : outlines) {
      settleAll(outline, plumb, 0, progress);
      common.push_back(commonOf(outline));
      all = {std::max(all.low, common.back().low), std::min(all.high, common.back().high)};
    }
    Parting parting;
    parting.length = outlines.front().length;
    constexpr double level = 2e-3;  // within which a silhouette counts as level, mm
    if (all.low <= all.high + level) {
      parting.level = std::clamp(0.0, std::min(all.low, all.high), std::max(all.low, all.high));
      return parting;
    }
    rise(outlines.front(), 0);
    parting.surfaces.push_back(surfaceAround(outlines.front(), plane, reach, name, progress));
    for (std::size_t i = 1; i < outlines.size(); ++i) {
      if (common[i].low > common[i].high + level)
        throw Error(say("a hole has no level place at which the halves could meet"), "",
                    say("Part it by surfaces of your own"));
      Span inside{-Box::infinity, Box::infinity};
      forEach(outlines[i], [&](const Place& place) {
        inside = {std::max(inside.low, place.inside.low), std::min(inside.high, place.inside.high)};
      });
      const double room = (inside.high - inside.low) / 4;
      const double height = std::clamp(
          0.0, std::max(common[i].low, inside.low + room),
          std::max(std::min(common[i].high, inside.high - room), std::max(common[i].low, inside.low + room)));
      parting.surfaces.push_back(patchAcross(outlines[i], plane, height, name));
    }
    return parting;
  });
}

}  // namespace kervo
