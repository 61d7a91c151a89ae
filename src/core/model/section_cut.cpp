#include "model/section_cut.h"

#include <algorithm>

namespace kervo {

bool SectionScope::holds(const BodyId& body, const std::string& layer) const {
  if (which == Which::All) return true;
  // Also pieces that a step on trial would make of one.
  const bool named = std::any_of(bodies.begin(), bodies.end(),
                                 [&](const BodyId& each) { return each == body || body.isOfFamily(each); }) ||
                     std::find(layers.begin(), layers.end(), layer) != layers.end();
  return named == (which == Which::Only);
}

bool SectionCut::cuts(const BodyId& body, const std::string& layer) const {
  return scope.holds(body, layer) && (by.empty() || (body != by && !body.isOfFamily(by)));
}

}  // namespace kervo
