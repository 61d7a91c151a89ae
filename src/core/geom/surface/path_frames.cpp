#include "geom/surface/path_frames.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRep_Tool.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/quantity.h"
#include "base/say.h"
#include "geom/kernel/convert.h"
#include "geom/kernel/shape_body.h"
#include "geom/place_text.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

/// Frames are carried in so many steps along each edge; from step to step the error is of the fourth order.
constexpr int samplesPerEdge = 256;

EdgeWalk walkOf(const Shape& curve, const std::string& what) {
  if (curve.empty() || curve.kind() != BodyKind::Curve)
    throw Error(say("%1 is no curve", what), "", say("Pick a curve, edges, or a drawing"));
  std::vector<Border> edges;
  for (TopExp_Explorer it(curve.body().topology, TopAbs_EDGE); it.More(); it.Next())
    edges.push_back({TopoDS::Edge(it.Current()), {}});
  return EdgeWalk(edges);
}

Vector turned(Vector v, Vector axis, double angle) {
  return v * std::cos(angle) + cross(axis, v) * std::sin(angle) + axis * (dot(axis, v) * (1 - std::cos(angle)));
}

/// Of unit length, and at right angles to `from`; nothing if `v` runs along it.
std::optional<Vector> across(Vector v, Vector from) {
  const Vector flat = v - from * dot(v, from);
  if (kervo::length(flat) < tolerance::direction * std::max(1.0, kervo::length(v))) return std::nullopt;
  return normalized(flat);
}

}  // namespace

Vector PathFrame::own(Point place) const {
  const Vector off = place - at;
  return {dot(off, along), dot(off, across), dot(off, up)};
}

MatchedWalks PathFrames::walksOf(const PathSweep& order, Point profile) {
  EdgeWalk path = walkOf(order.path, say("the path"));
  if (path.closed()) {
    // It begins at a corner if there is one near, so that edges stay whole.
    const double nearest = path.nearest(profile);
    constexpr double near = 1e-6;
    double start = nearest;
    for (const double corner : path.breaks())
      if (distance(path.pointAt(corner), path.pointAt(nearest)) < near * path.length()) start = corner;
    path = path.startedAt(start);
  } else if (distance(path.pointAt(1), profile) < distance(path.pointAt(0), profile)) {
    path = path.reversed();
  }
  std::vector<EdgeWalk> walks{path};
  if (order.standing == Standing::Guided) {
    const EdgeWalk guide = walkOf(order.guide, say("the guide"));
    if (guide.closed() != path.closed())
      throw Error(say("one of path and guide is closed and the other is open"), "",
                  say("Choose a guide that runs beside the path all along"));
    walks.push_back(alignedWith(path, guide, false));
  }
  return MatchedWalks(std::move(walks));
}

PathFrames::PathFrames(const PathSweep& order, Point profile) : order_(order), walks_(walksOf(order, profile)) {
  constexpr double turn = 2 * std::numbers::pi;
  if (closed() && std::abs(std::remainder(order.twist, turn)) > tolerance::sameDirection)
    throw Error(say("the path closes, so that the profile must come back as it began"), "",
                say("Give it a twist of whole turns, or none"));
  if (order.standing == Standing::Perpendicular) sample();
}

Handle(Geom_Curve) PathFrames::curveOf(std::size_t link) const {
  const double middle = (breaks()[link] + breaks()[link + 1]) / 2;
  double first = 0, last = 0;
  return BRep_Tool::Curve(walk().at(walks_.shareOf(0, middle), EdgeWalk::Side::After).border->edge, first, last);
}

PathFrame PathFrames::bareAt(std::size_t link, double share) const {
  // Each edge has its own end, where its neighbour may run another way.
  const bool later = share > (breaks()[link] + breaks()[link + 1]) / 2;
  const EdgeWalk::Place place =
      walk().at(walks_.shareOf(0, share), later ? EdgeWalk::Side::Before : EdgeWalk::Side::After);
  gp_Pnt point;
  gp_Vec tangent;
  BRepAdaptor_Curve(place.border->edge).D1(place.parameter, point, tangent);
  if (tangent.Magnitude() < tolerance::direction)
    throw Error(say("the path stops at %1, so that it has no direction there", placeText(fromPnt(point))), "",
                say("Make it smooth there, or end it"));
  PathFrame frame;
  frame.at = fromPnt(point);
  frame.tangent = normalized(fromVec(tangent)) * (place.forward ? 1.0 : -1.0);
  frame.along = frame.tangent;
  return frame;
}

