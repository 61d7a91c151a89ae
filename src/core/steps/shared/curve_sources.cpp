#include "steps/shared/curve_sources.h"

#include "base/say.h"
#include "geom/curves/curve_body.h"
#include "geom/surface/projected.h"
#include "steps/shared/curve_stock.h"

namespace kervo {

CurveSources::CurveSources(FieldTable& table, const Keys& keys, const Labels& labels, Well well, const When& when)
    : drawing(table, {.key = keys.drawing, .label = labels.drawing, .well = well, .when = when}),
      curves(table, {.key = keys.curves, .label = labels.curves, .well = well, .when = when}, BodyPick::only({})),
      edges(table, {.key = keys.edges, .label = labels.edges, .well = well, .when = when}) {}

const DrawingResult* CurveSources::drawn(StepInputs& inputs) const {
  const StepId& step = drawing.in(inputs).step;
  if (step.empty()) return nullptr;
  const DrawingResult* found = inputs.drawing(step);
  if (!found)
    drawing.fail(say("there is no drawing from a step \"%1\" before this one", step), say("Choose a step that draws"));
  return found;
}

Shape CurveSources::of(StepInputs& inputs) const {
  std::vector<Edge> taken;
  if (!edges.in(inputs).empty())
    for (const auto& [body, all] : edges.of(inputs)) taken.insert(taken.end(), all.begin(), all.end());
  std::vector<SpaceCurve> drawnCurves;
  if (const DrawingResult* from = drawn(inputs)) drawnCurves = curvesOf(*from);
  std::vector<Shape> bodies;
  if (!taken.empty() || !drawnCurves.empty()) bodies.push_back(curveBody(drawnCurves, taken));
  if (!curves.in(inputs).bodies.empty())
    for (const BodyId& body : curvesOf(inputs, curves)) bodies.push_back(inputs.shape(body));
  return bodies.empty() ? Shape() : together(bodies);
}

Shape CurveSources::forSure(StepInputs& inputs, const std::string& why) const {
  const Shape found = of(inputs);
  if (found.empty()) drawing.fail(why, say("Pick a drawing, a curve or edges"));
  return found;
}

std::vector<SpaceCurve> curvesOf(const DrawingResult& drawing) {
  std::vector<SpaceCurve> curves;
  for (const NamedCurve& curve : drawing.curves) curves.push_back(curve.curve);
  return curves;
}

}  // namespace kervo
