// Drilled holes on the circles of a drawing: plain, countersunk or counterbored, for metric screws or of any size.
#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/quantity.h"
#include "base/say.h"
#include "fields/bodies_field.h"
#include "fields/choice_field.h"
#include "fields/flag_field.h"
#include "fields/pieces_field.h"
#include "fields/regions_field.h"
#include "geom/display/outline.h"
#include "geom/divide/boolean.h"
#include "geom/divide/perforate.h"
#include "geom/measure/crossings.h"
#include "geom/planes.h"
#include "geom/sweep/revolve.h"
#include "steps/registry.h"
#include "steps/shared/alike_bodies.h"
#include "steps/shared/cut_stock.h"
#include "steps/shared/drawn_circles.h"
#include "steps/shared/metric_screws.h"
#include "steps/shared/threads.h"

namespace kervo {

namespace {

/// What a hole looks like, whatever it is in; lengths in mm.
struct HoleForm {
  double radius = 0;      ///< of the bore
  double headRadius = 0;  ///< of the countersink or counterbore; 0: it has none
  double headDepth = 0;   ///< of a counterbore
  double sinkAngle = 0;   ///< of a countersink, from side to side, radians; 0: it has none
  double tipAngle = 0;    ///< of the drill, radians; 0: its bottom is flat

  double sinkDepth() const { return (headRadius - radius) / std::tan(sinkAngle / 2); }
  double depthOfHead() const { return headRadius == 0 ? 0 : sinkAngle > 0 ? sinkDepth() : headDepth; }
  double tipDepth() const { return tipAngle > 0 ? radius / std::tan(tipAngle / 2) : 0; }
  double widest() const { return std::max(radius, headRadius); }
};

/// Where one goes.
struct HolePlace {
  std::string curve;
  Plane plane;  ///< its origin in the middle, its normal where the drill comes from
  double drawn = 0;
  double depth = 0;  ///< of the full diameter
  double above = 0;  ///< so much of its width is taken away above where it starts
};

class Holes : public StepKind {
 public:
  Holes()
      : StepKind(
            {.key = "holes",
             .label = "Holes",
             .menu = KindMenu::Cut,
             .verb = "Drill holes",
             .shortcut = "Ctrl+Alt+H",
             .help = "In the middle of the circles of a drawing: countersunk, counterbored, for metric screws",
             .takesMeshes = true,
             .wells = {.stock = {"Stock", "what is drilled, and where"}, .cutter = {"Holes", "what they are like"}}}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    start.set(circles_, RegionPick{selected.drawing});
    if (const auto bodies = selected.wholeBodies(); !bodies.empty()) start.set(stock_, BodyPick::only(bodies));
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    const bool drawn = selected.anyOf(Picked::What::Drawing) || (selected.nothing() && !selected.drawing.empty());
    return selected.anyBody && drawn ? std::optional(say("Drill holes on %1", selected.drawingName)) : std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    const Stock stock = stockOf(inputs, stock_);
    Box around;
    for (const BodyId& body : stock.bodies) around.add(inputs.box(body));
    std::vector<HolePlace> places = placesOf(inputs);
    StepResult result;
    start(inputs, stock, around, places);
    Cutters cutters;
    Box reach;
    for (const HolePlace& place : places) {
      const HoleForm form = formOf(inputs, place.drawn);
      requireForm(inputs, form, place);
      progress.throwIfStopped();
      Shape solid = drilled(form, place, inputs.id() + ":" + place.curve, progress);
      reach.add(solid.roughBox());
      for (Polyline& line : edgeLines(solid)) result.cutterOutline.push_back(std::move(line));
      cutters.add(
          isPlainThrough(inputs, form, place) ? std::optional(bore(form, place, inputs, progress)) : std::nullopt,
          std::move(solid));
    }
    addGauges(result, inputs, places);
    requireFeasible(inputs, stock.bodies, 3.0 * static_cast<double>(places.size()));
    const bool met = cutStock(
        result, inputs, stock, reach, [&](const Shape& shape) { return cutters.cut(shape, progress); }, progress);
    if (!met) {
      inputs.finding().cutterOutline = result.cutterOutline;
      inputs.finding().gauges = result.gauges;
      throw Error(say("the holes meet none of the stock"), "reach",
                  say("Reverse their direction, make them deeper, or check where the drawing lies"));
    }
    settlePieces(result, inputs, pieces_.in(inputs));
    alike_.carry(result, inputs, {}, progress);
    addNotes(result, inputs, places);
    if (marks_.of(inputs)) markThreads(result, inputs);
    return result;
  }

