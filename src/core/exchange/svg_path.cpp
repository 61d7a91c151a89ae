#include "exchange/svg_path.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <numbers>

#include "base/error.h"
#include "base/say.h"
#include "drawing/plane_map.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

/// Reads numbers that may follow each other without a gap: "1-2.5.5" is 1, −2.5 and 0.5.
class Scanner {
 public:
  explicit Scanner(const std::string& text) : at_(text.data()), end_(text.data() + text.size()) {}

  void skip() {
    while (at_ != end_ && (*at_ == ' ' || *at_ == ',' || *at_ == '\t' || *at_ == '\n' || *at_ == '\r')) ++at_;
  }
  bool done() {
    skip();
    return at_ == end_;
  }
  char letter() {
    skip();
    return at_ != end_ && std::isalpha(static_cast<unsigned char>(*at_)) != 0 ? *at_++ : '\0';
  }
  bool numberFollows() {
    skip();
    return at_ != end_ &&
           (std::isdigit(static_cast<unsigned char>(*at_)) != 0 || *at_ == '-' || *at_ == '+' || *at_ == '.');
  }
  double number() {
    skip();
    if (at_ != end_ && *at_ == '+') ++at_;
    double value = 0;
    const auto [after, code] = std::from_chars(at_, end_, value);
    if (code != std::errc() || !std::isfinite(value)) fail();
    at_ = after;
    return value;
  }
  PlanePoint point() {
    const double u = number();
    return {u, number()};
  }
  /// 0 or 1; a number may follow without a gap.
  bool flag() {
    skip();
    if (at_ == end_ || (*at_ != '0' && *at_ != '1')) fail();
    return *at_++ == '1';
  }
  [[noreturn]] void fail() const {
    constexpr std::ptrdiff_t shown = 20;
    const std::string rest(at_, at_ + std::min(shown, end_ - at_));
    throw Error(rest.empty() ? say("it ends where a number should follow") : say("it cannot be read at \"%1\"", rest));
  }

 private:
  const char* at_;
  const char* end_;
};

/// From a point to another on an ellipse (SVG 2, B.2.4): half axes, the angle of the first, which of the four arcs.
std::shared_ptr<const PlaneCurve> arcBetween(PlanePoint from, PlanePoint to, double rx, double ry, double angle,
                                             bool large, bool sweep) {
  rx = std::abs(rx);
  ry = std::abs(ry);
  if (rx < tolerance::smallestSize || ry < tolerance::smallestSize) return lineCurve(from, to);
  const PlanePoint x{std::cos(angle), std::sin(angle)}, y{-x.v, x.u};
  const PlanePoint half = (from - to) * 0.5;
  const PlanePoint inAxes{dot(half, x), dot(half, y)};
  // Too small an ellipse grows until it reaches.
  const double reach = std::hypot(inAxes.u / rx, inAxes.v / ry);
  if (reach == 0) return nullptr;
  if (reach > 1) {
    rx *= reach;
    ry *= reach;
  }
  const PlanePoint unit{inAxes.u / rx, inAxes.v / ry};
  const double square = dot(unit, unit);
  const double off = std::sqrt(std::max(0.0, 1 / square - 1)) * (large == sweep ? -1 : 1);
  const PlanePoint centreUnit = PlanePoint{unit.v, -unit.u} * off;
  const PlanePoint centre = (from + to) * 0.5 + x * (centreUnit.u * rx) + y * (centreUnit.v * ry);
  const double start = std::atan2(unit.v - centreUnit.v, unit.u - centreUnit.u);
  double end = std::atan2(-unit.v - centreUnit.v, -unit.u - centreUnit.u);
  if (sweep && end <= start) end += 2 * std::numbers::pi;
  if (!sweep && end >= start) end -= 2 * std::numbers::pi;
  return roundCurve(centre, x * rx, y * ry, start, end);
}

