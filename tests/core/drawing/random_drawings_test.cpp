// Drawings that were made at random at a place where everything holds, and disturbed, come back. Each seed is a
// drawing.
#include "core/drawing/random_drawings.h"

#include <gmock/gmock.h>

namespace kervo {
namespace {

class RandomDrawings : public testing::TestWithParam<unsigned> {};

TEST_P(RandomDrawings, ComeBackAndCountTheirFreedoms) {
  for (unsigned k = 0; k < 10; ++k) {
    RandomDrawing made(GetParam() * 10 + k, 3 + static_cast<int>(k));
    for (unsigned i = 0; i < 6 * (k + 1); ++i) made.addConstraint();
    const Truth truth(made);
    std::vector<PlanePoint> there;
    for (const DrawnPoint& point : made.drawing.points) there.push_back(point.last);
    ASSERT_LT(truth.rows(truth.place(there, made.sizes())).cwiseAbs().maxCoeff(), 1e-9);
    made.disturb(0.1);
    const Solution solution = made.solved();
    ASSERT_TRUE(solution.holds()) << "drawing " << k << ": " << solution.conflicts[0].constraint;
    const Eigen::VectorXd found = truth.place(solution.points, solution.sizes);
    EXPECT_LE(truth.rows(found).cwiseAbs().maxCoeff(), 1e-9) << "drawing " << k;
    EXPECT_LE(solution.residual, 1e-9);
    EXPECT_EQ(solution.freedoms, static_cast<int>(truth.unknowns()) - truth.rank(found)) << "drawing " << k;
  }
}

TEST_P(RandomDrawings, NameAPlantedContradiction) {
  for (unsigned k = 0; k < 5; ++k) {
    RandomDrawing made(1000 + GetParam() * 10 + k, 4 + static_cast<int>(k));
    for (unsigned i = 0; i < 8 * (k + 1); ++i) made.addConstraint();
    // Something that is measured already is to be another size.
    std::vector<std::size_t> dimensions;
    for (std::size_t i = 0; i < made.drawing.constraints.size(); ++i)
      if (made.drawing.constraints[i].value) dimensions.push_back(i);
    ASSERT_FALSE(dimensions.empty());
    const std::size_t from = dimensions[made.pick(static_cast<unsigned>(dimensions.size()))];
    DrawnConstraint planted = made.drawing.constraints[from];
    planted.id = "planted";
    const auto place =
        static_cast<std::ptrdiff_t>(made.pick(static_cast<unsigned>(made.drawing.constraints.size()) + 1));
    const double value = made.values.constraints[from] * 1.17;
    made.drawing.constraints.insert(made.drawing.constraints.begin() + place, planted);
    made.values.constraints.insert(made.values.constraints.begin() + place, value);
    const Solution solution = made.solved();
    ASSERT_EQ(solution.conflicts.size(), 1u) << "drawing " << k;
    const Conflict& conflict = solution.conflicts[0];
    std::vector<std::string> all = conflict.with;
    all.push_back(conflict.constraint);
    EXPECT_THAT(all, testing::Contains("planted"));
    for (std::size_t i = 0; i < made.drawing.points.size(); ++i)
      if (made.drawing.points[i].last != solution.points[i]) {
        // Only what is not connected with the contradiction may have been set right.
        EXPECT_LT(distance(made.drawing.points[i].last, solution.points[i]), 1e-9);
      }
    // The set is the smallest: without any one of them the others hold.
    for (const std::string& left : all) {
      RandomDrawing fewer = made;
      for (std::size_t i = fewer.drawing.constraints.size(); i-- > 0;)
        if (const std::string& id = fewer.drawing.constraints[i].id;
            id == left || std::find(all.begin(), all.end(), id) == all.end()) {
          fewer.drawing.constraints.erase(fewer.drawing.constraints.begin() + static_cast<std::ptrdiff_t>(i));
          fewer.values.constraints.erase(fewer.values.constraints.begin() + static_cast<std::ptrdiff_t>(i));
        }
      EXPECT_TRUE(fewer.solved().holds()) << "without " << left;
    }
  }
}

INSTANTIATE_TEST_SUITE_P(Seeds, RandomDrawings, testing::Range(1u, 21u));

}  // namespace
}  // namespace kervo
