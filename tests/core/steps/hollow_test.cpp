// Hollow bodies: volumes by formulas, walls on every side, open faces that are tangent to rounds, drains, and what is
// refused with the largest wall that works.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>
#include <random>

#include "geom/measure/crossings.h"
#include "geom/openings/openings.h"
#include "model/document_edits.h"
#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;
using testing::Contains;
using testing::HasSubstr;
constexpr double pi = std::numbers::pi;
using Fields = std::map<std::string, FieldValue>;

std::vector<FaceReference> faces(std::initializer_list<const char*> names, const char* body = "b") {
  std::vector<FaceReference> result;
  for (const char* name : names) result.push_back({body, name, std::nullopt});
  return result;
}

Model hollowed(std::vector<Step> steps, Fields fields, const char* body = "b") {
  fields.emplace("stock", bodies({body}));
  steps.push_back(step("h", "hollow", std::move(fields)));
  return made(documentOf(steps));
}

const std::vector<Step> box{block("b", "60 mm", "40 mm", "30 mm")};
constexpr double boxVolume = 60.0 * 40 * 30;

/// A block with all edges rounded.
std::vector<Step> rounded(const char* radius) {
  return {block("b", "60 mm", "40 mm", "30 mm"),
          step("r", "round",
               {{"around", faces({"b:top", "b:bottom", "b:left", "b:right"})}, {"radius", expression(radius)}})};
}
/// Of a block of those sizes with all edges rounded.
double roundedVolume(double x, double y, double z, double r) {
  const double a = x - 2 * r, b = y - 2 * r, c = z - 2 * r;
  return a * b * c + 2 * r * (a * b + b * c + c * a) + pi * r * r * (a + b + c) + 4.0 / 3 * pi * r * r * r;
}

TEST(HollowStep, LeavesWallsOfABlock) {
  const Model closed = hollowed(box, {{"wall", expression("3 mm")}});
  ASSERT_EQ(errorOf(closed, "h"), "no error");
  EXPECT_NEAR(volume(closed, "b"), boxVolume - 54.0 * 34 * 24, 1e-6);
  const Model open = hollowed(box, {{"wall", expression("3 mm")}, {"open", faces({"b:top"})}});
  ASSERT_EQ(errorOf(open, "h"), "no error");
  EXPECT_NEAR(volume(open, "b"), boxVolume - 54.0 * 34 * 27, 1e-6);
  EXPECT_TRUE(open.find("b")->shape().valid() && open.find("b")->shape().watertight());
  EXPECT_THAT(report(open, "h").result->audit.notes, Contains(HasSubstr("its wall is 3 to 3 mm thick")));
  EXPECT_NEAR(report(open, "h").result->audit.balance, 0, 1e-6 * boxVolume);
  const Model two = hollowed(box, {{"wall", expression("3 mm")}, {"open", faces({"b:top", "b:front"})}});
  ASSERT_EQ(errorOf(two, "h"), "no error");
  EXPECT_NEAR(volume(two, "b"), boxVolume - 54.0 * 37 * 27, 1e-6);
}

TEST(HollowStep, WallsGoOutsideOrHalfAndHalfAndDifferByFace) {
  const Model outside =
      hollowed(box, {{"wall", expression("3 mm")}, {"side", text("outside")}, {"open", faces({"b:top"})}});
  ASSERT_EQ(errorOf(outside, "h"), "no error");
  EXPECT_NEAR(volume(outside, "b"), 66.0 * 46 * 33 - boxVolume, 1e-5);
  const Model centred =
      hollowed(box, {{"wall", expression("3 mm")}, {"side", text("centred")}, {"open", faces({"b:top"})}});
  ASSERT_EQ(errorOf(centred, "h"), "no error");
  EXPECT_NEAR(volume(centred, "b"), 63.0 * 43 * 31.5 - 57.0 * 37 * 28.5, 1e-5);
  const Model other = hollowed(box, {{"wall", expression("3 mm")},
                                     {"open", faces({"b:top"})},
                                     {"other_faces", faces({"b:bottom", "b:left"})},
                                     {"other_wall", expression("8 mm")}});
  ASSERT_EQ(errorOf(other, "h"), "no error");
  EXPECT_NEAR(volume(other, "b"), boxVolume - 49.0 * 34 * 22, 1e-6);
}

