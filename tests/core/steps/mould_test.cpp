// Moulds: halves and hollow make up the block, shrinkage, undercuts by known areas, partings along silhouettes.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

#include "geom/divide/boolean.h"
#include "geom/planes.h"
#include "model/document_edits.h"
#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;
using testing::Contains;
using testing::ElementsAre;
using testing::HasSubstr;
using testing::IsEmpty;
using testing::SizeIs;
constexpr double pi = std::numbers::pi;
using Fields = std::map<std::string, FieldValue>;

/// With walls of 10 mm all round and no pegs, unless said otherwise.
Model mould(std::vector<Step> steps, Fields fields) {
  fields.emplace("bodies", bodies({"b"}));
  fields.emplace("pegs", expression("0"));
  for (const char* wall : {"wall", "above", "below"}) fields.emplace(wall, expression("10 mm"));
  steps.push_back(step("m", "mould", std::move(fields)));
  return made(documentOf(steps));
}
double volumeOf(const Model& model, const char* half) {
  return volume(model, BodyId(std::string("m/") + half));
}
const Audit& auditOf(const Model& model) {
  return report(model, "m").result->audit;
}
Step ball(const char* radius) {
  return step("b", "sphere", {{"radius", expression(radius)}});
}

TEST(MouldStep, HalvesAndHollowMakeUpTheBlock) {
  const Model model = mould({ball("20 mm")}, {});
  ASSERT_EQ(errorOf(model, "m"), "no error");
  const double half = (60.0 * 60 * 60 - 4 * pi * 8000 / 3) / 2;
  EXPECT_NEAR(volumeOf(model, "front"), half, 1e-3);
  EXPECT_NEAR(volumeOf(model, "back"), half, 1e-3);
  EXPECT_NEAR(volume(model, "b"), 4 * pi * 8000 / 3, 1e-3) << "the body stays";
  EXPECT_THAT(auditOf(model).notes, Contains(HasSubstr("block of 60 × 60 × 60 mm, the hollow takes 33.5103 cm³")));
  EXPECT_THAT(auditOf(model).notes, Contains(HasSubstr("Front half: no undercuts")));
  EXPECT_THAT(auditOf(model).warnings, IsEmpty());
}

TEST(MouldStep, TheHollowIsLargerByWhatShrinks) {
  const Model model = mould({block("b", "40 mm", "30 mm", "20 mm")}, {{"shrinks", expression("2")}});
  ASSERT_EQ(errorOf(model, "m"), "no error");
  const double k = 1 / 0.98, hollow = 40 * 30 * 20 * k * k * k;
  const double whole = (40 * k + 20) * (30 * k + 20) * (20 * k + 20);
  EXPECT_NEAR(volumeOf(model, "front") + volumeOf(model, "back"), whole - hollow, 1e-4);
  EXPECT_NEAR(volumeOf(model, "back"), (40 * k + 20) * (30 * k + 20) * 10, 1e-4) << "parted at the body's own floor";
  EXPECT_THAT(errorOf(mould({ball("20 mm")}, {{"shrinks", expression("60")}}), "m"), HasSubstr("more than half"));
}

TEST(MouldStep, UndercutsAreCountedAndShown) {
  // Parted 5 mm over its middle, a ball's zone of that height holds the half below.
  const Model model = mould({ball("20 mm")}, {{"offset", expression("5 mm")}});
  ASSERT_EQ(errorOf(model, "m"), "no error");
  ASSERT_THAT(auditOf(model).warnings, ElementsAre(HasSubstr("Back half: undercuts of 62")));
  EXPECT_NEAR(2 * pi * 20 * 5, 628.3, 0.1);
  EXPECT_THAT(auditOf(model).notes, Contains(HasSubstr("Front half: no undercuts")));
  EXPECT_GT(report(model, "m").finding->gap.size(), 20u);

  // A slot across a block: its roof, of flat faces, exactly.
  const std::vector<Step> slotted{
      block("w", "40 mm", "30 mm", "20 mm"), block("n", "20 mm", "10 mm", "4 mm", {"10 mm", "0", "8 mm"}),
      step("b", "combine", {{"verb", text("subtract")}, {"stock", bodies({"w"})}, {"cutters", bodies({"n"})}})};
  const Model slot = mould(slotted, {{"bodies", bodies({"w"})}});
  ASSERT_EQ(errorOf(slot, "m"), "no error");
  EXPECT_THAT(auditOf(slot).warnings, ElementsAre(HasSubstr("Front half: undercuts of 200 mm²")));
}

