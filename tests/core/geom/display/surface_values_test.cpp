// How surfaces bend and lean, how thick bodies are behind them, and the nets of splines.
#include <gtest/gtest.h>

#include <cmath>

#include "geom/display/surface_values.h"
#include "geom/divide/boolean.h"
#include "geom/primitives.h"
#include "geom/surface/reseated_faces.h"

namespace kervo {
namespace {

BodyMesh meshOf(const Shape& shape) {
  Progress progress;
  return tessellate(shape, MeshQuality::forSize(shape.box().diagonal()), progress);
}

TEST(SurfaceValues, BendsAsTheFormulasSay) {
  const Shape ball = makeSphere("ball", Plane(), 8), ring = makeTorus("ring", Plane(), 20, 5);
  for (const Shape& shape : {ball, asSplines(ball).shape}) {
    int counted = 0;
    for (const float value : curvaturesOn(shape, meshOf(shape)))
      if (!std::isnan(value)) {
        EXPECT_NEAR(value, 1.0 / 8, 1e-6);
        ++counted;
      }
    EXPECT_GT(counted, 100);
  }
  // A ring bulges with its tube everywhere.
  for (const float value : curvaturesOn(ring, meshOf(ring))) EXPECT_NEAR(value, 1.0 / 5, 1e-6);
  // The wall of a bore is hollow, and planes do not bend.
  Progress progress;
  const Shape bored = divide(makeBlock("box", Plane(), 40, 30, 20),
                             {makeCylinder("bore", Plane::through({20, 15, -5}, {0, 0, 1}), 6, 40)}, progress)
                          .outside;
  const BodyMesh mesh = meshOf(bored);
  const std::vector<float> values = curvaturesOn(bored, mesh);
  for (std::size_t i = 0; i < values.size(); ++i) {
    const double off = std::hypot(double(mesh.points[3 * i]) - 20, double(mesh.points[3 * i + 1]) - 15);
    const bool level = std::abs(mesh.normals[3 * i + 2]) > 0.5F;
    EXPECT_NEAR(values[i], off < 6.1 && !level ? -1.0 / 6 : 0, 1e-6);
  }
}

TEST(SurfaceValues, LeansAgainstADirection) {
  const Shape cone = makeCone("cone", Plane(), 10, 5, 20);
  const BodyMesh mesh = meshOf(cone);
  const double lean = std::atan2(5, 20) * 180 / M_PI;
  for (const float value : draftOn(mesh, {0, 0, 2}))
    EXPECT_TRUE(std::abs(value - lean) < 1e-3 || std::abs(std::abs(value) - 90) < 1e-3) << value;
}

TEST(SurfaceValues, AsThickAsThePlateIs) {
  const Shape plate = makeBlock("plate", Plane(), 40, 30, 2);
  const BodyMesh mesh = meshOf(plate);
  const std::vector<float> values = thicknessOn(mesh);
  for (std::size_t i = 0; i < values.size(); ++i)
    EXPECT_NEAR(values[i],
                std::abs(mesh.normals[3 * i]) > 0.5F       ? 40
                : std::abs(mesh.normals[3 * i + 1]) > 0.5F ? 30
                                                           : 2,
                1e-3);
}

TEST(SurfaceValues, NetsOfSplines) {
  EXPECT_TRUE(controlNetOf(makeBlock("box", Plane(), 1, 1, 1)).empty());
  const std::vector<Polyline> net = controlNetOf(asSplines(makeCylinder("rod", Plane(), 5, 10)).shape);
  EXPECT_FALSE(net.empty());
  for (const Polyline& line : net) EXPECT_GE(line.size(), 2u);
}

TEST(ValueScale, HasRoundBordersAndPlacesValues) {
  const ValueScale sizes = sizeScale({0.5F, 3, 10});
  EXPECT_EQ(sizes.borders, (std::vector<double>{1, 2, 5}));
  EXPECT_FLOAT_EQ(sizes.place(2), 2);
  EXPECT_FLOAT_EQ(sizes.place(3.5), 2.5);
  EXPECT_FLOAT_EQ(sizes.place(0.5), 0);
  EXPECT_FLOAT_EQ(sizes.place(10), 4);
  EXPECT_FLOAT_EQ(sizes.place(std::nan("")), -1);
  EXPECT_EQ(sizeScale({0.012F, 1000}).borders, (std::vector<double>{0.02, 0.05, 0.1, 0.2, 0.5, 1})) << "thin ones";
  const ValueScale radii = radiusScale({0, 0.3F, -0.4F});
  EXPECT_DOUBLE_EQ(radii.borders.back(), 1.0 / 5) << "5 mm; 2 mm is tighter than anything there is";
  EXPECT_TRUE(sizeScale({}).empty());
}

}  // namespace
}  // namespace kervo
