#include "geom/surface/loft_guides.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "base/quantity.h"
#include "base/say.h"
#include "geom/curves/curve_chains.h"
#include "geom/kernel/shape_body.h"

namespace kervo {

namespace {

/// A guide that passes a section at more than this misses it, mm.
constexpr double meets = 1e-3;

EdgeWalk walkAlong(const Shape& curve) {
  std::vector<Border> edges;
  for (TopExp_Explorer it(curve.body().topology, TopAbs_EDGE); it.More(); it.Next())
    edges.push_back({TopoDS::Edge(it.Current()), {}});
  return EdgeWalk(edges);
}

/// The share of a walk that comes nearest to another one, and how near.
std::pair<double, double> nearestTo(const EdgeWalk& walk, const EdgeWalk& other) {
  constexpr int asked = 64;
  const auto apart = [&](double share) {
    const Point at = walk.pointAt(share);
    return distance(at, other.pointAt(other.nearest(at)));
  };
  double best = 0, least = Box::infinity;
  for (int i = 0; i <= asked; ++i) {
    const double share = static_cast<double>(i) / asked;
    if (const double now = apart(share); now < least) least = now, best = share;
  }
  // By halving steps from there.
  constexpr int halvings = 27;
  double step = 1.0 / asked;
  for (int halving = 0; halving < halvings; ++halving, step /= 2)
    for (const double next : {best - step, best + step}) {
      if (next < 0 || next > 1) continue;
      if (const double now = apart(next); now < least) least = now, best = next;
    }
  return {best, least};
}

/// A guide this near to a corner, as a share of the section, meets it there.
constexpr double atCorner = 1e-6;

/// The common place at which a walk is at a share of it.
double placeOfShare(const MatchedWalks& walks, std::size_t number, double share) {
  double low = 0, high = 1;
  for (int halving = 0; halving < 50; ++halving) {
    const double middle = (low + high) / 2;
    (walks.shareOf(number, middle) < share ? low : high) = middle;
  }
  return (low + high) / 2;
}

}  // namespace

RisingCurve::RisingCurve(std::vector<double> at, std::vector<double> values)
    : at_(std::move(at)), values_(std::move(values)), slopes_(at_.size(), 0.0) {
  std::vector<double> steep;
  for (std::size_t i = 0; i + 1 < at_.size(); ++i)
    steep.push_back((values_[i + 1] - values_[i]) / (at_[i + 1] - at_[i]));
  for (std::size_t i = 0; i < at_.size(); ++i) {
    if (i == 0 || i + 1 == at_.size())
      slopes_[i] = steep[i == 0 ? 0 : i - 1];
    else if (steep[i - 1] + steep[i] > 0)
      slopes_[i] = 2 * steep[i - 1] * steep[i] / (steep[i - 1] + steep[i]);
  }
}

double RisingCurve::operator()(double x) const {
  if (x <= at_.front()) return values_.front();
  if (x >= at_.back()) return values_.back();
  const auto next = static_cast<std::size_t>(std::upper_bound(at_.begin(), at_.end(), x) - at_.begin());
  const double h = at_[next] - at_[next - 1], t = (x - at_[next - 1]) / h;
  const double s = 1 - t;
  return values_[next - 1] * s * s * (1 + 2 * t) + values_[next] * t * t * (3 - 2 * t) +
         h * (slopes_[next - 1] * s * s * t - slopes_[next] * t * t * s);
}

LoftGuides::LoftGuides(const Shape& guides, const MatchedWalks& walks,
                       const std::vector<std::optional<std::size_t>>& sections, const std::vector<Point>& points,
                       const std::vector<double>& parameters) {
  const std::vector<CurveChain> chains = guides.empty() ? std::vector<CurveChain>() : chainsOf(guides);
  struct Found {
    EdgeWalk walk;
    std::vector<double> onGuide, onSections;
  };
  std::vector<Found> all;
  for (const CurveChain& chain : chains) {
    EdgeWalk walk = walkAlong(bodyOf({chain}));
    if (walk.closed())
      throw Error(say("a guide is closed, and a guide leads from section to section"), "", say("Choose open curves"));
    Found found{walk, {}, {}};
    for (int way = 0; way < 2; ++way) {
      found = {way == 0 ? walk : walk.reversed(), {}, {}};
      for (std::size_t i = 0; i < sections.size(); ++i) {
        double share = 0, apart = 0, onSection = 0;
        if (const std::optional<std::size_t>& number = sections[i]) {
          const EdgeWalk& section = walks.walk(*number);
          std::tie(share, apart) = nearestTo(found.walk, section);
          onSection = placeOfShare(walks, *number, section.nearest(found.walk.pointAt(share)));
        } else {
          share = found.walk.nearest(points[i]);
          apart = distance(found.walk.pointAt(share), points[i]);
        }
        if (apart > meets)
          throw Error(say("a guide passes section %1 at %2 mm", i + 1, formatNumber(apart, 3)), "",
                      say("Let each guide meet every section"));
        found.onGuide.push_back(share);
        found.onSections.push_back(onSection);
      }
      if (found.onGuide.back() > found.onGuide.front()) break;
    }
    if (!std::is_sorted(found.onGuide.begin(), found.onGuide.end()))
      throw Error(say("a guide does not meet the sections in their order"), "", say("Reorder the sections"));
    all.push_back(std::move(found));
  }
  std::sort(all.begin(), all.end(), [](const Found& a, const Found& b) { return a.onSections[0] < b.onSections[0]; });
  closed_ = walks.walk(0).closed();
  const auto reference = static_cast<std::size_t>(
      std::find(sections.begin(), sections.end(), std::optional<std::size_t>(0)) - sections.begin());
  for (std::size_t i = 0; i < sections.size(); ++i) {
    // Corners of the sections stay where they are.
    std::map<double, double> fixed;
    for (const double corner : walks.breaks()) fixed[corner] = corner;
    for (const Found& found : all) {
      const double place = found.onSections[reference], here = sections[i] ? found.onSections[i] : place;
      const auto near = [&](const auto& each) { return std::abs(each.first - place) < atCorner; };
      if (std::none_of(fixed.begin(), fixed.end(), near)) fixed[place] = here;
    }
    std::vector<double> at, values;
    for (const auto& [place, here] : fixed) {
      if (!values.empty() && here <= values.back())
        throw Error(say("guides meet section %1 in another order than the first one, or beyond a corner", i + 1), "",
                    say("Let guides not cross each other, and keep them between the same corners"));
      at.push_back(place);
      values.push_back(here);
    }
    places_.emplace_back(at, values);
  }
  for (const Found& found : all)
    guides_.push_back({found.walk, found.onSections[reference], RisingCurve(parameters, found.onGuide)});
}

Point LoftGuides::at(std::size_t guide, double along) const {
  return guides_[guide].walk.pointAt(guides_[guide].shares(along));
}

std::vector<double> LoftGuides::weightsAt(double place) const {
  std::vector<double> weights(guides_.size(), 0.0);
  if (guides_.empty()) return weights;
  const auto next = static_cast<std::size_t>(
      std::upper_bound(guides_.begin(), guides_.end(), place, [](double x, const Guide& g) { return x < g.place; }) -
      guides_.begin());
  const std::size_t last = guides_.size() - 1;
  if (guides_.size() == 1 || (!closed_ && (next == 0 || next > last))) {
    weights[next == 0 ? 0 : next - 1] = 1;
    return weights;
  }
  const std::size_t a = next == 0 ? last : next - 1, b = next > last ? 0 : next;
  const double from = guides_[a].place - (next == 0 ? 1 : 0), to = guides_[b].place + (next > last ? 1 : 0);
  const double t = (place - from) / (to - from);
  weights[b] = t * t * t * (10 - 15 * t + 6 * t * t);
  weights[a] = 1 - weights[b];
  return weights;
}

}  // namespace kervo
