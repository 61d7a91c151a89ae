#include "exchange/flat_picture.h"

#include <algorithm>
#include <cmath>

#include "base/error.h"
#include "base/say.h"
#include "exchange/formats.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

constexpr double closeness = 1e-4;  // mm
constexpr int deepest = 14;

PlanePoint middleOf(const Cubic& c) {
  return (c.from + (c.first + c.second) * 3 + c.to) * 0.125;
}

/// As long as those of an arc with these tangents: exact to the sixth order of its angle.
Cubic cubicBetween(const PlaneCurve& curve, double from, double to) {
  const PlanePoint a = curve.at(from), b = curve.at(to), s = curve.tangentAt(from), e = curve.tangentAt(to);
  const double turn = std::acos(std::clamp(dot(s, e), -1.0, 1.0)), quarter = std::cos(turn / 4);
  const double handle = length(b - a) / (3 * quarter * quarter);
  return {a, a + s * handle, b - e * handle, b};
}

void addCubics(std::vector<Cubic>& result, const PlaneCurve& curve, double from, double to, int depth) {
  const Cubic cubic = cubicBetween(curve, from, to);
  const double middle = (from + to) / 2;
  const PlanePoint way = middleOf(cubic) - curve.at(middle);
  const bool bends = dot(curve.tangentAt(from), curve.tangentAt(to)) < 0.9;
  if (depth < deepest && (bends || std::abs(cross(curve.tangentAt(middle), way)) > closeness / 4 ||
                          length(way) > 0.1 * length(cubic.to - cubic.from) + closeness)) {
    addCubics(result, curve, from, middle, depth + 1);
    addCubics(result, curve, middle, to, depth + 1);
    return;
  }
  result.push_back(cubic);
}

}  // namespace

FlatLayer& FlatPicture::layer(const std::string& name, Color ink) {
  for (FlatLayer& layer : layers)
    if (layer.name == name) return layer;
  layers.push_back({.name = name, .ink = ink});
  return layers.back();
}

void writePicture(const std::filesystem::path& path, const FlatPicture& picture, Progress& progress) {
  const Format* format = formatOf(path);
  if (!format || !format->writePicture)
    throw FileError(say("\"%1\" is no file for outlines", path.filename().string()), "",
                    say("Give it one of these endings: %1", endingsOfPictures()));
  progress.throwIfStopped();
  format->writePicture(path, picture, progress);
}

RunOfChain runOf(const FlatChain& chain) {
  RunOfChain run;
  if (chain.empty()) return run;
  const auto gap = [](PlanePoint a, PlanePoint b) { return distance(a, b); };
  PlanePoint at = chain.front()->at(0);
  if (chain.size() > 1) {
    // The end at which the next one goes on is the last of the first.
    const PlanePoint s = chain[0]->at(0), e = chain[0]->at(1), ns = chain[1]->at(0), ne = chain[1]->at(1);
    if (std::min(gap(s, ns), gap(s, ne)) < std::min(gap(e, ns), gap(e, ne))) at = e;
  }
  run.start = at;
  for (const FlatCurve& curve : chain) {
    const bool back = gap(at, curve->at(1)) < gap(at, curve->at(0));
    run.backwards.push_back(back);
    at = curve->at(back ? 0 : 1);
  }
  run.end = at;
  run.closed = gap(run.start, run.end) < tolerance::looseEdge;
  return run;
}

std::vector<Cubic> cubicsOf(const FlatChain& chain) {
  std::vector<Cubic> result;
  const RunOfChain run = runOf(chain);
  for (std::size_t i = 0; i < chain.size(); ++i) {
    std::vector<Cubic> own;
    const auto carrier = chain[i]->carrier();
    if (carrier && carrier->radius == 0) {
      const PlanePoint a = chain[i]->at(0), b = chain[i]->at(1);
      own.push_back({a, a + (b - a) * (1.0 / 3), a + (b - a) * (2.0 / 3), b, true});
    } else {
      addCubics(own, *chain[i], 0, 1, 0);
    }
    if (run.backwards[i]) {
      std::reverse(own.begin(), own.end());
      for (Cubic& cubic : own) cubic = {cubic.to, cubic.second, cubic.first, cubic.from, cubic.straight};
    }
    result.insert(result.end(), own.begin(), own.end());
  }
  return result;
}

PlaneBox boxOf(const std::vector<FlatChain>& chains) {
  PlaneBox box{{1e300, 1e300}, {-1e300, -1e300}};
  for (const FlatChain& chain : chains)
    for (const FlatCurve& curve : chain) {
      const PlaneBox own = curve->box();
      box.low = {std::min(box.low.u, own.low.u), std::min(box.low.v, own.low.v)};
      box.high = {std::max(box.high.u, own.high.u), std::max(box.high.v, own.high.v)};
    }
  return box;
}

std::vector<std::pair<PlanePoint, PlanePoint>> hatchAcross(const HatchLines& lines, const PlaneBox& box) {
  const PlanePoint along{std::cos(lines.angle), std::sin(lines.angle)}, across{-along.v, along.u};
  double low = 1e300, high = -1e300, from = 1e300, to = -1e300;
  for (const double u : {box.low.u, box.high.u})
    for (const double v : {box.low.v, box.high.v}) {
      const PlanePoint corner{u, v};
      low = std::min(low, dot(corner, across));
      high = std::max(high, dot(corner, across));
      from = std::min(from, dot(corner, along));
      to = std::max(to, dot(corner, along));
    }
  std::vector<std::pair<PlanePoint, PlanePoint>> result;
  const auto first = static_cast<long long>(std::ceil((low - lines.offset) / lines.spacing)),
             last = static_cast<long long>(std::floor((high - lines.offset) / lines.spacing));
  for (long long i = first; i <= last; ++i) {
    const double at = lines.offset + static_cast<double>(i) * lines.spacing;
    // Dashes begin at the same place of every line, but for the shift from line to line.
    double begin = from;
    if (const double period = lines.dash + lines.gap; lines.dash > 0 && period > 0)
      begin = std::floor((from - static_cast<double>(i) * lines.shift) / period) * period +
              static_cast<double>(i) * lines.shift;
    result.emplace_back(along * begin + across * at, along * to + across * at);
  }
  return result;
}

}  // namespace kervo
