// Bodies cut for a build size: pieces fit, volumes add up, pegs fit, planes go where the section is smallest, pieces
// lie on their best faces.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>
#include <random>

#include "geom/divide/boolean.h"
#include "geom/primitives.h"
#include "geom/surface/best_floor.h"
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

Model cutUp(std::vector<Step> steps, Fields fields) {
  fields.emplace("stock", bodies({"b"}));
  steps.push_back(step("k", "build_size", std::move(fields)));
  return made(documentOf(steps));
}
double sumOf(const Model& model) {
  double sum = 0;
  for (const Body& body : model.bodies) sum += body.form.volume();
  return sum;
}
Fields size(const char* x, const char* y, const char* z) {
  return {{"width", expression(x)}, {"depth", expression(y)}, {"height", expression(z)}};
}
Fields plus(Fields fields, const Fields& more) {
  fields.insert(more.begin(), more.end());
  return fields;
}

TEST(BuildSizeStep, PiecesFitAndAddUp) {
  const std::vector<Step> steps{block("b", "300 mm", "100 mm", "80 mm")};
  const Model model = cutUp(steps, plus(size("120 mm", "120 mm", "50 mm"), {{"keys", text("none")}}));
  ASSERT_EQ(errorOf(model, "k"), "no error");
  ASSERT_THAT(model.bodies, SizeIs(6u)) << "three along x, two along z";
  EXPECT_NEAR(sumOf(model), 300.0 * 100 * 80, 1e-3);
  for (const Body& body : model.bodies) {
    const Vector is = body.shape().box().high - body.shape().box().low;
    EXPECT_NEAR(is.x, 100, 1e-6);
    EXPECT_NEAR(is.y, 100, 1e-6);
    EXPECT_NEAR(is.z, 40, 1e-6);
  }
  EXPECT_THAT(report(model, "k").result->audit.notes, Contains(HasSubstr("piece 6: 100 × 100 × 40 mm, 400 cm³")));
  EXPECT_THAT(errorOf(cutUp(steps, size("300 mm", "300 mm", "300 mm")), "k"), HasSubstr("fits that size as it is"));
  EXPECT_THAT(errorOf(cutUp(steps, size("5 mm", "300 mm", "300 mm")), "k"), HasSubstr("pegs are as long"));
  EXPECT_THAT(errorOf(cutUp(steps, plus(size("2 mm", "300 mm", "300 mm"), {{"keys", text("none")}})), "k"),
              HasSubstr("150 pieces side by side"));
}

TEST(BuildSizeStep, PiecesAreKeyedAndStillFit) {
  const Model model = cutUp({block("b", "300 mm", "100 mm", "80 mm")}, size("120 mm", "120 mm", "120 mm"));
  ASSERT_EQ(errorOf(model, "k"), "no error");
  ASSERT_THAT(model.bodies, SizeIs(3u));
  // Two cuts with two pegs each, one of them narrower; sockets are wider by the clearance, and deeper by a tenth.
  const auto cone = [](double large, double small, double height) {
    return pi * height * (large * large + large * small + small * small) / 12;
  };
  const auto peg = [&](double width) { return pi * width * width / 4 * 5.5 + cone(width, width - 1, 0.5); };
  const auto socket = [](double width) { return pi * (width + 0.2) * (width + 0.2) / 4 * 6.5; };
  EXPECT_NEAR(sumOf(model), 300.0 * 100 * 80 + 2 * (peg(5) + peg(3.75) - socket(5) - socket(3.75)), 1e-2);
  Progress progress;
  for (std::size_t i = 0; i < 3; ++i) {
    EXPECT_LE(model.bodies[i].shape().box().high.x - model.bodies[i].shape().box().low.x, 120 + 1e-6);
    for (std::size_t k = 0; k < i; ++k)
      EXPECT_TRUE(intersect({model.bodies[i].shape(), model.bodies[k].shape()}, progress).empty());
  }
  EXPECT_THAT(report(model, "k").result->audit.notes.front(), HasSubstr("3 pieces, 4 pegs"));
}

TEST(BuildSizeStep, CutsWhereTheSectionIsSmallest) {
  // A waist right of the middle.
  const std::vector<Step> steps{
      block("b", "200 mm", "40 mm", "40 mm"), block("n", "10 mm", "40 mm", "30 mm", {"107 mm", "0", "10 mm"}),
      step("s", "combine", {{"verb", text("subtract")}, {"stock", bodies({"b"})}, {"cutters", bodies({"n"})}})};
  const Fields wanted = plus(size("124 mm", "200 mm", "200 mm"), {{"keys", text("none")}});
  const auto cutAt = [](const Model& model) {
    double at = 0;
    for (const Body& body : model.bodies)
      if (body.shape().box().low.x < 1) at = body.shape().box().high.x;
    return at;
  };
  EXPECT_NEAR(cutAt(cutUp(steps, wanted)), 100, 1e-6);
  const Model model = cutUp(steps, plus(wanted, {{"planes", text("smallest section")}}));
  ASSERT_EQ(errorOf(model, "k"), "no error");
  EXPECT_GT(cutAt(model), 107);
  EXPECT_LT(cutAt(model), 112 + 1e-6);
}

