// Cuts bodies that nobody here made with seeded cutters, and judges every result by means of its own:
//   kervo-corpus [--cuts N] [--cases N] [--seed S] [--only TEXT] [--limit SECONDS] [--no-files] [--markdown FILE]
//   [FOLDER…]
// Without a folder it takes the BREP and STEP files of Debian's occt-misc. Exit code 1 if a result is wrong or a file
// differs.
#include <unistd.h>
#include <BOPAlgo_ArgumentAnalyzer.hxx>
#include <BRepAlgoAPI_Common.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepBuilderAPI_Copy.hxx>
#include <STEPControl_Reader.hxx>
#include <TopExp_Explorer.hxx>

#include <chrono>
#include <condition_variable>
#include <cstdio>
#include <cstring>
#include <filesystem>
#include <fstream>
#include <iostream>
#include <map>
#include <sstream>
#include <thread>

#include "base/error.h"
#include "corpus/ray_oracle.h"
#include "exchange/body_file.h"
#include "geom/divide/boolean.h"
#include "geom/kernel/call.h"
#include "geom/kernel/shape_body.h"
#include "geom/motion.h"

namespace kervo::corpus {
namespace {

namespace fs = std::filesystem;
using Clock = std::chrono::steady_clock;

struct Options {
  int cutsPerBody = 12;
  int cases = 0;  // of all, if not 0
  unsigned seed = 20261127;
  std::string only;
  double limitSeconds = 60;
  bool files = true;
  std::string markdown;
  std::vector<fs::path> folders;
};

double secondsSince(Clock::time_point start) {
  return std::chrono::duration<double>(Clock::now() - start).count();
}

/// Asks a progress to stop when the time is up.
class Deadline {
 public:
  Deadline(Progress& progress, double seconds)
      : thread_([this, &progress, seconds] {
          std::unique_lock lock(mutex_);
          if (!done_.wait_for(lock, std::chrono::duration<double>(seconds), [this] { return isDone_; }))
            progress.requestStop();
        }) {}
  ~Deadline() {
    {
      const std::lock_guard lock(mutex_);
      isDone_ = true;
    }
    done_.notify_all();
    thread_.join();
  }

