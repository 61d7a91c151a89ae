#include "geom/spline.h"

#include <Eigen/SparseLU>
#include <algorithm>
#include <array>

namespace kervo {

namespace {

/// A pole times its weight, and the weight.
struct Heavy {
  double u = 0, v = 0, w = 0;
};

Heavy mixed(const Heavy& a, double timesA, const Heavy& b, double timesB) {
  return {a.u * timesA + b.u * timesB, a.v * timesA + b.v * timesB, a.w * timesA + b.w * timesB};
}

/// The knot span that holds t: knots[i] ≤ t < knots[i + 1], at the end the last one.
std::size_t spanAt(const std::vector<double>& knots, std::size_t degree, std::size_t poles, double t) {
  const auto first = knots.begin() + static_cast<std::ptrdiff_t>(degree);
  const auto last = knots.begin() + static_cast<std::ptrdiff_t>(poles);
  const auto above = std::upper_bound(first, last, t);
  return static_cast<std::size_t>(std::max(above, first + 1) - knots.begin()) - 1;
}

/// The values of the degree + 1 basis functions that are not zero in a span (de Boor's recurrence).
std::vector<double> basis(const std::vector<double>& knots, int degree, std::size_t span, double t) {
  std::vector<double> values(static_cast<std::size_t>(degree) + 1, 0);
  values[0] = 1;
  for (std::size_t k = 1; k <= static_cast<std::size_t>(degree); ++k) {
    double carried = 0;
    for (std::size_t r = 0; r < k; ++r) {
      const double high = knots[span + r + 1], low = knots[span + 1 + r - k];
      const double share = high > low ? values[r] / (high - low) : 0;
      values[r] = carried + (high - t) * share;
      carried = (t - low) * share;
    }
    values[k] = carried;
  }
  return values;
}

/// A value of a span's polar form (Ramshaw): de Boor's recurrence with another argument on each level.
Heavy polar(const std::vector<Heavy>& poles, const std::vector<double>& knots, std::size_t degree, std::size_t span,
            const std::vector<double>& at) {
  std::vector<Heavy> level(poles.begin() + static_cast<std::ptrdiff_t>(span - degree),
                           poles.begin() + static_cast<std::ptrdiff_t>(span + 1));
  for (std::size_t k = 1; k <= degree; ++k)
    for (std::size_t i = 0; i + k <= degree; ++i) {
      const double low = knots[span - degree + i + k], high = knots[span + 1 + i];
      const double share = (at[k - 1] - low) / (high - low);
      level[i] = mixed(level[i], 1 - share, level[i + 1], share);
    }
  return level[0];
}

}  // namespace

Spline::Spline(int degree, std::vector<double> knots, std::vector<PlanePoint> poles, std::vector<double> weights,
               bool closed)
    : degree_(degree),
      knots_(std::move(knots)),
      poles_(std::move(poles)),
      weights_(std::move(weights)),
      closed_(closed) {
  if (weights_.empty()) weights_.assign(poles_.size(), 1);
  const double from = knots_[static_cast<std::size_t>(degree_)], length = knots_[poles_.size()] - from;
  for (double& knot : knots_) knot = (knot - from) / length;
  if (!closed_) return;
  clamp();
  poles_.back() = poles_.front();
}

/// Knots are inserted where the curve begins and ends (Boehm) until it goes through poles there.
void Spline::clamp() {
  const auto degree = static_cast<std::size_t>(degree_);
  std::vector<Heavy> heavy;
  for (std::size_t i = 0; i < poles_.size(); ++i)
    heavy.push_back({poles_[i].u * weights_[i], poles_[i].v * weights_[i], weights_[i]});
  // Knots are as far apart as spans are, so that those at an end are told from their neighbours.
  const auto isAt = [](double knot, double end) { return std::abs(knot - end) < tolerance::rounding; };
  for (const double end : {0.0, 1.0}) {
    for (double& knot : knots_)
      if (isAt(knot, end)) knot = end;
    while (static_cast<std::size_t>(std::count(knots_.begin(), knots_.end(), end)) < degree) {
      const auto span =
          static_cast<std::size_t>(std::upper_bound(knots_.begin(), knots_.end(), end) - knots_.begin()) - 1;
      std::vector<Heavy> next;
      for (std::size_t i = 0; i <= heavy.size(); ++i) {
        if (i + degree <= span) {
          next.push_back(heavy[i]);
        } else if (i > span) {
          next.push_back(heavy[i - 1]);
        } else {
          const double share = (end - knots_[i]) / (knots_[i + degree] - knots_[i]);
          next.push_back(mixed(heavy[i - 1], 1 - share, heavy[i], share));
        }
      }
      heavy = std::move(next);
      knots_.insert(knots_.begin() + static_cast<std::ptrdiff_t>(span) + 1, end);
    }
  }
  const auto inner = std::upper_bound(knots_.begin(), knots_.end(), 0.0);
  const auto last = std::find(knots_.begin(), knots_.end(), 1.0);
  std::vector<double> knots(degree + 1, 0.0);
  knots.insert(knots.end(), inner, last);
  knots.insert(knots.end(), degree + 1, 1.0);
  const auto start = static_cast<std::size_t>(inner - knots_.begin()) - 1 - degree;
  const auto end = static_cast<std::size_t>(last - knots_.begin());
  knots_ = std::move(knots);
  poles_.clear();
  weights_.clear();
  for (std::size_t i = start; i < end; ++i) {
    poles_.push_back({heavy[i].u / heavy[i].w, heavy[i].v / heavy[i].w});
    weights_.push_back(heavy[i].w);
  }
}

Spline Spline::controlled(int degree, const std::vector<PlanePoint>& points, const std::vector<double>& weights,
                          bool closed) {
  std::vector<PlanePoint> poles = points;
  std::vector<double> heavy = weights;
  const auto order = static_cast<std::size_t>(degree);
  if (closed) {
    for (std::size_t i = 0; i < order; ++i) poles.push_back(points[i % points.size()]);
    for (std::size_t i = 0; i < order && !weights.empty(); ++i) heavy.push_back(weights[i % points.size()]);
  }
  std::vector<double> knots;
  const std::size_t spans = poles.size() - order;
  for (std::size_t i = 0; i < poles.size() + order + 1; ++i) {
    const double uniform = static_cast<double>(i) - static_cast<double>(order);
    knots.push_back(closed ? uniform : std::clamp(uniform, 0.0, static_cast<double>(spans)));
  }
  return {degree, std::move(knots), std::move(poles), std::move(heavy), closed};
}

Spline Spline::of(int degree, std::vector<double> knots, std::vector<PlanePoint> poles, std::vector<double> weights,
                  bool closed) {
  Spline spline(degree, std::move(knots), std::move(poles), std::move(weights), false);
  const auto order = static_cast<std::size_t>(degree) + 1;
  if (spline.knots_[0] != spline.knots_[order - 1] || spline.knots_.back() != spline.knots_[spline.poles_.size()])
    spline.clamp();
  spline.closed_ = closed;
  if (closed) spline.poles_.back() = spline.poles_.front();
  return spline;
}

Spline Spline::through(const std::vector<PlanePoint>& points, bool closed) {
  if (points.size() == 2) return controlled(1, points, {}, false);
  const std::size_t count = points.size();
  std::vector<double> at{0};
  for (std::size_t i = 1; i < count + (closed ? 1 : 0); ++i)
    at.push_back(at.back() + std::max(distance(points[i - 1], points[i % count]), tolerance::point));
  const std::size_t spans = at.size() - 1;

  std::vector<double> knots;
  const auto knotAt = [&](std::ptrdiff_t i) {
    const auto n = static_cast<std::ptrdiff_t>(spans);
    if (!closed) return at[static_cast<std::size_t>(std::clamp<std::ptrdiff_t>(i, 0, n))];
    const std::ptrdiff_t round = i < 0 ? -1 : i > n ? 1 : 0;
    return at[static_cast<std::size_t>(i - round * n)] + static_cast<double>(round) * at.back();
  };
  for (std::ptrdiff_t i = -3; i <= static_cast<std::ptrdiff_t>(spans) + 3; ++i) knots.push_back(knotAt(i));

  // At each knot three basis functions are not zero.
  const std::size_t unknowns = closed ? count : count + 2;
  std::vector<Eigen::Triplet<double>> entries;
  Eigen::MatrixX2d wanted = Eigen::MatrixX2d::Zero(static_cast<Eigen::Index>(unknowns), 2);
  const auto enter = [&](std::size_t row, std::size_t pole, double value) {
    if (value != 0)
      entries.emplace_back(static_cast<int>(row), static_cast<int>(pole < unknowns ? pole : pole - unknowns), value);
  };
  for (std::size_t i = 0; i < count; ++i) {
    const std::size_t span = std::min(i, spans - 1) + 3;
    const std::vector<double> values = basis(knots, 3, span, at[i]);
    for (std::size_t k = 0; k < 4; ++k) enter(i, span - 3 + k, values[k]);
    wanted.row(static_cast<Eigen::Index>(i)) << points[i].u, points[i].v;
  }
  if (!closed) {
    // The second derivative at knot 3 + i is 2(Q₁ − Q₀)/(t₁ − t₋₁), of the poles Q of the first derivative.
    const auto second = [&](std::size_t row, std::size_t i, double times) {
      const auto slope = [&](std::size_t k, double by) {
        const double width = knots[k + 4] - knots[k + 1];
        enter(row, k + 1, by / width);
        enter(row, k, -by / width);
      };
      const double width = knots[i + 4] - knots[i + 2];
      slope(i + 1, times / width);
      slope(i, -times / width);
    };
    // In the first and in the last span it stays the same.
    for (const auto& [row, i] : {std::pair(count, std::size_t{0}), {count + 1, spans - 1}}) {
      second(row, i, 1);
      second(row, i + 1, -1);
    }
  }
  Eigen::SparseMatrix<double> matrix(static_cast<Eigen::Index>(unknowns), static_cast<Eigen::Index>(unknowns));
  matrix.setFromTriplets(entries.begin(), entries.end());
  Eigen::SparseLU<Eigen::SparseMatrix<double>> solver(matrix);
  const Eigen::MatrixX2d solved = solver.solve(wanted);
  std::vector<PlanePoint> poles;
  for (std::size_t i = 0; i < unknowns + (closed ? 3 : 0); ++i) {
    const auto row = static_cast<Eigen::Index>(i < unknowns ? i : i - unknowns);
    poles.push_back({solved(row, 0), solved(row, 1)});
  }
  return {3, std::move(knots), std::move(poles), {}, closed};
}

double Spline::Frame::curvature() const {
  const double speed = kervo::length(first);
  return cross(first, second) / (speed * speed * speed);
}

Spline::Frame Spline::frame(double t) const {
  const auto degree = static_cast<std::size_t>(degree_);
  const std::size_t span = spanAt(knots_, degree, poles_.size(), t);
  // Derivatives of a B-spline are B-splines of the differences of its poles.
  std::vector<Heavy> poles;
  for (std::size_t i = span - degree; i <= span; ++i)
    poles.push_back({poles_[i].u * weights_[i], poles_[i].v * weights_[i], weights_[i]});
  std::array<Heavy, 3> derived{};
  for (std::size_t k = 0; k < 3 && k <= degree; ++k) {
    const std::vector<double> values = basis(knots_, degree_ - static_cast<int>(k), span, t);
    for (std::size_t i = 0; i < poles.size(); ++i) derived[k] = mixed(derived[k], 1, poles[i], values[i]);
    std::vector<Heavy> next;
    const std::size_t order = degree - k;
    for (std::size_t i = 0; i + 1 < poles.size(); ++i) {
      const double width = knots_[span + 1 + i] - knots_[span + 1 + i - order];
      const double times = static_cast<double>(order) / width;
      next.push_back(mixed(poles[i + 1], times, poles[i], -times));
    }
    poles = std::move(next);
  }
  const auto& [place, first, second] = derived;
  Frame frame;
  frame.at = {place.u / place.w, place.v / place.w};
  frame.first = {(first.u - frame.at.u * first.w) / place.w, (first.v - frame.at.v * first.w) / place.w};
  frame.second = {(second.u - 2 * frame.first.u * first.w - frame.at.u * second.w) / place.w,
                  (second.v - 2 * frame.first.v * first.w - frame.at.v * second.w) / place.w};
  return frame;
}

Spline Spline::followedBy(const Spline& next, double share, double nextShare) const {
  const auto order = static_cast<std::ptrdiff_t>(degree_) + 1;
  std::vector<double> knots;
  for (const double knot : knots_) knots.push_back(knot * share);
  knots.pop_back();
  for (auto knot = next.knots_.begin() + order; knot != next.knots_.end(); ++knot)
    knots.push_back(share + *knot * nextShare);
  std::vector<PlanePoint> poles = poles_;
  poles.insert(poles.end(), next.poles_.begin() + 1, next.poles_.end());
  std::vector<double> weights = weights_;
  const double scale = weights_.back() / next.weights_.front();
  for (std::size_t i = 1; i < next.weights_.size(); ++i) weights.push_back(next.weights_[i] * scale);
  Spline both = of(degree_, std::move(knots), std::move(poles), std::move(weights), false);
  // The knot at the seam comes no more often than it must, so that the curve is as smooth as it looks.
  const double seam = share / (share + nextShare);
  for (int times = 1; times < degree_; ++times) {
    std::vector<double> fewer;
    int kept = 0;
    for (const double knot : both.knots_)
      if (std::abs(knot - seam) > tolerance::rounding || ++kept <= times) fewer.push_back(knot);
    const Spline smooth = both.withKnots(fewer);
    constexpr int samples = 64;
    double off = 0;
    for (int i = 0; i <= samples; ++i)
      off = std::max(off, distance(smooth.at(i / double{samples}), both.at(i / double{samples})));
    if (off < tolerance::direction) return smooth;
  }
  return both;
}

Spline Spline::reversed() const {
  std::vector<double> knots;
  for (auto knot = knots_.rbegin(); knot != knots_.rend(); ++knot) knots.push_back(1 - *knot);
  return of(degree_, std::move(knots), {poles_.rbegin(), poles_.rend()}, {weights_.rbegin(), weights_.rend()}, closed_);
}

Spline Spline::withKnots(std::vector<double> knots) const {
  const auto degree = static_cast<std::size_t>(degree_);
  std::vector<Heavy> heavy;
  for (std::size_t i = 0; i < poles_.size(); ++i)
    heavy.push_back({poles_[i].u * weights_[i], poles_[i].v * weights_[i], weights_[i]});
  std::vector<PlanePoint> poles;
  std::vector<double> weights;
  for (std::size_t pole = 0; pole + degree + 1 < knots.size(); ++pole) {
    // Any span under a pole says where it is.
    std::size_t under = pole;
    while (knots[under + 1] - knots[under] < tolerance::rounding) ++under;
    const double middle = std::min((knots[under] + knots[under + 1]) / 2, 1.0);
    const std::size_t span = spanAt(knots_, degree, poles_.size(), middle);
    std::vector<double> at;
    for (std::size_t k = 1; k <= degree; ++k) at.push_back(knots[pole + k]);
    const Heavy value = polar(heavy, knots_, degree, span, at);
    poles.push_back({value.u / value.w, value.v / value.w});
    weights.push_back(value.w);
  }
  return of(degree_, std::move(knots), std::move(poles), std::move(weights), false);
}

Spline Spline::lengthened(bool atEnd, double by) const {
  if (!atEnd) return reversed().lengthened(true, by).reversed();
  std::vector<double> knots = knots_;
  std::fill(knots.end() - degree_ - 1, knots.end(), 1 + by);
  return withKnots(std::move(knots));
}

Spline Spline::part(double from, double to) const {
  if (to > 1 + tolerance::rounding) {
    if (from > 1 - tolerance::rounding) return part(0, to - 1);
    return part(from, 1).followedBy(part(0, to - 1), 1 - from, to - 1);
  }
  // Knots are put in (Boehm) until both ends count as often as the degree: the poles between are the stretch's own.
  const auto degree = static_cast<std::size_t>(degree_);
  std::vector<double> knots = knots_;
  std::vector<Heavy> heavy;
  for (std::size_t i = 0; i < poles_.size(); ++i)
    heavy.push_back({poles_[i].u * weights_[i], poles_[i].v * weights_[i], weights_[i]});
  for (double end : {from, to}) {
    for (const double knot : knots_)
      if (std::abs(knot - end) < tolerance::rounding) end = knot;
    if (end <= 0 || end >= 1) continue;
    while (static_cast<std::size_t>(std::count(knots.begin(), knots.end(), end)) < degree) {
      const auto span = static_cast<std::size_t>(std::upper_bound(knots.begin(), knots.end(), end) - knots.begin()) - 1;
      std::vector<Heavy> next;
      for (std::size_t i = 0; i <= heavy.size(); ++i) {
        if (i + degree <= span) {
          next.push_back(heavy[i]);
        } else if (i > span || knots[i] == end) {
          next.push_back(heavy[i - 1]);
        } else {
          const double share = (end - knots[i]) / (knots[i + degree] - knots[i]);
          next.push_back(mixed(heavy[i - 1], 1 - share, heavy[i], share));
        }
      }
      heavy = std::move(next);
      knots.insert(knots.begin() + static_cast<std::ptrdiff_t>(span) + 1, end);
    }
  }
  const auto isBefore = [](double knot, double end) { return knot < end - tolerance::rounding; };
  const auto first =
      static_cast<std::size_t>(std::lower_bound(knots.begin(), knots.end(), from, isBefore) - knots.begin());
  const auto last =
      static_cast<std::size_t>(std::lower_bound(knots.begin(), knots.end(), to, isBefore) - knots.begin());
  // At the spline's own ends knots count once more than the degree.
  const std::size_t start = from <= tolerance::rounding ? first : first - 1;
  const std::size_t poles = last - start;
  std::vector<double> own(degree + 1, from);
  for (std::size_t i = start + degree + 1; i < start + poles; ++i) own.push_back(knots[i]);
  own.insert(own.end(), degree + 1, to);
  std::vector<PlanePoint> at;
  std::vector<double> weights;
  for (std::size_t i = start; i < start + poles; ++i) {
    at.push_back({heavy[i].u / heavy[i].w, heavy[i].v / heavy[i].w});
    weights.push_back(heavy[i].w);
  }
  return of(degree_, std::move(own), std::move(at), std::move(weights), false);
}

double Spline::nearest(PlanePoint point) const {
  const std::size_t steps = 8 * poles_.size();
  double best = 0, least = Box::infinity;
  for (std::size_t i = 0; i <= steps; ++i) {
    const double t = static_cast<double>(i) / static_cast<double>(steps);
    if (const double apart = distance(at(t), point); apart < least) least = apart, best = t;
  }
  // Newton's steps to where the way to the point is at a right angle.
  for (int step = 0; step < 20; ++step) {
    const Frame now = frame(best);
    const PlanePoint way = now.at - point;
    const double slope = dot(now.first, now.first) + dot(way, now.second);
    if (!(slope > 0)) break;
    const double next = std::clamp(best - dot(way, now.first) / slope, 0.0, 1.0);
    if (next == best || distance(at(next), point) > distance(now.at, point)) break;
    best = next;
  }
  return best;
}

}  // namespace kervo
