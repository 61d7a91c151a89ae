// The mast clamp against a calculation by hand, at its own sizes and at others.
#include <gtest/gtest.h>

#include <cmath>
#include <filesystem>
#include <numbers>

#include "exchange/kervo_file.h"
#include "geom/mesh/meshed.h"
#include "support/document_builder.h"
#include "support/temporary_folder.h"

namespace kervo {
namespace {

using namespace test;
constexpr double pi = std::numbers::pi;

struct Sizes {
  double mast = 48, gap = 0.5, wall = 12, height = 40, length = 120, ear = 24, bolt = 8.4, edge = 3, kerf = 2;
};

/// One half: the union of block and ears, less bore, bolts, rounds and kerf; the clamp is symmetric about the kerf.
double halfVolume(const Sizes& s) {
  const double width = s.mast + 2 * s.wall, bore = s.mast / 2 + s.gap;
  const double joined = (width * width + s.length * s.ear - width * s.ear) * s.height;
  const double bored = pi * bore * bore * s.height;
  const double bolts = 4 * pi * s.bolt * s.bolt / 4 * s.ear;
  const double rounds = 4 * (1 - pi / 4) * s.edge * s.edge * s.height;
  const double k = s.kerf / 2;
  const double boreInKerf = 2 * (k * std::sqrt(bore * bore - k * k) + bore * bore * std::asin(k / bore));
  const double kerf = s.height * (s.kerf * s.length - boreInKerf) - 4 * pi * s.bolt * s.bolt / 4 * s.kerf;
  return (joined - bored - bolts - rounds - kerf) / 2;
}

Document demo() {
  Progress progress;
  return readDocument(KERVO_SOURCE_DIR "/demo/mast-clamp.kervo", allStepKinds(), progress);
}

void expectVolumes(const Model& model, const Sizes& sizes) {
  ASSERT_FALSE(model.failed());
  ASSERT_EQ(model.bodies.size(), 3u);
  EXPECT_NEAR(volume(model, "clamp/front"), halfVolume(sizes), 1e-4);
  EXPECT_NEAR(volume(model, "clamp/back"), halfVolume(sizes), 1e-4);
  EXPECT_NEAR(volume(model, "mast"), pi * sizes.mast * sizes.mast / 4 * 5 * sizes.height, 1e-4);
  for (const Body& body : model.bodies) {
    EXPECT_TRUE(body.shape().watertight());
    EXPECT_TRUE(body.shape().valid());
  }
}

TEST(Demo, VolumesMatchACalculationByHand) {
  expectVolumes(made(demo()), {});
}

TEST(Demo, EveryDimensionDrivesIt) {
  EXPECT_GE(demo().made.dimensions.size(), 5u);
  Sizes s;
  s.mast = 60;
  expectVolumes(made(demo().withDimension("mast", Expression("6 cm"))), s);
  s = {};
  s.kerf = 5;
  s.bolt = 10.5;
  expectVolumes(made(demo().withDimension("kerf", Expression("5 mm")).withDimension("bolt", Expression("10.5 mm"))), s);
  s = {};
  s.wall = 9;
  s.length = 150;
  s.ear = 30;
  s.height = 55;
  s.edge = 6;
  s.gap = 0.2;
  expectVolumes(made(demo()
                         .withDimension("wall", Expression("9 mm"))
                         .withDimension("length", Expression("150 mm"))
                         .withDimension("ear", Expression("3 cm"))
                         .withDimension("height", Expression("55 mm"))
                         .withDimension("edge", Expression("6 mm"))
                         .withDimension("gap", Expression("0.2 mm"))),
                s);
}

TEST(Demo, TheBoltHolesGoThroughTheEarsOnly) {
  const Model model = made(demo());
  EXPECT_NEAR(report(model, "bolts").result->audit.volumeRemoved, 4 * pi * 4.2 * 4.2 * 24, 1e-6);
  EXPECT_EQ(report(model, "bore").result->audit.shielded, std::vector<BodyId>{"mast"});
}

TEST(Demo, AnImpossibleSizeFailsItsStepAndKeepsTheRest) {
  const Model model = made(demo().withDimension("edge", Expression("40 mm")));
  EXPECT_EQ(report(model, "rounds").state, StepState::Failed);
  EXPECT_EQ(report(model, "halves").state, StepState::Made);
  EXPECT_EQ(model.bodies.size(), 3u);
}

Document crate() {
  Progress progress;
  return readDocument(KERVO_SOURCE_DIR "/demo/battery-crate.kervo", allStepKinds(), progress);
}

TEST(CrateDemo, HalfOfTheAssemblyMatchesACalculationByHand) {
  const Model model = made(crate());
  for (const StepReport& step : model.steps) EXPECT_FALSE(step.error) << step.error->what();
  // Two of the four posts and six of the twelve bolts are on the side that stays; the sleeve is shielded.
  ASSERT_EQ(model.bodies.size(), 11u);
  const double hole = pi * 3.2 * 3.2;
  EXPECT_NEAR(volume(model, "base/front"), (240.0 * 160 / 2 - 6 * hole) * 10, 1e-4);
  EXPECT_NEAR(volume(model, "lid/front"), (240.0 * 160 / 2 - 6 * hole - pi * 13 * 13 / 2) * 10, 1e-4);
  EXPECT_NEAR(volume(model, "posts/2"), (400 - hole) * 120, 1e-4);
  EXPECT_NEAR(volume(model, "bolts/6"), pi * 9 * 150, 1e-4);
  EXPECT_NEAR(volume(model, "sleeve1"), pi * 144 * 120, 1e-4);
}

TEST(CrateDemo, BoltsAndSleeveFollowTheirDimensions) {
  const Model model =
      made(crate().withDimension("bolt", Expression("8 mm")).withDimension("plate", Expression("12 mm")));
  ASSERT_FALSE(model.failed());
  EXPECT_NEAR(volume(model, "posts/4"), (400 - pi * 4.2 * 4.2) * 120, 1e-4);
  EXPECT_NEAR(volume(model, "base/front"), (240.0 * 160 / 2 - 6 * pi * 4.2 * 4.2) * 12, 1e-4);
}

TEST(CrateDemo, TheCutThroughTheLidSparesTheBase) {
  const Model model = made(crate());
  const Audit& audit = report(model, "sleeve_hole").result->audit;
  EXPECT_EQ(audit.touched, std::vector<BodyId>{"lid"});
}

Document mooringFloat() {
  Progress progress;
  return readDocument(KERVO_SOURCE_DIR "/demo/mooring-float.kervo", allStepKinds(), progress);
}

TEST(FloatDemo, AScanIsRepairedSplitAndPegged) {
  const Model model = made(mooringFloat());
  for (const StepReport& step : model.steps) EXPECT_FALSE(step.error) << step.error->what();
  ASSERT_EQ(model.bodies.size(), 2u);
  for (const Body& body : model.bodies) {
    EXPECT_EQ(body.form.kind(), BodyKind::Mesh);
    EXPECT_TRUE(body.form.watertight());
  }
  const Audit& halves = report(model, "halves").result->audit;
  EXPECT_NEAR(halves.balance, 0, 1e-6);
  // A peg of 16 by 60 mm, half of it in each half; its socket is 0.2 mm wider all round and deeper.
  EXPECT_NEAR(report(model, "socket").result->audit.volumeRemoved, pi * 8.2 * 8.2 * 30.2, 25);
  const double upper = model.find("float/front")->form.volume(), lower = model.find("float/back")->form.volume();
  EXPECT_NEAR(upper + lower, halves.volumeBefore + pi * 64 * 30 - pi * 8.2 * 8.2 * 30.2, 40);
}

TEST(FloatDemo, PegAndClearanceDriveIt) {
  const Model model = made(mooringFloat()
                               .withDimension("peg", Expression("20 mm"))
                               .withDimension("clearance", Expression("0.4 mm"))
                               .withDimension("belly", Expression("15 mm")));
  ASSERT_FALSE(model.failed());
  EXPECT_NEAR(report(model, "socket").result->audit.volumeRemoved, pi * 10.4 * 10.4 * 30.4, 40);
}

/// What cannot be made triangles that close cannot be printed.
TEST(Demo, EverySolidOfEveryDemoIsMeshedClosed) {
  const TemporaryFolder folder;
  int meshedBodies = 0;
  for (const auto& entry : std::filesystem::directory_iterator(KERVO_SOURCE_DIR "/demo")) {
    if (entry.path().extension() != ".kervo") continue;
    // Made once only, and written there: printed_parts_test.cpp.
    if (entry.path().stem() == "float-parts" || entry.path().stem() == "pod-shell") continue;
    Progress progress;
    const Model model = made(readDocument(entry.path(), allStepKinds(), progress));
    std::vector<FileBody> files;
    for (const Body& body : model.bodies) {
      if (body.form.kind() != BodyKind::Solid) continue;
      files.push_back({body.name, body.shape(), std::nullopt, ""});
      const Mesh mesh = meshed(body.shape(), {}, progress);
      EXPECT_TRUE(mesh.watertight()) << entry.path() << " " << body.id;
      EXPECT_NEAR(mesh.volume(), body.form.volume(), 5e-3 * body.form.volume()) << entry.path() << " " << body.id;
      ++meshedBodies;
    }
    // As a file has it, whose numbers are shorter.
    if (files.empty()) continue;
    EXPECT_NO_THROW(writeBodies(folder / "all.stl", files, "mm", progress)) << entry.path();
  }
  EXPECT_GT(meshedBodies, 30);
}

}  // namespace
}  // namespace kervo
