#include "view/mark_walk.h"

#include <gtest/gtest.h>

#include <set>

#include "geom/primitives.h"
#include "support/meshes.h"
#include "view/guide_picture.h"

namespace kervo {
namespace {

Scene twoBodies() {
  Progress progress;
  Scene scene;
  const Plane apart = Plane::through({100, 0, 0}, {0, 0, 1});
  for (const auto& [id, shape] : {std::pair<BodyId, Shape>{"block", makeBlock("block", Plane{}, 40, 30, 20)},
                                  {"rod", makeCylinder("rod", apart, 5, 30)}})
    scene.bodies.push_back({id, id, pictureOf(shape, progress), {0.2, 0.6, 0.4}, Role::Plain, 0, true});
  return scene;
}

TEST(MarkWalk, GoesThroughFacesThenEdgesThenCornersOnceEach) {
  const Scene scene = twoBodies();
  const PickFilter anything;
  const auto all = allPicks(scene, anything);
  const auto count = [&](Pick::Kind kind) {
    return std::count_if(all.begin(), all.end(), [&](const Pick& pick) { return pick.kind == kind; });
  };
  EXPECT_EQ(count(Pick::Kind::Face), 6 + 3);
  EXPECT_EQ(count(Pick::Kind::Edge), 12 + 2);  // the seam of the cylinder is no edge that anybody sees
  EXPECT_GE(count(Pick::Kind::Corner), 8);
  EXPECT_EQ(count(Pick::Kind::Body), 0);
  EXPECT_TRUE(std::is_sorted(all.begin(), all.end(), [](const Pick& a, const Pick& b) { return a.kind < b.kind; }));
  // Round and round, and the same way back.
  std::optional<Pick> at;
  for (const Pick& expected : all) EXPECT_EQ(at = nextPick(scene, anything, at, 1), expected);
  EXPECT_EQ(nextPick(scene, anything, at, 1), all.front());
  at.reset();
  for (auto expected = all.rbegin(); expected != all.rend(); ++expected)
    EXPECT_EQ(at = nextPick(scene, anything, at, -1), *expected);
  EXPECT_EQ(nextPick(scene, anything, at, -1), all.back());
}

TEST(MarkWalk, AMeshIsPickedAsAWhole) {
  Progress progress;
  Scene scene = twoBodies();
  const Mesh painted = test::painted(test::boxMesh({200, 0, 0}, {210, 10, 10}), paintOf({1, 0, 0}), 0);
  scene.bodies.push_back({"scan", "Scan", pictureOf(painted, progress), {0.2, 0.6, 0.4}, Role::Plain, 0, true});
  ASSERT_EQ(scene.bodies.back().picture->colored.size(), 1u) << "the painted half";
  const auto all = allPicks(scene, PickFilter{});
  EXPECT_EQ(std::count(all.begin(), all.end(), Pick{Pick::Kind::Body, "scan", 0}), 1);
  EXPECT_TRUE(std::none_of(all.begin(), all.end(),
                           [](const Pick& pick) { return pick.body == "scan" && pick.kind != Pick::Kind::Body; }));
}

TEST(MarkWalk, KeepsToTheFilterAndToWhatCanBePicked) {
  Scene scene = twoBodies();
  const PickFilter bodies{true, true, false, false};
  EXPECT_EQ(allPicks(scene, bodies), (std::vector<Pick>{{Pick::Kind::Body, "block", 0}, {Pick::Kind::Body, "rod", 0}}));
  scene.bodies.front().pickable = false;
  EXPECT_EQ(allPicks(scene, bodies), (std::vector<Pick>{{Pick::Kind::Body, "rod", 0}}));
  // From something that cannot be picked any more it starts anew.
  EXPECT_EQ(nextPick(scene, bodies, Pick{Pick::Kind::Body, "block", 0}, 1), (Pick{Pick::Kind::Body, "rod", 0}));
  EXPECT_EQ(nextPick(scene, PickFilter{false, false, false, false, false}, std::nullopt, 1), std::nullopt);
  EXPECT_EQ(nextPick(Scene{}, bodies, std::nullopt, -1), std::nullopt);
  scene.bodies.push_back({"p", "p", pictureOf(Datum(Plane{}), {{0, 0, 0}, {9, 9, 9}}), {}, Role::Datum});
  EXPECT_EQ(allPicks(scene, PickFilter{false, false, false, false, true}),
            (std::vector<Pick>{{Pick::Kind::Guide, "p", 0}}));
  EXPECT_EQ(allPicks(scene, PickFilter{true, true, false, false, false}),
            (std::vector<Pick>{{Pick::Kind::Body, "rod", 0}}));
}

TEST(MarkWalk, LabelsStandInTheMiddle) {
  const Scene scene = twoBodies();
  const SceneBody& block = scene.bodies.front();
  const auto near = [](Point a, Point b) { return length(a - b) < 1e-4; };
  EXPECT_TRUE(near(middleOf({Pick::Kind::Body, "block", 0}, block), {20, 15, 10}));
  for (std::size_t i = 0; i < block.picture->faces.size(); ++i)
    EXPECT_TRUE(near(middleOf({Pick::Kind::Face, "block", int(i)}, block), block.picture->faces[i].middle())) << i;
  std::set<double> sums;
  for (int i = 0; i < 8; ++i) {
    const Point corner = middleOf({Pick::Kind::Corner, "block", i}, block);
    EXPECT_TRUE(near(corner, {corner.x < 20 ? 0.0 : 40.0, corner.y < 15 ? 0.0 : 30.0, corner.z < 10 ? 0.0 : 20.0}));
    sums.insert(corner.x + 2.5 * corner.y + 7 * corner.z);
  }
  EXPECT_EQ(sums.size(), 8u) << "all corners are different ones";
}

}  // namespace
}  // namespace kervo
