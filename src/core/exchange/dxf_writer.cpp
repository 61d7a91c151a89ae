// DXF of 2000, written by hand: small, and read by strict readers without a fix.
#include <array>
#include <charconv>
#include <cmath>
#include <fstream>
#include <numbers>
#include <optional>
#include <tuple>

#include "base/error.h"
#include "base/say.h"
#include "exchange/atomic_file.h"
#include "exchange/dxf_file.h"

namespace kervo {

namespace {

constexpr double degree = 180 / std::numbers::pi;

class DxfText {
 public:
  DxfText& put(int code, const std::string& value) {
    text_ += std::to_string(code) + "\n" + value + "\n";
    return *this;
  }
  DxfText& put(int code, int value) { return put(code, std::to_string(value)); }
  DxfText& real(int code, double value) {
    std::array<char, 32> buffer{};
    const auto end = std::to_chars(buffer.data(), buffer.data() + buffer.size(), value).ptr;
    std::string digits(buffer.data(), end);
    if (digits.find_first_of(".e") == std::string::npos) digits += ".0";
    return put(code, digits);
  }
  DxfText& flat(PlanePoint at, int code = 10) { return real(code, at.u).real(code + 10, at.v); }
  DxfText& point(PlanePoint at, int code = 10) { return flat(at, code).real(code + 20, 0); }
  unsigned handle(int code = 5, unsigned fixed = 0) {
    const unsigned value = fixed ? fixed : next_++;
    put(code, hex(value));
    return value;
  }
  DxfText& owner(unsigned handle) { return put(330, hex(handle)); }
  unsigned table(const std::string& name, int count) {
    put(0, "TABLE").put(2, name);
    const unsigned own = handle();
    owner(0).put(100, "AcDbSymbolTable").put(70, count);
    return own;
  }
  void record(const std::string& type, const std::string& kind, const std::string& name, unsigned table, int code = 5,
              unsigned fixed = 0) {
    put(0, type);
    handle(code, fixed);
    owner(table).put(100, "AcDbSymbolTableRecord").put(100, kind).put(2, name);
  }
  void entity(const std::string& type, const std::string& layer, unsigned owned) {
    put(0, type);
    handle();
    owner(owned).put(100, "AcDbEntity").put(8, layer);
  }
  const std::string& text() const { return text_; }
  unsigned next() const { return next_; }

  static std::string hex(unsigned value) {
    std::array<char, 16> buffer{};
    std::string digits(buffer.data(), std::to_chars(buffer.data(), buffer.data() + buffer.size(), value, 16).ptr);
    for (char& c : digits) c = static_cast<char>(std::toupper(static_cast<unsigned char>(c)));
    return digits;
  }

 private:
  std::string text_;
  unsigned next_ = 0x20;
};

/// What R2000 allows in a name, in the file's character set.
std::string nameFor(const std::string& utf8) {
  std::string result;
  for (std::size_t i = 0; i < utf8.size();) {
    const auto lead = static_cast<unsigned char>(utf8[i]);
    const std::size_t count = lead < 0x80 ? 1 : lead < 0xe0 ? 2 : lead < 0xf0 ? 3 : 4;
    if (count == 1) {
      result += std::string("<>/\\\":;?*|=`,").find(utf8[i]) == std::string::npos && lead >= 0x20 ? utf8[i] : '_';
    } else {
      unsigned code = lead & (0x7fU >> count);
      for (std::size_t k = 1; k < count && i + k < utf8.size(); ++k)
        code = code << 6U | (static_cast<unsigned char>(utf8[i + k]) & 0x3fU);
      result += code >= 0xa0 && code <= 0xff ? static_cast<char>(code) : '_';
    }
    i += count;
  }
  return result.empty() ? "0" : result;
}

int rgbOf(Color color) {
  const auto part = [](double x) { return static_cast<int>(std::lround(std::clamp(x, 0.0, 1.0) * 255)); };
  return part(color.red) << 16 | part(color.green) << 8 | part(color.blue);
}

PlanePoint flatOf(Point point) {
  return {point.x, point.y};
}

/// A quarter of the angle, as polylines have it: above zero to the left. Nothing for what is no arc.
std::optional<double> bulgeOf(const SpaceCurve& curve, bool backwards) {
  if (std::holds_alternative<Segment>(curve.form())) return 0;
  const auto* arc = std::get_if<CircularArc>(&curve.form());
  if (!arc || curve.closed()) return std::nullopt;
  const double turn = (arc->toAngle - arc->fromAngle) * (arc->axes.normal.z < 0 ? -1 : 1);
  return std::tan((backwards ? -turn : turn) / 4);
}

class DxfWriter {
 public:
  explicit DxfWriter(const FlatPicture& picture) : picture_(picture) {}

