// Faces shifted and removed as steps, on several bodies at once; a building made lower.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>

#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;
using testing::HasSubstr;
constexpr double pi = std::numbers::pi;
using Fields = std::map<std::string, FieldValue>;

std::vector<FaceReference> faces(std::initializer_list<std::pair<const char*, const char*>> named) {
  std::vector<FaceReference> result;
  for (const auto& [body, name] : named) result.push_back({body, name, std::nullopt});
  return result;
}

Model with(std::vector<Step> steps, const char* kind, Fields fields) {
  steps.push_back(step("s", kind, std::move(fields)));
  return made(documentOf(steps));
}

/// A plate of 60 × 40 × 10 with a hole of radius 5.
std::vector<Step> plate() {
  return {block("a", "60 mm", "40 mm", "10 mm"),
          drawing("d", PlanePick::standard("xy"), {circle("h", "20 mm", "20 mm", "5 mm")}),
          step("c", "cut",
               {{"profiles", allOf("d")}, {"stock", bodies({"a"})}, {"to", text("through")}, {"way", text("both")}})};
}
const double plateVolume = 60 * 40 * 10 - pi * 25 * 10;

TEST(ShiftFacesStep, GoesByADistanceAVectorAndUntilAFace) {
  const Model distance =
      with(plate(), "shift_faces", {{"faces", faces({{"a", "a:top"}})}, {"distance", expression("2 mm")}});
  ASSERT_EQ(errorOf(distance, "s"), "no error");
  EXPECT_NEAR(volume(distance, "a"), plateVolume * 1.2, 1e-9 * plateVolume);
  const Model vector = with(plate(), "shift_faces",
                            {{"faces", faces({{"a", "c:side:h"}})},
                             {"way", text("vector")},
                             {"x", expression("15 mm")},
                             {"y", expression("3 mm")}});
  ASSERT_EQ(errorOf(vector, "s"), "no error");
  EXPECT_NEAR(volume(vector, "a"), plateVolume, 1e-9 * plateVolume);
  std::vector<Step> two = plate();
  two.push_back(block("b", "10 mm", "10 mm", "17 mm", {"80 mm", "0", "0"}));
  const Model until = with(two, "shift_faces",
                           {{"faces", faces({{"a", "a:top"}})},
                            {"way", text("until")},
                            {"onto", FaceReference{"b", "b:top", std::nullopt}}});
  ASSERT_EQ(errorOf(until, "s"), "no error");
  EXPECT_NEAR(volume(until, "a"), plateVolume * 1.7, 1e-9 * plateVolume);
}

TEST(ShiftFacesStep, TurnsOffsetsAndGivesRadii) {
  const Model turned = with(plate(), "shift_faces",
                            {{"faces", faces({{"a", "a:right"}})},
                             {"way", text("turn")},
                             {"axis", text("y")},
                             {"angle", expression("0 deg")}});
  ASSERT_EQ(errorOf(turned, "s"), "no error");
  EXPECT_NEAR(volume(turned, "a"), plateVolume, 1e-9 * plateVolume);
  const Model thick = with(plate(), "shift_faces",
                           {{"faces", faces({{"a", "a:top"}, {"a", "a:bottom"}, {"a", "c:side:h"}})},
                            {"way", text("outwards")},
                            {"distance", expression("1 mm")}});
  ASSERT_EQ(errorOf(thick, "s"), "no error");
  EXPECT_NEAR(volume(thick, "a"), (60 * 40 - pi * 16) * 12, 1e-9 * plateVolume);
  const Model radius =
      with(plate(), "shift_faces",
           {{"faces", faces({{"a", "c:side:h"}})}, {"way", text("radius")}, {"radius", expression("8 mm")}});
  ASSERT_EQ(errorOf(radius, "s"), "no error");
  EXPECT_NEAR(volume(radius, "a"), (60 * 40 - pi * 64) * 10, 1e-9 * plateVolume);
  EXPECT_THAT(errorOf(with(plate(), "shift_faces", {{"faces", faces({{"a", "a:top"}})}, {"way", text("radius")}}), "s"),
              HasSubstr("has no radius"));
  EXPECT_THAT(
      errorOf(with(plate(), "shift_faces", {{"faces", faces({{"a", "a:top"}})}, {"distance", expression("-10 mm")}}),
              "s"),
      HasSubstr("vanish"));
  EXPECT_THAT(errorOf(with(plate(), "shift_faces", {}), "s"), HasSubstr("no face is picked"));
}

