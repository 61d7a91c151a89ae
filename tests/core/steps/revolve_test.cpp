// Revolved profiles against Pappus and formulas of the solids that they make.
#include <gmock/gmock.h>

#include <nlohmann/json.hpp>
#include <numbers>

#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;
using testing::HasSubstr;
constexpr double pi = std::numbers::pi;

/// A drawing on xz, u along x and v along z, as a file has it.
Step drawn(const std::string& curves) {
  const StepKind* kind = allStepKinds().find("drawing");
  return step("d", "drawing",
              {{"plane", PlanePick{PlanePick::Kind::Standard, "xz", {}}},
               {"curves", kind->field("curves")->fromJson(nlohmann::json::parse(curves), "here")}});
}

Step revolved(std::map<std::string, FieldValue> fields = {}) {
  fields.emplace("profiles", allOf("d"));
  return step("r", "revolve", fields);
}

std::map<std::string, FieldValue> about(const std::string& axis) {
  return {{"about", std::string("axis")}, {"axis", axis}};
}

/// A rectangle from x = 10 to 14 and z = 0 to 5, and an axis at x = 2.
constexpr const char* ring =
    R"([{"id": "r", "rectangle": ["10", "0", "4", "5"]}, {"id": "a", "line": ["2", "-9", "2", "9"], "construction": true}])";

TEST(Revolve, AboutTheOnlyConstructionLine) {
  const Model model = made(documentOf({drawn(ring), revolved()}));
  ASSERT_FALSE(model.failed()) << errorOf(model, "r");
  EXPECT_NEAR(volume(model, "r"), pi * (144 - 64) * 5, 1e-8);
  EXPECT_EQ(model.find("r")->shape().faceCount(), 4);
}

TEST(Revolve, BetweenAnglesAboutAnAxisOfTheWorld) {
  for (const double angle : {30.0, 90.0, 200.0, 359.0}) {
    auto fields = about("z");
    fields["extent"] = std::string("angles");
    fields["from"] = Expression("15 deg");
    fields["to"] = Expression(std::to_string(15 + angle) + " deg");
    const Model model = made(documentOf({drawn(ring), revolved(fields)}));
    ASSERT_FALSE(model.failed()) << errorOf(model, "r");
    EXPECT_NEAR(volume(model, "r"), pi * (196 - 100) * 5 * angle / 360, 1e-7);
    EXPECT_EQ(model.find("r")->shape().faceCount(), 6);
    EXPECT_EQ(report(model, "r").result->gauges.size(), 2u);
  }
}

TEST(Revolve, AProfileOnTheAxisMakesAConeAndASphere) {
  const Model cone =
      made(documentOf({drawn(R"([{"id": "a", "line": ["0", "0", "6", "0"]}, {"id": "b", "line": ["6", "0", "0", "8"]},
                 {"id": "c", "line": ["0", "8", "0", "0"]}])"),
                       revolved(about("z"))}));
  ASSERT_FALSE(cone.failed()) << errorOf(cone, "r");
  EXPECT_NEAR(volume(cone, "r"), 96 * pi, 1e-8);
  const Model sphere = made(documentOf(
      {drawn(
           R"([{"id": "a", "arc": ["0", "0", "6", "-90 deg", "90 deg"]}, {"id": "c", "line": ["0", "6", "0", "-6"]}])"),
       revolved(about("z"))}));
  ASSERT_FALSE(sphere.failed()) << errorOf(sphere, "r");
  EXPECT_NEAR(volume(sphere, "r"), 288 * pi, 1e-7);
}

TEST(Revolve, AnEllipseMakesATorus) {
  const Model model = made(documentOf({drawn(R"({"points": [{"id": "c", "at": [20, 3]}, {"id": "e", "at": [23, 7]}],
                 "curves": [{"id": "o", "ellipse": {"points": ["c", "e"], "sizes": [2]}}]})"),
                                       revolved(about("z"))}));
  ASSERT_FALSE(model.failed()) << errorOf(model, "r");
  EXPECT_NEAR(volume(model, "r"), 2 * pi * 20 * pi * 5 * 2, 1e-4);
}

TEST(Revolve, OpenLinesMakeSurfaces) {
  const Model model =
      made(documentOf({drawn(R"([{"id": "l", "line": ["10", "0", "10", "7"]}])"), revolved(about("z"))}));
  ASSERT_FALSE(model.failed()) << errorOf(model, "r");
  EXPECT_EQ(model.find("r")->shape().kind(), BodyKind::Surface);
  EXPECT_NEAR(model.find("r")->shape().area(), 2 * pi * 10 * 7, 1e-8);
}

TEST(Revolve, CutsAGrooveIntoAShaft) {
  auto fields = about("z");
  fields["then"] = std::string("cut");
  const Model model =
      made(documentOf({step("s", "cylinder", {{"radius", Expression("12")}, {"height", Expression("5")}}), drawn(ring),
                       revolved(fields)}));
  ASSERT_FALSE(model.failed()) << errorOf(model, "r");
  EXPECT_NEAR(volume(model, "s"), pi * 100 * 5, 1e-7);
  const Audit& audit = report(model, "r").result->audit;
  EXPECT_NEAR(audit.volumeRemoved, pi * 44 * 5, 1e-7);
  EXPECT_NEAR(audit.balance, 0, 1e-6 * audit.volumeBefore);
}

TEST(Revolve, IsJoinedAndCommon) {
  for (const auto& [then, wanted] : {std::pair("joined", pi * 196 * 5), {"common", pi * (144 - 100) * 5}}) {
    auto fields = about("z");
    fields["then"] = std::string(then);
    const Model model =
        made(documentOf({step("s", "cylinder", {{"radius", Expression("12")}, {"height", Expression("5")}}),
                         drawn(ring), revolved(fields)}));
    ASSERT_FALSE(model.failed()) << errorOf(model, "r");
    EXPECT_NEAR(volume(model, "s"), wanted, 1e-6) << then;
  }
}

TEST(Revolve, SaysWhatIsWrongWithItsAxis) {
  const auto error = [](const std::string& curves, std::map<std::string, FieldValue> fields) {
    return errorOf(made(documentOf({drawn(curves), revolved(std::move(fields))})), "r");
  };
  EXPECT_THAT(error(ring, about("y")), HasSubstr("the axis does not lie in the plane of the drawing"));
  EXPECT_THAT(error(R"([{"id": "r", "rectangle": ["-1", "0", "4", "5"]}])", about("z")),
              HasSubstr("the axis crosses the profile: it reaches 3 mm to one side and 1 mm to the other"));
  EXPECT_THAT(error(R"([{"id": "r", "rectangle": ["1", "0", "4", "5"]}])", {}),
              HasSubstr("the drawing has no construction line to revolve about"));
  EXPECT_THAT(error(ring, {{"line", std::string("b")}}), HasSubstr("the drawing has no line \"b\""));
  auto none = about("z");
  none["extent"] = std::string("angles");
  none["to"] = Expression("0 deg");
  EXPECT_THAT(error(ring, none), HasSubstr("the angles span nothing"));
}

}  // namespace
}  // namespace kervo
