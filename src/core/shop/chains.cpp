#include "shop/chains.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace kervo {

namespace {

/// Ends of curves by where they are.
class Ends {
 public:
  Ends(const std::vector<FlatCurve>& curves, double gap) : gap_(std::max(gap, 1e-9)) {
    for (std::size_t i = 0; i < curves.size(); ++i) {
      if (curves[i]->closed()) continue;
      for (const double t : {0.0, 1.0}) {
        const PlanePoint at = curves[i]->at(t);
        cells_[cellOf(at)].push_back({i, at});
      }
    }
  }
  /// The curve with the nearest end that is not used.
  std::optional<std::size_t> near(PlanePoint at, const std::vector<bool>& used) const {
    std::optional<std::size_t> best;
    double least = gap_;
    const auto [u, v] = cellOf(at);
    for (long long i = u - 1; i <= u + 1; ++i)
      for (long long j = v - 1; j <= v + 1; ++j)
        if (const auto found = cells_.find({i, j}); found != cells_.end())
          for (const auto& [curve, place] : found->second)
            if (!used[curve] && distance(place, at) <= least && (!best || distance(place, at) < least)) {
              best = curve;
              least = distance(place, at);
            }
    return best;
  }

 private:
  using Cell = std::pair<long long, long long>;
  Cell cellOf(PlanePoint at) const {
    return {static_cast<long long>(std::floor(at.u / gap_)), static_cast<long long>(std::floor(at.v / gap_))};
  }
  double gap_;
  std::map<Cell, std::vector<std::pair<std::size_t, PlanePoint>>> cells_;
};

}  // namespace

std::vector<FlatChain> chained(const std::vector<FlatCurve>& curves, double gap) {
  const Ends ends(curves, gap);
  std::vector<bool> used(curves.size(), false);
  std::vector<FlatChain> chains;
  for (std::size_t i = 0; i < curves.size(); ++i) {
    if (used[i]) continue;
    used[i] = true;
    if (curves[i]->closed()) {
      chains.push_back({curves[i]});
      continue;
    }
    // Forwards from its end, then backwards from its start.
    FlatChain chain{curves[i]};
    for (const bool forwards : {true, false}) {
      PlanePoint at = curves[i]->at(forwards ? 1 : 0);
      for (auto next = ends.near(at, used); next; next = ends.near(at, used)) {
        used[*next] = true;
        const FlatCurve& curve = curves[*next];
        at = distance(curve->at(0), at) <= distance(curve->at(1), at) ? curve->at(1) : curve->at(0);
        chain.insert(forwards ? chain.end() : chain.begin(), curve);
      }
    }
    chains.push_back(std::move(chain));
  }
  return chains;
}

double lengthOf(const FlatChain& chain) {
  double sum = 0;
  for (const FlatCurve& curve : chain) sum += curve->on({}).length();
  return sum;
}

FlatChain moved(const FlatChain& chain, const PlaneMotion& motion) {
  FlatChain result;
  result.reserve(chain.size());
  for (const FlatCurve& curve : chain) result.push_back(curve->moved(motion));
  return result;
}

}  // namespace kervo