TEST(HollowStep, TakesRoundBodies) {
  const std::vector<Step> can{
      step("b", "cylinder", {{"radius", Expression("20 mm")}, {"height", Expression("50 mm")}})};
  const Model open = hollowed(can, {{"wall", expression("2 mm")}, {"open", faces({"b:top"})}});
  ASSERT_EQ(errorOf(open, "h"), "no error");
  EXPECT_NEAR(volume(open, "b"), pi * (400.0 * 50 - 324 * 48), 1e-6);
  const std::vector<Step> cup{step(
      "b", "cone", {{"bottom", Expression("10 mm")}, {"top", Expression("30 mm")}, {"height", Expression("40 mm")}})};
  const Model conical = hollowed(cup, {{"wall", expression("2 mm")}, {"open", faces({"b:top"})}});
  ASSERT_EQ(errorOf(conical, "h"), "no error");
  // The slope is 1 to 2: the wall takes 2·√5/2 of the radius, everywhere.
  const double thick = std::sqrt(5.0), low = 10 + 1 - thick, high = 30 - thick;
  const auto frustum = [](double a, double b, double h) { return pi * h * (a * a + a * b + b * b) / 3; };
  EXPECT_NEAR(volume(conical, "b"), frustum(10, 30, 40) - frustum(low, high, 38), 1e-5);
  const std::vector<Step> ball{step("b", "sphere", {{"radius", Expression("25 mm")}})};
  const Model shell = hollowed(ball, {{"wall", expression("4 mm")}});
  ASSERT_EQ(errorOf(shell, "h"), "no error");
  EXPECT_NEAR(volume(shell, "b"), 4.0 / 3 * pi * (15625 - 9261), 1e-5);
}

TEST(HollowStep, TakesRoundsThatAreSmallerAndLargerThanTheWall) {
  const Model body = made(documentOf(rounded("5 mm")));
  ASSERT_EQ(errorOf(body, "r"), "no error");
  const double whole = roundedVolume(60, 40, 30, 5);
  ASSERT_NEAR(volume(body, "b"), whole, 1e-6 * whole);
  const Model thin = hollowed(rounded("5 mm"), {{"wall", expression("2 mm")}});
  ASSERT_EQ(errorOf(thin, "h"), "no error");
  EXPECT_NEAR(volume(thin, "b"), whole - roundedVolume(56, 36, 26, 3), 1e-6 * whole);
  // Thicker than the rounds are large: inside it is sharp.
  const Model thick = hollowed(rounded("5 mm"), {{"wall", expression("6 mm")}});
  ASSERT_EQ(errorOf(thick, "h"), "no error");
  EXPECT_NEAR(volume(thick, "b"), whole - 48.0 * 28 * 18, 1e-6 * whole);
  EXPECT_THAT(report(thick, "h").result->audit.notes, Contains(HasSubstr("sharp inside")));
  // An open face that meets rounds smoothly all round.
  const Model open = hollowed(rounded("5 mm"), {{"wall", expression("2 mm")}, {"open", faces({"b:top"})}});
  ASSERT_EQ(errorOf(open, "h"), "no error");
  const Shape& shape = open.find("b")->shape();
  EXPECT_TRUE(shape.valid() && shape.watertight());
  // The flat top, 50 × 30, is cut through down to the space.
  EXPECT_NEAR(shape.volume(), whole - roundedVolume(56, 36, 26, 3) - 50.0 * 30 * 2, 1e-6 * whole);
}