TEST(BuildSizeStep, PiecesAreLaidOnTheirBestFaces) {
  // A hat: it lies best on its brim's other side.
  Progress progress;
  const Shape hat =
      unite({makeBlock("brim", {}, 60, 60, 5), makeBlock("top", Plane::through({15, 15, -30}, {0, 0, 1}), 30, 30, 31)},
            progress)
          .shape;
  EXPECT_GT(bestFloor(hat).normal.z, 0.99) << "the brim looks up: there it is to lie";
  const Model model = cutUp({block("b", "300 mm", "40 mm", "80 mm")},
                            plus(size("120 mm", "120 mm", "120 mm"), {{"keys", text("none")}, {"lay", true}}));
  ASSERT_EQ(errorOf(model, "k"), "no error");
  double right = -1;
  for (const Body& body : model.bodies) {
    const Box box = body.shape().box();
    EXPECT_NEAR(box.low.z, 0, 1e-6);
    EXPECT_NEAR(box.high.z, 40, 1e-6) << "100 × 80 is its largest side";
    EXPECT_GT(box.low.x, right);
    right = box.high.x;
  }
}

TEST(BuildSizeStep, RandomBodiesAddUp) {
  std::mt19937 random(8);
  std::uniform_real_distribution<double> share(0, 1);
  const auto mm = [](double value) { return std::to_string(value) + " mm"; };
  for (int round = 0; round < 12; ++round) {
    const double x = 100 + 150 * share(random), y = 60 + 60 * share(random), z = 50 + 60 * share(random);
    std::vector<Step> steps{
        block("b", mm(x), mm(y), mm(z)),
        step("c", "cylinder",
             {{"radius", Expression(mm(8 + 10 * share(random)))},
              {"height", Expression(mm(z))},
              {"at", point(mm(x * share(random)), mm(y * share(random)), "0 mm")}}),
        step("s", "combine", {{"verb", text("subtract")}, {"stock", bodies({"b"})}, {"cutters", bodies({"c"})}})};
    const Model before = made(documentOf(steps));
    ASSERT_FALSE(before.failed()) << round;
    const double limit = 60 + 30 * share(random);
    const Model plain =
        cutUp(steps, plus(size(mm(limit).c_str(), mm(limit).c_str(), mm(limit).c_str()), {{"keys", text("none")}}));
    ASSERT_EQ(errorOf(plain, "k"), "no error") << round;
    EXPECT_NEAR(sumOf(plain), sumOf(before), 1e-6 * sumOf(before)) << round;
    const Model keyed = cutUp(steps, size(mm(limit).c_str(), mm(limit).c_str(), mm(limit).c_str()));
    ASSERT_EQ(errorOf(keyed, "k"), "no error") << round;
    EXPECT_GE(keyed.bodies.size(), plain.bodies.size());
    for (const Body& body : keyed.bodies) {
      const Vector is = body.shape().box().high - body.shape().box().low;
      EXPECT_LE(std::max({is.x, is.y, is.z}), limit + 1e-6) << round;
      EXPECT_TRUE(body.shape().watertight() && body.shape().valid()) << round;
    }
  }
}

TEST(BuildSizeStep, PiecesAreNumberedOnTheirCutFaces) {
  const std::vector<Step> steps{block("b", "300 mm", "40 mm", "80 mm")};
  const Fields wanted = plus(size("120 mm", "120 mm", "120 mm"), {{"number", true}});
  const Model model = cutUp(steps, wanted), plain = cutUp(steps, size("120 mm", "120 mm", "120 mm"));
  ASSERT_EQ(errorOf(model, "k"), "no error");
  ASSERT_THAT(model.bodies, SizeIs(3u));
  const double missing = sumOf(plain) - sumOf(model);
  EXPECT_GT(missing, 3 * 0.5 * 5) << "each number takes a few square millimetres, half a millimetre deep";
  EXPECT_LT(missing, 3 * 0.5 * 60);
  for (const Body& body : model.bodies) {
    std::size_t floors = 0;
    for (const Face& face : facesOf(body.shape()))
      if (face.origins().front().starts_with("k:number") && face.plane()) {
        ++floors;
        const Point at = face.middle();
        EXPECT_GT(at.x, 99) << "on no outer side";
        EXPECT_LT(at.x, 201);
      }
    EXPECT_GT(floors, 0u) << body.id.text();
    EXPECT_TRUE(body.shape().valid());
  }
  const Model thin = cutUp({block("b", "300 mm", "2 mm", "80 mm")},
                           plus(size("120 mm", "120 mm", "120 mm"), {{"number", true}, {"keys", text("none")}}));
  ASSERT_EQ(errorOf(thin, "k"), "no error") << "on a side, where cut faces are too narrow";
}

}  // namespace
}  // namespace kervo
