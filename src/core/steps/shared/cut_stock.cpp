#include "steps/shared/cut_stock.h"

namespace kervo {

bool cutStock(StepResult& result, StepInputs& inputs, const Stock& stock, const Box& reach,
              const std::function<Division(const Shape&)>& divided, Progress& progress) {
  for (std::size_t i = 0; i < stock.bodies.size(); ++i) {
    const BodyId& body = stock.bodies[i];
    progress.report(static_cast<double>(i) / static_cast<double>(stock.bodies.size()));
    if (!inputs.box(body).overlaps(reach) || inputs.shape(body).kind() == BodyKind::Curve) {
      result.audit.spared.push_back(body);
      continue;
    }
    const Division cut = divided(inputs.shape(body));
    if (cut.inside.empty())
      result.audit.spared.push_back(body);
    else
      addDivided(result, inputs, body, cut);
  }
  for (const BodyId& body : stock.shielded)
    if (inputs.box(body).overlaps(reach)) result.audit.shielded.push_back(body);
  return !result.audit.touched.empty();
}

}  // namespace kervo
