#include "geom/openings/opening_wall.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/say.h"
#include "geom/faces/face_net.h"
#include "geom/kernel/topology_body.h"

namespace kervo {

namespace {

/// What runs along the rim of an opening is not beside it.
constexpr double rim = 1e-4;

/// So many lines of a hatch cross a mouth.
constexpr double hatchLines = 16;

/// From an axis to a place, at a right angle to it.
Vector awayFrom(const Axis& axis, Point place) {
  const Vector way = place - axis.point;
  return way - axis.direction * dot(way, axis.direction);
}

/// Lines aslant over what outlines in a plane enclose; a gap in them is closed straight.
std::vector<Polyline> hatchOf(const std::vector<Polyline>& outlines, const Plane& plane, double pitch) {
  // Along the lines, and across them.
  const auto turned = [&](Point place) {
    const Vector local = plane.coordinates(place);
    return PlanePoint{(local.x + local.y) / std::numbers::sqrt2, (local.y - local.x) / std::numbers::sqrt2};
  };
  std::vector<std::pair<PlanePoint, PlanePoint>> sides;
  std::vector<PlanePoint> loose;
  const auto end = [&](PlanePoint at) {
    const auto met = std::find_if(loose.begin(), loose.end(), [&](PlanePoint each) {
      return std::hypot(each.u - at.u, each.v - at.v) < tolerance::sameLine;
    });
    met == loose.end() ? loose.push_back(at) : void(loose.erase(met));
  };
  for (const Polyline& outline : outlines) {
    for (std::size_t i = 0; i + 1 < outline.size(); ++i) sides.emplace_back(turned(outline[i]), turned(outline[i + 1]));
    end(turned(outline.front()));
    end(turned(outline.back()));
  }
  if (loose.size() == 2) sides.emplace_back(loose[0], loose[1]);
  double low = Box::infinity, high = -Box::infinity;
  for (const auto& [from, to] : sides) {
    low = std::min({low, from.v, to.v});
    high = std::max({high, from.v, to.v});
  }
  std::vector<Polyline> lines;
  const auto count = static_cast<int>(std::lround((high - low) / pitch));
  for (int i = 0; i < count; ++i) {
    const double v = low + (i + 0.5) * pitch;
    std::vector<double> met;
    for (const auto& [from, to] : sides)
      if ((from.v > v) != (to.v > v)) met.push_back(from.u + (to.u - from.u) * (v - from.v) / (to.v - from.v));
    std::sort(met.begin(), met.end());
    const auto place = [&](double u) { return plane.at((u - v) / std::numbers::sqrt2, (u + v) / std::numbers::sqrt2); };
    for (std::size_t i = 0; i + 1 < met.size(); i += 2) lines.push_back({place(met[i]), place(met[i + 1])});
  }
  return lines;
}

double angleBetween(Vector from, Vector to, Vector about) {
  return std::atan2(dot(cross(from, to), about), dot(from, to));
}

}  // namespace

OpeningWall::OpeningWall(const Shape& solid, const Opening& opening) : solid_(solid), opening_(opening) {
  const Face main = kervo::facesOf(solid).at(static_cast<std::size_t>(opening.walls.front()));
  const BRepAdaptor_Surface surface(main.body().face, false);
  const auto axis = main.axis();
  if (surface.GetType() != GeomAbs_Cylinder || !axis) return;
  round_ = true;
  axis_ = *axis;
  radius_ = surface.Cylinder().Radius();
  around_ = normalized(cross(axis_.direction, awayFrom(axis_, opening.frame.origin)));
}

PlanePoint OpeningWall::alongAndAround(double x, double y) const {
  const Vector way = opening_.frame.x * x + opening_.frame.y * y;
  return {dot(way, axis_.direction), dot(way, around_)};
}

PlanePoint OpeningWall::flat(Point place) const {
  const Plane& frame = opening_.frame;
  const Vector local = frame.coordinates(place);
  if (!round_) return {local.x, local.y};
  const double along = dot(place - frame.origin, axis_.direction);
  const double around = angleBetween(awayFrom(axis_, frame.origin), awayFrom(axis_, place), axis_.direction) * radius_;
  const Vector way = axis_.direction * along + around_ * around;
  return {dot(way, frame.x), dot(way, frame.y)};
}

Motion OpeningWall::along(double x, double y) const {
  const Plane& frame = opening_.frame;
  if (!round_) return Motion::by(frame.x * x + frame.y * y);
  const PlanePoint way = alongAndAround(x, y);
  return Motion::turn(axis_.point, axis_.direction, way.v / radius_).then(Motion::by(axis_.direction * way.u));
}

bool OpeningWall::keepsWalls(double x, double y) const {
  const std::vector<Face> faces = kervo::facesOf(solid_);
  const Vector way = opening_.frame.x * x + opening_.frame.y * y;
  const double far = length(way);
  const bool turns = round_ && std::abs(alongAndAround(x, y).v) > tolerance::sameDirection * far;
  return std::all_of(opening_.walls.begin(), opening_.walls.end(), [&](int number) {
    const Face& wall = faces[static_cast<std::size_t>(number)];
    if (!turns) {
      const auto plane = wall.plane();
      if (plane) return std::abs(dot(plane->normal, way)) <= tolerance::sameDirection * far;
      const auto axis = wall.axis();
      return axis && wall.surfaceName() == "cylinder" &&
             length(cross(axis->direction, way)) <= tolerance::sameDirection * far;
    }
    const auto axis = wall.axis();
    if (!axis) return false;
    const Vector across = axis->point - axis_.point;
    return length(cross(axis->direction, axis_.direction)) < tolerance::sameDirection &&
           length(across - axis_.direction * dot(across, axis_.direction)) < tolerance::samePlace;
  });
}

std::vector<Polyline> OpeningWall::hatchedMouth() const {
  return kernelCall("drawing a mouth", [&] {
    const std::vector<Face> faces = kervo::facesOf(solid_);
    ShapeMap<bool> own;
    for (const int face : opening_.faces)
      for (TopExp_Explorer it(faces[static_cast<std::size_t>(face)].body().face, TopAbs_EDGE); it.More(); it.Next())
        own[it.Current()] = true;
    const Face& wall = faces[static_cast<std::size_t>(opening_.walls.front())];
    std::vector<Polyline> lines;
    for (TopExp_Explorer it(wall.body().face, TopAbs_EDGE); it.More(); it.Next()) {
      if (!own.contains(it.Current()) || BRep_Tool::Degenerated(TopoDS::Edge(it.Current()))) continue;
      Polyline line;
      for (const gp_Pnt& place : placesAlong(TopoDS::Edge(it.Current()))) line.push_back(fromPnt(place));
      lines.push_back(std::move(line));
    }
    if (!wall.plane()) return lines;
    for (Polyline& line : hatchOf(lines, opening_.frame, (opening_.width + opening_.height) / hatchLines))
      lines.push_back(std::move(line));
    return lines;
  });
}

Room OpeningWall::beside(const std::vector<Opening>& all, bool openingsToo) const {
  return kernelCall("measuring a wall", [&] {
    const std::vector<Face> faces = kervo::facesOf(solid_);
    std::vector<int> openingOf(faces.size(), -1);
    for (std::size_t o = 0; o < all.size(); ++o)
      for (const int face : all[o].faces) openingOf[static_cast<std::size_t>(face)] = static_cast<int>(o);
    for (const int face : opening_.faces) openingOf[static_cast<std::size_t>(face)] = -2;
    ShapeMap<int> beyond;  // edges of openings, with the opening
    for (std::size_t f = 0; f < faces.size(); ++f)
      if (openingOf[f] != -1)
        for (TopExp_Explorer it(faces[f].body().face, TopAbs_EDGE); it.More(); it.Next())
          beyond.emplace(it.Current(), openingOf[f]);
    const double right = opening_.width / 2 - rim, top = opening_.height / 2 - rim;
    Room room;
    const auto meet = [&](Beside& side, double gap, int opening) {
      if (gap > -rim && gap < side.gap) side = {std::max(gap, 0.0), opening};
    };
    const auto segment = [&](PlanePoint a, PlanePoint b, int opening) {
      // The part of it beside the opening, along one of the two ways.
      const auto clipped = [](double a0, double b0, double limit) {
        const double low = std::max(-limit, std::min(a0, b0)), high = std::min(limit, std::max(a0, b0));
        return std::pair(low, high);
      };
      const auto at = [](double from, double to, double valueFrom, double valueTo, double where) {
        return std::abs(to - from) < tolerance::rounding
                   ? std::pair(std::min(valueFrom, valueTo), std::max(valueFrom, valueTo))
                   : std::pair(valueFrom + (valueTo - valueFrom) * (where - from) / (to - from),
                               valueFrom + (valueTo - valueFrom) * (where - from) / (to - from));
      };
      if (const auto [low, high] = clipped(a.v, b.v, top); low <= high)
        for (const double where : {low, high}) {
          const auto [least, most] = at(a.v, b.v, a.u, b.u, where);
          if (most < 0) meet(room.left, -right - rim - most, opening);
          if (least > 0) meet(room.right, least - right - rim, opening);
        }
      if (const auto [low, high] = clipped(a.u, b.u, right); low <= high)
        for (const double where : {low, high}) {
          const auto [least, most] = at(a.u, b.u, a.v, b.v, where);
          if (most < 0) meet(room.below, -top - rim - most, opening);
          if (least > 0) meet(room.above, least - top - rim, opening);
        }
    };
    const TopoDS_Face& wall = faces[static_cast<std::size_t>(opening_.walls.front())].body().face;
    for (TopExp_Explorer it(wall, TopAbs_EDGE); it.More(); it.Next()) {
      const auto its = beyond.find(it.Current());
      const int opening = its == beyond.end() ? -1 : its->second;
      const TopoDS_Edge& edge = TopoDS::Edge(it.Current());
      if (opening == -2 || BRep_Tool::Degenerated(edge) || BRep_Tool::IsClosed(edge, wall)) continue;
      if (opening >= 0 && !openingsToo) continue;
      const std::vector<gp_Pnt> places = placesAlong(edge);
      for (std::size_t i = 0; i + 1 < places.size(); ++i)
        segment(flat(fromPnt(places[i])), flat(fromPnt(places[i + 1])), opening);
    }
    return room;
  });
}

}  // namespace kervo
