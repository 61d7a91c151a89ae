#include "exchange/mesh_file.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <limits>
#include <map>
#include <numeric>

#include "base/error.h"
#include "base/quantity.h"
#include "base/say.h"
#include "geom/mesh/planar_triangles.h"
#include "geom/mesh/welded.h"
#include "geom/motion.h"
#include "geom/tolerances.h"

namespace kervo {

std::optional<Color> MeshBody::colorOf(std::size_t triangle) const {
  if (!mesh.paints().empty())
    if (const auto own = kervo::colorOf(mesh.paints()[triangle])) return own;
  return color;
}

double lengthUnit(const std::string& unit) {
  const std::optional<Unit> known = findUnit(unit);
  if (!known || known->dimension != lengthDimension)
    throw Error(say("\"%1\" is not a length unit", unit), "", say("Use mm, cm, m, in or ft"));
  return known->factor;
}

namespace {

/// The same motion of lengths in another unit.
Motion scaledBy(const Motion& motion, double scale) {
  return Motion::scale({}, 1 / scale).then(motion).then(Motion::scale({}, scale));
}

/// In another unit, and as the file rounds it. Points that rounding all but joins become one.
Mesh inFile(const Mesh& mesh, double scale, Precision precision) {
  std::vector<Point> points = mesh.points();
  double largest = 0;
  for (Point& point : points) {
    point = point * scale;
    if (precision == Precision::Single)
      point = {double(static_cast<float>(point.x)), double(static_cast<float>(point.y)),
               double(static_cast<float>(point.z))};
    largest = std::max({largest, std::abs(point.x), std::abs(point.y), std::abs(point.z)});
  }
  Mesh::Extra extra = mesh.extra();
  extra.tolerance *= scale;
  const Mesh rounded(std::move(points), mesh.triangles(), std::move(extra));
  if (precision == Precision::Double) return welded(rounded, 0, false).mesh;
  // What is thinner than a few roundings is folded, if the mesh closes then, or as little of it as is needed for that.
  const double rounding = largest * double(std::numeric_limits<float>::epsilon());
  Mesh result;
  for (const double within : {4 * rounding, rounding, 16 * rounding, 0.0, 64 * rounding}) {
    Mesh tried = welded(rounded, within, false).mesh;
    if (result.empty() || tried.watertight()) result = std::move(tried);
    if (result.watertight() || !mesh.watertight()) break;
  }
  return result;
}

}  // namespace

std::vector<MeshBody> meshBodies(const std::vector<FileBody>& bodies, const WriteWishes& wishes, Precision precision,
                                 const std::filesystem::path& path, Progress& progress) {
  const double scale = 1 / lengthUnit(wishes.unit);
  const std::vector<std::optional<Follows>> followers = followersIn(bodies);
  std::vector<MeshBody> result;
  for (std::size_t i = 0; i < bodies.size(); ++i) {
    const FileBody& body = bodies[i];
    progress.throwIfStopped();
    if (const auto& follows = followers[i]) {
      const Motion from = scaledBy(follows->from, scale);
      result.push_back(
          {body.name, *moved(Shape(result[follows->first].mesh), from).mesh(), body.color, body.layer, body.within});
      result.back().follows = Follows{follows->first, from};
      continue;
    }
    progress.enter(static_cast<double>(i) / static_cast<double>(bodies.size()),
                   static_cast<double>(i + 1) / static_cast<double>(bodies.size()), body.name);
    if (body.shape.kind() == BodyKind::Curve)
      throw FileError(say("\"%1\" is a curve, which has no triangles", body.name), path.string(),
                      say("Leave it out, or write STEP"));
    Mesh mesh;
    try {
      mesh = inFile(meshed(body.shape, wishes.fineness, progress), scale, precision);
    } catch (const FileError&) {
      throw;
    } catch (const Error& error) {
      throw FileError("\"" + body.name + "\": " + error.happened(), path.string(), error.help());
    }
    if (mesh.empty()) throw FileError(say("\"%1\" is too small for a file of this kind", body.name), path.string());
    if (body.shape.hasInside() && !mesh.watertight())
      throw FileError(
          say("the triangles of \"%1\" do not close: %2 of their edges lie open", body.name, mesh.openEdges()),
          path.string(), say("Repair the body, or write STEP. Nothing was written"));
    result.push_back({body.name, std::move(mesh), body.color, body.layer, body.within});
  }
  return result;
}

FileContents contentsOf(std::vector<MeshBody> bodies, const std::string& unit, const std::filesystem::path& path) {
  const double factor = lengthUnit(unit);
  FileContents contents;
  contents.unit = unit;
  for (std::size_t i = 0; i < bodies.size(); ++i) {
    MeshBody& body = bodies[i];
    if (body.name.empty()) body.name = path.stem().string() + (bodies.size() == 1 ? "" : " " + std::to_string(i + 1));
    if (!body.broken.empty()) {
      contents.lost.push_back({say("\"%1\" cannot be read: %2", body.name, body.broken)});
      continue;
    }
    if (body.mesh.empty()) {
      contents.notes.push_back(say("\"%1\" has no triangles and was left out", body.name));
      continue;
    }
    std::vector<Point> points = body.mesh.points();
    bool far = false;
    for (Point& point : points) {
      point = point * factor;
      for (const double value : {point.x, point.y, point.z})
        far |= !std::isfinite(value) || std::abs(value) > tolerance::largestSize;
    }
    if (far) {
      contents.lost.push_back(
          {say("\"%1\" has a point farther out than %2 mm", body.name, formatNumber(tolerance::largestSize)),
           say("Check the unit of the file")});
      continue;
    }
    Mesh mesh(std::move(points), body.mesh.triangles(), body.mesh.extra());
    contents.bodies.push_back({body.name, Shape(std::move(mesh)), body.color, body.layer});
    contents.bodies.back().within = body.within;
  }
  if (contents.bodies.empty() && contents.lost.empty()) throw FileError(say("the file holds no body"), path.string());
  return contents;
}

FileContents contentsOf(std::vector<MeshBody> bodies, const std::string& wanted, const std::string& said,
                        const std::filesystem::path& path) {
  FileContents contents = contentsOf(std::move(bodies), !wanted.empty() ? wanted : !said.empty() ? said : "mm", path);
  contents.unitNamed = !said.empty() || !wanted.empty();
  return contents;
}

std::vector<Mesh::Triangle> trianglesOf(const std::vector<Point>& polygon) {
  const auto count = static_cast<std::uint32_t>(polygon.size());
  if (count < 3) return {};
  if (count == 3) return {{0, 1, 2}};
  // Newell's normal, which is right for polygons that are not convex or not quite flat.
  Vector normal;
  for (std::size_t i = 0; i < count; ++i) normal = normal + cross(polygon[i], polygon[(i + 1) % count]);
  if (length(normal) > 0) {
    const Plane plane = Plane::through(polygon.front(), normal);
    std::vector<PlanePoint> flat;
    for (const Point& point : polygon) {
      const Point local = plane.coordinates(point);
      flat.push_back({local.x, local.y});
    }
    std::vector<int> line(count + 1);
    std::iota(line.begin(), line.end(), 0);
    line.back() = 0;
    if (const auto made = planarTriangles(flat, {line}); made && made->size() == count - 2) {
      std::vector<Mesh::Triangle> result;
      for (const auto& each : *made)
        result.push_back({static_cast<std::uint32_t>(each[0]), static_cast<std::uint32_t>(each[1]),
                          static_cast<std::uint32_t>(each[2])});
      return result;
    }
  }
  std::vector<Mesh::Triangle> fan;
  for (std::uint32_t i = 1; i + 1 < count; ++i) fan.push_back({0, i, i + 1});
  return fan;
}

void requireSame(const std::vector<MeshBody>& written, const FileContents& read, const std::string& unit,
                 const std::filesystem::path& path) {
  const auto fail = [&](const std::string& what) {
    throw FileError(say("the file is not read back as it was written: %1", what), path.string(),
                    say("Write to another place, or in another format"));
  };
  if (written.size() != read.bodies.size())
    fail(say("%1 bodies are there instead of %2", read.bodies.size(), written.size()));
  const double factor = lengthUnit(unit);
  for (std::size_t i = 0; i < written.size(); ++i) {
    const MeshBody& body = written[i];
    const FileBody& back = read.bodies[i];
    const std::string name = "\"" + body.name + "\"";
    const Mesh* mesh = back.shape.mesh();
    if (body.within != back.within) fail(say("%1 is in another assembly there", name));
    if (body.name != back.name) fail(say("%1 is called \"%2\" there", name, back.name));
    if (!mesh || mesh->triangles().size() != body.mesh.triangles().size())
      fail(say("%1 has another number of triangles there", name));
    constexpr double rounding = 1e-5;
    const double area = body.mesh.area() * factor * factor;
    if (!mesh || std::abs(mesh->area() - area) > rounding * area) fail(say("%1 has another area there", name));
    if (mesh && mesh->openEdges() != body.mesh.openEdges()) fail(say("%1 has other open edges there", name));
    // Formats that keep the triangles of a colour together put them in another order.
    std::map<Paint, std::size_t> wanted, found;
    const MeshBody there{back.name, mesh ? *mesh : Mesh(), back.color};
    for (std::size_t t = 0; mesh && t < mesh->triangles().size(); ++t) {
      const auto a = body.colorOf(t), b = there.colorOf(t);
      ++wanted[a ? paintOf(*a) : 0];
      ++found[b ? paintOf(*b) : 0];
    }
    if (wanted != found) fail(say("%1 has other colours there", name));
  }
}

bool LineReader::nextLine() {
  joined_.clear();
  while (true) {
    if (at_ >= text_.size()) {
      if (joined_.empty()) return false;
      break;
    }
    const std::size_t end = std::min(text_.find('\n', at_), text_.size());
    std::string_view line = text_.substr(at_, end - at_);
    at_ = end + 1;
    ++line_;
    if (!line.empty() && line.back() == '\r') line.remove_suffix(1);
    const bool goesOn = !line.empty() && line.back() == '\\';
    if (goesOn) line.remove_suffix(1);
    if (!goesOn && joined_.empty()) {
      now_ = line;
      return true;
    }
    joined_ += line;
    joined_ += ' ';
    if (!goesOn) break;
  }
  now_ = joined_;
  return true;
}

std::string_view LineReader::word() {
  const std::size_t begin = std::min(now_.find_first_not_of(" \t"), now_.size());
  now_.remove_prefix(begin);
  const std::size_t end = std::min(now_.find_first_of(" \t"), now_.size());
  const std::string_view result = now_.substr(0, end);
  now_.remove_prefix(end);
  return result;
}

std::string_view LineReader::rest() {
  std::string_view result = now_;
  now_ = {};
  while (!result.empty() && (result.front() == ' ' || result.front() == '\t')) result.remove_prefix(1);
  while (!result.empty() && (result.back() == ' ' || result.back() == '\t')) result.remove_suffix(1);
  return result;
}

double numberFrom(std::string_view word, bool& good) {
  if (!word.empty() && word.front() == '+') word.remove_prefix(1);
  double value = 0;
  const auto [end, error] = std::from_chars(word.data(), word.data() + word.size(), value);
  good = error == std::errc() && end == word.data() + word.size() && std::isfinite(value);
  // Too small for a number is nothing.
  const bool small = word.find("e-") != std::string_view::npos || word.find("E-") != std::string_view::npos;
  if (error == std::errc::result_out_of_range && small) good = true, value = 0;
  return value;
}

double LineReader::number() {
  const std::string_view text = word();
  bool good = false;
  const double value = numberFrom(text, good);
  if (!good) fail(say("\"%1\" is not a number", std::string(text)));
  return value;
}

std::int64_t LineReader::wholeNumber() {
  std::string_view text = word();
  std::int64_t value = 0;
  const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), value);
  if (error != std::errc() || end != text.data() + text.size())
    fail(say("\"%1\" is not a whole number", std::string(text)));
  return value;
}

void LineReader::fail(const std::string& what, const std::string& help) const {
  throw FileError(what, say("%1, line %2", file_, line_),
                  help.empty() ? say("The file is damaged, or was written by a program that errs") : help);
}

}  // namespace kervo
