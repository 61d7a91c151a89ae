#include "drawing/drawing_result.h"

#include <set>

#include "base/error.h"
#include "base/say.h"
#include "drawing/constraint_kind.h"
#include "drawing/copies.h"
#include "drawing/curve_kind.h"

namespace kervo {

namespace {

/// The curves of a drawing: those drawn, those taken along, and copies of them.
class Curves {
 public:
  Curves(const Drawing& drawing, const DrawingValues& values, const Solution& solution)
      : drawing_(drawing), values_(values), solution_(solution), ids_(drawing) {
    for (std::size_t i = 0; i < drawing.curves.size(); ++i) addDrawn(i);
    for (const TakenCurve& each : values.taken) add(each.curve, each.construction);
    for (std::size_t i = 0; i < drawing.copies.size(); ++i) addCopies(i);
  }

  std::vector<PlanarCurve> all, bounding;

 private:
  void add(PlanarCurve curve, bool construction) {
    if (!construction) bounding.push_back(curve);
    all.push_back(std::move(curve));
  }

  void addDrawn(std::size_t index) {
    const DrawnCurve& curve = drawing_.curves[index];
    const CurveKind& kind = *findCurveKind(curve.kind);
    if (curve.points.empty()) {
      for (PlanarCurve& planar : kind.curves(curve.id, values_.numbers.at(index)))
        add(std::move(planar), curve.construction);
      return;
    }
    std::vector<PlanePoint> at;
    for (const std::string& id : curve.points) at.push_back(solution_.points.at(ids_.pointAt(id)));
    const bool besides = !kind.besides.empty();
    for (PlanarCurve& planar :
         kind.all(curve, at, solution_.sizes.at(index), besides ? values_.numbers.at(index) : std::vector<double>()))
      add(std::move(planar), curve.construction);
  }

  void addCopies(std::size_t index) {
    const DrawnCopies& copies = drawing_.copies[index];
    try {
      std::vector<PlanarCurve> of;
      for (const PlanarCurve& curve : all)
        for (const std::string& id : copies.of)
          if (belongs(curve.id, id)) {
            // One that cannot be there now says so itself, and not what is made of it.
            curve.geometry->require(say("curve \"%1\"", curve.id));
            of.push_back(curve);
            break;
          }
      if (of.empty()) throw Error(say("there is no curve that it could be made of"), "", say("Choose curves again"));
      const CopyKind& kind = *findCopyKind(copies.kind);
      for (PlanarCurve& made : kind.made(copies, of, placeOf(copies.about, kind.about()), values_.copies.at(index)))
        add(std::move(made), copies.construction);
    } catch (const Error& error) {
      throw error.within(say("copies \"%1\"", copies.id));
    }
  }

  CopyKind::Place placeOf(const std::string& about, CopyKind::About what) const {
    if (what == CopyKind::About::Nothing) return {};
    if (about == originId) return {};
    if (about == uAxisId) return {{0, 0}, {1, 0}};
    if (about == vAxisId) return {{0, 0}, {0, 1}};
    if (const auto point = drawing_.point(about)) return {solution_.points.at(*point), {}};
    for (const PlanarCurve& curve : all) {
      const auto carrier = curve.geometry->carrier();
      if (curve.id == about && what == CopyKind::About::Line && carrier && carrier->radius == 0)
        return {curve.geometry->at(0), curve.geometry->at(1)};
      if (what != CopyKind::About::Point) continue;
      if (about == curve.id + ".centre" && carrier && carrier->radius > 0) return {carrier->centre, {}};
      if (about == curve.id + ".from") return {curve.geometry->at(0), {}};
      if (about == curve.id + ".to") return {curve.geometry->at(1), {}};
    }
    throw Error(
        what == CopyKind::About::Line ? say("there is no line \"%1\"", about) : say("there is no point \"%1\"", about),
        "", say("Choose another one"));
  }

  const Drawing& drawing_;
  const DrawingValues& values_;
  const Solution& solution_;
  DrawingIds ids_;
};

}  // namespace

bool belongs(const std::string& curve, const std::string& id) {
  return curve.starts_with(id) && (curve.size() == id.size() || curve[id.size()] == '.' || curve[id.size()] == ':');
}

std::vector<PlanarCurve> curvesOf(const Drawing& drawing, const DrawingValues& values, const Solution& solution,
                                  bool construction) {
  Curves curves(drawing, values, solution);
  return construction ? std::move(curves.all) : std::move(curves.bounding);
}

DrawingResult DrawingResult::of(const Plane& plane, const Drawing& drawing, const DrawingValues& values,
                                const Solution& solution, Progress& progress) {
  const Curves curves(drawing, values, solution);
  DrawingResult result;
  result.plane = plane;
  result.regions = findRegions(plane, curves.bounding, progress);
  result.values = values;
  result.solution = solution;
  for (const DrawnCopies& copies : drawing.copies) result.copies.push_back(copies.id);
  result.paths = findPaths(plane, curves.bounding, result.regions);
  std::set<std::string> bounding;
  for (const PlanarCurve& curve : curves.bounding) bounding.insert(curve.id);
  for (const PlanarCurve& curve : curves.all) {
    const SpaceCurve inSpace = curve.geometry->on(plane);
    result.lines.push_back(inSpace.outline());
    if (bounding.contains(curve.id)) result.curves.push_back({curve.id, inSpace});
    if (std::holds_alternative<Segment>(inSpace.form()))
      result.axes.push_back({curve.id, {inSpace.at(0), inSpace.tangentAt(0)}, !bounding.contains(curve.id)});
  }
  return result;
}

}  // namespace kervo