 private:
  enum class Form { Simple, Countersunk, Counterbored };
  enum class Fit { Close, Normal, Loose, Tapped };
  enum class Way { Into, Out };
  enum class Starts { Drawing, Stock };
  enum class To { Through, Depth };
  enum class Tip { Pointed, Flat };
  /// As drawn, of a diameter, or for a metric screw, by its number from `Metric`.
  enum class Size { Drawn, Diameter, Metric };

  /// All solids, or where all holes are plain and go right through, the profiles of these.
  struct Cutters {
    std::vector<SweptRegion> bores;
    std::vector<Shape> solids;

    void add(const std::optional<SweptRegion>& bore, Shape solid) {
      if (bore) bores.push_back(*bore);
      solids.push_back(std::move(solid));
    }
    Division cut(const Shape& stock, Progress& progress) const {
      return bores.size() == solids.size() ? cutSwept(stock, bores, progress) : divide(stock, solids, progress);
    }
  };

  static std::vector<std::string> sizeWords() {
    std::vector<std::string> words{"drawn", "diameter"};
    for (const MetricScrew& screw : metricScrews()) words.emplace_back(screw.name);
    return words;
  }

  const MetricScrew* screwOf(const Inputs& inputs) const {
    const auto number = static_cast<int>(size_.of(inputs)) - static_cast<int>(Size::Metric);
    return number < 0 ? nullptr : &metricScrews()[static_cast<std::size_t>(number)];
  }

  When forScrews() const {
    When when = size_.is(Size::Drawn, Size::Diameter);
    when.holds = [drawn = when.holds](const FieldValue& value) { return !drawn(value); };
    when.words = size_.label() + " is that of a screw";  // for the machine
    return when;
  }

  /// One in the middle of each circle that was picked.
  std::vector<HolePlace> placesOf(StepInputs& inputs) const {
    const DrawingResult drawing = circles_.drawing(inputs);
    const bool into = way_.of(inputs) == Way::Into;
    std::vector<HolePlace> places;
    for (const DrawnCircle& circle : drawnCircles(circles_, inputs)) {
      Plane plane = drawing.plane;
      plane.origin = circle.middle;
      if (!into) plane = {plane.origin, plane.x, -plane.y, -plane.normal};
      places.push_back({circle.curve, plane, circle.radius});
    }
    return places;
  }

  HoleForm formOf(const Inputs& inputs, double drawn) const {
    HoleForm form;
    const MetricScrew* screw = screwOf(inputs);
    form.radius = screw                             ? diameterFor(*screw, fit_.of(inputs)) / 2
                  : size_.of(inputs) == Size::Drawn ? drawn
                                                    : diameter_.of(inputs) / 2;
    const Form wanted = form_.of(inputs);
    if (wanted == Form::Simple) return withTip(inputs, form);
    const double head = head_.of(inputs), usual = screw ? usualHead(*screw, wanted) / 2 : 2 * form.radius;
    form.headRadius = head > 0 ? head / 2 : usual;
    if (wanted == Form::Countersunk) form.sinkAngle = angle_.of(inputs);
    if (wanted == Form::Counterbored && headDepth_.of(inputs) > 0)
      form.headDepth = headDepth_.of(inputs);
    else if (wanted == Form::Counterbored)
      form.headDepth = screw ? screw->counterboreDepth : 2 * form.radius;
    return withTip(inputs, form);
  }

  static double usualHead(const MetricScrew& screw, Form form) {
    return form == Form::Countersunk ? screw.countersink() : screw.counterbore;
  }

  HoleForm withTip(const Inputs& inputs, HoleForm form) const {
    if (to_.of(inputs) == To::Depth && tip_.of(inputs) == Tip::Pointed) form.tipAngle = tipAngle_.of(inputs);
    return form;
  }

  static double diameterFor(const MetricScrew& screw, Fit fit) {
    switch (fit) {
      case Fit::Close:
        return screw.close;
      case Fit::Normal:
        return screw.normal;
      case Fit::Loose:
        return screw.loose;
      case Fit::Tapped:
        break;
    }
    return screw.core;
  }