 private:
  std::mutex mutex_;
  std::condition_variable done_;
  bool isDone_ = false;
  std::thread thread_;
};

struct Part {
  std::string name;
  Shape shape;
  std::string unsound;  ///< what is wrong with it; empty for a sound one
  BodyMesh mesh;
  double deflection = 0;
};

std::vector<fs::path> filesIn(const std::vector<fs::path>& folders) {
  std::vector<fs::path> files;
  for (const fs::path& folder : folders) {
    if (fs::is_regular_file(folder)) files.push_back(folder);
    if (!fs::is_directory(folder)) continue;
    for (const auto& entry : fs::recursive_directory_iterator(folder))
      if (entry.is_regular_file() && isBodyFile(entry.path())) files.push_back(entry.path());
  }
  std::sort(files.begin(), files.end());
  return files;
}

MeshQuality qualityFor(const Shape& shape) {
  return {2e-4 * shape.roughBox().diagonal(), 0.15};
}

/// The analyzer's word on a body that crosses itself; empty if it does not, or if that takes longer than the limit.
std::string selfCrossing(const Shape& shape, double limitSeconds) {
  Progress progress;
  const Deadline deadline(progress, limitSeconds);
  try {
    return kernelCall("looking for crossings", [&]() -> std::string {
      BOPAlgo_ArgumentAnalyzer analyzer;
      analyzer.SetShape1(shape.body().topology);
      analyzer.SelfInterMode() = true;
      analyzer.StopOnFirstFaulty() = true;
      Handle(KernelProgress) indicator = new KernelProgress(progress);
      analyzer.Perform(indicator->Start());
      return analyzer.HasFaulty() ? "cuts itself" : "";
    });
  } catch (const std::exception&) {
    return "";
  }
}

std::vector<Part> partsOf(const fs::path& file) {
  std::vector<Part> parts;
  Progress progress;
  try {
    const FileContents contents = readBodies(file, progress);
    for (const FileBody& body : contents.bodies) {
      if (body.shape.kind() != BodyKind::Solid) continue;
      Part part{file.filename().string() + "#" + body.name, body.shape, "", {}, 0};
      if (!body.shape.watertight())
        part.unsound = "not closed";
      else if (!body.shape.valid())
        part.unsound = "has an invalid face";
      else
        part.unsound = selfCrossing(body.shape, 30);
      const MeshQuality quality = qualityFor(body.shape);
      part.deflection = quality.deflection;
      try {
        part.mesh = tessellate(body.shape, quality, progress);
      } catch (const std::exception& error) {
        std::printf("%s: not meshed: %s\n", part.name.c_str(), error.what());
        continue;
      }
      parts.push_back(std::move(part));
    }
  } catch (const std::exception& error) {
    std::printf("%s: %s\n", file.filename().c_str(), error.what());
  }
  return parts;
}

/// What a second opinion says against a result.
struct Contradiction {
  std::string result;   ///< the volumes are wrong; empty if they agree
  std::string picture;  ///< only the mesh of the result is
};

/// The result's volumes beside what rays through the stock's mesh and the cutter's formula say.
Contradiction contradiction(const Part& part, const CuttingBody& cutter, const Division& division,
                            std::mt19937& random) {
  Progress progress;
  const Rays rays(part.mesh.box,
                  normalized({0.31 + 0.1 * static_cast<double>(random() % 7), 0.47,
                              0.2 + 0.1 * static_cast<double>(random() % 11)}),
                  100);
  const Rays::Crossings stock = rays.through(part.mesh);
  struct Side {
    const char* name;
    const Shape* shape;
    bool inside;
  };
  Contradiction said;
  char text[300];
  const double area = part.shape.area();
  // The stock's own mesh may be coarser than it should.
  const double coarse = std::abs(volumeOf(part.mesh) - part.shape.volume());
  for (const Side& side : {Side{"inside", &division.inside, true}, Side{"outside", &division.outside, false}}) {
    const bool none = side.shape->empty();
    const double volume = none ? 0 : side.shape->volume();
    const double surface = none ? area : std::min(area, side.shape->area());
    const double allowed = 1.5 * part.deflection * surface + coarse + 1e-9;
    if (side.inside && cutter.kind() == CutterKind::HalfSpace) {
      const double clipped = volumeBeyond(part.mesh, cutter.place());
      if (std::abs(clipped - volume) > 1.5 * part.deflection * area + coarse) {
        std::snprintf(text, sizeof text, "inside: the clipped mesh has %.9g mm³, not %.9g", clipped, volume);
        said.result = text;
        return said;
      }
    }
    const BodyMesh mesh = none ? BodyMesh() : tessellate(*side.shape, qualityFor(part.shape), progress);
    const double meshed = none ? 0 : volumeOf(mesh);
    const bool goodMesh = std::abs(meshed - volume) <= allowed;
    if (!goodMesh) {
      std::snprintf(text, sizeof text, "%s: %.9g mm³, its mesh has %.9g (± %.2g)", side.name, volume, meshed, allowed);
      said.picture = text;
    }
    Rays::Crossings crossings{std::vector<std::vector<Interval>>(rays.count()), std::vector<char>(rays.count(), 0)};
    if (!none && goodMesh) crossings = rays.through(mesh);
    double expected = 0, found = 0;
    for (std::size_t i = 0; i < rays.count(); ++i) {
      if (stock.isVoid[i] || crossings.isVoid[i]) continue;
      const double cut = lengthOf(common(stock.inside[i], cutter.along(rays.start(i), rays.direction())));
      expected += (side.inside ? cut : lengthOf(stock.inside[i]) - cut) * rays.perLength();
      found += lengthOf(crossings.inside[i]) * rays.perLength();
    }
    // Without a mesh of the result, the rays' own spacing counts: half a per cent was the most seen on sound parts.
    const double limit = goodMesh ? allowed : 0.02 * part.shape.volume();
    if (!goodMesh) found = volume;
    if (std::abs(expected - found) > limit) {
      std::snprintf(text, sizeof text, "%s: rays say %.6g mm³, the result %.6g (± %.2g)", side.name, expected, found,
                    limit);
      said.result = text;
      return said;
    }
  }
  return said;
}

/// The volumes of the solids that the kernel's own reader makes of a STEP file, largest last.
std::vector<double> volumesByBareReader(const fs::path& file) {
  return kernelCall("reading with the bare kernel", [&] {
    STEPControl_Reader reader;
    reader.ReadFile(file.c_str());
    reader.TransferRoots();
    std::vector<double> volumes;
    for (TopExp_Explorer it(reader.OneShape(), TopAbs_SOLID); it.More(); it.Next())
      volumes.push_back(makeShape(it.Current(), {}, "face").volume());
    std::sort(volumes.begin(), volumes.end());
    return volumes;
  });
}

std::string fileDifference(const Division& division, const fs::path& file) {
  Progress progress;
  std::vector<FileBody> bodies;
  std::vector<std::pair<double, double>> wanted;  // volumes, and how unsure they are
  for (const Shape* shape : {&division.inside, &division.outside})
    for (const Shape& piece : shape->pieces()) {
      bodies.push_back({"piece " + std::to_string(bodies.size() + 1), piece, std::nullopt, ""});
      wanted.emplace_back(piece.volume(), piece.volumeError());
    }
  std::sort(wanted.begin(), wanted.end());
  writeBodies(file, bodies, "mm", progress);
  std::vector<double> byKervo;
  for (const FileBody& body : readBodies(file, progress).bodies) byKervo.push_back(body.shape.volume());
  std::sort(byKervo.begin(), byKervo.end());
  const double scale = division.balance.before;
  for (const auto& [who, volumes] :
       {std::pair("the bare kernel", volumesByBareReader(file)), std::pair("Kervo", byKervo)}) {
    if (volumes.size() != wanted.size())
      return std::string(who) + " reads " + std::to_string(volumes.size()) + " solids of " +
             std::to_string(wanted.size());
    for (std::size_t i = 0; i < wanted.size(); ++i) {
      const auto [volume, unsure] = wanted[i];
      if (std::abs(volumes[i] - volume) <= 1e-6 * std::abs(volume) + 1e-9 * scale + unsure) continue;
      char text[200];
      std::snprintf(text, sizeof text, "%s reads %.9g mm³ for %.9g ± %.2g", who, volumes[i], volume, unsure);
      return text;
    }
  }
  return {};
}

Motion anywhere(std::mt19937& random) {
  const auto in = [&](double low, double high) { return std::uniform_real_distribution<double>(low, high)(random); };
  return Motion::turn({0, 0, 0}, {in(-1, 1), in(-1, 1), in(0.1, 1)}, in(0, 6))
      .then(Motion::by({in(-1e4, 1e4), in(-1e4, 1e4), in(-1e4, 1e4)}));
}

class Run {
 public:
  explicit Run(const Options& options)
      : options_(options), scratch_(fs::temp_directory_path() / ("kervo-corpus-" + std::to_string(::getpid()))) {
    fs::create_directories(scratch_);
  }
  ~Run() { fs::remove_all(scratch_); }

