#include "drawing/regions.h"
#include "geom/sweep/profile.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <map>
#include <numbers>

#include "base/error.h"
#include "drawing/crossings.h"

namespace kervo {
namespace {

constexpr double pi = std::numbers::pi;

PlanarCurve circle(const std::string& id, double u, double v, double r) {
  return {id, CircleCurve{{u, v}, r}};
}

PlanarCurve line(const std::string& id, double u0, double v0, double u1, double v1) {
  return {id, LineCurve{{u0, v0}, {u1, v1}}};
}

std::vector<PlanarCurve> rectangle(const std::string& id, double u, double v, double w, double h) {
  return {line(id + ".bottom", u, v, u + w, v), line(id + ".right", u + w, v, u + w, v + h),
          line(id + ".top", u + w, v + h, u, v + h), line(id + ".left", u, v + h, u, v)};
}

std::map<std::string, double> areas(const std::vector<PlanarCurve>& curves, const Plane& plane = {}) {
  Progress progress;
  std::map<std::string, double> result;
  for (const Region& region : findRegions(plane, curves, progress)) result[region.name()] = region.area();
  return result;
}

TEST(Regions, ACircleAndARectangleWithAnIsland) {
  auto curves = rectangle("plate", 0, 0, 20, 10);
  curves.push_back(circle("hole", 10, 5, 3));
  for (const Plane& plane : {Plane{}, Plane::through({1, 2, 3}, {1, -1, 2})}) {
    const auto found = areas(curves, plane);
    ASSERT_EQ(found.size(), 2u);
    EXPECT_NEAR(found.at("hole-.plate+"), 200 - 9 * pi, 1e-9);
    EXPECT_NEAR(found.at("hole+"), 9 * pi, 1e-9);
  }
}

TEST(Regions, OverlappingCirclesGiveALensAndTwoCrescents) {
  const auto found = areas({circle("a", 0, 0, 5), circle("b", 5, 0, 5)});
  const double lens = 2 * 25 * std::acos(0.5) - 5 * std::sqrt(75.0) / 2;
  ASSERT_EQ(found.size(), 3u);
  EXPECT_NEAR(found.at("a+.b+"), lens, 1e-8);
  EXPECT_NEAR(found.at("a+.b-"), 25 * pi - lens, 1e-8);
  EXPECT_NEAR(found.at("a-.b+"), 25 * pi - lens, 1e-8);
}

TEST(Regions, OfSplinesThatCrossThemselves) {
  // A cubic from (0, 0) to (10, 0) with a loop above, and the line between its ends: a loop and a triangle beside it.
  const std::vector<PlanePoint> poles{{0, 0}, {30, 30}, {-20, 30}, {10, 0}};
  const PlanarCurve spline{"s", SplineCurve(Spline::controlled(3, poles, {}, false))};
  ASSERT_EQ(selfCrossings(*spline.geometry).size(), 1u);
  const Crossing crossing = selfCrossings(*spline.geometry).front();
  EXPECT_NEAR(crossing.at.u, 5, 1e-9);
  const auto found = areas({spline, line("l", 10, 0, 0, 0)});
  ASSERT_EQ(found.size(), 2u);
  // By Green's formula along each.
  const auto green = [&](double from, double to) {
    double area = 0;
    constexpr int steps = 100000;
    for (int i = 0; i < steps; ++i)
      area += cross(spline.geometry->at(from + (to - from) * i / steps),
                    spline.geometry->at(from + (to - from) * (i + 1) / steps)) /
              2;
    return area;
  };
  const double loop = std::abs(green(crossing.onA, crossing.onB));
  const double rest = std::abs(green(0, crossing.onA) + green(crossing.onB, 1));
  double sum = 0;
  for (const auto& [name, area] : found) sum += area;
  EXPECT_NEAR(sum, loop + rest, 1e-6);
  EXPECT_NEAR(std::max(found.begin()->second, found.rbegin()->second), std::max(loop, rest), 1e-6);
  // A closed one like an 8: two loops.
  const std::vector<PlanePoint> eight{{0, 0}, {30, 30}, {0, 30}, {30, 0}};
  const PlanarCurve closed{"s", SplineCurve(Spline::controlled(3, eight, {}, true))};
  ASSERT_EQ(selfCrossings(*closed.geometry).size(), 1u);
  Progress progress;
  const auto loops = findRegions({}, {closed}, progress);
  ASSERT_EQ(loops.size(), 2u);
  EXPECT_NEAR(loops[0].area(), loops[1].area(), 1e-6) << "it is symmetric";
  EXPECT_TRUE(selfCrossings(ArcCurve({0, 0}, 5, 0, 6)).empty());
}

TEST(Regions, OfEllipsesAndTheirParts) {
  const PlanarCurve whole{"e", EllipseCurve({2, 1}, {2 + 4, 1 + 3}, 2, 0, 2 * pi)};
  for (const Plane& plane : {Plane{}, Plane::through({1, 2, 3}, {1, -1, 2})}) {
    EXPECT_NEAR(areas({whole}, plane).at("e+"), 10 * pi, 1e-9);
    // Half of it: a line joins the ends of an arc.
    const PlanarCurve half{"h", EllipseCurve({0, 0}, {5, 0}, 2, 0, pi)};
    EXPECT_NEAR(areas({half, line("l", -5, 0, 5, 0)}, plane).at("h+.l+"), 5 * pi, 1e-8);
    // With the named axis the shorter one.
    const PlanarCurve upright{"u", EllipseCurve({0, 0}, {2, 0}, 5, -pi / 2, pi / 2)};
    EXPECT_NEAR(areas({upright, line("l", 0, 5, 0, -5)}, plane).at("l+.u+"), 5 * pi, 1e-8);
  }
}

TEST(Regions, ALineAcrossAnEllipseHalvesIt) {
  const auto found = areas({{"e", EllipseCurve({0, 0}, {5, 0}, 3, 0, 2 * pi)}, line("l", -9, 0, 9, 0)});
  ASSERT_EQ(found.size(), 2u);
  for (const auto& [name, area] : found) EXPECT_NEAR(area, 7.5 * pi, 1e-6) << name;
}

TEST(Regions, OfSplines) {
  // A closed spline by control points of degree 1 is a polygon, one of degree 2 with a line a parabola's segment.
  const Spline polygon = Spline::controlled(1, {{0, 0}, {10, 0}, {10, 6}, {0, 6}}, {}, true);
  const Spline parabola = Spline::controlled(2, {{0, 0}, {5, 10}, {10, 0}}, {}, false);
  const Spline quarter = Spline::controlled(2, {{5, 0}, {5, 5}, {0, 5}}, {1, std::sqrt(0.5), 1}, false);
  for (const Plane& plane : {Plane{}, Plane::through({1, 2, 3}, {1, -1, 2})}) {
    EXPECT_NEAR(areas({{"s", SplineCurve(polygon)}}, plane).at("s+"), 60, 1e-9);
    EXPECT_NEAR(areas({{"s", SplineCurve(parabola)}, line("l", 0, 0, 10, 0)}, plane).at("l+.s-"), 100.0 / 3, 1e-8);
    EXPECT_NEAR(
        areas({{"s", SplineCurve(quarter)}, line("a", 0, 0, 5, 0), line("b", 0, 5, 0, 0)}, plane).at("a+.b+.s+"),
        25 * pi / 4, 1e-8);
  }
}

TEST(Regions, OfAClosedSplineAndWhatCrossesIt) {
  std::vector<PlanePoint> points;
  for (int i = 0; i < 12; ++i) points.push_back({10 * std::cos(i * pi / 6), 7 * std::sin(i * pi / 6)});
  const PlanarCurve spline{"s", SplineCurve(Spline::through(points, true))};
  const double whole = areas({spline}).at("s+");
  EXPECT_NEAR(whole, 70 * pi, 0.5);
  const auto cut = areas({spline, line("l", -20, 1, 20, 2)});
  ASSERT_EQ(cut.size(), 2u);
  double sum = 0;
  for (const auto& [name, area] : cut) sum += area;
  EXPECT_NEAR(sum, whole, 1e-6 * whole);
}

TEST(Regions, IslandsWithinIslands) {
  const auto found = areas({circle("c1", 0, 0, 10), circle("c2", 0, 0, 8), circle("c3", 3, 0, 2),
                            circle("c4", -3, 0, 2), circle("c5", 3, 0, 1)});
  ASSERT_EQ(found.size(), 5u);
  EXPECT_NEAR(found.at("c1+.c2-"), 36 * pi, 1e-9);
  EXPECT_NEAR(found.at("c2+.c3-.c4-"), 56 * pi, 1e-9);
  EXPECT_NEAR(found.at("c3+.c5-"), 3 * pi, 1e-9);
}

TEST(Regions, ASlotOfLinesAndTangentArcs) {
  const auto found = areas({line("low", -5, -2, 5, -2),
                            {"right", ArcCurve{{5, 0}, 2, -pi / 2, pi / 2}},
                            line("high", 5, 2, -5, 2),
                            {"left", ArcCurve{{-5, 0}, 2, pi / 2, 3 * pi / 2}}});
  ASSERT_EQ(found.size(), 1u);
  EXPECT_NEAR(found.begin()->second, 40 + 4 * pi, 1e-9);
}

TEST(Regions, OpenCurvesAndDanglingEndsEncloseNothing) {
  EXPECT_TRUE(areas({line("a", 0, 0, 10, 0), line("b", 10, 0, 10, 5)}).empty());
  auto curves = rectangle("r", 0, 0, 10, 10);
  curves.push_back(line("antenna", 10, 10, 20, 20));
  curves.push_back(line("inside", 5, 0, 5, 4));
  const auto found = areas(curves);
  ASSERT_EQ(found.size(), 1u);
  EXPECT_NEAR(found.begin()->second, 100, 1e-9);
}

TEST(Regions, ALineThatCrossesDividesARegion) {
  auto curves = rectangle("r", 0, 0, 10, 10);
  curves.push_back(line("cut", -5, 3, 15, 3));
  const auto found = areas(curves);
  ASSERT_EQ(found.size(), 2u);
  EXPECT_NEAR(found.at("cut+.r+"), 70, 1e-9);
  EXPECT_NEAR(found.at("cut-.r+"), 30, 1e-9);
}

TEST(Regions, RectanglesThatShareASideAreTwo) {
  auto curves = rectangle("a", 0, 0, 10, 10);
  for (const PlanarCurve& side : rectangle("b", 10, 2, 5, 5)) curves.push_back(side);
  const auto found = areas(curves);
  ASSERT_EQ(found.size(), 2u);
  double sum = 0;
  for (const auto& [name, area] : found) sum += area;
  EXPECT_NEAR(sum, 125, 1e-9);
}

TEST(Regions, NamesDoNotDependOnSizes) {
  const auto names = [](double r, double d) {
    std::vector<std::string> result;
    for (const auto& [name, area] : areas({circle("a", 0, 0, r), circle("b", d, 0, 4), circle("c", 30, 0, 1)}))
      result.push_back(name);
    return result;
  };
  EXPECT_EQ(names(5, 4), names(6, 7));
}

TEST(Regions, RegionsOfEqualDescriptionAreNumbered) {
  // A bar across a disc leaves two caps that look alike but for their place.
  auto curves = rectangle("bar", -20, -2, 40, 4);
  curves.push_back(circle("disc", 0, 0, 10));
  const auto found = areas(curves);
  EXPECT_TRUE(found.contains("bar-.disc+"));
  EXPECT_TRUE(found.contains("bar-.disc+#2"));
  EXPECT_NEAR(found.at("bar-.disc+"), found.at("bar-.disc+#2"), 1e-9);
}

TEST(Regions, JoinedNeighboursLoseTheirBorder) {
  Progress progress;
  const auto regions = findRegions({}, {circle("a", 0, 0, 5), circle("b", 5, 0, 5)}, progress);
  const auto one = joined(regions);
  ASSERT_EQ(one.size(), 1u);
  double sum = 0;
  for (const Region& region : regions) sum += region.area();
  EXPECT_NEAR(one[0].area(), sum, 1e-8);
  EXPECT_EQ(one[0].islandCount(), 0);
  // A ring alone stays a ring.
  const auto ring = findRegions({}, {circle("a", 0, 0, 5), circle("b", 0, 0, 3)}, progress);
  EXPECT_EQ(joined({ring[0]})[0].islandCount() + joined({ring[1]})[0].islandCount(), 1);
  EXPECT_NEAR(joined(ring)[0].area(), 25 * pi, 1e-9);
}

TEST(Regions, AThousandCirclesKeepTheirNames) {
  std::vector<PlanarCurve> curves = rectangle("plate", -5, -5, 330, 330);
  for (int i = 0; i < 1000; ++i) curves.push_back(circle("h" + std::to_string(i), i % 32 * 10, i / 32 * 10, 3));
  const auto found = areas(curves);
  EXPECT_EQ(found.size(), 1001u);
  EXPECT_NEAR(found.at("h500+"), 9 * pi, 1e-9);
}

TEST(Regions, NameTheCurveThatIsWrong) {
  const auto errorOf = [](const PlanarCurve& curve) -> std::string {
    try {
      areas({curve});
    } catch (const Error& error) {
      return error.where();
    }
    return "";
  };
  EXPECT_EQ(errorOf(line("dot", 1, 1, 1, 1)), "curve \"dot\"");
  EXPECT_EQ(errorOf(circle("flat", 0, 0, 0)), "curve \"flat\"");
  EXPECT_EQ(errorOf(circle("lost", std::nan(""), 0, 3)), "curve \"lost\"");
  EXPECT_EQ(errorOf({"turn", ArcCurve{{0, 0}, 2, 1, 1}}), "curve \"turn\"");
}

}  // namespace
}  // namespace kervo
