// Sawing must give what the kernel's intersection gives, and leave to it what it cannot do.
#include "geom/divide/saw.h"

#include <gtest/gtest.h>
#include <BRepAlgoAPI_Common.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepGProp.hxx>
#include <GProp_GProps.hxx>
#include <TopExp.hxx>
#include <TopTools_IndexedMapOfShape.hxx>

#include <cmath>
#include <random>

#include "geom/divide/boolean.h"
#include "geom/divide/plane_split.h"
#include "geom/primitives.h"
#include "support/shapes.h"

namespace kervo {
namespace {

using test::at;
using test::faceNamed;
using test::pi;

class SawTest : public testing::Test {
 protected:
  static constexpr double radius = 4;
  static constexpr double volume = (60 * 40 - 3 * pi * radius * radius) * 10;

  /// 60 × 40 × 10 with holes at x = 15, 30 and 45.
  SawTest() {
    std::vector<Shape> drills;
    for (const double x : {15.0, 30.0, 45.0}) drills.push_back(makeCylinder("hole", at(x, 20, -5), radius, 20));
    plate = divide(makeBlock("plate", {}, 60, 40, 10), drills, progress).outside;
  }

  Shape slab(const Plane& plane, double from, double to) const {
    return makeSlab("saw", plane, from, to, plate.roughBox());
  }
  std::optional<DividedParts> sawnPlate(const Shape& cutter) { return sawn(plate, {cutter}, progress); }
  static double sum(const std::vector<TopoDS_Shape>& parts, const FaceTable& table) {
    double result = 0;
    for (const TopoDS_Shape& part : parts) result += volumeOf(part, table);
    return result;
  }
  static int facesOf(const TopoDS_Shape& shape) {
    TopTools_IndexedMapOfShape faces;
    TopExp::MapShapes(shape, TopAbs_FACE, faces);
    return faces.Extent();
  }
  static double kernelVolume(const TopoDS_Shape& shape) {
    GProp_GProps properties;
    BRepGProp::VolumeProperties(shape, properties, 1e-9);
    return properties.Mass();
  }
  /// Of a hole, beyond a line at that distance from its centre.
  static double segment(double distance) {
    return radius * radius * std::acos(distance / radius) - distance * std::sqrt(radius * radius - distance * distance);
  }

