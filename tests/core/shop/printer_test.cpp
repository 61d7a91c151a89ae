// The simulated printer: it reads what was written, and its sums are those of the bodies.
#include "shop/printer.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>

#include "exchange/kervo_file.h"
#include "geom/primitives.h"
#include "steps/registry.h"
#include "support/document_builder.h"
#include "support/meshes.h"
#include "support/temporary_folder.h"

namespace kervo {
namespace {

using namespace test;
using testing::HasSubstr;
using testing::IsEmpty;
constexpr double pi = std::numbers::pi;

class Printer : public testing::Test {
 protected:
  PrintRun print(const std::vector<FileBody>& bodies, const PrinterSettings& settings = {},
                 const char* name = "p.3mf") {
    writeBodies(folder_ / name, bodies, "mm", progress_);
    return runPrinter(folder_ / name, settings, progress_);
  }
  static FileBody blockAt(Point at, double width, double depth, double height, const std::string& name = "block",
                          std::optional<Color> color = std::nullopt) {
    return {name, makeBlock(name, Plane::through(at, {0, 0, 1}), width, depth, height), color, ""};
  }
  static PrinterSettings solid() {
    PrinterSettings settings;
    settings.fill = 1;
    return settings;
  }

  const TemporaryFolder folder_;
  Progress progress_;
};

TEST_F(Printer, TakesTheMaterialOfASolidBlock) {
  const PrintRun run = print({blockAt({5, 5, 3}, 20, 10, 6)}, solid());
  ASSERT_EQ(run.layers.size(), 30u);
  EXPECT_NEAR(run.layers.front().top, 0.2, 1e-9) << "it stands on the bed";
  EXPECT_NEAR(run.layers[10].parts.front().area, 200, 1e-3);
  EXPECT_NEAR(run.solidVolume, 1200, 1e-2);
  ASSERT_EQ(run.materials.size(), 1u);
  EXPECT_NEAR(run.materials.front().volume, 1200, 1e-2);
  EXPECT_THAT(run.findings, IsEmpty());
  // Two walls whose middles lie 0.2 and 0.6 inside, corners rounded by the growing; the rest in lines 0.4 apart.
  const double walls = 2 * (19.6 + 9.6) + 2 * (18.8 + 8.8), fill = 18.4 * 8.4 / 0.4;
  EXPECT_NEAR(run.layers[10].seconds, walls / 40 + fill / 60, 0.05);
  EXPECT_NEAR(run.seconds, 30 * run.layers[10].seconds, 0.1);
}

TEST_F(Printer, LeavesTheInsideMostlyEmpty) {
  const PrintRun run = print({blockAt({0, 0, 0}, 20, 20, 20)});
  // Four closed layers at both ends, two walls of 0.4, a fifth of the rest.
  const double inside = 18.4 * 18.4 * (20 - 8 * 0.2);
  EXPECT_NEAR(run.materials.front().volume, 8000 - 0.8 * inside, 5);
}

TEST_F(Printer, CountsMaterialByColour) {
  const Color red{0.8, 0.2, 0.2}, blue{0.2, 0.2, 0.8};
  const PrintRun run =
      print({blockAt({0, 0, 0}, 10, 10, 4, "a", red), blockAt({10, 0, 0}, 5, 10, 4, "b", blue)}, solid());
  ASSERT_EQ(run.materials.size(), 2u);
  double redVolume = 0, blueVolume = 0;
  for (const PrintedMaterial& each : run.materials) {
    ASSERT_TRUE(each.color);
    (each.color->red > each.color->blue ? redVolume : blueVolume) += each.volume;
  }
  EXPECT_NEAR(redVolume, 400, 1e-2);
  EXPECT_NEAR(blueVolume, 200, 1e-2);
}

TEST_F(Printer, FindsIslandsAndOverhangs) {
  // A table on one leg, and a block that floats beside it.
  const PrintRun run = print({blockAt({8, 8, 0}, 4, 4, 10, "leg"), blockAt({0, 0, 10}, 20, 20, 2, "top"),
                              blockAt({30, 0, 5}, 5, 5, 3, "floats")});
  EXPECT_THAT(run.findings, testing::Contains(HasSubstr("1 island begins in the air, at a height of 5.2 mm")));
  EXPECT_EQ(run.layers[25].unsupported.size(), 1u);
  EXPECT_TRUE(run.layers[24].unsupported.empty() && run.layers[26].unsupported.empty());
  EXPECT_NEAR(run.layers[50].hanging, 400 - 16, 4) << "it reaches out on all sides of the leg";
  EXPECT_NEAR(run.layers[51].hanging, 0, 1e-6);
}

TEST_F(Printer, FindsWallsUnderTheNozzle) {
  const PrintRun good = print({blockAt({0, 0, 0}, 0.6, 20, 5)});
  EXPECT_THAT(good.findings, IsEmpty());
  const PrintRun bad = print({blockAt({0, 0, 0}, 10, 10, 5), blockAt({10, 4, 2}, 10, 0.3, 3, "fin")});
  EXPECT_THAT(bad.findings, testing::Contains(HasSubstr("narrower than the nozzle, first at a height of 2.2 mm")));
  EXPECT_TRUE(bad.layers[9].thin.empty());
  EXPECT_FALSE(bad.layers[12].thin.empty());
}

TEST_F(Printer, SaysWhatDoesNotFitOrClose) {
  PrinterSettings small;
  small.width = 15;
  EXPECT_THAT(print({blockAt({0, 0, 0}, 20, 10, 5)}, small).findings,
              testing::Contains(HasSubstr("does not fit: it is 20 × 10 × 5 mm")));
  Mesh holed = withHoles(ballMesh({0, 0, 0}, 10, 20), 300, 900);
  EXPECT_THAT(print({{"ball", Shape(holed), std::nullopt, ""}}).findings,
              testing::Contains(HasSubstr("\"ball\" does not close")));
  PrinterSettings none;
  none.layer = 0;
  EXPECT_THROW(print({blockAt({0, 0, 0}, 20, 10, 5)}, none), Error);
  writeBodies(folder_ / "exact.step", {blockAt({0, 0, 0}, 1, 1, 1)}, "mm", progress_);
  EXPECT_THROW(runPrinter(folder_ / "exact.step", {}, progress_), FileError);
}

TEST_F(Printer, SlicesRoundAndHollowBodies) {
  const FileBody rod{"rod", makeCylinder("rod", Plane{}, 10, 8), std::nullopt, ""};
  const PrintRun run = print({rod}, solid(), "rod.stl");
  EXPECT_NEAR(run.solidVolume, pi * 100 * 8, 1e-3 * pi * 800);
  const Model lamp = made(readDocument(KERVO_SOURCE_DIR "/demo/lamp-housing.kervo", allStepKinds(), progress_));
  const PrintRun housing = print(bodiesOf(lamp), solid());
  double volume = 0;
  for (const Body& body : lamp.bodies) volume += body.form.volume();
  EXPECT_NEAR(housing.solidVolume, volume, 5e-3 * volume);
  EXPECT_GT(housing.seconds, 3600);
}

}  // namespace
}  // namespace kervo
