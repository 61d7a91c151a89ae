#include "shop/cutter.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "base/error.h"
#include "base/say.h"
#include "shop/chains.h"
#include "shop/polygons.h"

namespace kervo {

namespace {

constexpr double fine = 0.005;  ///< mm that polygons may leave their outlines by

/// Points along a chain, each with its distance from the start.
std::vector<PlanePoint> pointsAlong(const FlatChain& chain, double closeness) {
  std::vector<PlanePoint> points;
  for (const ClipperLib::IntPoint& point : polygonOf(chain, closeness)) points.push_back(fromGrid(point));
  const RunOfChain run = runOf(chain);
  points.push_back(run.end);
  return points;
}

/// How much of each path lies on another one.
class Overlaps {
 public:
  explicit Overlaps(const std::vector<CutPath>& paths) {
    for (std::size_t i = 0; i < paths.size(); ++i) {
      if (paths[i].marked) continue;
      const std::vector<PlanePoint> points = pointsAlong(paths[i].chain, 0.02);
      for (std::size_t k = 1; k < points.size(); ++k) {
        const double size = distance(points[k - 1], points[k]);
        const int count = std::max(1, static_cast<int>(std::ceil(size / step)));
        for (int n = 0; n < count; ++n) {
          const auto at = [&](int m) {
            return points[k - 1] + (points[k] - points[k - 1]) * (static_cast<double>(m) / count);
          };
          if (size > 0) add({i, at(n), at(n + 1)});
        }
      }
    }
  }

  double of(std::size_t path) const {
    double sum = 0;
    for (const Piece& piece : pieces_)
      if (piece.path == path && onAnother(piece)) sum += distance(piece.from, piece.to);
    return sum;
  }

 private:
  static constexpr double step = 1, near = 0.02;
  struct Piece {
    std::size_t path;
    PlanePoint from, to;
    PlanePoint middle() const { return (from + to) * 0.5; }
  };
  using Cell = std::pair<long long, long long>;
  static Cell cellOf(PlanePoint at) {
    return {static_cast<long long>(std::floor(at.u / step)), static_cast<long long>(std::floor(at.v / step))};
  }
  void add(const Piece& piece) {
    cells_[cellOf(piece.middle())].push_back(pieces_.size());
    pieces_.push_back(piece);
  }
  bool onAnother(const Piece& piece) const {
    const PlanePoint at = piece.middle(), way = (piece.to - piece.from) * (1 / length(piece.to - piece.from));
    const auto [u, v] = cellOf(at);
    for (long long i = u - 1; i <= u + 1; ++i)
      for (long long j = v - 1; j <= v + 1; ++j)
        if (const auto found = cells_.find({i, j}); found != cells_.end())
          for (const std::size_t n : found->second) {
            const Piece& other = pieces_[n];
            if (other.path == piece.path) continue;
            const PlanePoint along = other.to - other.from;
            const double size = length(along);
            if (std::abs(cross(way, along)) > 0.05 * size) continue;
            const double t = dot(at - other.from, along) / (size * size);
            if (t >= -0.01 && t <= 1.01 && std::abs(cross(along, at - other.from)) / size < near) return true;
          }
    return false;
  }

  std::vector<Piece> pieces_;
  std::map<Cell, std::vector<std::size_t>> cells_;
};

/// Which closed cut lies in which, and what falls out when.
class Falling {
 public:
  explicit Falling(const std::vector<CutPath>& paths) {
    for (std::size_t i = 0; i < paths.size(); ++i) {
      if (!paths[i].closed || paths[i].marked) continue;
      Loop loop{i, polygonOf(paths[i].chain, fine), {}, 0, {}};
      if (!ClipperLib::Orientation(loop.polygon)) std::reverse(loop.polygon.begin(), loop.polygon.end());
      loop.area = ClipperLib::Area(loop.polygon);
      loops_.push_back(std::move(loop));
    }
    std::stable_sort(loops_.begin(), loops_.end(), [](const Loop& a, const Loop& b) { return a.area > b.area; });
    for (std::size_t i = 0; i < loops_.size(); ++i)
      for (std::size_t j = i; j-- > 0;)
        if (ClipperLib::PointInPolygon(loops_[i].polygon.front(), loops_[j].polygon) != 0) {
          loops_[i].depth = loops_[j].depth + 1;
          loops_[i].in = j;
          loops_[j].holes.push_back(i);
          break;
        }
  }

