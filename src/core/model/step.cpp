#include "model/step.h"

#include <stdexcept>

#include "base/error.h"
#include "base/say.h"

namespace kervo {

bool matters(const Step& step, const Field& field) {
  const When& when = field.when();
  return !when.other || (matters(step, *when.other) && when.holds(step.value(*when.other)));
}

namespace {
void check(const Field& field, const FieldValue& value, const StepId& step) {
  try {
    field.check(value);
  } catch (const Error& error) {
    throw error.within(say("step \"%1\"", step));
  }
}
}  // namespace

Step::Step(StepId id, const StepKind& kind, std::vector<FieldValue> values, bool on)
    : id_(std::move(id)), kind_(&kind), values_(std::move(values)), on_(on) {
  makeKey();
}

Step::Step(StepId id, const StepKind& kind, const std::map<std::string, FieldValue>& fields, bool on)
    : id_(std::move(id)), kind_(&kind), on_(on) {
  if (id_.empty()) throw Error(say("the id of a step is empty"), "", say("Use letters, digits, - and _"));
  for (const Field* field : kind.fields()) values_.push_back(field->standard());
  for (const auto& [key, value] : fields) {
    const Field* field = kind.field(key);
    if (!field) throw Error(say("a step of kind \"%1\" has no field \"%2\"", kind.key(), key), say("step \"%1\"", id_));
    check(*field, value, id_);
    values_[field->index()] = value;
  }
  makeKey();
}

void Step::makeKey() {
  Hasher hasher;
  hasher.add(kind_->key()).add(id_);
  for (const Field* field : kind_->fields()) field->addFixed(hasher, value(*field));
  fixedKey_ = hasher.key();
}

const FieldValue& Step::value(const std::string& key) const {
  const Field* field = kind_->field(key);
  if (!field) throw std::out_of_range("a step of kind " + kind_->key() + " has no field " + key);
  return value(*field);
}

Step Step::with(const Field& field, FieldValue value) const {
  check(field, value, id_);
  std::vector<FieldValue> values = values_;
  values[field.index()] = std::move(value);
  return Step(id_, *kind_, std::move(values), on_);
}

Step Step::with(const std::string& key, FieldValue value) const {
  const Field* field = kind_->field(key);
  if (!field) throw Error(say("a step of kind \"%1\" has no field \"%2\"", kind_->key(), key), say("step \"%1\"", id_));
  return with(*field, std::move(value));
}

Step Step::switched(bool on) const {
  return Step(id_, *kind_, values_, on);
}

Step Step::withId(StepId id) const {
  return Step(std::move(id), *kind_, values_, on_);
}

}  // namespace kervo
