#include "shop/nest.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <optional>
#include <set>

#include "base/error.h"
#include "base/parallel.h"
#include "base/say.h"
#include "shop/polygons.h"

namespace kervo {

namespace {

using ClipperLib::cInt;
using ClipperLib::IntPoint;
using ClipperLib::IntRect;
using ClipperLib::Path;
using ClipperLib::Paths;

constexpr int turns = 4;
/// mm that outlines may be simplified by, of the gap that parts keep; taken off the room.
double roughnessFor(double gap) {
  return std::clamp(0.08 * gap, 0.05, 0.5);
}

Paths shifted(Paths paths, IntPoint by) {
  for (Path& path : paths)
    for (IntPoint& point : path) {
      point.X += by.X;
      point.Y += by.Y;
    }
  return paths;
}

IntRect boundsOf(const Paths& paths) {
  ClipperLib::Clipper clipper;
  clipper.AddPaths(paths, ClipperLib::ptSubject, true);
  return clipper.GetBounds();
}

Paths turned(Paths paths, int quarters) {
  for (Path& path : paths)
    for (IntPoint& point : path)
      for (int i = 0; i < quarters; ++i) point = IntPoint(-point.Y, point.X);
  return paths;
}

/// A part in one of its turns.
struct Shape2 {
  Paths shape;    ///< the outline counter-clockwise, holes clockwise
  Path mirrored;  ///< its grown outline through the origin: −p for each of its points p
  IntRect box;
};

class Nester {
 public:
  Nester(const std::vector<NestedPart>& parts, const NestRoom& room, Progress& progress)
      : room_(room), roughness_(roughnessFor(room.gap)), progress_(progress) {
    shapes_.resize(parts.size());
    inParallel(parts.size(), [&](std::size_t i) { shapes_[i] = shapesOf(parts[i]); });
    std::map<std::vector<std::pair<cInt, cInt>>, std::size_t> known;
    for (std::size_t i = 0; i < parts.size(); ++i) alike_.push_back(known.try_emplace(pointsOf(i), i).first->second);
  }

  Nesting run() {
    std::vector<std::size_t> order(shapes_.size());
    for (std::size_t i = 0; i < order.size(); ++i) order[i] = i;
    std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
      return std::abs(ClipperLib::Area(shapes_[a][0].shape[0])) > std::abs(ClipperLib::Area(shapes_[b][0].shape[0]));
    });
    Nesting result;
    std::size_t done = 0;
    for (const std::size_t part : order) {
      progress_.report(static_cast<double>(done++) / static_cast<double>(order.size()));
      if (!fitsAtAll(part)) {
        result.tooLarge.push_back(part);
        continue;
      }
      for (std::size_t sheet = 0;; ++sheet) {
        if (sheet == sheets_.size()) sheets_.emplace_back();
        if (const auto place = bestOn(sheet, part)) {
          sheets_[sheet].push_back(*place);
          const PlanePoint by = fromGrid(place->at);
          PlaneMotion motion = PlaneMotion::turn({0, 0}, 0);
          for (int i = 0; i < place->turn; ++i) motion = {{-motion.x.v, motion.x.u}, {-motion.y.v, motion.y.u}, {}};
          motion.by = by;
          result.placed.push_back({part, sheet, motion});
          break;
        }
      }
    }
    result.sheets = sheets_.size();
    std::sort(result.tooLarge.begin(), result.tooLarge.end());
    return result;
  }

 private:
  struct Placed {
    std::size_t part = 0;
    int turn = 0;
    IntPoint at;
  };

