// Bodies as a tree of the assemblies that they are in.
#pragma once

#include <optional>
#include <string>
#include <vector>

namespace kervo {

/// An assembly with its parts, or a body.
struct BodyTree {
  std::string name;                 ///< of an assembly
  std::optional<std::size_t> body;  ///< the number of a body; nothing for an assembly
  std::vector<BodyTree> parts = {};
};

/// The tree of bodies, given for each the names of its assemblies, the outermost first. Parts come in the order of the
/// first body that is in them.
BodyTree treeOf(const std::vector<std::vector<std::string>>& within);

/// The numbers of the bodies in the order in which the tree has them.
std::vector<std::size_t> bodiesIn(const BodyTree& tree);

/// Bodies in that order. `Body` has a member `within`.
template <class Body>
std::vector<Body> inTreeOrder(std::vector<Body> bodies) {
  std::vector<std::vector<std::string>> within;
  within.reserve(bodies.size());
  for (const Body& body : bodies) within.push_back(body.within);
  std::vector<Body> result;
  result.reserve(bodies.size());
  for (const std::size_t number : bodiesIn(treeOf(within))) result.push_back(std::move(bodies[number]));
  return result;
}

}  // namespace kervo
