// Bodies that sections cut open: their cut faces, what can be picked of them, and a few pixels.
#include "view/cut_faces.h"

#include <gtest/gtest.h>

#include <random>

#include "geom/divide/boolean.h"
#include "geom/primitives.h"
#include "model/section_cut.h"
#include "support/view_driver.h"

namespace kervo::test {
namespace {

Plane standing(Point at) {
  Plane plane;
  plane.origin = at;
  return plane;
}

SceneSection byPlane(const std::string& letter, Plane plane) {
  auto cut = std::make_shared<SectionCut>();
  cut->clip.regions = {{plane}};
  cut->plane = plane;
  return {StepId("section" + letter), letter, "", cut};
}

SceneSection byBox(Box box) {
  auto cut = std::make_shared<SectionCut>();
  Clip::Region inside;
  for (const Vector& in : {Vector{1, 0, 0}, Vector{0, 1, 0}, Vector{0, 0, 1}}) {
    inside.push_back(Plane::through(box.low, in));
    inside.push_back(Plane::through(box.high, -in));
  }
  cut->clip.regions = {inside};
  return {StepId("box"), "X", "", cut};
}

/// All bodies cut by all sections, unless they say otherwise.
Scene cut(Scene scene, std::vector<SceneSection> sections, std::vector<std::vector<std::size_t>> cutBy = {}) {
  scene.sections = std::move(sections);
  for (std::size_t i = 0; i < scene.bodies.size(); ++i)
    if (i < cutBy.size())
      scene.bodies[i].cutBy = cutBy[i];
    else
      for (std::size_t k = 0; k < scene.sections.size(); ++k) scene.bodies[i].cutBy.push_back(k);
  auto cuts = std::make_shared<CutFaces>();
  cuts->update(scene);
  scene.cuts = cuts;
  return scene;
}

Scene twoBlocks() {
  return sceneOf({{"a", makeBlock("a", standing({0, 0, 0}), 40, 30, 20)},
                  {"b", makeBlock("b", standing({60, 0, 0}), 40, 30, 20)}});
}

const Plane frontHalf = Plane::through({0, 15, 0}, {0, -1, 0});  ///< what lies in front of y = 15 goes
const Plane rightHalf = Plane::through({20, 0, 0}, {1, 0, 0});

TEST(CutFaces, EachBodyHasOneWhereASectionMeetsIt) {
  const Scene scene = cut(twoBlocks(), {byPlane("A", frontHalf)});
  ASSERT_EQ(scene.cuts->faces().size(), 2u);
  for (const CutFace& face : scene.cuts->faces()) {
    EXPECT_TRUE(face.filled);
    EXPECT_NEAR(face.outline->area(), 40 * 20, 1e-6);
  }
  EXPECT_TRUE(scene.cuts->overlaps().empty());
  EXPECT_TRUE(scene.cuts->unsound().empty());
}

TEST(CutFaces, OneSectionSparesWhatAnotherCuts) {
  // A cuts only the first body, B both, also where three meet.
  const Scene scene =
      cut(twoBlocks(), {byPlane("A", frontHalf), byPlane("B", Plane::through({0, 0, 10}, {0, 0, 1}))}, {{0, 1}, {1}});
  ASSERT_EQ(scene.cuts->faces().size(), 3u);
  const Hidden first = hiddenOf(scene, scene.bodies[0]), second = hiddenOf(scene, scene.bodies[1]);
  EXPECT_TRUE(first.at({10, 5, 5}));
  EXPECT_FALSE(second.at({70, 5, 5}));
  EXPECT_TRUE(second.at({70, 5, 15}));
  // Where the two cut faces of the first body meet there is a line as long as the body.
  ASSERT_EQ(scene.cuts->meetings().size(), 1u);
  const Polyline& line = scene.cuts->meetings()[0].lines.at(0);
  EXPECT_NEAR(distance(line[0], line[1]), 40, 1e-9);
  for (const Point& end : line) {
    EXPECT_NEAR(end.y, 15, 1e-9);
    EXPECT_NEAR(end.z, 10, 1e-9);
  }
}

TEST(CutFaces, BodiesInOnePlaceMarkTheirOverlap) {
  const Scene scene = cut(sceneOf({{"a", makeBlock("a", standing({0, 0, 0}), 40, 30, 20)},
                                   {"b", makeBlock("b", standing({30, 0, 5}), 40, 30, 20)}}),
                          {byPlane("A", frontHalf)});
  ASSERT_EQ(scene.cuts->overlaps().size(), 1u);
  double twice = 0;
  const auto& corners = scene.cuts->overlaps()[0].triangles;
  for (std::size_t i = 0; i + 2 < corners.size(); i += 3)
    twice += length(cross(corners[i + 1] - corners[i], corners[i + 2] - corners[i]));
  EXPECT_NEAR(twice / 2, 10 * 15, 1e-6);
}

TEST(CutFaces, ABoxCutsWithItsSidesAsFarAsTheyReach) {
  const Scene scene =
      cut(sceneOf({{"a", makeBlock("a", standing({0, 0, 0}), 40, 30, 20)}}), {byBox({{20, -10, 10}, {60, 10, 60}})});
  const Hidden hidden = hiddenOf(scene, scene.bodies[0]);
  EXPECT_TRUE(hidden.at({30, 5, 15}));
  EXPECT_FALSE(hidden.at({30, 15, 15}));
  // Seen from above at a place in the notch: its floor at z = 10.
  const auto floor = scene.cuts->along({30, 5, 100}, {0, 0, -1});
  ASSERT_TRUE(floor);
  EXPECT_NEAR(floor->point.z, 10, 1e-9);
  // Beside the notch no cut face is met.
  EXPECT_FALSE(scene.cuts->along({10, 5, 100}, {0, 0, -1}));
}

TEST(CutFaces, OnlyWhatChangedIsFoundAgain) {
  Scene scene = cut(twoBlocks(), {byPlane("A", frontHalf), byPlane("B", rightHalf)});
  const auto before = scene.cuts->faces()[0].outline;
  auto cuts = std::make_shared<CutFaces>(*scene.cuts);
  scene.sections[1] = byPlane("B", rightHalf.moved(-5));
  cuts->update(scene);
  EXPECT_EQ(cuts->faces()[0].outline, before) << "the section that stays";
}

TEST(CutFaces, OfAnOpenSurfaceIsALine) {
  Scene scene = sceneOf({{"a", makeBlock("a", standing({0, 0, 0}), 40, 30, 20)}});
  auto picture = std::make_shared<BodyPicture>();
  picture->mesh = scene.bodies[0].picture->mesh;
  picture->mesh.closed = false;
  scene.bodies[0].picture = picture;
  const Scene open = cut(scene, {byPlane("A", frontHalf)});
  ASSERT_EQ(open.cuts->faces().size(), 1u);
  EXPECT_FALSE(open.cuts->faces()[0].filled);
  EXPECT_FALSE(open.cuts->along({20, -100, 10}, {0, 1, 0})) << "one sees through it";
}

TEST(CutFaces, ASolidThatIsNotClosedThereSaysSo) {
  Scene scene = sceneOf({{"a", makeBlock("a", standing({0, 0, 0}), 40, 30, 20)}});
  auto picture = std::make_shared<BodyPicture>();
  picture->form = scene.bodies[0].picture->form;
  picture->mesh = scene.bodies[0].picture->mesh;
  picture->mesh.closed = false;
  // Without its bottom: what stands across it is open below.
  for (std::size_t face = 0; face < scene.bodies[0].picture->faces.size(); ++face) {
    if (scene.bodies[0].picture->faces[face].origins().front() != "a:bottom") continue;
    const BodyMesh::Range gone = picture->mesh.faceTriangles[face];
    for (std::size_t i = std::size_t{3} * gone.first; i < std::size_t{3} * (gone.first + gone.count); ++i)
      picture->mesh.triangles[i] = 0;
  }
  scene.bodies[0].picture = picture;
  const Scene open = cut(scene, {byPlane("A", frontHalf)});
  EXPECT_EQ(open.cuts->unsound(), std::vector<BodyId>{"a"});
  ASSERT_EQ(open.cuts->faces().size(), 1u);
  EXPECT_FALSE(open.cuts->faces()[0].filled) << "nothing leaks";
  EXPECT_EQ(open.cuts->faces()[0].outline->open.size(), 1u);
}

// What the pointer finds is never what is clipped away.
TEST(PickInSection, FindsTheCutFaceAndWhatIsBehind) {
  const Scene scene = cut(twoBlocks(), {byPlane("A", frontHalf)});
  Picker picker;
  picker.setScene(scene);
  const Camera camera = cameraFor(scene, StandardView::Front);
  const auto hits = picker.at(camera.project({20, 15, 10}), 3, camera);
  ASSERT_FALSE(hits.empty());
  EXPECT_EQ(hits[0].pick.kind, Pick::Kind::Cut);
  EXPECT_EQ(hits[0].pick.body, "a");
  EXPECT_NEAR(hits[0].point.y, 15, 1e-6);
  for (const Hit& hit : hits) EXPECT_GE(hit.point.y, 15 - 1e-3);
  ASSERT_TRUE(scene.cuts->find(scene, hits[0].pick));
  // The edges of the front are gone, those of the back are behind the cut face.
  for (const Hit& hit : picker.at(camera.project({20, 0, 20}), 3, camera)) EXPECT_GE(hit.point.y, 15 - 1e-3);
  // While only faces are wanted, nobody looks through a cut face.
  picker.setFilter({false, true, false, false, false, false});
  EXPECT_TRUE(picker.at(camera.project({20, 15, 10}), 3, camera).empty());
  // The body itself can be taken by its cut face.
  picker.setFilter({true, false, false, false, false, false});
  const auto bodies = picker.at(camera.project({20, 15, 10}), 3, camera);
  ASSERT_EQ(bodies.size(), 1u);
  EXPECT_EQ(bodies[0].pick.body, "a");
}

TEST(PickInSection, FindsTheFarSideOfAFaceWhoseNearSideIsGone) {
  const Scene scene =
      cut(sceneOf({{"c", makeCylinder("c", Plane{}, 20, 50)}}),
          {byPlane("A", Plane::through({}, {0, -1, 0})), byPlane("B", Plane::through({0, 0, 30}, {0, 0, 1}))});
  // Looking down on the hollow: a tube would show its inside. Here the side face is met only behind y = 0.
  Picker picker;
  picker.setScene(scene);
  const Camera camera = cameraFor(scene, StandardView::Side);
  for (const Hit& hit : picker.at(camera.project({0, 10, 20}), 2, camera)) EXPECT_GE(hit.point.y, -1e-6);
  EXPECT_TRUE(picker.at(camera.project({0, -10, 20}), 2, camera).empty());
  EXPECT_TRUE(picker.at(camera.project({0, 10, 40}), 2, camera).empty());
}

TEST(PickInSection, BoxesTakeWhatIsSeen) {
  const Scene scene = cut(twoBlocks(), {byPlane("A", Plane::through({30, 0, 0}, {1, 0, 0}))}, {{0}, {}});
  Picker picker;
  picker.setScene(scene);
  const Camera camera = cameraFor(scene, StandardView::Top);
  const auto rect = [&](Point from, Point to) { return QRectF(camera.project(from), camera.project(to)).normalized(); };
  // Around what is left of the first body: all of it that is seen is inside.
  const auto whole = picker.in(rect({-5, -5, 20}, {32, 35, 20}), Picker::Inclusion::Inside, camera);
  ASSERT_EQ(whole.size(), 1u);
  EXPECT_EQ(whole[0].kind, Pick::Kind::Body);
  EXPECT_EQ(whole[0].body, "a");
  // Where the part that is hidden was there is nothing to touch.
  EXPECT_TRUE(picker.in(rect({33, 5, 20}, {50, 25, 20}), Picker::Inclusion::Touching, camera).empty());
}

class SectionPixels : public PixelTest {};

TEST_F(SectionPixels, ShowTheCutFaceAndNotWhatIsClipped) {
  const Scene scene = cut(twoBlocks(), {byPlane("A", frontHalf)}, {{0}, {}});
  const Camera camera = cameraFor(scene, StandardView::Front);
  const QImage image = draw(scene, camera);
  // The cut face is flat and has the body's own colour; the other body's front is lit.
  const QColor body = QColor::fromRgbF(0.2f, 0.6f, 0.4f);
  EXPECT_LT(difference(at(image, camera, {20, 15, 10}), body), 0.03);
  Scene empty = cut(twoBlocks(), {byPlane("A", Plane::through({-10, 0, 0}, {1, 0, 0}))}, {{0}, {}});
  const QImage gone = draw(empty, camera);
  EXPECT_GT(difference(at(gone, camera, {20, 0, 10}), body), 0.5) << "all of the first body is hidden";
  EXPECT_LT(difference(at(gone, camera, {80, 0, 10}), at(image, camera, {80, 0, 10})), 0.02);
}

TEST_F(SectionPixels, HatchLinesStandAtTrueScale) {
  Scene scene = sceneOf({{"a", makeBlock("a", standing({0, 0, 0}), 40, 30, 20)}});
  auto section = byPlane("A", frontHalf);
  auto hatched = std::make_shared<SectionCut>(*section.cut);
  hatched->fill.by = CutFill::By::Hatch;
  hatched->fill.hatch = "lining";
  hatched->fill.scale = 2;
  section.cut = hatched;
  scene = cut(std::move(scene), {section});
  const Camera camera = cameraFor(scene, StandardView::Front);
  const QImage image = draw(scene, camera);
  // Across a level line: dark every 6 mm · √2, as the lines run at 45 degrees and lie 2 · 3 mm apart.
  int lines = 0;
  bool dark = false;
  const double from = 2, to = 38;
  for (double x = from; x < to; x += camera.pixelSize() / 2) {
    const bool now = at(image, camera, {x, 15, 10.3}).lightnessF() < 0.3;
    lines += now && !dark;
    dark = now;
  }
  EXPECT_NEAR(lines, (to - from) / (6 * std::sqrt(2)), 1.01);
}

TEST_F(SectionPixels, TheBoxTakesItsInsideAway) {
  const Scene scene =
      cut(sceneOf({{"a", makeBlock("a", standing({0, 0, 0}), 40, 30, 20)}}), {byBox({{20, -10, 10}, {60, 10, 60}})});
  const Camera camera = cameraFor(scene, StandardView::Top);
  const QImage image = draw(scene, camera);
  const QColor body = QColor::fromRgbF(0.2f, 0.6f, 0.4f);
  EXPECT_LT(difference(at(image, camera, {30, 5, 10}), body), 0.03) << "the floor of the notch is a cut face";
  EXPECT_GT(difference(at(image, camera, {10, 5, 20}), body), 0.03) << "a face in the light";
}

// 200 sections of random bodies, stated seed: the pixels that a cut face fills cover the kernel's area.
TEST_F(SectionPixels, FillWhatTheKernelCuts) {
  std::mt19937 random(2015);
  std::uniform_real_distribution<double> any(-1, 1), size(5, 18);
  Progress progress;
  int looked = 0;
  for (int number = 0; number < 200; ++number) {
    const Shape outer = makeCylinder("o", Plane{}, 14 + size(random) / 2, 40);
    const Shape inner =
        makeBlock("i", standing({any(random) * 4 - 4, any(random) * 4 - 4, -5}), size(random), size(random), 60);
    const Shape shape = divide(outer, {inner}, progress).outside;
    const double height = 20 + any(random) * 15;
    const Scene scene = cut(sceneOf({{"s", shape}}), {byPlane("A", Plane::through({0, 0, height}, {0, 0, 1}))});
    const Camera camera = cameraFor(scene, StandardView::Top);
    const QImage image = draw(scene, camera);
    int filledPixels = 0;
    const QColor body = QColor::fromRgbF(0.2f, 0.6f, 0.4f);
    for (int y = 0; y < image.height(); ++y)
      for (int x = 0; x < image.width(); ++x) filledPixels += difference(image.pixelColor(x, y), body) < 0.03;
    const double seen = filledPixels * camera.pixelSize() * camera.pixelSize();
    const double exact = shape.volume() / 40;
    // The ink around it takes a little more than a pixel and a half on each side.
    double outline = 0;
    for (const auto& loop : scene.cuts->faces().at(0).outline->loops)
      for (std::size_t i = 0; i < loop.size(); ++i)
        outline += std::hypot(loop[(i + 1) % loop.size()].u - loop[i].u, loop[(i + 1) % loop.size()].v - loop[i].v);
    // Nowhere farther from the kernel's outline than the mesh is from the shape.
    const double deflection = MeshQuality::forSize(shape.roughBox().diagonal()).deflection;
    EXPECT_NEAR(scene.cuts->faces()[0].outline->area(), exact, deflection * outline);
    EXPECT_NEAR(seen, exact - outline * 1.5 * camera.pixelSize(), 0.9 * outline * camera.pixelSize());
    ++looked;
  }
  EXPECT_EQ(looked, 200);
}

}  // namespace
}  // namespace kervo::test
