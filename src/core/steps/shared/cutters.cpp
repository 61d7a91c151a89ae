#include "steps/shared/cutters.h"
#include "base/say.h"
#include "geom/display/outline.h"

#include <algorithm>
#include <set>

#include "drawing/region_names.h"
#include "fields/bodies_field.h"
#include "fields/reference_parts.h"
#include "geom/motion.h"
#include "geom/planes.h"
#include "geom/surface/extension.h"
#include "geom/surface/placed_face.h"
#include "geom/surface/sheet.h"
#include "geom/sweep/sweep.h"

namespace kervo {

namespace {

/// Resolves one field's cutters.
class Resolving {
 public:
  Resolving(Inputs& inputs, const CuttersField& field, const CutterReach& reach, const Box& around, Progress& progress,
            CurveCutters curves)
      : inputs_(inputs), field_(field), reach_(reach), around_(around), progress_(progress), curves_(curves) {}

  std::vector<ResolvedCutter> all(const std::vector<CutterPick>& picks) {
    if (picks.empty()) field_.fail(say("no cutter is chosen"), say("Pick a plane, a face, a body or a drawing"));
    for (const CutterPick& pick : picks) {
      progress_.throwIfStopped();
      switch (pick.kind) {
        case CutterPick::Kind::Plane:
          addPlane(pick.plane);
          break;
        case CutterPick::Kind::Face:
          addFace(pick.face);
          break;
        case CutterPick::Kind::Body:
          addBodies(pick.body);
          break;
        case CutterPick::Kind::Drawing:
          addDrawing(pick.drawing);
          break;
      }
    }
    return std::move(result_);
  }

 private:
  std::string nameForFaces() const {
    return inputs_.id() + ":cut" + (result_.empty() ? "" : std::to_string(result_.size() + 1));
  }

  void addPlane(const PlanePick& pick) {
    const bool onFace = pick.kind == PlanePick::Kind::OnFace;
    if (onFace && reach_.extent != Extent::Whole) return addFace(pick.face);
    const std::string label = onFace                ? pick.face.name
                              : pick.height.empty() ? pick.name
                                                    : say("the height %1", pick.height.front().text());
    const Plane plane = planeFor(inputs_, pick, field_, number_);
    number_ += pick.height.size();
    addPlane(label, plane);
  }

  void addPlane(const std::string& label, const Plane& plane) {
    result_.push_back({.label = label, .plane = placed(plane, reach_, around_.centre()), .offsetAlong = plane.normal});
  }

  void addFace(const FaceReference& reference) {
    const Face face = faceFor(inputs_, reference, field_);
    if (reach_.extent == Extent::Whole) {
      if (const auto plane = face.plane()) {
        addPlane(reference.name, *plane);
      } else {
        result_.push_back({.label = reference.name, .sheet = enlarged(face, around_, nameForFaces())});
      }
      return;
    }
    const Shape lift = named(lifted({face}));
    result_.push_back({.label = reference.name, .sheet = asLongAsAsked(lift)});
  }

  void addBodies(const BodyId& family) {
    for (const BodyId& body : bodiesFor(inputs_, BodyPick::only({family}), field_)) {
      const Shape shape = inputs_.shape(body);
      if (shape.kind() == BodyKind::Curve && curves_ == CurveCutters::Allowed) {
        result_.push_back({.label = body, .curve = shape, .body = body});
        continue;
      }
      if (shape.kind() == BodyKind::Curve)
        field_.fail(say("\"%1\" is a curve, which does not cut by itself", body),
                    say("Sweep it to a surface, or score faces with it"));
      if (shape.mesh() && !shape.watertight())
        field_.fail(say("\"%1\" is a mesh that is not closed", body), say("Repair it, which fills its holes"));
      if (shape.hasInside())
        result_.push_back({.label = body, .solid = shape, .body = body});
      else
        result_.push_back({.label = body, .sheet = asLongAsAsked(shape), .body = body});
    }
  }

  void addDrawing(const RegionPick& pick) {
    const DrawingResult drawing = drawingFor(inputs_, pick, field_);
    std::vector<Path> paths;
    std::vector<Region> regions;
    std::set<std::size_t> taken;
    if (pick.all) {
      paths = drawing.paths;
      if (paths.empty()) regions = joined(drawing.regions);
    }
    for (const std::string& name : pick.regions) {
      if (pick.all) break;
      const auto path = std::find_if(drawing.paths.begin(), drawing.paths.end(),
                                     [&](const Path& each) { return each.name() == name; });
      const std::vector<std::size_t> meant = regionsMeant(name, drawing.regions);
      if (path != drawing.paths.end()) {
        paths.push_back(*path);
        continue;
      }
      for (const std::size_t i : meant)
        if (taken.insert(i).second) regions.push_back(drawing.regions[i]);
      if (meant.empty() && !mayBeNone(name, drawing))
        field_.fail(say("the drawing has no line or region \"%1\" any more", name),
                    say("Pick it again in the drawing"));
    }
    if (paths.empty() && regions.empty())
      field_.fail(say("nothing is drawn that could cut"), say("Draw a line right across, or close a region"));
    const auto [low, high] = reachAlong(drawing.plane);
    for (const Path& path : paths) {
      const double straightOn = reach_.extent == Extent::Extended ? reach_.extendBy : 0;
      result_.push_back({.label = path.name(), .sheet = sweptPath(path, nameForFaces(), low, high, straightOn)});
    }
    for (const SweptRegion& swept :
         sweep(nameForFaces(), regions, true, SweepLimit::at(low), SweepLimit::at(high - low), around_, progress_))
      result_.push_back({.label = swept.region.name(), .solid = solidOf(swept)});
  }