  std::vector<Shape2> shapesOf(const NestedPart& part) const {
    Paths shape{polygonOf(part.outline, roughness_ / 2)};
    for (const FlatChain& hole : part.holes) shape.push_back(polygonOf(hole, roughness_ / 2));
    for (std::size_t i = 0; i < shape.size(); ++i) {
      ClipperLib::CleanPolygon(shape[i], roughness_ / 2 * perMillimetre);
      if (ClipperLib::Orientation(shape[i]) != (i == 0)) std::reverse(shape[i].begin(), shape[i].end());
    }
    std::erase_if(shape, [](const Path& path) { return path.size() < 3; });
    if (shape.empty()) throw Error(say("a part has no outline"), "", say("Leave it out"));
    std::vector<Shape2> result;
    for (int turn = 0; turn < turns; ++turn) {
      Shape2 one{turned(shape, turn), {}, {}};
      one.box = boundsOf(one.shape);
      // With pointed corners: never too near, and of few points.
      ClipperLib::ClipperOffset offset(2, perMillimetre * roughness_);
      offset.AddPath(one.shape[0], ClipperLib::jtMiter, ClipperLib::etClosedPolygon);
      Paths grown;
      offset.Execute(grown, (room_.gap + 2 * roughness_) * perMillimetre);
      one.mirrored = grown.empty() ? one.shape[0] : grown[0];
      for (IntPoint& point : one.mirrored) point = IntPoint(-point.X, -point.Y);
      result.push_back(std::move(one));
    }
    return result;
  }

  /// Where the part may be on an empty sheet.
  std::optional<IntRect> roomFor(const Shape2& shape) const {
    const auto edge = static_cast<cInt>(std::llround((room_.edge + roughness_) * perMillimetre));
    const IntRect free{edge - shape.box.left, edge - shape.box.top,
                       std::llround(room_.width * perMillimetre) - edge - shape.box.right,
                       std::llround(room_.height * perMillimetre) - edge - shape.box.bottom};
    return free.right >= free.left && free.bottom >= free.top ? std::optional(free) : std::nullopt;
  }
  bool fitsAtAll(std::size_t part) const {
    return std::any_of(shapes_[part].begin(), shapes_[part].end(),
                       [&](const Shape2& shape) { return roomFor(shape).has_value(); });
  }

  /// From its box, so that slices of one outline are one.
  std::vector<std::pair<cInt, cInt>> pointsOf(std::size_t part) const {
    const Shape2& shape = shapes_[part][0];
    std::vector<std::pair<cInt, cInt>> points;
    for (const Path& path : shape.shape)
      for (const IntPoint& point : path) points.emplace_back(point.X - shape.box.left, point.Y - shape.box.top);
    return points;
  }

  using Key = std::tuple<std::size_t, int, std::size_t, int>;
  /// Where a part may not be beside another one: both with their boxes' corners at the origin.
  Paths noFit(const Key& key) const {
    const auto& [part, turn, otherPart, otherTurn] = key;
    const Shape2& moving = shapes_[part][static_cast<std::size_t>(turn)];
    const Shape2& fixed = shapes_[otherPart][static_cast<std::size_t>(otherTurn)];
    Paths sweep;
    ClipperLib::MinkowskiSum(moving.mirrored, fixed.shape, sweep, true);
    ClipperLib::Clipper all;
    all.AddPaths(sweep, ClipperLib::ptSubject, true);
    // The sums of the borders do not cover the places where one part lies inside the other.
    for (const Path& path : fixed.shape)
      if (ClipperLib::Orientation(path)) all.AddPaths(shifted({moving.mirrored}, path[0]), ClipperLib::ptSubject, true);
    Paths both;
    all.Execute(ClipperLib::ctUnion, both, ClipperLib::pftNonZero, ClipperLib::pftNonZero);
    ClipperLib::ClipperOffset smaller;
    smaller.AddPaths(both, ClipperLib::jtMiter, ClipperLib::etClosedPolygon);
    Paths result;
    smaller.Execute(result, -1);
    return shifted(result, IntPoint(moving.box.left - fixed.box.left, moving.box.top - fixed.box.top));
  }
  Key keyOf(std::size_t part, int turn, const Placed& other) const {
    return {alike_[part], turn, alike_[other.part], other.turn};
  }
  /// Finds those of a part that are not known yet, side by side.
  void findNoFits(std::size_t sheet, std::size_t part) {
    std::set<Key> missing;
    for (int turn = 0; turn < turns; ++turn)
      for (const Placed& other : sheets_[sheet])
        if (const Key key = keyOf(part, turn, other); !noFits_.contains(key)) missing.insert(key);
    const std::vector<Key> keys(missing.begin(), missing.end());
    std::vector<Paths> found(keys.size());
    inParallel(keys.size(), [&](std::size_t i) {
      progress_.throwIfStopped();
      found[i] = noFit(keys[i]);
    });
    for (std::size_t i = 0; i < keys.size(); ++i) noFits_.emplace(keys[i], std::move(found[i]));
  }