std::shared_ptr<const PlaneCurve> bezier(const std::vector<PlanePoint>& points) {
  const PlanePoint from = points.front(), to = points.back(), way = to - from;
  const double size = length(way);
  const bool straight =
      size > tolerance::smallestSize && std::all_of(points.begin() + 1, points.end() - 1, [&](PlanePoint point) {
        const double along = dot(point - from, way) / size;
        return std::abs(cross(way, point - from)) < tolerance::point * size && along >= 0 && along <= size;
      });
  if (straight) return lineCurve(from, to);
  double whole = 0;
  for (std::size_t i = 1; i < points.size(); ++i) whole += distance(points[i - 1], points[i]);
  if (whole < tolerance::smallestSize) return nullptr;
  return std::make_shared<const SplineCurve>(
      Spline::controlled(static_cast<int>(points.size()) - 1, points, {}, false));
}

class PathReader {
 public:
  explicit PathReader(const std::string& text) : scanner_(text) {}

  PlaneCurves read() {
    bool first = true;
    while (!scanner_.done()) {
      char command = scanner_.letter();
      if (command == '\0' || (first && command != 'M' && command != 'm')) scanner_.fail();
      first = false;
      do {
        step(command);
        // Pairs after a first one draw lines.
        if (command == 'M') command = 'L';
        if (command == 'm') command = 'l';
      } while (command != 'Z' && command != 'z' && scanner_.numberFollows());
    }
    return std::move(curves_);
  }

 private:
  void step(char command) {
    const bool relative = command >= 'a';
    const PlanePoint base = relative ? at_ : PlanePoint();
    const auto point = [&] { return base + scanner_.point(); };
    std::vector<PlanePoint> control{at_};
    switch (static_cast<char>(std::toupper(command))) {
      case 'M':
        start_ = at_ = point();
        break;
      case 'Z':
        add(lineCurve(at_, start_), start_);
        break;
      case 'L':
        lineTo(point());
        break;
      case 'H':
        lineTo({base.u + scanner_.number(), at_.v});
        break;
      case 'V':
        lineTo({at_.u, base.v + scanner_.number()});
        break;
      case 'C':
        control.push_back(point());
        break;
      case 'S':
        control.push_back(last_ == 'C' ? at_ * 2 - handle_ : at_);
        break;
      case 'Q':
        control.push_back(point());
        curveTo(std::move(control), point());
        return remember('Q');
      case 'T':
        control.push_back(last_ == 'Q' ? at_ * 2 - handle_ : at_);
        curveTo(std::move(control), point());
        return remember('Q');
      case 'A': {
        const double rx = scanner_.number(), ry = scanner_.number();
        const double angle = scanner_.number() * std::numbers::pi / 180;
        const bool large = scanner_.flag(), sweep = scanner_.flag();
        const PlanePoint to = point();
        add(arcBetween(at_, to, rx, ry, angle, large, sweep), to);
        break;
      }
      default:
        scanner_.fail();
    }
    if (control.size() == 1) return remember('\0');
    control.push_back(point());
    curveTo(std::move(control), point());
    remember('C');
  }

  void remember(char kind) { last_ = kind; }
  void lineTo(PlanePoint to) { add(lineCurve(at_, to), to); }
  void curveTo(std::vector<PlanePoint> control, PlanePoint to) {
    handle_ = control.back();
    control.push_back(to);
    add(bezier(control), to);
  }
  void add(std::shared_ptr<const PlaneCurve> curve, PlanePoint to) {
    if (curve) curves_.push_back(std::move(curve));
    at_ = to;
  }

  Scanner scanner_;
  PlaneCurves curves_;
  PlanePoint at_, start_, handle_;
  char last_ = '\0';
};

}  // namespace

PlaneCurves svgPath(const std::string& text) {
  return PathReader(text).read();
}

std::vector<double> svgNumbers(const std::string& text) {
  std::vector<double> numbers;
  for (Scanner scanner(text); !scanner.done();) numbers.push_back(scanner.number());
  return numbers;
}

}  // namespace kervo
