#include "exchange/read_back.h"

#include <cmath>
#include <map>

#include "base/error.h"
#include "base/quantity.h"
#include "base/say.h"
#include "exchange/body_separator.h"
#include "geom/kernel/shape_body.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

/// The area in mm² that has each colour.
std::map<std::string, double> areaByColor(const FileBody& body) {
  std::map<std::string, double> areas;
  for (const auto& [face, facts] : body.shape.body().faces) {
    const auto* own = facts.color ? std::get_if<Color>(&*facts.color) : nullptr;
    const std::optional<Color> color = own ? *own : body.color;
    areas[color ? colorText(*color) : "none"] += facts.integrals.area;
  }
  return areas;
}

/// Of one body that was written, and those that were read for it.
struct Sum {
  double volume = 0;
  double area = 0;
  std::map<std::string, double> colors;
};

Sum sumOf(const std::vector<FileBody>& bodies, std::size_t from, std::size_t count) {
  Sum sum;
  for (std::size_t i = from; i < from + count; ++i) {
    sum.volume += bodies[i].shape.volume();
    sum.area += bodies[i].shape.area();
    for (const auto& [color, area] : areaByColor(bodies[i])) sum.colors[color] += area;
  }
  return sum;
}

std::string instead(const char* what, double read, double written, const char* unit) {
  return say("its %1 is %2 %3 there instead of %4 %5", say(what), formatNumber(read, 9), unit, formatNumber(written, 9),
             unit);
}

std::optional<std::string> differenceOfShapes(const FileBody& written, const Sum& wanted, const Sum& found,
                                              const std::vector<FileBody>& read, std::size_t from, std::size_t count) {
  for (std::size_t i = from; i < from + count; ++i)
    if (read[i].shape.kind() != written.shape.kind())
      return say("it is a %1 there instead of a %2", say(nameOf(read[i].shape.kind())),
                 say(nameOf(written.shape.kind())));
  const double skin = tolerance::point * wanted.area;
  if (!(std::abs(found.volume - wanted.volume) <=
        tolerance::balance * std::abs(wanted.volume) + skin + written.shape.volumeError()))
    return instead("volume", found.volume, wanted.volume, "mm³");
  // An edge that is loose by d changes the areas beside it by d times its length, which is some roots of the area.
  const double loose = wanted.area > 0 ? 10 * written.shape.volumeError() / std::sqrt(wanted.area) : 0;
  if (!(std::abs(found.area - wanted.area) <= 1e-5 * wanted.area + loose))
    return instead("area", found.area, wanted.area, "mm²");
  return std::nullopt;
}

std::optional<std::string> differenceOfLooks(const FileBody& written, const Sum& wanted, const Sum& found,
                                             const std::vector<FileBody>& read, std::size_t from, std::size_t count) {
  if (count == 1 && !written.name.empty() && read[from].name != written.name)
    return say("it is called \"%1\" there", read[from].name);
  if (read[from].within != written.within) return say("it is in another assembly there");
  for (std::size_t i = from; i < from + count; ++i)
    if (read[i].layer != written.layer)
      return say("it is on the layer \"%1\" there instead of \"%2\"", read[i].layer, written.layer);
  for (const auto& [color, area] : wanted.colors) {
    const auto there = found.colors.find(color);
    if (there == found.colors.end() || std::abs(there->second - area) > 1e-3 * wanted.area)
      return say("its color %1 is not on the same faces there", color);
  }
  return std::nullopt;
}

}  // namespace

std::vector<Difference> differences(const std::vector<FileBody>& written, const std::vector<FileBody>& read,
                                    Keeps keeps) {
  std::vector<Difference> result;
  std::size_t at = 0;
  for (std::size_t i = 0; i < written.size(); ++i) {
    const std::size_t count = separateBodies(written[i].shape.body().topology).size();
    if (at + count > read.size()) {
      result.push_back({i, say("it is missing there"), true});
      return result;
    }
    const Sum wanted = sumOf(written, i, 1), found = sumOf(read, at, count);
    if (auto what = differenceOfShapes(written[i], wanted, found, read, at, count))
      result.push_back({i, std::move(*what), true});
    else if (keeps == Keeps::Looks)
      if (auto looks = differenceOfLooks(written[i], wanted, found, read, at, count))
        result.push_back({i, std::move(*looks), false});
    at += count;
  }
  if (at < read.size()) result.push_back({written.size() - 1, say("it is divided there"), true});
  return result;
}

FileError unfaithful(const FileBody& body, const Difference& difference, const std::filesystem::path& path) {
  return FileError(
      say("the file would not hold what was made: read back, \"%1\" is not the same; %2", body.name, difference.what),
      path.string(), say("Write another format, or leave that body out. Nothing was written"));
}

}  // namespace kervo
