// Curves as splines of another degree, with fewer or more control points.
#include "base/quantity.h"
#include "base/say.h"
#include "geom/curves/curve_body.h"
#include "geom/curves/through_points.h"
#include "geom/place_text.h"
#include "steps/registry.h"
#include "steps/shared/curve_stock.h"
#include "steps/shared/surface_stock.h"

namespace kervo {

namespace {

class Refit : public StepKind {
 public:
  Refit()
      : StepKind({.key = "refit",
                  .label = "Degree and points",
                  .menu = KindMenu::Surface,
                  .verb = "Change a curve's degree and points",
                  .help = "Curves as splines of a degree with so many control points; how far that is off is told"}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    start.set(curves_, BodyPick::only(selectedCurves(selected)));
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    StepResult result;
    const int degree = whole(inputs, degree_), count = whole(inputs, count_);
    for (const BodyId& body : curvesOf(inputs, curves_)) {
      progress.throwIfStopped();
      const Shape before = inputs.shape(body);
      try {
        const Refitted after = refitted(before, degree, count);
        replaceCurve(result, body, after.curve);
        for (Polyline& net : controlPointsOf(after.curve)) result.cutterOutline.push_back(std::move(net));
        result.audit.notes.push_back(
            say("\"%1\": at most %2 mm off, at %3", body, formatNumber(after.off, 3), placeText(after.offAt)));
        markPlace(inputs.finding(), after.offAt, before.roughBox().diagonal());
      } catch (const Error& error) {
        throw error.within(count_.place());
      }
    }
    return result;
  }

 private:
  static int whole(StepInputs& inputs, const PlainNumberField& field) {
    const double number = field.of(inputs);
    if (number != std::floor(number)) field.fail(say("%1 is no whole number", formatNumber(number)), say("Type one"));
    constexpr double most = 500;
    if (number > most) field.fail(say("%1 is too many", formatNumber(number)), say("Type at most %1", int(most)));
    return static_cast<int>(number);
  }

  const BodiesField curves_{*this, {.key = "curves", .label = "Curves", .well = Well::Stock}, BodyPick::only({})};
  const PlainNumberField degree_{*this,
                                 {.key = "degree", .label = "Degree", .well = Well::Reach, .help = "from 1 to 9"},
                                 "3",
                                 NumberRule::Positive};
  const PlainNumberField count_{*this,
                                {.key = "count",
                                 .label = "Control points",
                                 .well = Well::Reach,
                                 .help = "of each curve; more of them follow it more closely"},
                                "8",
                                NumberRule::Positive};
};

}  // namespace

const StepKind& refitStep() {
  static const Refit kind;
  return kind;
}

}  // namespace kervo
