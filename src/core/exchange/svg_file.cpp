#include "exchange/svg_file.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <cstring>
#include <map>
#include <numbers>
#include <pugixml.hpp>
#include <string_view>

#include "base/error.h"
#include "base/say.h"
#include "drawing/plane_map.h"
#include "exchange/atomic_file.h"
#include "exchange/svg_path.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

constexpr double degree = std::numbers::pi / 180;
constexpr int deepest = 64;

/// The name without its namespace's prefix.
std::string_view localName(const pugi::xml_node& node) {
  const std::string_view name = node.name();
  return name.substr(name.find(':') == std::string_view::npos ? 0 : name.find(':') + 1);
}

/// What lengths in per cent are shares of.
struct Room {
  double width = 0, height = 0;
  double across() const { return std::hypot(width, height) / std::numbers::sqrt2; }
};

struct Length {
  double value = 0;  ///< in user units, 96 to an inch
  std::string unit;
};

Length lengthOf(const char* text, double whole) {
  const char* const end = text + std::strlen(text);
  while (*text == ' ') ++text;
  if (*text == '+') ++text;
  Length length;
  const auto [after, code] = std::from_chars(text, end, length.value);
  if (code != std::errc() || !std::isfinite(length.value)) throw Error(say("\"%1\" is no length", std::string(text)));
  length.unit.assign(after, end);
  while (!length.unit.empty() && length.unit.back() == ' ') length.unit.pop_back();
  static const std::map<std::string, double> units{{"", 1},    {"px", 1},         {"mm", 96 / 25.4}, {"cm", 96 / 2.54},
                                                   {"in", 96}, {"pt", 96.0 / 72}, {"pc", 16},        {"Q", 96 / 101.6},
                                                   {"em", 16}, {"ex", 8}};
  if (length.unit == "%") {
    length.value *= whole / 100;
    return length;
  }
  const auto unit = units.find(length.unit);
  if (unit == units.end()) throw Error(say("\"%1\" is no unit of length", length.unit));
  length.value *= unit->second;
  return length;
}

double lengthAt(const pugi::xml_node& node, const char* name, double whole, double otherwise = 0) {
  const pugi::xml_attribute attribute = node.attribute(name);
  const std::string_view text = attribute.value();
  return attribute && text != "auto" && !text.empty() ? lengthOf(attribute.value(), whole).value : otherwise;
}

PlaneMap transformOf(const std::string& text) {
  PlaneMap map;
  for (std::size_t at = 0; at < text.size();) {
    const std::size_t open = text.find('(', at);
    if (open == std::string::npos) break;
    const std::size_t close = text.find(')', open);
    if (close == std::string::npos) throw Error(say("the transform \"%1\" does not end", text));
    std::string name = text.substr(at, open - at);
    std::erase_if(name, [](char c) { return std::isalpha(static_cast<unsigned char>(c)) == 0; });
    const std::vector<double> n = svgNumbers(text.substr(open + 1, close - open - 1));
    const auto nth = [&](std::size_t i, double otherwise) { return i < n.size() ? n[i] : otherwise; };
    at = close + 1;
    if (n.empty()) throw Error(say("the transform \"%1\" has no numbers", name));
    PlaneMap next;
    if (name == "translate") {
      next = PlaneMap::shift({n[0], nth(1, 0)});
    } else if (name == "scale") {
      next = PlaneMap::scale(n[0], nth(1, n[0]));
    } else if (name == "rotate") {
      const PlanePoint about{nth(1, 0), nth(2, 0)};
      next = PlaneMap::shift(about).after(PlaneMap::turn(n[0] * degree)).after(PlaneMap::shift(about * -1));
    } else if (name == "skewX") {
      next.y.u = std::tan(n[0] * degree);
    } else if (name == "skewY") {
      next.x.v = std::tan(n[0] * degree);
    } else if (name == "matrix" && n.size() == 6) {
      next = {{n[0], n[1]}, {n[2], n[3]}, {n[4], n[5]}};
    } else {
      throw Error(say("the transform \"%1\" is not known", name));
    }
    map = map.after(next);
  }
  return map;
}

