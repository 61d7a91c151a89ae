#include <array>
#include <charconv>
#include <cmath>
#include <numbers>
#include <pugixml.hpp>
#include <sstream>

#include "exchange/atomic_file.h"
#include "exchange/svg_file.h"

namespace kervo {

namespace {

std::string number(double value) {
  std::array<char, 32> buffer{};
  // 1e-7 mm is finer than anything that is cut.
  const double rounded = std::round(value * 1e7) / 1e7;
  return {buffer.data(), std::to_chars(buffer.data(), buffer.data() + buffer.size(), rounded == 0 ? 0.0 : rounded).ptr};
}

class SvgWriter {
 public:
  explicit SvgWriter(const FlatPicture& picture) : picture_(picture) {}

  std::string text() {
    pugi::xml_node svg = document_.append_child("svg");
    set(svg, "xmlns", "http://www.w3.org/2000/svg");
    set(svg, "width", number(picture_.width) + "mm");
    set(svg, "height", number(picture_.height) + "mm");
    set(svg, "viewBox", "0 0 " + number(picture_.width) + " " + number(picture_.height));
    if (!picture_.title.empty()) svg.append_child("title").text().set(picture_.title.c_str());
    for (const FlatLayer& layer : picture_.layers) {
      pugi::xml_node group = svg.append_child("g");
      set(group, "id", layer.name);
      set(group, "fill", "none");
      set(group, "stroke", colorText(layer.ink));
      set(group, "stroke-width", number(layer.width));
      set(group, "stroke-linejoin", "round");
      if (layer.dash > 0) set(group, "stroke-dasharray", number(layer.dash) + " " + number(layer.gap));
      for (const FlatFill& fill : layer.fills) add(group, fill);
      for (const FlatChain& chain : layer.chains) set(group.append_child("path"), "d", path(chain));
    }
    std::ostringstream out;
    document_.save(out, " ");
    return out.str();
  }

 private:
  static void set(pugi::xml_node node, const char* name, const std::string& value) {
    node.append_attribute(name).set_value(value.c_str());
  }
  std::string at(PlanePoint point) const { return number(point.u) + " " + number(picture_.height - point.v); }

  void add(pugi::xml_node group, const FlatFill& fill) {
    std::string border;
    for (const FlatChain& loop : fill.loops) border += path(loop);
    pugi::xml_node area = group.append_child("path");
    set(area, "d", border);
    set(area, "fill", colorText(fill.color));
    set(area, "fill-rule", "evenodd");
    set(area, "stroke", "none");
    if (fill.hatch.empty()) return;
    const std::string id = "hatch" + std::to_string(++hatches_);
    pugi::xml_node clip = group.append_child("clipPath");
    set(clip, "id", id);
    pugi::xml_node within = clip.append_child("path");
    set(within, "d", border);
    set(within, "clip-rule", "evenodd");
    pugi::xml_node lines = group.append_child("g");
    set(lines, "clip-path", "url(#" + id + ")");
    set(lines, "stroke-width", "0.13");
    const PlaneBox box = boxOf(fill.loops);
    for (const HatchLines& family : fill.hatch) {
      std::string all;
      for (const auto& [from, to] : hatchAcross(family, box)) all += "M" + at(from) + "L" + at(to);
      if (all.empty()) continue;
      pugi::xml_node drawn = lines.append_child("path");
      set(drawn, "d", all);
      if (family.dash > 0) set(drawn, "stroke-dasharray", number(family.dash) + " " + number(family.gap));
    }
  }

  /// Lines and arcs as they are, the rest as cubics.
  std::string path(const FlatChain& chain) const {
    const RunOfChain run = runOf(chain);
    std::string text = "M" + at(run.start);
    for (std::size_t i = 0; i < chain.size(); ++i) {
      const bool back = run.backwards[i];
      const SpaceCurve curve = chain[i]->on({});
      const auto* arc = std::get_if<CircularArc>(&curve.form());
      if (arc) {
        const double turn = arc->toAngle - arc->fromAngle;
        // Above, v runs upwards: what turns left here turns right there.
        const bool left = (arc->axes.normal.z > 0) != back;
        const std::string radius = number(arc->radius), way = left ? " 0 " : " 1 ";
        const auto to = [&](double t, bool large) {
          text += "A" + radius + " " + radius + " 0 " + (large ? "1" : "0") + way + at(chain[i]->at(back ? 1 - t : t));
        };
        // A whole turn has no end of its own.
        if (curve.closed()) to(0.5, false);
        to(1, !curve.closed() && turn > std::numbers::pi);
        continue;
      }
      for (const Cubic& cubic : piece(chain[i], back))
        text +=
            cubic.straight ? "L" + at(cubic.to) : "C" + at(cubic.first) + " " + at(cubic.second) + " " + at(cubic.to);
    }
    return run.closed ? text + "Z" : text;
  }
  static std::vector<Cubic> piece(const FlatCurve& curve, bool back) {
    std::vector<Cubic> cubics = cubicsOf({curve});
    if (!back) return cubics;
    std::reverse(cubics.begin(), cubics.end());
    for (Cubic& cubic : cubics) cubic = {cubic.to, cubic.second, cubic.first, cubic.from, cubic.straight};
    return cubics;
  }

  const FlatPicture& picture_;
  pugi::xml_document document_;
  int hatches_ = 0;
};

}  // namespace

void writeSvg(const std::filesystem::path& path, const FlatPicture& picture, Progress&) {
  writeText(path, SvgWriter(picture).text());
}

}  // namespace kervo