  void take(const Part& part, int number, std::uint64_t salt) {
    std::seed_seq seeds{options_.seed, static_cast<unsigned>(salt), static_cast<unsigned>(number)};
    std::mt19937 random(seeds);
    const auto kind = static_cast<CutterKind>(random() % 7);
    const CuttingBody cutter(kind, part.shape.roughBox(), random);
    const bool sound = part.unsound.empty();
    Row& row = rows_[sound ? "sound" : part.unsound];
    ++row.cases;
    const std::string where = part.name + " / " + std::to_string(number) + " " + cutter.text();

    Division division;
    const Shape body = cutter.body(part.shape.roughBox());
    const std::string refused = attempt(part.shape, body, division);
    if (!refused.empty()) {
      ++(refused == "took too long" ? row.tooLong : row.refused);
      ++reasons_[(sound ? "" : "(" + part.unsound + ") ") + classOf(refused)];
      std::printf("refused: %s: %s\n", where.c_str(), refused.c_str());
    } else {
      Contradiction said;
      try {
        said = contradiction(part, cutter, division, random);
      } catch (const std::exception& error) {
        said.picture = std::string("the result cannot be meshed: ") + error.what();
      }
      const std::string& wrong = said.result;
      if (!said.picture.empty()) {
        ++row.pictureWrong;
        std::printf("PICTURE: %s: %s\n", where.c_str(), said.picture.c_str());
      }
      const double off = std::abs(division.balance.residual()) / std::max(division.balance.before, 1e-300);
      if (wrong.empty() && off > 1e-6) ++row.withinLooseness;
      if (!wrong.empty()) {
        ++row.wrong;
        std::printf("WRONG: %s: %s\n", where.c_str(), wrong.c_str());
      } else if (division.inside.empty()) {
        ++row.missed;
      } else {
        ++row.right;
      }
      if (!division.remedy.empty()) ++row.remedied;
      if (wrong.empty() && !division.inside.empty()) {
        besideKernel(part, body, division, row);
        if (options_.files) file(division, where, row);
      }
      if (wrong.empty()) movedToo(part, cutter, division, where, random, row);
    }
    std::fflush(stdout);
  }

