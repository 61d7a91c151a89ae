#include "shop/printer.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <unordered_map>

#include "base/quantity.h"
#include "base/say.h"
#include "shop/polygons.h"

namespace kervo {

namespace {

using ClipperLib::Path;
using ClipperLib::Paths;

Paths combined(ClipperLib::ClipType how, const Paths& a, const Paths& b) {
  ClipperLib::Clipper clipper;
  clipper.AddPaths(a, ClipperLib::ptSubject, true);
  clipper.AddPaths(b, ClipperLib::ptClip, true);
  Paths result;
  clipper.Execute(how, result, ClipperLib::pftNonZero, ClipperLib::pftNonZero);
  return result;
}
Paths united(const Paths& a, const Paths& b) {
  return combined(ClipperLib::ctUnion, a, b);
}
Paths common(const Paths& a, const Paths& b) {
  return combined(ClipperLib::ctIntersection, a, b);
}

double lengthOf(const Paths& paths) {
  double sum = 0;
  for (const Path& path : paths)
    for (std::size_t i = 0; i < path.size(); ++i) {
      const auto &a = path[i], &b = path[(i + 1) % path.size()];
      sum += std::hypot(static_cast<double>(b.X - a.X), static_cast<double>(b.Y - a.Y));
    }
  return sum / perMillimetre;
}

std::vector<std::vector<PlanePoint>> pointsOf(const Paths& paths) {
  std::vector<std::vector<PlanePoint>> result;
  for (const Path& path : paths) {
    std::vector<PlanePoint>& line = result.emplace_back();
    for (const auto& point : path) line.push_back(fromGrid(point));
  }
  return result;
}

/// What is connected, each with its holes.
std::vector<Paths> islandsOf(const Paths& paths) {
  ClipperLib::Clipper clipper;
  clipper.AddPaths(paths, ClipperLib::ptSubject, true);
  ClipperLib::PolyTree tree;
  clipper.Execute(ClipperLib::ctUnion, tree, ClipperLib::pftNonZero, ClipperLib::pftNonZero);
  std::vector<Paths> result;
  for (const ClipperLib::PolyNode* node = tree.GetFirst(); node; node = node->GetNext()) {
    if (node->IsHole()) continue;
    Paths& island = result.emplace_back(Paths{node->Contour});
    for (const ClipperLib::PolyNode* hole : node->Childs) island.push_back(hole->Contour);
  }
  return result;
}

/// The triangles of one body by the layers they reach through.
class Slicer {
 public:
  Slicer(const Mesh& mesh, double bed, const PrinterSettings& settings, std::size_t layers)
      : mesh_(mesh), bed_(bed), layer_(settings.layer), byLayer_(layers) {
    for (std::size_t t = 0; t < mesh.triangles().size(); ++t) {
      double low = Box::infinity, high = -Box::infinity;
      for (const std::uint32_t corner : mesh.triangles()[t]) {
        low = std::min(low, mesh.points()[corner].z);
        high = std::max(high, mesh.points()[corner].z);
      }
      const auto first = static_cast<std::size_t>(std::max(0.0, std::floor((low - bed) / layer_ - 0.5)));
      for (std::size_t i = first; i < layers && heightOf(i) <= high; ++i)
        if (heightOf(i) >= low) byLayer_[i].push_back(static_cast<std::uint32_t>(t));
    }
  }

  /// In the middle of a layer. No corner of a body lies just there.
  double heightOf(std::size_t layer) const {
    constexpr double beside = 1.37e-6;
    return bed_ + (static_cast<double>(layer) + 0.5) * layer_ + beside;
  }

  /// Outlines with the inside to their left. Open ones of a mesh with holes are left out.
  Paths outlines(std::size_t layer) const {
    const double z = heightOf(layer);
    struct Step {
      std::uint64_t next;
      ClipperLib::IntPoint at;
    };
    std::unordered_map<std::uint64_t, Step> steps;
    for (const std::uint32_t t : byLayer_[layer]) {
      const Mesh::Triangle& corners = mesh_.triangles()[t];
      std::uint64_t entry = 0, leave = 0;
      ClipperLib::IntPoint at;
      bool up = false, down = false;
      for (std::size_t k = 0; k < 3; ++k) {
        const std::uint32_t a = corners[k], b = corners[(k + 1) % 3];
        const Point &p = mesh_.points()[a], &q = mesh_.points()[b];
        const bool above = p.z > z, aboveNext = q.z > z;
        if (above == aboveNext) continue;
        const std::uint64_t key = (std::uint64_t{std::min(a, b)} << 32U) | std::max(a, b);
        if (aboveNext) {
          entry = key;
          const double share = (z - p.z) / (q.z - p.z);
          at = toGrid({p.x + (q.x - p.x) * share, p.y + (q.y - p.y) * share});
          up = true;
        } else {
          leave = key;
          down = true;
        }
      }
      // Seen from above, a triangle's outer side is to the right of the way from where it rises to where it falls.
      if (up && down) steps[entry] = {leave, at};
    }
    Paths result;
    while (!steps.empty()) {
      const std::uint64_t start = steps.begin()->first;
      Path path;
      std::uint64_t now = start;
      bool closed = false;
      while (true) {
        const auto found = steps.find(now);
        if (found == steps.end()) break;
        path.push_back(found->second.at);
        now = found->second.next;
        steps.erase(found);
        if (now == start) {
          closed = true;
          break;
        }
      }
      if (closed && path.size() > 2) result.push_back(std::move(path));
    }
    return result;
  }

