#include "shop/paper.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <numbers>

#include "base/error.h"
#include "base/quantity.h"
#include "base/say.h"
#include "drawing/text_outline.h"
#include "geom/tolerances.h"
#include "model/hatches.h"
#include "shop/chains.h"

namespace kervo {

namespace {

constexpr double margin = 10, stripHeight = 18, textHeight = 3.2;  // mm on paper
const Color ink{0.11, 0.17, 0.2};

FlatCurve scaled(const FlatCurve& curve, double by) {
  const auto point = [&](Point p) { return Point{p.x * by, p.y * by, 0}; };
  const auto plane = [&](const Plane& p) { return Plane{point(p.origin), p.x, p.y, p.normal}; };
  SpaceCurve space = curve->on({});
  if (const auto* line = std::get_if<Segment>(&space.form()))
    return planeCurveOf(Segment{point(line->from), point(line->to)}, {});
  if (const auto* arc = std::get_if<CircularArc>(&space.form()))
    return planeCurveOf(CircularArc{plane(arc->axes), arc->radius * by, arc->fromAngle, arc->toAngle}, {});
  if (const auto* arc = std::get_if<EllipticalArc>(&space.form()))
    return planeCurveOf(EllipticalArc{plane(arc->axes), arc->large * by, arc->small * by, arc->fromAngle, arc->toAngle},
                        {});
  const auto& arc = std::get<SplineArc>(space.form());
  std::vector<PlanePoint> poles;
  for (const PlanePoint& pole : arc.spline.poles()) poles.push_back(pole * by);
  return planeCurveOf(SplineArc{plane(arc.plane), Spline::of(arc.spline.degree(), arc.spline.knots(), std::move(poles),
                                                             arc.spline.weights(), arc.spline.closed())},
                      {});
}

/// The colour of cut faces in light: the body's, brightened.
Color colorOf(const CutFill& fill, const Color& body) {
  if (fill.by == CutFill::By::Own) return fill.color;
  const double keep = fill.by == CutFill::By::Hatch ? 0.35 : 0.7;
  const auto part = [&](double x) { return 1 - (1 - x) * keep; };
  return {part(body.red), part(body.green), part(body.blue)};
}

std::vector<HatchLines> hatchOf(const CutFill& fill, bool turned, double scale) {
  const Hatch* hatch = fill.by == CutFill::By::Hatch ? findHatch(fill.hatch) : nullptr;
  if (!hatch) return {};
  constexpr double most = 4;
  const double seen = fill.scale * scale, width = seen > 1 / most && seen < most ? seen : 1;
  std::vector<HatchLines> lines = hatch->lines;
  for (HatchLines& each : lines) {
    each.angle += fill.turn + (turned ? std::numbers::pi / 2 : 0);
    for (double* size : {&each.spacing, &each.offset, &each.dash, &each.gap, &each.shift}) *size *= width;
  }
  return lines;
}

void write(FlatPicture& picture, const std::string& text, PlanePoint at) {
  if (text.empty()) return;
  std::vector<FlatCurve> curves;
  for (const PlanarCurve& curve : textOutline("t", text, textHeight, PlaneMotion::shift(at)))
    curves.push_back(curve.geometry);
  FlatFill letters{.loops = chained(curves, tolerance::looseEdge), .color = ink};
  picture.layer("title", ink).fills.push_back(std::move(letters));
}

FlatChain line(PlanePoint from, PlanePoint to) {
  return {std::make_shared<const LineCurve>(from, to)};
}

/// A round length of the model that is 20 to 50 mm on paper, drawn as a bar with its ends marked.
void addStrip(FlatPicture& picture, const PaperOrder& order) {
  FlatLayer& layer = picture.layer("title", ink);
  layer.chains.push_back(line({margin, stripHeight}, {picture.width - margin, stripHeight}));
  const double wanted = 20 / order.scale, ten = std::pow(10, std::floor(std::log10(wanted)));
  const double bar = wanted <= ten ? ten : wanted <= 2 * ten ? 2 * ten : wanted <= 5 * ten ? 5 * ten : 10 * ten;
  const double right = picture.width - margin, left = right - bar * order.scale, v = 9;
  layer.chains.push_back(line({left, v}, {right, v}));
  for (const double u : {left, (left + right) / 2, right}) layer.chains.push_back(line({u, v - 1}, {u, v + 1}));
  const std::string length = bar >= 1000 ? formatNumber(bar / 1000) + " m" : formatNumber(bar) + " mm";
  write(picture, length, {left, v + 2});
  write(picture, order.name.empty() ? scaleText(order.scale) : order.name + "   " + scaleText(order.scale),
        {margin, v});
}

}  // namespace

double scaleFrom(const std::string& text) {
  const auto number = [](const std::string& part) {
    double value = 0;
    const auto [end, failed] = std::from_chars(part.data(), part.data() + part.size(), value);
    return failed == std::errc() && end == part.data() + part.size() ? value : 0;
  };
  const std::size_t colon = text.find(':');
  const double paper = number(text.substr(0, colon)),
               model = colon == std::string::npos ? 1 : number(text.substr(colon + 1));
  if (!(paper > 0) || !(model > 0)) throw Error(say("\"%1\" is no scale", text), "", say("Write it like 1:50 or 2:1"));
  return paper / model;
}

std::string scaleText(double scale) {
  return scale >= 1 ? formatNumber(scale, 6) + ":1" : "1:" + formatNumber(1 / scale, 6);
}

Color paperInk() {
  return ink;
}

std::vector<FlatChain> scaled(std::vector<FlatChain> chains, double by) {
  for (FlatChain& chain : chains)
    for (FlatCurve& curve : chain) curve = scaled(curve, by);
  return chains;
}

FlatFill filled(std::vector<FlatChain> loops, const CutFill& fill, const Color& body, bool turned, double scale) {
  return {.loops = std::move(loops), .color = colorOf(fill, body), .hatch = hatchOf(fill, turned, scale)};
}

void finish(FlatPicture& picture, const PaperOrder& order) {
  std::vector<FlatChain> all;
  for (const FlatLayer& layer : picture.layers) all.insert(all.end(), layer.chains.begin(), layer.chains.end());
  const PlaneBox box = boxOf(all);
  const double below = order.strip ? margin + stripHeight : margin;
  const PlaneMotion into = PlaneMotion::shift(PlanePoint{margin, below} - box.low);
  for (FlatLayer& layer : picture.layers) {
    for (FlatChain& chain : layer.chains) chain = moved(chain, into);
    for (FlatFill& fill : layer.fills)
      for (FlatChain& loop : fill.loops) loop = moved(loop, into);
  }
  picture.width = std::max(box.high.u - box.low.u + 2 * margin, order.strip ? 100.0 : 0);
  picture.height = box.high.v - box.low.v + below + margin;
  picture.title = order.name;
  if (order.strip) addStrip(picture, order);
}

}  // namespace kervo