  bool failed() const {
    return std::any_of(rows_.begin(), rows_.end(), [](const auto& row) {
      return row.second.wrong > 0 || row.second.fileDiffers > 0 || row.second.movedDiffers > 0;
    });
  }

  std::string table() const {
    std::ostringstream text;
    char line[400];
    text << "| parts | cases | right | missed | refused | too long | wrong | picture wrong | file differs | moved "
            "differs | moved "
            "refused | with a remedy | within looseness | kernel wrong | kernel s | Kervo s |\n"
            "|---|---|---|---|---|---|---|---|---|---|---|---|---|---|---|---|\n";
    for (const auto& [name, row] : rows_) {
      std::snprintf(line, sizeof line,
                    "| %s | %d | %d | %d | %d | %d | %d | %d | %d | %d | %d | %d | %d | %d | %.1f | %.1f |\n",
                    name.c_str(), row.cases, row.right, row.missed, row.refused, row.tooLong, row.wrong,
                    row.pictureWrong, row.fileDiffers, row.movedDiffers, row.movedRefused, row.remedied,
                    row.withinLooseness, row.kernelWrong, row.kernelSeconds, row.seconds);
      text << line;
    }
    text << "\n";
    for (const auto& [reason, count] : reasons_) text << "- " << count << " × " << reason << "\n";
    return text.str();
  }

 private:
  struct Row {
    int cases = 0, right = 0, missed = 0, refused = 0, tooLong = 0, wrong = 0, pictureWrong = 0, fileDiffers = 0,
        movedDiffers = 0, movedRefused = 0, remedied = 0, withinLooseness = 0, kernelWrong = 0;
    double kernelSeconds = 0, seconds = 0;
  };

  /// Nothing if the cut was made, or why not.
  std::string attempt(const Shape& stock, const Shape& cutter, Division& division) const {
    Progress progress;
    const Deadline deadline(progress, options_.limitSeconds);
    try {
      division = divide(stock, {cutter}, progress);
      return {};
    } catch (const Stopped&) {
      return "took too long";
    } catch (const Error& error) {
      return error.happened();
    } catch (const std::exception& error) {
      return error.what();
    }
  }

  void besideKernel(const Part& part, const Shape& cutter, const Division& division, Row& row) const {
    // Copies, since the kernel changes the tolerances of what it is given.
    const TopoDS_Shape a = BRepBuilderAPI_Copy(part.shape.body().topology).Shape(),
                       b = BRepBuilderAPI_Copy(cutter.body().topology).Shape();
    const auto start = Clock::now();
    double inside = 0, outside = 0;
    try {
      kernelCall("the bare kernel", [&] {
        BRepAlgoAPI_Common commonPart(a, b);
        BRepAlgoAPI_Cut cut(a, b);
        row.kernelSeconds += secondsSince(start);
        for (const auto& [shape, sum] : {std::pair(commonPart.Shape(), &inside), std::pair(cut.Shape(), &outside)})
          *sum = shape.IsNull() ? 0 : makeShape(shape, {}, "face").volume();
      });
    } catch (const std::exception&) {
      inside = outside = -1;
    }
    const double scale = division.balance.before * 1e-4;
    row.kernelWrong +=
        std::abs(inside - division.balance.inside) > scale || std::abs(outside - division.balance.outside) > scale;
    Progress progress;
    const auto own = Clock::now();
    divide(part.shape, {cutter}, progress);
    row.seconds += secondsSince(own);
  }

  void file(const Division& division, const std::string& where, Row& row) const {
    std::string difference;
    try {
      difference = fileDifference(division, scratch_ / "result.step");
    } catch (const std::exception& error) {
      difference = error.what();
    }
    if (difference.empty()) return;
    ++row.fileDiffers;
    std::printf("FILE DIFFERS: %s: %s\n", where.c_str(), difference.c_str());
  }

