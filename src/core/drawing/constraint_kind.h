// The kinds of constraint: what each holds between, and how it is called.
#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "base/quantity.h"
#include "drawing/drawing.h"
#include "drawing/solve.h"

namespace kervo {

class ConstraintKind {
 public:
  const char* name;   ///< in files: "parallel"
  const char* label;  ///< for people, to be shown through say()
  const char* sign;   ///< on its badge in the view: "∥"
  /// What it can be on, one list each. The last element may be repeated where `more`.
  struct Pattern {
    std::vector<Element> elements;
    bool more = false;
  };
  std::vector<Pattern> patterns;
  bool dimension = false;  ///< has a value
  Dimensionality measures = lengthDimension;
  bool canBeZero = false;  ///< of a dimension

  /// The pattern that fits, elements in any order; nothing if none does. `order`: where each of its elements is in
  /// `on`.
  bool fits(const std::vector<Element>& on, std::vector<std::size_t>* order = nullptr) const;
  /// What it can be on, for people: "two lines, or two circles or arcs".
  std::string wanted() const;
};

const std::vector<ConstraintKind>& constraintKinds();
/// The kind of that name, or null.
const ConstraintKind* findConstraintKind(const std::string& name);

/// The ids of a drawing, to be looked up often.
class DrawingIds {
 public:
  /// `taken`: what its curves may be called as well.
  explicit DrawingIds(const Drawing& drawing, const std::vector<TakenCurve>& taken = {});
  std::optional<std::size_t> point(const std::string& id) const;
  std::optional<std::size_t> curve(const std::string& id) const;
  /// The index of a point that is there.
  std::size_t pointAt(const std::string& id) const { return points_.at(id); }
  /// What a constraint can hold under that name: a point, a curve, the origin, an axis, or an end or side of a curve
  /// that is given by numbers or taken along ("line1.from", "rectangle1.left"). Throws Error if there is nothing of
  /// that id.
  Element element(const std::string& id) const;

 private:
  const Drawing& drawing_;
  std::map<std::string, std::size_t> points_, curves_, copies_;
  std::map<std::string, Element> taken_;
};

/// What a curve that nothing moves is to constraints.
Element elementOf(const PlaneCurve& curve);

}  // namespace kervo