/// From the coordinates of a view box to the room it is shown in: SVG 2, 8.2.
PlaneMap viewBoxMap(const pugi::xml_node& node, const Room& room, Room& inner) {
  inner = room;
  if (!node.attribute("viewBox")) return {};
  const std::vector<double> box = svgNumbers(node.attribute("viewBox").value());
  if (box.size() != 4 || !(box[2] > 0) || !(box[3] > 0)) throw Error(say("the view box has no size"));
  inner = {box[2], box[3]};
  double u = room.width / box[2], v = room.height / box[3];
  const std::string fit = node.attribute("preserveAspectRatio").value();
  PlanePoint rest;
  if (fit.find("none") == std::string::npos) {
    u = v = fit.find("slice") != std::string::npos ? std::max(u, v) : std::min(u, v);
    const auto share = [&](const char* low, const char* high) {
      return fit.find(low) != std::string::npos ? 0.0 : fit.find(high) != std::string::npos ? 1.0 : 0.5;
    };
    rest = {(room.width - box[2] * u) * share("xMin", "xMax"), (room.height - box[3] * v) * share("YMin", "YMax")};
  }
  return PlaneMap::shift(rest).after(PlaneMap::scale(u, v)).after(PlaneMap::shift({-box[0], -box[1]}));
}

class SvgReader {
 public:
  SvgReader(std::string file, const std::string& text, Progress& progress)
      : file_(std::move(file)), progress_(progress) {
    const pugi::xml_parse_result parsed = document_.load_buffer(text.data(), text.size());
    const auto upTo = text.begin() + std::min<std::ptrdiff_t>(parsed.offset, static_cast<std::ptrdiff_t>(text.size()));
    if (!parsed)
      throw FileError(say("the file is not well-formed: %1", std::string(parsed.description())),
                      say("%1, line %2", file_, 1 + std::count(text.begin(), upTo, '\n')),
                      say("Export it again from the program that wrote it"));
    for (const pugi::xml_node& child : document_.children())
      if (localName(child) == "svg") root_ = child;
    if (!root_) throw FileError(say("the file holds no SVG picture"), file_, say("Choose another file"));
    remember(root_, 0);
  }

  FileCurves read(const std::string& unit) {
    Room inner;
    try {
      place(unit, inner);
    } catch (const Error& error) {
      throw FileError(error.happened(), file_, say("Export it again from the program that wrote it"));
    }
    readChildren(root_, toSheet_, inner, 0);
    for (const auto& [name, count] : leftOut_)
      result_.notes.push_back(count == 1
                                  ? say("one <%1> was left out: it is no outline", name)
                                  : say("%1 of <%2> were left out: they are no outlines", std::to_string(count), name));
    if (clipped_) result_.notes.push_back(say("clips and masks were ignored: curves are whole"));
    return std::move(result_);
  }

 private:
  void remember(const pugi::xml_node& node, int depth) {
    if (depth > 4 * deepest) throw FileError(say("its groups are nested too deeply"), file_);
    if (const auto id = node.attribute("id")) byId_.try_emplace(id.value(), node);
    for (const pugi::xml_node& child : node.children()) remember(child, depth + 1);
  }

  /// How the whole picture lies: mm, v upwards, its lower left corner at (0, 0).
  void place(const std::string& unit, Room& inner) {
    const pugi::xml_attribute width = root_.attribute("width"), height = root_.attribute("height");
    const auto given = [](const pugi::xml_attribute& size) {
      return size && std::strchr(size.value(), '%') == nullptr && std::strcmp(size.value(), "auto") != 0;
    };
    const std::vector<double> box = svgNumbers(root_.attribute("viewBox").value());
    const Room boxRoom = box.size() == 4 ? Room{box[2], box[3]} : Room{};
    Room room = boxRoom;
    if (given(width)) {
      const Length size = lengthOf(width.value(), 0);
      room.width = size.value;
      room.height = boxRoom.width > 0 ? boxRoom.height * size.value / boxRoom.width : 0;
      result_.unit = size.unit.empty() ? "px" : size.unit;
    } else {
      result_.unit = "px";
    }
    if (given(height)) room.height = lengthOf(height.value(), 0).value;
    result_.unitNamed = result_.unit != "px" && result_.unit != "em" && result_.unit != "ex";
    double factor = curveUnit("px").value_or(1);
    PlaneMap map = viewBoxMap(root_, room, inner);
    if (!unit.empty()) {
      // One unit of its own coordinates is one of those.
      factor = curveUnit(unit).value_or(1);
      result_.unit = unit;
      result_.unitNamed = true;
      map = box.size() == 4 ? PlaneMap::shift({-box[0], -box[1]}) : PlaneMap();
      room = inner;
    }
    toSheet_ = PlaneMap::shift({0, room.height * factor}).after(PlaneMap::scale(factor, -factor)).after(map);
  }