  void movedToo(const Part& part, const CuttingBody& cutter, const Division& division, const std::string& where,
                std::mt19937& random, Row& row) const {
    const Motion motion = anywhere(random);
    const Shape body = cutter.body(part.shape.roughBox());
    Division again;
    try {
      const std::string refused = attempt(moved(part.shape, motion), moved(body, motion), again);
      if (!refused.empty()) {
        ++row.movedRefused;
        std::printf("moved, refused: %s: %s\n", where.c_str(), refused.c_str());
        return;
      }
    } catch (const std::exception& error) {
      std::printf("not moved: %s: %s\n", where.c_str(), error.what());
      return;
    }
    const double limit = 2e-6 * division.balance.before + 1e-6 * part.shape.area();
    if (std::abs(again.balance.inside - division.balance.inside) <= limit &&
        std::abs(again.balance.outside - division.balance.outside) <= limit)
      return;
    ++row.movedDiffers;
    std::printf("MOVED DIFFERS: %s: %.9g + %.9g mm³, moved %.9g + %.9g\n", where.c_str(), division.balance.inside,
                division.balance.outside, again.balance.inside, again.balance.outside);
  }

  /// The sentence without its numbers.
  static std::string classOf(const std::string& reason) {
    std::string result;
    for (const char c : reason) {
      const bool digit = (c >= '0' && c <= '9') ||
                         (!result.empty() && result.back() == '#' && (c == '.' || c == 'e' || c == '-' || c == '+'));
      if (!digit)
        result += c;
      else if (result.empty() || result.back() != '#')
        result += '#';
    }
    return result;
  }

  const Options& options_;
  fs::path scratch_;
  std::map<std::string, Row> rows_;
  std::map<std::string, int> reasons_;
};

Options optionsFrom(int argc, char** argv) {
  Options options;
  for (int i = 1; i < argc; ++i) {
    const std::string word = argv[i];
    const auto value = [&]() -> std::string { return i + 1 < argc ? argv[++i] : ""; };
    if (word == "--cuts")
      options.cutsPerBody = std::stoi(value());
    else if (word == "--cases")
      options.cases = std::stoi(value());
    else if (word == "--seed")
      options.seed = static_cast<unsigned>(std::stoul(value()));
    else if (word == "--only")
      options.only = value();
    else if (word == "--limit")
      options.limitSeconds = std::stod(value());
    else if (word == "--no-files")
      options.files = false;
    else if (word == "--markdown")
      options.markdown = value();
    else
      options.folders.emplace_back(word);
  }
  if (options.folders.empty()) options.folders = {"/usr/share/opencascade/data"};
  return options;
}

std::uint64_t saltOf(const std::string& text) {
  std::uint64_t hash = 1469598103934665603ull;
  for (const unsigned char c : text) hash = (hash ^ c) * 1099511628211ull;
  return hash;
}

int run(const Options& options) {
  Run run(options);
  std::vector<Part> parts;
  for (const fs::path& file : filesIn(options.folders))
    for (Part& part : partsOf(file))
      if (part.name.find(options.only) != std::string::npos) parts.push_back(std::move(part));
  std::printf("%zu solids\n", parts.size());
  for (const Part& part : parts)
    if (!part.unsound.empty()) std::printf("unsound: %s %s\n", part.name.c_str(), part.unsound.c_str());
  // One cut of every part after the other, so that fewer cases still see all parts.
  int done = 0;
  for (int number = 0; number < options.cutsPerBody; ++number)
    for (const Part& part : parts) {
      if (options.cases > 0 && done == options.cases) break;
      run.take(part, number, saltOf(part.name));
      ++done;
    }
  const std::string table = run.table();
  std::fputs(table.c_str(), stdout);
  if (!options.markdown.empty()) std::ofstream(options.markdown) << table;
  return run.failed() ? 1 : 0;
}

}  // namespace
}  // namespace kervo::corpus

int main(int argc, char** argv) {
  std::cout.rdbuf(nullptr);  // the kernel's reader writes there
  return kervo::corpus::run(kervo::corpus::optionsFrom(argc, argv));
}