TEST(HollowStep, IsDrainedWhereItIsLowest) {
  const Model flat =
      hollowed(box, {{"wall", expression("3 mm")}, {"drains", expression("2")}, {"drain", expression("4 mm")}});
  ASSERT_EQ(errorOf(flat, "h"), "no error");
  EXPECT_NEAR(volume(flat, "b"), boxVolume - 54.0 * 34 * 24 - 2 * pi * 4 * 3, 1e-5);
  for (const Opening& each : openingsOf(flat.find("b")->shape())) EXPECT_NEAR(each.frame.origin.z, 0, 1e-6);
  const Model up = hollowed(box, {{"wall", expression("3 mm")}, {"drains", expression("1")}, {"down", text("x")}});
  ASSERT_EQ(errorOf(up, "h"), "no error");
  const std::vector<Opening> openings = openingsOf(up.find("b")->shape());
  ASSERT_EQ(openings.size(), 1u);
  EXPECT_NEAR(openings[0].frame.origin.x, 60, 1e-6);
  // Of a ball, at the bottom.
  const std::vector<Step> ball{step("b", "sphere", {{"radius", Expression("25 mm")}})};
  const Model shell = hollowed(ball, {{"wall", expression("4 mm")}, {"drains", expression("1")}});
  ASSERT_EQ(errorOf(shell, "h"), "no error");
  // What a cylinder of radius a cuts of a sphere's half: 2/3·π·(R³ − (R² − a²)^(3/2)).
  const auto cap = [](double r) { return 2.0 / 3 * pi * (r * r * r - std::pow(r * r - 4, 1.5)); };
  EXPECT_NEAR(volume(shell, "b"), 4.0 / 3 * pi * (15625 - 9261) - (cap(25) - cap(21)), 0.02);
  EXPECT_THAT(
      errorOf(
          hollowed(box, {{"wall", expression("3 mm")}, {"drains", expression("9")}, {"drain", expression("16 mm")}}),
          "h"),
      HasSubstr("there is room for"));
}

TEST(HollowStep, IsDrainedWhereItIsDrawn) {
  const auto drained = [](const PlanePick& plane, std::vector<DrawnCurve> circles, Fields fields = {}) {
    std::vector<Step> steps = box;
    steps.push_back(drawing("d", plane, std::move(circles)));
    fields["wall"] = expression("3 mm");
    fields["drawn_drains"] = allOf("d");
    return hollowed(steps, fields);
  };
  const double shell = boxVolume - 54.0 * 34 * 24;
  // From the top, through that wall only, with one at the lowest place besides.
  const Model top =
      drained(onFace("b", "b:top"), {circle("a", "20 mm", "20 mm", "3 mm"), circle("c", "40 mm", "20 mm", "2 mm")},
              {{"drains", expression("1")}, {"drain", expression("8 mm")}});
  ASSERT_EQ(errorOf(top, "h"), "no error");
  EXPECT_NEAR(volume(top, "b"), shell - pi * (9 + 4 + 16) * 3, 1e-5);
  int up = 0;
  for (const Opening& each : openingsOf(top.find("b")->shape())) up += each.frame.origin.z > 15 ? 1 : 0;
  EXPECT_EQ(up, 2);
  // From a plane amid the space, the wall that is nearer.
  const Model amid = drained(PlanePick::atHeight(Expression("10 mm")), {circle("a", "30 mm", "20 mm", "3 mm")});
  ASSERT_EQ(errorOf(amid, "h"), "no error");
  const std::vector<Opening> openings = openingsOf(amid.find("b")->shape());
  ASSERT_EQ(openings.size(), 1u);
  EXPECT_LT(openings[0].frame.origin.z, 15);
  // Where its rim would not lie in the wall, or there is none.
  EXPECT_THAT(errorOf(drained(onFace("b", "b:top"), {circle("a", "4 mm", "20 mm", "3 mm")}), "h"),
              HasSubstr("a hole at \"a\" would not lie in one wall"));
  EXPECT_THAT(errorOf(drained(onFace("b", "b:top"), {circle("a", "90 mm", "20 mm", "3 mm")}), "h"),
              HasSubstr("would not lie in one wall"));
}