  void readChildren(const pugi::xml_node& node, const PlaneMap& map, const Room& room, int depth) {
    for (const pugi::xml_node& child : node.children())
      if (child.type() == pugi::node_element) readNode(child, map, room, depth + 1);
  }

  void readNode(const pugi::xml_node& node, PlaneMap map, const Room& room, int depth) {
    progress_.throwIfStopped();
    if (++nodes_ > mostFileCurves) throw tooMany();
    const std::string_view name = localName(node);
    const bool isOuter = outer_.empty() && depth == 1 && name == "g";
    if (isOuter) outer_ = node.attribute("id").value();
    try {
      if (depth > deepest) throw Error(say("its groups are nested too deeply, or use themselves"));
      if (!isHidden(node)) {
        if (const auto transform = node.attribute("transform")) map = map.after(transformOf(transform.value()));
        if (node.attribute("clip-path") || node.attribute("mask")) clipped_ = true;
        readInside(node, name, map, room, depth);
      }
    } catch (const FileError&) {
      throw;
    } catch (const Error& error) {
      const std::string id = node.attribute("id").value();
      const std::string what =
          id.empty() ? say("%1, <%2>", file_, std::string(name)) : say("%1, <%2> \"%3\"", file_, std::string(name), id);
      throw FileError(error.happened(), what, say("Export the file again from the program that wrote it"));
    }
    if (isOuter) outer_.clear();
  }

  FileError tooMany() const {
    return FileError(say("the file stands for more than %1 curves", std::to_string(mostFileCurves)), file_,
                     say("Export less of it"));
  }

  /// By an attribute of its own or its style.
  static bool isHidden(const pugi::xml_node& node) {
    std::string style = node.attribute("style").value();
    std::erase_if(style, [](char c) { return c == ' ' || c == '\n'; });
    return std::strcmp(node.attribute("display").value(), "none") == 0 ||
           style.find("display:none") != std::string::npos;
  }

  void readInside(const pugi::xml_node& node, std::string_view name, const PlaneMap& map, const Room& room, int depth) {
    static constexpr std::string_view quiet[] = {"defs",     "title",          "desc",           "metadata",  "style",
                                                 "clipPath", "mask",           "marker",         "symbol",    "pattern",
                                                 "filter",   "linearGradient", "radialGradient", "namedview", "script"};
    if (name == "g" || name == "a" || name == "switch") return readChildren(node, map, room, depth);
    if (name == "svg") return readView(node, map, room, depth);
    if (name == "use") return readUse(node, map, room, depth);
    if (isShape(name)) {
      for (const auto& curve : shape(node, name, room))
        if (auto placed = mapped(*curve, map)) {
          if (++nodes_ > mostFileCurves) throw tooMany();
          result_.layer(outer_).curves.push_back(std::move(placed));
        }
      return;
    }
    if (std::find(std::begin(quiet), std::end(quiet), name) == std::end(quiet)) ++leftOut_[std::string(name)];
  }

  void readView(const pugi::xml_node& node, const PlaneMap& map, const Room& room, int depth,
                const Room* asked = nullptr) {
    const Room own{asked && asked->width > 0 ? asked->width : lengthAt(node, "width", room.width, room.width),
                   asked && asked->height > 0 ? asked->height : lengthAt(node, "height", room.height, room.height)};
    const PlaneMap moved =
        map.after(PlaneMap::shift({lengthAt(node, "x", room.width), lengthAt(node, "y", room.height)}));
    Room inner;
    const PlaneMap inside = moved.after(viewBoxMap(node, own, inner));
    readChildren(node, inside, inner, depth);
  }

  void readUse(const pugi::xml_node& node, const PlaneMap& map, const Room& room, int depth) {
    std::string target = node.attribute("href").value();
    if (target.empty()) target = node.attribute("xlink:href").value();
    if (target.empty() || target[0] != '#') {
      ++leftOut_["use"];
      return;
    }
    const auto found = byId_.find(target.substr(1));
    if (found == byId_.end()) return;
    const PlaneMap moved =
        map.after(PlaneMap::shift({lengthAt(node, "x", room.width), lengthAt(node, "y", room.height)}));
    const std::string_view name = localName(found->second);
    if (name != "symbol" && name != "svg") return readNode(found->second, moved, room, depth + 1);
    const Room asked{lengthAt(node, "width", room.width), lengthAt(node, "height", room.height)};
    if (depth > deepest) throw Error(say("its groups are nested too deeply, or use themselves"));
    readView(found->second, moved, room, depth + 1, &asked);
  }

