// Outlines cut out of surfaces: seeded random ones, whose pieces add up, by the direct way and by intersection alike.
#include <gtest/gtest.h>

#include <numbers>
#include <random>

#include "geom/curves/curve_body.h"
#include "geom/divide/partition.h"
#include "geom/primitives.h"
#include "geom/surface/loft.h"
#include "geom/surface/outline_cut.h"
#include "geom/surface/sheet.h"

namespace kervo {
namespace {

constexpr double pi = std::numbers::pi;

Shape sideOf(const Shape& body) {
  std::vector<Face> round;
  for (const Face& face : facesOf(body))
    if (!face.plane()) round.push_back(face);
  return lifted(round);
}

Shape vase() {
  LoftOrder order;
  order.solid = false;
  for (const auto& [height, radius] : {std::pair{-40.0, 24.0}, {-10.0, 32.0}, {15.0, 22.0}, {40.0, 27.0}})
    order.sections.push_back(
        {curveBody({CircularArc{Plane::through({0, 0, height}, {0, 0, 1}), radius, 0, 2 * pi}}, {}), {}});
  Progress progress;
  return lofted(order, "vase", progress);
}

std::vector<Shape> surfaces() {
  return {sideOf(makeCylinder("c", Plane::through({0, 0, -40}, {0, 0, 1}), 30, 80)),
          sideOf(makeCone("k", Plane::through({0, 0, -40}, {0, 0, 1}), 34, 20, 80)), sideOf(makeSphere("s", {}, 35)),
          sideOf(makeTorus("t", {}, 30, 12)), vase()};
}

struct Trial {
  Shape outlines;
  Vector along;
  Hits hits;
};

/// One to three circles and ellipses on a plane beside the surface, some of them crossing, some beside it.
Trial randomTrial(std::mt19937& random) {
  const auto between = [&](double low, double high) { return std::uniform_real_distribution(low, high)(random); };
  const double turn = between(0, 2 * pi), rise = between(-0.5, 0.5);
  const Vector out{std::cos(turn) * std::cos(rise), std::sin(turn) * std::cos(rise), std::sin(rise)};
  const Plane plane = Plane::through(Point{} + out * 80, out);
  std::vector<SpaceCurve> curves;
  const int count = std::uniform_int_distribution(1, 3)(random);
  for (int i = 0; i < count; ++i) {
    const Plane at = Plane::through(plane.at(between(-14, 14), between(-14, 14)), out);
    const double radius = between(1, 8);
    if (between(0, 1) < 0.5)
      curves.push_back(CircularArc{at, radius, 0, 2 * pi});
    else
      curves.push_back(EllipticalArc{at, radius, radius * between(0.3, 0.9), 0, 2 * pi});
  }
  return {curveBody(curves, {}), -out, std::array{Hits::Near, Hits::Far, Hits::All}[random() % 3]};
}

double sumOf(const std::vector<Shape>& pieces) {
  double area = 0;
  for (const Shape& piece : pieces) area += piece.area();
  return area;
}

TEST(OutlineCut, ThreeHundredRandomTrimsAddUp) {
  const std::vector<Shape> all = surfaces();
  std::mt19937 random(20261130);
  int direct = 0, compared = 0;
  for (int i = 0; i < 300; ++i) {
    const Shape& surface = all[static_cast<std::size_t>(i) % all.size()];
    const Trial trial = randomTrial(random);
    Progress progress;
    const auto pieces = cutByOutlines(surface, {{trial.outlines, trial.along, trial.hits}}, progress);
    if (!pieces) continue;
    ++direct;
    EXPECT_GE(pieces->size(), 2u) << i;
    EXPECT_NEAR(sumOf(*pieces), surface.area(), 1e-6 * surface.area()) << i;
    // Every tenth also by intersection, which knows nothing of the direct way; that takes long on free-form faces.
    if (i % 10 != 0 || i % all.size() == 4) continue;
    const std::vector<Shape> sheets = cuttingSheets(trial.outlines, surface, trial.along, trial.hits, progress);
    const Partition partition = partitionOfSurface(surface, sheets, progress);
    ASSERT_EQ(partition.parts.size(), pieces->size()) << i;
    std::vector<double> one, other;
    for (const Shape& piece : *pieces) one.push_back(piece.area());
    for (const Part& part : partition.parts) other.push_back(part.shape.area());
    std::sort(one.begin(), one.end());
    std::sort(other.begin(), other.end());
    for (std::size_t k = 0; k < one.size(); ++k) EXPECT_NEAR(one[k], other[k], 1e-3 + 1e-5 * other[k]) << i;
    ++compared;
  }
  EXPECT_GT(direct, 100) << "the others cross each other, a seam or a border";
  EXPECT_GT(compared, 5);
}

TEST(OutlineCut, IslandsAndHolesNest) {
  const Shape side = surfaces().front();
  const Plane plane = Plane::through({0, -60, 0}, {0, -1, 0});
  std::vector<SpaceCurve> curves;
  for (const double radius : {12.0, 8.0, 4.0}) curves.push_back(CircularArc{plane, radius, 0, 2 * pi});
  Progress progress;
  const auto pieces = cutByOutlines(side, {{curveBody(curves, {}), {0, 1, 0}, Hits::Near}}, progress);
  ASSERT_TRUE(pieces);
  ASSERT_EQ(pieces->size(), 4u);
  EXPECT_NEAR(sumOf(*pieces), 2 * pi * 30 * 80, 1e-3);
  for (const Shape& piece : *pieces) {
    EXPECT_TRUE(piece.valid());
    EXPECT_EQ(facesOf(piece).front().origins().front(), "c:side") << "faces keep their names";
  }
}

TEST(OutlineCut, LeavesWhatItCannotDoToTheKernel) {
  const Shape side = surfaces().front();
  const Plane plane = Plane::through({0, -60, 0}, {0, -1, 0});
  const auto cut = [&](std::vector<SpaceCurve> curves) {
    Progress progress;
    return cutByOutlines(side, {{curveBody(curves, {}), {0, 1, 0}, Hits::Near}}, progress).has_value();
  };
  const auto circle = [&](double u, double v, double radius) {
    return SpaceCurve(CircularArc{Plane::through(plane.at(u, v), plane.normal), radius, 0, 2 * pi});
  };
  EXPECT_TRUE(cut({circle(0, 0, 5)}));
  EXPECT_FALSE(cut({circle(0, 0, 5), circle(4, 0, 5)})) << "they cross";
  EXPECT_FALSE(cut({circle(0, 38, 5)})) << "crosses the border";
  EXPECT_FALSE(cut({circle(28, 0, 5)})) << "goes beyond the silhouette";
  EXPECT_FALSE(cut({Segment{plane.at(-5, 0), plane.at(5, 0)}})) << "is not closed";
}

}  // namespace
}  // namespace kervo
