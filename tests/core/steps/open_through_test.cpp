// Opening through: slabs and walls chosen by what they are, volumes by hand, clear heights.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;
using testing::ElementsAre;
using testing::HasSubstr;

/// Three storeys: slabs of 200 with their tops at 0, 3 m and 6 m, walls between them along one side, a mast that stands
/// through all of it, and a cabinet.
std::vector<Step> tower() {
  return {block("ground", "6 m", "5 m", "200 mm", {"0", "0", "-200 mm"}),
          block("first", "6 m", "5 m", "200 mm", {"0", "0", "2.8 m"}),
          block("second", "6 m", "5 m", "200 mm", {"0", "0", "5.8 m"}),
          block("wall", "6 m", "300 mm", "2.8 m"),
          block("mast", "100 mm", "100 mm", "8 m", {"3 m", "3 m", "0"}),
          block("cabinet", "400 mm", "400 mm", "1 m", {"1 m", "2 m", "0"})};
}

/// An opening of 1 × 2 m round the mast, drawn at a height.
Model opened(const char* height, std::map<std::string, FieldValue> fields, std::vector<Step> steps = tower(),
             std::vector<DrawnCurve> curves = {rectangle("r", "2.5 m", "2 m", "1 m", "2 m")}) {
  steps.push_back(drawing("d", PlanePick::atHeight(Expression(height)), std::move(curves)));
  fields.emplace("profiles", allOf("d"));
  steps.push_back(step("o", "open_through", std::move(fields)));
  return made(documentOf(steps));
}

double gone(const Model& model, const char* body, double before) {
  return before - volume(model, body);
}

constexpr double slab = 6000.0 * 5000 * 200, hole = 1000.0 * 2000 * 200;

TEST(OpenThrough, OpensTheSlabOfItsLevelOnly) {
  const Model model = opened("3 m", {});
  ASSERT_EQ(errorOf(model, "o"), "no error");
  EXPECT_NEAR(gone(model, "first", slab), hole, 1e-3);
  EXPECT_NEAR(gone(model, "ground", slab), 0, 1e-3);
  EXPECT_NEAR(gone(model, "second", slab), 0, 1e-3);
  EXPECT_NEAR(volume(model, "mast"), 100.0 * 100 * 8000, 1e-3);
  EXPECT_THAT(report(model, "o").result->audit.touched, ElementsAre(BodyId("first")));
  EXPECT_EQ(model.find("first")->shape().faceCount(), 10);
  // The drawing may lie anywhere in the thickness of the slab.
  EXPECT_NEAR(gone(opened("2.8 m", {}), "first", slab), hole, 1e-3);
  EXPECT_NEAR(gone(opened("2.9 m", {}), "first", slab), hole, 1e-3);
}

TEST(OpenThrough, SaysWhichSlabIsNearestIfNoneIsThere) {
  const std::string error = errorOf(opened("2.5 m", {}), "o");
  EXPECT_THAT(error, HasSubstr("no slab lies at the height of the drawing"));
  EXPECT_THAT(error, HasSubstr("300 mm above"));
  EXPECT_THAT(error, HasSubstr("all slabs"));
}

TEST(OpenThrough, OpensAllSlabsAndNothingElse) {
  const Model model = opened("0", {{"opens", text("all slabs")}});
  ASSERT_EQ(errorOf(model, "o"), "no error");
  for (const char* body : {"ground", "first", "second"}) EXPECT_NEAR(gone(model, body, slab), hole, 1e-3) << body;
  EXPECT_NEAR(volume(model, "mast"), 100.0 * 100 * 8000, 1e-3) << "a mast is no slab";
  const auto& spared = report(model, "o").result->audit.spared;
  EXPECT_THAT(spared, ElementsAre(BodyId("mast")));
}

TEST(OpenThrough, AWallUnderTheOutlineIsNoSlab) {
  // Over the wall, which is 300 thick and 2.8 m high, and over the edge of the slabs.
  const Model model =
      opened("3 m", {{"opens", text("all slabs")}}, tower(), {rectangle("r", "1 m", "-500 mm", "2 m", "1 m")});
  ASSERT_EQ(errorOf(model, "o"), "no error");
  EXPECT_NEAR(gone(model, "first", slab), 2000.0 * 500 * 200, 1e-3);
  EXPECT_NEAR(volume(model, "wall"), 6000.0 * 300 * 2800, 1e-3);
}

