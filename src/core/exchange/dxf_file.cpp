// dxflib hands over entities one after another. Blocks are kept, and put where they are used once all is read, since a
// block may be used before it comes. What dxflib does not tell (control frames of old polylines, the end of the file,
// malformed numbers) is taken from the raw pairs of code and value.
#include "exchange/dxf_file.h"

#include <dxflib/dl_creationadapter.h>
#include <dxflib/dl_dxf.h>
#include <iconv.h>

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>
#include <map>
#include <numbers>
#include <set>

#include "base/error.h"
#include "base/say.h"
#include "drawing/plane_map.h"
#include "exchange/atomic_file.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

constexpr double degree = std::numbers::pi / 180;
constexpr int deepestBlock = 32;

struct DxfUnit {
  int code;  ///< of $INSUNITS
  const char* name;
  double factor;
};
constexpr std::array dxfUnits{DxfUnit{1, "in", 25.4},   DxfUnit{2, "ft", 304.8},  DxfUnit{4, "mm", 1},
                              DxfUnit{5, "cm", 10},     DxfUnit{6, "m", 1000},    DxfUnit{9, "mil", 0.0254},
                              DxfUnit{10, "yd", 914.4}, DxfUnit{13, "µm", 0.001}, DxfUnit{14, "dm", 100}};

/// Curves in the coordinates of the block they stand in, and uses of blocks.
struct Block {
  struct Curve {
    std::string layer;
    std::shared_ptr<const PlaneCurve> shape;
  };
  struct Use {
    std::string layer, block;
    PlaneMap map;
  };
  PlanePoint base;
  std::vector<Curve> curves;
  std::vector<Use> uses;
};

class DxfReader : public DL_CreationAdapter {
 public:
  DxfReader(std::string file, Progress& progress) : file_(std::move(file)), progress_(progress) {}

  void processCodeValuePair(unsigned int code, const std::string& value) override {
    if (++pairs_ % 1000 == 0) progress_.throwIfStopped();
    if (code == 0) {
      note();
      last_ = now_;
      now_ = {.name = value, .line = 2 * pairs_};
      ended_ = ended_ || value == "EOF";
    }
    if (code == 2 && now_.name == "SECTION") inEntities_ = value == "ENTITIES" || value == "BLOCKS";
    if (code == 67) now_.paper = value.find('1') != std::string::npos;
    if (code == 70 && now_.name == "VERTEX") now_.flags = std::atoi(value.c_str());
    const bool real = (code >= 10 && code < 60) || (code >= 210 && code < 240);
    if (inEntities_ && real && known().contains(now_.name) && !isNumber(value))
      throw FileError(say("\"%1\" is no number", value), say("%1, line %2, %3", file_, 2 * pairs_, now_.name),
                      say("Export the file again from the program that wrote it"));
  }

  void setVariableInt(const std::string& name, int value, int) override {
    if (name == "$INSUNITS") units_ = value;
  }
  void setVariableString(const std::string& name, const std::string& value, int) override {
    if (name == "$ACADVER") version_ = value;
    if (name == "$DWGCODEPAGE") page_ = value;
  }
  void addLayer(const DL_LayerData& layer) override {
    constexpr int frozen = 1;
    if ((layer.flags & frozen) != 0 || attributes.getColor() < 0) off_.insert(layer.name);
  }

  void addBlock(const DL_BlockData& block) override {
    finish();
    into_ = &blocks_[block.name];
    into_->base = {block.bpx, block.bpy};
  }
  void endBlock() override {
    finish();
    into_ = &model_;
  }
  void addInsert(const DL_InsertData& insert) override {
    finish();
    if (last_.paper) return;
    const PlaneMap place =
        objects().after(PlaneMap::shift({insert.ipx, insert.ipy}).after(PlaneMap::turn(insert.angle * degree)));
    if (static_cast<double>(insert.cols) * insert.rows > mostFileCurves) tooMany();
    for (int column = 0; column < std::max(1, insert.cols); ++column)
      for (int row = 0; row < std::max(1, insert.rows); ++row)
        into_->uses.push_back({attributes.getLayer(), insert.name,
                               place.after(PlaneMap::shift({column * insert.colSp, row * insert.rowSp}))
                                   .after(PlaneMap::scale(insert.sx, insert.sy))});
  }

