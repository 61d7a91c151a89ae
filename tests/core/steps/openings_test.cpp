// Openings shifted, resized, copied and closed as steps: volumes by hand, what is refused with the room left, and
// what goes with them.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>

#include "geom/openings/openings.h"
#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;
using testing::HasSubstr;
constexpr double pi = std::numbers::pi;
using Fields = std::map<std::string, FieldValue>;

Step cut(const char* id, const char* from, const char* stock) {
  return step(id, "cut",
              {{"profiles", allOf(from)}, {"stock", bodies({stock})}, {"to", text("through")}, {"way", text("both")}});
}

/// A wall 5 m long, 300 thick, 2.7 m high, with two windows (1400 × 1300, 900 above the ground) and a door (1000 ×
/// 2100) between, drawn on its front.
std::vector<Step> wallSteps() {
  return {block("wall", "5 m", "300 mm", "2.7 m"),
          drawing("d", PlanePick::standard("xz"),
                  {rectangle("w1", "400 mm", "900 mm", "1400 mm", "1300 mm"),
                   rectangle("w2", "3200 mm", "900 mm", "1400 mm", "1300 mm"),
                   rectangle("door", "2000 mm", "0 mm", "1000 mm", "2100 mm")}),
          cut("c", "d", "wall")};
}
constexpr double windowArea = 1400.0 * 1300, doorArea = 1000.0 * 2100;
constexpr double solidWall = 5000.0 * 300 * 2700, openWall = solidWall - (2 * windowArea + doorArea) * 300;

/// The opening that a curve of the drawing made, told by one of its faces.
std::vector<FaceReference> opening(const char* curve) {
  return {{"wall", "c:side:" + std::string(curve), std::nullopt}};
}

Model with(std::vector<Step> steps, const char* kind, Fields fields, const std::vector<DimensionRow>& dimensions = {}) {
  steps.push_back(step("s", kind, std::move(fields)));
  return made(documentOf(steps, dimensions));
}

/// The box of what the opening is now, in the wall.
Box boxOf(const Model& model, const char* face) {
  Box box;
  const Shape& shape = model.find("wall")->shape();
  const std::vector<Face> faces = facesOf(shape);
  for (const Opening& each : openingsOf(shape)) {
    bool its = false;
    for (const int number : each.faces)
      for (const std::string& name : faces[static_cast<std::size_t>(number)].origins()) its |= name == face;
    if (!its) continue;
    box.add(each.frame.at(-each.width / 2, -each.height / 2));
    box.add(each.frame.at(each.width / 2, each.height / 2));
  }
  return box;
}

TEST(ShiftOpeningStep, MovesAWindowByADistance) {
  const Model model =
      with(wallSteps(), "shift_opening",
           {{"openings", opening("w1.left")}, {"along", expression("150 mm")}, {"up", expression("-100 mm")}});
  ASSERT_EQ(errorOf(model, "s"), "no error");
  EXPECT_NEAR(volume(model, "wall"), openWall, 1e-9 * solidWall);
  EXPECT_EQ(model.find("wall")->shape().faceCount(), 6 + 1 + 4 + 4 + 3) << "the foot of the wall is in two";
  const Box box = boxOf(model, "c:side:w1.left");
  EXPECT_NEAR(box.low.x, 550, 1e-6);
  EXPECT_NEAR(box.low.z, 800, 1e-6);
  EXPECT_NEAR(boxOf(model, "c:side:w2.left").low.x, 3200, 1e-6) << "the other one stays";
  EXPECT_THAT(report(model, "s").result->audit.notes, testing::Contains(HasSubstr("50 mm away from window")));
  EXPECT_TRUE(model.find("wall")->shape().valid());
}