void PathFrames::stand(PathFrame& frame, double share) const {
  if (order_.standing == Standing::Upright) {
    const Vector up = normalized(order_.up);
    const std::optional<Vector> level = across(frame.tangent, up);
    if (!level || std::abs(dot(frame.tangent, up)) > 1 - tolerance::sameDirection)
      throw Error(say("the path runs along the upright direction at %1", placeText(frame.at)), "",
                  say("Choose another direction, or let the profile be perpendicular"));
    frame.along = *level;
    frame.up = up;
  } else {
    const Point facing = walks_.walk(1).pointAt(walks_.shareOf(1, share));
    const std::optional<Vector> up = across(facing - frame.at, frame.tangent);
    if (!up)
      throw Error(say("the guide is met, or straight ahead, at %1 of the path", placeText(frame.at)), "",
                  say("Move the guide to the side of the path"));
    frame.up = *up;
  }
  frame.across = cross(frame.up, frame.along);
}

// Double reflection, after Wang, Jüttler, Zheng and Liu, "Computation of rotation minimizing frames" (2008).
void PathFrames::carry(const PathFrame& from, PathFrame& to) {
  const Vector way = to.at - from.at;
  const double square = dot(way, way);
  Vector up = from.up, tangent = from.tangent;
  if (square > tolerance::point * tolerance::point) {
    up = up - way * (2 / square * dot(way, up));
    tangent = tangent - way * (2 / square * dot(way, tangent));
  }
  const Vector turn = to.tangent - tangent;
  const double bend = dot(turn, turn);
  if (bend > tolerance::finest * tolerance::finest) up = up - turn * (2 / bend * dot(turn, up));
  to.up = normalized(up - to.tangent * dot(up, to.tangent));
  to.across = cross(to.up, to.along);
}

void PathFrames::sample() {
  for (std::size_t link = 0; link + 1 < breaks().size(); ++link) {
    std::vector<PathFrame>& frames = samples_.emplace_back();
    for (int i = 0; i <= samplesPerEdge; ++i) {
      const double share = breaks()[link] + (breaks()[link + 1] - breaks()[link]) * i / samplesPerEdge;
      PathFrame frame = bareAt(link, share);
      if (i > 0) {
        carry(frames.back(), frame);
      } else if (link > 0) {
        carry(samples_[link - 1].back(), frame);
      } else {
        frame.up = Plane::through(frame.at, frame.tangent).y;
        frame.across = cross(frame.up, frame.along);
      }
      frames.push_back(frame);
    }
  }
  if (!closed()) return;
  PathFrame again = samples_.front().front();
  carry(samples_.back().back(), again);
  const PathFrame& first = samples_.front().front();
  const double off = std::atan2(dot(cross(again.up, first.up), first.along), dot(again.up, first.up));
  if (std::abs(off) > tolerance::sameDirection) closing_ = off;
}

PathFrame PathFrames::at(std::size_t link, double share) const {
  PathFrame frame = bareAt(link, share);
  if (order_.standing == Standing::Perpendicular) {
    const double from = breaks()[link], to = breaks()[link + 1];
    const int before = std::clamp(static_cast<int>((share - from) / (to - from) * samplesPerEdge), 0, samplesPerEdge);
    carry(samples_[link][static_cast<std::size_t>(before)], frame);
  } else {
    stand(frame, share);
  }
  if (const double turn = (order_.twist + closing_) * share; turn != 0) {
    frame.up = turned(frame.up, frame.along, turn);
    frame.across = cross(frame.up, frame.along);
  }
  return frame;
}

}  // namespace kervo
