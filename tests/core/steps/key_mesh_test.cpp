// Keys between meshes, and meshes cut for a build size: pegs by a plane, volumes, fits, floors and numbers.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

#include "model/document_edits.h"
#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;
using testing::Contains;
using testing::HasSubstr;
using testing::SizeIs;
constexpr double pi = std::numbers::pi;
using Fields = std::map<std::string, FieldValue>;

/// A ball of 30 mm as a mesh, split at its middle.
std::vector<Step> halves() {
  return {step("b", "sphere", {{"radius", expression("30 mm")}}),
          step("m", "make_mesh", {{"bodies", bodies({"b"})}, {"tolerance", expression("0.1 mm")}}),
          step("s", "split", {{"stock", bodies({"b"})}, {"cutters", cutBy("xy")}})};
}
double sumOf(const Model& model) {
  double sum = 0;
  for (const Body& body : model.bodies) sum += body.form.volume();
  return sum;
}

TEST(KeyOfMeshes, PegsStandInAPlane) {
  std::vector<Step> steps = halves();
  const Model before = made(documentOf(steps));
  ASSERT_EQ(errorOf(before, "s"), "no error");
  ASSERT_THAT(before.bodies, SizeIs(2u));
  steps.push_back(step("k", "key", {{"on", text("a plane")}, {"unique", false}, {"tip", expression("0")}}));
  const Model model = made(documentOf(steps));
  ASSERT_EQ(errorOf(model, "k"), "no error");
  ASSERT_THAT(model.bodies, SizeIs(2u));
  // Two pegs of 5 by 8, sockets of 5.2 by 8.5; as finely meshed as parts are.
  const double peg = 2 * pi * 6.25 * 8, socket = 2 * pi * 2.6 * 2.6 * 8.5;
  EXPECT_NEAR(sumOf(model) - sumOf(before), peg - socket, 0.02 * socket);
  for (const Body& body : model.bodies) EXPECT_TRUE(body.form.mesh() && body.form.mesh()->watertight());
  EXPECT_THAT(report(model, "k").result->audit.notes, Contains(HasSubstr("overlap nowhere")));
}

TEST(KeyOfMeshes, WallsAreKept) {
  std::vector<Step> steps = halves();
  // Wider than the ball has room for beside its middle.
  steps.push_back(step("k", "key", {{"on", text("a plane")}, {"wall", expression("20 mm")}}));
  const Model one = made(documentOf(steps));
  EXPECT_THAT(report(one, "k").result->audit.warnings, Contains(HasSubstr("room for 1 peg only")));
  steps.back() = step("k", "key", {{"on", text("a plane")}, {"wall", expression("28 mm")}});
  EXPECT_THAT(errorOf(made(documentOf(steps)), "k"), HasSubstr("no room for a peg"));
}

TEST(KeyOfMeshes, ExactBodiesByAPlaneAsByAFace) {
  const std::vector<Step> steps{block("low", "60 mm", "40 mm", "15 mm"),
                                block("high", "60 mm", "40 mm", "15 mm", {"0", "0", "15 mm"})};
  const auto keyed = [&](Fields fields) {
    std::vector<Step> all = steps;
    all.push_back(step("k", "key", std::move(fields)));
    return made(documentOf(all));
  };
  const Model face = keyed({{"faces", std::vector<FaceReference>{{"low", "low:top", std::nullopt}}}});
  const Model plane = keyed({{"on", text("a plane")}, {"plane", PlanePick::atHeight(Expression("15 mm"))}});
  ASSERT_EQ(errorOf(plane, "k"), "no error");
  for (const char* body : {"low", "high"}) EXPECT_NEAR(volume(plane, body), volume(face, body), 1e-6) << body;
}

TEST(BuildSizeOfMeshes, PiecesFitAndAddUp) {
  std::vector<Step> steps = halves();
  steps.pop_back();
  const double whole = sumOf(made(documentOf(steps)));
  Fields fields{{"stock", bodies({"b"})},
                {"width", expression("40 mm")},
                {"depth", expression("90 mm")},
                {"height", expression("90 mm")}};
  const auto cut = [&](const Fields& more) {
    Fields all = fields;
    for (const auto& [key, value] : more) all.insert_or_assign(key, value);
    std::vector<Step> with = steps;
    with.push_back(step("k", "build_size", all));
    return made(documentOf(with));
  };
  const Model plain = cut({{"keys", text("none")}});
  ASSERT_EQ(errorOf(plain, "k"), "no error");
  ASSERT_THAT(plain.bodies, SizeIs(2u));
  EXPECT_NEAR(sumOf(plain), whole, 1e-3);
  const Model model = cut({{"lay", true}, {"number", true}});
  ASSERT_EQ(errorOf(model, "k"), "no error");
  ASSERT_THAT(model.bodies, SizeIs(2u));
  EXPECT_THAT(report(model, "k").result->audit.notes, Contains(HasSubstr("2 pieces, 2 pegs")));
  for (const Body& body : model.bodies) {
    const Box box = body.form.box();
    EXPECT_NEAR(box.low.z, 0, 1e-6);
    EXPECT_TRUE(body.form.mesh()->watertight());
  }
  // The one with the sockets lies on its cut face; the other one cannot, for its pegs.
  EXPECT_NEAR(std::min(model.bodies[0].form.box().high.z, model.bodies[1].form.box().high.z), 30, 0.1);
  // Two numbers, half a millimetre deep, are all that is missing beside the sockets' room.
  const double sockets = cut({{"lay", true}}).bodies.empty() ? 0 : sumOf(cut({{"lay", true}})) - sumOf(model);
  EXPECT_GT(sockets, 2 * 0.5 * 5);
  EXPECT_LT(sockets, 2 * 0.5 * 60);
}

TEST(BuildSizeOfMeshes, AtTheSmallestSection) {
  std::vector<Step> steps{
      block("b", "200 mm", "40 mm", "40 mm"), block("n", "10 mm", "40 mm", "30 mm", {"107 mm", "0", "10 mm"}),
      step("c", "combine", {{"verb", text("subtract")}, {"stock", bodies({"b"})}, {"cutters", bodies({"n"})}}),
      step("m", "make_mesh", {{"bodies", bodies({"b"})}}),
      step("k", "build_size",
           {{"stock", bodies({"b"})},
            {"width", expression("124 mm")},
            {"keys", text("none")},
            {"planes", text("smallest section")}})};
  const Model model = made(documentOf(steps));
  ASSERT_EQ(errorOf(model, "k"), "no error");
  ASSERT_THAT(model.bodies, SizeIs(2u));
  const double at = std::min(model.bodies[0].form.box().high.x, model.bodies[1].form.box().high.x);
  EXPECT_GT(at, 107);
  EXPECT_LT(at, 112 + 1e-6);
}

}  // namespace
}  // namespace kervo
