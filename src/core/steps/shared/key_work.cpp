#include "steps/shared/key_work.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/say.h"
#include "geom/divide/boolean.h"
#include "geom/motion.h"
#include "geom/surface/key_places.h"

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

/// How far its corners are from its axis, beside its sides.
double cornersOf(KeySection section) {
  switch (section) {
    case KeySection::Square:
      return std::numbers::sqrt2;
    case KeySection::Hexagonal:
      return 2 / std::numbers::sqrt3;
    case KeySection::Round:
      break;
  }
  return 1;
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
    : pieces_(std::move(pieces)), wishes_(wishes), name_(std::move(name)) {}

std::size_t KeyWork::add(std::size_t piece, const Face& face, const std::vector<std::size_t>& mates,
                         Progress& progress) {
  std::vector<Shape> shapes;
  for (const std::size_t mate : mates) shapes.push_back(pieces_[mate]);
  const double around = (wishes_.form.width / 2 + wishes_.clearance) * cornersOf(wishes_.form.section) + wishes_.wall;
  const Vector way = face.normal();
  const KeyRoom room(pieces_[piece], face, shapes, way, wishes_.depth + wishes_.endRoom, around);
  const std::vector<KeyPlace> places = KeyRoom::spread(room.everywhere(progress), wishes_.most, 2 * around);
  const bool ambiguous = wishes_.unique && places.size() > 1 && fitsTurned(places, way);
  for (std::size_t i = 0; i < places.size(); ++i) {
    KeyForm form = wishes_.form;
    constexpr double share = 0.75;
    if (ambiguous && i == 0) form.width = narrower_ = share * wishes_.form.width;
    addOne(piece, mates[places[i].mate], form, places[i].at, way, places[i].gap, progress);
  }
  return places.size();
}

void KeyWork::addOne(std::size_t piece, std::size_t mate, const KeyForm& form, Point at, Vector way, double gap,
                     Progress& progress) {
  const Plane plane = Plane::through(at, way);
  const std::string number = std::to_string(++count_);
  const double root = std::min(wishes_.depth, form.width) / 2, deep = wishes_.depth + wishes_.endRoom;
  sockets_[mate].push_back(
      keySolid(form, plane, -root / 2, gap + deep, wishes_.clearance, true, name_ + ":socket" + number, progress));
  if (wishes_.pins) {
    // As deep in this piece as in the other one.
    const Plane back = Plane::through(at, -way);
    sockets_[piece].push_back(
        keySolid(form, back, -root / 2 - gap, deep, wishes_.clearance, true, name_ + ":hole" + number, progress));
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

std::vector<Shape> KeyWork::finished(Progress& progress) const {
  std::vector<Shape> result = pieces_;
  for (std::size_t i = 0; i < result.size(); ++i) {
    Shape& shape = result[i];
    if (const auto pegs = pegs_.find(i); pegs != pegs_.end()) {
      std::vector<Shape> parts{shape};
      parts.insert(parts.end(), pegs->second.begin(), pegs->second.end());
      shape = unite(parts, Seams::Keep, progress).shape;
    }
    const std::vector<Shape> sockets = socketsIn(i);
    if (sockets.empty()) continue;
    const Division cut = divide(shape, sockets, progress);
    if (cut.inside.empty() || cut.outside.solidCount() != shape.solidCount())
      throw Error(say("the sockets would break piece %1", i + 1), "", say("Make pegs thinner or shorter"));
    shape = cut.outside;
  }
  return result;
}

std::size_t overlapsAmong(const std::vector<Shape>& shapes, Progress& progress) {
  std::size_t overlaps = 0;
  for (std::size_t i = 0; i < shapes.size(); ++i)
    for (std::size_t k = i + 1; k < shapes.size(); ++k)
      if (shapes[i].roughBox().overlaps(shapes[k].roughBox()) && !intersect({shapes[i], shapes[k]}, progress).empty())
        ++overlaps;
  return overlaps;
}

}  // namespace kervo
