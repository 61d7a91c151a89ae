#include "steps/shared/curve_stock.h"

#include "base/say.h"

namespace kervo {

std::vector<BodyId> curvesOf(StepInputs& inputs, const BodiesField& field) {
  std::vector<BodyId> curves;
  for (const BodyId& body : field.of(inputs)) {
    if (inputs.shape(body).kind() != BodyKind::Curve)
      field.fail(say("\"%1\" is no curve", body), say("Choose curves, or lift its edges as a curve first"));
    curves.push_back(body);
  }
  if (curves.empty()) field.fail(say("no curve is chosen"), say("Pick a curve body"));
  return curves;
}

std::vector<BodyId> selectedCurves(const Selected& selected) {
  std::vector<BodyId> curves;
  for (const Picked& pick : selected.picks)
    if (pick.bodyKind == BodyKind::Curve && pick.what != Picked::What::Datum && pick.what != Picked::What::Drawing &&
        std::find(curves.begin(), curves.end(), pick.body) == curves.end())
      curves.push_back(pick.body);
  return curves;
}

void replaceCurve(StepResult& result, const BodyId& body, const Shape& curve) {
  result.audit.watertight = false;
  result.audit.touched.push_back(body);
  result.consumed.push_back(body);
  result.pieces.push_back(Piece::whole(body, body, curve, body));
  result.pieces.back().key = body;
  result.made.push_back({.id = body, .form = curve, .from = body});
}

}  // namespace kervo
