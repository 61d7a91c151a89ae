#include "steps/shared/cut_reach.h"
#include "base/say.h"
#include "geom/display/outline.h"

#include <algorithm>
#include <cmath>

#include "geom/divide/boolean.h"
#include "geom/measure/approach.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

/// Regions that go to one depth.
struct Profiles {
  std::vector<Region> regions;
  double depth = 0;  ///< mm
};

class Reach {
  using Way = CutReach::Way;
  using To = CutReach::To;

 public:
  Reach(const CutReach& fields, StepInputs& inputs, const std::vector<BodyId>& stock, const Box& around,
        Progress& progress)
      : fields_(fields),
        inputs_(inputs),
        stock_(stock),
        around_(around),
        progress_(progress),
        way_(fields.way.of(inputs)),
        to_(fields.to.of(inputs)),
        draft_(fields.draft.of(inputs)) {}

  std::vector<SweptRegion> run() {
    requireStartForWay();
    std::vector<SweptRegion> result;
    for (const Profiles& profiles : profilesByDepth())
      for (SweptRegion& swept : sweptWays(profiles)) result.push_back(std::move(swept));
    return result;
  }

 private:
  bool twoSided() const { return way_ == Way::Both || way_ == Way::TwoDepths; }

  void requireStartForWay() const {
    if (!twoSided()) return;
    const bool endsThere = to_ == To::Distance || to_ == To::Through;
    if (fields_.from.of(inputs_) != CutReach::From::Profile || !endsThere ||
        (way_ == Way::TwoDepths && to_ != To::Distance))
      throw Error(say("a cut both ways starts at the profile and goes a distance or through all"), "reach",
                  say("Choose one way, or another start and end"));
  }

  /// Regions with a depth of their own stand alone, the others are joined.
  std::vector<Profiles> profilesByDepth() {
    const std::vector<Region> picked = fields_.profiles.of(inputs_);
    const auto depths = fields_.profiles.depths(inputs_);
    const double depth = fields_.depth.of(inputs_);
    if (depths.empty() || to_ != To::Distance) return {{joined(picked), depth}};
    const DrawingResult drawing = fields_.profiles.drawing(inputs_);
    std::vector<Profiles> result;
    std::vector<Region> others;
    for (const Region& region : picked) {
      const auto own = depths.find(region.name());
      if (own == depths.end())
        others.push_back(region);
      else
        result.push_back({{region}, own->second});
    }
    for (const auto& [name, own] : depths)
      if (std::none_of(drawing.regions.begin(), drawing.regions.end(),
                       [&](const Region& region) { return region.name() == name; }))
        inputs_.warn(say("the region \"%1\", which has a depth of its own, is not there any more", name));
    if (!others.empty()) result.push_back({joined(others), depth});
    return result;
  }

  std::vector<SweptRegion> sweptWays(const Profiles& profiles) {
    const bool drafted = std::abs(draft_) > tolerance::parallel;
    if (!twoSided()) return withDraft(oneWay(profiles));
    const double out = way_ == Way::TwoDepths ? fields_.outDepth.of(inputs_) : profiles.depth;
    if (to_ == To::Through && !drafted)
      return sweep(inputs_.id(), profiles.regions, false, SweepLimit::beyond(), SweepLimit::beyond(), around_,
                   progress_);
    if (!drafted)
      return sweep(inputs_.id(), profiles.regions, false, SweepLimit::at(-out), SweepLimit::at(out + profiles.depth),
                   around_, progress_);
    // Both sides lean from the profile's plane.
    std::vector<SweptRegion> both;
    for (const bool along : {false, true}) {
      const SweepLimit end = to_ == To::Through ? SweepLimit::beyond() : SweepLimit::at(along ? out : profiles.depth);
      for (SweptRegion& swept :
           withDraft(sweep(inputs_.id(), profiles.regions, along, SweepLimit::at(0), end, around_, progress_)))
        both.push_back(std::move(swept));
    }
    return both;
  }

  std::vector<SweptRegion> withDraft(std::vector<SweptRegion> regions) const {
    if (std::abs(draft_) <= tolerance::parallel) return regions;
    for (SweptRegion& swept : regions) {
      swept.cutter = drafted(swept, draft_);
      swept.straight = false;
    }
    return regions;
  }

