#include "geom/faces/alike_faces.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

#include "geom/tolerances.h"
#include "geom/topology.h"

namespace kervo {

namespace {

/// A face with what it is compared by.
struct Compared {
  Face face;
  std::string surface;
  double area;
  Point sample, middle;
  Vector normal;
  std::set<int> neighbours = {};  ///< places of faces in the same list
};

std::vector<Compared> comparedFaces(const Shape& shape) {
  std::vector<Compared> result;
  for (const Face& face : facesOf(shape))
    result.push_back({face, face.surfaceName(), face.area(), face.samplePoint(), face.middle(), face.normal()});
  // The two sides of an edge are told by names, and names by place.
  std::map<std::string, int> places;
  for (std::size_t i = 0; i < result.size(); ++i) places.emplace(result[i].face.origins().front(), static_cast<int>(i));
  for (const Edge& edge : edgesOf(shape)) {
    const auto at = [&](const std::vector<std::string>& names) {
      const auto found = names.empty() ? places.end() : places.find(names.front());
      return found == places.end() ? -1 : found->second;
    };
    const int one = at(edge.firstOrigins()), other = at(edge.secondOrigins());
    if (one < 0 || other < 0 || one == other) continue;
    result[static_cast<std::size_t>(one)].neighbours.insert(other);
    result[static_cast<std::size_t>(other)].neighbours.insert(one);
  }
  return result;
}

bool sameAreas(const Compared& a, const Compared& b) {
  return std::abs(a.area - b.area) <= tolerance::balance * std::max(a.area, b.area);
}

class Matching {
 public:
  Matching(const Shape& before, const Shape& now)
      : before_(comparedFaces(before)), now_(comparedFaces(now)), found_(now_.size(), 0), taken_(before_.size()) {}

  std::vector<int> result() {
    const bool anyInPlace = takeTheSame();
    const bool anyOnSurface = takePartsOfSurfaces();
    if (!anyInPlace && !anyOnSurface && takeInOrder()) return found_;
    // First those that still look the same way: the one of two that moved in parallel.
    for (const bool sameWay : {true, false})
      while (takeBetweenNeighbours(sameWay)) {
      }
    return found_;
  }

 private:
  void take(std::size_t now, std::size_t before) {
    found_[now] = static_cast<int>(before) + 1;
    taken_[before] = true;
  }

  /// Each with the one at the same place that is as large.
  bool takeTheSame() {
    bool any = false;
    for (std::size_t i = 0; i < now_.size(); ++i)
      for (std::size_t k = 0; k < before_.size(); ++k) {
        const Compared &a = before_[k], &b = now_[i];
        if (taken_[k] || a.surface != b.surface || !sameAreas(a, b)) continue;
        if (length(a.middle - b.middle) > tolerance::samplePoint || !facesAlong(a, b)) continue;
        take(i, k);
        any = true;
        break;
      }
    return any;
  }

  /// A face that lies on one of before, or under one: its outline changed, or it was divided.
  bool takePartsOfSurfaces() {
    bool any = false;
    const std::vector<bool> wasTaken = taken_;
    for (std::size_t i = 0; i < now_.size(); ++i) {
      if (found_[i]) continue;
      std::vector<std::size_t> fit;
      for (std::size_t k = 0; k < before_.size(); ++k) {
        const Compared &a = before_[k], &b = now_[i];
        if (wasTaken[k] || a.surface != b.surface || !a.face.onSameSurface(b.face)) continue;
        if (a.face.distanceTo(b.sample) < tolerance::samplePoint ||
            b.face.distanceTo(a.sample) < tolerance::samplePoint)
          fit.push_back(k);
      }
      if (fit.size() != 1) continue;
      take(i, fit.front());
      any = true;
    }
    return any;
  }

  /// A moved face: the only one left of its kind between the faces that were its neighbours.
  bool takeBetweenNeighbours(bool sameWay) {
    std::map<std::size_t, std::size_t> pairs;
    for (std::size_t i = 0; i < now_.size(); ++i) {
      if (found_[i]) continue;
      std::vector<std::size_t> fit;
      for (std::size_t k = 0; k < before_.size(); ++k)
        if (!taken_[k] && before_[k].surface == now_[i].surface && (!sameWay || looksAlike(before_[k], now_[i])) &&
            sharesNeighbours(k, i))
          fit.push_back(k);
      if (fit.size() == 1) pairs.emplace(i, fit.front());
    }
    bool any = false;
    for (const auto& [i, k] : pairs) {
      const bool alone =
          std::count_if(pairs.begin(), pairs.end(), [&, k = k](const auto& p) { return p.second == k; }) == 1;
      if (!alone) continue;
      take(i, k);
      any = true;
    }
    return any;
  }

  /// All that is known of one's neighbours is known of the other's, it is something, and no other says otherwise.
  bool sharesNeighbours(std::size_t before, std::size_t now) const {
    std::set<int> known;
    for (const int neighbour : now_[now].neighbours)
      if (const int found = found_[static_cast<std::size_t>(neighbour)]) known.insert(found - 1);
    std::set<int> wanted;
    for (const int neighbour : before_[before].neighbours)
      if (taken_[static_cast<std::size_t>(neighbour)]) wanted.insert(neighbour);
    constexpr std::size_t telling = 2;
    return known == wanted && known.size() >= std::min(telling, before_[before].neighbours.size()) && !known.empty();
  }

  /// The whole body moved.
  bool takeInOrder() {
    if (before_.size() != now_.size()) return false;
    for (std::size_t i = 0; i < now_.size(); ++i)
      if (before_[i].surface != now_[i].surface || !sameAreas(before_[i], now_[i])) return false;
    for (std::size_t i = 0; i < now_.size(); ++i) take(i, i);
    return true;
  }

  /// Planes that look the same way, and other surfaces about parallel axes, as large as before.
  static bool looksAlike(const Compared& a, const Compared& b) {
    if (a.surface == "plane") return dot(a.normal, b.normal) > 1 - tolerance::sameDirection;
    const auto one = a.face.axis(), other = b.face.axis();
    if (one && other && length(cross(one->direction, other->direction)) > tolerance::sameDirection) return false;
    return sameAreas(a, b);
  }

  /// Both look to the same side, where a place has one.
  static bool facesAlong(const Compared& a, const Compared& b) {
    if (a.surface == "plane") return dot(a.normal, b.normal) > 1 - tolerance::sameDirection;
    return a.face.distanceTo(b.sample) < tolerance::samplePoint;
  }

  std::vector<Compared> before_, now_;
  std::vector<int> found_;
  std::vector<bool> taken_;
};

}  // namespace

std::vector<int> facesAlike(const Shape& before, const Shape& now) {
  if (before.mesh() || now.mesh() || before.empty() || now.empty()) return {};
  return Matching(renamed(before, "before:face"), renamed(now, "now:face")).result();
}

}  // namespace kervo
