// Places of bodies that drawings snap to.
#include <gtest/gtest.h>

#include "geom/primitives.h"
#include "view/tools/body_snaps.h"

namespace kervo {
namespace {

SceneBody bodyOf(const Shape& shape, const char* name) {
  Progress progress;
  return {BodyId(name), name, pictureOf(BodyForm(shape), progress)};
}

Plane at(double x, double y, double z) {
  return {{x, y, z}, {1, 0, 0}, {0, 1, 0}, {0, 0, 1}};
}

class BodySnapsTest : public testing::Test {
 protected:
  BodySnapsTest() {
    // A wall a storey below the plane that is drawn on, at places that no float holds.
    scene_.bodies.push_back(bodyOf(makeBlock("w", at(0.1, 0.2, -3000), 6000.3, 300.7, 2800), "Wall"));
    scene_.bodies.push_back(bodyOf(makeCylinder("c", at(8000, 1000, -3000), 250.1, 900), "Post"));
  }
  std::optional<Snap> snap(double u, double v, double reach = 20) const {
    return BodySnaps(scene_, at(0, 0, 0)).at({u, v}, reach);
  }
  Scene scene_;
};

TEST_F(BodySnapsTest, CornersAreExactHoweverFarBelow) {
  const auto found = snap(6003, 297);
  ASSERT_TRUE(found);
  EXPECT_EQ(found->to, SnapTo::BodyCorner);
  EXPECT_DOUBLE_EQ(found->at.u, 0.1 + 6000.3);
  EXPECT_DOUBLE_EQ(found->at.v, 0.2 + 300.7);
  EXPECT_EQ(found->on.front(), "Wall");
}

TEST_F(BodySnapsTest, MiddlesAndPlacesOnEdges) {
  const auto middle = snap(3003, 5);
  ASSERT_TRUE(middle);
  EXPECT_EQ(middle->to, SnapTo::BodyMiddle);
  EXPECT_NEAR(middle->at.u, 0.1 + 6000.3 / 2, 1e-9);
  const auto edge = snap(2000, 310);
  ASSERT_TRUE(edge);
  EXPECT_EQ(edge->to, SnapTo::BodyEdge);
  EXPECT_NEAR(edge->at.u, 2000, 1e-9);
  EXPECT_NEAR(edge->at.v, 300.9, 1e-9);
  EXPECT_FALSE(snap(2000, 150)) << "nothing is in the middle of the wall";
}

TEST_F(BodySnapsTest, CentresAndRims) {
  const auto centre = snap(8005, 1003);
  ASSERT_TRUE(centre);
  EXPECT_EQ(centre->to, SnapTo::BodyCentre);
  EXPECT_NEAR(centre->at.u, 8000, 1e-9);
  const auto rim = snap(8000 + 255, 1000);
  ASSERT_TRUE(rim);
  EXPECT_EQ(rim->to, SnapTo::BodyEdge) << "where the rim begins is no corner";
  EXPECT_NEAR(rim->at.u, 8250.1, 1e-9);
}

TEST_F(BodySnapsTest, BodiesBesideCountAndDatumsDoNot) {
  Progress progress;
  scene_.beside.push_back(
      {"Roof", pictureOf(BodyForm(makeBlock("r", at(-500, -500, 2500), 7000, 5000, 200)), progress)});
  EXPECT_EQ(snap(-497, -503)->on.front(), "Roof");
  scene_.bodies.front().role = Role::Datum;
  EXPECT_FALSE(snap(6003, 297));
}

}  // namespace
}  // namespace kervo
