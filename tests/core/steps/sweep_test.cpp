// Profiles carried along paths: volumes and areas by formulas, corners, twist, guides, cuts, and what is refused.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <nlohmann/json.hpp>
#include <numbers>

#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;
using testing::HasSubstr;
constexpr double pi = std::numbers::pi;

DrawnCurve curve(const char* id, const char* kind, std::initializer_list<const char*> numbers) {
  DrawnCurve made{id, kind, {}};
  for (const char* number : numbers) made.numbers.emplace_back(number);
  return made;
}

/// The path on the ground, begun at the origin; the profile upright across the y axis, where u is x and v is z.
std::vector<Step> pathAndProfile(std::vector<DrawnCurve> path, std::vector<DrawnCurve> profile) {
  return {drawing("path", PlanePick::standard("xy"), std::move(path)),
          drawing("d", PlanePick::standard("xz"), std::move(profile))};
}

using Fields = std::map<std::string, FieldValue>;

Model swept(std::vector<Step> steps, Fields more = {}, const std::vector<DimensionRow>& dimensions = {}) {
  Fields fields{{"profiles", RegionPick{.drawing = "d"}}, {"path", StepPick{"path"}}};
  for (auto& [key, value] : more) fields.insert_or_assign(key, value);
  steps.push_back(step("s", "sweep", std::move(fields)));
  return made(documentOf(steps, dimensions));
}

/// Along y for 40, a quarter turn of radius 20 to the right, and 30 along x.
std::vector<DrawnCurve> bentPath() {
  return {curve("a", "line", {"0", "0", "0", "40"}), curve("b", "arc", {"20", "40", "20", "90 deg", "180 deg"}),
          curve("c", "line", {"20", "60", "50", "60"})};
}
const double bentLength = 40 + pi / 2 * 20 + 30;

TEST(SweepStep, FollowsLinesAndArcsExactly) {
  const Model round = swept(pathAndProfile(bentPath(), {circle("o", "0", "0", "4")}));
  ASSERT_FALSE(round.failed()) << errorOf(round, "s");
  EXPECT_NEAR(volume(round, "s"), pi * 16 * bentLength, 1e-8 * pi * 16 * bentLength) << "Pappus";
  const Shape& pipe = round.find("s")->shape();
  EXPECT_EQ(pipe.faceCount(), 5);
  EXPECT_NEAR(pipe.area(), 2 * pi * 4 * bentLength + 2 * pi * 16, 1e-6);
  int cylinders = 0;
  for (const Face& face : facesOf(pipe)) cylinders += face.axis() ? 1 : 0;
  EXPECT_EQ(cylinders, 3) << "two cylinders and a torus";
  // A profile beside the path: its centre goes round with another radius.
  const Model beside = swept(pathAndProfile(bentPath(), {rectangle("o", "-8", "0", "6", "3")}));
  ASSERT_FALSE(beside.failed()) << errorOf(beside, "s");
  EXPECT_NEAR(volume(beside, "s"), 18 * (70 + pi / 2 * (20 + 5)), 1e-6);
}

TEST(SweepStep, CornersBetweenStraightStretchesAreMitred) {
  const Model model =
      swept(pathAndProfile({curve("a", "line", {"0", "0", "0", "40"}), curve("b", "line", {"0", "40", "30", "40"})},
                           {rectangle("o", "-2", "-2", "4", "4")}));
  ASSERT_FALSE(model.failed()) << errorOf(model, "s");
  EXPECT_NEAR(volume(model, "s"), 16 * 70, 1e-8);
  EXPECT_NEAR(model.find("s")->shape().box().high.y, 42, 1e-6) << "the outer corner";
  EXPECT_EQ(model.find("s")->shape().faceCount(), 10);
  // A frame: four corners, and back to where it began.
  const Model frame = swept(pathAndProfile({rectangle("r", "0", "-20", "60", "40")}, {circle("o", "0", "0", "3")}));
  ASSERT_FALSE(frame.failed()) << errorOf(frame, "s");
  EXPECT_NEAR(volume(frame, "s"), pi * 9 * 200, 1e-6);
  for (const Face& face : facesOf(frame.find("s")->shape())) EXPECT_EQ(face.surfaceName(), "cylinder");
  // What turns back within the profile cannot be.
  const Model sharp =
      swept(pathAndProfile({curve("a", "line", {"0", "0", "0", "6"}), curve("b", "line", {"0", "6", "1", "0"})},
                           {rectangle("o", "-2", "-2", "4", "4")}));
  EXPECT_THAT(errorOf(sharp, "s"), HasSubstr("fold over itself"));
  const Model corner = swept(pathAndProfile(
      {curve("a", "line", {"0", "0", "0", "40"}), curve("b", "arc", {"0", "20", "20", "0 deg", "90 deg"})},
      {rectangle("o", "-2", "-2", "4", "4")}));
  EXPECT_THAT(errorOf(corner, "s"), HasSubstr("has a corner at 0, 40, 0 mm"));
}