  void requireForm(const Inputs& inputs, const HoleForm& form, const HolePlace& place) const {
    const auto between = [](const AngleField& field, double angle) {
      if (angle <= 0 || angle >= std::numbers::pi)
        field.fail(say("this is no angle of a cone"), say("Type an angle between 0 and 180 degrees"));
    };
    if (form_.of(inputs) == Form::Countersunk) between(angle_, form.sinkAngle);
    if (form.tipAngle != 0) between(tipAngle_, form.tipAngle);
    if (form.headRadius > 0 && form.headRadius < form.radius + tolerance::smallestSize)
      head_.fail(say("the head is %1 mm wide, and the hole %2 mm", formatNumber(2 * form.headRadius, 6),
                     formatNumber(2 * form.radius, 6)),
                 say("Type a larger diameter for the head"));
    if (to_.of(inputs) == To::Depth && place.depth < form.depthOfHead() + tolerance::smallestSize)
      depth_.fail(say("the head alone is %1 mm deep", formatNumber(form.depthOfHead(), 6)),
                  say("Make the hole deeper than that"));
  }

  /// Sets depths, and where holes start.
  void start(StepInputs& inputs, const Stock& stock, const Box& around, std::vector<HolePlace>& places) const {
    const double margin = std::max(1.0, 0.05 * around.diagonal());
    for (HolePlace& place : places) {
      const Vector along = -place.plane.normal;
      if (starts_.of(inputs) == Starts::Stock) {
        double first = Box::infinity;
        for (const BodyId& body : stock.bodies)
          for (const LineCrossing& each : crossingsOf(inputs, body, place.plane.origin, along))
            if (!each.out && each.at > -tolerance::samePlace) first = std::min(first, each.at);
        if (first == Box::infinity)
          starts_.fail(say("no stock lies under the hole at \"%1\"", place.curve),
                       say("Start it at the drawing, or leave that circle out"));
        place.plane.origin = place.plane.origin + along * first;
        // Where the stock is not square to it, some of it stands above that place.
        place.above = 2 * formOf(inputs, place.drawn).widest();
      }
      place.depth = to_.of(inputs) == To::Depth
                        ? depth_.of(inputs)
                        : std::max(spanAlong(around, place.plane.origin, along).high, 0.0) + margin;
    }
  }

  static std::vector<LineCrossing> crossingsOf(StepInputs& inputs, const BodyId& body, Point from, Vector way) {
    const Shape shape = inputs.shape(body);
    return shape.kind() == BodyKind::Solid ? crossings(shape, from, way) : std::vector<LineCrossing>();
  }

  /// Turned about the middle: what the drill, its head and all above take away.
  static Shape drilled(const HoleForm& form, const HolePlace& place, const std::string& name, Progress& progress) {
    // u away from the axis, v along the drill.
    const Plane& at = place.plane;
    const Plane section{at.origin, at.x, -at.normal, cross(at.x, -at.normal)};
    std::vector<PlanarCurve> outline;
    PlanePoint from{0, -place.above};
    const auto line = [&](const char* id, PlanePoint to) {
      if (distance(from, to) < tolerance::smallestSize) return;
      outline.emplace_back(id, LineCurve(from, to));
      from = to;
    };
    line("mouth", {form.widest(), -place.above});
    if (form.headRadius > 0) {
      line("head", {form.headRadius, form.headDepth});
      line(form.sinkAngle > 0 ? "sink" : "shoulder", {form.radius, form.depthOfHead()});
    }
    line("bore", {form.radius, place.depth});
    line("tip", {0, place.depth + form.tipDepth()});
    line("middle", {0, -place.above});
    const std::vector<Region> regions = findRegions(section, outline, progress);
    return revolved(regions.front(), name, {at.origin, at.normal}, 0, 2 * std::numbers::pi, progress);
  }

  bool isPlainThrough(const Inputs& inputs, const HoleForm& form, const HolePlace& place) const {
    return form.headRadius == 0 && place.above == 0 && to_.of(inputs) == To::Through;
  }

  static SweptRegion bore(const HoleForm& form, const HolePlace& place, const Inputs& inputs, Progress& progress) {
    const std::vector<Region> circle = findRegions(place.plane, {{"bore", CircleCurve({0, 0}, form.radius)}}, progress);
    SweptRegion swept{circle.front(), inputs.id() + ":" + place.curve, true, -place.depth, 0, true, {}};
    return swept;
  }