TEST(OpenThrough, SlabsOfOneBodyAreToldApart) {
  // A frame of concrete: two floors and two walls, one body.
  std::vector<Step> steps{
      block("b", "6 m", "5 m", "3.2 m"), block("room", "5.4 m", "5 m", "2.8 m", {"300 mm", "0", "200 mm"}),
      step("c", "combine", {{"verb", text("subtract")}, {"stock", bodies({"b"})}, {"cutters", bodies({"room"})}})};
  const double whole = 6000.0 * 5000 * 3200 - 5400.0 * 5000 * 2800;
  const std::vector<DrawnCurve> shaft{rectangle("r", "2.5 m", "2 m", "1 m", "2 m")};
  const Model one = opened("3.2 m", {}, steps, shaft);
  ASSERT_EQ(errorOf(one, "o"), "no error");
  EXPECT_NEAR(gone(one, "b", whole), hole, 1e-3) << "the upper one only";
  const Model both = opened("3.2 m", {{"opens", text("all slabs")}}, steps, shaft);
  EXPECT_NEAR(gone(both, "b", whole), 2 * hole, 1e-3);
}

TEST(OpenThrough, OpensTheNextWallOnItsWay) {
  // From the room below upwards, and from above downwards.
  EXPECT_NEAR(
      gone(opened("1 m", {{"opens", text("next wall")}, {"way", text("up")}}, {tower()[1], tower()[2]}), "first", slab),
      hole, 1e-3);
  const Model down = opened("4 m", {{"opens", text("next wall")}}, {tower()[0], tower()[1], tower()[2]});
  EXPECT_NEAR(gone(down, "first", slab), hole, 1e-3);
  EXPECT_NEAR(gone(down, "ground", slab), 0, 1e-3);
  EXPECT_THAT(errorOf(opened("7 m", {{"opens", text("next wall")}, {"way", text("up")}}, {tower()[0]}), "o"),
              HasSubstr("meet nothing on this way"));
  // Drawn on the face of an upright wall.
  std::vector<Step> walls{block("a", "4 m", "300 mm", "3 m"), block("b", "4 m", "300 mm", "3 m", {"0", "2 m", "0"}),
                          drawing("d", PlanePick::standard("xz"), {rectangle("r", "1 m", "1 m", "1 m", "1 m")}),
                          step("o", "open_through", {{"profiles", allOf("d")}, {"opens", text("next wall")}})};
  const Model front = made(documentOf(walls));
  ASSERT_EQ(errorOf(front, "o"), "no error");
  EXPECT_NEAR(gone(front, "a", 4000.0 * 300 * 3000), 1000.0 * 1000 * 300, 1e-3);
  EXPECT_NEAR(gone(front, "b", 4000.0 * 300 * 3000), 0, 1e-3);
}

TEST(OpenThrough, GoesDownToADepthThroughWhateverIsThere) {
  const Model model = opened("3 m", {{"opens", text("depth")}, {"depth", Expression("100 mm")}});
  ASSERT_EQ(errorOf(model, "o"), "no error");
  EXPECT_NEAR(gone(model, "first", slab), hole / 2, 1e-3);
  double mast = 0;
  for (const Body& body : model.bodies)
    if (body.id.isOfFamily("mast")) mast += body.shape().volume();
  EXPECT_NEAR(mast, 100.0 * 100 * 7900, 1e-3) << "in two pieces";
  ASSERT_EQ(report(model, "o").result->gauges.size(), 1U);
  EXPECT_NEAR(report(model, "o").result->gauges.front().value, 100, 1e-9);
}

TEST(OpenThrough, SeveralOutlinesAndSlabsInOneStep) {
  const Model model = opened("0", {{"opens", text("all slabs")}}, tower(),
                             {rectangle("a", "1 m", "1 m", "1 m", "500 mm"), circle("b", "5 m", "4 m", "300 mm"),
                              rectangle("c", "3 m", "1 m", "1 m", "500 mm")});
  ASSERT_EQ(errorOf(model, "o"), "no error");
  const double area = 2 * 1000.0 * 500 + M_PI * 300 * 300;
  for (const char* body : {"ground", "first", "second"}) EXPECT_NEAR(gone(model, body, slab), area * 200, 1) << body;
}

TEST(OpenThrough, SparesWhatIsShielded) {
  std::vector<Step> steps = tower();
  steps.push_back(drawing("d", PlanePick::atHeight(Expression("0")), {rectangle("r", "2.5 m", "2 m", "1 m", "2 m")}));
  steps.push_back(step("o", "open_through", {{"profiles", allOf("d")}, {"opens", text("all slabs")}}));
  const Model model = made(documentOf(steps).withBody("second", {.shielded = true}));
  EXPECT_NEAR(gone(model, "second", slab), 0, 1e-3);
  EXPECT_NEAR(gone(model, "first", slab), hole, 1e-3);
  EXPECT_THAT(report(model, "o").result->audit.shielded, ElementsAre(BodyId("second")));
}

