// A control point of a curve body moved, removed or added.
#include "base/say.h"
#include "fields/choice_field.h"
#include "fields/number_field.h"
#include "geom/curves/curve_body.h"
#include "steps/registry.h"
#include "steps/shared/curve_stock.h"

namespace kervo {

namespace {

enum class What { Move, Remove, Add };

class ControlPoint : public StepKind {
 public:
  ControlPoint()
      : StepKind({.key = "control_point",
                  .label = "Control point",
                  .menu = KindMenu::Surface,
                  .verb = "Move a control point",
                  .help = "Of a curve: moved, removed, or one more after it"}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    if (const auto curves = selectedCurves(selected); !curves.empty())
      start.set(curve_, BodyPick::only({curves.front()}));
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    return selectedCurves(selected).size() == 1 ? std::optional(say("Move a control point")) : std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress&) const override {
    const std::vector<BodyId> bodies = curvesOf(inputs, curve_);
    if (bodies.size() > 1) curve_.fail(say("%1 curves are chosen", bodies.size()), say("Choose one"));
    const Shape before = inputs.shape(bodies.front());
    const std::vector<Polyline> polygons = controlPointsOf(before);
    std::vector<Point> points;
    for (const Polyline& each : polygons) points.insert(points.end(), each.begin(), each.end());
    inputs.finding().cutterOutline = polygons;
    const double number = number_.of(inputs);
    if (number < 1 || number > static_cast<double>(points.size()) || number != std::floor(number))
      number_.fail(say("there is no control point %1", formatNumber(number)),
                   say("Choose a whole number from 1 to %1", points.size()));
    const auto index = static_cast<std::size_t>(number) - 1;
    const Point from = points[index];
    const Vector by{x_.of(inputs), y_.of(inputs), z_.of(inputs)};
    StepResult result;
    Shape curve;
    try {
      switch (what_.of(inputs)) {
        case What::Move:
          curve = withControlPoint(before, index, from + by);
          break;
        case What::Remove:
          curve = withoutControlPoint(before, index);
          break;
        case What::Add:
          curve = withControlPointAfter(before, index);
      }
    } catch (const Error& error) {
      throw error.within(say("control point %1", formatNumber(number)));
    }
    replaceCurve(result, bodies.front(), curve);
    result.cutterOutline = controlPointsOf(curve);
    result.audit.notes.push_back(say("%1 control points, numbered from the start", points.size()));
    if (what_.of(inputs) == What::Move) {
      result.gauges.push_back({x_.key(), from + Vector{0, by.y, by.z}, {1, 0, 0}, by.x});
      result.gauges.push_back({y_.key(), from + Vector{by.x, 0, by.z}, {0, 1, 0}, by.y});
      result.gauges.push_back({z_.key(), from + Vector{by.x, by.y, 0}, {0, 0, 1}, by.z});
    }
    inputs.finding().cutterOutline.clear();
    return result;
  }

 private:
  const BodiesField curve_{*this, {.key = "curve", .label = "Curve", .well = Well::Stock}, BodyPick::only({})};
  const ChoiceField<What> what_{
      *this, {.key = "what", .label = "What", .well = Well::Reach}, {"move", "remove", "add"}};
  const PlainNumberField number_{
      *this,
      {.key = "number", .label = "Number", .well = Well::Reach, .help = "Counted from the start of the curve"},
      "1"};
  const LengthField x_{*this, {.key = "x", .label = "x", .well = Well::Reach, .when = what_.is(What::Move)}, "0 mm"};
  const LengthField y_{*this, {.key = "y", .label = "y", .well = Well::Reach, .when = what_.is(What::Move)}, "0 mm"};
  const LengthField z_{*this, {.key = "z", .label = "z", .well = Well::Reach, .when = what_.is(What::Move)}, "0 mm"};
};

}  // namespace

const StepKind& controlPointStep() {
  static const ControlPoint kind;
  return kind;
}

}  // namespace kervo