TEST(ShiftOpeningStep, TakesDistancesFromTheWallAndFromFaces) {
  // A sill for all alike, driven by a dimension.
  const Model sills =
      with(wallSteps(), "shift_opening",
           {{"openings", opening("w1.left")}, {"alike", true}, {"rise", text("below it")}, {"up", expression("sill")}},
           {{"sill", Expression("850 mm")}});
  ASSERT_EQ(errorOf(sills, "s"), "no error");
  EXPECT_NEAR(boxOf(sills, "c:side:w1.left").low.z, 850, 1e-6);
  EXPECT_NEAR(boxOf(sills, "c:side:w2.left").low.z, 850, 1e-6);
  const Model left =
      with(wallSteps(), "shift_opening",
           {{"openings", opening("w1.top")}, {"across", text("left of it")}, {"along", expression("500 mm")}});
  ASSERT_EQ(errorOf(left, "s"), "no error");
  EXPECT_NEAR(boxOf(left, "c:side:w1.left").low.x, 500, 1e-6);
  // 300 mm beside the door.
  const Model beside = with(wallSteps(), "shift_opening",
                            {{"openings", opening("w2.top")},
                             {"across", text("left of it")},
                             {"along", expression("300 mm")},
                             {"beside", opening("door.right")}});
  ASSERT_EQ(errorOf(beside, "s"), "no error");
  EXPECT_NEAR(boxOf(beside, "c:side:w2.left").low.x, 3300, 1e-6);
}

TEST(ShiftOpeningStep, ADoorKeepsItsFoot) {
  const Model model =
      with(wallSteps(), "shift_opening", {{"openings", opening("door.top")}, {"along", expression("-120 mm")}});
  ASSERT_EQ(errorOf(model, "s"), "no error");
  EXPECT_NEAR(volume(model, "wall"), openWall, 1e-9 * solidWall);
  EXPECT_NEAR(boxOf(model, "c:side:door.top").low.x, 1880, 1e-6);
  EXPECT_THAT(
      errorOf(with(wallSteps(), "shift_opening", {{"openings", opening("door.top")}, {"up", expression("100 mm")}}),
              "s"),
      HasSubstr("keeps its foot"));
}

TEST(ShiftOpeningStep, SaysHowMuchRoomThereIs) {
  const auto shifted = [](const char* along, const char* up) {
    return errorOf(with(wallSteps(), "shift_opening",
                        {{"openings", opening("w1.left")}, {"along", expression(along)}, {"up", expression(up)}}),
                   "s");
  };
  EXPECT_THAT(shifted("250 mm", "0 mm"), HasSubstr("room for 200 mm up to door"));
  EXPECT_THAT(shifted("-450 mm", "0 mm"), HasSubstr("room for 400 mm up to the edge of its wall"));
  EXPECT_THAT(shifted("0 mm", "600 mm"), HasSubstr("room for 500 mm up to the edge of its wall"));
  EXPECT_THAT(errorOf(with(wallSteps(), "shift_opening", {}), "s"), HasSubstr("no opening is picked"));
  EXPECT_THAT(errorOf(with(wallSteps(), "shift_opening",
                           {{"openings", std::vector<FaceReference>{{"wall", "wall:top", std::nullopt}}}}),
                      "s"),
              HasSubstr("lies in no opening"));
}

TEST(ShiftOpeningStep, CarriesWhatSitsInIt) {
  std::vector<Step> steps = wallSteps();
  steps.push_back(block("frame", "1400 mm", "60 mm", "1300 mm", {"400 mm", "100 mm", "900 mm"}));
  const Model model =
      with(steps, "shift_opening",
           {{"openings", opening("w1.left")}, {"along", expression("100 mm")}, {"with", bodies({"frame"})}});
  ASSERT_EQ(errorOf(model, "s"), "no error");
  EXPECT_NEAR(model.find("frame")->shape().box().low.x, 500, 1e-6);
}

