// Two states of a model: what was added and removed, body by body, by known volumes.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>

#include "geom/motion.h"
#include "model/compare.h"
#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace kervo::test;

std::vector<BodyChange> compared(const Model& before, const Model& after) {
  Progress progress;
  return compareBodies(before.bodies, after.bodies, progress);
}

/// A plate with a bore, and a post that stays.
Model platesOf(const char* length, const char* radius) {
  return made(documentOf({block("plate", length, "60", "10"), block("post", "10", "10", "50", {"200", "0", "0"}),
                          drawing("d", onFace("plate", "plate:top"), {circle("c", "40", "30", radius)}),
                          step("bore", "cut", {{"stock", bodies({"plate"})}, {"profiles", allOf("d")}})}));
}

TEST(Compare, TellsWhatAChangedDimensionDid) {
  const auto changes = compared(platesOf("100", "8"), platesOf("120", "10"));
  ASSERT_EQ(changes.size(), 2u);
  const BodyChange& plate = changes[0];
  EXPECT_EQ(plate.how, BodyChange::How::Changed);
  ASSERT_FALSE(plate.unknown) << plate.unknown->what();
  EXPECT_NEAR(plate.volumeAdded, 20 * 60 * 10, 1e-4);
  EXPECT_NEAR(plate.volumeRemoved, std::numbers::pi * (100 - 64) * 10, 1e-4);
  EXPECT_NEAR(plate.common.volume() + plate.volumeAdded, plate.after.volume(), 1e-4);
  EXPECT_NEAR(plate.common.volume() + plate.volumeRemoved, plate.before.volume(), 1e-4);
  EXPECT_EQ(changes[1].how, BodyChange::How::Same);
}

TEST(Compare, SeesNoDifferenceInABodyThatWasMadeAgain) {
  // Two rebuilds share no shapes.
  for (const BodyChange& change : compared(platesOf("100", "8"), platesOf("100", "8")))
    EXPECT_EQ(change.how, BodyChange::How::Same) << change.name;
}

TEST(Compare, FindsBodiesByIdNameAndPlace) {
  Model before = platesOf("100", "8"), after = platesOf("100", "8");
  before.bodies[0].id = BodyId("x.1");
  before.bodies[0].name = "Plate";
  after.bodies[0].name = "Plate";
  before.bodies[1].id = BodyId("x.2");
  before.bodies[1].name = "whatever";
  for (const BodyChange& change : compared(before, after)) EXPECT_EQ(change.how, BodyChange::How::Same) << change.name;
}

TEST(Compare, TellsWhichBodiesCameAndWent) {
  const Model before = made(documentOf({block("a", "10", "10", "10")})),
              after = made(documentOf({step(
                  "b", "cylinder",
                  {{"radius", Expression("10")}, {"height", Expression("10")}, {"at", point("100", "0", "0")}})}));
  const auto changes = compared(before, after);
  ASSERT_EQ(changes.size(), 2u);
  EXPECT_EQ(changes[0].how, BodyChange::How::Added);
  EXPECT_EQ(changes[0].id, BodyId("b"));
  EXPECT_NEAR(changes[0].volumeAdded, 1000 * std::numbers::pi, 1e-9);
  EXPECT_EQ(changes[1].how, BodyChange::How::Removed);
  EXPECT_NEAR(changes[1].volumeRemoved, 1000, 1e-9);
}

TEST(Compare, OneThatMovedIsChangedThoughItsVolumeIsNot) {
  Model before = made(documentOf({block("a", "40", "30", "20")})), after = before;
  after.bodies[0].form = moved(before.bodies[0].shape(), Motion::by({5, 0, 0}));
  const auto changes = compared(before, after);
  ASSERT_EQ(changes[0].how, BodyChange::How::Changed);
  EXPECT_NEAR(changes[0].volumeAdded, 5 * 30 * 20, 1e-6);
  EXPECT_NEAR(changes[0].volumeRemoved, 5 * 30 * 20, 1e-6);
}

TEST(Compare, SaysWhyTheMaterialOfASurfaceIsNotKnown) {
  const auto lifted = [](const char* width) {
    return made(documentOf({block("a", width, "30", "20"),
                            step("s", "lift", {{"faces", std::vector<FaceReference>{{"a", "a:top", std::nullopt}}}})}));
  };
  const auto changes = compared(lifted("40"), lifted("50"));
  const auto surface =
      std::find_if(changes.begin(), changes.end(), [](const BodyChange& each) { return each.id.step() == "s"; });
  ASSERT_NE(surface, changes.end());
  EXPECT_EQ(surface->how, BodyChange::How::Changed);
  EXPECT_TRUE(surface->unknown);
  EXPECT_NEAR(surface->areaAfter - surface->areaBefore, 300, 1e-9);
}

}  // namespace
}  // namespace kervo
