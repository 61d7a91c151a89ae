// Camera, picks, gauges, and a few pixels of what is drawn. Picks need no display; pixels are drawn off screen.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <QGuiApplication>
#include <QImage>
#include <QOffscreenSurface>
#include <QOpenGLContext>
#include <QOpenGLFramebufferObject>
#include <cmath>

#include "geom/divide/boolean.h"
#include "geom/motion.h"
#include "geom/primitives.h"
#include "geom/surface/sheet.h"
#include "support/view_driver.h"
#include "view/gauge.h"
#include "view/guide_picture.h"
#include "view/picker.h"
#include "view/renderer.h"
#include "view/silhouette.h"

namespace kervo {
namespace {

using namespace test;

Scene blockScene() {
  return sceneOf({{"block", makeBlock("block", Plane{}, 40, 30, 20)}});
}

std::string faceName(const Scene& scene, const Pick& pick) {
  return scene.find(pick.body)->picture->faces[static_cast<std::size_t>(pick.index)].origins().front();
}

TEST(CameraTest, StandardViewsLookAlongTheAxesAndShowAll) {
  const Scene scene = blockScene();
  const std::pair<StandardView, Vector> views[] = {
      {StandardView::Top, {0, 0, 1}}, {StandardView::Front, {0, -1, 0}}, {StandardView::Side, {1, 0, 0}}};
  for (const auto& [view, towards] : views) {
    const Camera camera = cameraFor(scene, view);
    EXPECT_NEAR(length(camera.towardsEye() - towards), 0, 1e-9);
    for (int i = 0; i < 8; ++i) {
      const QPointF at = camera.project(scene.box().corner(i));
      EXPECT_TRUE(QRectF(0, 0, 800, 600).contains(at));
    }
  }
}

TEST(CameraTest, FlipLooksFromTheOtherSide) {
  const Scene scene = blockScene();
  Camera camera = cameraFor(scene, StandardView::Front);
  camera.flip(scene.box());
  EXPECT_NEAR(length(camera.towardsEye() - Vector{0, 1, 0}), 0, 1e-9);
  EXPECT_NEAR(camera.up().z, 1, 1e-9);
}

TEST(CameraTest, ZoomKeepsThePointUnderThePointer) {
  for (const Projection projection : {Projection::Parallel, Projection::Perspective}) {
    Camera camera = cameraFor(blockScene(), StandardView::Home);
    camera.setProjection(projection);
    const QPointF pixel(200, 150);
    const Point before = camera.under(pixel);
    camera.zoomAt(pixel, 3);
    EXPECT_LT(distance(camera.under(pixel), before), 1e-6);
    EXPECT_NEAR(camera.project(before).x(), pixel.x(), 1e-3);
  }
}

TEST(CameraTest, OrbitTurnsAboutThePointAndKeepsZUpright) {
  Camera camera = cameraFor(blockScene(), StandardView::Home);
  const Point about{40, 0, 20};
  const QPointF before = camera.project(about);
  camera.orbit(about, 60, 35);
  EXPECT_NEAR(camera.project(about).x(), before.x(), 1e-6);
  EXPECT_NEAR(camera.project(about).y(), before.y(), 1e-6);
  EXPECT_NEAR(camera.right().z, 0, 1e-9);
  // Not over the pole.
  for (int i = 0; i < 50; ++i) camera.orbit(about, 0, 80);
  EXPECT_GE(camera.up().z, -1e-9);
}

TEST(CameraTest, SightGoesThroughWhatIsProjectedThere) {
  for (const Projection projection : {Projection::Parallel, Projection::Perspective}) {
    Camera camera = cameraFor(blockScene(), StandardView::Home);
    camera.setProjection(projection);
    const Point point{40, 30, 20};
    const auto [from, direction] = camera.sight(camera.project(point));
    const Vector to = point - from;
    EXPECT_LT(length(to - direction * dot(to, direction)), 1e-6);
  }
}

TEST(PickerTest, TakesTheNearestFaceThenWhatLiesBehind) {
  const Scene scene = blockScene();
  Picker picker;
  picker.setScene(scene);
  const Camera camera = cameraFor(scene, StandardView::Top);
  const auto hits = picker.at(camera.project({20, 15, 20}), 3, camera);
  ASSERT_EQ(hits.size(), 2u);
  EXPECT_EQ(faceName(scene, hits[0].pick), "block:top");
  EXPECT_EQ(faceName(scene, hits[1].pick), "block:bottom");
  EXPECT_NEAR(hits[0].point.z, 20, 1e-3);
  EXPECT_TRUE(picker.at({5, 5}, 3, camera).empty());
}

TEST(PickerTest, TakesAFaceInFrontOfATallBodyThatEndsBesideThePointer) {
  Plane foot, front;
  foot.origin = {0, 0, -80};
  front.origin = {-36, -36, 0};
  const Scene scene =
      sceneOf({{"mast", makeCylinder("mast", foot, 24, 200)}, {"clamp", makeBlock("clamp", front, 72, 6, 40)}});
  Picker picker;
  picker.setScene(scene);
  const Camera camera = cameraFor(scene, StandardView::Home);
  for (double x = -30; x <= 30; x += 0.5)
    for (double z = 5; z <= 35; z += 5) {
      const auto hits = picker.at(camera.project({x, -36, z}), 4, camera);
      ASSERT_FALSE(hits.empty());
      EXPECT_EQ(faceName(scene, hits.front().pick), "clamp:front") << x << ", " << z;
    }
}

TEST(PickerTest, PrefersEdgesAndCornersOverFaces) {
  const Scene scene = blockScene();
  Picker picker;
  picker.setScene(scene);
  const Camera camera = cameraFor(scene, StandardView::Home);
  const auto edge = picker.at(camera.project({20, 0, 20}), 4, camera);
  ASSERT_FALSE(edge.empty());
  EXPECT_EQ(edge.front().pick.kind, Pick::Kind::Edge);
  const auto corner = picker.at(camera.project({0, 0, 20}), 4, camera);
  ASSERT_FALSE(corner.empty());
  EXPECT_EQ(corner.front().pick.kind, Pick::Kind::Corner);
  picker.setFilter({false, true, false, false});
  EXPECT_EQ(picker.at(camera.project({20, 0, 20}), 4, camera).front().pick.kind, Pick::Kind::Face);
  picker.setFilter({true, true, false, false});
  EXPECT_EQ(picker.at(camera.project({20, 0, 20}), 4, camera).front().pick, (Pick{Pick::Kind::Body, "block", 0}));
}

TEST(PickerTest, TakesDatumsByTheirLinesAndPlanesThroughTheirInsideLast) {
  Scene scene = blockScene();
  const Box around{{0, 0, 0}, {40, 30, 20}};
  Plane above;
  above.origin = {0, 0, 30};
  scene.bodies.push_back({"plane", "plane", pictureOf(Datum(above), around), {}, Role::Datum});
  const Axis axis{{60, 0, 0}, {0, 1, 0}};
  scene.bodies.push_back({"axis", "axis", pictureOf(Datum(axis), around), {}, Role::Datum});
  scene.bodies.push_back({"point", "point", pictureOf(Datum(Point{70, 10, 0}), around), {}, Role::Datum});
  Picker picker;
  picker.setScene(scene);
  const Camera camera = cameraFor(scene, StandardView::Top);
  const Pick plane{Pick::Kind::Guide, "plane", 0};
  const auto through = picker.at(camera.project({20, 15, 20}), 3, camera);
  ASSERT_EQ(through.size(), 3u);
  EXPECT_EQ(faceName(scene, through[0].pick), "block:top");
  EXPECT_EQ(through[2].pick, plane);
  // The border lies a tenth of the diagonal beyond the block.
  const double beyond = 0.1 * around.diagonal();
  EXPECT_EQ(picker.at(camera.project({-beyond, 15, 30}), 3, camera).front().pick, plane);
  EXPECT_EQ(picker.at(camera.project({60, 15, 0}), 3, camera).front().pick, (Pick{Pick::Kind::Guide, "axis", 0}));
  EXPECT_EQ(picker.at(camera.project({70, 10, 0}), 3, camera).front().pick, (Pick{Pick::Kind::Guide, "point", 0}));
  picker.setFilter({false, true, false, false, false});
  EXPECT_TRUE(picker.at(camera.project({60, 15, 0}), 3, camera).empty());
  picker.setFilter({});
  const QRectF box(camera.project({50, 50, 0}), camera.project({80, -20, 0}));
  EXPECT_THAT(picker.in(box, Picker::Inclusion::Inside, camera),
              testing::UnorderedElementsAre(Pick{Pick::Kind::Guide, "axis", 0}, Pick{Pick::Kind::Guide, "point", 0}));
}

/// Blocks a and b of 40 × 30 × 20, b 100 mm along x.
Scene twoBlocks() {
  Plane aside;
  aside.origin = {100, 0, 0};
  return sceneOf({{"a", makeBlock("a", Plane{}, 40, 30, 20)}, {"b", makeBlock("b", aside, 40, 30, 20)}});
}

TEST(PickerTest, RectanglesTakeInsideOrTouching) {
  const Scene scene = twoBlocks();
  Picker picker;
  picker.setScene(scene);
  picker.setFilter({true, true, false, false});
  const Camera camera = cameraFor(scene, StandardView::Top);
  const QRectF box(camera.project({-5, 35, 20}), camera.project({110, -5, 20}));
  EXPECT_EQ(picker.in(box, Picker::Inclusion::Inside, camera).size(), 1u);
  EXPECT_EQ(picker.in(box, Picker::Inclusion::Touching, camera).size(), 2u);
}

TEST(PickerTest, ARectangleThatHoldsWholeBodiesTakesBodies) {
  const Scene scene = twoBlocks();
  Picker picker;
  picker.setScene(scene);
  const Camera camera = cameraFor(scene, StandardView::Top);
  const auto boxOf = [&](double right) {
    return QRectF(camera.project({-5, 35, 20}), camera.project({right, -5, 20}));
  };
  const Pick a{Pick::Kind::Body, "a", 0}, b{Pick::Kind::Body, "b", 0};
  EXPECT_EQ(picker.in(boxOf(110), Picker::Inclusion::Inside, camera), std::vector<Pick>{a});
  EXPECT_THAT(picker.in(boxOf(110), Picker::Inclusion::Touching, camera), testing::UnorderedElementsAre(a, b));
  EXPECT_THAT(picker.in(boxOf(145), Picker::Inclusion::Inside, camera), testing::UnorderedElementsAre(a, b));
  // It holds no whole body: faces. Nor does one that touches in the middle of a body.
  for (const Pick& pick : picker.in(QRectF(camera.project({10, 10, 20}), camera.project({20, 5, 20})),
                                    Picker::Inclusion::Touching, camera))
    EXPECT_EQ(pick.kind, Pick::Kind::Face);
  // Faces are asked for.
  picker.setFilter({false, true, false, false});
  EXPECT_EQ(picker.in(boxOf(95), Picker::Inclusion::Inside, camera).size(), 6u);
}

TEST(PickerTest, FindsEachOfManyBodies) {
  std::vector<std::pair<BodyId, Shape>> bodies;
  for (int i = 0; i < 64; ++i) {
    Plane place;
    place.origin = {24.0 * (i % 8), 24.0 * (i / 8), 0};
    const std::string id = "b" + std::to_string(i);
    bodies.emplace_back(id, i % 8 == 0 ? makeBlock(id, place, 20, 20, 20) : makeTorus(id, place, 9, 4));
  }
  const Scene scene = sceneOf(bodies);
  Picker picker;
  picker.setScene(scene);
  for (const StandardView view : {StandardView::Top, StandardView::Home}) {
    const Camera camera = cameraFor(scene, view);
    for (int i = 0; i < 64; ++i) {
      const Point top = i % 8 == 0 ? Point{24.0 * (i % 8) + 10, 24.0 * (i / 8) + 10, 20}
                                   : Point{24.0 * (i % 8) + 9, 24.0 * (i / 8), 4};
      const auto hits = picker.at(camera.project(top), 3, camera);
      ASSERT_FALSE(hits.empty()) << i;
      // Seen from the side, a block may hide the ring behind it.
      if (view == StandardView::Top || i % 8 == 0) {
        EXPECT_EQ(hits.front().pick.body, "b" + std::to_string(i));
      }
    }
  }
}

TEST(PickerTest, NewSceneReplacesTheOldOne) {
  Picker picker;
  Scene scene = blockScene();
  picker.setScene(scene);
  const Camera camera = cameraFor(scene, StandardView::Top);
  scene.bodies.front().pickable = false;
  picker.setScene(scene);
  EXPECT_TRUE(picker.at(camera.project({20, 15, 20}), 3, camera).empty());
  scene.bodies.front().pickable = true;
  picker.setScene(scene);
  EXPECT_FALSE(picker.at(camera.project({20, 15, 20}), 3, camera).empty());
  // Another picker for the same pictures, after the first is gone.
  auto first = std::make_unique<Picker>();
  picker.setScene({});
  first->setScene(scene);
  first.reset();
  picker.setScene(scene);
  EXPECT_FALSE(picker.at(camera.project({20, 15, 20}), 3, camera).empty());
}

TEST(GaugeTest, DragFollowsThePointerAlongTheGauge) {
  const Camera camera = cameraFor(blockScene(), StandardView::Home);
  const Gauge gauge{"height", {40, 30, 0}, {0, 0, 1}, 20};
  const GaugeShape shape = shapeOf(gauge, camera);
  EXPECT_TRUE(takes(shape, shape.bead, 5));
  EXPECT_FALSE(takes(shape, shape.bead + QPointF(40, 40), 5));
  const auto value = dragged(gauge, camera.project({40, 30, 33}), camera);
  ASSERT_TRUE(value);
  EXPECT_NEAR(*value, 33, 1e-6);
  const Gauge centred{"kerf", {40, 30, 10}, {0, 0, 1}, 4, true};
  EXPECT_NEAR(*dragged(centred, camera.project({40, 30, 13}), camera), 6, 1e-6);
  // Straight along it there is no telling.
  EXPECT_FALSE(dragged(gauge, {10, 10}, cameraFor(blockScene(), StandardView::Top)));
}

TEST(GaugeTest, AngleFollowsThePointerRoundItsAxis) {
  Camera camera;
  camera.setViewport({800, 600});
  camera.look(StandardView::Top, Box{{-50, -50, 0}, {50, 50, 10}});
  const Gauge gauge = Gauge::angle("tilt", {5, 5, 0}, {0, 0, 1}, {1, 0, 0}, 30, 0.3);
  const GaugeShape shape = shapeOf(gauge, camera);
  EXPECT_TRUE(takes(shape, camera.project(gauge.armAt(0.3)), 5));
  EXPECT_FALSE(takes(shape, camera.project(gauge.armAt(1.3)), 5));
  for (const double angle : {-2.0, -0.4, 0.0, 0.9, 2.5})
    EXPECT_NEAR(*dragged(gauge, camera.project(gauge.armAt(angle)), camera), angle, 1e-6);
  EXPECT_GT(arcOf(gauge, camera).size(), 10);
  // Looked at from the side the arm's plane is a line: it cannot be dragged there.
  camera.look(StandardView::Front, Box{{-50, -50, 0}, {50, 50, 10}});
  EXPECT_FALSE(dragged(gauge, {400, 300}, camera));
}

TEST(GaugeTest, AnglesSnapToDegreesAndRatherToFives) {
  const double degree = std::acos(-1.0) / 180;
  EXPECT_NEAR(snappedAngle(31.2 * degree), 30 * degree, 1e-12);
  EXPECT_NEAR(snappedAngle(32.3 * degree), 32 * degree, 1e-12);
  EXPECT_NEAR(snappedAngle(-44.1 * degree), -45 * degree, 1e-12);
}

TEST(GaugeTest, SnapsToRoundSteps) {
  const Camera camera = cameraFor(blockScene(), StandardView::Home);
  const double step = snapped(1e6 + 0.4999, camera) - snapped(1e6, camera);
  EXPECT_TRUE(step == 0 || std::abs(std::log10(step) - std::round(std::log10(step))) < 1e-9 || step > 0);
  EXPECT_NEAR(snapped(12.3456, camera), 12.3456, 4 * camera.pixelSize() * 2.5);
}

TEST(SilhouetteTest, OfACylinderIsTwoLinesAlongItsSides) {
  Progress progress;
  const auto picture = pictureOf(makeCylinder("c", Plane{}, 10, 30), progress);
  const Scene scene = sceneOf({{"c", picture->form.exact("c")}});
  Camera camera = cameraFor(scene, StandardView::Front);
  camera.orbit({}, 33, 0);
  const std::vector<float> lines = silhouette(picture->mesh, camera);
  ASSERT_FALSE(lines.empty());
  const Vector sideways = camera.right();
  double length = 0;
  for (std::size_t i = 0; i + 5 < lines.size(); i += 6) {
    EXPECT_NEAR(std::abs(dot({lines[i], lines[i + 1], 0}, sideways)), 10, 0.2);
    length += std::abs(lines[i + 5] - lines[i + 2]);
  }
  EXPECT_NEAR(length, 60, 1e-3);
  EXPECT_TRUE(
      silhouette(pictureOf(makeBlock("b", Plane{}, 1, 2, 3), progress)->mesh, cameraFor(scene, StandardView::Home))
          .empty());
}

using Picture = PixelTest;

TEST_F(Picture, BackgroundBodyAndInk) {
  const Scene scene = blockScene();
  const Camera camera = cameraFor(scene, StandardView::Home);
  const QImage image = draw(scene, camera);
  EXPECT_LT(difference(image.pixelColor(4, 4), ViewLook::light().backgroundTop), 0.05);
  EXPECT_LT(difference(image.pixelColor(4, 595), ViewLook::light().backgroundBottom), 0.05);
  const QColor face = at(image, camera, {20, 15, 20});
  EXPECT_GT(face.greenF(), face.redF() + 0.2);
  EXPECT_LT(at(image, camera, {20, 0, 20}).lightnessF(), 0.35);
}

TEST_F(Picture, WasteIsHatchedInTwoTones) {
  Scene scene = blockScene();
  scene.bodies.front().role = Role::Waste;
  const Camera camera = cameraFor(scene, StandardView::Top);
  const QImage image = draw(scene, camera);
  const QPoint middle = camera.project({20, 15, 20}).toPoint();
  double lightest = 0, darkest = 1;
  for (int i = 0; i < 20; ++i) {
    const double l = image.pixelColor(middle + QPoint(i, 0)).lightnessF();
    lightest = std::max(lightest, l);
    darkest = std::min(darkest, l);
  }
  EXPECT_GT(lightest - darkest, 0.2);
}

TEST_F(Picture, SelectionAndPiecesChangeTheColour) {
  Scene scene = blockScene();
  const Camera camera = cameraFor(scene, StandardView::Top);
  const QColor plain = at(draw(scene, camera), camera, {20, 15, 20});
  const auto top = [&] {
    Picker picker;
    picker.setScene(scene);
    return picker.at(camera.project({20, 15, 20}), 1, camera).front().pick;
  }();
  const QColor selected = at(draw(scene, camera, {{}, {top}}), camera, {20, 15, 20});
  EXPECT_GT(difference(plain, selected), 0.1);
  scene.bodies.front().role = Role::Piece;
  scene.bodies.front().tint = 1;
  const QColor violet = at(draw(scene, camera), camera, {20, 15, 20});
  EXPECT_GT(violet.blueF(), violet.greenF());
}

TEST_F(Picture, SurfaceLiesBeforeTheSolidThatItWasLiftedFrom) {
  const Shape rod = makeCylinder("rod", Plane{}, 20, 40);
  std::vector<Face> sides;
  for (const Face& face : facesOf(rod))
    if (face.origins().front() == "rod:side") sides.push_back(face);
  Scene scene = sceneOf({{"rod", rod}, {"lift", lifted(sides)}});
  scene.bodies.back().color = {0.9, 0.1, 0.1};
  // Whichever comes first: the surface is seen all over.
  for (int order = 0; order < 2; ++order) {
    const Camera camera = cameraFor(scene, StandardView::Home);
    const QImage image = draw(scene, camera);
    for (int i = -8; i <= 8; ++i)
      for (int k = 4; k <= 36; k += 4) {
        const double angle = std::atan2(camera.towardsEye().y, camera.towardsEye().x) + i * 0.08;
        const QColor color = at(image, camera, {20 * std::cos(angle), 20 * std::sin(angle), double(k)});
        EXPECT_GT(color.redF(), color.greenF() + 0.1) << i << ", " << k;
      }
    std::swap(scene.bodies.front(), scene.bodies.back());
  }
}

TEST_F(Picture, MirroredBodyLooksLikeOneMadeThere) {
  // An angle with a slot, and the same one made on the other side: what is drawn must not differ. Nothing is round:
  // circles begin at other points when they are mirrored.
  Progress progress;
  const auto angle = [&](double side) {
    const auto placed = [&](double x, double y, double z, double width, double depth, double height) {
      return makeBlock("b", Plane::through({side > 0 ? x : -x - width, y, z}, {0, 0, 1}), width, depth, height);
    };
    const Shape both = unite({placed(0, 0, 0, 40, 30, 10), placed(0, 0, 0, 10, 30, 30)}, progress).shape;
    return divide(both, {placed(18, 10, -1, 15, 10, 20)}, progress).outside;
  };
  const Scene made = sceneOf({{"a", angle(-1)}});
  const Scene mirrored = sceneOf({{"a", moved(angle(1), Motion::mirror(Plane::through({}, {1, 0, 0})))}});
  for (const StandardView view : {StandardView::Home, StandardView::Top, StandardView::Front}) {
    const Camera camera = cameraFor(made, view);
    const QImage expected = draw(made, camera), image = draw(mirrored, camera);
    int different = 0;
    for (int y = 0; y < image.height(); ++y)
      for (int x = 0; x < image.width(); ++x)
        different += difference(image.pixelColor(x, y), expected.pixelColor(x, y)) > 0.05;
    EXPECT_LT(different, 40) << static_cast<int>(view);
  }
}

TEST_F(Picture, LinesShowTheBackgroundThroughTheFaces) {
  const Scene scene = blockScene();
  const Camera camera = cameraFor(scene, StandardView::Top);
  const QColor through = at(draw(scene, camera, {}, DrawStyle::Lines), camera, {20, 15, 20});
  EXPECT_GT(through.lightnessF(), 0.85);
}

TEST_F(Picture, DashedCutterLinesHaveGaps) {
  Scene scene;
  scene.lines.push_back({{{-50, 0, 0}, {50, 0, 0}}, SceneLine::Style::Cutter});
  Camera camera;
  camera.setViewport({800, 600});
  camera.look(StandardView::Top, {{-60, -40, -1}, {60, 40, 1}});
  const QImage image = draw(scene, camera);
  int violet = 0, gaps = 0;
  for (double x = -40; x < 40; x += 0.4) {
    const QColor color = at(image, camera, {x, 0, 0});
    (color.lightnessF() < 0.75 ? violet : gaps)++;
  }
  EXPECT_GT(violet, 60);
  EXPECT_GT(gaps, 30);
}

/// The largest difference of two pictures in one channel of one pixel, of 255.
int largestDifference(const QImage& a, const QImage& b) {
  int largest = a.size() == b.size() ? 0 : 255;
  for (int y = 0; y < a.height() && largest < 255; ++y)
    for (int x = 0; x < a.width(); ++x) {
      const QRgb p = a.pixel(x, y), q = b.pixel(x, y);
      largest = std::max(
          {largest, std::abs(qRed(p) - qRed(q)), std::abs(qGreen(p) - qGreen(q)), std::abs(qBlue(p) - qBlue(q))});
    }
  return largest;
}

// A frame at rest is put together from layers, so that the pointer redraws its mark alone; while the view moves, all is
// drawn. Both must look the same.
TEST_F(Picture, LayersLookLikeTheWholeFrame) {
  Progress progress;
  Scene scene = sceneOf({{"block", makeBlock("block", Plane{}, 40, 30, 20)},
                         {"rod", makeCylinder("rod", Plane::through({10, -20, 5}, {0, 0, 1}), 6, 30)}});
  const Plane high = Plane::through({20, 15, -5}, {0, 0, 1});
  scene.bodies.push_back(
      {"cutter", "cutter", pictureOf(makeCylinder("cutter", high, 5, 40), progress), {}, Role::Cutter, 0, true});
  scene.lines.push_back({{{0, 0, 20}, {40, 30, 20}}, SceneLine::Style::Drawing});
  renderer_.setScene(scene);
  const auto frame = [&](const Camera& camera, const Highlights& marks, DrawStyle style, bool whole) {
    QOpenGLFramebufferObject target(camera.viewport(), QOpenGLFramebufferObject::CombinedDepthStencil);
    target.bind();
    renderer_.draw({camera, style, whole, 1, ViewLook::light(), marks});
    return target.toImage();
  };
  const Pick top{Pick::Kind::Face, "block", 5}, side{Pick::Kind::Face, "block", 2}, edge{Pick::Kind::Edge, "rod", 0};
  const Pick body{Pick::Kind::Body, "rod", 0}, cutter{Pick::Kind::Body, "cutter", 0};
  const std::vector<Highlights> marks{{}, {top, {}}, {edge, {top, side}}, {body, {}}, {{}, {body}}, {side, {cutter}}};
  for (const StandardView view : {StandardView::Home, StandardView::Top}) {
    const Camera camera = cameraFor(scene, view);
    for (const DrawStyle style : {DrawStyle::ShadedEdges, DrawStyle::Clear, DrawStyle::Lines})
      for (std::size_t i = 0; i < marks.size(); ++i)
        EXPECT_LE(largestDifference(frame(camera, marks[i], style, true), frame(camera, marks[i], style, false)), 3)
            << "marks " << i << ", style " << int(style);
  }
  // Marks do show, and another scene, size or colour is not taken for the last one.
  const Camera camera = cameraFor(scene, StandardView::Home);
  EXPECT_GT(largestDifference(frame(camera, marks[1], {}, false), frame(camera, {}, {}, false)), 20);
  scene.bodies.front().color = {0.9, 0.1, 0.1};
  const QImage before = frame(camera, {}, {}, false);
  renderer_.setScene(scene);
  EXPECT_GT(largestDifference(before, frame(camera, {}, {}, false)), 100);
  Camera smaller = camera;
  smaller.setViewport({500, 300});
  EXPECT_LE(largestDifference(frame(smaller, {}, {}, true), frame(smaller, {}, {}, false)), 3);
}

}  // namespace
}  // namespace kervo

int main(int argc, char** argv) {
  testing::InitGoogleTest(&argc, argv);
  QGuiApplication application(argc, argv);
  return RUN_ALL_TESTS();
}