TEST(OpenThrough, MeasuresTheClearHeightAboveAStair) {
  // A ramp as a stair would be, from the ground up to the first floor, in the shaft.
  std::vector<Step> steps = tower();
  steps.push_back(step(
      "rd", "drawing",
      {{"plane", PlanePick::standard("xz")},
       {"curves",
        Drawing::of(
            {DrawnCurve{"a", "line", {Expression("1 m"), Expression("0"), Expression("4 m"), Expression("3 m")}},
             DrawnCurve{"b", "line", {Expression("4 m"), Expression("3 m"), Expression("4 m"), Expression("0")}},
             DrawnCurve{"c", "line", {Expression("4 m"), Expression("0"), Expression("1 m"), Expression("0")}}})}}));
  steps.push_back(step("ramp", "extrude",
                       {{"profiles", allOf("rd")},
                        {"way", text("into")},
                        {"from_offset", Expression("2 m")},
                        {"height", Expression("1 m")}}));
  const std::vector<DrawnCurve> opening{rectangle("r", "2 m", "2 m", "2.2 m", "1 m")};
  const Model model =
      opened("3 m", {{"over", bodies({"ramp"})}, {"clear_name", text("head")}, {"stock", bodies({"first", "second"})}},
             steps, opening);
  ASSERT_EQ(errorOf(model, "o"), "no error");
  // Where the slab begins the ramp has risen to 1 m.
  EXPECT_NEAR(model.dimensions.lookup("head").value, 2800 - 1000, 1e-6);
  const auto& measured = report(model, "o").result->measured;
  ASSERT_TRUE(measured);
  EXPECT_NEAR(measured->at.back().z - measured->at.front().z, 1800, 1e-6);
  const Model wider =
      opened("3 m", {{"over", bodies({"ramp"})}, {"clear_name", text("head")}, {"stock", bodies({"first", "second"})}},
             steps, {rectangle("r", "1.5 m", "2 m", "2.7 m", "1 m")});
  EXPECT_NEAR(wider.dimensions.lookup("head").value, 2800 - 500, 1e-6);
  EXPECT_THAT(errorOf(opened("3 m", {{"clear_name", text("head")}}), "o"), HasSubstr("nothing to be measured over"));
}

TEST(ExtrudeStep, GoesUntilAPlaneLevelOrLeaning) {
  std::vector<Step> steps{
      drawing("d", PlanePick::atHeight(Expression("1 m")), {rectangle("r", "0", "0", "4 m", "2 m")}),
      step("p", "plane",
           {{"way", text("at")}, {"point", point("0", "0", "3 m")}, {"normal", point("0", "-0.2", "1")}})};
  const auto until = [&](PlanePick plane, std::map<std::string, FieldValue> more = {}) {
    std::vector<Step> all = steps;
    std::map<std::string, FieldValue> fields{
        {"profiles", allOf("d")}, {"to", text("plane")}, {"until", std::move(plane)}};
    for (auto& [key, value] : more) fields.insert_or_assign(key, value);
    all.push_back(step("e", "extrude", fields));
    return made(documentOf(all));
  };
  EXPECT_NEAR(volume(until(PlanePick::atHeight(Expression("3.5 m"))), "e"), 4000.0 * 2000 * 2500, 1e-3);
  EXPECT_NEAR(volume(until(PlanePick::atHeight(Expression("3.5 m")), {{"from_offset", Expression("500 mm")}}), "e"),
              4000.0 * 2000 * 2000, 1e-3);
  EXPECT_NEAR(volume(until(PlanePick::standard("xy"), {{"way", text("into")}}), "e"), 4000.0 * 2000 * 1000, 1e-3);
  const Model leaning = until(PlanePick::ofStep("p"));
  ASSERT_EQ(errorOf(leaning, "e"), "no error");
  // It rises by 0.2 from 3 m: a prism's volume is its area times the height at its middle.
  EXPECT_NEAR(volume(leaning, "e"), 4000.0 * 2000 * (2000 + 0.2 * 1000), 1e-2);
  EXPECT_THAT(errorOf(until(PlanePick::standard("xy")), "e"), HasSubstr("behind the start"));
  EXPECT_THAT(errorOf(until(PlanePick::standard("xy"), {{"way", text("both")}}), "e"), HasSubstr("ends at a height"));
}

}  // namespace
}  // namespace kervo