  static bool isShape(std::string_view name) {
    static constexpr std::string_view shapes[] = {"path", "rect", "circle", "ellipse", "line", "polyline", "polygon"};
    return std::find(std::begin(shapes), std::end(shapes), name) != std::end(shapes);
  }

  static PlaneCurves shape(const pugi::xml_node& node, std::string_view name, const Room& room) {
    if (name == "path") return svgPath(node.attribute("d").value());
    const auto along = [&](const char* key, double otherwise = 0) {
      return lengthAt(node, key, room.width, otherwise);
    };
    const auto upright = [&](const char* key, double otherwise = 0) {
      return lengthAt(node, key, room.height, otherwise);
    };
    PlaneCurves curves;
    const auto add = [&](std::shared_ptr<const PlaneCurve> curve) {
      if (curve) curves.push_back(std::move(curve));
    };
    if (name == "line") add(lineCurve({along("x1"), upright("y1")}, {along("x2"), upright("y2")}));
    if (name == "circle" || name == "ellipse") {
      const bool isCircle = name == "circle";
      const double rx = isCircle ? lengthAt(node, "r", room.across()) : along("rx", -1);
      const double ry = isCircle ? rx : upright("ry", -1);
      // One that is not given is like the other.
      add(roundCurve({along("cx"), upright("cy")}, {rx < 0 ? ry : rx, 0}, {0, ry < 0 ? rx : ry}, 0,
                     2 * std::numbers::pi));
    }
    if (name == "polyline" || name == "polygon") {
      const std::vector<double> n = svgNumbers(node.attribute("points").value());
      const std::size_t count = n.size() / 2;
      const auto corner = [&](std::size_t i) { return PlanePoint{n[2 * i], n[2 * i + 1]}; };
      for (std::size_t i = 0; i + 1 < count; ++i) add(lineCurve(corner(i), corner(i + 1)));
      if (name == "polygon" && count > 2) add(lineCurve(corner(count - 1), corner(0)));
    }
    if (name == "rect") addRect(node, room, add);
    return curves;
  }

  static void addRect(const pugi::xml_node& node, const Room& room,
                      const std::function<void(std::shared_ptr<const PlaneCurve>)>& add) {
    const PlanePoint low{lengthAt(node, "x", room.width), lengthAt(node, "y", room.height)};
    const double width = lengthAt(node, "width", room.width), height = lengthAt(node, "height", room.height);
    if (width <= 0 || height <= 0) return;
    double rx = lengthAt(node, "rx", room.width, -1), ry = lengthAt(node, "ry", room.height, -1);
    if (rx < 0) rx = std::max(ry, 0.0);
    if (ry < 0) ry = rx;
    rx = std::min(rx, width / 2);
    ry = std::min(ry, height / 2);
    const PlanePoint high{low.u + width, low.v + height};
    add(lineCurve({low.u + rx, low.v}, {high.u - rx, low.v}));
    add(lineCurve({high.u, low.v + ry}, {high.u, high.v - ry}));
    add(lineCurve({high.u - rx, high.v}, {low.u + rx, high.v}));
    add(lineCurve({low.u, high.v - ry}, {low.u, low.v + ry}));
    if (rx <= 0 || ry <= 0) return;
    const PlanePoint centres[] = {
        {high.u - rx, high.v - ry}, {low.u + rx, high.v - ry}, {low.u + rx, low.v + ry}, {high.u - rx, low.v + ry}};
    for (int i = 0; i < 4; ++i)
      add(roundCurve(centres[i], {rx, 0}, {0, ry}, i * std::numbers::pi / 2, (i + 1) * std::numbers::pi / 2));
  }

  std::string file_;
  Progress& progress_;
  pugi::xml_document document_;
  pugi::xml_node root_;
  std::map<std::string, pugi::xml_node, std::less<>> byId_;
  PlaneMap toSheet_;
  FileCurves result_;
  std::string outer_;  ///< the outermost group that is being read
  std::map<std::string, int> leftOut_;
  bool clipped_ = false;
  std::size_t nodes_ = 0;
};

}  // namespace

const Format& svgFormat() {
  static const Format format{.name = "SVG",
                             .extensions = {".svg"},
                             .mimeTypes = {"image/svg+xml"},
                             .holds = Format::Holds::Curves,
                             .carries = later("outlines in groups"),
                             .readCurves = readSvg,
                             .writePicture = writeSvg};
  return format;
}

FileCurves readSvg(const std::filesystem::path& path, const std::string& unit, Progress& progress) {
  return SvgReader(path.filename().string(), readWhole(path, mostCurveBytes), progress).read(unit);
}

}  // namespace kervo
