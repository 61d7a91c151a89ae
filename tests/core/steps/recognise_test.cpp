// Analytic surfaces recognised in bodies that came as splines: sizes, volumes, edges, and what stays.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>

#include "geom/divide/boolean.h"
#include "geom/motion.h"
#include "geom/primitives.h"
#include "geom/surface/recognised.h"
#include "geom/surface/reseated_faces.h"
#include "steps/registry.h"
#include "support/document_builder.h"
#include "support/shapes.h"

namespace kervo {
namespace {

using namespace test;
using testing::HasSubstr;
constexpr double pi = std::numbers::pi;

std::map<std::string, int> kindsIn(const Shape& shape) {
  std::map<std::string, int> kinds;
  for (const Face& face : facesOf(shape)) ++kinds[face.surfaceName()];
  return kinds;
}

Recognised again(const Shape& shape, double tolerance = 1e-3) {
  Progress progress;
  return recognised(shape, {}, tolerance, progress);
}

struct Sample {
  std::string name;
  Shape shape;
};

std::vector<Sample> samples() {
  Progress progress;
  const Shape rod = makeCylinder("rod", Plane::through({3, -2, 1}, {1, 2, 3}), 7, 20);
  const Shape bored = divide(makeBlock("box", Plane(), 40, 30, 20),
                             {makeCylinder("bore", Plane::through({20, 15, -5}, {0, 0, 1}), 6, 40)}, progress)
                          .outside;
  return {{"rod", rod},
          {"cone", makeCone("cone", Plane::through({0, 0, 0}, {0, 1, 1}), 9, 4, 15)},
          {"tip", makeCone("tip", Plane::through({0, 0, 0}, {0, 0, 1}), 9, 0, 15)},
          {"ball", makeSphere("ball", Plane::through({1, 2, 3}, {0, 0, 1}), 8)},
          {"ring", makeTorus("ring", Plane::through({5, 5, 5}, {1, 0, 2}), 20, 5)},
          {"bored", bored}};
}

TEST(Recognised, GivesBackWhatSplinesWereMadeOf) {
  for (const auto& [name, shape] : samples()) {
    const Shape splines = asSplines(shape).shape;
    ASSERT_EQ(kindsIn(splines).size(), 1u) << name;
    ASSERT_NEAR(splines.volume(), shape.volume(), 1e-7 * shape.volume()) << name;
    const Recognised found = again(splines);
    EXPECT_EQ(found.left, 0) << name;
    EXPECT_LT(found.off, 1e-7) << name;
    EXPECT_FALSE(kindsIn(found.shape).contains("free-form")) << name;
    EXPECT_NEAR(found.shape.volume(), shape.volume(), 1e-9 * shape.volume()) << name;
    EXPECT_NEAR(found.shape.area(), shape.area(), 1e-9 * shape.area()) << name;
    for (const auto& [kind, count] : kindsIn(shape)) EXPECT_TRUE(kindsIn(found.shape).contains(kind)) << name << kind;
    EXPECT_TRUE(found.shape.valid()) << name;
  }
}

TEST(Recognised, HolesAndEdgesHaveSizesAgain) {
  const Shape splines = asSplines(samples().back().shape).shape;
  const Recognised found = again(splines);
  double radius = 0;
  for (const Face& face : facesOf(found.shape))
    if (face.surfaceName() == "cylinder") {
      ASSERT_TRUE(face.axis());
      radius = distance(face.samplePoint(),
                        face.axis()->point + face.axis()->direction *
                                                 dot(face.samplePoint() - face.axis()->point, face.axis()->direction));
    }
  EXPECT_NEAR(radius, 6, 1e-9);
  EXPECT_GT(found.edges, 12) << "the lines of the block and the circles of the bore";
  // What is recognised is cut as what was made so.
  Progress progress;
  const Shape tool = makeCylinder("tool", Plane::through({20, 15, 10}, {1, 0, 0}), 3, 40);
  const Division cut = divide(found.shape, {tool}, progress), wanted = divide(samples().back().shape, {tool}, progress);
  EXPECT_NEAR(cut.outside.volume(), wanted.outside.volume(), 1e-7 * wanted.outside.volume());
}

TEST(Recognised, OnlyWithinTheToleranceAndOnlyWhatWasAsked) {
  // An ellipsoid is no sphere.
  const Shape ball = asSplines(makeSphere("ball", Plane(), 10)).shape;
  Progress progress;
  const Recognised none = recognised(ball, {"nothing"}, 1e-3, progress);
  EXPECT_TRUE(none.kinds.empty());
  EXPECT_EQ(none.left, 0);
  const Shape bored = asSplines(samples().back().shape).shape;
  std::set<std::string> bore;
  for (const Face& face : facesOf(bored))
    for (const std::string& origin : face.origins())
      if (origin.find("bore") != std::string::npos) bore.insert(origin);
  const Recognised one = recognised(bored, bore, 1e-3, progress);
  EXPECT_EQ(one.kinds.size(), 1u);
  EXPECT_TRUE(one.kinds.contains("cylinder"));
  EXPECT_TRUE(kindsIn(one.shape).contains("free-form"));
  EXPECT_NEAR(one.shape.volume(), bored.volume(), 1e-8 * bored.volume());
}

TEST(RecogniseStep, TellsWhatItFoundAndWhatNot) {
  const Model model =
      made(documentOf({block("b", "10", "10", "10"), step("r", "recognise", {{"bodies", bodies({"b"})}})}));
  EXPECT_THAT(errorOf(model, "r"), HasSubstr("there is no free-form face"));
  DrawnCurve line{"l", "line", {}};
  for (const char* number : {"0", "0", "0", "50"}) line.numbers.emplace_back(number);
  const Model twisted = made(documentOf(
      {drawing("path", PlanePick::standard("xy"), {line}),
       drawing("d", PlanePick::standard("xz"), {circle("o", "0", "0", "5")}),
       step("s", "sweep", {{"profiles", allOf("d")}, {"path", StepPick{"path"}}, {"twist", Expression("30 deg")}}),
       step("r", "recognise", {{"bodies", bodies({"s"})}})}));
  ASSERT_FALSE(twisted.failed()) << errorOf(twisted, "r");
  EXPECT_NEAR(volume(twisted, "s"), pi * 25 * 50, 1e-4);
  EXPECT_THAT(report(twisted, "r").result->audit.notes.front(), HasSubstr("1 × cylinder"));
}

TEST(RecogniseStep, IsOfferedForAFreeFormFaceOnly) {
  const StepKind* kind = allStepKinds().find("recognise");
  ASSERT_TRUE(kind);
  Selected selected;
  selected.picks.push_back({.what = Picked::What::Face, .body = "a", .face = {"a", "a:side", std::nullopt}});
  EXPECT_FALSE(kind->offered(selected));
  selected.picks.front().freeForm = true;
  EXPECT_EQ(kind->offered(selected), "Recognise what it is");
}

}  // namespace
}  // namespace kervo
