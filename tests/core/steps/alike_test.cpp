// Instances of one part: told from others, and changed alike at their own places.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>
#include <random>

#include "geom/measure/congruent.h"
#include "geom/mesh/meshed.h"
#include "model/document_edits.h"
#include "support/document_builder.h"
#include "support/random_bodies.h"

namespace kervo {
namespace {

using namespace test;
using testing::ElementsAre;
using testing::HasSubstr;
using testing::IsEmpty;
using testing::UnorderedElementsAre;
constexpr double pi = std::numbers::pi;
using Fields = std::map<std::string, FieldValue>;

/// A plate 40 × 30 × 10 and three more of the same: one shifted, one turned about y, one turned about z.
std::vector<Step> plates() {
  std::vector<Step> steps{block("p", "40", "30", "10")};
  steps.push_back(step("shifted", "place", {{"bodies", bodies({"p"})}, {"x", expression("100")}, {"copy", true}}));
  steps.push_back(step("turned", "place",
                       {{"bodies", bodies({"p"})},
                        {"way", text("turn")},
                        {"axis", text("y")},
                        {"angle", expression("90 deg")},
                        {"copy", true}}));
  return steps;
}

Model cutPlates(const std::string& kind, Fields fields, std::vector<Step> more) {
  std::vector<Step> steps = plates();
  steps.insert(steps.end(), more.begin(), more.end());
  fields["stock"] = bodies({"p"});
  steps.push_back(step("s", kind, std::move(fields)));
  return made(documentOf(steps));
}

std::vector<std::string> ids(const Model& model) {
  std::vector<std::string> result;
  for (const Body& body : model.bodies) result.push_back(body.id);
  return result;
}

TEST(Congruent, FindsTheMotionOfACopy) {
  std::mt19937 random(7);
  std::uniform_real_distribution<double> unit(-1, 1);
  int compared = 0;
  for (unsigned seed = 0; seed < 20; ++seed) {
    std::vector<Step> steps = RandomBodies(seed).steps(1, 2);
    steps.push_back(step("k", "combine", {{"stock", bodies({"s0"})}, {"cutters", bodies({"c0", "c1"})}}));
    const Model model = made(documentOf(steps));
    if (model.failed() || model.bodies.empty()) continue;
    const Shape shape = model.bodies.front().shape();
    const Motion motion = Motion::turn({unit(random), unit(random), unit(random)},
                                       {unit(random), unit(random), 2 + unit(random)}, 3 * unit(random))
                              .then(Motion::by({100 * unit(random), 100 * unit(random), 100 * unit(random)}));
    const auto found = motionOnto(shape, moved(shape, motion));
    ASSERT_TRUE(found) << seed;
    for (const Point p : {Point{1, 2, 3}, Point{-40, 5, 60}}) EXPECT_LT(length((*found)(p)-motion(p)), 1e-6) << seed;
    ++compared;
  }
  EXPECT_GT(compared, 15);
}

TEST(Congruent, TellsWhatMerelyLooksAlike) {
  const Model model = made(documentOf(
      {block("a", "10", "20", "30"), block("b", "10", "20", "30", {"50", "0", "0"}), block("c", "10", "20", "30.001"),
       step("round", "cylinder", {{"radius", expression("5")}, {"height", expression("20")}}),
       step("round2", "cylinder",
            {{"radius", expression("5")}, {"height", expression("20")}, {"at", point("9", "9", "9")}}),
       block("l", "10", "20", "30"), block("corner", "4", "5", "6"),
       step("k", "combine", {{"stock", bodies({"l"})}, {"cutters", bodies({"corner"})}}),
       step("m", "pattern", {{"bodies", bodies({"l"})}, {"way", text("mirror")}})}));
  const auto shape = [&](const char* id) { return model.find(id)->shape(); };
  EXPECT_TRUE(motionOnto(shape("a"), shape("b")));
  EXPECT_TRUE(motionOnto(shape("round"), shape("round2")));
  EXPECT_FALSE(motionOnto(shape("a"), shape("c"))) << "another height";
  EXPECT_FALSE(motionOnto(shape("a"), shape("round")));
  EXPECT_FALSE(motionOnto(shape("l"), shape("m/2"))) << "a mirrored one is another part";
  EXPECT_FALSE(motionOnto(Shape(), shape("a")));
  Progress progress;
  const Mesh ball = meshed(shape("round"), {}, progress);
  const Motion motion = Motion::turn({}, {1, 2, 3}, 1).then(Motion::by({5, 6, 7}));
  EXPECT_TRUE(motionOnto(Shape(ball), moved(Shape(ball), motion)));
  EXPECT_FALSE(motionOnto(Shape(ball), shape("round"))) << "a mesh is no exact body";
}

TEST(BodiesAlike, StayUnlessAskedFor) {
  const std::vector<Step> drawn{drawing("d", onFace("p", "p:top"), {circle("a", "10", "8", "3")})};
  const Model only = cutPlates("cut", {{"profiles", allOf("d")}}, drawn);
  ASSERT_EQ(errorOf(only, "s"), "no error");
  EXPECT_NEAR(volume(only, "p"), 12000 - 90 * pi, 1e-6);
  EXPECT_NEAR(volume(only, "shifted"), 12000, 1e-6);
  EXPECT_NEAR(volume(only, "turned"), 12000, 1e-6);
}

TEST(BodiesAlike, AreCutAtTheirOwnPlaces) {
  const std::vector<Step> drawn{drawing("d", onFace("p", "p:top"), {circle("a", "10", "8", "3")})};
  const Model model = cutPlates("cut", {{"profiles", allOf("d")}, {"alike", text("likewise")}}, drawn);
  ASSERT_EQ(errorOf(model, "s"), "no error");
  for (const char* id : {"p", "shifted", "turned"}) {
    EXPECT_NEAR(volume(model, id), 12000 - 90 * pi, 1e-6) << id;
    EXPECT_TRUE(model.find(id)->shape().valid() && model.find(id)->shape().watertight()) << id;
  }
  // All three are still one part: the hole is at the same place of each.
  EXPECT_TRUE(motionOnto(model.find("p")->shape(), model.find("shifted")->shape()));
  EXPECT_TRUE(motionOnto(model.find("p")->shape(), model.find("turned")->shape()));
  const Audit& audit = report(model, "s").result->audit;
  EXPECT_NEAR(audit.volumeBefore, 36000, 1e-6);
  EXPECT_NEAR(audit.volumeRemoved, 3 * 90 * pi, 1e-6);
  EXPECT_NEAR(audit.balance, 0, 1e-6);
  EXPECT_THAT(audit.touched, UnorderedElementsAre("p", "shifted", "turned"));
  EXPECT_THAT(audit.notes, testing::Contains(HasSubstr("2 other instances of the same part are changed like \"p\"")));
}

TEST(BodiesAlike, AreSplitIntoTheSamePieces) {
  const Model model =
      cutPlates("split", {{"cutters", cutBy("yz")}, {"offset", expression("15")}, {"alike", text("likewise")}}, {});
  ASSERT_EQ(errorOf(model, "s"), "no error");
  EXPECT_THAT(ids(model), UnorderedElementsAre("p/front", "p/back", "shifted/front", "shifted/back", "turned/front",
                                               "turned/back"));
  for (const char* id : {"p/front", "shifted/front", "turned/front"}) EXPECT_NEAR(volume(model, id), 25 * 300, 1e-6);
}

TEST(BodiesAlike, ThatAreShieldedOrCuttersStay) {
  std::vector<Step> steps = plates();
  steps.push_back(step("cutter", "place",
                       {{"bodies", bodies({"p"})}, {"x", expression("30")}, {"z", expression("5")}, {"copy", true}}));
  steps.push_back(step("s", "combine",
                       {{"stock", bodies({"p"})},
                        {"cutters", bodies({"cutter"})},
                        {"after", text("keep")},
                        {"alike", text("likewise")}}));
  const Model model = made(documentOf(steps).withBody("turned", {.shielded = true}));
  ASSERT_EQ(errorOf(model, "s"), "no error");
  EXPECT_NEAR(volume(model, "p"), 12000 - 10 * 30 * 5, 1e-6);
  EXPECT_NEAR(volume(model, "shifted"), 12000 - 10 * 30 * 5, 1e-6);
  EXPECT_NEAR(volume(model, "turned"), 12000, 1e-6);
  EXPECT_NEAR(volume(model, "cutter"), 12000, 1e-6);
  EXPECT_THAT(report(model, "s").result->audit.shielded, ElementsAre("turned"));
}

TEST(BodiesAlike, AreDrilledHollowedAndIntersectedLikewise) {
  const Model hollow = cutPlates("hollow", {{"wall", expression("1")}, {"alike", text("likewise")}}, {});
  ASSERT_EQ(errorOf(hollow, "s"), "no error");
  for (const char* id : {"p", "shifted", "turned"}) EXPECT_NEAR(volume(hollow, id), 12000 - 38 * 28 * 8, 1e-6) << id;
  const Model drilled =
      cutPlates("holes", {{"profiles", allOf("d")}, {"alike", text("likewise")}},
                {drawing("d", onFace("p", "p:top"), {circle("a", "10", "8", "3"), circle("b", "30", "8", "2")})});
  ASSERT_EQ(errorOf(drilled, "s"), "no error");
  for (const char* id : {"p", "shifted", "turned"}) EXPECT_NEAR(volume(drilled, id), 12000 - 130 * pi, 1e-6) << id;
  const Model common =
      cutPlates("combine", {{"verb", text("intersect")}, {"cutters", bodies({"tool"})}, {"alike", text("likewise")}},
                {block("tool", "20", "20", "50", {"0", "0", "-5"})});
  ASSERT_EQ(errorOf(common, "s"), "no error");
  for (const char* id : {"p", "shifted", "turned"}) EXPECT_NEAR(volume(common, id), 4000, 1e-6) << id;
  EXPECT_NEAR(report(common, "s").result->audit.volumeRemoved, 24000, 1e-6);
}

TEST(BodiesAlike, NothingElseIsTheSamePart) {
  const Model model = made(documentOf(
      {block("p", "40", "30", "10"), block("q", "40", "30", "11", {"60", "0", "0"}),
       drawing("d", onFace("p", "p:top"), {circle("a", "10", "8", "3")}),
       step("s", "cut", {{"stock", bodies({"p"})}, {"profiles", allOf("d")}, {"alike", text("likewise")}})}));
  ASSERT_EQ(errorOf(model, "s"), "no error");
  EXPECT_NEAR(volume(model, "q"), 40 * 30 * 11, 1e-6);
  EXPECT_THAT(report(model, "s").result->audit.notes,
              testing::Contains(HasSubstr("no other body is the same part as \"p\"")));
}

}  // namespace
}  // namespace kervo