  void addGauges(StepResult& result, StepInputs& inputs, const std::vector<HolePlace>& places) const {
    if (places.empty()) return;
    const HolePlace& first = places.front();
    if (to_.of(inputs) == To::Depth)
      result.gauges.push_back({depth_.key(), first.plane.origin, -first.plane.normal, first.depth});
    if (size_.of(inputs) == Size::Diameter)
      result.gauges.push_back({diameter_.key(), first.plane.origin, first.plane.x, diameter_.of(inputs), true});
  }

  void addNotes(StepResult& result, StepInputs& inputs, const std::vector<HolePlace>& places) const {
    std::vector<std::string>& notes = result.audit.notes;
    notes.push_back(toldOf(inputs, places));
    std::size_t meeting = 0, out = 0;
    double least = Box::infinity;
    for (std::size_t i = 0; i < places.size(); ++i) {
      const HolePlace& place = places[i];
      const HoleForm form = formOf(inputs, place.drawn);
      for (std::size_t k = 0; k < i; ++k)
        if (distance(places[k].plane.origin, place.plane.origin) <
            form.widest() + formOf(inputs, places[k].drawn).widest() - tolerance::samePlace) {
          ++meeting;
          break;
        }
      if (to_.of(inputs) != To::Depth) continue;
      // What is left under the tip, in the body that it ends in.
      const Point tip = place.plane.at(0, 0, -place.depth - form.tipDepth());
      double left = Box::infinity;
      for (const BodyId& body : result.audit.touched) {
        const std::vector<LineCrossing> met = crossingsOf(inputs, body, tip, -place.plane.normal);
        const auto next = std::find_if(met.begin(), met.end(), [](const LineCrossing& each) { return each.at > 0; });
        if (next != met.end() && next->out) left = std::min(left, next->at);
      }
      left == Box::infinity ? void(++out) : void(least = std::min(least, left));
    }
    if (meeting > 0)
      result.audit.warnings.push_back(sayCount(meeting, "%1 hole runs into another one", "%1 holes run into others"));
    if (out > 0)
      result.audit.warnings.push_back(sayCount(out, "%1 hole is deeper than the stock: it comes out below",
                                               "%1 holes are deeper than the stock: they come out below"));
    if (least < Box::infinity) notes.push_back(say("at least %1 mm stay under the tips", formatNumber(least, 4)));
  }

  /// On the bores that are left in exact bodies.
  void markThreads(StepResult& result, const Inputs& inputs) const {
    const MetricScrew* screw = screwOf(inputs);
    if (!screw) return;
    const std::string own = inputs.id() + ":";
    std::vector<Output> marks;
    for (const Output& made : result.made) {
      const auto* form = std::get_if<BodyForm>(&made.form);
      if (!form || !form->shape() || form->kind() != BodyKind::Solid) continue;
      for (const Face& face : facesOf(*form->shape())) {
        const std::string& origin = face.origins().front();
        const auto place = origin.starts_with(own) ? threadPlaceOf(*form->shape(), face) : std::nullopt;
        if (!place || !place->inner || std::abs(2 * place->radius - screw->core) > tolerance::samePlace) continue;
        const BodyId id = inputs.id() + "/thread" + std::to_string(marks.size() + 1);
        marks.push_back({.id = id,
                         .form = BodyForm(threadMark({screw->name, screw->diameter, screw->pitch, true}, *place)),
                         .name = say("%1 thread", screw->name)});
      }
    }
    result.made.insert(result.made.end(), marks.begin(), marks.end());
  }

  /// "4 × M6, normal, ⌀ 6.6 mm, counterbored ⌀ 11 × 6.4 mm".
  std::string toldOf(const Inputs& inputs, const std::vector<HolePlace>& places) const {
    const HoleForm form = formOf(inputs, places.front().drawn);
    const auto wide = [](double radius) { return formatNumber(2 * radius, 6); };
    std::string text;
    if (const MetricScrew* screw = screwOf(inputs))
      text = fit_.of(inputs) == Fit::Tapped
                 ? say("%1 × %2 × %3 tapped, core ⌀ %4 mm", places.size(), screw->name, formatNumber(screw->pitch, 6),
                       wide(form.radius))
                 : say("%1 × %2, %3, ⌀ %4 mm", places.size(), screw->name, fit_.in(inputs), wide(form.radius));
    else
      text = say("%1 × ⌀ %2 mm", places.size(), wide(form.radius));
    if (form.sinkAngle > 0)
      text += say(", countersunk ⌀ %1 mm", wide(form.headRadius));
    else if (form.headRadius > 0)
      text += say(", counterbored ⌀ %1 × %2 mm", wide(form.headRadius), formatNumber(form.headDepth, 6));
    return text;
  }