  void addLine(const DL_LineData& line) override {
    finish();
    put(lineCurve({line.x1, line.y1}, {line.x2, line.y2}));
  }
  void addArc(const DL_ArcData& arc) override {
    finish();
    double to = arc.angle2;
    while (to <= arc.angle1) to += 360;
    put(inObjects(roundCurve({arc.cx, arc.cy}, {arc.radius, 0}, {0, arc.radius}, arc.angle1 * degree, to * degree)));
  }
  void addCircle(const DL_CircleData& circle) override {
    finish();
    put(inObjects(roundCurve({circle.cx, circle.cy}, {circle.radius, 0}, {0, circle.radius}, 0, 2 * std::numbers::pi)));
  }
  void addEllipse(const DL_EllipseData& ellipse) override {
    finish();
    // Its places are the drawing's own, but seen from below it runs the other way.
    const double side = normal().z < 0 ? -1 : 1;
    const PlanePoint large{ellipse.mx, ellipse.my};
    double to = ellipse.angle2;
    while (to <= ellipse.angle1 + tolerance::parallel) to += 2 * std::numbers::pi;
    put(roundCurve({ellipse.cx, ellipse.cy}, large, PlanePoint{-large.v, large.u} * (ellipse.ratio * side),
                   ellipse.angle1, to));
  }

  void addPolyline(const DL_PolylineData& polyline) override {
    finish();
    constexpr int mesh = 16, faces = 64, closed = 1;
    if ((polyline.flags & (mesh | faces)) != 0) {
      ++leftOut_["POLYLINE"];
      return;
    }
    polyline_ = Polyline{(polyline.flags & closed) != 0, here(), last_.paper, objects(), {}};
  }
  void addVertex(const DL_VertexData& vertex) override {
    constexpr int ofFrame = 16;
    if (polyline_ && (last_.flags & ofFrame) == 0) polyline_->corners.push_back({{vertex.x, vertex.y}, vertex.bulge});
  }
  void endSequence() override { finish(); }

  void addSpline(const DL_SplineData& spline) override {
    finish();
    constexpr int closed = 1;
    spline_ = SplineParts{static_cast<int>(spline.degree), (spline.flags & closed) != 0, here(), last_.paper,
                          say("line %1", last_.line)};
  }
  void addControlPoint(const DL_ControlPointData& point) override {
    if (!spline_) return;
    spline_->poles.push_back({point.x, point.y});
    spline_->weights.push_back(point.w);
  }
  void addFitPoint(const DL_FitPointData& point) override {
    if (spline_) spline_->through.push_back({point.x, point.y});
  }
  void addKnot(const DL_KnotData& knot) override {
    if (spline_) spline_->knots.push_back(knot.k);
  }

  FileCurves read(const std::string& unit) {
    finish();
    note();
    if (!ended_)
      throw FileError(say("the file is cut off before its end"), file_,
                      say("Export it again from the program that wrote it"));
    FileCurves result;
    double factor = 1;
    if (!unit.empty()) {
      result.unit = unit;
      factor = curveUnit(unit).value_or(1);
    } else {
      const auto found =
          std::find_if(dxfUnits.begin(), dxfUnits.end(), [&](const DxfUnit& each) { return each.code == units_; });
      result.unitNamed = found != dxfUnits.end();
      if (result.unitNamed) {
        result.unit = found->name;
        factor = found->factor;
      }
    }
    place(model_, PlaneMap::scale(factor, factor), "0", 0, result);
    for (const std::string& layer : hidden_)
      result.notes.push_back(say("the layer \"%1\" is off and was left out", spoken(layer)));
    for (const auto& [name, count] : leftOut_)
      result.notes.push_back(count == 1
                                 ? say("one %1 was left out: it is no curve", name)
                                 : say("%1 of %2 were left out: they are no curves", std::to_string(count), name));
    if (tilted_ > 0)
      result.notes.push_back(
          say("%1 curves were left out: they lie in planes that are not level", std::to_string(tilted_)));
    return result;
  }

 private:
  struct Entity {
    std::string name;
    bool paper = false;  ///< on a sheet, not in the model
    int flags = 0;
    std::size_t line = 0;
  };
  struct Polyline {
    bool closed;
    std::string layer;
    bool paper;
    PlaneMap map;
    std::vector<std::pair<PlanePoint, double>> corners;  ///< with the bulge of what follows
  };
  struct SplineParts {
    int degree;
    bool closed;
    std::string layer;
    bool paper;
    std::string place;
    std::vector<double> knots = {}, weights = {};
    std::vector<PlanePoint> poles = {}, through = {};
  };

  static const std::set<std::string>& known() {
    static const std::set<std::string> names{"LINE",       "ARC",      "CIRCLE", "ELLIPSE", "SPLINE",
                                             "LWPOLYLINE", "POLYLINE", "VERTEX", "INSERT",  "BLOCK"};
    return names;
  }

  static bool isNumber(const std::string& text) {
    char* end = nullptr;
    const double number = std::strtod(text.c_str(), &end);
    while (*end == ' ' || *end == '\t' || *end == '\r') ++end;
    return end != text.c_str() && *end == '\0' && std::isfinite(number);
  }

