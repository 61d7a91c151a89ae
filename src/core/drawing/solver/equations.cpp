#include "drawing/solver/equations.h"

#include <algorithm>
#include <map>
#include <numeric>

namespace kervo {

Scalar Equations::unknown(double start) {
  scalars_.push_back({start, false, scalars_.size()});
  return scalars_.size() - 1;
}

Scalar Equations::known(double value) {
  scalars_.push_back({value, true, scalars_.size()});
  return scalars_.size() - 1;
}

Scalar Equations::root(Scalar scalar) const {
  while (scalars_[scalar].parent != scalar) scalar = scalars_[scalar].parent;
  return scalar;
}

bool Equations::unite(Scalar a, Scalar b) {
  a = root(a);
  b = root(b);
  if (a == b || (scalars_[a].known && scalars_[b].known)) return false;
  // The known one stays; otherwise the earlier one, so that the order of the drawing decides.
  if (scalars_[b].known || (!scalars_[a].known && b < a)) std::swap(a, b);
  scalars_[b].parent = a;
  return true;
}

bool Equations::fix(Scalar scalar, double value) {
  Held& held = scalars_[root(scalar)];
  if (held.known) return false;
  held.known = true;
  held.value = value;
  return true;
}

std::vector<Equations::Part> Equations::parts() const {
  std::vector<std::size_t> group(scalars_.size());
  std::iota(group.begin(), group.end(), 0);
  const auto find = [&](std::size_t i) {
    while (group[i] != i) i = group[i] = group[group[i]];
    return i;
  };
  const auto firstUnknown = [&](const Equation& equation) {
    for (const Scalar scalar : equation.scalars)
      if (!isKnown(scalar)) return root(scalar);
    return scalars_.size();
  };
  for (const Equation& equation : equations_) {
    const Scalar first = firstUnknown(equation);
    for (const Scalar scalar : equation.scalars)
      if (!isKnown(scalar)) {
        const std::size_t a = find(first), b = find(root(scalar));
        group[std::max(a, b)] = std::min(a, b);
      }
  }
  std::vector<Part> parts;
  std::map<std::size_t, std::size_t> partOf;
  for (std::size_t i = 0; i < equations_.size(); ++i) {
    const Scalar first = firstUnknown(equations_[i]);
    std::size_t part = parts.size();
    if (first < scalars_.size()) part = partOf.emplace(find(first), part).first->second;
    if (part == parts.size()) parts.emplace_back();
    parts[part].equations.push_back(i);
    parts[part].rows += equations_[i].rows;
  }
  for (Scalar scalar = 0; scalar < scalars_.size(); ++scalar)
    if (root(scalar) == scalar && !scalars_[scalar].known)
      if (const auto found = partOf.find(find(scalar)); found != partOf.end())
        parts[found->second].unknowns.push_back(scalar);
  return parts;
}

}  // namespace kervo
