#include "shop/view_picture.h"

#include <algorithm>
#include <iterator>

#include "base/error.h"
#include "base/say.h"
#include "geom/divide/clipped.h"
#include "geom/flat/flat_curves.h"
#include "geom/flat/hidden_lines.h"
#include "geom/tolerances.h"
#include "geom/topology.h"
#include "model/shown.h"
#include "shop/chains.h"

namespace kervo {

namespace {

/// Widths of lines and dashes, mm on paper.
constexpr double thick = 0.5, normal = 0.25, thin = 0.13, dash = 2, gap = 1.2;

Plane planeOf(const ViewCamera& camera) {
  return {camera.centre, cross(camera.up, camera.towardsEye), camera.up, camera.towardsEye};
}

/// The chains of curves that lie on the world's xy plane.
std::vector<FlatChain> chainsOf(const std::vector<SpaceCurve>& curves) {
  std::vector<FlatCurve> flat;
  for (const SpaceCurve& curve : curves) flat.push_back(planeCurveOf(curve, {}));
  return chained(flat, tolerance::samePlace);
}

double lengthOfAll(const std::vector<SpaceCurve>& curves) {
  double sum = 0;
  for (const SpaceCurve& curve : curves) sum += curve.length();
  return sum;
}

double distanceTo(PlanePoint point, PlanePoint from, PlanePoint to) {
  const PlanePoint way = to - from;
  const double square = dot(way, way);
  const double t = square > 0 ? std::clamp(dot(point - from, way) / square, 0.0, 1.0) : 0;
  return distance(point, from + way * t);
}

/// Whether a point lies within loops, by odd and even, and clear of them.
class Inside {
 public:
  explicit Inside(const std::vector<FlatChain>& loops) {
    for (const FlatChain& loop : loops)
      for (const FlatCurve& curve : loop) {
        const int count = std::holds_alternative<Segment>(curve->on({}).form()) ? 1 : steps;
        for (int i = 0; i < count; ++i)
          stretches_.emplace_back(curve->at(double(i) / count), curve->at(double(i + 1) / count));
      }
  }

  bool operator()(PlanePoint point) const {
    constexpr double clear = 1e-2;
    bool inside = false;
    for (const auto& [from, to] : stretches_) {
      if (distanceTo(point, from, to) < clear) return false;
      if ((from.v > point.v) == (to.v > point.v)) continue;
      if (point.u < from.u + (point.v - from.v) / (to.v - from.v) * (to.u - from.u)) inside = !inside;
    }
    return inside;
  }

 private:
  static constexpr int steps = 48;
  std::vector<std::pair<PlanePoint, PlanePoint>> stretches_;
};

class ViewDrawing {
 public:
  ViewDrawing(const Model& model, const SavedView& view, const ViewPictureOrder& order, Progress& progress)
      : model_(model), order_(order), progress_(progress), plane_(planeOf(view.camera)) {
    if (view.camera.perspective) note(say("the view is in perspective; it is drawn in parallel projection"));
    for (const StepReport& report : model.sections)
      if (report.result && report.result->section &&
          std::find(view.sections.begin(), view.sections.end(), report.id) != view.sections.end())
        sections_.push_back(&report);
  }

  ViewPicture run() {
    for (const Body& body : model_.bodies) cut(body);
    if (shapes_.empty())
      throw Error(say("the view shows nothing that can be drawn"), "", say("Show solids or surfaces in it"));
    progress_.enter(0.3, 0.9, say("finding hidden lines"));
    const AllSeen seen = linesSeen(shapes_, plane_, progress_);
    if (seen.by == SeenBy::Triangles)
      note(
          say("drawn by triangles, in short lines off by 0.05 mm: there are too many faces, or some that cannot be "
              "projected"));
    lines_ = &seen.lines;
    for (std::size_t i = 0; i < shapes_.size(); ++i) draw(i, seen.lines[i]);
    // Cut faces cover what is hidden behind them.
    for (auto* layers : {&hidden_, &cut_, &seen_})
      std::move(layers->begin(), layers->end(), std::back_inserter(result_.picture.layers));
    finish(result_.picture, order_);
    return std::move(result_);
  }

 private:
  void note(const std::string& text) { result_.notes.push_back(text); }

  /// What of the body is not cut away.
  void cut(const Body& body) {
    progress_.throwIfStopped();
    if (!body.inSight()) return;
    const Shape* shape = body.form.shape();
    if (!shape || shape->kind() == BodyKind::Curve)
      return note(shape ? say("%1 is a curve and left out", body.name) : say("%1 is a mesh and left out", body.name));
    std::vector<NamedClip> clips;
    for (const StepReport* section : sections_)
      if (const SectionCut& cut = *section->result->section; cut.cuts(body.id, body.layer))
        clips.push_back({section->id.text(), cut.clip});
    const Shape rest = clipped(*shape, clips, progress_);
    if (rest.empty()) return;
    shapes_.push_back(rest);
    bodies_.push_back(&body);
  }