  /// What is no curve is counted when it ends.
  void note() {
    static const std::set<std::string> quiet{"SECTION", "ENDSEC", "ENDBLK", "SEQEND", "EOF", "VIEWPORT", "ATTDEF", ""};
    if (inEntities_ && !now_.paper && !known().contains(now_.name) && !quiet.contains(now_.name)) ++leftOut_[now_.name];
  }

  Vector normal() const {
    const double* way = extrusion->getDirection();
    return {way[0], way[1], way[2]};
  }
  /// From the coordinates of the objects that have a plane of their own: seen from below, u runs the other way.
  PlaneMap objects() const { return normal().z < 0 ? PlaneMap::scale(-1, 1) : PlaneMap(); }
  std::shared_ptr<const PlaneCurve> inObjects(const std::shared_ptr<const PlaneCurve>& curve) const {
    return curve ? mapped(*curve, objects()) : nullptr;
  }
  bool isLevel() const {
    const Vector way = normal();
    return std::hypot(way.x, way.y) < tolerance::samePlace * std::abs(way.z);
  }
  std::string here() const { return attributes.getLayer(); }

  void put(std::shared_ptr<const PlaneCurve> curve) {
    if (last_.paper || !curve) return;
    if (isLevel())
      into_->curves.push_back({here(), std::move(curve)});
    else
      ++tilted_;
  }

  [[noreturn]] void tooMany() const {
    throw FileError(say("the file stands for more than %1 curves", std::to_string(mostFileCurves)), file_,
                    say("Export less of it"));
  }

  /// Polylines and splines come in several calls; they are whole when something else begins.
  void finish() {
    if (const auto polyline = std::exchange(polyline_, {}); polyline && !polyline->paper) {
      const auto& corners = polyline->corners;
      const std::size_t count = corners.size();
      for (std::size_t i = 0; i + (polyline->closed ? 0 : 1) < count; ++i) {
        const auto& [from, bulge] = corners[i];
        const PlanePoint to = corners[(i + 1) % count].first;
        if (const auto curve = stretch(from, to, bulge))
          if (auto placed = mapped(*curve, polyline->map))
            into_->curves.push_back({polyline->layer, std::move(placed)});
      }
    }
    if (const auto spline = std::exchange(spline_, {}); spline && !spline->paper)
      into_->curves.push_back({spline->layer, std::make_shared<const SplineCurve>(made(*spline))});
  }

  /// A bulge is the tangent of a quarter of the angle; counter-clockwise above zero.
  static std::shared_ptr<const PlaneCurve> stretch(PlanePoint from, PlanePoint to, double bulge) {
    const PlanePoint way = to - from;
    if (std::abs(bulge) < tolerance::parallel || length(way) < tolerance::smallestSize) return lineCurve(from, to);
    const PlanePoint left{-way.v, way.u};
    const PlanePoint centre = from + way * 0.5 + left * ((1 - bulge * bulge) / (4 * bulge));
    const PlanePoint arm = from - centre;
    return roundCurve(centre, arm, {-arm.v, arm.u}, 0, 4 * std::atan(bulge));
  }

  Spline made(const SplineParts& parts) const {
    const auto fail = [&](const std::string& why) {
      throw FileError(say("a spline is wrong: %1", why), say("%1, %2", file_, parts.place),
                      say("Export the file again from the program that wrote it"));
    };
    if (parts.poles.empty()) {
      std::vector<PlanePoint> through;
      for (const PlanePoint& point : parts.through)
        if (through.empty() || distance(through.back(), point) > tolerance::smallestSize) through.push_back(point);
      const bool closed = parts.closed && through.size() > 3;
      if (closed && distance(through.front(), through.back()) < tolerance::smallestSize) through.pop_back();
      if (through.size() < 2) fail(say("it has fewer than two points"));
      return Spline::through(through, closed);
    }
    const std::size_t order = static_cast<std::size_t>(std::max(parts.degree, 0)) + 1;
    if (parts.degree < 1 || parts.degree > 25 || parts.poles.size() < order)
      fail(say("its degree and its points do not fit"));
    if (parts.knots.size() != parts.poles.size() + order) fail(say("its knots and its points do not fit"));
    if (!std::is_sorted(parts.knots.begin(), parts.knots.end()) ||
        !(parts.knots[parts.poles.size()] > parts.knots[order - 1]))
      fail(say("its knots do not grow"));
    std::vector<double> weights = parts.weights;
    // Some programs leave weights out, and dxflib hands over zeros then.
    if (std::all_of(weights.begin(), weights.end(), [](double weight) { return weight == 0; })) weights.clear();
    if (std::any_of(weights.begin(), weights.end(), [](double weight) { return !(weight > 0); }))
      fail(say("a weight is not above zero"));
    const Spline open = Spline::of(parts.degree, parts.knots, parts.poles, weights, false);
    const bool closes = distance(open.at(0), open.at(1)) < tolerance::point * 10;
    return closes ? Spline::of(open.degree(), open.knots(), open.poles(), open.weights(), true) : open;
  }