TEST(SweepStep, ClosesWherePathsClose) {
  // A ring with a hole in its profile: a hollow tube.
  const Model ring =
      swept(pathAndProfile({circle("r", "30", "0", "30")}, {circle("o", "0", "0", "5"), circle("i", "0", "0", "3")}),
            {{"profiles", RegionPick{.drawing = "d", .all = false, .regions = {"i-.o+"}}}});
  ASSERT_FALSE(ring.failed()) << errorOf(ring, "s");
  EXPECT_NEAR(volume(ring, "s"), pi * (25 - 9) * 2 * pi * 30, 1e-5);
  EXPECT_THAT(errorOf(swept(pathAndProfile({circle("r", "30", "0", "30")}, {circle("o", "0", "0", "5")}),
                            {{"twist", Expression("90 deg")}}),
                      "s"),
              HasSubstr("must come back as it began"));
  EXPECT_THAT(errorOf(swept(pathAndProfile({circle("r", "3", "0", "3")}, {circle("o", "0", "0", "5")})), "s"),
              HasSubstr("fold over itself"));
}

TEST(SweepStep, TwistsAndKeepsItsVolume) {
  const Model model =
      swept(pathAndProfile({curve("a", "line", {"0", "0", "0", "50"})}, {rectangle("o", "-5", "-2", "10", "4")}),
            {{"twist", Expression("90 deg")}});
  ASSERT_FALSE(model.failed()) << errorOf(model, "s");
  EXPECT_NEAR(volume(model, "s"), 40 * 50, 1e-4);
  const Box box = model.find("s")->shape().box();
  EXPECT_NEAR(box.high.x, std::hypot(5, 2), 1e-3);
  EXPECT_NEAR(box.high.z, std::hypot(5, 2), 1e-3) << "upright in the end";
  // Its end stands on edge: measured at the end face.
  for (const Face& face : facesOf(model.find("s")->shape()))
    if (face.plane() && std::abs(face.plane()->origin.y - 50) < 1e-6) {
      EXPECT_NEAR(face.area(), 40, 1e-6);
    }
}

/// A helix of one turn about z, of radius 20 and rise 30, wrapped on a rod.
std::vector<Step> helixAndProfile(std::vector<DrawnCurve> profile) {
  return {step("rod", "cylinder", {{"radius", Expression("20 mm")}, {"height", Expression("40 mm")}}),
          drawing("flat", PlanePick::standard("xz"), {curve("l", "line", {"0", "5", "100", "35"})}),
          step("path", "project",
               {{"drawing", StepPick{"flat"}},
                {"how", text("wrapped")},
                {"face", FaceReference{"rod", "rod:side", std::nullopt}}}),
          drawing("d", PlanePick::standard("yz"), std::move(profile))};
}

TEST(SweepStep, FollowsACurveInSpaceUprightOrPerpendicular) {
  // It begins at (0, −20, 5) of the rod, where the profile's plane is: u is y, v is z.
  for (const char* stands : {"perpendicular", "upright"}) {
    const Model model = swept(helixAndProfile({circle("o", "-20", "5", "2")}),
                              {{"path", StepPick{}}, {"path_curves", bodies({"path"})}, {"stands", text(stands)}});
    ASSERT_FALSE(model.failed()) << stands << ": " << errorOf(model, "s");
    // Across the path the circle is seen at the angle at which it was drawn; upright only the level way counts.
    EXPECT_NEAR(volume(model, "s"), pi * 4 * 100, 1e-4) << stands;
  }
  const Model cut = swept(helixAndProfile({circle("o", "-20", "5", "2")}), {{"path", StepPick{}},
                                                                            {"path_curves", bodies({"path"})},
                                                                            {"stands", text("upright")},
                                                                            {"then", text("cut")},
                                                                            {"stock", bodies({"rod"})}});
  ASSERT_FALSE(cut.failed()) << errorOf(cut, "s");
  const double taken = pi * 400 * 40 - volume(cut, "rod");
  EXPECT_GT(taken, pi * 2 * 100 * 0.9) << "half of the channel lies in the rod";
  EXPECT_LT(taken, pi * 2 * 100 * 1.05);
  EXPECT_NEAR(report(cut, "s").result->audit.volumeRemoved, taken, 1e-6);
}

