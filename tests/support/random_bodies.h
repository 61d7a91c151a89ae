// Random documents for tests of laws, and what they amount to.
#pragma once

#include <gtest/gtest.h>

#include <algorithm>
#include <random>

#include "support/document_builder.h"

namespace kervo::test {

/// Blocks, and posts and rods that go through them; the same for a seed.
class RandomBodies {
 public:
  explicit RandomBodies(unsigned seed) : random_(seed) {}

  /// All stock bodies and the first cutter hold a place near the middle, so there is something to cut.
  std::vector<Step> steps(int stock, int cutters) {
    std::vector<Step> result;
    for (int i = 0; i < stock; ++i)
      result.push_back(
          block("s" + std::to_string(i), mm(28, 40), mm(28, 40), mm(8, 16), {mm(-20, -8), mm(-20, -8), mm(-6, 6)}));
    for (int i = 0; i < cutters; ++i) {
      const std::string id = "c" + std::to_string(i);
      const std::string x = i == 0 ? "0" : mm(-25, 25), y = i == 0 ? "0" : mm(-25, 25);
      if (random_() % 2)
        result.push_back(block(id, mm(3, 8), mm(3, 8), "80", {x, y, "-40"}));
      else
        result.push_back(
            step(id, "cylinder",
                 {{"radius", Expression(mm(2, 6))}, {"height", Expression("80")}, {"at", point(x, y, "-40")}}));
    }
    return result;
  }
  std::string mm(double low, double high) {
    return std::to_string(std::uniform_real_distribution<double>(low, high)(random_));
  }
  std::vector<BodyId> shuffled(std::vector<BodyId> ids) {
    std::shuffle(ids.begin(), ids.end(), random_);
    return ids;
  }

 private:
  std::mt19937 random_;
};

/// Every piece of a step by its key, with its volume.
inline std::map<BodyId, double> pieces(const Model& model, const StepId& id) {
  std::map<BodyId, double> result;
  if (!report(model, id).result) {
    ADD_FAILURE() << errorOf(model, id);
    return result;
  }
  for (const Piece& piece : report(model, id).result->pieces) result[piece.key] = piece.volume;
  return result;
}

inline double total(const Model& model) {
  double sum = 0;
  for (const Body& body : model.bodies) sum += body.shape().volume();
  return sum;
}

}  // namespace kervo::test
