// Openings shifted, resized, copied and closed as steps: volumes by hand, what is refused with the room left, and
// what goes with them.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>
#include <random>

#include "fields/sections_field.h"
#include "geom/openings/openings.h"
#include "model/document_edits.h"
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

/// A vase lofted through three drawn circles, 300 mm high, with a window right through it along y.
std::vector<Step> vase(const char* sill) {
  const auto plane = [](const char* id, const char* offset) {
    return step(id, "plane", {{"from", PlanePick::standard("xy")}, {"offset", expression(offset)}});
  };
  return {drawing("d1", PlanePick::standard("xy"), {circle("c", "0", "0", "60 mm")}),
          plane("p2", "150 mm"),
          drawing("d2", PlanePick::ofStep(StepId("p2")), {circle("c", "0", "0", "90 mm")}),
          plane("p3", "300 mm"),
          drawing("d3", PlanePick::ofStep(StepId("p3")), {circle("c", "0", "0", "50 mm")}),
          step("wall", "loft",
               {{"sections", std::vector<SectionPick>{SectionPick::ofDrawing("d1"), SectionPick::ofDrawing("d2"),
                                                      SectionPick::ofDrawing("d3")}}}),
          drawing("d", PlanePick::standard("xz"), {rectangle("w", "-15 mm", sill, "30 mm", "60 mm")}),
          cut("c", "d", "wall")};
}

TEST(ShiftOpeningStep, SlidesAlongWallsOfFreeForm) {
  const Model before = made(documentOf(vase("100 mm"))), expected = made(documentOf(vase("130 mm")));
  ASSERT_FALSE(before.failed()) << errorOf(before, "wall") << errorOf(before, "c");
  const std::vector<Opening> found = openingsOf(before.find("wall")->shape());
  ASSERT_EQ(found.size(), 1u);
  EXPECT_TRUE(found[0].through);
  EXPECT_EQ(found[0].form, OpeningForm::Rectangle);
  const Model model = with(vase("100 mm"), "shift_faces",
                           {{"faces", std::vector<FaceReference>{{"wall", "c:side:w.left", std::nullopt},
                                                                 {"wall", "c:side:w.right", std::nullopt},
                                                                 {"wall", "c:side:w.top", std::nullopt},
                                                                 {"wall", "c:side:w.bottom", std::nullopt}}},
                            {"way", text("vector")},
                            {"z", expression("30 mm")}});
  ASSERT_EQ(errorOf(model, "s"), "no error");
  EXPECT_NEAR(volume(model, "wall"), volume(expected, "wall"), 1e-7 * volume(expected, "wall"));
  const Model slid =
      with(vase("100 mm"), "shift_opening", {{"openings", opening("w.left")}, {"up", expression("20 mm")}});
  ASSERT_EQ(errorOf(slid, "s"), "no error");
  EXPECT_TRUE(slid.find("wall")->shape().valid());
  EXPECT_EQ(openingsOf(slid.find("wall")->shape()).size(), 1u);
}

TEST(ResizeOpeningStep, InRoundAndTaperedWallsToo) {
  const std::vector<Step> tube{
      step("wall", "cylinder", {{"radius", Expression("50 mm")}, {"height", Expression("200 mm")}}),
      step("bore", "cylinder", {{"radius", Expression("45 mm")}, {"height", Expression("200 mm")}}),
      step("u", "combine", {{"verb", text("subtract")}, {"stock", bodies({"wall"})}, {"cutters", bodies({"bore"})}}),
      drawing("d", PlanePick::standard("xz"), {rectangle("w", "-10 mm", "80 mm", "20 mm", "30 mm")}),
      step("c", "cut",
           {{"profiles", allOf("d")}, {"stock", bodies({"wall"})}, {"to", text("through")}, {"way", text("out")}})};
  const Model before = made(documentOf(tube));
  ASSERT_FALSE(before.failed()) << errorOf(before, "c");
  const double whole = pi * (2500 - 2025) * 200;
  // What a window of half a width w takes from the ring, per height: 2·∫₀ʷ √(R²−x²) − √(r²−x²) dx.
  const auto section = [](double half) {
    const auto part = [&](double r) { return half * std::sqrt(r * r - half * half) + r * r * std::asin(half / r); };
    return part(50) - part(45);
  };
  ASSERT_NEAR(volume(before, "wall"), whole - section(10) * 30, 1e-8 * whole);
  const Model wider =
      with(tube, "resize_opening",
           {{"openings", opening("w.left")}, {"width", expression("4 mm")}, {"height", expression("10 mm")}});
  ASSERT_EQ(errorOf(wider, "s"), "no error");
  EXPECT_NEAR(volume(wider, "wall"), whole - section(12) * 40, 1e-8 * whole);
  std::vector<Step> tapered{block("wall", "5 m", "300 mm", "2.7 m"),
                            step("t", "shift_faces",
                                 {{"faces", std::vector<FaceReference>{{"wall", "wall:back", std::nullopt}}},
                                  {"way", text("turn")},
                                  {"axis", text("x")},
                                  {"angle", expression("0.02 rad")}}),
                            drawing("d", PlanePick::standard("xz"), {rectangle("w", "1 m", "900 mm", "800 mm", "1 m")}),
                            cut("c", "d", "wall")};
  const Model leaning = made(documentOf(tapered));
  ASSERT_FALSE(leaning.failed()) << errorOf(leaning, "t") << errorOf(leaning, "c");
  const Model up = with(tapered, "shift_opening", {{"openings", opening("w.left")}, {"up", expression("300 mm")}});
  ASSERT_EQ(errorOf(up, "s"), "no error");
  tapered[2] = drawing("d", PlanePick::standard("xz"), {rectangle("w", "1 m", "1200 mm", "800 mm", "1 m")});
  EXPECT_NEAR(volume(up, "wall"), volume(made(documentOf(tapered)), "wall"), 1);
}