  std::string text() {
    header();
    tables();
    blocks();
    out_.put(0, "SECTION").put(2, "ENTITIES");
    for (const FlatLayer& layer : picture_.layers) {
      for (const FlatFill& fill : layer.fills) hatch(nameFor(layer.name), fill);
      for (const FlatChain& chain : layer.chains) outline(nameFor(layer.name), chain);
    }
    out_.put(0, "ENDSEC").put(0, "SECTION").put(2, "OBJECTS").put(0, "DICTIONARY");
    out_.handle(5, root);
    out_.owner(0).put(100, "AcDbDictionary").put(281, 1).put(3, "ACAD_GROUP").put(350, "D");
    out_.put(0, "DICTIONARY").put(5, "D").owner(root).put(100, "AcDbDictionary").put(281, 1);
    out_.put(0, "ENDSEC").put(0, "EOF");
    return out_.text();
  }

 private:
  static constexpr unsigned model = 0x10, paper = 0x11, root = 0xC;

  void header() {
    out_.put(0, "SECTION").put(2, "HEADER").put(9, "$ACADVER").put(1, "AC1015");
    out_.put(9, "$DWGCODEPAGE").put(3, "ANSI_1252").put(9, "$INSUNITS").put(70, 4).put(9, "$MEASUREMENT").put(70, 1);
    out_.put(9, "$EXTMIN").point({0, 0}).put(9, "$EXTMAX").point({picture_.width, picture_.height});
    out_.put(9, "$HANDSEED").put(5, "FFFFFFF").put(0, "ENDSEC");
  }
  void tables() {
    out_.put(0, "SECTION").put(2, "CLASSES").put(0, "ENDSEC").put(0, "SECTION").put(2, "TABLES");
    out_.table("VPORT", 0);
    out_.put(0, "ENDTAB");
    unsigned table = out_.table("LTYPE", 4);
    for (const char* name : {"ByBlock", "ByLayer", "Continuous"}) {  // for the machine
      out_.record("LTYPE", "AcDbLinetypeTableRecord", name, table);
      out_.put(70, 0).put(3, "").put(72, 65).put(73, 0).real(40, 0);
    }
    // The dashes of the first layer that has some: all have the same.
    double dash = 2, gap = 1;
    for (auto layer = picture_.layers.rbegin(); layer != picture_.layers.rend(); ++layer)
      if (layer->dash > 0) std::tie(dash, gap) = std::pair(layer->dash, layer->gap);
    out_.record("LTYPE", "AcDbLinetypeTableRecord", "Dashed", table);  // for the machine
    out_.put(70, 0).put(3, "").put(72, 65).put(73, 2).real(40, dash + gap);
    out_.real(49, dash).put(74, 0).real(49, -gap).put(74, 0);
    out_.put(0, "ENDTAB");
    table = out_.table("LAYER", static_cast<int>(picture_.layers.size()) + 1);
    layerRecord(table, "0", {}, false);
    for (const FlatLayer& layer : picture_.layers)
      if (const std::string name = nameFor(layer.name); name != "0")
        layerRecord(table, name, layer.ink, layer.dash > 0);
    out_.put(0, "ENDTAB");
    table = out_.table("STYLE", 1);
    out_.record("STYLE", "AcDbTextStyleTableRecord", "Standard", table);  // for the machine
    out_.put(70, 0).real(40, 0).real(41, 1).real(50, 0).put(71, 0).real(42, 2.5).put(3, "txt").put(4, "");
    out_.put(0, "ENDTAB");
    for (const char* name : {"VIEW", "UCS"}) {
      out_.table(name, 0);
      out_.put(0, "ENDTAB");
    }
    table = out_.table("APPID", 1);
    out_.record("APPID", "AcDbRegAppTableRecord", "ACAD", table);
    out_.put(70, 0).put(0, "ENDTAB");
    table = out_.table("DIMSTYLE", 1);
    out_.put(100, "AcDbDimStyleTable");
    out_.record("DIMSTYLE", "AcDbDimStyleTableRecord", "Standard", table, 105);  // for the machine
    out_.put(70, 0).put(0, "ENDTAB");
    table = out_.table("BLOCK_RECORD", 2);
    out_.record("BLOCK_RECORD", "AcDbBlockTableRecord", "*Model_Space", table, 5, model);
    out_.record("BLOCK_RECORD", "AcDbBlockTableRecord", "*Paper_Space", table, 5, paper);
    out_.put(0, "ENDTAB").put(0, "ENDSEC");
  }
  void layerRecord(unsigned table, const std::string& name, Color ink, bool dashed) {
    out_.record("LAYER", "AcDbLayerTableRecord", name, table);
    out_.put(70, 0).put(62, 7).put(420, rgbOf(ink)).put(6, dashed ? "Dashed" : "Continuous");  // for the machine
    out_.put(370, 25).put(390, "F");
  }
  void blocks() {
    out_.put(0, "SECTION").put(2, "BLOCKS");
    for (const auto& [name, handle] : {std::pair("*Model_Space", model), {"*Paper_Space", paper}}) {
      out_.entity("BLOCK", "0", handle);
      out_.put(100, "AcDbBlockBegin").put(2, name).put(70, 0).point({0, 0}).put(3, name).put(1, "");
      out_.entity("ENDBLK", "0", handle);
      out_.put(100, "AcDbBlockEnd");
    }
    out_.put(0, "ENDSEC");
  }

