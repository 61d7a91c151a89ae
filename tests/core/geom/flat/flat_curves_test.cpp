#include "geom/flat/flat_curves.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "geom/divide/boolean.h"
#include "geom/motion.h"
#include "geom/primitives.h"
#include "geom/sweep/curve_net.h"
#include "support/shapes.h"

namespace kervo {
namespace {

using namespace test;

double lengthOf(const std::vector<NamedCurve>& curves) {
  double sum = 0;
  for (const NamedCurve& curve : curves) sum += curve.curve.length();
  return sum;
}

/// The area between the outermost and the inner loops.
double areaOf(const std::vector<NamedCurve>& curves, const Plane& plane) {
  CurveNet net;
  net.plane = plane;
  for (const NamedCurve& curve : curves) {
    CurveNet::Link link{curve};
    link.from = net.nodes.size();
    link.to = link.from + 1;
    net.nodes.push_back(curve.curve.at(0));
    net.nodes.push_back(curve.curve.at(1));
    net.links.push_back(link);
  }
  Progress progress;
  double largest = 0;
  for (const Region& region : regionsOf(net, progress)) largest = std::max(largest, region.area());
  return largest;
}

std::vector<NamedCurve> allEdges(const Shape& shape, const Plane& plane) {
  std::vector<NamedCurve> curves;
  for (const Edge& edge : edgesOf(shape))
    if (auto flat = flattened(edge, plane)) curves.push_back({"", *flat});
  return curves;
}

TEST(FlatCurves, StandingEdgesAreSeenAsPointsAndCirclesAsCircles) {
  EXPECT_EQ(allEdges(makeBlock("b", {}, 3, 4, 5), at(0, 0, 7)).size(), 8u);
  const auto rim = allEdges(makeCylinder("c", at(1, 2, 3), 4, 5), {});
  ASSERT_EQ(rim.size(), 2u);
  const auto& circle = std::get<CircularArc>(rim.front().curve.form());
  EXPECT_NEAR(circle.radius, 4, 1e-12);
  EXPECT_NEAR(distance(circle.axes.origin, {1, 2, 0}), 0, 1e-12);
  EXPECT_TRUE(rim.front().curve.closed());
}

TEST(FlatCurves, ACircleSeenAslantIsAnEllipseAndFromItsEdgeALine) {
  const Shape rod = moved(makeCylinder("c", {}, 10, 1), Motion::turn({}, {1, 0, 0}, pi / 3));
  for (const NamedCurve& rim : allEdges(rod, {})) {
    const auto& ellipse = std::get<EllipticalArc>(rim.curve.form());
    EXPECT_NEAR(ellipse.large, 10, 1e-9);
    EXPECT_NEAR(ellipse.small, 5, 1e-9);
    EXPECT_TRUE(rim.curve.closed());
  }
  const Shape lying = moved(makeCylinder("c", {}, 10, 1), Motion::turn({}, {1, 0, 0}, pi / 2));
  for (const NamedCurve& rim : allEdges(lying, {})) {
    ASSERT_TRUE(std::holds_alternative<Segment>(rim.curve.form()));
    EXPECT_NEAR(rim.curve.length(), 20, 1e-9);
  }
}

TEST(FlatCurves, PartsOfCirclesKeepTheirEndsAndMiddlesFromAnySide) {
  Progress progress;
  const Shape quarter = intersect({makeCylinder("c", {}, 10, 2), makeBlock("b", at(0, 0, -1), 20, 20, 10)}, progress);
  for (const Plane& plane : {Plane{}, Plane{{}, {1, 0, 0}, {0, -1, 0}, {0, 0, -1}},
                             Plane::through({1, 2, 3}, {1, 2, 5}), Plane::through({0, 0, 1}, {0, 1, 0})})
    for (const Edge& edge : edgesOf(quarter)) {
      const auto flat = flattened(edge, plane);
      if (!flat) continue;
      EXPECT_NEAR(plane.signedDistance(flat->at(0.3)), 0, 1e-9);
      // Every point of the flat curve stands below or above one of the edge.
      const Point middle = edge.middle();
      const Vector way = middle - plane.normal * plane.signedDistance(middle) - flat->at(0.5);
      if (std::holds_alternative<Segment>(flat->form())) continue;
      EXPECT_NEAR(length(way), 0, 1e-6);
    }
}

TEST(FlatCurves, TheOutlineOfAFaceIsNamedByItsNeighbours) {
  const Shape block = makeBlock("b", {}, 3, 4, 5);
  const auto outline = flatOutline(block, faceNamed(block, "b:top"), {});
  std::vector<std::string> names;
  for (const NamedCurve& curve : outline) names.push_back(curve.name);
  EXPECT_THAT(names, testing::UnorderedElementsAre("b:left", "b:right", "b:front", "b:back"));
  EXPECT_NEAR(areaOf(outline, {}), 12, 1e-9);
  // Seen from its edge it is a line, which comes once.
  EXPECT_EQ(flatOutline(block, faceNamed(block, "b:top"), Plane::through({}, {1, 0, 0})).size(), 1u);
}

TEST(FlatCurves, SectionsHaveTheAreaOfTheCut) {
  Progress progress;
  const Shape pierced =
      divide(makeBlock("b", {}, 30, 20, 10), {makeCylinder("c", at(10, 10, -1), 4, 12)}, progress).outside;
  const auto level = flatSection(pierced, at(0, 0, 5), progress);
  EXPECT_NEAR(areaOf(level, at(0, 0, 5)), 600 - pi * 16, 1e-6);
  EXPECT_THAT(level, testing::Contains(testing::Field(&NamedCurve::name, "b:left")));
  // On a face, and where there is nothing.
  EXPECT_NEAR(areaOf(flatSection(pierced, at(0, 0, 10), progress), at(0, 0, 10)), 600 - pi * 16, 1e-6);
  EXPECT_TRUE(flatSection(pierced, at(0, 0, 10.5), progress).empty());
  // A plane aslant through a ball.
  const Plane aslant = Plane::through({1, 1, 1}, {1, 1, 1});
  const double radius = std::sqrt(25.0 - 3);
  EXPECT_NEAR(lengthOf(flatSection(makeSphere("s", {}, 5), aslant, progress)), 2 * pi * radius, 1e-6);
}

TEST(FlatCurves, SilhouettesHaveTheAreaOfTheShadow) {
  Progress progress;
  const Plane aslant = Plane::through({}, {1, 2, 3});
  const Vector n = aslant.normal;
  const auto block = flatSilhouette(makeBlock("b", {}, 3, 4, 5), aslant, progress);
  EXPECT_EQ(block.size(), 6u);
  EXPECT_NEAR(areaOf(block, aslant), 4 * 5 * n.x + 3 * 5 * n.y + 3 * 4 * n.z, 1e-9);
  EXPECT_NEAR(areaOf(flatSilhouette(makeSphere("s", {}, 5), aslant, progress), aslant), pi * 25, 1e-6);
  // A rod lying down: a rectangle; aslant: with half ellipses at its ends.
  EXPECT_NEAR(areaOf(flatSilhouette(makeCylinder("c", {}, 3, 8), Plane::through({}, {1, 0, 0}), progress),
                     Plane::through({}, {1, 0, 0})),
              48, 1e-6);
  const double across = std::sqrt(1 - n.z * n.z);
  EXPECT_NEAR(areaOf(flatSilhouette(makeCylinder("c", {}, 3, 8), aslant, progress), aslant),
              pi * 9 * n.z + 6 * 8 * across, 1e-5);
  // One sees through the ring from above; where a torus bends away is found to some 1e-6 mm.
  EXPECT_NEAR(areaOf(flatSilhouette(makeTorus("t", {}, 10, 3), {}, progress), {}), pi * (169 - 49), 1e-3);
}

TEST(FlatCurves, ASilhouetteTakesWhatIsBehindAlong) {
  Progress progress;
  // A plate with a narrower one below that sticks out on one side, and a hole through both.
  const Shape joined = unite({makeBlock("a", {}, 20, 20, 5), makeBlock("b", at(5, -6, -5), 10, 20, 5)}, progress).shape;
  const Shape pierced = divide(joined, {makeCylinder("c", at(10, 5, -10), 2, 20)}, progress).outside;
  const auto shadow = flatSilhouette(pierced, at(0, 0, 5), progress);
  EXPECT_NEAR(areaOf(shadow, at(0, 0, 5)), 400 + 60 - pi * 4, 1e-6);
  EXPECT_EQ(shadow.size(), 9u);
}

TEST(FlatCurves, FreeFormEdgesComeWithTheirControlPoints) {
  Progress progress;
  // Two cylinders meet in a curve that is no circle.
  const Shape across = moved(makeCylinder("r", at(0, 0, -20), 4, 40), Motion::turn({}, {1, 0, 0}, pi / 2));
  const Shape cut = divide(makeCylinder("c", at(0, 0, -15), 6, 30), {across}, progress).outside;
  int splines = 0;
  for (const Edge& edge : edgesOf(cut)) {
    const auto flat = flattened(edge, Plane::through({}, {0, 1, 0}));
    if (!flat || !std::holds_alternative<SplineArc>(flat->form())) continue;
    ++splines;
    // Seen along the rod it is the rod's circle.
    for (const double t : {0.0, 0.2, 0.5, 0.9}) {
      const Point at = flat->at(t);
      EXPECT_NEAR(std::hypot(at.x, at.z), 4, 1e-5);
    }
  }
  EXPECT_GT(splines, 0);
}

}  // namespace
}  // namespace kervo
