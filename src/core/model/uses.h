// What depends on what in a document: steps on steps and dimensions, dimensions on each other.
#pragma once

#include <map>
#include <set>
#include <string>
#include <vector>

#include "model/document.h"

namespace kervo {

/// A step or a dimension.
struct UsesNode {
  enum class What { Step, Dimension };
  What what = What::Step;
  std::string id;  ///< of the step, or the name of the dimension
  auto operator<=>(const UsesNode&) const = default;
};

class Uses {
 public:
  /// From what steps refer to and from the names in expressions.
  static Uses of(const Document& document);

  /// Steps in their order, then sections, then dimensions.
  const std::vector<UsesNode>& nodes() const { return nodes_; }
  /// What a node uses by itself.
  const std::set<UsesNode>& usedBy(const UsesNode& node) const;
  /// All that would feel a change of it, however far away, in the order of nodes().
  std::vector<UsesNode> dependents(const UsesNode& node) const;
  /// All that it goes back to.
  std::vector<UsesNode> sources(const UsesNode& node) const;
  /// Those that name it in a field or an expression: what breaks when it is deleted.
  std::vector<UsesNode> namedIn(const UsesNode& node) const;
  /// Steps that work on all bodies there are, those of this step among them, without naming it: they go on without it.
  std::vector<UsesNode> worksOn(const UsesNode& node) const;

 private:
  std::vector<UsesNode> reached(const UsesNode& from, const std::map<UsesNode, std::set<UsesNode>>& along) const;

  std::vector<UsesNode> nodes_;
  std::map<UsesNode, std::set<UsesNode>> uses_, users_, unnamed_;
};

}  // namespace kervo
