// The fields of a step kind. A field is a member of its kind with a type of its own; from it follow the Bench, the
// file, the command line and the manual.
#pragma once

#include <functional>
#include <nlohmann/json_fwd.hpp>
#include <set>
#include <string>
#include <string_view>
#include <vector>

#include "base/hash.h"
#include "base/ids.h"
#include "base/say.h"
#include "fields/field_value.h"
#include "fields/inputs.h"
#include "fields/number.h"

namespace kervo {

/// Which part of the Bench a field stands in.
enum class Well { Setup, Stock, Cutter, Reach, Pieces };

/// When a field matters: while another one matters and its value is as wanted; always if there is no other one.
struct When {
  const Field* other = nullptr;
  std::function<bool(const FieldValue&)> holds = {};
  std::string words = {};  ///< for the manual: "Direction is both"
};

/// What every field has.
struct FieldText {
  std::string key;    ///< in files and on the command line
  std::string label;  ///< for people
  Well well = Well::Setup;
  std::string help = {};
  When when = {};
  /// Tells most of what the step does, where no number does.
  bool telling = false;
};

/// The fields of a kind, in their order. They add themselves.
class FieldTable {
 public:
  FieldTable() = default;
  FieldTable(const FieldTable&) = delete;
  FieldTable& operator=(const FieldTable&) = delete;
  virtual ~FieldTable() = default;

  const std::vector<const Field*>& fields() const { return fields_; }
  /// The field of that key, or null.
  const Field* field(std::string_view key) const;

 private:
  friend class Field;
  std::vector<const Field*> fields_;
};

/// A field, whatever its type. What it does with values of another type is not defined, but for check().
class Field {
 public:
  Field(FieldTable& table, FieldText text);
  Field(const Field&) = delete;
  Field& operator=(const Field&) = delete;
  virtual ~Field() = default;

  const std::string& key() const { return text_.key; }
  const std::string& label() const { return text_.label; }
  const std::string& help() const { return text_.help; }
  Well well() const { return text_.well; }
  const When& when() const { return text_.when; }
  bool telling() const { return text_.telling; }
  /// Its place in the table, from 0.
  std::size_t index() const { return index_; }
  /// Where an error is, for people: "field Stock".
  std::string place() const { return say("field %1", say(label().c_str())); }

  /// Throws an Error at this field, which its kind found out itself.
  [[noreturn]] void fail(std::string happened, std::string help) const;

  virtual const char* typeName() const = 0;  ///< "length", "bodies"
  /// What can be written, for the manual: "into, out or both".
  virtual std::string allowed() const { return {}; }
  /// The value when nothing is given.
  virtual const FieldValue& standard() const = 0;
  /// Throws Error unless the value is of this type, and one that can stand here.
  virtual void check(const FieldValue& value) const = 0;
  virtual nlohmann::json toJson(const FieldValue& value) const = 0;
  /// As one would write it on the command line: "10 mm", "all"; JSON for anything of several parts.
  std::string text(const FieldValue& value) const;
  /// Whether the value holds nothing: an empty text or list.
  bool isNothing(const FieldValue& value) const;
  /// Throws FileError naming `place` ("steps[3].fields.depth") for another form.
  virtual FieldValue fromJson(const nlohmann::json& json, const std::string& place) const = 0;
  /// From one argument of the command line: the text itself, or JSON where a text alone does not do.
  virtual FieldValue fromText(const std::string& text, const std::string& place) const;
  /// Adds all of a value but its numbers.
  virtual void addFixed(Hasher& hasher, const FieldValue& value) const = 0;
  /// Adds the steps whose bodies, faces, planes or drawings the value names.
  virtual void addSteps(std::set<StepId>& steps, const FieldValue& value) const = 0;
  virtual std::vector<NumberPart> numbers(const FieldValue& value) const = 0;
  /// The value with every expression changed.
  virtual FieldValue withNumbers(const FieldValue& value,
                                 const std::function<Expression(const Expression&)>& change) const = 0;

 private:
  FieldText text_;
  std::size_t index_;
};

/// A field whose values are of type T. A field type derives from it and says how such a value is written, read and
/// compared; most have more, by which kinds take the resolved value: `stock.of(inputs)`.
template <class T>
class FieldOf : public Field {
 public:
  using Value = T;
  FieldOf(FieldTable& table, FieldText text, T standard = {})
      : Field(table, std::move(text)), standard_(std::move(standard)) {}

  /// The value as it is written in the step.
  const T& in(const Inputs& inputs) const { return inputs.value(*this).template as<T>(); }

  const FieldValue& standard() const final { return standard_; }
  void check(const FieldValue& value) const final;
  nlohmann::json toJson(const FieldValue& value) const final;
  FieldValue fromJson(const nlohmann::json& json, const std::string& place) const final;
  void addFixed(Hasher& hasher, const FieldValue& value) const final;
  void addSteps(std::set<StepId>& steps, const FieldValue& value) const final;
  std::vector<NumberPart> numbers(const FieldValue& value) const final;
  FieldValue withNumbers(const FieldValue& value,
                         const std::function<Expression(const Expression&)>& change) const final;

 protected:
  virtual nlohmann::json print(const T& value) const = 0;
  virtual T parse(const nlohmann::json& json, const std::string& place) const = 0;
  virtual void hash(Hasher& hasher, const T& value) const = 0;
  /// Throws Error for a value that cannot stand here.
  virtual void require(const T&) const {}
  virtual void references(std::set<StepId>&, const T&) const {}
  virtual std::vector<NumberPart> parts(const T&) const { return {}; }
  virtual void changeParts(T&, const std::function<Expression(const Expression&)>&) const {}

 private:
  FieldValue standard_;
};

}  // namespace kervo
