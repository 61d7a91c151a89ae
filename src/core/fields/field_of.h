// The members of FieldOf, for the source file of a field type, which instantiates it for its values.
#pragma once

#include <nlohmann/json.hpp>

#include "base/error.h"
#include "base/say.h"
#include "fields/field.h"

namespace kervo {

template <class T>
void FieldOf<T>::check(const FieldValue& value) const {
  const T* typed = value.asIf<T>();
  if (!typed)
    throw Error(say("the field \"%1\" takes another type of value", key()), "", say("See docs/file-format.md"));
  require(*typed);
}

template <class T>
nlohmann::json FieldOf<T>::toJson(const FieldValue& value) const {
  return print(value.as<T>());
}

template <class T>
FieldValue FieldOf<T>::fromJson(const nlohmann::json& json, const std::string& place) const {
  return parse(json, place);
}

template <class T>
void FieldOf<T>::addFixed(Hasher& hasher, const FieldValue& value) const {
  hash(hasher, value.as<T>());
}

template <class T>
void FieldOf<T>::addSteps(std::set<StepId>& steps, const FieldValue& value) const {
  references(steps, value.as<T>());
}

template <class T>
std::vector<NumberPart> FieldOf<T>::numbers(const FieldValue& value) const {
  return parts(value.as<T>());
}

template <class T>
FieldValue FieldOf<T>::withNumbers(const FieldValue& value,
                                   const std::function<Expression(const Expression&)>& change) const {
  T changed = value.as<T>();
  changeParts(changed, change);
  return changed;
}

}  // namespace kervo