 private:
  const Mesh& mesh_;
  double bed_, layer_;
  std::vector<std::vector<std::uint32_t>> byLayer_;
};

void require(const PrinterSettings& settings) {
  const auto positive = [](double value, const char* what) {
    if (!(value > 0) || !std::isfinite(value))
      throw Error(say("the %1 is %2", say(what), formatNumber(value)), "", say("Type a number greater than zero"));
  };
  positive(settings.layer, later("layer's height"));
  positive(settings.nozzle, later("nozzle's width"));
  positive(settings.wallSpeed, later("speed of walls"));
  positive(settings.fillSpeed, later("speed of filling"));
  positive(settings.travelSpeed, later("speed between outlines"));
  if (settings.walls < 1) throw Error(say("no wall would be printed"), "", say("Ask for 1 wall or more"));
  if (!(settings.fill >= 0 && settings.fill <= 1))
    throw Error(say("the share of filling is %1", formatNumber(settings.fill)), "", say("Type 0 to 1"));
}

class Printing {
 public:
  Printing(FileContents contents, const PrinterSettings& settings, Progress& progress)
      : contents_(std::move(contents)), settings_(settings), progress_(progress) {}

  PrintRun run() {
    for (const FileBody& body : contents_.bodies) {
      run_.box.add(body.shape.box());
      if (!body.shape.mesh()->watertight())
        find(say("\"%1\" does not close: %2 of its edges lie open", body.name, body.shape.mesh()->openEdges()));
    }
    const Vector size = run_.box.high - run_.box.low;
    if (size.x > settings_.width || size.y > settings_.depth || size.z > settings_.height)
      find(say("it does not fit: it is %1 × %2 × %3 mm, and there is room for %4 × %5 × %6 mm", formatNumber(size.x, 5),
               formatNumber(size.y, 5), formatNumber(size.z, 5), formatNumber(settings_.width, 5),
               formatNumber(settings_.depth, 5), formatNumber(settings_.height, 5)));
    const double count = std::ceil(size.z / settings_.layer - 1e-6);
    constexpr double most = 100'000;
    if (count > most)
      throw Error(say("it would have %1 layers", formatNumber(count, 12)), "",
                  say("Make layers higher: at most %1 are printed", formatNumber(most, 12)));
    slice(static_cast<std::size_t>(std::max(1.0, count)));
    for (std::size_t i = 0; i < whole_.size(); ++i) judge(i);
    tell();
    for (const auto& [color, volume] : materials_)
      run_.materials.push_back({color.empty() ? std::nullopt : colorFromText(color), volume});
    return std::move(run_);
  }

 private:
  void find(std::string text) { run_.findings.push_back(std::move(text)); }

  void slice(std::size_t count) {
    std::vector<Slicer> slicers;
    for (const FileBody& body : contents_.bodies)
      slicers.emplace_back(*body.shape.mesh(), run_.box.low.z, settings_, count);
    run_.layers.resize(count);
    whole_.resize(count);
    for (std::size_t i = 0; i < count; ++i) {
      progress_.throwIfStopped();
      progress_.report(static_cast<double>(i) / static_cast<double>(count));
      PrintedLayer& layer = run_.layers[i];
      layer.top = static_cast<double>(i + 1) * settings_.layer;
      for (std::size_t b = 0; b < slicers.size(); ++b) {
        const Paths outlines = united(slicers[b].outlines(i), {});
        if (outlines.empty()) continue;
        const auto& color = contents_.bodies[b].color;
        const double area = areaOf(outlines);
        whole_[i] = united(whole_[i], outlines);
        layer.parts.push_back({color, pointsOf(outlines), area});
        parts_.push_back({i, color, outlines});
        run_.solidVolume += area * settings_.layer;
      }
    }
  }