TEST(ShiftOpeningStep, SpreadsThreeEvenly) {
  std::vector<Step> steps{
      block("wall", "5 m", "300 mm", "2.7 m"),
      drawing("d", PlanePick::standard("xz"),
              {rectangle("a", "200 mm", "900 mm", "600 mm", "1 m"), rectangle("b", "1 m", "900 mm", "800 mm", "1 m"),
               rectangle("e", "4 m", "900 mm", "600 mm", "1 m")}),
      cut("c", "d", "wall")};
  std::vector<FaceReference> three;
  for (const char* each : {"a.left", "b.left", "e.left"}) three.push_back(opening(each).front());
  const Model model = with(steps, "shift_opening", {{"openings", three}, {"across", text("evenly")}});
  ASSERT_EQ(errorOf(model, "s"), "no error");
  // Between 800 and 4000 stand 800 mm: 1200 on either side.
  EXPECT_NEAR(boxOf(model, "c:side:b.left").low.x, 2000, 1e-6);
}

TEST(ResizeOpeningStep, GivesAWindowAndADoorNewSizes) {
  const Model wider = with(wallSteps(), "resize_opening",
                           {{"openings", opening("w1.left")},
                            {"width_becomes", text("to")},
                            {"width", expression("1200 mm")},
                            {"across", text("right")}});
  ASSERT_EQ(errorOf(wider, "s"), "no error");
  EXPECT_NEAR(volume(wider, "wall"), openWall + 200.0 * 1300 * 300, 1e-9 * solidWall);
  EXPECT_NEAR(boxOf(wider, "c:side:w1.left").low.x, 600, 1e-6) << "its right side stays";
  const Model door =
      with(wallSteps(), "resize_opening",
           {{"openings", opening("door.left")}, {"width", expression("100 mm")}, {"height", expression("50 mm")}});
  ASSERT_EQ(errorOf(door, "s"), "no error");
  EXPECT_NEAR(volume(door, "wall"), openWall - (1100.0 * 2150 - doorArea) * 300, 1e-9 * solidWall);
  EXPECT_NEAR(boxOf(door, "c:side:door.left").low.x, 1950, 1e-6);
  EXPECT_NEAR(boxOf(door, "c:side:door.left").low.z, 0, 1e-6);
  EXPECT_THAT(
      errorOf(with(wallSteps(), "resize_opening", {{"openings", opening("w1.left")}, {"width", expression("500 mm")}}),
              "s"),
      HasSubstr("room for 200 mm up to door"));
}

TEST(ResizeOpeningStep, ChangesDiametersAndDepths) {
  const std::vector<Step> steps{
      block("wall", "60 mm", "60 mm", "20 mm"),
      drawing("d", PlanePick::standard("xy"), {circle("h", "20 mm", "20 mm", "3 mm")}), cut("c", "d", "wall"),
      drawing("e", {PlanePick::onFace({"wall", "wall:top", std::nullopt})}, {circle("p", "40 mm", "40 mm", "5 mm")}),
      step("k", "cut",
           {{"profiles", allOf("e")},
            {"stock", bodies({"wall"})},
            {"to", text("distance")},
            {"depth", expression("8 mm")}})};
  const double before = 60.0 * 60 * 20 - pi * 9 * 20 - pi * 25 * 8;
  const Model hole = with(steps, "resize_opening",
                          {{"openings", opening("h")}, {"width_becomes", text("to")}, {"width", expression("8 mm")}});
  ASSERT_EQ(errorOf(hole, "s"), "no error");
  EXPECT_NEAR(volume(hole, "wall"), before - pi * (16 - 9) * 20, 1e-9 * before);
  const std::vector<FaceReference> pocket{{"wall", "k:side:p", std::nullopt}};
  const Model deeper = with(steps, "resize_opening",
                            {{"openings", pocket}, {"depth_becomes", text("by")}, {"depth", expression("4 mm")}});
  ASSERT_EQ(errorOf(deeper, "s"), "no error");
  EXPECT_NEAR(volume(deeper, "wall"), before - pi * 25 * 4, 1e-9 * before);
  EXPECT_THAT(errorOf(with(steps, "resize_opening",
                           {{"openings", opening("h")}, {"depth_becomes", text("by")}, {"depth", expression("4 mm")}}),
                      "s"),
              HasSubstr("goes through"));
}