  std::vector<FreedPart> freed(const std::vector<CutPath>& paths, double kerf) const {
    std::vector<FreedPart> result;
    for (const Loop& loop : loops_) {
      const CutPath& path = paths[loop.path];
      ClipperLib::Paths left = grownBy({loop.polygon}, -kerf / 2), holes;
      for (const std::size_t hole : loop.holes) holes.push_back(loops_[hole].polygon);
      if (!holes.empty()) left = without(left, grownBy(holes, kerf / 2));
      result.push_back({loop.path, path.ends, areaOf(left), loop.depth % 2 == 1, runOf(path.chain).start});
    }
    std::stable_sort(result.begin(), result.end(), [](const FreedPart& a, const FreedPart& b) { return a.at < b.at; });
    return result;
  }
  /// Cuts within what has fallen already.
  std::vector<std::size_t> tooLate(const std::vector<CutPath>& paths) const {
    std::vector<std::size_t> result;
    for (const Loop& loop : loops_)
      if (loop.in && paths[loop.path].begins >= paths[loops_[*loop.in].path].ends) result.push_back(loop.path);
    std::sort(result.begin(), result.end());
    return result;
  }

 private:
  struct Loop {
    std::size_t path;
    ClipperLib::Path polygon;
    std::optional<std::size_t> in;
    int depth = 0;
    std::vector<std::size_t> holes;
    double area = 0;
  };
  std::vector<Loop> loops_;
};

void require(double value, const std::string& what, bool zeroToo) {
  if (zeroToo ? !(value >= 0) : !(value > 0))
    throw Error(say("%1 is %2", what, formatNumber(value)), "", say("Give a size above zero"));
}

std::string placeOf(PlanePoint at) {
  return say("at %1, %2", formatNumber(at.u, 6), formatNumber(at.v, 6));
}

}  // namespace

CutRun runCutter(const FileCurves& file, const CutterSettings& settings, Progress& progress) {
  require(settings.kerf, say("the kerf"), true);
  require(settings.feed, say("the feed"), false);
  require(settings.travel, say("the speed from cut to cut"), false);
  CutRun run;
  PlanePoint at;
  for (const CurveLayer& layer : file.layers)
    for (const FlatChain& chain : chained(layer.curves, settings.gap)) {
      progress.throwIfStopped();
      const RunOfChain way = runOf(chain);
      CutPath path{.chain = chain, .layer = layer.name};
      path.length = lengthOf(chain);
      path.closed = chain.front()->closed() || distance(way.start, way.end) <= settings.gap;
      path.marked = layer.name == settings.marked;
      const double travelled = distance(at, way.start);
      run.travelled += travelled;
      path.begins = run.seconds + travelled / settings.travel;
      path.ends = path.begins + path.length / settings.feed;
      run.seconds = path.ends;
      (path.marked ? run.marked : run.cut) += path.length;
      at = way.end;
      run.paths.push_back(std::move(path));
    }
  const Overlaps overlaps(run.paths);
  for (std::size_t i = 0; i < run.paths.size(); ++i) {
    progress.throwIfStopped();
    CutPath& path = run.paths[i];
    const PlanePoint start = runOf(path.chain).start;
    if (path.marked) continue;
    path.twice = overlaps.of(i);
    if (!path.closed) run.findings.push_back(say("cut %1 is open: nothing falls free (%2)", i + 1, placeOf(start)));
    if (path.twice > 0.5)
      run.findings.push_back(
          say("cut %1 lies for %2 mm on another cut (%3)", i + 1, formatNumber(path.twice, 3), placeOf(start)));
  }
  const Falling falling(run.paths);
  for (const std::size_t path : falling.tooLate(run.paths))
    run.findings.push_back(say("cut %1 lies in a part that has fallen before (%2)", path + 1,
                               placeOf(runOf(run.paths[path].chain).start)));
  run.freed = falling.freed(run.paths, settings.kerf);
  return run;
}

PlanePoint beamAt(const CutRun& run, double seconds) {
  PlanePoint before;
  double left = 0;
  for (const CutPath& path : run.paths) {
    const RunOfChain way = runOf(path.chain);
    if (seconds < path.begins) {
      const double share = path.begins > left ? std::clamp((seconds - left) / (path.begins - left), 0.0, 1.0) : 1;
      return before + (way.start - before) * share;
    }
    if (seconds < path.ends) {
      const std::vector<PlanePoint> points = pointsAlong(path.chain, 0.02);
      double rest = path.length * (seconds - path.begins) / (path.ends - path.begins);
      for (std::size_t i = 1; i < points.size(); ++i) {
        const double size = distance(points[i - 1], points[i]);
        if (rest <= size && size > 0) return points[i - 1] + (points[i] - points[i - 1]) * (rest / size);
        rest -= size;
      }
      return way.end;
    }
    before = way.end;
    left = path.ends;
  }
  return before;
}

}  // namespace kervo
