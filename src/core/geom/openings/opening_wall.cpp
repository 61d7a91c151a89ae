#include "geom/openings/opening_wall.h"

#include <algorithm>
#include <cmath>

#include "base/say.h"
#include "geom/faces/face_net.h"
#include "geom/kernel/topology_body.h"

namespace kervo {

namespace {

/// What runs along the rim of an opening is not beside it.
constexpr double rim = 1e-4;

double angleBetween(Vector from, Vector to, Vector about) {
  return std::atan2(dot(cross(from, to), about), dot(from, to));
}

}  // namespace

OpeningWall::OpeningWall(const Shape& solid, const Opening& opening) : solid_(solid), opening_(opening) {
  const Face main = kervo::facesOf(solid).at(static_cast<std::size_t>(opening.walls.front()));
  const BRepAdaptor_Surface surface(main.body().face, false);
  const auto axis = main.axis();
  if (surface.GetType() != GeomAbs_Cylinder || !axis) return;
  axis_ = *axis;
  radius_ = surface.Cylinder().Radius();
  if (dot(axis_.direction, opening.frame.x) < 0 ||
      (std::abs(dot(axis_.direction, opening.frame.x)) < tolerance::sameDirection &&
       dot(axis_.direction, opening.frame.y) < 0))
    axis_.direction = -axis_.direction;
  if (std::abs(dot(axis_.direction, opening.frame.y)) > 1 - tolerance::sameDirection)
    turns_ = Turns::X;
  else if (std::abs(dot(axis_.direction, opening.frame.x)) > 1 - tolerance::sameDirection)
    turns_ = Turns::Y;
}

PlanePoint OpeningWall::flat(Point place) const {
  const Vector local = opening_.frame.coordinates(place);
  if (turns_ == Turns::None) return {local.x, local.y};
  const auto radial = [&](Point p) {
    const Vector way = p - axis_.point;
    return way - axis_.direction * dot(way, axis_.direction);
  };
  const double angle = angleBetween(radial(opening_.frame.origin), radial(place), axis_.direction);
  // Outside, the frame's normal leads away from the axis; in a bore it leads to it.
  const double sign = dot(cross(axis_.direction, radial(opening_.frame.origin)),
                          turns_ == Turns::X ? opening_.frame.x : opening_.frame.y) > 0
                          ? 1
                          : -1;
  const double round = angle * radius_ * sign;
  return turns_ == Turns::X ? PlanePoint{round, local.y} : PlanePoint{local.x, round};
}

Motion OpeningWall::along(double x, double y) const {
  const Plane& frame = opening_.frame;
  if (turns_ == Turns::None) return Motion::by(frame.x * x + frame.y * y);
  const bool xTurns = turns_ == Turns::X;
  const Vector out = frame.origin - axis_.point;
  const Vector radial = out - axis_.direction * dot(out, axis_.direction);
  const double sign = dot(cross(axis_.direction, radial), xTurns ? frame.x : frame.y) > 0 ? 1 : -1;
  const Motion turned = Motion::turn(axis_.point, axis_.direction, sign * (xTurns ? x : y) / radius_);
  return turned.then(Motion::by(xTurns ? frame.y * y : frame.x * x));
}

bool OpeningWall::keepsWalls(double x, double y) const {
  const std::vector<Face> faces = kervo::facesOf(solid_);
  const Vector way = opening_.frame.x * x + opening_.frame.y * y;
  const double far = length(way);
  return std::all_of(opening_.walls.begin(), opening_.walls.end(), [&](int number) {
    const Face& wall = faces[static_cast<std::size_t>(number)];
    if (turns_ == Turns::None) {
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
