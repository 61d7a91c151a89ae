#include "model/step_inputs.h"

#include <algorithm>

#include "base/error.h"

namespace kervo {

void Surroundings::reindex() {
  bodyIndex.clear();
  for (std::size_t i = 0; i < bodies.size(); ++i) bodyIndex.emplace(bodies[i].id, i);
}

Key Surroundings::valueOf(Read::What what, const std::string& id) const {
  switch (what) {
    case Read::What::Members: {
      Hasher hasher;
      for (const Entry& body : bodies)
        if (id.empty() || body.id.isOfFamily(id))
          hasher.add(body.id).add(body.shielded ? "shielded" : "").add(body.holeMaker ? "hole" : "");
      return hasher.key();
    }
    case Read::What::ShapeOf: {
      const auto found = bodyIndex.find(id);
      return found == bodyIndex.end() ? Key() : bodies[found->second].key;
    }
    case Read::What::BoxOf: {
      const auto found = bodyIndex.find(id);
      if (found == bodyIndex.end()) return Key();
      const Box box = bodies[found->second].shape.roughBox();
      return Hasher()
          .add(box.low.x)
          .add(box.low.y)
          .add(box.low.z)
          .add(box.high.x)
          .add(box.high.y)
          .add(box.high.z)
          .key();
    }
    case Read::What::PlaneOf: {
      const auto found = planes.find(id);
      return found == planes.end() ? Key() : found->second.second;
    }
    case Read::What::DrawingOf: {
      const auto found = drawings.find(id);
      return found == drawings.end() ? Key() : found->second.second;
    }
  }
  return Key();
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

Key StepInputs::read(Read::What what, const std::string& id) {
  const Key value = around_.valueOf(what, id);
  const bool known =
      std::any_of(reads_.begin(), reads_.end(), [&](const Read& r) { return r.what == what && r.id == id; });
  if (!known) reads_.push_back({what, id, value});
  return value;
}

const Surroundings::Entry* StepInputs::entry(const BodyId& body) const {
  const auto found = around_.bodyIndex.find(body);
  return found == around_.bodyIndex.end() ? nullptr : &around_.bodies[found->second];
}

std::vector<BodyId> StepInputs::members(const BodyId& family) {
  read(Read::What::Members, family);
  std::vector<BodyId> result;
  for (const Surroundings::Entry& body : around_.bodies)
    if (family.empty() || body.id.isOfFamily(family)) result.push_back(body.id);
  return result;
}

bool StepInputs::shielded(const BodyId& body) const {
  const Surroundings::Entry* found = entry(body);
  return found && found->shielded;
}

bool StepInputs::holeMaker(const BodyId& body) const {
  const Surroundings::Entry* found = entry(body);
  return found && found->holeMaker;
}

Shape StepInputs::shape(const BodyId& body) {
  read(Read::What::ShapeOf, body);
  const Surroundings::Entry* found = entry(body);
  return found ? found->shape : Shape();
}

Box StepInputs::box(const BodyId& body) {
  read(Read::What::BoxOf, body);
  const Surroundings::Entry* found = entry(body);
  return found ? found->shape.roughBox() : Box();
}

const Plane* StepInputs::planeFrom(const StepId& step) {
  read(Read::What::PlaneOf, step);
  const auto found = around_.planes.find(step);
  return found == around_.planes.end() ? nullptr : &found->second.first;
}

const DrawingResult* StepInputs::drawingFrom(const StepId& step) {
  read(Read::What::DrawingOf, step);
  const auto found = around_.drawings.find(step);
  return found == around_.drawings.end() ? nullptr : &found->second.first;
}

Shape StepInputs::brought(const std::string& key) const {
  const auto found = document_.shapes.find(key);
  if (found == document_.shapes.end())
    throw Error("the stored shape \"" + key + "\" is missing from the document", "", "Bring the file in again");
  return found->second;
}

}  // namespace kervo
