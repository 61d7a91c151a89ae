#include "model/step_kind.h"

#include <algorithm>
#include <stdexcept>

#include "fields/brought_field.h"
#include "model/step.h"

namespace kervo {

namespace {

template <class Rule>
const StepKind& theOnly(const std::vector<const StepKind*>& kinds, Rule&& rule) {
  const auto found = std::find_if(kinds.begin(), kinds.end(), rule);
  if (found == kinds.end()) throw std::logic_error("there is no such kind of step");
  return **found;
}

}  // namespace

std::string StepKind::measures(const Step& step) const {
  const FieldOf<std::string>* field = nameOfMeasured();
  return field ? step.value(*field).as<std::string>() : std::string();
}

const StepKind* StepKinds::find(const std::string& key) const {
  const auto found =
      std::find_if(kinds_.begin(), kinds_.end(), [&](const StepKind* kind) { return kind->key() == key; });
  return found == kinds_.end() ? nullptr : *found;
}

const StepKind& StepKinds::bringingIn() const {
  return theOnly(kinds_, [](const StepKind* kind) {
    return std::any_of(kind->fields().begin(), kind->fields().end(),
                       [](const Field* field) { return dynamic_cast<const BroughtField*>(field); });
  });
}

const StepKind& StepKinds::drawing() const {
  return theOnly(kinds_, [](const StepKind* kind) { return kind->makes() == Makes::Drawing; });
}

const StepKind& StepKinds::cuttingOpen() const {
  return theOnly(kinds_, [](const StepKind* kind) { return kind->makes() == Makes::Section; });
}

const StepKind& StepKinds::measuring() const {
  return theOnly(kinds_, [](const StepKind* kind) { return kind->makes() == Makes::Number; });
}

const StepKind& StepKinds::mending() const {
  return theOnly(kinds_, [](const StepKind* kind) { return kind->table().mends; });
}

const StepKind& StepKinds::placing() const {
  return theOnly(kinds_, [](const StepKind* kind) { return kind->table().places; });
}

}  // namespace kervo
