// Stripes and bands on surfaces, in pixels.
#include "support/view_driver.h"

#include "geom/display/surface_values.h"
#include "geom/primitives.h"

namespace kervo {
namespace {

class SurfacePaintTest : public test::PixelTest {};

/// Changes between dark and light along the middle row.
int stripesAcross(const QImage& image) {
  int changes = 0;
  bool before = false;
  for (int x = 0; x < image.width(); ++x) {
    const bool dark = image.pixelColor(x, image.height() / 2).lightness() < 90;
    if (x > 0 && dark != before) ++changes;
    before = dark;
  }
  return changes;
}

TEST_F(SurfacePaintTest, StripesFollowTheNormals) {
  Scene scene = test::sceneOf({{"rod", makeCylinder("rod", Plane::through({0, 0, 0}, {0, 1, 0}), 10, 60)}});
  const Camera camera = test::cameraFor(scene, StandardView::Side);
  const int plain = stripesAcross(draw(scene, camera));
  scene.paint.kind = SurfacePaint::Kind::Stripes;
  const QImage striped = draw(scene, camera);
  // Along the rod nothing bends; across it lamps follow each other.
  int changes = 0;
  bool before = false;
  for (int y = 0; y < striped.height(); ++y) {
    const bool dark = striped.pixelColor(striped.width() / 2, y).lightness() < 90;
    if (y > 0 && dark != before) ++changes;
    before = dark;
  }
  EXPECT_GT(changes, 6);
  EXPECT_LE(stripesAcross(striped), plain + 2);
}

TEST_F(SurfacePaintTest, BandsAreAsLightAsTheirValues) {
  Scene scene = test::sceneOf({{"ball", makeSphere("ball", Plane(), 10)}});
  const Camera camera = test::cameraFor(scene, StandardView::Front);
  const BodyMesh& mesh = scene.bodies.front().picture->mesh;
  const std::vector<float> lean = draftOn(mesh, {0, 0, 1});
  const ValueScale scale = draftScale(lean);
  auto bands = std::make_shared<std::vector<float>>();
  for (const float value : lean) bands->push_back(scale.place(value));
  scene.bodies.front().bands = bands;
  scene.paint.kind = SurfacePaint::Kind::Bands;
  scene.paint.borders.assign(scale.borders.size(), "");
  const QImage image = draw(scene, camera);
  const int x = image.width() / 2, reach = image.height() / 4;
  const int low = image.pixelColor(x, image.height() / 2 + reach).lightness();
  const int high = image.pixelColor(x, image.height() / 2 - reach).lightness();
  EXPECT_GT(high, low + 40) << "from dark below to light above";
  // Without values of its own a body looks as it always does.
  scene.bodies.front().bands = nullptr;
  const QImage plain = draw(scene, camera);
  scene.paint = {};
  EXPECT_EQ(plain, draw(scene, camera));
}

}  // namespace
}  // namespace kervo
