// Laws of splits and of arrangements, on random documents: parts add up, sides complete each other, motions undo each
// other, and a body in many copies has as many volumes.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

#include "support/random_bodies.h"

namespace kervo {
namespace {

using namespace test;

class SplitLaws : public testing::TestWithParam<unsigned> {
 protected:
  using Fields = std::map<std::string, FieldValue>;

  static Model with(std::vector<Step> steps, const std::vector<Step>& last) {
    steps.insert(steps.end(), last.begin(), last.end());
    return made(documentOf(steps));
  }
  static Step split(Fields fields) { return step("k", "split", std::move(fields)); }
  Expression length(double low, double high) { return Expression(random.mm(low, high) + " mm"); }
  Expression angle(double low, double high) { return Expression(random.mm(low, high) + " deg"); }
  static CutterPick plane(const char* name) { return CutterPick::of(PlanePick{PlanePick::Kind::Standard, name, {}}); }

  RandomBodies random{GetParam()};
};

TEST_P(SplitLaws, PartsOfATiltedPlaneAddUpAndLieOnTheirSides) {
  const auto steps = random.steps(2, 0);
  const Model before = made(documentOf(steps));
  const Fields cut{
      {"cutters", cutBy("yz")}, {"offset", length(-4, 4)}, {"tilt", angle(-50, 50)}, {"turn", angle(-50, 50)}};
  const auto side = [&](const char* keep) {
    Fields fields = cut;
    fields["keep"] = text(keep);
    const Model model = with(steps, {split(fields)});
    EXPECT_FALSE(model.failed()) << keep << ": " << errorOf(model, "k");
    return model;
  };
  const Model both = side("both"), front = side("front"), back = side("back");
  EXPECT_EQ(both.bodies.size(), 4u);
  EXPECT_NEAR(total(both), total(before), 1e-6 * total(before));
  EXPECT_NEAR(total(front) + total(back), total(before), 1e-6 * total(before));
  for (const Model* kept : {&front, &back})
    for (const Body& body : kept->bodies) EXPECT_NEAR(volume(both, body.id), body.shape().volume(), 1e-6) << body.id;
}

TEST_P(SplitLaws, OrderOfPlanesDoesNotMatterAndTwoStepsDoTheSame) {
  const auto steps = random.steps(1, 0);
  const std::vector<CutterPick> one{plane("yz"), plane("xz"), plane("xy")};
  const std::vector<CutterPick> other{plane("xy"), plane("yz"), plane("xz")};
  const auto volumes = [&](const Model& model) {
    std::vector<double> result;
    for (const Body& body : model.bodies) result.push_back(body.shape().volume());
    std::sort(result.begin(), result.end());
    return result;
  };
  const auto a = volumes(with(steps, {split({{"cutters", one}})}));
  const auto b = volumes(with(steps, {split({{"cutters", other}})}));
  // One after the other; a plane that misses a body fails, and leaves everything as it is.
  const auto c = volumes(with(steps, {step("p", "split", {{"cutters", std::vector{one[0]}}}),
                                      step("q", "split", {{"cutters", std::vector{one[1]}}}),
                                      step("r", "split", {{"cutters", std::vector{one[2]}}})}));
  ASSERT_GE(a.size(), 4u);
  ASSERT_EQ(a.size(), b.size());
  ASSERT_EQ(a.size(), c.size());
  for (std::size_t i = 0; i < a.size(); ++i) {
    EXPECT_NEAR(a[i], b[i], 1e-6 * a[i]);
    EXPECT_NEAR(a[i], c[i], 1e-6 * a[i]);
  }
}

TEST_P(SplitLaws, BodyAsCutterDividesIntoDifferenceAndCommonPart) {
  const auto steps = random.steps(1, 1);
  const Model model =
      with(steps, {split({{"stock", bodies({"s0"})}, {"cutters", std::vector{CutterPick::ofBody("c0")}}})});
  ASSERT_FALSE(model.failed()) << errorOf(model, "k");
  const auto left = [&](const char* verb) {
    const Model combined = with(
        steps, {step("k", "combine", {{"verb", text(verb)}, {"stock", bodies({"s0"})}, {"cutters", bodies({"c0"})}})});
    EXPECT_FALSE(combined.failed()) << errorOf(combined, "k");
    double sum = 0;
    for (const Body& body : combined.bodies)
      if (body.id.text().rfind("s0", 0) == 0) sum += body.shape().volume();
    return sum;
  };
  double outside = 0, inside = 0;
  for (const auto& [key, size] : pieces(model, "k"))
    (key.text().find("outside") != std::string::npos ? outside : inside) += size;
  EXPECT_GT(std::min(outside, inside), 0);
  EXPECT_NEAR(outside, left("subtract"), 1e-6 * outside);
  EXPECT_NEAR(inside, left("intersect"), 1e-6 * outside);
}

TEST_P(SplitLaws, WidthOfAKerfTiltsWithThePlane) {
  // A plane that stands at an angle in a wall takes kerf / cos of it, whichever way it is tilted.
  const std::vector<Step> steps{block("s0", "60", "20", "10", {"-30", "-10", "-5"})};
  const double degrees = std::stod(random.mm(-40, 40)), kerf = std::stod(random.mm(0.5, 3));
  for (const char* about : {"tilt", "turn"}) {
    const Model model = with(steps, {split({{"cutters", cutBy("yz")},
                                            {about, Expression(std::to_string(degrees) + " deg")},
                                            {"kerf", Expression(std::to_string(kerf) + " mm")}})});
    ASSERT_FALSE(model.failed()) << errorOf(model, "k");
    EXPECT_NEAR(12000 - total(model), 200 * kerf / std::cos(degrees * std::numbers::pi / 180), 1e-3) << about;
    EXPECT_NEAR(volume(model, "s0/front"), volume(model, "s0/back"), 1e-3) << about;
  }
}

TEST_P(SplitLaws, MotionsUndoEachOther) {
  const auto steps = random.steps(1, 1);
  const Model before = made(documentOf(steps));
  BodyPick all;
  all.all = true;
  const std::string degrees = random.mm(-170, 170), x = random.mm(-500, 500), factor = random.mm(0.2, 5);
  const auto place = [&](const char* id, Fields fields) {
    fields["bodies"] = all;
    return step(id, "place", std::move(fields));
  };
  const Model there =
      with(steps, {place("m1", {{"x", Expression(x + " mm")}}),
                   place("m2", {{"way", text("turn")}, {"axis", text("y")}, {"angle", Expression(degrees + " deg")}})});
  const Model back =
      with(steps,
           {place("m1", {{"x", Expression(x + " mm")}}),
            place("m2", {{"way", text("turn")}, {"axis", text("y")}, {"angle", Expression(degrees + " deg")}}),
            place("m3", {{"way", text("turn")}, {"axis", text("y")}, {"angle", Expression("-(" + degrees + " deg)")}}),
            place("m4", {{"x", Expression("-(" + x + " mm)")}})});
  ASSERT_FALSE(there.failed());
  ASSERT_FALSE(back.failed());
  for (const Body& body : before.bodies) {
    const Box was = body.shape().box(), is = back.find(body.id)->shape().box();
    EXPECT_NEAR(distance(was.low, is.low) + distance(was.high, is.high), 0, 1e-6) << body.id;
    EXPECT_NEAR(volume(there, body.id), body.shape().volume(), 1e-9 * body.shape().volume()) << body.id;
  }
  const Model scaled = with(steps, {place("m1", {{"way", text("scale")}, {"factor", Expression(factor)}})});
  const double cube = std::pow(std::stod(factor), 3);
  for (const Body& body : before.bodies)
    EXPECT_NEAR(volume(scaled, body.id), cube * body.shape().volume(), 1e-6 * cube * body.shape().volume()) << body.id;
}

TEST_P(SplitLaws, CopiesHaveTheVolumeOfTheirBodyAndCutAsMuchIfTheyAreApart) {
  const int count = 3 + static_cast<int>(GetParam() % 4);
  const std::string radius = random.mm(1, 3);
  const std::vector<Step> steps{
      block("s0", "200", "200", "10", {"-100", "-100", "0"}),
      step("c0", "cylinder",
           {{"radius", Expression(radius)}, {"height", Expression("30")}, {"at", point("40", "0", "-10")}})};
  for (const char* way : {"line", "ring"}) {
    const Step pattern = step("p", "pattern",
                              {{"bodies", bodies({"c0"})},
                               {"way", text(way)},
                               {"axis", text(way == std::string("ring") ? "z" : "x")},
                               {"count", Expression(std::to_string(count))},
                               {"spacing", Expression("-9 mm")}});
    const Step cut = step("k", "combine", {{"stock", bodies({"s0"})}, {"cutters", bodies({"c0", "p"})}});
    const Model copies = with(steps, {pattern}), model = with(steps, {pattern, cut});
    ASSERT_FALSE(model.failed()) << way << ": " << errorOf(model, "k");
    ASSERT_EQ(copies.bodies.size(), static_cast<std::size_t>(count + 1));
    const double one = volume(copies, "c0");
    EXPECT_NEAR(total(copies), 400000 + count * one, 1e-6) << way;
    EXPECT_NEAR(volume(model, "s0"), 400000 - count * one / 3, 1e-6) << way;
    EXPECT_EQ(model.find("s0")->shape().faceCount(), 6 + count) << way;
  }
}

TEST_P(SplitLaws, HalfOfASymmetricStudyAndItsMirrorAreTheWhole) {
  const std::vector<Step> steps{
      block("s0", "40", random.mm(10, 30), "10", {"-20", random.mm(-20, 0), "0"}),
      step("c0", "cylinder",
           {{"radius", Expression(random.mm(2, 6))}, {"height", Expression("40")}, {"at", point("0", "0", "-10")}})};
  const Step half = split({{"cutters", cutBy("yz")}, {"keep", text("front")}, {"everything", true}});
  BodyPick all;
  all.all = true;
  const Step mirror = step("m", "pattern", {{"bodies", all}, {"way", text("mirror")}});
  const Model halves = with(steps, {half}), whole = with(steps, {half, mirror});
  ASSERT_FALSE(whole.failed()) << errorOf(whole, "k") << errorOf(whole, "m");
  const double before = total(made(documentOf(steps)));
  EXPECT_NEAR(total(halves), before / 2, 1e-6);
  EXPECT_NEAR(total(whole), before, 1e-6);
  Box box;
  for (const Body& body : whole.bodies) box.add(body.shape().box());
  EXPECT_NEAR(box.low.x + box.high.x, 0, 1e-6);
}

INSTANTIATE_TEST_SUITE_P(Random, SplitLaws, testing::Range(1u, 7u));

}  // namespace
}  // namespace kervo