  void draw(std::size_t number, const SeenLines& lines) {
    const Body& body = *bodies_[number];
    fillCuts(number);
    seen_.push_back({.name = body.name,
                     .ink = paperInk(),
                     .width = normal,
                     .chains = scaled(chainsOf(lines.visible), order_.scale)});
    result_.visible += lengthOfAll(lines.visible);
    result_.bodies.push_back(body.name);
    if (!order_.hidden || lines.hidden.empty()) return;
    result_.hidden += lengthOfAll(lines.hidden);
    hidden_.push_back({.name = say("%1 hidden", body.name),
                       .ink = paperInk(),
                       .width = thin,
                       .chains = scaled(chainsOf(lines.hidden), order_.scale),
                       .dash = dash,
                       .gap = gap});
  }

  void fillCuts(std::size_t number) {
    const Body& body = *bodies_[number];
    FlatLayer layer{.name = say("%1 cut", body.name), .ink = paperInk(), .width = normal};
    int partly = 0;
    for (const StepReport* section : sections_) {
      const std::string name = section->id.text() + ":cut";
      for (const Face& face : facesOf(shapes_[number])) {
        constexpr double slant = 1e-6;
        const auto isCut = [&](const std::string& origin) { return origin.starts_with(name); };
        if (std::none_of(face.origins().begin(), face.origins().end(), isCut)) continue;
        if (!face.plane() || dot(face.normal(), plane_.normal) < slant) continue;
        std::vector<FlatChain> loops;
        for (const auto& loop : flatLoops(face, plane_)) {
          FlatChain& chain = loops.emplace_back();
          for (const SpaceCurve& curve : loop) chain.push_back(planeCurveOf(curve, plane_));
        }
        const int seen = seenOf(face, shapes_[number], loops);
        if (seen < 0) ++partly;
        if (seen <= 0) continue;
        const CutFill& fill = section->result->section->fill;
        if (fill.thick) layer.width = thick;
        loops = scaled(std::move(loops), order_.scale);
        layer.chains.insert(layer.chains.end(), loops.begin(), loops.end());
        layer.fills.push_back(filled(std::move(loops), fill, body.color.value_or(Color{0.72, 0.74, 0.75}),
                                     number % 2 == 1, order_.scale));
      }
    }
    if (!layer.fills.empty()) cut_.push_back(std::move(layer));
    if (partly > 0) note(say("a cut face of %1 is partly hidden and not filled", body.name));
  }

  /// 1: all of the face that was asked is seen, 0: nothing of it, −1: some.
  int seenOf(const Face& face, const Shape& of, const std::vector<FlatChain>& loops) const {
    const Point inside = face.samplePoint();
    std::vector<Point> places{inside};
    // A little inside of its borders, where something may stand before it.
    constexpr double inwards = 0.02;
    for (const Edge& edge : edgesAround(of, face)) {
      const Point middle = edge.middle();
      places.push_back(middle + (inside - middle) * inwards);
    }
    std::size_t seen = 0;
    for (const Point& place : places)
      if (isSeen(place, plane_.normal, shapes_)) ++seen;
    if (seen == 0) return 0;
    return seen == places.size() && !anyLineWithin(loops) ? 1 : -1;
  }

  /// Whether a line that is seen lies within the loops: then something stands before them.
  bool anyLineWithin(const std::vector<FlatChain>& loops) const {
    const Inside inside(loops);
    for (const SeenLines& each : *lines_)
      for (const SpaceCurve& curve : each.visible)
        for (const double t : {0.1, 0.5, 0.9}) {
          const Point at = curve.at(t);
          if (inside({at.x, at.y})) return true;
        }
    return false;
  }

  const Model& model_;
  const ViewPictureOrder& order_;
  Progress& progress_;
  Plane plane_;
  std::vector<const StepReport*> sections_;
  std::vector<Shape> shapes_;
  std::vector<const Body*> bodies_;
  const std::vector<SeenLines>* lines_ = nullptr;
  std::vector<FlatLayer> hidden_, cut_, seen_;
  ViewPicture result_;
};

}  // namespace

ViewPicture viewPicture(const Document& document, const Model& model, const SavedView& view,
                        const ViewPictureOrder& order, Progress& progress) {
  const Model seen = shown(model, asSeen(document, view).seen);
  return ViewDrawing(seen, view, order, progress).run();
}

}  // namespace kervo