  std::optional<Placed> bestOn(std::size_t sheet, std::size_t part) {
    findNoFits(sheet, part);
    std::vector<std::pair<double, Placed>> places;
    for (int turn = 0; turn < turns; ++turn) {
      progress_.throwIfStopped();
      const Shape2& shape = shapes_[part][static_cast<std::size_t>(turn)];
      const auto room = roomFor(shape);
      if (!room) continue;
      Paths free{
          {{room->left, room->top}, {room->right, room->top}, {room->right, room->bottom}, {room->left, room->bottom}}};
      if (room->left == room->right || room->top == room->bottom) {
        // Just as large as the sheet: a line or a point of places, which polygons do not hold.
        if (!sheets_[sheet].empty()) continue;
      } else if (!sheets_[sheet].empty()) {
        ClipperLib::Clipper taken;
        for (const Placed& other : sheets_[sheet]) {
          const Shape2& fixed = shapes_[other.part][static_cast<std::size_t>(other.turn)];
          const IntPoint by(other.at.X + fixed.box.left - shape.box.left, other.at.Y + fixed.box.top - shape.box.top);
          taken.AddPaths(shifted(noFits_.at(keyOf(part, turn, other)), by), ClipperLib::ptClip, true);
        }
        taken.AddPaths(free, ClipperLib::ptSubject, true);
        taken.Execute(ClipperLib::ctDifference, free, ClipperLib::pftNonZero, ClipperLib::pftNonZero);
      }
      for (const Path& path : free)
        for (const IntPoint& at : path) {
          // Narrow first, then low.
          const double score =
              static_cast<double>(at.X + shape.box.right) + 0.3 * static_cast<double>(at.Y + shape.box.bottom);
          places.emplace_back(score, Placed{part, turn, at});
        }
    }
    std::stable_sort(places.begin(), places.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    // Forbidden places of thin rings have been seen with gaps: each place is tried before it is taken.
    for (const auto& [score, place] : places)
      if (isFree(sheet, place)) return place;
    return std::nullopt;
  }

  /// Whether no other part is nearer than the gap.
  bool isFree(std::size_t sheet, const Placed& place) const {
    const auto lying = [&](const Placed& placed) {
      return shifted(shapes_[placed.part][static_cast<std::size_t>(placed.turn)].shape, placed.at);
    };
    const Paths own = grownBy(lying(place), room_.gap);
    const IntRect around = boundsOf(own);
    for (const Placed& other : sheets_[sheet]) {
      const Paths rest = lying(other);
      const IntRect box = boundsOf(rest);
      if (box.left > around.right || box.right < around.left || box.top > around.bottom || box.bottom < around.top)
        continue;
      progress_.throwIfStopped();
      ClipperLib::Clipper both;
      both.AddPaths(own, ClipperLib::ptSubject, true);
      both.AddPaths(rest, ClipperLib::ptClip, true);
      Paths common;
      both.Execute(ClipperLib::ctIntersection, common, ClipperLib::pftNonZero, ClipperLib::pftNonZero);
      if (areaOf(common) > 1e-6) return false;
    }
    return true;
  }

  const NestRoom& room_;
  double roughness_;
  Progress& progress_;
  std::vector<std::vector<Shape2>> shapes_;  ///< by part and turn
  std::vector<std::vector<Placed>> sheets_;
  std::vector<std::size_t> alike_;  ///< the first part of the same outlines
  std::map<Key, Paths> noFits_;
};

}  // namespace

Nesting nest(const std::vector<NestedPart>& parts, const NestRoom& room, Progress& progress) {
  if (!(room.width > 2 * room.edge) || !(room.height > 2 * room.edge))
    throw Error(say("the sheet has no room within its edges"), "",
                say("Give a larger sheet, or keep less from its edge"));
  return Nester(parts, room, progress).run();
}

}  // namespace kervo