  /// Lines and arcs as one polyline, so that they stay together; what else there is one by one.
  void outline(const std::string& layer, const FlatChain& chain) {
    const RunOfChain run = runOf(chain);
    std::vector<std::pair<PlanePoint, double>> corners;
    for (std::size_t i = 0; i < chain.size(); ++i) {
      const auto bulge = bulgeOf(chain[i]->on({}), run.backwards[i]);
      if (!bulge || chain.size() == 1) {
        for (const FlatCurve& curve : chain) single(layer, curve->on({}));
        return;
      }
      corners.emplace_back(chain[i]->at(run.backwards[i] ? 1 : 0), *bulge);
    }
    if (!run.closed) corners.emplace_back(run.end, 0);
    out_.entity("LWPOLYLINE", layer, model);
    out_.put(100, "AcDbPolyline").put(90, static_cast<int>(corners.size())).put(70, run.closed ? 1 : 0);
    for (const auto& [at, bulge] : corners) {
      out_.flat(at);
      if (bulge != 0) out_.real(42, bulge);
    }
  }

  void single(const std::string& layer, const SpaceCurve& curve) {
    if (const auto* line = std::get_if<Segment>(&curve.form())) {
      out_.entity("LINE", layer, model);
      out_.put(100, "AcDbLine").point(flatOf(line->from)).point(flatOf(line->to), 11);
    } else if (const auto* arc = std::get_if<CircularArc>(&curve.form())) {
      out_.entity(curve.closed() ? "CIRCLE" : "ARC", layer, model);
      out_.put(100, "AcDbCircle").point(flatOf(arc->axes.origin)).real(40, arc->radius);
      if (curve.closed()) return;
      const bool over = arc->axes.normal.z > 0;
      const double zero = std::atan2(arc->axes.x.y, arc->axes.x.x);
      const double from = over ? zero + arc->fromAngle : zero - arc->toAngle,
                   to = over ? zero + arc->toAngle : zero - arc->fromAngle;
      out_.put(100, "AcDbArc").real(50, turned(from)).real(51, turned(to));
    } else if (const auto* ellipse = std::get_if<EllipticalArc>(&curve.form())) {
      const bool over = ellipse->axes.normal.z > 0;
      out_.entity("ELLIPSE", layer, model);
      out_.put(100, "AcDbEllipse").point(flatOf(ellipse->axes.origin));
      out_.point(flatOf(Point{} + ellipse->axes.x * ellipse->large), 11).real(40, ellipse->small / ellipse->large);
      out_.real(41, over ? ellipse->fromAngle : -ellipse->toAngle);
      out_.real(42, over ? ellipse->toAngle : -ellipse->fromAngle);
    } else {
      const SplineArc& arc2 = std::get<SplineArc>(curve.form());
      spline(layer, arc2.spline, arc2.plane);
    }
  }