TEST(CloseOpeningStep, LeavesAWholeWall) {
  const Model one = with(wallSteps(), "close_opening", {{"openings", opening("w1.left")}});
  ASSERT_EQ(errorOf(one, "s"), "no error");
  EXPECT_NEAR(volume(one, "wall"), openWall + windowArea * 300, 1e-9 * solidWall);
  std::vector<FaceReference> all = opening("w1.left");
  all.push_back(opening("door.top").front());
  const Model whole = with(wallSteps(), "close_opening", {{"openings", all}, {"alike", true}});
  ASSERT_EQ(errorOf(whole, "s"), "no error");
  EXPECT_NEAR(volume(whole, "wall"), solidWall, 1e-9 * solidWall);
  EXPECT_EQ(whole.find("wall")->shape().faceCount(), 6);
  EXPECT_EQ(whole.find("wall")->shape().edgeCount(), 12);
}

TEST(CopyOpeningStep, CopiesInAGridMirrorsAndGoesToOtherWalls) {
  const std::vector<Step> steps{
      block("wall", "5 m", "300 mm", "2.7 m"),
      drawing("d", PlanePick::standard("xz"), {rectangle("w", "300 mm", "200 mm", "400 mm", "500 mm")}),
      cut("c", "d", "wall")};
  const double cutOut = 400.0 * 500 * 300;
  const Model grid = with(steps, "copy_opening",
                          {{"openings", opening("w.left")},
                           {"columns", expression("4")},
                           {"rows", expression("2")},
                           {"along", expression("700 mm")},
                           {"up", expression("900 mm")}});
  ASSERT_EQ(errorOf(grid, "s"), "no error");
  EXPECT_NEAR(volume(grid, "wall"), solidWall - 8 * cutOut, 1e-9 * solidWall);
  EXPECT_EQ(openingsOf(grid.find("wall")->shape()).size(), 8u);
  EXPECT_THAT(
      errorOf(with(steps, "copy_opening",
                   {{"openings", opening("w.left")}, {"columns", expression("9")}, {"along", expression("700 mm")}}),
              "s"),
      HasSubstr("would leave its wall"));
  std::vector<Step> mirrored = steps;
  mirrored.push_back(step("p", "plane", {{"from", PlanePick::standard("yz")}, {"offset", expression("2500 mm")}}));
  const Model mirror =
      with(mirrored, "copy_opening",
           {{"openings", opening("w.left")}, {"way", text("mirror")}, {"plane", PlanePick::ofStep(StepId("p"))}});
  ASSERT_EQ(errorOf(mirror, "s"), "no error");
  EXPECT_NEAR(volume(mirror, "wall"), solidWall - 2 * cutOut, 1e-9 * solidWall);
  // A thinner wall across.
  std::vector<Step> two = steps;
  two.push_back(block("side", "200 mm", "4 m", "2.7 m", {"0", "300 mm", "0"}));
  const Model other = with(two, "copy_opening",
                           {{"openings", opening("w.left")},
                            {"way", text("wall")},
                            {"wall", FaceReference{"side", "side:left", std::nullopt}},
                            {"along", expression("500 mm")}});
  ASSERT_EQ(errorOf(other, "s"), "no error");
  EXPECT_NEAR(volume(other, "side"), 200.0 * 4000 * 2700 - 400.0 * 500 * 200, 1);
  EXPECT_NEAR(volume(other, "wall"), solidWall - cutOut, 1e-9 * solidWall);
}

TEST(OpeningSteps, FollowTheDrawingThatMadeThem) {
  std::vector<Step> steps = wallSteps();
  for (const char* thickness : {"250 mm", "400 mm"}) {
    steps[0] = block("wall", "5 m", thickness, "2.9 m");
    const Model model =
        with(steps, "shift_opening", {{"openings", opening("w1.left")}, {"along", expression("150 mm")}});
    ASSERT_EQ(errorOf(model, "s"), "no error") << thickness;
    EXPECT_NEAR(boxOf(model, "c:side:w1.left").low.x, 550, 1e-6);
  }
}

}  // namespace
}  // namespace kervo
