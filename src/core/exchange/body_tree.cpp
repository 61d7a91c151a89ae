#include "exchange/body_tree.h"

#include <algorithm>

namespace kervo {

BodyTree treeOf(const std::vector<std::vector<std::string>>& within) {
  BodyTree tree;
  for (std::size_t i = 0; i < within.size(); ++i) {
    BodyTree* node = &tree;
    for (const std::string& name : within[i]) {
      auto found = std::find_if(node->parts.begin(), node->parts.end(),
                                [&](const BodyTree& part) { return !part.body && part.name == name; });
      if (found == node->parts.end()) found = node->parts.insert(found, BodyTree{name, std::nullopt, {}});
      node = &*found;
    }
    node->parts.push_back({"", i, {}});
  }
  return tree;
}

std::vector<std::size_t> bodiesIn(const BodyTree& tree) {
  std::vector<std::size_t> result;
  if (tree.body) result.push_back(*tree.body);
  for (const BodyTree& part : tree.parts) {
    const std::vector<std::size_t> inner = bodiesIn(part);
    result.insert(result.end(), inner.begin(), inner.end());
  }
  return result;
}

}  // namespace kervo
