#include "exchange/instances.h"

#include <unordered_map>

#include "geom/instance.h"
#include "geom/topology.h"

namespace kervo {

std::vector<std::optional<Follows>> followersIn(const std::vector<FileBody>& bodies) {
  const auto alike = [](const FileBody& a, const FileBody& b) {
    return a.name == b.name && a.color == b.color && a.layer == b.layer && faceColors(a.shape) == faceColors(b.shape);
  };
  std::vector<std::optional<Follows>> result(bodies.size());
  std::unordered_map<const void*, std::vector<std::size_t>> firsts;
  for (std::size_t i = 0; i < bodies.size(); ++i) {
    const void* part = identityOfPart(bodies[i].shape);
    if (!part) continue;
    std::vector<std::size_t>& known = firsts[part];
    for (const std::size_t first : known) {
      const Motion from = fromOneToOther(bodies[first].shape, bodies[i].shape);
      // Two in one place are told apart by having surfaces of their own.
      if (result[i] || from.identity() || !alike(bodies[first], bodies[i])) continue;
      result[i] = Follows{first, from};
    }
    if (!result[i]) known.push_back(i);
  }
  return result;
}

}  // namespace kervo