TEST(HollowStep, SaysWhichWallWorks) {
  const std::string error = errorOf(hollowed(box, {{"wall", expression("16 mm")}}), "h");
  EXPECT_THAT(error, HasSubstr("cannot be hollowed out with a wall of 16 mm"));
  EXPECT_THAT(error, HasSubstr("A wall of 14")) << "half of 30 less a little";
  EXPECT_THAT(errorOf(hollowed(box, {{"open", faces({"other:top"}, "other")}}), "h"), HasSubstr("other"));
}

TEST(HollowStep, OfRandomBodiesHasItsWallOnEveryRay) {
  std::mt19937 random(11);
  std::uniform_real_distribution<double> share(0, 1);
  const auto mm = [](double size) { return std::to_string(size) + " mm"; };
  int made_ = 0, thick = 0;
  for (int round = 0; round < 30; ++round) {
    // A block with a boss, a notch and a hole, or some of them.
    const double x = 50 + 30 * share(random), y = 40 + 30 * share(random), z = 25 + 15 * share(random),
                 wall = 1 + 2 * share(random);
    std::vector<Step> steps{block("b", mm(x), mm(y), mm(z))};
    if (share(random) < 0.6) {
      steps.push_back(step("boss", "cylinder",
                           {{"radius", Expression(mm(6 + 4 * share(random)))},
                            {"height", Expression(mm(z + 5 + 10 * share(random)))},
                            {"at", point(mm(x / 2), mm(y / 2), "0 mm")}}));
      steps.push_back(
          step("u", "combine", {{"verb", text("union")}, {"stock", bodies({"b"})}, {"cutters", bodies({"boss"})}}));
    }
    if (share(random) < 0.6) {
      steps.push_back(
          block("n", mm(15 + 3 * share(random)), mm(12 + 3 * share(random)), mm(z + 2), {"-1 mm", "-1 mm", "-1 mm"}));
      steps.push_back(
          step("s", "combine", {{"verb", text("subtract")}, {"stock", bodies({"b"})}, {"cutters", bodies({"n"})}}));
    }
    const bool open = share(random) < 0.5;
    Fields fields{{"wall", expression(mm(wall))}};
    if (open) fields["open"] = faces({"b:bottom"});
    const Model before = made(documentOf(steps));
    ASSERT_FALSE(before.failed()) << round;
    const Model model = hollowed(steps, fields);
    ASSERT_EQ(errorOf(model, "h"), "no error") << round;
    ++made_;
    const Shape& shell = model.find("b")->shape();
    ASSERT_TRUE(shell.valid() && shell.watertight()) << round;
    EXPECT_LT(shell.volume(), before.find("b")->shape().volume());
    // Along rays through it, no stretch of material is thinner than the wall, within 1e-3.
    const Crossings rays(shell);
    const Point middle = shell.roughBox().centre();
    for (int i = 0; i < 20; ++i) {
      const double turn = 2 * pi * share(random), rise = 2 * share(random) - 1, flat = std::sqrt(1 - rise * rise);
      const std::vector<LineCrossing> met = rays.along(middle, {flat * std::cos(turn), flat * std::sin(turn), rise});
      // The rim of the open face is no wall: there a ray may leave earlier.
      const auto onRim = [&](const LineCrossing& each) { return open && middle.z + rise * each.at < 1e-6; };
      for (std::size_t k = 0; k + 1 < met.size(); ++k)
        if (!met[k].out && met[k + 1].out && !onRim(met[k]) && !onRim(met[k + 1])) {
          ++thick;
          EXPECT_GT(met[k + 1].at - met[k].at, wall - 1e-3) << round;
        }
    }
  }
  EXPECT_EQ(made_, 30);
  EXPECT_GT(thick, 500);
}