TEST(MouldStep, WallsThatLeanTooLittleAreCounted) {
  const Model model = mould({block("b", "40 mm", "30 mm", "20 mm")}, {});
  EXPECT_THAT(auditOf(model).notes, Contains(HasSubstr("Front half: 2800 mm² lean less")));
  const Model leaning =
      mould({step("b", "cone",
                  {{"bottom", expression("20 mm")}, {"top", expression("19 mm")}, {"height", expression("20 mm")}})},
            {});
  ASSERT_EQ(errorOf(leaning, "m"), "no error");
  EXPECT_THAT(auditOf(leaning).notes, testing::Not(Contains(HasSubstr("lean less"))));
}

TEST(MouldStep, PegsLineTheHalvesUp) {
  const Model model = mould({ball("20 mm")}, {{"pegs", expression("4")}, {"peg", expression("4 mm")}});
  ASSERT_EQ(errorOf(model, "m"), "no error");
  const double half = (60.0 * 60 * 60 - 4 * pi * 8000 / 3) / 2;
  EXPECT_GT(volumeOf(model, "back"), half + 100);
  EXPECT_LT(volumeOf(model, "front"), half - 100);
  EXPECT_THAT(auditOf(model).notes, Contains(HasSubstr("4 pegs, 4 mm wide")));
  Progress progress;
  EXPECT_TRUE(intersect({model.find("m/front")->shape(), model.find("m/back")->shape()}, progress).empty());
  const Model tight = mould({ball("20 mm")}, {{"pegs", expression("4")}, {"peg", expression("14 mm")}});
  EXPECT_THAT(auditOf(tight).warnings, Contains(HasSubstr("room for")));
}

TEST(MouldStep, ALevelSilhouetteIsFoundAwayFromThePlane) {
  const Fields bySilhouette{{"by", text("silhouette")}, {"offset", expression("5 mm")}};
  const Model model = mould({ball("20 mm")}, bySilhouette);
  ASSERT_EQ(errorOf(model, "m"), "no error");
  EXPECT_THAT(auditOf(model).notes, Contains(HasSubstr("the halves meet -5 mm over the plane")));
  EXPECT_THAT(auditOf(model).warnings, IsEmpty()) << "no undercuts";
  EXPECT_NEAR(volumeOf(model, "front"), (60.0 * 60 * 60 - 4 * pi * 8000 / 3) / 2, 10);
}

TEST(MouldStep, AFallingSilhouetteIsFollowed) {
  // A cylinder that lies aslant: its silhouette rises from one end to the other.
  const std::vector<Step> steps{
      step("b", "cylinder", {{"radius", expression("10 mm")}, {"height", expression("60 mm")}}),
      step("t", "place",
           {{"bodies", bodies({"b"})}, {"way", text("turn")}, {"angle", expression("60 deg")}, {"axis", text("y")}})};
  const Model turned = made(documentOf(steps));
  ASSERT_EQ(errorOf(turned, "t"), "no error");
  const Model model = mould(steps, {{"by", text("silhouette")}, {"offset", expression("15 mm")}});
  ASSERT_EQ(errorOf(model, "m"), "no error");
  EXPECT_THAT(auditOf(model).warnings, IsEmpty());
  EXPECT_THAT(auditOf(model).notes, Contains(HasSubstr("Front half: no undercuts")));
  EXPECT_THAT(auditOf(model).notes, Contains(HasSubstr("Back half: no undercuts")));
  const Model pegged = mould(steps, {{"by", text("silhouette")},
                                     {"offset", expression("15 mm")},
                                     {"pegs", expression("2")},
                                     {"peg", expression("4 mm")}});
  ASSERT_EQ(errorOf(pegged, "m"), "no error");
  EXPECT_THAT(auditOf(pegged).warnings, IsEmpty()) << "pegs on slanted faces fit as well";
  const Model flat = mould(steps, {{"offset", expression("15 mm")}});
  EXPECT_THAT(auditOf(flat).warnings, Contains(HasSubstr("undercuts"))) << "which a plane leaves";
}

TEST(MouldStep, HolesThatOneSeesThroughAreShutOff) {
  // A ring: its halves meet inside of it as well, at its middle.
  const Model ring = mould({step("b", "torus", {{"ring", expression("20 mm")}, {"tube", expression("5 mm")}})},
                           {{"by", text("silhouette")}, {"offset", expression("2 mm")}});
  ASSERT_EQ(errorOf(ring, "m"), "no error");
  EXPECT_THAT(auditOf(ring).warnings, IsEmpty());
  const double hollow = 2 * pi * pi * 20 * 25;
  EXPECT_NEAR(volume(ring, "m/front") + volume(ring, "m/back"), 70.0 * 70 * 30 - hollow, 1e-2);
  EXPECT_NEAR(volumeOf(ring, "front"), (70.0 * 70 * 30 - hollow) / 2, 20);
  // A rod that lies aslant, with a hole from above: the silhouette rises, and a flat face shuts the hole.
  const std::vector<Step> steps{
      step("b", "cylinder", {{"radius", expression("10 mm")}, {"height", expression("60 mm")}}),
      step("t", "place",
           {{"bodies", bodies({"b"})}, {"way", text("turn")}, {"angle", expression("70 deg")}, {"axis", text("y")}}),
      step("h", "cylinder",
           {{"radius", expression("3 mm")}, {"height", expression("90 mm")}, {"at", point("28 mm", "0", "-20 mm")}}),
      step("c", "combine", {{"verb", text("subtract")}, {"stock", bodies({"b"})}, {"cutters", bodies({"h"})}})};
  const Model model = mould(steps, {{"by", text("silhouette")}, {"offset", expression("10 mm")}});
  ASSERT_EQ(errorOf(model, "m"), "no error");
  EXPECT_THAT(auditOf(model).warnings, IsEmpty());
  ASSERT_EQ(report(model, "m").result->made.size(), 2u);
}

