// What documents call steps and bodies. No id exists that its grammar does not allow: text becomes one only by the
// constructors, which check it. An empty id stands where none is meant.
#pragma once

#include <compare>
#include <concepts>
#include <functional>
#include <optional>
#include <ostream>
#include <string>

namespace kervo {

/// The id of a step: see whyNotAnId.
class StepId {
 public:
  StepId() = default;
  /// @throws Error for text that is neither empty nor an id.
  StepId(std::string text);
  StepId(const char* text) : StepId(std::string(text)) {}

  const std::string& text() const { return text_; }
  operator const std::string&() const { return text_; }
  bool empty() const { return text_.empty(); }

  auto operator<=>(const StepId&) const = default;
  bool operator==(const StepId&) const = default;
  /// With any text, also such as is no id.
  template <std::same_as<std::string> Text>
  friend bool operator==(const StepId& id, const Text& text) {
    return id.text_ == text;
  }
  friend bool operator==(const StepId& id, const char* text) { return id.text_ == text; }

 private:
  std::string text_;
};

/// The id of a body, datum or drawing: the step that made it, then ".2" if that is the second of several that it
/// brought in, then a part after each "/" for every division since: "plate", "import1.2/front", "cut3/block/side:c7".
/// Parts are of printable characters without ".
class BodyId {
 public:
  BodyId() = default;
  /// @throws Error for text that is neither empty nor an id.
  BodyId(std::string text);
  BodyId(const char* text) : BodyId(std::string(text)) {}
  /// The id that is written like this, or nothing.
  static std::optional<BodyId> read(const std::string& text);
  /// What a step calls the body if it makes only one.
  BodyId(const StepId& step) : text_(step.text()) {}

  const std::string& text() const { return text_; }
  operator const std::string&() const { return text_; }
  bool empty() const { return text_.empty(); }

  /// The step that made it, or that made what it is a part of.
  StepId step() const;
  /// What it was divided from in the end: everything before the first "/".
  BodyId root() const;
  /// A part of it. @throws Error if `name` may not be one.
  BodyId part(const std::string& name) const;
  /// One of several that a step brought in; from 1 on.
  static BodyId broughtIn(const StepId& step, std::size_t number);
  /// True for the body itself and for what it was divided into ("block" → "block/front").
  bool isOfFamily(const BodyId& family) const;

  auto operator<=>(const BodyId&) const = default;
  bool operator==(const BodyId&) const = default;
  /// With any text, also such as is no id.
  template <std::same_as<std::string> Text>
  friend bool operator==(const BodyId& id, const Text& text) {
    return id.text_ == text;
  }
  friend bool operator==(const BodyId& id, const char* text) { return id.text_ == text; }

 private:
  std::string text_;
};

inline std::string operator+(const std::string& text, const StepId& id) {
  return text + id.text();
}
inline std::string operator+(const StepId& id, const std::string& text) {
  return id.text() + text;
}
inline std::string operator+(const std::string& text, const BodyId& id) {
  return text + id.text();
}
inline std::string operator+(const BodyId& id, const std::string& text) {
  return id.text() + text;
}
inline std::ostream& operator<<(std::ostream& out, const StepId& id) {
  return out << id.text();
}
inline std::ostream& operator<<(std::ostream& out, const BodyId& id) {
  return out << id.text();
}

}  // namespace kervo

template <>
struct std::hash<kervo::StepId> {
  std::size_t operator()(const kervo::StepId& id) const { return std::hash<std::string>()(id.text()); }
};
template <>
struct std::hash<kervo::BodyId> {
  std::size_t operator()(const kervo::BodyId& id) const { return std::hash<std::string>()(id.text()); }
};