  void place(const Block& block, const PlaneMap& map, const std::string& layer, int depth, FileCurves& result) {
    progress_.throwIfStopped();
    // What is on layer 0 of a block lies on the layer that uses it.
    const auto layerOf = [&](const std::string& own) { return depth > 0 && own == "0" ? layer : own; };
    for (const Block::Curve& curve : block.curves) {
      const std::string name = layerOf(curve.layer);
      if (off_.contains(name)) {
        hidden_.insert(name);
        continue;
      }
      if (++placed_ > mostFileCurves) tooMany();
      if (auto shape = mapped(*curve.shape, map)) result.layer(spoken(name)).curves.push_back(std::move(shape));
    }
    for (const Block::Use& use : block.uses) {
      if (++placed_ > mostFileCurves) tooMany();
      const auto found = blocks_.find(use.block);
      if (found == blocks_.end()) continue;
      if (depth == deepestBlock)
        throw FileError(say("the block \"%1\" uses itself", spoken(use.block)), file_,
                        say("Export the file without blocks"));
      const PlanePoint base = found->second.base;
      place(found->second, map.after(use.map).after(PlaneMap::shift(base * -1)), layerOf(use.layer), depth + 1, result);
    }
  }

  /// Names are in the file's own character set up to 2006.
  std::string spoken(const std::string& text) const {
    if (version_.empty() || version_ >= "AC1021") return text;
    const std::string number = page_.substr(page_.find_last_of('_') + 1);
    const iconv_t converter = iconv_open("UTF-8", ("CP" + (number.empty() ? "1252" : number)).c_str());
    if (converter == reinterpret_cast<iconv_t>(-1)) return text;
    std::string in = text, out(4 * text.size() + 4, '\0');
    char* from = in.data();
    char* to = out.data();
    std::size_t left = in.size(), room = out.size();
    const bool good = iconv(converter, &from, &left, &to, &room) != static_cast<std::size_t>(-1);
    iconv_close(converter);
    out.resize(out.size() - room);
    return withEscapes(good ? out : text);
  }
  /// Characters that the set does not have are written as \\U+00E9.
  static std::string withEscapes(std::string text) {
    for (std::size_t at = 0; (at = text.find("\\U+", at)) != std::string::npos; ++at) {
      unsigned code = 0;
      const char* digits = text.data() + at + 3;
      if (text.size() < at + 7 || std::from_chars(digits, digits + 4, code, 16).ptr != digits + 4) continue;
      std::string letter;
      if (code < 0x80) {
        letter += static_cast<char>(code);
      } else if (code < 0x800) {
        letter += static_cast<char>(0xc0U | code >> 6U);
      } else {
        letter += static_cast<char>(0xe0U | code >> 12U);
        letter += static_cast<char>(0x80U | (code >> 6U & 0x3fU));
      }
      if (code >= 0x80) letter += static_cast<char>(0x80U | (code & 0x3fU));
      text.replace(at, 7, letter);
    }
    return text;
  }

  std::string file_;
  Progress& progress_;
  std::size_t pairs_ = 0, placed_ = 0;
  Entity now_, last_;
  bool inEntities_ = false, ended_ = false;
  int units_ = 0, tilted_ = 0;
  std::string version_, page_;
  std::set<std::string> off_, hidden_;
  std::map<std::string, int> leftOut_;
  std::map<std::string, Block> blocks_;
  Block model_;
  Block* into_ = &model_;
  std::optional<Polyline> polyline_;
  std::optional<SplineParts> spline_;
};

}  // namespace

const Format& dxfFormat() {
  static const Format format{.name = "DXF",
                             .extensions = {".dxf"},
                             .mimeTypes = {"image/vnd.dxf"},
                             .holds = Format::Holds::Curves,
                             .carries = later("outlines on layers"),
                             .readCurves = readDxf,
                             .writePicture = writeDxf};
  return format;
}

FileCurves readDxf(const std::filesystem::path& path, const std::string& unit, Progress& progress) {
  const std::string name = path.filename().string();
  // A binary one says so in its first 18 bytes, and ends that with these.
  using namespace std::string_view_literals;
  if (readWhole(path, mostCurveBytes).substr(0, 22).ends_with("\r\n\x1a\0"sv))
    throw FileError(say("the file is a binary DXF"), name, say("Export it as an ASCII DXF instead"));
  DxfReader reader(name, progress);
  DL_Dxf dxf;
  // Of a stream it would not hand over the raw pairs.
  dxf.in(path.string(), &reader);
  return reader.read(unit);
}

}  // namespace kervo