TEST(MouldStep, SurfacesOfOnesOwnPart) {
  const std::vector<Step> steps{
      block("b", "40 mm", "30 mm", "20 mm"), block("w", "200 mm", "200 mm", "10 mm", {"-80 mm", "-80 mm", "-2 mm"}),
      step("l", "lift", {{"faces", std::vector<FaceReference>{{"w", "w:top", std::nullopt}}}}),
      step("s", "sphere", {{"radius", expression("2 mm")}})};
  const Fields parted{{"by", text("surfaces")}, {"surfaces", bodies({"l"})}, {"offset", expression("5 mm")}};
  const Model model = mould(steps, parted);
  ASSERT_EQ(errorOf(model, "m"), "no error");
  EXPECT_NEAR(volumeOf(model, "back"), 60.0 * 50 * 18 - 40.0 * 30 * 8, 1e-3) << "below the surface, at 8 mm";
  EXPECT_THAT(auditOf(model).warnings, IsEmpty());
  Fields wrong = parted;
  wrong["surfaces"] = bodies({"s"});
  EXPECT_THAT(errorOf(mould(steps, wrong), "m"), HasSubstr("is no surface"));
  // One that ends inside of the block.
  std::vector<Step> small = steps;
  small[1] = block("w", "60 mm", "200 mm", "10 mm", {"-30 mm", "-80 mm", "-2 mm"});
  EXPECT_THAT(errorOf(mould(small, parted), "m"), HasSubstr("still hold together"));
}

TEST(MouldStep, MeshesArePartedByPlanes) {
  const std::vector<Step> steps{
      ball("20 mm"), step("x", "make_mesh", {{"bodies", bodies({"b"})}, {"tolerance", expression("0.05 mm")}})};
  const double whole = made(documentOf(steps)).find("b")->form.volume();
  const Model model = mould(steps, {{"pegs", expression("4")}, {"peg", expression("4 mm")}});
  ASSERT_EQ(errorOf(model, "m"), "no error");
  double sum = 0;
  for (const char* half : {"m/front", "m/back"}) sum += model.find(half)->form.volume();
  EXPECT_NEAR(sum, 60.0 * 60 * 60 - whole, 200) << "but for pegs and the room around them";
  EXPECT_THAT(auditOf(model).notes, Contains(HasSubstr("4 pegs, 4 mm wide")));
  // Of triangles that reach over the plane a little holds; of the whole ball it is 5000 mm².
  for (const std::string& warning : auditOf(model).warnings)
    EXPECT_LT(std::stod(warning.substr(warning.find("of ") + 3)), 50) << warning;
  EXPECT_THAT(errorOf(mould(steps, {{"by", text("silhouette")}}), "m"), HasSubstr("silhouette of a mesh"));
}

TEST(MouldStep, WhatCannotBeIsRefused) {
  // A knob on a rod that lies aslant: where they meet the silhouette goes on elsewhere.
  const std::vector<Step> knobbed{
      step("b", "cylinder", {{"radius", expression("8 mm")}, {"height", expression("60 mm")}}),
      step("s", "sphere", {{"radius", expression("13 mm")}}),
      step("u", "combine", {{"verb", text("union")}, {"stock", bodies({"b"})}, {"cutters", bodies({"s"})}}),
      step("t", "place",
           {{"bodies", bodies({"b"})}, {"way", text("turn")}, {"angle", expression("60 deg")}, {"axis", text("y")}})};
  EXPECT_THAT(errorOf(mould(knobbed, {{"by", text("silhouette")}, {"offset", expression("10 mm")}}), "m"),
              HasSubstr("the silhouette jumps, or hides"));
  EXPECT_THAT(errorOf(mould({ball("20 mm")}, {{"offset", expression("80 mm")}}), "m"),
              HasSubstr("the plane lies beside the block"));
  EXPECT_THAT(errorOf(mould({ball("20 mm")}, {{"bodies", bodies({})}}), "m"), HasSubstr("no body is chosen"));
}

}  // namespace
}  // namespace kervo
