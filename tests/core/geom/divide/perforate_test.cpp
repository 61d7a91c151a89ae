// The direct way of cutting profiles and the general one must give the same body.
#include "geom/divide/perforate.h"
#include "drawing/regions.h"

#include <gtest/gtest.h>

#include <numbers>
#include <random>
#include <set>

#include "geom/primitives.h"
#include "geom/topology.h"

namespace kervo {
namespace {

constexpr double pi = std::numbers::pi;

std::vector<SweptRegion> through(const std::vector<PlanarCurve>& curves, const Shape& stock, const Plane& plane = {}) {
  Progress progress;
  return sweep("cut", joined(findRegions(plane, curves, progress)), true, SweepLimit::beyond(), SweepLimit::beyond(),
               stock.box(), progress);
}

TEST(Perforate, AThousandHolesAreExact) {
  Progress progress;
  const Shape plate = makeBlock("plate", {}, 320, 320, 5);
  std::vector<PlanarCurve> curves;
  for (int i = 0; i < 1000; ++i)
    curves.push_back({"h" + std::to_string(i), CircleCurve{{i % 32 * 10.0 + 5, i / 32 * 10.0 + 5}, 3}});
  CutPath path;
  const Division cut = cutSwept(plate, through(curves, plate), progress, &path);
  EXPECT_EQ(path.direct, 1000);
  EXPECT_EQ(path.general, 0);
  EXPECT_NEAR(cut.outside.volume(), 320 * 320 * 5 - 1000 * 9 * pi * 5, 1e-6);
  EXPECT_EQ(cut.outside.faceCount(), 1006);
  EXPECT_TRUE(cut.outside.watertight());
  EXPECT_EQ(cut.inside.solidCount(), 1000);
}

TEST(Perforate, BodiesItMadeAreValidAndCanBeCutOn) {
  Progress progress;
  const Shape plate = makeBlock("plate", {}, 60, 60, 5);
  std::vector<PlanarCurve> curves;
  for (int i = 0; i < 36; ++i)
    curves.push_back({"h" + std::to_string(i), CircleCurve{{i % 6 * 10.0 + 5, i / 6 * 10.0 + 5}, 3}});
  const Division cut = cutSwept(plate, through(curves, plate), progress);
  EXPECT_TRUE(cut.outside.valid());
  EXPECT_TRUE(cut.inside.valid());
  const Division corner =
      divide(cut.outside, {makeBlock("corner", Plane::through({-1, -1, -1}, {0, 0, 1}), 26, 26, 10)}, progress);
  const double expectedInside = (25 * 25 - 4 * 9 * pi - 4 * 4.5 * pi - 2.25 * pi) * 5;
  EXPECT_NEAR(corner.inside.volume(), expectedInside, 1e-5);
}

TEST(Perforate, GoesThroughBothWallsOfAChannel) {
  Progress progress;
  const Shape block = makeBlock("block", {}, 40, 20, 20);
  const Shape channel =
      divide(block, {makeBlock("inner", Plane::through({-1, 5, 5}, {0, 0, 1}), 50, 10, 10)}, progress).outside;
  CutPath path;
  const Division cut = cutSwept(channel, through({{"h", CircleCurve{{20, 10}, 3}}}, channel), progress, &path);
  EXPECT_EQ(path.direct, 1);
  EXPECT_NEAR(cut.inside.volume(), 9 * pi * 10, 1e-8);
  EXPECT_EQ(cut.inside.solidCount(), 2);
  EXPECT_TRUE(cut.outside.valid());
}

TEST(Perforate, DoesNotTakeTheDirectWayWhereItsProofFails) {
  Progress progress;
  const Shape plate = makeBlock("plate", {}, 40, 40, 5);
  const auto pathOf = [&](const std::vector<PlanarCurve>& curves, const Shape& stock) {
    CutPath path;
    cutSwept(stock, through(curves, stock), progress, &path);
    return path;
  };
  EXPECT_EQ(pathOf({{"edge", CircleCurve{{40, 20}, 3}}}, plate).direct, 0);
  EXPECT_EQ(pathOf({{"tangent", CircleCurve{{37, 20}, 3}}}, plate).direct, 0);
  EXPECT_EQ(pathOf({{"a", CircleCurve{{10, 20}, 3}}, {"b", CircleCurve{{16, 20}, 3}}}, plate).direct, 0);
  const Shape drilled = cutSwept(plate, through({{"first", CircleCurve{{20, 20}, 2}}}, plate), progress).outside;
  EXPECT_EQ(pathOf({{"around the first", CircleCurve{{20, 20}, 5}}}, drilled).direct, 0);
  EXPECT_EQ(pathOf({{"into the first", CircleCurve{{22, 20}, 2}}}, drilled).direct, 0);
  EXPECT_EQ(pathOf({{"beside the first", CircleCurve{{30, 20}, 2}}}, drilled).direct, 1);
  const Shape hollow =
      divide(plate, {makeSphere("void", Plane::through({20, 20, 2.5}, {0, 0, 1}), 1)}, progress).outside;
  EXPECT_EQ(pathOf({{"through the void", CircleCurve{{20, 20}, 2}}}, hollow).direct, 0);
}

TEST(Perforate, CutThatStartsOnTheFaceItWasDrawnOnGoesTheDirectWay) {
  Progress progress;
  const Shape plate = makeBlock("plate", {}, 40, 40, 5);
  Plane top;
  top.origin = {0, 0, 5};
  const auto regions = findRegions(top, {{"h", CircleCurve{{20, 20}, 3}}}, progress);
  const auto swept = [&](bool alongNormal) {
    return sweep("cut", regions, alongNormal, SweepLimit::at(0), SweepLimit::beyond(), plate.box(), progress);
  };
  CutPath path;
  const Division cut = cutSwept(plate, swept(false), progress, &path);
  EXPECT_EQ(path.direct, 1);
  EXPECT_NEAR(cut.outside.volume(), 8000 - 45 * pi, 1e-9);
  EXPECT_TRUE(cut.outside.valid());
  // Away from the body it takes nothing, and a cut to exactly the other face goes right through.
  EXPECT_TRUE(cutSwept(plate, swept(true), progress).inside.empty());
  const auto exact = sweep("cut", regions, false, SweepLimit::at(0), SweepLimit::at(5), plate.box(), progress);
  CutPath exactPath;
  EXPECT_NEAR(cutSwept(plate, exact, progress, &exactPath).inside.volume(), 45 * pi, 1e-9);
  EXPECT_EQ(exactPath.direct, 1);
}

std::set<std::string> namesOf(const Shape& shape) {
  std::set<std::string> names;
  for (const Face& face : facesOf(shape)) names.insert(face.origins().begin(), face.origins().end());
  return names;
}

/// A plate, drilled disc or bracket, and profiles that may overlap, touch, cross the border or miss.
TEST(Perforate, ProfilesBetweenInnerOutlinesFindTheirPlace) {
  Progress progress;
  // A plate with a round opening, and a ring-shaped pocket whose island is as high as the plate: a face of its own.
  const auto cylinder = [](const std::string& name, double x, double z, double radius, double height) {
    return makeCylinder(name, Plane::through({x, 20, z}, {0, 0, 1}), radius, height);
  };
  const Shape pocket = divide(cylinder("ring", 60, 5, 15, 10), {cylinder("core", 60, 0, 8, 20)}, progress).outside;
  const Shape plate =
      divide(makeBlock("plate", {}, 80, 40, 10), {cylinder("bore", 20, -1, 12, 12), pocket}, progress).outside;
  const double before = 80 * 40 * 10 - pi * 144 * 10 - pi * (225 - 64) * 5;
  ASSERT_NEAR(plate.volume(), before, 1e-6);
  const auto expectDrilled = [&](double x, double y, double radius, double taken, int direct) {
    CutPath path;
    const Division cut = cutSwept(plate, through({{"h", CircleCurve{{x, y}, radius}}}, plate), progress, &path);
    EXPECT_NEAR(cut.outside.volume(), before - taken, 1e-6);
    EXPECT_EQ(path.direct, direct);
    EXPECT_TRUE(cut.outside.watertight());
  };
  // In the plate beside them, directly; in the island and in the floor of the pocket, whose walls stand around.
  expectDrilled(38, 5, 3, pi * 9 * 10, 1);
  expectDrilled(60, 20, 3, pi * 9 * 10, 0);
  expectDrilled(60, 31, 2, pi * 4 * 5, 0);
  // Within the opening there is nothing to take; around it, the rest of a ring is.
  expectDrilled(20, 20, 5, 0, 0);
  expectDrilled(20, 20, 14, pi * (196 - 144) * 10, 0);
}

TEST(Perforate, RandomLayoutsGiveTheGeneralBody) {
  std::mt19937 random(4711);
  Progress progress;
  const auto between = [&](double low, double high) {
    return std::uniform_real_distribution<double>(low, high)(random);
  };
  int direct = 0, general = 0;
  for (int layout = 0; layout < 250; ++layout) {
    const Plane plane = layout % 3 == 0 ? Plane{} : Plane::through({between(-5, 5), 3, 1}, {between(-1, 1), 0.3, 1});
    Shape stock;
    if (layout % 4 == 0)
      stock = makeCylinder("stock", plane, 25, 6);
    else
      stock = makeBlock("stock", Plane{plane.at(-25, -25), plane.x, plane.y, plane.normal}, 50, 50, 6);
    if (layout % 5 == 0)
      stock = divide(stock, {makeCylinder("bore", Plane{plane.at(5, 5, -1), plane.x, plane.y, plane.normal}, 4, 9)},
                     progress)
                  .outside;
    std::vector<PlanarCurve> curves;
    const int count = 1 + static_cast<int>(random() % 7);
    for (int i = 0; i < count; ++i) {
      const double u = std::round(between(-24, 24)), v = std::round(between(-24, 24)), size = std::round(between(1, 6));
      const std::string id = "c" + std::to_string(i);
      if (random() % 2) {
        curves.push_back({id, CircleCurve{{u, v}, size}});
      } else {
        const double w = std::round(between(2, 9));
        curves.push_back({id + ".bottom", LineCurve{{u, v}, {u + w, v}}});
        curves.push_back({id + ".right", LineCurve{{u + w, v}, {u + w, v + size}}});
        curves.push_back({id + ".top", LineCurve{{u + w, v + size}, {u, v + size}}});
        curves.push_back({id + ".left", LineCurve{{u, v + size}, {u, v}}});
      }
    }
    const std::vector<SweptRegion> regions = through(curves, stock, plane);
    CutPath path;
    const Division fast = cutSwept(stock, regions, progress, &path);
    direct += path.direct;
    general += path.general;
    std::vector<Shape> cutters;
    for (const SweptRegion& region : regions) cutters.push_back(solidOf(region));
    const Division slow = divide(stock, cutters, progress);
    ASSERT_NEAR(fast.outside.volume(), slow.outside.volume(), 1e-6 * stock.volume()) << "layout " << layout;
    ASSERT_NEAR(fast.inside.volume(), slow.inside.volume(), 1e-6 * stock.volume()) << "layout " << layout;
    ASSERT_NEAR(fast.outside.area(), slow.outside.area(), 1e-6 * stock.area()) << "layout " << layout;
    ASSERT_EQ(fast.outside.faceCount(), slow.outside.faceCount()) << "layout " << layout;
    ASSERT_EQ(namesOf(fast.outside), namesOf(slow.outside)) << "layout " << layout;
    ASSERT_TRUE(fast.outside.valid()) << "layout " << layout;
  }
  EXPECT_GT(direct, 100);
  EXPECT_GT(general, 100);
}

}  // namespace
}  // namespace kervo