  SweepLimit start() {
    if (fields_.from.of(inputs_) == CutReach::From::Face) return SweepLimit::atFace(fields_.fromFace.of(inputs_));
    return SweepLimit::at(fields_.fromOffset.of(inputs_));
  }

  std::vector<SweptRegion> oneWay(const Profiles& profiles) {
    const bool along = way_ == Way::Out;
    const auto to = [&](const SweepLimit& end) {
      return sweep(inputs_.id(), profiles.regions, along, start(), end, around_, progress_);
    };
    switch (to_) {
      case To::Distance:
        return to(SweepLimit::at(profiles.depth));
      case To::Face:
        return to(SweepLimit::atFace(fields_.toFace.of(inputs_)));
      case To::Through:
        return to(SweepLimit::beyond());
      case To::NextWall:
        return untilNextWall(to(SweepLimit::beyond()), along);
      case To::Body:
        break;
    }
    return untilBody(profiles, along);
  }

  /// A wall that a swept profile passes: a part of a stock body, and where it lies along the cut.
  struct Wall {
    Shape part;
    double from, to;
  };

  std::vector<SweptRegion> untilNextWall(std::vector<SweptRegion> regions, bool along) {
    std::vector<SweptRegion> result;
    for (SweptRegion& swept : regions) {
      const Vector normal = normalOf(swept.region);
      const Vector way = along ? normal : -normal;
      const double base = dot(middleOf(swept.region), way);
      std::vector<Wall> walls = wallsIn(solidOf(swept), way);
      if (walls.empty()) continue;
      double end = walls.front().to;
      std::size_t first = 1;
      // Parts that begin together are one wall, e.g. two bodies side by side.
      while (first < walls.size() && walls[first].from < walls.front().from + tolerance::samplePoint)
        end = std::max(end, walls[first++].to);
      const bool clear = first == walls.size() || walls[first].from > end + tolerance::samplePoint;
      if (clear && swept.straight) {
        // Half-way through the air behind it, so that no face is grazed.
        const double stop = first == walls.size() ? end + 1 : (end + walls[first].from) / 2;
        (along ? swept.to : swept.from) = along ? stop - base : base - stop;
        result.push_back(std::move(swept));
      } else {
        for (std::size_t i = 0; i < first; ++i) {
          SweptRegion part = swept;
          part.straight = false;
          part.cutter = walls[i].part;
          result.push_back(std::move(part));
        }
      }
    }
    if (result.empty())
      throw Error(say("the cut meets no wall"), "reach", say("Reverse its direction, or check where the profile lies"));
    return result;
  }

  std::vector<Wall> wallsIn(const Shape& swept, Vector way) {
    std::vector<Wall> walls;
    for (const BodyId& body : stock_) {
      if (!inputs_.box(body).overlaps(swept.roughBox()) || inputs_.shape(body).kind() != BodyKind::Solid) continue;
      for (const Shape& part : divide(inputs_.shape(body), {swept}, progress_).inside.pieces()) {
        const auto [from, to] = extentAlong(part, way);
        walls.push_back({part, from, to});
      }
    }
    std::sort(walls.begin(), walls.end(), [](const Wall& a, const Wall& b) { return a.from < b.from; });
    return walls;
  }

  std::vector<SweptRegion> untilBody(const Profiles& profiles, bool along) {
    const std::vector<BodyId> ends = fields_.toBody.of(inputs_);
    if (ends.empty()) fields_.toBody.fail(say("no end body is chosen"), say("Pick the body to cut to"));
    std::vector<Shape> solids, surfaces;
    Box all = around_;
    for (const BodyId& body : ends) {
      all.add(inputs_.box(body));
      const Shape shape = inputs_.shape(body);
      if (shape.kind() == BodyKind::Curve)
        fields_.toBody.fail(say("\"%1\" is a curve, which ends no cut", body), say("Pick a solid or a surface"));
      // A surface of one face goes on beyond its border.
      if (ends.size() == 1 && shape.kind() == BodyKind::Surface && shape.faceCount() == 1)
        return sweep(inputs_.id(), profiles.regions, along, start(), SweepLimit::atFace(facesOf(shape).front()),
                     around_, progress_);
      (shape.kind() == BodyKind::Solid ? solids : surfaces).push_back(shape);
    }
    std::vector<SweptRegion> result;
    for (SweptRegion& swept :
         sweep(inputs_.id(), profiles.regions, along, start(), SweepLimit::beyond(), all, progress_)) {
      swept.cutter = beforeBodies(solidOf(swept), solids, surfaces, swept.region.name());
      swept.straight = false;
      result.push_back(std::move(swept));
    }
    return result;
  }