  /// From where to where everything lies along a plane's normal, with room.
  std::pair<double, double> reachAlong(const Plane& plane) const {
    Span span{0, 0};
    if (!around_.empty()) span = spanAbove(plane, around_);
    const double low = std::min(0.0, span.low), high = std::max(0.0, span.high);
    const double margin = 1 + 0.1 * (high - low);
    return {low - margin, high + margin};
  }

  Shape asLongAsAsked(const Shape& surface) const {
    return reach_.extent == Extent::Extended ? extended(surface, reach_.extendBy, inputs_.id()) : surface;
  }
  Shape named(const Shape& surface) const { return renamed(surface, nameForFaces() + "."); }

  Inputs& inputs_;
  const CuttersField& field_;
  const CutterReach& reach_;
  const Box& around_;
  Progress& progress_;
  const CurveCutters curves_;
  std::size_t number_ = 0;  ///< of the field's, for the next pick that has one
  std::vector<ResolvedCutter> result_;
};

}  // namespace

CutterFields::CutterFields(FieldTable& table, const When& when, CuttersField::Curves curves)
    : cutters(table, {.key = "cutters", .label = "Cutter", .well = Well::Cutter, .when = when}, curves),
      offset(table,
             {.key = "offset",
              .label = "Offset",
              .well = Well::Cutter,
              .help = "Of planes, along their normal",
              .when = cutters.havePlane()},
             "0 mm"),
      tilt(table,
           {.key = "tilt",
            .label = "Tilt",
            .well = Well::Cutter,
            .help = "Of planes, about their own x axis through the middle of the stock",
            .when = cutters.havePlane()},
           "0 deg"),
      turn(table,
           {.key = "turn",
            .label = "Turn",
            .well = Well::Cutter,
            .help = "Of planes, about their own y axis through the middle of the stock",
            .when = cutters.havePlane()},
           "0 deg") {}

ExtentFields::ExtentFields(FieldTable& table, const When& when)
    : extent(table,
             {.key = "extent",
              .label = "Extent",
              .well = Well::Reach,
              .help = say("whole: planes and faces go on as far as their surface does; extended: surfaces and drawn "
                          "lines are made longer; finite: a face cuts only where it is"),
              .when = when},
             {"whole", "extended", "finite"}),
      extend(table, {.key = "extend", .label = "Extend by", .well = Well::Reach, .when = extent.is(Extent::Extended)},
             "10 mm", NumberRule::Positive) {}

CutterReach reachOf(const Inputs& inputs, const CutterFields& cutters, const ExtentFields& extent) {
  return {extent.extent.of(inputs), extent.extend.of(inputs), cutters.offset.of(inputs), cutters.tilt.of(inputs),
          cutters.turn.of(inputs)};
}

std::vector<ResolvedCutter> cuttersOf(Inputs& inputs, const CuttersField& field, const CutterReach& reach,
                                      const Box& around, Progress& progress, CurveCutters curves) {
  return Resolving(inputs, field, reach, around, progress, curves).all(field.in(inputs));
}

std::vector<ResolvedCutter> cuttersOf(Inputs& inputs, const CuttersField& field, const std::vector<CutterPick>& picks,
                                      const CutterReach& reach, const Box& around, Progress& progress,
                                      CurveCutters curves) {
  return Resolving(inputs, field, reach, around, progress, curves).all(picks);
}

Plane placed(const Plane& plane, const CutterReach& reach, Point middle) {
  const Plane moved = plane.moved(reach.offset);
  if (reach.tilt == 0 && reach.turn == 0) return moved;
  const Point foot = middle - moved.normal * moved.signedDistance(middle);
  const Motion tilted = Motion::turn(foot, moved.x, reach.tilt);
  const Motion both = tilted.then(Motion::turn(foot, tilted.turned(moved.y), reach.turn));
  return {foot, both.turned(moved.x), both.turned(moved.y), both.turned(moved.normal)};
}

double faceCountOf(const std::vector<ResolvedCutter>& cutters) {
  double count = 0;
  for (const ResolvedCutter& cutter : cutters)
    count += cutter.plane ? 1 : cutter.sheet.faceCount() + cutter.solid.faceCount() + cutter.curve.edgeCount();
  return count;
}

std::vector<Plane> planesOf(const std::vector<ResolvedCutter>& cutters) {
  std::vector<Plane> planes;
  for (const ResolvedCutter& cutter : cutters)
    if (cutter.plane) planes.push_back(*cutter.plane);
  return planes;
}

std::vector<Polyline> outlinesOf(const std::vector<ResolvedCutter>& cutters, const Box& around) {
  std::vector<Polyline> lines;
  for (const ResolvedCutter& cutter : cutters) {
    if (cutter.plane) lines.push_back(rectangleAround(around, *cutter.plane, 0.1 * around.diagonal()));
    // Bodies are shown as bodies.
    if (!cutter.body.empty()) continue;
    for (const Shape* shape : {&cutter.sheet, &cutter.solid}) {
      const std::vector<Polyline> edges = edgeLines(*shape);
      lines.insert(lines.end(), edges.begin(), edges.end());
    }
  }
  return lines;
}

}  // namespace kervo
