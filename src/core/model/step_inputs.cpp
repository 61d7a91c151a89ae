#include "model/step_inputs.h"

#include <algorithm>

#include "base/error.h"
#include "base/say.h"

namespace kervo {

void Surroundings::reindex() {
  index.clear();
  for (std::size_t i = 0; i < entries.size(); ++i) index.emplace(entries[i].id, i);
}

Key Surroundings::valueOf(Read::Of of, const BodyId& id) const {
  if (of == Read::Of::Members) {
    Hasher hasher;
    for (const Entry& entry : entries)
      if (entry.body() && (id.empty() || entry.id.isOfFamily(id)))
        hasher.add(entry.id).add(entry.shielded ? "shielded" : "").add(entry.holeMaker ? "hole" : "");
    return hasher.key();
  }
  const Entry* entry = find(id);
  if (!entry) return Key();
  const BodyForm* body = entry->body();
  if (of == Read::Of::Form || !body) return entry->key;
  const Box box = body->roughBox();
  Hasher hasher;
  for (const Point& end : {box.low, box.high}) hasher.add(end.x).add(end.y).add(end.z);
  return hasher.key();
}

StepInputs::StepInputs(const Step& step, const MadeHalf& document, const DimensionTable& dimensions,
                       const Surroundings& around)
    : step_(step), document_(document), around_(around), numbers_(step.values().size()) {
  const Unit unit = unitNamed(document.unit);
  const Expression::Lookup lookup = [&](const std::string& name) { return dimensions.lookup(name); };
  Hasher hasher;
  hasher.add(step.fixedKey());
  for (const Field* field : step.kind().fields()) {
    std::vector<double>& numbers = numbers_[field->index()];
    const std::vector<NumberPart> parts = field->numbers(step.value(*field));
    if (!matters(step, *field)) {
      numbers.assign(parts.size(), 0);
      continue;
    }
    for (const NumberPart& part : parts) {
      try {
        const double value = part.expression.evaluateAs(part.wanted.dimension, unit, lookup);
        part.wanted.require(value, unit);
        hasher.add(value);
        numbers.push_back(value);
      } catch (const Error& error) {
        throw(part.place.empty() ? error : error.within(part.place)).within(field->place());
      }
    }
  }
  ownKey_ = hasher.key();
}

void StepInputs::read(Read::Of of, const BodyId& id) {
  const bool known = std::any_of(reads_.begin(), reads_.end(), [&](const Read& r) { return r.of == of && r.id == id; });
  if (!known) reads_.push_back({of, id, around_.valueOf(of, id)});
}

std::vector<BodyId> StepInputs::members(const BodyId& family) {
  read(Read::Of::Members, family);
  std::vector<BodyId> result;
  for (const Surroundings::Entry& entry : around_.entries)
    if (entry.body() && (family.empty() || entry.id.isOfFamily(family))) result.push_back(entry.id);
  return result;
}

bool StepInputs::shielded(const BodyId& body) const {
  const Surroundings::Entry* found = around_.find(body);
  return found && found->shielded;
}

bool StepInputs::holeMaker(const BodyId& body) const {
  const Surroundings::Entry* found = around_.find(body);
  return found && found->holeMaker;
}

template <class Form>
const Form* StepInputs::formOf(const BodyId& id) {
  read(Read::Of::Form, id);
  const Surroundings::Entry* found = around_.find(id);
  return found ? std::get_if<Form>(&found->form) : nullptr;
}

bool StepInputs::isMesh(const BodyId& body) {
  const auto* found = formOf<BodyForm>(body);
  return found && found->mesh();
}

Shape StepInputs::shape(const BodyId& body) {
  const auto* found = formOf<BodyForm>(body);
  if (!found) return {};
  return step_.kind().table().takesMeshes ? found->anyShape() : found->exact(body);
}

BodyForm StepInputs::form(const BodyId& body) {
  const auto* found = formOf<BodyForm>(body);
  return found ? *found : BodyForm();
}

Box StepInputs::box(const BodyId& body) {
  read(Read::Of::Box, body);
  const Surroundings::Entry* found = around_.find(body);
  return found && found->body() ? found->body()->roughBox() : Box();
}

const Datum* StepInputs::datum(const BodyId& id) {
  return formOf<Datum>(id);
}

const DrawingResult* StepInputs::drawing(const BodyId& id) {
  const auto* found = formOf<Drawn>(id);
  return found ? found->get() : nullptr;
}

Shape StepInputs::brought(const std::string& key) const {
  const auto found = document_.shapes.find(key);
  if (found == document_.shapes.end())
    throw Error(say("the stored shape \"%1\" is missing from the document", key), "", say("Bring the file in again"));
  return found->second;
}

}  // namespace kervo
