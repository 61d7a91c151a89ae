#include "steps/shared/key_work.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/say.h"
#include "geom/divide/boolean.h"
#include "geom/motion.h"

namespace kervo {

namespace {

/// Whether half a turn about their middle takes every peg onto one of the others.
bool fitsTurned(const std::vector<KeyPlace>& places, Vector normal) {
  Point middle;
  for (const KeyPlace& place : places) middle = middle + place.at * (1.0 / static_cast<double>(places.size()));
  const Motion turn = Motion::turn(middle, normal, std::numbers::pi);
  constexpr double near = 0.5;  // mm: as close as pieces would be forced together
  return std::all_of(places.begin(), places.end(), [&](const KeyPlace& place) {
    return std::any_of(places.begin(), places.end(),
                       [&](const KeyPlace& other) { return distance(turn(place.at), other.at) < near; });
  });
}

/// Straight, chamfered at both ends.
Shape pinOf(const KeyForm& form, const Plane& plane, double gap, double depth, const std::string& name,
            Progress& progress) {
  const Shape ahead = keySolid(form, plane, -depth / 2, gap + depth, 0, false, name, progress);
  const Shape back =
      keySolid(form, Plane::through(plane.origin, -plane.normal), 0, depth, 0, false, name + ":back", progress);
  return unite({ahead, back}, progress).shape;
}

}  // namespace

KeyWork::KeyWork(std::vector<Shape> pieces, KeyWishes wishes, std::string name)
    : pieces_(std::move(pieces)), wishes_(std::move(wishes)), name_(std::move(name)) {}

double KeyWork::aroundOf() const {
  return wishes_.form.reachWith(wishes_.clearance) + wishes_.wall;
}

std::size_t KeyWork::add(std::size_t piece, const Face& face, const std::vector<std::size_t>& mates, Vector way,
                         std::size_t most, Progress& progress) {
  if (wishes_.form.section == KeySection::Dovetail) return addRails(piece, face, mates, progress);
  std::vector<Shape> shapes;
  for (const std::size_t mate : mates) shapes.push_back(pieces_[mate]);
  const KeyRoom room(pieces_[piece], face, shapes, way, wishes_.depth + wishes_.endRoom, aroundOf(), progress);
  return addIn(room, piece, mates, way, most, progress);
}

std::optional<std::size_t> KeyWork::add(std::size_t piece, const Plane& cut, const std::vector<std::size_t>& mates,
                                        std::size_t most, Progress& progress) {
  if (wishes_.form.section == KeySection::Dovetail)
    throw Error(say("dovetails stand on faces of exact bodies only"), "", say("Choose another form"));
  std::vector<Shape> shapes;
  for (const std::size_t mate : mates) shapes.push_back(pieces_[mate]);
  const KeyRoom room(pieces_[piece], cut, shapes, wishes_.depth + wishes_.endRoom, aroundOf(), progress);
  if (room.empty()) return std::nullopt;
  return addIn(room, piece, mates, cut.normal, most, progress);
}

std::size_t KeyWork::addIn(const KeyRoom& room, std::size_t piece, const std::vector<std::size_t>& mates, Vector way,
                           std::size_t most, Progress& progress) {
  const std::vector<KeyPlace> places = placesOn(room, most, aroundOf(), progress);
  const bool ambiguous = wishes_.unique && places.size() > 1 && fitsTurned(places, way);
  for (std::size_t i = 0; i < places.size(); ++i) {
    KeyForm form = wishes_.form;
    constexpr double share = 0.75;
    if (ambiguous && i == 0) form.width = narrower_ = share * wishes_.form.width;
    addOne(piece, mates[places[i].mate], form, places[i].at, way, places[i].gap, progress);
  }
  return places.size();
}

std::vector<KeyPlace> KeyWork::placesOn(const KeyRoom& room, std::size_t most, double around, Progress& progress) {
  std::vector<Point> wanted;
  switch (wishes_.placing) {
    case KeyPlacing::Spread:
      return room.spread(most, 2 * around, progress);
    case KeyPlacing::Ring:
      wanted = room.ring(most, wishes_.size, wishes_.turn);
      break;
    case KeyPlacing::Grid:
      wanted = room.grid(wishes_.size);
      break;
    case KeyPlacing::Outline:
      wanted = room.along(most, wishes_.size);
      break;
    case KeyPlacing::Points:
      wanted = wishes_.points;
      break;
  }
  constexpr std::size_t tooMany = 400;
  if (wanted.size() > tooMany)
    throw Error(say("that would be %1 pegs", wanted.size()), "", say("At most %1 are made", tooMany));
  std::vector<KeyPlace> places;
  for (const Point& point : wanted) {
    progress.throwIfStopped();
    const auto place = room.at(point);
    const bool clear = place && std::all_of(places.begin(), places.end(), [&](const KeyPlace& other) {
                         return distance(other.at, place->at) >= 2 * around - wishes_.wall - tolerance::samePlace;
                       });
    clear ? places.push_back(*place) : void(++without_);
  }
  return places;
}

/// Rails right across the face, as much of them as lies in the piece across: that one slides over them.
std::size_t KeyWork::addRails(std::size_t piece, const Face& face, const std::vector<std::size_t>& mates,
                              Progress& progress) {
  const auto plane = face.plane();
  if (!plane) throw Error(say("dovetails slide along a flat face only"), "", say("Choose another form"));
  const Motion turn = Motion::turn({}, plane->normal, wishes_.turn);
  const Plane along{plane->origin, turn.turned(plane->x), turn.turned(plane->y), plane->normal};
  const Box box = face.boxIn(along);
  const double wide = box.high.y - box.low.y,
               head = 2 * (wishes_.form.width / 2 + wishes_.clearance + std::tan(wishes_.form.taper) * wishes_.depth);
  std::size_t added = 0;
  std::size_t most = wishes_.most;
  while (most > 0 && static_cast<double>(most) * head + static_cast<double>(most + 1) * wishes_.wall > wide) --most;
  for (std::size_t i = 0; i < most; ++i) {
    const double at = box.low.y + wide * (static_cast<double>(i) + 0.5) / static_cast<double>(most);
    const Plane rail{along.at(0, at), along.x, along.y, along.normal};
    const double beyond = wishes_.depth + wishes_.form.width;
    for (const std::size_t mate : mates) {
      progress.throwIfStopped();
      const std::string number = std::to_string(count_ + 1);
      const auto solid = [&](const std::string& called, double deep, double clearance) {
        return railSolid(wishes_.form, rail, box.low.x - beyond, box.high.x + beyond, deep, clearance,
                         name_ + called + number, progress);
      };
      const Shape peg = intersect({solid(":peg", wishes_.depth, 0), pieces_[mate]}, progress);
      if (peg.empty()) continue;
      pegs_[piece].push_back(peg);
      sockets_[mate].push_back(solid(":socket", wishes_.depth + wishes_.endRoom, wishes_.clearance));
      ++count_;
      ++added;
      const Point middle = face.middle();
      if (!firstEntry_) firstEntry_ = std::pair(middle + along.y * (at - along.coordinates(middle).y), along.normal);
    }
  }
  return added;
}

void KeyWork::addOne(std::size_t piece, std::size_t mate, const KeyForm& form, Point at, Vector way, double gap,
                     Progress& progress) {
  const Plane plane = Plane::through(at, way);
  const std::string number = std::to_string(++count_);
  // Sockets begin below the root of the peg: on a slanted face the piece across reaches down there beside it.
  const double root = std::min(wishes_.depth, form.width) / 2, below = 1.2 * root,
               deep = wishes_.depth + wishes_.endRoom;
  sockets_[mate].push_back(
      keySolid(form, plane, -below, gap + deep, wishes_.clearance, true, name_ + ":socket" + number, progress));
  if (wishes_.pins) {
    // As deep in this piece as in the other one.
    const Plane back = Plane::through(at, -way);
    sockets_[piece].push_back(
        keySolid(form, back, -below - gap, deep, wishes_.clearance, true, name_ + ":hole" + number, progress));
    pins_.push_back(pinOf(form, plane, gap, wishes_.depth, name_ + ":pin" + number, progress));
  } else {
    pegs_[piece].push_back(
        keySolid(form, plane, -root, gap + wishes_.depth, 0, false, name_ + ":peg" + number, progress));
  }
  if (!firstEntry_) firstEntry_ = std::pair(at + way * gap, way);
}

std::vector<Shape> KeyWork::socketsIn(std::size_t piece) const {
  const auto its = sockets_.find(piece);
  return its == sockets_.end() ? std::vector<Shape>() : its->second;
}

KeyWork::Finished KeyWork::finished(Progress& progress) const {
  Finished result{pieces_};
  for (std::size_t i = 0; i < result.pieces.size(); ++i) {
    Shape& shape = result.pieces[i];
    if (const auto pegs = pegs_.find(i); pegs != pegs_.end()) {
      std::vector<Shape> parts{shape};
      parts.insert(parts.end(), pegs->second.begin(), pegs->second.end());
      const Union joined = unite(parts, Seams::Keep, progress);
      shape = joined.shape;
      result.meshed = std::max(result.meshed, joined.meshed);
    }
    const std::vector<Shape> sockets = socketsIn(i);
    if (sockets.empty()) continue;
    const Division cut = divide(shape, sockets, progress);
    if (cut.inside.empty() || cut.outside.pieces().size() != shape.pieces().size())
      throw Error(say("the sockets would break piece %1", i + 1), "", say("Make pegs thinner or shorter"));
    shape = cut.outside;
    result.meshed = std::max(result.meshed, cut.meshed);
  }
  return result;
}

std::size_t overlapsAmong(const std::vector<Shape>& shapes, Progress& progress) {
  std::size_t overlaps = 0;
  for (std::size_t i = 0; i < shapes.size(); ++i)
    for (std::size_t k = i + 1; k < shapes.size(); ++k) {
      if (!shapes[i].roughBox().overlaps(shapes[k].roughBox())) continue;
      Shape other = shapes[k];
      if (shapes[i].mesh() || other.mesh()) {
        // Cut faces of meshes that lie in each other take long to intersect: a little apart they do not.
        constexpr double apart = 1e-3;
        const Vector way = other.roughBox().centre() - shapes[i].roughBox().centre();
        if (length(way) > apart) other = moved(other, Motion::by(normalized(way) * apart));
      }
      if (!intersect({shapes[i], other}, progress).empty()) ++overlaps;
    }
  return overlaps;
}

}  // namespace kervo
