// Curve bodies joined where their ends touch, or nearly do.
#include "base/say.h"
#include "fields/number_field.h"
#include "geom/curves/curve_body.h"
#include "steps/registry.h"
#include "steps/shared/curve_stock.h"

namespace kervo {

namespace {

class Join : public StepKind {
 public:
  Join()
      : StepKind({.key = "join",
                  .label = "Join curves",
                  .menu = KindMenu::Surface,
                  .help = "Curves whose ends touch, or nearly do, as one"}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    if (const auto curves = selectedCurves(selected); !curves.empty()) start.set(curves_, BodyPick::only(curves));
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    return selectedCurves(selected).size() > 1 ? std::optional(label()) : std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress&) const override {
    const std::vector<BodyId> bodies = curvesOf(inputs, curves_);
    std::vector<Shape> curves;
    for (const BodyId& body : bodies) curves.push_back(inputs.shape(body));
    JoinedCurves joined;
    try {
      joined = joinedCurves(curves, gap_.of(inputs));
    } catch (const Error& error) {
      throw error.within(gap_.place());
    }
    StepResult result;
    replaceCurve(result, bodies.front(), joined.curve);
    for (std::size_t i = 1; i < bodies.size(); ++i) {
      result.audit.touched.push_back(bodies[i]);
      result.consumed.push_back(bodies[i]);
    }
    result.audit.notes.push_back(sayCount(joined.joints, "%1 joint is made", "%1 joints are made"));
    if (joined.bridges > 0)
      result.audit.notes.push_back(sayCount(joined.bridges, "%1 gap is bridged with a straight edge",
                                            "%1 gaps are bridged with straight edges"));
    const int closed = closedChainCount(joined.curve), all = chainCount(joined.curve);
    result.audit.notes.push_back(closed == all ? say("the curve is closed")
                                               : sayCount(all - closed, "%1 curve is open", "%1 curves are open"));
    return result;
  }

 private:
  const BodiesField curves_{*this, {.key = "curves", .label = "Curves", .well = Well::Stock}, BodyPick::only({})};
  const LengthField gap_{*this,
                         {.key = "gap",
                          .label = "Largest gap",
                          .well = Well::Reach,
                          .help = "Ends no further apart than this are joined, the nearest first"},
                         "0.1 mm",
                         NumberRule::Positive};
};

}  // namespace

const StepKind& joinStep() {
  static const Join kind;
  return kind;
}

}  // namespace kervo
