// Triangles of regions with curved borders: their area is that of the polygon, whatever chords they were made from.
#include "geom/mesh/planar_triangles.h"

#include <gtest/gtest.h>

#include <cmath>
#include <map>
#include <numbers>

namespace kervo {
namespace {

using std::numbers::pi;

class PlanarTriangles : public testing::Test {
 protected:
  /// A closed line through count points: radius(angle) about a centre.
  template <class Radius>
  void loop(double u, double v, int count, const Radius& radius) {
    std::vector<int> line;
    for (int i = 0; i < count; ++i) {
      const double angle = 2 * pi * i / count;
      line.push_back(static_cast<int>(points.size()));
      points.push_back({u + radius(angle) * std::cos(angle), v + radius(angle) * std::sin(angle)});
    }
    line.push_back(line.front());
    lines.push_back(std::move(line));
  }
  void circle(double u, double v, double radius, int count = 64) {
    loop(u, v, count, [&](double) { return radius; });
  }
  void rectangle(double left, double bottom, double right, double top) {
    const int first = static_cast<int>(points.size());
    for (const auto& [u, v] :
         {std::pair(left, bottom), std::pair(right, bottom), std::pair(right, top), std::pair(left, top)})
      points.push_back({u, v});
    for (int i = 0; i < 4; ++i) lines.push_back({first + i, first + (i + 1) % 4});
  }

  double turn(int a, int b, int c) const {
    const auto at = [&](int i) { return points[static_cast<std::size_t>(i)]; };
    return (at(b).u - at(a).u) * (at(c).v - at(a).v) - (at(c).u - at(a).u) * (at(b).v - at(a).v);
  }

  /// Every triangle turns the right way, their sides meet in pairs or lie on the border, and they have this area.
  void expectRegion(double area) {
    const auto triangles = planarTriangles(points, lines);
    ASSERT_TRUE(triangles);
    double sum = 0;
    std::map<std::pair<int, int>, int> sides;
    for (const Triangle& t : *triangles) {
      EXPECT_GT(turn(t[0], t[1], t[2]), 0);
      sum += turn(t[0], t[1], t[2]) / 2;
      for (std::size_t k = 0; k < 3; ++k) {
        const int a = t[k], b = t[(k + 1) % 3];
        EXPECT_EQ((++sides[{a, b}]), 1) << "two triangles on one side of " << a << "–" << b;
      }
    }
    EXPECT_NEAR(sum, area, 1e-9 * area);
    std::size_t open = 0, segments = 0;
    for (const auto& [side, count] : sides) open += !sides.contains({side.second, side.first});
    for (const auto& line : lines) segments += line.size() - 1;
    EXPECT_EQ(open, segments);
  }

  static double polygon(double radius, int count = 64) {
    return count * radius * radius * std::sin(2 * pi / count) / 2;
  }

  std::vector<PlanePoint> points;
  std::vector<std::vector<int>> lines;
};

TEST_F(PlanarTriangles, DiscsBulgeOutwards) {
  circle(3, 4, 10);
  expectRegion(polygon(10));
}

TEST_F(PlanarTriangles, HolesBulgeIntoTheRegion) {
  rectangle(0, 0, 100, 60);
  double holes = 0;
  for (int i = 0; i < 15; ++i) {
    const double radius = 2 + i % 4 * 1.5;
    circle(10 + i % 5 * 20, 10 + i / 5 * 20, radius);
    holes += polygon(radius);
  }
  expectRegion(6000 - holes);
}

TEST_F(PlanarTriangles, RingsOfAnyWidthAndIslandsInThem) {
  for (const double width : {4.0, 0.5, 0.05, 0.005}) {
    points.clear();
    lines.clear();
    circle(0, 0, 10);
    circle(0, 0, 10 - width);
    circle(0, 0, 3);
    expectRegion(polygon(10) - polygon(10 - width) + polygon(3));
  }
}

TEST_F(PlanarTriangles, HolesThatAllButTouch) {
  rectangle(0, 0, 40, 20);
  // Points of neighbours face each other, and points face chords.
  circle(8, 10, 5);
  circle(18.001, 10, 5);
  circle(28.0015, 10, 5, 61);
  circle(35.5, 3.0005, 3);
  expectRegion(800 - 2 * polygon(5) - polygon(5, 61) - polygon(3));
}

TEST_F(PlanarTriangles, LinesThatBendBothWays) {
  // A flower: five petals of a smooth line with inflections, and the same smaller inside it.
  const auto petals = [](double size) {
    return [size](double angle) { return size * (1 + 0.4 * std::cos(5 * angle)); };
  };
  constexpr int count = 200;
  const auto area = [&](double size) {
    double sum = 0;
    for (int i = 0; i < count; ++i)
      sum += petals(size)(2 * pi * i / count) * petals(size)(2 * pi * (i + 1) / count) * std::sin(2 * pi / count) / 2;
    return sum;
  };
  loop(0, 0, count, petals(10));
  loop(0, 0, count, petals(8));
  expectRegion(area(10) - area(8));
}

TEST_F(PlanarTriangles, PointsOnOneStraightLine) {
  // As borders have them where many faces end at a straight edge.
  std::vector<int> line;
  for (int i = 0; i <= 30; ++i) {
    line.push_back(i);
    points.push_back({i * 1.0, 0});
  }
  points.push_back({15, 20});
  lines = {line, {30, 31}, {31, 0}};
  expectRegion(300);
}

TEST_F(PlanarTriangles, CrossingLinesAndDoublePointsGiveNothing) {
  circle(0, 0, 10);
  circle(5, 0, 10);
  EXPECT_FALSE(planarTriangles(points, lines));
  points.clear();
  lines.clear();
  rectangle(0, 0, 10, 10);
  rectangle(10, 10, 20, 20);
  EXPECT_FALSE(planarTriangles(points, lines));
}

}  // namespace
}  // namespace kervo
