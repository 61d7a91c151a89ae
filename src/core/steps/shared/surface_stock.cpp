#include "steps/shared/surface_stock.h"

#include <algorithm>

#include "base/say.h"
#include "model/selected.h"

namespace kervo {

std::vector<BodyId> surfacesOf(StepInputs& inputs, const BodiesField& field, Audit& audit) {
  std::vector<BodyId> surfaces;
  for (const BodyId& body : field.of(inputs)) {
    if (inputs.shielded(body)) {
      audit.shielded.push_back(body);
      inputs.warn(say("\"%1\" is shielded and stays as it is", body));
      continue;
    }
    if (inputs.shape(body).kind() != BodyKind::Surface)
      field.fail(say("\"%1\" is no surface", body), say("Choose surfaces, or lift faces of the body first"));
    surfaces.push_back(body);
  }
  return surfaces;
}

std::vector<BodyId> selectedSurfaces(const Selected& selected) {
  std::vector<BodyId> surfaces;
  for (const Picked& pick : selected.picks)
    if (pick.what == Picked::What::Body && pick.bodyKind == BodyKind::Surface &&
        std::find(surfaces.begin(), surfaces.end(), pick.body) == surfaces.end())
      surfaces.push_back(pick.body);
  return surfaces;
}

namespace {

void addWhole(StepResult& result, const BodyId& id, const BodyId& from, const Shape& shape) {
  if (shape.kind() != BodyKind::Solid) result.audit.watertight = false;
  result.pieces.push_back(Piece::whole(id, id, shape, from.empty() ? id : from));
  result.pieces.back().key = id;
  result.made.push_back({.id = id, .form = shape, .from = from});
}

}  // namespace

void replaceSurface(StepResult& result, const BodyId& body, const Shape& before, const Shape& after) {
  result.audit.touched.push_back(body);
  result.audit.volumeBefore += before.volume();
  result.audit.volumeAfter += after.volume();
  result.consumed.push_back(body);
  addWhole(result, body, body, after);
}

void addNew(StepResult& result, const StepId& step, const Shape& shape) {
  result.audit.touched.push_back(step);
  result.audit.volumeAfter += shape.volume();
  addWhole(result, step, {}, shape);
}

void markPlace(Finding& finding, Point place, double size) {
  constexpr double share = 60;
  const double reach = size / share;
  for (const Vector arm : {Vector{reach, 0, 0}, Vector{0, reach, 0}, Vector{0, 0, reach}})
    finding.gap.push_back({place - arm, place + arm});
}

}  // namespace kervo