TEST(OpeningSteps, ChangeAllLeavesOfAWall) {
  const std::vector<Step> leaves{
      block("wall", "5 m", "115 mm", "2.7 m"), block("inner", "5 m", "200 mm", "2.7 m", {"0", "150 mm", "0"}),
      drawing("d", PlanePick::standard("xz"), {rectangle("w", "1 m", "900 mm", "1 m", "1 m")}),
      step("c", "cut",
           {{"profiles", allOf("d")},
            {"stock", bodies({"wall", "inner"})},
            {"to", text("through")},
            {"way", text("both")}})};
  const auto leftOf = [](const Model& model, const char* body) {
    const std::vector<Opening> all = openingsOf(model.find(body)->shape());
    return all.size() == 1 ? all[0].frame.origin.x - all[0].width / 2 : -1;
  };
  const Model shifted =
      with(leaves, "shift_opening",
           {{"openings", opening("w.left")}, {"along", expression("400 mm")}, {"leaves", bodies({"inner"})}});
  ASSERT_EQ(errorOf(shifted, "s"), "no error");
  EXPECT_NEAR(leftOf(shifted, "wall"), 1400, 1e-6);
  EXPECT_NEAR(leftOf(shifted, "inner"), 1400, 1e-6);
  const Model wider = with(leaves, "resize_opening",
                           {{"openings", opening("w.left")},
                            {"width", expression("200 mm")},
                            {"across", text("left")},
                            {"leaves", bodies({"inner"})}});
  ASSERT_EQ(errorOf(wider, "s"), "no error");
  EXPECT_NEAR(leftOf(wider, "inner"), 1000, 1e-6);
  EXPECT_NEAR(volume(wider, "inner"), (5000.0 * 2700 - 1200.0 * 1000) * 200, 1);
  const Model closed = with(leaves, "close_opening", {{"openings", opening("w.left")}, {"leaves", bodies({"inner"})}});
  ASSERT_EQ(errorOf(closed, "s"), "no error");
  EXPECT_NEAR(volume(closed, "inner"), 5000.0 * 2700 * 200, 1);
}

// Whatever the sizes become: the shift still finds its window and puts it where it is said, or it says why it cannot
// and leaves the wall as it was.
TEST(OpeningSteps, FindTheirOpeningInChangedDocumentsOrSayWhatIsWrong) {
  std::mt19937 random(23);
  std::uniform_real_distribution<double> share(0, 1);
  const auto mm = [](double size) { return Expression(std::to_string(size) + " mm"); };
  const std::vector<Step> steps{
      block("wall", "width", "thick", "2.7 m"),
      drawing("d", PlanePick::standard("xz"),
              {rectangle("w1", "at", "900 mm", "size", "1300 mm"),
               rectangle("w2", "at + size + gap", "900 mm", "size", "1300 mm")}),
      cut("c", "d", "wall"),
      step("s", "shift_opening", {{"openings", opening("w2.left")}, {"along", expression("by")}})};
  Document document = documentOf(
      steps,
      {{"width", mm(5000)}, {"thick", mm(300)}, {"at", mm(400)}, {"size", mm(800)}, {"gap", mm(500)}, {"by", mm(100)}});
  int fine = 0, refused = 0;
  const char* shift = "by";
  for (int round = 0; round < 60; ++round) {
    if (round == 30) {
      document = withDimensionRenamed(document, "by", "sideways");
      shift = "sideways";
    }
    const double width = 3000 + 3000 * share(random), at = 200 + 600 * share(random), size = 500 + 900 * share(random),
                 gap = 100 + 600 * share(random), by = -800 + 1600 * share(random);
    for (const auto& [name, value] :
         {std::pair("width", width), std::pair("at", at), std::pair("size", size), std::pair("gap", gap),
          std::pair(shift, by), std::pair("thick", 200 + 300 * share(random))})
      document = document.withDimension(name, mm(value));
    const Model model = made(document);
    ASSERT_EQ(errorOf(model, "c"), "no error") << "round " << round;
    const double left = at + size + gap + by, right = left + size;
    const bool fits = left > at + size + 1e-6 && right < width - 1e-6, drawn = at + size + gap + size < width - 1e-6;
    if (!drawn) continue;  // it was cut out of the wall's end: a notch, with other rules
    if (fits) {
      ++fine;
      EXPECT_EQ(errorOf(model, "s"), "no error") << "round " << round;
      EXPECT_NEAR(boxOf(model, "c:side:w2.left").low.x, left, 1e-3) << "round " << round;
    } else {
      ++refused;
      EXPECT_THAT(errorOf(model, "s"), HasSubstr("there is room for")) << "round " << round;
    }
    const double cutOut = 2 * size * 1300, thick = model.find("wall")->shape().box().high.y;
    EXPECT_NEAR(volume(model, "wall"), (width * 2700 - cutOut) * thick, 1e-4 * width * thick) << "round " << round;
  }
  EXPECT_GT(fine, 10);
  EXPECT_GT(refused, 5);
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
