// Openings found from faces alone: what they are, how large, and what is next to them.
#include "geom/openings/openings.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>

#include "geom/divide/boolean.h"
#include "geom/openings/opening_wall.h"
#include "geom/openings/opening_words.h"
#include "geom/primitives.h"
#include "geom/surface/blended_edges.h"

namespace kervo {
namespace {

Plane at(double x, double y, double z, Vector normal = {0, 0, 1}) {
  return Plane::through({x, y, z}, normal);
}

Shape cut(const Shape& body, const std::vector<Shape>& tools) {
  Progress progress;
  return divide(body, tools, progress).outside;
}

Shape box(double x, double y, double z, double width, double depth, double height) {
  return makeBlock("tool", at(x, y, z), width, depth, height);
}

/// 5 m long, 300 thick, 2.7 m high, its outside towards −y.
Shape wall() {
  return makeBlock("wall", {}, 5000, 300, 2700);
}
Shape window(double x, double z) {
  return box(x, -1, z, 1400, 302, 1300);
}

const Opening* withSizes(const std::vector<Opening>& openings, double width, double height) {
  for (const Opening& each : openings)
    if (std::abs(each.width - width) < 1e-6 && std::abs(each.height - height) < 1e-6) return &each;
  return nullptr;
}

TEST(OpeningsOf, KnowsHolesPocketsSlotsAndNotchesOfAPlate) {
  Progress progress;
  const Shape plain = makeBlock("plate", {}, 100, 60, 10);
  const Shape slot = unite({box(60, 40, -1, 20, 6, 12), makeCylinder("a", at(60, 43, -1), 3, 12),
                            makeCylinder("b", at(80, 43, -1), 3, 12)},
                           progress)
                         .shape;
  const Shape boss = makeCylinder("boss", at(90, 20, 5), 4, 12);
  const Shape plate =
      unite({cut(plain, {makeCylinder("hole", at(20, 20, -1), 5, 12), makeCylinder("blind", at(40, 20, 6), 4, 5),
                         box(55, 10, 4, 20, 12, 7), slot, box(30, 50, -1, 16, 11, 12)}),
             boss},
            progress)
          .shape;
  const std::vector<Opening> openings = openingsOf(plate);
  ASSERT_EQ(openings.size(), 5u) << "a boss is none";
  const Opening* hole = withSizes(openings, 10, 10);
  ASSERT_TRUE(hole);
  EXPECT_EQ(hole->form, OpeningForm::Round);
  EXPECT_TRUE(hole->through);
  EXPECT_NEAR(hole->diameter, 10, 1e-9);
  EXPECT_NEAR(hole->depth, 10, 1e-6);
  EXPECT_EQ(wordFor(*hole), "hole");
  EXPECT_EQ(toldOf(*hole), "through, round");
  const Opening* blind = withSizes(openings, 8, 8);
  ASSERT_TRUE(blind);
  EXPECT_FALSE(blind->through);
  EXPECT_NEAR(blind->depth, 4, 1e-6);
  EXPECT_EQ(blind->faces.size(), 2u);
  const Opening* pocket = withSizes(openings, 20, 12);
  ASSERT_TRUE(pocket);
  EXPECT_EQ(pocket->form, OpeningForm::Rectangle);
  EXPECT_FALSE(pocket->through);
  EXPECT_EQ(pocket->sides, 4);
  EXPECT_EQ(wordFor(*pocket), "pocket");
  const Opening* longOne = withSizes(openings, 26, 6);
  ASSERT_TRUE(longOne);
  EXPECT_EQ(longOne->form, OpeningForm::Slot);
  const Opening* notch = withSizes(openings, 16, 10);
  ASSERT_TRUE(notch);
  EXPECT_TRUE(notch->open);
  EXPECT_TRUE(notch->through);
  EXPECT_EQ(notch->form, OpeningForm::Rectangle);
  EXPECT_EQ(toldOf(*notch), "through, 3 sides, open to an edge");
  // Any of its faces tells.
  for (const int face : pocket->faces) {
    const auto found = openingWith(openings, face);
    ASSERT_TRUE(found);
    EXPECT_EQ(found->faces, pocket->faces);
  }
}

TEST(OpeningsOf, KnowsWindowsAndDoorsInTheirWall) {
  const Shape house = cut(wall(), {window(400, 900), window(3200, 900), box(2000, -1, -1, 1000, 302, 2101)});
  const std::vector<Opening> openings = openingsOf(house);
  ASSERT_EQ(openings.size(), 3u);
  const Opening* door = withSizes(openings, 1000, 2100);
  ASSERT_TRUE(door);
  EXPECT_EQ(wordFor(*door), "door");
  EXPECT_TRUE(door->through);
  EXPECT_TRUE(door->open);
  EXPECT_NEAR(door->depth, 300, 1e-6);
  const Opening* first = withSizes(openings, 1400, 1300);
  ASSERT_TRUE(first);
  EXPECT_EQ(wordFor(*first), "window");
  EXPECT_NEAR(std::abs(first->frame.normal.y), 1, 1e-12);
  EXPECT_EQ(allAlike(openings, *first).size(), 2u);
  const Room room = OpeningWall(house, *first).room(openings);
  // Seen from outside: to the left is −x.
  EXPECT_NEAR(room.below.gap, 900, 1e-6);
  EXPECT_NEAR(room.above.gap, 500, 1e-6);
  const bool isLeftOne = first->frame.origin.x < 2000;
  EXPECT_NEAR(isLeftOne ? room.left.gap : room.right.gap, 400, 1e-6);
  EXPECT_NEAR(isLeftOne ? room.right.gap : room.left.gap, 200, 1e-6) << "to the door";
  EXPECT_GE(isLeftOne ? room.right.opening : room.left.opening, 0);
  EXPECT_EQ(OpeningWall(house, *door).room(openings).below.gap, Box::infinity) << "it stands on the ground";
}

TEST(OpeningsOf, TakesStepsChamfersAndRoundsAlong) {
  Progress progress;
  const Shape plain = makeBlock("plate", {}, 60, 60, 20);
  const Shape stepped =
      cut(plain, {makeCylinder("hole", at(20, 20, -1), 3, 22), makeCylinder("head", at(20, 20, 12), 6, 9)});
  std::vector<Opening> openings = openingsOf(stepped);
  ASSERT_EQ(openings.size(), 1u);
  EXPECT_TRUE(openings[0].stepped);
  EXPECT_TRUE(openings[0].through);
  EXPECT_EQ(openings[0].faces.size(), 3u);
  EXPECT_NEAR(openings[0].diameter, 6, 1e-9);
  // Beside the middle it is a hole of its own.
  const Shape beside = cut(plain, {box(10, 10, 12, 30, 30, 9), makeCylinder("hole", at(15, 15, -1), 2, 22)});
  EXPECT_EQ(openingsOf(beside).size(), 2u);
  const Shape sunk =
      cut(plain, {makeCylinder("hole", at(20, 20, -1), 3, 22), makeCone("sink", at(20, 20, 17), 3, 6, 3)});
  openings = openingsOf(sunk);
  ASSERT_EQ(openings.size(), 1u);
  EXPECT_EQ(openings[0].form, OpeningForm::Round);
  EXPECT_EQ(openings[0].faces.size(), 2u);
  // A pocket with chamfered and with rounded corners at its mouth.
  const Shape pocket = cut(plain, {box(10, 10, 12, 30, 30, 9)});
  const std::vector<Opening> before = openingsOf(pocket);
  ASSERT_EQ(before.size(), 1u);
  std::vector<Edge> mouth;
  for (const Edge& edge : edgesOf(pocket))
    if (std::abs(edge.middle().z - 20) < 1e-9 && edge.middle().x > 1 && edge.middle().x < 59 && edge.middle().y > 1 &&
        edge.middle().y < 59)
      mouth.push_back(edge);
  ASSERT_EQ(mouth.size(), 4u);
}

TEST(OpeningsOf, FindsThemInRoundWalls) {
  Progress progress;
  const Shape tube = cut(makeCylinder("tube", {}, 50, 200),
                         {makeCylinder("bore", at(0, 0, -1), 45, 202), box(30, -10, 80, 40, 20, 30)});
  const std::vector<Opening> openings = openingsOf(tube);
  ASSERT_EQ(openings.size(), 2u) << "the bore and the window";
  const Opening* window = nullptr;
  for (const Opening& each : openings)
    if (each.faces.size() == 4) window = &each;
  ASSERT_TRUE(window);
  EXPECT_TRUE(window->through);
  EXPECT_EQ(window->form, OpeningForm::Rectangle);
  EXPECT_NEAR(window->width, 20, 1e-6);
  EXPECT_NEAR(window->height, 30, 1e-6);
  EXPECT_NEAR(window->frame.normal.x, 1, 1e-9);
  const Room room = OpeningWall(tube, *window).room(openings);
  EXPECT_NEAR(room.below.gap, 80, 1e-6);
  EXPECT_NEAR(room.above.gap, 90, 1e-6);
}

TEST(OpeningsOf, TakesNoStepOrBarForAnOpening) {
  Progress progress;
  EXPECT_TRUE(openingsOf(makeBlock("b", {}, 10, 10, 10)).empty());
  EXPECT_TRUE(openingsOf(makeCylinder("c", {}, 10, 10)).empty());
  EXPECT_TRUE(openingsOf(cut(makeBlock("b", {}, 40, 40, 10), {box(20, 20, -1, 30, 30, 12)})).empty()) << "an L";
  EXPECT_TRUE(
      openingsOf(unite({makeBlock("b", {}, 40, 40, 10), makeCylinder("pin", at(20, 20, 10), 5, 8)}, progress).shape)
          .empty());
  EXPECT_TRUE(openingsOf({}).empty());
}

}  // namespace
}  // namespace kervo