  /// The part of a swept profile between its start and the first of the bodies.
  Shape beforeBodies(const Shape& swept, const std::vector<Shape>& solids, const std::vector<Shape>& surfaces,
                     const std::string& region) {
    std::vector<Shape> parts = divide(swept, solids, progress_).outside.pieces();
    const bool divided = parts.size() != 1 || parts.front().volume() < swept.volume() * (1 - tolerance::relative);
    if (!surfaces.empty()) {
      std::vector<Shape> finer;
      for (const Shape& part : parts)
        for (const Shape& piece : splitBySurfaces(part, surfaces, progress_)) finer.push_back(piece);
      parts = std::move(finer);
    }
    const std::string begin = inputs_.id() + ":start";
    std::vector<Shape> atStart;
    for (const Shape& part : parts)
      for (const Face& face : facesOf(part))
        if (std::binary_search(face.origins().begin(), face.origins().end(), begin)) {
          atStart.push_back(part);
          break;
        }
    if (atStart.empty())
      fields_.toBody.fail(say("the profile \"%1\" starts inside the end body", region),
                          say("Start further back, or pick another body"));
    if (atStart.size() > 1)
      fields_.toBody.fail(say("the end body crosses the profile \"%1\" where the cut starts", region),
                          say("Start further back, or give a distance"));
    if (!divided && parts.size() == 1)
      fields_.toBody.fail(say("the profile \"%1\" does not reach the end body", region),
                          say("Reverse the direction, or pick another body"));
    return atStart.front();
  }

  const CutReach& fields_;
  StepInputs& inputs_;
  const std::vector<BodyId>& stock_;
  const Box& around_;
  Progress& progress_;
  const Way way_;
  const To to_;
  const double draft_;
};

}  // namespace

CutReach::CutReach(FieldTable& table)
    : profiles(table, {.key = "profiles", .label = "Profiles", .well = Well::Cutter}, &depth),
      way(table,
          {.key = "way",
           .label = "Direction",
           .well = Well::Reach,
           .help = say("into: against the drawing plane's normal, into the body whose face was drawn on; two depths: "
                       "one into, another out")},
          {"into", "out", "both", "two depths"}),
      from(table, {.key = "from", .label = "From", .well = Well::Reach}, {"profile", "offset", "face"}),
      fromOffset(table,
                 {.key = "from_offset",
                  .label = "Start offset",
                  .well = Well::Reach,
                  .help = "Along the way of the cut",
                  .when = from.is(From::Offset)},
                 "0 mm"),
      fromFace(table, {.key = "from_face", .label = "Start face", .well = Well::Reach, .when = from.is(From::Face)}),
      to(table,
         {.key = "to",
          .label = "To",
          .well = Well::Reach,
          .help = "next wall: stops behind the first wall that it passes",
          .telling = true},
         {"distance", "through", "next wall", "face", "body"}, To::Through),
      depth(table, {.key = "depth", .label = "Depth", .well = Well::Reach, .when = to.is(To::Distance)}, "10 mm",
            NumberRule::Positive),
      toFace(table, {.key = "to_face", .label = "End face", .well = Well::Reach, .when = to.is(To::Face)}),
      toBody(table, {.key = "to_body",
                     .label = "End body",
                     .well = Well::Reach,
                     .help = "A solid or a surface; the cut ends where it meets it first",
                     .when = to.is(To::Body)}),
      outDepth(table, {.key = "out_depth", .label = "Depth out", .well = Well::Reach, .when = way.is(Way::TwoDepths)},
               "10 mm", NumberRule::Positive),
      draft(table,
            {.key = "draft",
             .label = "Draft",
             .well = Well::Reach,
             .help = "The sides lean inwards from where the cut starts; less than zero: outwards"},
            "0 deg") {}

std::vector<SweptRegion> CutReach::swept(StepInputs& inputs, const std::vector<BodyId>& stock, const Box& around,
                                         Progress& progress) const {
  return Reach(*this, inputs, stock, around, progress).run();
}

}  // namespace kervo