  /// How long a layer takes and what of it is filled; what it stands on.
  void judge(std::size_t i) {
    progress_.throwIfStopped();
    PrintedLayer& layer = run_.layers[i];
    if (i > 0) {
      // Beneath what is carried.
      const double reach = settings_.layer * std::tan(settings_.overhang);
      layer.hanging = areaOf(without(whole_[i], grownBy(whole_[i - 1], reach)));
      for (const Paths& island : islandsOf(whole_[i])) {
        if (!common(island, whole_[i - 1]).empty()) continue;
        for (auto& line : pointsOf(island)) layer.unsupported.push_back(std::move(line));
        ++islands_;
        if (!firstIsland_) firstIsland_ = i;
      }
    }
    // What a round nozzle cannot reach, but for the corners that it rounds.
    const double radius = settings_.nozzle / 2;
    constexpr double slack = 0.01;
    const Paths reached = grownBy(grownBy(whole_[i], slack - radius), radius);
    for (const Paths& island : islandsOf(without(whole_[i], reached))) {
      if (areaOf(island) < settings_.nozzle * settings_.nozzle / 2) continue;
      for (auto& line : pointsOf(island)) layer.thin.push_back(std::move(line));
      thinArea_ += areaOf(island);
      if (!firstThin_) firstThin_ = i;
    }
  }

  /// Lines of walls and filling, for each part of each layer.
  void tell() {
    for (const Part& part : parts_) {
      progress_.throwIfStopped();
      PrintedLayer& layer = run_.layers[part.layer];
      double lines = 0;
      Paths rest = part.outlines;
      double walled = areaOf(rest);
      for (int w = 0; w < settings_.walls && !rest.empty(); ++w) {
        lines += lengthOf(grownBy(rest, -settings_.nozzle / 2));
        rest = grownBy(rest, -settings_.nozzle);
      }
      walled -= areaOf(rest);
      Paths inside = rest;
      const auto closed = static_cast<std::size_t>(std::max(0, settings_.closed));
      for (std::size_t d = 1; d <= closed && !inside.empty(); ++d)
        for (const bool up : {false, true}) {
          const bool there = up ? part.layer + d < whole_.size() : part.layer >= d;
          inside = there ? common(inside, whole_[up ? part.layer + d : part.layer - d]) : Paths();
        }
      const double open = areaOf(inside), full = areaOf(rest) - open, filled = full + open * settings_.fill;
      layer.seconds += lines / settings_.wallSpeed + filled / settings_.nozzle / settings_.fillSpeed +
                       travel(part.outlines) / settings_.travelSpeed;
      materials_[part.color ? colorText(*part.color) : std::string()] += (walled + filled) * settings_.layer;
    }
    for (const PrintedLayer& layer : run_.layers) run_.seconds += layer.seconds;
    const auto heightOf = [&](std::size_t layer) { return formatNumber(run_.layers[layer].top, 5); };
    if (firstIsland_)
      find(sayCount(islands_, "%1 island begins in the air, at a height of %2 mm",
                    "%1 islands begin in the air, the first at a height of %2 mm", heightOf(*firstIsland_)));
    if (firstThin_)
      find(say("walls are narrower than the nozzle, first at a height of %1 mm: %2 mm² in all layers",
               heightOf(*firstThin_), formatNumber(thinArea_, 4)));
  }

  /// From outline to outline.
  static double travel(const Paths& paths) {
    double sum = 0;
    for (std::size_t i = 0; i + 1 < paths.size(); ++i)
      sum += std::hypot(static_cast<double>(paths[i + 1].front().X - paths[i].front().X),
                        static_cast<double>(paths[i + 1].front().Y - paths[i].front().Y));
    return sum / perMillimetre;
  }

  struct Part {
    std::size_t layer;
    std::optional<Color> color;
    Paths outlines;
  };

  FileContents contents_;
  PrinterSettings settings_;
  Progress& progress_;
  PrintRun run_;
  std::vector<Paths> whole_;  ///< all parts of each layer as one
  std::vector<Part> parts_;
  std::map<std::string, double> materials_;
  std::size_t islands_ = 0;
  double thinArea_ = 0;
  std::optional<std::size_t> firstIsland_, firstThin_;
};

}  // namespace

PrintRun runPrinter(const std::filesystem::path& file, const PrinterSettings& settings, Progress& progress) {
  require(settings);
  FileContents contents = readBodies(file, progress);
  for (const FileBody& body : contents.bodies)
    if (!body.shape.mesh())
      throw FileError(say("\"%1\" is an exact body, which no printer reads", body.name), file.string(),
                      say("Write it as 3MF or STL first"));
  return Printing(std::move(contents), settings, progress).run();
}

}  // namespace kervo
