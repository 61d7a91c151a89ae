#include "model/compare.h"

#include <algorithm>
#include <cmath>

#include "base/say.h"
#include "geom/divide/boolean.h"
#include "geom/tolerances.h"
#include "geom/topology.h"

namespace kervo {

namespace {

double volumeOf(const Box& box) {
  if (box.empty()) return 0;
  const Vector size = box.high - box.low;
  return size.x * size.y * size.z;
}

/// The share of two boxes that both have.
double inCommon(const Box& a, const Box& b) {
  if (!a.overlaps(b)) return 0;
  const Box both{{std::max(a.low.x, b.low.x), std::max(a.low.y, b.low.y), std::max(a.low.z, b.low.z)},
                 {std::min(a.high.x, b.high.x), std::min(a.high.y, b.high.y), std::min(a.high.z, b.high.z)}};
  const double shared = volumeOf(both), all = volumeOf(a) + volumeOf(b) - shared;
  return all > 0 ? shared / all : 0;
}

/// Which of the earlier bodies a later one was; -1 for none.
class Partners {
 public:
  Partners(const std::vector<Body>& before, const std::vector<Body>& after)
      : before_(before), after_(after), of_(after.size(), -1), taken_(before.size(), false) {
    take([](const Body& a, const Body& b) { return a.id == b.id; });
    take([](const Body& a, const Body& b) { return !a.name.empty() && a.name == b.name; });
    takeNearest();
  }

  int of(std::size_t after) const { return of_[after]; }
  bool taken(std::size_t before) const { return taken_[before]; }

 private:
  template <class Rule>
  void take(Rule&& same) {
    for (std::size_t a = 0; a < after_.size(); ++a)
      for (std::size_t b = 0; of_[a] < 0 && b < before_.size(); ++b)
        if (!taken_[b] && same(after_[a], before_[b])) join(a, b);
  }

  void takeNearest() {
    constexpr double half = 0.5;
    struct Pair {
      double share;
      std::size_t a, b;
    };
    std::vector<Pair> pairs;
    for (std::size_t a = 0; a < after_.size(); ++a)
      for (std::size_t b = 0; b < before_.size(); ++b)
        if (of_[a] < 0 && !taken_[b])
          if (const double share = inCommon(after_[a].form.roughBox(), before_[b].form.roughBox()); share > half)
            pairs.push_back({share, a, b});
    std::stable_sort(pairs.begin(), pairs.end(), [](const Pair& x, const Pair& y) { return x.share > y.share; });
    for (const Pair& pair : pairs)
      if (of_[pair.a] < 0 && !taken_[pair.b]) join(pair.a, pair.b);
  }

  void join(std::size_t a, std::size_t b) {
    of_[a] = static_cast<int>(b);
    taken_[b] = true;
  }

  const std::vector<Body>&before_, &after_;
  std::vector<int> of_;
  std::vector<bool> taken_;
};

/// Whether every face of one is found in the other, on the same surface and as large.
bool sameFaces(const Shape& a, const Shape& b) {
  const std::vector<Face> one = facesOf(a);
  std::vector<Face> other = facesOf(b);
  if (one.size() != other.size()) return false;
  const double reach = tolerance::point;
  const auto near = [](double x, double y, double size) { return std::abs(x - y) <= tolerance::relative * size; };
  for (const Face& face : one) {
    const auto same = std::find_if(other.begin(), other.end(), [&](const Face& each) {
      return near(face.area(), each.area(), face.area()) && distance(face.middle(), each.middle()) <= reach &&
             face.surfaceName() == each.surfaceName() && each.distanceTo(face.samplePoint()) <= reach;
    });
    if (same == other.end()) return false;
    other.erase(same);
  }
  return true;
}

void measure(BodyChange& change, Progress& progress) {
  const Shape *before = change.before.shape(), *after = change.after.shape();
  if (!before || !after) {
    const bool alike = change.before.kind() == change.after.kind() &&
                       std::abs(change.areaBefore - change.areaAfter) <= tolerance::relative * change.areaAfter &&
                       change.before.volume() == change.after.volume() && change.before.box() == change.after.box();
    if (alike) {
      change.how = BodyChange::How::Same;
      return;
    }
    change.unknown = Error(say("meshes are compared by their sizes only"));
    return;
  }
  if (sameFaces(*before, *after)) {
    change.how = BodyChange::How::Same;
    return;
  }
  if (before->kind() != BodyKind::Solid || after->kind() != BodyKind::Solid) {
    change.unknown = Error(say("only solids have material to compare"));
    return;
  }
  try {
    const Division later = divide(*after, {*before}, progress), earlier = divide(*before, {*after}, progress);
    change.added = later.outside;
    change.common = later.inside;
    change.removed = earlier.outside;
    change.volumeAdded = change.added.empty() ? 0 : change.added.volume();
    change.volumeRemoved = change.removed.empty() ? 0 : change.removed.volume();
    const double least = tolerance::balance * std::max(before->volume(), after->volume());
    if (change.volumeAdded <= least && change.volumeRemoved <= least) change.how = BodyChange::How::Same;
  } catch (const Error& error) {
    progress.throwIfStopped();
    change.unknown = error;
  }
}

}  // namespace

std::vector<BodyChange> compareBodies(const std::vector<Body>& before, const std::vector<Body>& after,
                                      Progress& progress) {
  const Partners partners(before, after);
  std::vector<BodyChange> result;
  for (std::size_t i = 0; i < after.size(); ++i) {
    progress.throwIfStopped();
    progress.enter(static_cast<double>(i) / static_cast<double>(after.size()),
                   static_cast<double>(i + 1) / static_cast<double>(after.size()), say("Comparing %1", after[i].name));
    BodyChange& change = result.emplace_back();
    change.id = after[i].id;
    change.name = after[i].name;
    change.after = after[i].form;
    change.areaAfter = after[i].form.area();
    const int partner = partners.of(i);
    if (partner < 0) {
      change.how = BodyChange::How::Added;
      if (const Shape* shape = change.after.shape()) change.added = *shape;
      change.volumeAdded = change.after.volume();
      continue;
    }
    change.before = before[static_cast<std::size_t>(partner)].form;
    change.areaBefore = change.before.area();
    if (change.before.identity() == change.after.identity()) continue;
    change.how = BodyChange::How::Changed;
    measure(change, progress);
  }
  for (std::size_t i = 0; i < before.size(); ++i) {
    if (partners.taken(i)) continue;
    BodyChange& change = result.emplace_back();
    change.how = BodyChange::How::Removed;
    change.id = before[i].id;
    change.name = before[i].name;
    change.before = before[i].form;
    change.areaBefore = before[i].form.area();
    if (const Shape* shape = change.before.shape()) change.removed = *shape;
    change.volumeRemoved = change.before.volume();
  }
  return result;
}

}  // namespace kervo
