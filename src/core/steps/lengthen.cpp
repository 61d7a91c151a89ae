// Curve bodies made longer at an end, by a length or until something is met.
#include "base/say.h"
#include "fields/choice_field.h"
#include "fields/number_field.h"
#include "geom/curves/curve_body.h"
#include "steps/registry.h"
#include "steps/shared/curve_stock.h"
#include "steps/shared/cutters.h"

namespace kervo {

namespace {

enum class Ends { End, Start, Both };
enum class Reach { By, Until };

class Lengthen : public StepKind {
 public:
  Lengthen()
      : StepKind({.key = "lengthen",
                  .label = "Lengthen curves",
                  .menu = KindMenu::Surface,
                  .help = "Open curves longer at an end, by a length or until something is met"}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    if (const auto curves = selectedCurves(selected); !curves.empty()) start.set(curves_, BodyPick::only(curves));
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    return selectedCurves(selected).empty() ? std::nullopt : std::optional(label());
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    StepResult result;
    std::vector<CurveCutter> until;
    for (const BodyId& body : curvesOf(inputs, curves_)) {
      Shape curve = inputs.shape(body);
      if (reach_.of(inputs) == Reach::Until) until = goals(inputs, curve.roughBox(), progress);
      const double before = lengthOfCurve(curve);
      for (const bool atEnd : {true, false}) {
        const Ends ends = ends_.of(inputs);
        if (ends != Ends::Both && (ends == Ends::End) != atEnd) continue;
        progress.throwIfStopped();
        try {
          curve = reach_.of(inputs) == Reach::Until ? lengthenedCurve(curve, atEnd, way_.of(inputs), until)
                                                    : lengthenedCurve(curve, atEnd, way_.of(inputs), by_.of(inputs));
        } catch (const Error& error) {
          throw error.within(say("curve \"%1\"", body));
        }
      }
      replaceCurve(result, body, curve);
      if (const auto end = endOfCurve(inputs.shape(body), ends_.of(inputs) != Ends::Start);
          end && result.gauges.empty() && reach_.of(inputs) == Reach::By)
        result.gauges.push_back({by_.key(), end->point, end->direction, by_.of(inputs)});
      result.audit.notes.push_back(say("\"%1\" is %2 mm longer", body, formatNumber(lengthOfCurve(curve) - before, 6)));
    }
    return result;
  }

 private:
  std::vector<CurveCutter> goals(StepInputs& inputs, const Box& around, Progress& progress) const {
    std::vector<CurveCutter> result;
    for (const ResolvedCutter& goal : cuttersOf(inputs, until_, {}, around, progress, CurveCutters::Allowed))
      result.push_back({goal.plane, !goal.solid.empty() ? goal.solid : !goal.curve.empty() ? goal.curve : goal.sheet});
    if (result.empty()) until_.fail(say("nothing is chosen that they could go to"), say("Pick a plane, face or body"));
    return result;
  }

  const BodiesField curves_{*this, {.key = "curves", .label = "Curves", .well = Well::Stock}, BodyPick::only({})};
  const ChoiceField<Ends> ends_{
      *this, {.key = "ends", .label = "At", .well = Well::Reach}, {"the end", "the start", "both ends"}};
  const ChoiceField<Reach> reach_{*this, {.key = "reach", .label = "How far", .well = Well::Reach}, {"by", "until"}};
  const LengthField by_{*this,
                        {.key = "by", .label = "By", .well = Well::Reach, .when = reach_.is(Reach::By)},
                        "10 mm",
                        NumberRule::Positive};
  const CuttersField until_{*this,
                            {.key = "until", .label = "Until", .well = Well::Reach, .when = reach_.is(Reach::Until)},
                            CuttersField::Curves::Taken};
  const ChoiceField<GoesOn> way_{*this,
                                 {.key = "way",
                                  .label = "Goes on",
                                  .well = Well::Reach,
                                  .help = "as it runs: lines, circles and ellipses along themselves, splines as their "
                                          "last span"},
                                 {"straight", "as it runs"}};
};

}  // namespace

const StepKind& lengthenStep() {
  static const Lengthen kind;
  return kind;
}

}  // namespace kervo