  const BodiesField stock_{*this, {.key = "stock", .label = "Stock", .well = Well::Stock}, BodyPick::everything()};
  const AlikeField alike_{*this};
  const RegionsField circles_{*this,
                              {.key = "profiles",
                               .label = "Circles",
                               .well = Well::Stock,
                               .help = "of a drawing: each has a hole in its middle"}};
  const ChoiceField<Size> size_{*this,
                                {.key = "size",
                                 .label = "Size",
                                 .well = Well::Cutter,
                                 .help = "as drawn, by diameter, or for a metric screw",
                                 .telling = true},
                                sizeWords()};
  const ChoiceField<Fit> fit_{*this,
                              {.key = "fit",
                               .label = "Fit",
                               .well = Well::Cutter,
                               .help = "how much room the screw has; or the core of its thread",
                               .when = forScrews()},
                              {"close", "normal", "loose", "tapped"},
                              Fit::Normal};
  const FlagField marks_{*this,
                         {.key = "marks",
                          .label = "Mark threads",
                          .well = Well::Cutter,
                          .help = "by curves on the faces; the step Thread cuts them",
                          .when = fit_.is(Fit::Tapped)},
                         true};
  const LengthField diameter_{
      *this,
      {.key = "diameter", .label = "Diameter", .well = Well::Cutter, .when = size_.is(Size::Diameter)},
      "5 mm",
      NumberRule::Positive};
  const ChoiceField<Form> form_{
      *this, {.key = "form", .label = "Form", .well = Well::Cutter}, {"simple", "countersunk", "counterbored"}};
  const LengthField head_{*this,
                          {.key = "head",
                           .label = "Head's diameter",
                           .well = Well::Cutter,
                           .help = "0: as the screw's head needs, or twice the hole",
                           .when = form_.is(Form::Countersunk, Form::Counterbored)},
                          "0 mm",
                          NumberRule::NotNegative};
  const LengthField headDepth_{*this,
                               {.key = "head_depth",
                                .label = "Head's depth",
                                .well = Well::Cutter,
                                .help = "0: as the screw's head needs, or as deep as the hole is wide",
                                .when = form_.is(Form::Counterbored)},
                               "0 mm",
                               NumberRule::NotNegative};
  const AngleField angle_{*this,
                          {.key = "angle",
                           .label = "Countersink",
                           .well = Well::Cutter,
                           .help = "from side to side",
                           .when = form_.is(Form::Countersunk)},
                          "90 deg"};
  const ChoiceField<Way> way_{
      *this,
      {.key = "way", .label = "Direction", .well = Well::Reach, .help = "against the drawing's normal, or along it"},
      {"into", "out"}};
  const ChoiceField<Starts> starts_{*this,
                                    {.key = "starts",
                                     .label = "Starts",
                                     .well = Well::Reach,
                                     .help = "at the drawing's plane, or where each one meets the stock"},
                                    {"drawing", "stock"}};
  const ChoiceField<To> to_{*this, {.key = "to", .label = "Reaches", .well = Well::Reach}, {"through", "depth"}};
  const LengthField depth_{*this,
                           {.key = "depth",
                            .label = "Depth",
                            .well = Well::Reach,
                            .help = "of the full diameter, without the tip",
                            .when = to_.is(To::Depth)},
                           "10 mm",
                           NumberRule::Positive};
  const ChoiceField<Tip> tip_{
      *this, {.key = "tip", .label = "Bottom", .well = Well::Reach, .when = to_.is(To::Depth)}, {"pointed", "flat"}};
  const AngleField tipAngle_{*this,
                             {.key = "tip_angle",
                              .label = "Drill's tip",
                              .well = Well::Reach,
                              .help = "from side to side",
                              .when = tip_.is(Tip::Pointed)},
                             "118 deg"};
  const PiecesField pieces_{*this};
};

}  // namespace

const StepKind& holesStep() {
  static const Holes kind;
  return kind;
}

}  // namespace kervo