  static double turned(double radians) {
    const double degrees = std::fmod(radians * degree, 360);
    return degrees < 0 ? degrees + 360 : degrees;
  }

  void spline(const std::string& layer, const Spline& spline, const Plane& plane) {
    const bool rational = !spline.weights().empty();
    out_.entity("SPLINE", layer, model);
    out_.put(100, "AcDbSpline").put(70, 8 + (rational ? 4 : 0) + (spline.closed() ? 1 : 0)).put(71, spline.degree());
    out_.put(72, static_cast<int>(spline.knots().size())).put(73, static_cast<int>(spline.poles().size())).put(74, 0);
    for (const double knot : spline.knots()) out_.real(40, knot);
    for (const double weight : spline.weights()) out_.real(41, weight);
    for (const PlanePoint& pole : spline.poles()) out_.point(flatOf(plane.at(pole.u, pole.v)));
  }

  void hatch(const std::string& layer, const FlatFill& fill) {
    out_.entity("HATCH", layer, model);
    out_.put(100, "AcDbHatch").point({0, 0}).real(210, 0).real(220, 0).real(230, 1);
    const bool solid = fill.hatch.empty();
    out_.put(2, solid ? "SOLID" : "KERVO").put(70, solid ? 1 : 0).put(71, 0);
    out_.put(91, static_cast<int>(fill.loops.size()));
    for (std::size_t i = 0; i < fill.loops.size(); ++i) border(fill.loops[i], i == 0);
    out_.put(75, 0).put(76, solid ? 1 : 0);
    if (!solid) {
      out_.real(52, 0).real(41, 1).put(77, 0).put(78, static_cast<int>(fill.hatch.size()));
      for (const HatchLines& lines : fill.hatch) family(lines);
    }
    out_.put(98, 0);
  }

  void border(const FlatChain& loop, bool outer) {
    std::vector<std::pair<PlanePoint, double>> corners;
    const RunOfChain run = runOf(loop);
    for (std::size_t i = 0; i < loop.size(); ++i) {
      const SpaceCurve curve = loop[i]->on({});
      const auto* circle = std::get_if<CircularArc>(&curve.form());
      if (const auto bulge = bulgeOf(curve, run.backwards[i])) {
        corners.emplace_back(loop[i]->at(run.backwards[i] ? 1 : 0), *bulge);
      } else if (circle) {
        corners.emplace_back(loop[i]->at(0), circle->axes.normal.z > 0 ? 1 : -1);
        corners.emplace_back(loop[i]->at(0.5), circle->axes.normal.z > 0 ? 1 : -1);
      } else {
        for (const Cubic& cubic : cubicsOf({loop[i]}))
          corners.emplace_back(run.backwards[i] ? cubic.to : cubic.from, 0);
        if (run.backwards[i])
          std::reverse(corners.end() - static_cast<std::ptrdiff_t>(cubicsOf({loop[i]}).size()), corners.end());
      }
    }
    out_.put(92, outer ? 3 : 2).put(72, 1).put(73, 1).put(93, static_cast<int>(corners.size()));
    for (const auto& [at, bulge] : corners) out_.flat(at).real(42, bulge);
    out_.put(97, 0);
  }

  void family(const HatchLines& lines) {
    const PlanePoint along{std::cos(lines.angle), std::sin(lines.angle)}, across{-along.v, along.u};
    out_.real(53, lines.angle * degree);
    const PlanePoint base = across * lines.offset, step = across * lines.spacing + along * lines.shift;
    out_.real(43, base.u).real(44, base.v).real(45, step.u).real(46, step.v);
    if (lines.dash > 0)
      out_.put(79, 2).real(49, lines.dash).real(49, -lines.gap);
    else
      out_.put(79, 0);
  }

  const FlatPicture& picture_;
  DxfText out_;
};

}  // namespace

void writeDxf(const std::filesystem::path& path, const FlatPicture& picture, Progress&) {
  writeText(path, DxfWriter(picture).text());
}

}  // namespace kervo
