#include "geom/openings/seated.h"

#include <GeomAPI_ProjectPointOnSurf.hxx>
#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/say.h"
#include "geom/faces/changed_faces.h"
#include "geom/kernel/topology_body.h"
#include "geom/measure/crossings.h"
#include "geom/planes.h"

namespace kervo {

namespace {

constexpr Vector topwards{0, 0, 1}, frontwards{0, -1, 0};

[[noreturn]] void throwNoWall() {
  throw Error(say("there is no wall where it would go"), "", say("Choose another place"));
}

gp_Pnt onSurface(const TopoDS_Face& face, const gp_Pnt& place) {
  const GeomAPI_ProjectPointOnSurf nearest(place, BRep_Tool::Surface(face));
  if (nearest.NbPoints() == 0) throwNoWall();
  return nearest.NearestPoint();
}

Plane standingOn(const TopoDS_Face& face, const gp_Pnt& place) {
  return Plane::through(fromPnt(place), fromDir(outwardNormal(face, place)));
}

/// Amid a face's border; of one that goes all round, in front, or on top of one that lies.
gp_Pnt middleOf(const Face& wall) {
  const TopoDS_Face& face = wall.body().face;
  const gp_Pnt amid = toPnt(wall.middle());
  const BRepAdaptor_Surface surface(face);
  if (!surface.IsUClosed() && !surface.IsVClosed()) return onSurface(face, amid);
  const auto axis = wall.axis();
  const bool lies = axis && std::abs(axis->direction.z) < std::numbers::sqrt2 / 2;
  const std::vector<LineCrossing> met =
      crossings(makeShape(face, {}, "face:"), fromPnt(amid), lies ? topwards : frontwards);
  return met.empty() ? onSurface(face, amid) : toPnt(fromPnt(amid) + (lies ? topwards : frontwards) * met.back().at);
}

}  // namespace

std::vector<int> endsOf(const Shape& filling, const Shape& body, const Opening& opening) {
  const std::vector<Face> all = facesOf(body), faces = facesOf(filling);
  std::vector<int> ends;
  for (std::size_t i = 0; i < faces.size(); ++i) {
    const auto is = [&](const std::vector<int>& numbers, auto&& like) {
      return std::any_of(numbers.begin(), numbers.end(),
                         [&](int number) { return like(faces[i], all[static_cast<std::size_t>(number)]); });
    };
    const bool side = is(opening.faces, [](const Face& a, const Face& b) { return isSameFace(a, b); });
    if (!side && is(opening.walls, [](const Face& a, const Face& b) { return a.origins() == b.origins(); }))
      ends.push_back(static_cast<int>(i));
  }
  return ends;
}

Shape seated(const Shape& solid, const std::vector<int>& ends, const Shape& body, Vector out, Progress& progress) {
  const std::vector<Face> faces = facesOf(solid);
  constexpr std::size_t most = 2;
  if (ends.empty() || ends.size() > most)
    throw Error(say("it comes out in more than two places: it fits its own wall only"), "",
                say("Copy it along its wall, or cut it again"));
  const auto end = [&](int number) -> const Face& { return faces[static_cast<std::size_t>(number)]; };
  std::vector<int> order = ends;
  std::sort(order.begin(), order.end(), [&](int a, int b) { return dot(end(a).middle() - end(b).middle(), out) > 0; });
  return kernelCall("seating an opening", [&] {
    const Point start = end(order.front()).middle();
    const std::vector<LineCrossing> met = crossings(body, start, out);
    const LineCrossing* front = nullptr;
    for (const LineCrossing& each : met)
      if (each.out && (!front || std::abs(each.at) < std::abs(front->at))) front = &each;
    if (!front) throwNoWall();
    const LineCrossing* back = nullptr;
    for (const LineCrossing& each : met)
      if (order.size() > 1 && !each.out && each.at < front->at - tolerance::samePlace) back = &each;
    if (order.size() > 1 && !back) throwNoWall();
    // First as long as the wall is thick: corners are looked for near where they were.
    std::map<int, FaceChange> along, onto;
    const auto take = [&](int number, const LineCrossing& wall) {
      const double way = wall.at - dot(end(number).middle() - start, out);
      if (std::abs(way) > tolerance::samePlace) along[number] = {.motion = Motion::by(out * way)};
      onto[number] = {.onto = wall.face};
    };
    take(order.front(), *front);
    if (back) take(order.back(), *back);
    return withFacesChanged(along.empty() ? solid : withFacesChanged(solid, along, progress), onto, progress);
  });
}

Plane placeOn(const Face& wall, double along, double up) {
  return kernelCall("finding a place", [&] {
    if (auto place = wall.plane()) {
      place->origin = wall.middle();
      place->origin = place->at(along, up);
      return *place;
    }
    const TopoDS_Face& face = wall.body().face;
    const Plane start = standingOn(face, middleOf(wall));
    const auto axis = wall.axis();
    const BRepAdaptor_Surface surface(face, false);
    if (axis && surface.GetType() == GeomAbs_Cylinder) {
      const Vector way = start.x * along + start.y * up;
      const Vector around = normalized(cross(axis->direction, start.normal));
      const double radius = surface.Cylinder().Radius();
      const bool bore = dot(start.origin - axis->point, start.normal) < 0;
      const Motion motion = Motion::turn(axis->point, axis->direction, (bore ? -1 : 1) * dot(way, around) / radius)
                                .then(Motion::by(axis->direction * dot(way, axis->direction)));
      return Plane{motion(start.origin), motion.turned(start.x), motion.turned(start.y), motion.turned(start.normal)};
    }
    const Shape alone = makeShape(face, {}, "face:");
    const std::vector<LineCrossing> met = crossings(alone, start.at(along, up), start.normal);
    if (met.empty()) throw Error(say("the wall does not reach as far"), "", say("Choose a place nearer to its middle"));
    const auto nearest = std::min_element(met.begin(), met.end(), [](const LineCrossing& a, const LineCrossing& b) {
      return std::abs(a.at) < std::abs(b.at);
    });
    return standingOn(face, toPnt(start.at(along, up, nearest->at)));
  });
}

}  // namespace kervo
