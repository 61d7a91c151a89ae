// The watch hut against a calculation by hand, and its five views.
#include <gtest/gtest.h>

#include <numbers>

#include "exchange/kervo_file.h"
#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;

Document demo() {
  Progress progress;
  return readDocument(KERVO_SOURCE_DIR "/demo/watch-hut.kervo", allStepKinds(), progress);
}

/// m, m³.
struct Hut {
  double width = 6, depth = 5, wall = 0.25, slab = 0.2, store = 2.6, watch = 2.8, lamp = 2.4, window = 1.2;

  double ring() const { return width * depth - (width - 2 * wall) * (depth - 2 * wall); }
  double walls1() const { return ring() * store - (1 * 2.1 + std::numbers::pi * 0.06 * 0.06) * wall; }
  double walls2() const { return ring() * watch - 4 * window * 1.2 * wall; }
  /// A window in each side, and in front and back.
  double walls3() const { return ring() * lamp - 2 * 3 * 1.3 * wall - 2 * 4 * 1.3 * wall; }
};

void expectHut(const Document& document, const Hut& hut) {
  const Model model = made(document);
  for (const StepReport& step : model.steps) EXPECT_FALSE(step.error) << step.error->what();
  for (const auto& [body, cubicMetres] :
       {std::pair("walls1", hut.walls1()), {"walls2", hut.walls2()}, {"walls3", hut.walls3()}})
    EXPECT_NEAR(volume(model, body), cubicMetres * 1e9, 1e-6 * cubicMetres * 1e9) << body;
  // Slabs with the hoist shaft, the lower one with the hatch of the stair, the upper one with that of the ladder.
  const double shaft = 0.8 * 0.8, ladder = std::numbers::pi * 0.4 * 0.4;
  EXPECT_NEAR(volume(model, "slab2"), (hut.width * hut.depth - shaft - ladder) * hut.slab * 1e9, 1e4);
  EXPECT_NEAR(volume(model, "slab1"), (hut.width * hut.depth - shaft - 2.4 * 0.96) * hut.slab * 1e9, 1e4);
}

TEST(WatchHut, VolumesMatchACalculationByHand) {
  expectHut(demo(), {});
}

TEST(WatchHut, DimensionsDriveTheBuilding) {
  expectHut(demo().withDimension("width", Expression("7 m")), {.width = 7});
  expectHut(demo().withDimension("watch", Expression("2.5 m")), {.watch = 2.5});
  expectHut(demo().withDimension("wall", Expression("300 mm")), {.wall = 0.3});
}

TEST(WatchHut, LevelsDriveTheBuilding) {
  // The shaft turns with its frame, wherever it stands.
  expectHut(demo().withDimension("hoist_turn", Expression("40 deg")), {});
  const Model before = made(demo());
  const Model after = made(withLevel(demo(), {"Roof", Expression("Lamp room.height + lamp - 300 mm")}));
  for (const StepReport& step : after.steps) EXPECT_FALSE(step.error) << step.error->what();
  EXPECT_NEAR(after.find("roof")->shape().box().high.z, before.find("roof")->shape().box().high.z - 300, 1e-6);
  EXPECT_NEAR(after.find("frame/side:post1")->shape().box().high.z,
              before.find("frame/side:post1")->shape().box().high.z - 300, 1e-6);
  EXPECT_EQ(before.find("walls2")->level, "Watch room");
  EXPECT_EQ(before.find("ladder")->level, "Watch room");
  EXPECT_EQ(before.find("roof")->level, "Roof");
}

TEST(WatchHut, EveryTreadRisesAlike) {
  const Model model = made(demo());
  const Box box = model.find("stair1")->shape().box();
  EXPECT_NEAR(box.high.z, 2800.0 * 12 / 13, 1e-6) << "the thirteenth step is the floor";
  EXPECT_NEAR(box.high.x - box.low.x, 11 * 250 + 300, 1e-6);
}

TEST(WatchHut, HasFiveViewsWhoseSectionsAreThere) {
  const Document document = demo();
  ASSERT_EQ(document.seen.views.size(), 5u);
  for (const SavedView& view : document.seen.views)
    for (const StepId& section : view.sections) EXPECT_TRUE(document.find(section)) << view.name << ": " << section;
  // Its JSON is what the demo was packed from.
  Progress progress;
  const Document byHand = readDocument(KERVO_SOURCE_DIR "/demo/watch-hut.json", allStepKinds(), progress);
  EXPECT_EQ(byHand.seen, document.seen);
  EXPECT_EQ(byHand.made.steps.size(), document.made.steps.size());
}

TEST(WatchHut, WeighsWhatItsMaterialsDo) {
  const Model model = made(demo());
  EXPECT_EQ(model.find("walls1")->material, "concrete");
  EXPECT_EQ(model.find("walls1")->density, 2400);
  EXPECT_EQ(model.find("stair1")->density, 690);
}

FaceReference faceNear(const char* body, const char* name, Point place) {
  return {body, name, FaceReference::Sample{place, {}, 0}};
}

// "The opening is in the wrong place": after the building is drawn, a window moves with its pane, the door grows, one
// window goes, and the lamp room gets 300 mm lower with its roof.
TEST(WatchHut, AChangeOrderIsFourSteps) {
  const Model before = made(demo());
  const double middle = 2800 + 900 + 600;  // of the front windows, above the ground
  const Document changed =
      demo()
          .withStep(step("shift", "shift_opening",
                         {{"openings", std::vector<FaceReference>{faceNear("walls2", "windows_cut:side:left.left",
                                                                           {1000, 125, middle})}},
                          {"along", Expression("200 mm")}}))
          .withStep(step("widen", "resize_opening",
                         {{"openings", std::vector<FaceReference>{{"walls1", "door_cut:side:door.left", std::nullopt}}},
                          {"width_becomes", text("to")},
                          {"width", Expression("1.2 m")},
                          {"across", text("right")}}))
          .withStep(step("close", "close_opening",
                         {{"openings", std::vector<FaceReference>{faceNear("walls2", "windows_cut:side:right.left",
                                                                           {3800, 125, middle})}}}))
          .withStep(step("lower", "shift_faces",
                         {{"faces", std::vector<FaceReference>{{"walls3", "walls3:top", std::nullopt}}},
                          {"with", bodies({"roof"})},
                          {"way", text("vector")},
                          {"z", Expression("-300 mm")}}));
  const Model after = made(changed);
  for (const StepReport& step : after.steps) EXPECT_FALSE(step.error) << step.error->what();
  const Hut hut;
  const auto expectVolume = [&](const char* body, double cubicMetres) {
    EXPECT_NEAR(volume(after, body), cubicMetres * 1e9, 1e-9 * cubicMetres * 1e9) << body;
  };
  expectVolume("walls1", hut.walls1() - 0.2 * 2.1 * hut.wall);
  expectVolume("walls2", hut.walls2() + 1.2 * 1.2 * hut.wall);
  expectVolume("walls3", hut.walls3() - 0.3 * hut.ring());
  EXPECT_NEAR(volume(after, "roof"), volume(before, "roof"), 1e-9 * volume(before, "roof"));
  EXPECT_NEAR(after.find("roof")->shape().box().high.z, before.find("roof")->shape().box().high.z - 300, 1e-6);
  // The drawing may change afterwards: the window still goes 200 mm beside where it is drawn.
  const Model wider = made(changed.withDimension("width", Expression("7 m")));
  for (const StepReport& step : wider.steps) EXPECT_FALSE(step.error) << step.error->what();
}

}  // namespace
}  // namespace kervo
