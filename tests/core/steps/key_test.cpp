// Pieces keyed together: volumes of pegs and sockets, room for them, kerfs and slopes, and that nothing overlaps.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>
#include <random>

#include "geom/divide/boolean.h"
#include "geom/measure/thinnest_wall.h"
#include "model/document_edits.h"
#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;
using testing::Contains;
using testing::ElementsAre;
using testing::HasSubstr;
constexpr double pi = std::numbers::pi;
using Fields = std::map<std::string, FieldValue>;

double cylinder(double diameter, double height) {
  return pi * diameter * diameter / 4 * height;
}
double cone(double large, double small, double height) {
  return pi * height * (large * large + large * small + small * small) / 12;
}

std::vector<FaceReference> face(const char* body, const char* name) {
  return {{body, name, std::nullopt}};
}

/// Two blocks, one on the other or with a kerf between.
Model keyed(Fields fields, const char* gap = "0 mm", const char* width = "60 mm", const char* depth = "40 mm") {
  fields.emplace("faces", face("low", "low:top"));
  const std::string top = std::string("15 mm + ") + gap;
  return made(documentOf({block("low", width, depth, "15 mm"), block("high", width, depth, "15 mm", {"0", "0", top}),
                          step("k", "key", std::move(fields))}));
}
constexpr double half = 60.0 * 40 * 15;

TEST(KeyStep, PegsAndSocketsHaveTheirVolumes) {
  const Model model = keyed({});
  ASSERT_EQ(errorOf(model, "k"), "no error");
  // The pattern of two would fit the other way round as well: one is narrower.
  const double wide = cylinder(5, 7.5) + cone(5, 4, 0.5), narrow = cylinder(3.75, 7.5) + cone(3.75, 2.75, 0.5);
  EXPECT_NEAR(volume(model, "low"), half + wide + narrow, 1e-6 * half);
  EXPECT_NEAR(volume(model, "high"), half - cylinder(5.2, 8.5) - cylinder(3.95, 8.5), 1e-6 * half);
  EXPECT_THAT(report(model, "k").result->audit.notes,
              ElementsAre("2 round pegs, 5 mm wide, 8 mm deep", HasSubstr("one peg is 3.75 mm wide"),
                          "put together again, the pieces overlap nowhere"));
  for (const char* body : {"low", "high"})
    EXPECT_TRUE(model.find(body)->shape().valid() && model.find(body)->shape().watertight()) << body;
  const Model alike = keyed({{"unique", false}});
  ASSERT_EQ(errorOf(alike, "k"), "no error");
  EXPECT_NEAR(volume(alike, "low"), half + 2 * wide, 1e-6 * half);
}

TEST(KeyStep, BridgesAKerf) {
  const Model model = keyed({{"unique", false}}, "2 mm");
  ASSERT_EQ(errorOf(model, "k"), "no error");
  EXPECT_NEAR(volume(model, "low"), half + 2 * (cylinder(5, 9.5) + cone(5, 4, 0.5)), 1e-6 * half);
  EXPECT_NEAR(volume(model, "high"), half - 2 * cylinder(5.2, 8.5), 1e-6 * half);
}

TEST(KeyStep, TakesOtherFormsTapersAndLoosePins) {
  const Model square =
      keyed({{"form", text("square")}, {"unique", false}, {"tip", expression("0 mm")}, {"width", expression("6 mm")}});
  ASSERT_EQ(errorOf(square, "k"), "no error");
  EXPECT_NEAR(volume(square, "low"), half + 2 * 36.0 * 8, 1e-6 * half);
  EXPECT_NEAR(volume(square, "high"), half - 2 * 6.2 * 6.2 * 8.5, 1e-6 * half);
  const Model hexagonal = keyed({{"form", text("hexagonal")}, {"unique", false}, {"width", expression("6 mm")}});
  ASSERT_EQ(errorOf(hexagonal, "k"), "no error");
  const auto hexagon = [](double width) { return width * width * std::sqrt(3.0) / 2; };
  const double tip = 0.5 / 3 * (hexagon(6) + hexagon(5) + std::sqrt(hexagon(6) * hexagon(5)));
  EXPECT_NEAR(volume(hexagonal, "low"), half + 2 * (hexagon(6) * 7.5 + tip), 1e-6 * half);
  const Model taper = keyed({{"taper", expression("5 deg")}, {"unique", false}, {"tip", expression("0 mm")}});
  ASSERT_EQ(errorOf(taper, "k"), "no error");
  const double lean = 2 * std::tan(5 * pi / 180);
  EXPECT_NEAR(volume(taper, "low"), half + 2 * cone(5, 5 - 8 * lean, 8), 1e-6 * half);
  EXPECT_NEAR(volume(taper, "high"), half - 2 * cone(5.2, 5.2 - 8.5 * lean, 8.5), 1e-6 * half);
  const Model pins = keyed({{"pins", true}, {"unique", false}});
  ASSERT_EQ(errorOf(pins, "k"), "no error");
  for (const char* body : {"low", "high"})
    EXPECT_NEAR(volume(pins, body), half - 2 * cylinder(5.2, 8.5), 1e-6 * half) << body;
  EXPECT_NEAR(volume(pins, "k/1"), 2 * (cylinder(5, 7.5) + cone(5, 4, 0.5)), 1e-4);
  EXPECT_TRUE(pins.find("k/2"));
}

