#include "fields/axis_field.h"

#include "base/say.h"
#include "fields/field_of.h"
#include "fields/json_parts.h"

namespace kervo {

template class FieldOf<DatumPick>;

Axis AxisField::of(Inputs& inputs) const {
  const BodyId& id = in(inputs).id;
  if (id.empty()) fail(say("no axis is chosen"), say("Pick an axis in the view or from the list"));
  if (const Datum* datum = inputs.datum(id))
    if (const Axis* axis = std::get_if<Axis>(datum)) return *axis;
  fail(say("there is no axis \"%1\" before this step", id), say("Pick an axis again, or mend the step that makes it"));
}

nlohmann::json AxisField::print(const DatumPick& value) const {
  return value.id.text();
}

DatumPick AxisField::parse(const nlohmann::json& json, const std::string& place) const {
  if (!json.is_string()) throw wrongJson(place, "the id of an axis");
  return {idFrom<BodyId>(json.get<std::string>(), place)};
}

void AxisField::hash(Hasher& hasher, const DatumPick& value) const {
  hasher.add(value.id);
}

void AxisField::references(std::set<StepId>& steps, const DatumPick& value) const {
  if (!value.id.empty()) steps.insert(value.id.step());
}

}  // namespace kervo