TEST(SweepStep, FacesAGuide) {
  std::vector<Step> steps =
      pathAndProfile({curve("a", "line", {"0", "0", "0", "50"})}, {rectangle("o", "-5", "-2", "10", "4")});
  steps.push_back(drawing("g", PlanePick::standard("xy"), {curve("l", "line", {"20", "0", "20", "50"})}));
  const Model straight = swept(steps, {{"stands", text("guided")}, {"guide", StepPick{"g"}}});
  ASSERT_FALSE(straight.failed()) << errorOf(straight, "s");
  EXPECT_NEAR(volume(straight, "s"), 2000, 1e-8) << "a guide beside it turns nothing";
  EXPECT_EQ(straight.find("s")->shape().faceCount(), 6);
  EXPECT_THAT(errorOf(swept(steps, {{"stands", text("guided")}, {"guide", StepPick{"path"}}}), "s"),
              HasSubstr("the guide is met"));
}

TEST(SweepStep, JoinsToStockAndMakesSurfacesOfOpenLines) {
  std::vector<Step> steps =
      pathAndProfile({curve("a", "line", {"0", "0", "0", "50"})}, {rectangle("o", "-5", "0", "10", "4")});
  steps.insert(steps.begin(), block("plate", "40", "80", "5", {"-20", "-15", "-5"}));
  const Model joined = swept(steps, {{"then", text("joined")}, {"stock", bodies({"plate"})}});
  ASSERT_FALSE(joined.failed()) << errorOf(joined, "s");
  EXPECT_NEAR(volume(joined, "plate"), 40 * 80 * 5 + 40 * 50, 1e-6);
  const Model line = swept(pathAndProfile(bentPath(), {curve("l", "line", {"-3", "0", "3", "1"})}));
  ASSERT_FALSE(line.failed()) << errorOf(line, "s");
  EXPECT_EQ(line.find("s")->shape().kind(), BodyKind::Surface);
  EXPECT_NEAR(line.find("s")->shape().area(), std::hypot(6, 1) * bentLength, 1e-4)
      << "its middle goes the length of the path";
}

TEST(SweepStep, SaysWhatIsMissingOrCannotBe) {
  const std::vector<Step> steps = pathAndProfile(bentPath(), {circle("o", "0", "0", "4")});
  EXPECT_THAT(errorOf(swept(steps, {{"path", StepPick{}}}), "s"), HasSubstr("no path is chosen"));
  EXPECT_THAT(errorOf(swept(steps, {{"stands", text("guided")}}), "s"), HasSubstr("no guide is chosen"));
  EXPECT_THAT(errorOf(swept(steps, {{"stands", text("upright")}, {"axis", text("y")}}), "s"),
              HasSubstr("runs along the upright direction"));
  EXPECT_THAT(
      errorOf(swept(pathAndProfile({curve("a", "line", {"0", "0", "30", "0"})}, {circle("o", "0", "0", "4")})), "s"),
      HasSubstr("along the plane of the profile"));
  EXPECT_THAT(errorOf(swept(pathAndProfile(
                          {curve("a", "line", {"0", "0", "0", "30"}), curve("b", "line", {"20", "0", "20", "30"})},
                          {circle("o", "0", "0", "4")})),
                      "s"),
              HasSubstr("do not make one chain"));
  // Round and across itself.
  EXPECT_THAT(errorOf(swept(pathAndProfile({curve("a", "line", {"0", "0", "0", "60"}),
                                            curve("b", "arc", {"20", "60", "20", "-90 deg", "180 deg"}),
                                            curve("c", "line", {"20", "40", "-30", "40"})},
                                           {circle("o", "0", "0", "4")})),
                      "s"),
              HasSubstr("crosses itself"));
}

}  // namespace
}  // namespace kervo