TEST(ShiftFacesStep, ABuildingGetsLowerWithItsRoofInOneStep) {
  // Four walls 3 m high with a window, and a roof slab on them.
  const std::vector<Step> hut{
      block("walls", "4 m", "3 m", "3 m"),
      block("room", "3.6 m", "2.6 m", "4 m", {"200 mm", "200 mm", "-500 mm"}),
      step("u", "combine", {{"verb", text("subtract")}, {"stock", bodies({"walls"})}, {"cutters", bodies({"room"})}}),
      drawing("d", PlanePick::standard("xz"), {rectangle("w", "1 m", "900 mm", "1 m", "1 m")}),
      step("c", "cut",
           {{"profiles", allOf("d")},
            {"stock", bodies({"walls"})},
            {"to", text("distance")},
            {"depth", expression("300 mm")},
            {"way", text("both")}}),
      block("roof", "4.4 m", "3.4 m", "200 mm", {"-200 mm", "-200 mm", "3 m"})};
  const Model before = made(documentOf(hut));
  ASSERT_FALSE(before.failed());
  const double ring = 4000.0 * 3000 - 3600.0 * 2600;
  ASSERT_NEAR(volume(before, "walls"), ring * 3000 - 1000.0 * 1000 * 200, 1);
  const Model lower = with(hut, "shift_faces",
                           {{"faces", faces({{"walls", "walls:top"}})},
                            {"with", bodies({"roof"})},
                            {"way", text("vector")},
                            {"z", expression("-300 mm")}});
  ASSERT_EQ(errorOf(lower, "s"), "no error");
  EXPECT_NEAR(volume(lower, "walls"), ring * 2700 - 1000.0 * 1000 * 200, 1);
  EXPECT_NEAR(volume(lower, "roof"), 4400.0 * 3400 * 200, 1);
  EXPECT_NEAR(lower.find("roof")->shape().box().high.z, 2900, 1e-6);
}

TEST(ShiftFacesStep, TakesFacesOfSeveralBodiesAtOnce) {
  std::vector<Step> two = plate();
  two.push_back(block("b", "10 mm", "10 mm", "10 mm", {"60 mm", "0", "0"}));
  const Model both =
      with(two, "shift_faces", {{"faces", faces({{"a", "a:top"}, {"b", "b:top"}})}, {"distance", expression("3 mm")}});
  ASSERT_EQ(errorOf(both, "s"), "no error");
  EXPECT_NEAR(volume(both, "a"), plateVolume * 1.3, 1e-9 * plateVolume);
  EXPECT_NEAR(volume(both, "b"), 1300, 1e-6);
  EXPECT_THAT(errorOf(with(two, "shift_faces", {{"faces", faces({{"a", "a:top"}})}, {"with", bodies({"a"})}}), "s"),
              HasSubstr("either the body or its faces"));
}

TEST(RemoveFacesStep, HealsRoundsPocketsAndBosses) {
  std::vector<Step> rounded = plate();
  rounded.push_back(
      step("r", "round",
           {{"edges", std::vector<EdgeReference>{{"a", "a:right", "a:top", {}}}}, {"radius", expression("3 mm")}}));
  const Model sharp = with(rounded, "remove_faces", {{"faces", faces({{"a", "r:blend:(a:right|a:top)"}})}});
  ASSERT_EQ(errorOf(sharp, "s"), "no error");
  EXPECT_NEAR(volume(sharp, "a"), plateVolume, 1e-9 * plateVolume);
  const Model whole = with(plate(), "remove_faces", {{"faces", faces({{"a", "c:side:h"}})}});
  ASSERT_EQ(errorOf(whole, "s"), "no error");
  EXPECT_NEAR(volume(whole, "a"), 24000, 24000e-9);
  EXPECT_THAT(errorOf(with(plate(), "remove_faces", {{"faces", faces({{"a", "a:top"}})}}), "s"),
              HasSubstr("does not close the gap"));
}

}  // namespace
}  // namespace kervo