  Shape plate;
  Progress progress;
};

TEST_F(SawTest, AlongAHole) {
  const auto parts = sawnPlate(slab(Plane::through({30, 0, 0}, {1, 0, 0}), 1, 3));
  ASSERT_TRUE(parts);
  // Above and below the hole.
  ASSERT_EQ(parts->inside.size(), 2u);
  for (const TopoDS_Shape& part : parts->inside) {
    EXPECT_EQ(facesOf(part), 6);
    EXPECT_TRUE(BRepCheck_Analyzer(part).IsValid());
  }
  const double strip = (2 * 40 - (segment(1) - segment(3))) * 10;
  EXPECT_NEAR(sum(parts->inside, parts->table), strip, 1e-9 * volume);
  ASSERT_EQ(parts->outside.size(), 2u);
  EXPECT_NEAR(sum(parts->outside, parts->table), volume - strip, 1e-9 * volume);
  for (const TopoDS_Shape& part : parts->outside) EXPECT_TRUE(BRepCheck_Analyzer(part).IsValid());
}

TEST_F(SawTest, AcrossHoles) {
  const auto parts = sawnPlate(slab(Plane(), 4, Box::infinity));
  ASSERT_TRUE(parts);
  ASSERT_EQ(parts->inside.size(), 1u);
  ASSERT_EQ(parts->outside.size(), 1u);
  EXPECT_NEAR(sum(parts->inside, parts->table), volume * 0.6, 1e-9 * volume);
  for (const TopoDS_Shape& part : {parts->inside[0], parts->outside[0]}) {
    EXPECT_EQ(facesOf(part), 9);
    EXPECT_TRUE(BRepCheck_Analyzer(part).IsValid());
  }
}

TEST_F(SawTest, FacesKeepTheirNames) {
  const PlaneSplit split =
      splitByPlane("saw", plate, Plane::through({31, 0, 0}, {1, 0, 0}), Kerf::centred(0.5), progress);
  ASSERT_EQ(split.front.size(), 1u);
  ASSERT_EQ(split.back.size(), 1u);
  EXPECT_TRUE(split.cut.remedy.empty());
  const double open = segment(1.25), depth = 2 * std::sqrt(radius * radius - 1.25 * 1.25);
  EXPECT_NEAR(faceNamed(split.front[0], "saw:cut").area(), (40 - depth) / 2 * 10, 1e-9);
  EXPECT_NEAR(faceNamed(split.front[0], "plate:top").area(), (60 - 31.25) * 40 - open - pi * radius * radius, 1e-9);
  EXPECT_NEAR(faceNamed(split.back[0], "plate:left").area(), 40 * 10, 1e-9);
}

TEST_F(SawTest, OutlinesInSeveralPartsKeepTheirHoles) {
  // A comb of three teeth with a hole each, sawn through the teeth below and above the holes.
  std::vector<Shape> cutters{makeBlock("gap", at(20, 15, -1), 5, 30, 12), makeBlock("gap2", at(35, 15, -1), 5, 30, 12)};
  for (const double x : {10.0, 30.0, 50.0}) cutters.push_back(makeCylinder("eye", at(x, 27, -5), 2, 20));
  const Shape comb = divide(makeBlock("comb", {}, 60, 40, 10), cutters, progress).outside;
  const Shape saw = makeSlab("saw", Plane::through({0, 20, 0}, {0, 1, 0}), 0, 15, comb.roughBox());
  const auto parts = sawn(comb, {saw}, progress);
  ASSERT_TRUE(parts);
  EXPECT_EQ(parts->inside.size(), 3u);
  EXPECT_EQ(parts->outside.size(), 4u);
  for (const TopoDS_Shape& part : parts->inside) {
    EXPECT_EQ(facesOf(part), 7);
    EXPECT_TRUE(BRepCheck_Analyzer(part).IsValid());
  }
  EXPECT_NEAR(sum(parts->inside, parts->table), (50 * 15 - 3 * pi * 4) * 10, 1e-9 * volume);
}

TEST_F(SawTest, TheRestIsLeftToTheKernel) {
  const auto along = [&](double x, double from, double to) {
    return sawnPlate(slab(Plane::through({x, 0, 0}, {1, 0, 0}), from, to)).has_value();
  };
  EXPECT_TRUE(along(5, 0, 1));
  EXPECT_FALSE(along(15 - radius, 0, 1));         // touches a hole
  EXPECT_FALSE(along(15 - radius + 1e-6, 0, 1));  // or nearly
  EXPECT_FALSE(along(60, -1, 0));                 // along a face
  EXPECT_FALSE(along(80, 0, 1));                  // beside it
  const auto through = [&](Point point, Vector normal) {
    return sawnPlate(slab(Plane::through(point, normal), 0, Box::infinity)).has_value();
  };
  EXPECT_TRUE(through({50, 40, 0}, {1, 1, 0}));
  EXPECT_FALSE(through({60, 40, 0}, {1, -1.5, 0}));  // through a corner
  EXPECT_TRUE(through({4.5, 0, 5}, {1, 0, 1}));      // a bevel clear of the holes
  EXPECT_FALSE(through({15, 20, 5}, {1, 0, 1}));     // ellipses
  // Not a block that reaches across, not convex, not alone, not flat.
  EXPECT_FALSE(sawnPlate(makeBlock("short", at(30, -5, -5), 2, 20, 20)));
  const Shape notched =
      divide(makeBlock("thick", at(-50, -50, 4), 200, 200, 50), {makeBlock("n", at(0, 0, 0), 5, 5, 5)}, progress)
          .outside;
  EXPECT_FALSE(sawnPlate(notched));
  const Shape one = slab(Plane::through({5, 0, 0}, {1, 0, 0}), 0, 1);
  const Shape two = slab(Plane::through({9, 0, 0}, {1, 0, 0}), 0, 1);
  EXPECT_FALSE(sawn(plate, {one, two}, progress));
  EXPECT_FALSE(sawnPlate(makeSphere("ball", at(0, 0, 0), 100)));
  const Shape ball = makeSphere("ball", at(0, 0, 0), 9);
  EXPECT_FALSE(sawn(ball, {makeSlab("saw", Plane(), 0, 1, ball.roughBox())}, progress));
}

/// Blocks with holes and pockets, turned anyhow and cut along or across them: as the kernel cuts them.
class SawLaws : public SawTest, public testing::WithParamInterface<unsigned> {
 protected:
  static TopoDS_Shape one(const std::vector<TopoDS_Shape>& parts) { return compoundOf(parts); }
};

TEST_P(SawLaws, AsTheKernelCuts) {
  std::mt19937 random(GetParam());
  const auto any = [&](double low, double high) { return std::uniform_real_distribution<double>(low, high)(random); };
  const Plane place = Plane::through({any(-50, 50), any(-50, 50), any(-50, 50)}, {any(-1, 1), any(-1, 1), any(-1, 1)});
  const auto on = [&](double x, double y, double z) {
    return Plane{place.at(x, y, z), place.x, place.y, place.normal};
  };
  std::vector<Shape> tools;
  for (int i = 0; i < 6; ++i) {
    const std::string id = "t" + std::to_string(i);
    const double depth = random() % 2 ? -1 : any(2, 8);
    if (i % 3 == 0)
      tools.push_back(makeBlock(id, on(any(0, 55), any(0, 35), depth), any(3, 15), any(3, 15), 12));
    else
      tools.push_back(makeCylinder(id, on(any(0, 60), any(0, 40), depth), any(1, 6), 12));
  }
  const Division drilled = divide(makeBlock("b", place, 60, 40, 10), tools, progress);
  for (const Shape& body : drilled.outside.pieces()) {
    const double turn = any(0, 2 * pi);
    const Vector level = place.x * std::cos(turn) + place.y * std::sin(turn);
    const Vector normal = random() % 3 == 0 ? place.normal : level;
    const Box box = body.roughBox();
    const Plane middle = Plane::through(box.centre(), normal);
    const double from = any(-4, 2);
    const Shape saw = makeSlab("saw", middle, from, from + any(0.5, 5), box);
    const auto parts = sawn(body, {saw}, progress);
    if (!parts) {
      // By chance only: a corner or a tangent in the plane.
      EXPECT_TRUE(divide(body, {saw}, progress).inside.empty()) << "was left to the kernel";
      continue;
    }
    const TopoDS_Shape inside = BRepAlgoAPI_Common(body.body().topology, saw.body().topology).Shape();
    const TopoDS_Shape outside = BRepAlgoAPI_Cut(body.body().topology, saw.body().topology).Shape();
    const double size = body.volume();
    EXPECT_NEAR(sum(parts->inside, parts->table), kernelVolume(inside), 1e-6 * size);
    EXPECT_NEAR(sum(parts->outside, parts->table), kernelVolume(outside), 1e-6 * size);
    EXPECT_NEAR(sum(parts->inside, parts->table) + sum(parts->outside, parts->table), size, 1e-9 * size);
    EXPECT_EQ(facesOf(one(parts->inside)), facesOf(inside));
    EXPECT_EQ(facesOf(one(parts->outside)), facesOf(outside));
    for (const auto* side : {&parts->inside, &parts->outside})
      for (const TopoDS_Shape& part : *side) EXPECT_TRUE(BRepCheck_Analyzer(part).IsValid());
  }
}

INSTANTIATE_TEST_SUITE_P(Random, SawLaws, testing::Range(1u, 61u));

}  // namespace
}  // namespace kervo