TEST(HollowStep, TakesMeshesToo) {
  // A ball of triangles: what lies deeper than the wall is a ball again.
  const std::vector<Step> ball{
      step("e", "sphere", {{"radius", Expression("25 mm")}}),
      step("b", "make_mesh", {{"bodies", bodies({"e"})}, {"tolerance", expression("0.05 mm")}})};
  const Model before = made(documentOf(ball));
  ASSERT_FALSE(before.failed()) << errorOf(before, "b");
  const char* body = "e";
  const double whole = before.find(body)->form.volume();
  const Model shell = hollowed(ball, {{"wall", expression("4 mm")}}, body);
  ASSERT_EQ(errorOf(shell, "h"), "no error");
  const Mesh* mesh = shell.find(body)->form.mesh();
  ASSERT_TRUE(mesh);
  EXPECT_TRUE(mesh->watertight());
  const double space = 4.0 / 3 * pi * 9261;
  EXPECT_NEAR(whole - shell.find(body)->form.volume(), space, 6e-3 * space);
  EXPECT_GT(mesh->tolerance(), 0) << "it does not pretend to be exact";
  EXPECT_LT(mesh->tolerance(), 0.1);
  const Model drained =
      hollowed(ball, {{"wall", expression("4 mm")}, {"drains", expression("2")}, {"drain", expression("3 mm")}}, body);
  ASSERT_EQ(errorOf(drained, "h"), "no error");
  EXPECT_NEAR(shell.find(body)->form.volume() - drained.find(body)->form.volume(), 2 * pi * 2.25 * 4, 2);
  const Model outside = hollowed(ball, {{"wall", expression("4 mm")}, {"side", text("outside")}}, body);
  ASSERT_EQ(errorOf(outside, "h"), "no error");
  EXPECT_NEAR(outside.find(body)->form.volume(), 4.0 / 3 * pi * 29 * 29 * 29 - whole,
              4e-3 * 4.0 / 3 * pi * 29 * 29 * 29);
  EXPECT_THAT(errorOf(hollowed(ball, {{"wall", expression("26 mm")}}, body), "h"),
              HasSubstr("nothing of it lies deeper than a wall of 26 mm"));
}

TEST(HollowStep, MeshesWithInnerCornersKeepTheirWall) {
  const std::vector<Step> steps{
      block("e", "60 mm", "40 mm", "30 mm"), block("n", "30 mm", "20 mm", "40 mm", {"30 mm", "20 mm", "-1 mm"}),
      step("s", "combine", {{"verb", text("subtract")}, {"stock", bodies({"e"})}, {"cutters", bodies({"n"})}}),
      step("m", "make_mesh", {{"bodies", bodies({"e"})}, {"tolerance", expression("0.1 mm")}})};
  const Model model = hollowed(steps, {{"wall", expression("3 mm")}}, "e");
  ASSERT_EQ(errorOf(model, "h"), "no error");
  const Shape shell(*model.find("e")->form.mesh());
  ASSERT_TRUE(shell.watertight());
  // Inside, the corner that looks in is round: its radius is the wall.
  const double corner = 9 - pi * 9 / 4, space = (54.0 * 34 - 30 * 20 + corner) * 24;
  EXPECT_NEAR(60.0 * 40 * 30 - 30 * 20 * 30 - shell.volume(), space, 0.02 * space);
  const Crossings rays(shell);
  std::mt19937 random(3);
  std::uniform_real_distribution<double> share(0, 1);
  for (int i = 0; i < 100; ++i) {
    const double turn = 2 * pi * share(random), rise = 2 * share(random) - 1, flat = std::sqrt(1 - rise * rise);
    const std::vector<LineCrossing> met =
        rays.along({15, 10, 15}, {flat * std::cos(turn), flat * std::sin(turn), rise});
    for (std::size_t k = 0; k + 1 < met.size(); ++k)
      if (!met[k].out && met[k + 1].out) {
        EXPECT_GT(met[k + 1].at - met[k].at, 3 - 0.06) << i;
      }
  }
}

}  // namespace
}  // namespace kervo