TEST(KeyStep, AsManyAsThereIsRoomFor) {
  const Model few = keyed({{"placing", text("as many as fit")}}, "0 mm", "20 mm", "20 mm");
  ASSERT_EQ(errorOf(few, "k"), "no error");
  const Model many = keyed({{"placing", text("as many as fit")}});
  ASSERT_EQ(errorOf(many, "k"), "no error");
  // Pegs need a square of 8.2 mm each at most: no more than 4 × 7 of them fit.
  EXPECT_LE(volume(many, "high"), half - 8 * cylinder(5.2, 8.5));
  EXPECT_GE(volume(many, "high"), half - 28 * cylinder(5.2, 8.5) - 1);
  EXPECT_THAT(errorOf(keyed({{"width", expression("39 mm")}}), "k"), HasSubstr("there is no room for a peg"));
  EXPECT_THAT(errorOf(keyed({{"depth", expression("14 mm")}}), "k"), HasSubstr("there is no room for a peg"));
  EXPECT_THAT(report(keyed({{"count", expression("99")}}), "k").result->audit.warnings,
              Contains(HasSubstr("there is room for")));
  EXPECT_THAT(report(keyed({{"count", expression("1")}}), "k").result->audit.warnings,
              ElementsAre("one round peg lets the pieces turn about it"));
}

TEST(KeyStep, IsNotInTheWayOfMeshes) {
  const auto with = [](Fields fields) {
    fields.emplace("faces", face("low", "low:top"));
    return made(documentOf({block("low", "60 mm", "40 mm", "15 mm"),
                            block("high", "60 mm", "40 mm", "15 mm", {"0", "0", "15 mm"}),
                            step("ball", "sphere", {{"radius", Expression("5 mm")}, {"at", point("200 mm", "0", "0")}}),
                            step("m", "make_mesh", {{"bodies", bodies({"ball"})}, {"tolerance", expression("0.1 mm")}}),
                            step("k", "key", std::move(fields))}));
  };
  EXPECT_EQ(errorOf(with({}), "k"), "no error");
  const Model chosen = with({{"mates", bodies({"high", "ball"})}});
  EXPECT_EQ(errorOf(chosen, "k"), "no error");
  EXPECT_EQ(report(chosen, "k").result->audit.touched, (std::vector<BodyId>{"low", "high"}));
}

TEST(KeyStep, RandomSplitsFitAndKeepTheirWalls) {
  std::mt19937 random(17);
  std::uniform_real_distribution<double> share(0, 1);
  const auto mm = [](double size) { return std::to_string(size) + " mm"; };
  int keyedSplits = 0;
  for (int round = 0; round < 40; ++round) {
    const double x = 50 + 40 * share(random), y = 30 + 30 * share(random), z = 40 + 30 * share(random);
    const double kerf = share(random) < 0.5 ? 0 : 0.2 + share(random);
    std::vector<Step> steps{
        block("b", mm(x), mm(y), mm(z)),
        step("s", "split",
             {{"stock", bodies({"b"})},
              {"cutters", std::vector<CutterPick>{CutterPick::of(PlanePick{PlanePick::Kind::Standard, "xy", {}})}},
              {"offset", expression(mm(z * (0.35 + 0.3 * share(random))))},
              {"kerf", expression(mm(kerf))}})};
    // A hole or two down through both, which pegs must keep clear of.
    if (share(random) < 0.7) {
      steps.insert(steps.begin() + 1, step("h", "cylinder",
                                           {{"radius", Expression(mm(3 + 4 * share(random)))},
                                            {"height", Expression(mm(z))},
                                            {"at", point(mm(x * (0.3 + 0.4 * share(random))), mm(y / 2), "0 mm")}}));
      steps.insert(
          steps.begin() + 2,
          step("u", "combine", {{"verb", text("subtract")}, {"stock", bodies({"b"})}, {"cutters", bodies({"h"})}}));
    }
    const Model before = made(documentOf(steps));
    ASSERT_FALSE(before.failed()) << round << errorOf(before, "s");
    std::vector<BodyId> pieces;
    for (const Body& body : before.bodies) pieces.push_back(body.id);
    ASSERT_EQ(pieces.size(), 2u) << round;
    // The cut face of the lower piece: it looks up, below the top.
    BodyId low;
    std::string name;
    for (const BodyId& piece : pieces)
      for (const Face& each : facesOf(before.find(piece)->shape()))
        if (each.normal().z > 0.99 && each.samplePoint().z < z - 1) {
          low = piece;
          name = each.origins().front();
        }
    const double wall = 1 + share(random);
    steps.push_back(step("k", "key",
                         {{"faces", std::vector<FaceReference>{{low, name, std::nullopt}}},
                          {"width", expression(mm(3 + 3 * share(random)))},
                          {"depth", expression(mm(4 + 5 * share(random)))},
                          {"wall", expression(mm(wall))},
                          {"tip", expression("0 mm")},
                          {"placing", text(share(random) < 0.5 ? "spread" : "as many as fit")}}));
    const Model model = made(documentOf(steps));
    if (report(model, "k").error) {
      EXPECT_THAT(errorOf(model, "k"), HasSubstr("no room")) << round;
      continue;
    }
    ++keyedSplits;
    EXPECT_THAT(report(model, "k").result->audit.notes, Contains("put together again, the pieces overlap nowhere"));
    Progress progress;
    EXPECT_TRUE(intersect({model.find(pieces[0])->shape(), model.find(pieces[1])->shape()}, progress).empty()) << round;
    for (const BodyId& piece : pieces) {
      const Shape& is = model.find(piece)->shape();
      EXPECT_TRUE(is.valid() && is.watertight()) << round;
      const auto thin = thinnestWall(before.find(piece)->shape(), {is}, wall - 1e-3, progress);
      EXPECT_FALSE(thin) << round << ": " << (thin ? thin->thickness : 0) << " for " << wall;
    }
  }
  EXPECT_GT(keyedSplits, 30);
}

}  // namespace
}  // namespace kervo
