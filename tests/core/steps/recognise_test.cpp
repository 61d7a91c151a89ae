// Analytic surfaces recognised in bodies that came as splines: sizes, volumes, edges, and what stays.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <cmath>
#include <numbers>
#include <random>

#include "geom/divide/boolean.h"
#include "geom/motion.h"
#include "geom/primitives.h"
#include "geom/surface/recognised.h"
#include "geom/surface/reseated_faces.h"
#include "steps/registry.h"
#include "support/document_builder.h"
#include "support/random_bodies.h"
#include "support/shapes.h"

namespace kervo {
namespace {

using namespace test;
using testing::HasSubstr;
constexpr double pi = std::numbers::pi;

std::map<std::string, int> kindsIn(const Shape& shape) {
  std::map<std::string, int> kinds;
  for (const Face& face : facesOf(shape)) ++kinds[face.surfaceName()];
  return kinds;
}

/// The name of the only face of that kind.
std::string faceOfKind(const Shape& shape, const std::string& kind) {
  for (const Face& face : facesOf(shape))
    if (face.surfaceName() == kind) return face.origins().front();
  return "";
}

/// A cube of 10 mm whose top is a field of 10 × 10 bumps.
Mesh dented() {
  std::mt19937 random(3);
  const auto number = [](int i, int k) { return static_cast<std::uint32_t>(i * 11 + k); };
  std::vector<Point> points;
  for (int i = 0; i <= 10; ++i)
    for (int k = 0; k <= 10; ++k) {
      const bool border = i == 0 || k == 0 || i == 10 || k == 10;
      points.push_back({1.0 * i, 1.0 * k, 10 + (border ? 0 : std::uniform_real_distribution(0.05, 0.3)(random))});
    }
  std::vector<Mesh::Triangle> triangles;
  for (int i = 0; i < 10; ++i)
    for (int k = 0; k < 10; ++k) {
      triangles.push_back({number(i, k), number(i + 1, k), number(i + 1, k + 1)});
      triangles.push_back({number(i, k), number(i + 1, k + 1), number(i, k + 1)});
    }
  // The sides, each a fan from a corner below, and the bottom.
  const auto low = static_cast<std::uint32_t>(points.size());
  for (const auto& [x, y] : {std::pair{0, 0}, {10, 0}, {10, 10}, {0, 10}}) points.push_back({1.0 * x, 1.0 * y, 0});
  for (int i = 0; i < 10; ++i) {
    triangles.push_back({low, number(i + 1, 0), number(i, 0)});
    triangles.push_back({low + 1, number(10, i + 1), number(10, i)});
    triangles.push_back({low + 2, number(9 - i, 10), number(10 - i, 10)});
    triangles.push_back({low + 3, number(0, 9 - i), number(0, 10 - i)});
  }
  triangles.push_back({low, low + 1, number(10, 0)});
  triangles.push_back({low + 1, low + 2, number(10, 10)});
  triangles.push_back({low + 2, low + 3, number(0, 10)});
  triangles.push_back({low + 3, low, number(0, 0)});
  triangles.push_back({low, low + 2, low + 1});
  triangles.push_back({low, low + 3, low + 2});
  return {points, triangles};
}

Document withMesh(Document document, const Mesh& mesh) {
  document.made.shapes.emplace("scan", Shape(mesh));
  return document.withStep(
      step("import1", "bring-in", {{"bodies", std::vector<BroughtBody>{{"scan", "Scan", std::nullopt, "", {}}}}}));
}

Recognised again(const Shape& shape, double tolerance = 1e-3) {
  Progress progress;
  return recognised(shape, {}, tolerance, progress);
}

struct Sample {
  std::string name;
  Shape shape;
};

std::vector<Sample> samples() {
  Progress progress;
  const Shape rod = makeCylinder("rod", Plane::through({3, -2, 1}, {1, 2, 3}), 7, 20);
  const Shape bored = divide(makeBlock("box", Plane(), 40, 30, 20),
                             {makeCylinder("bore", Plane::through({20, 15, -5}, {0, 0, 1}), 6, 40)}, progress)
                          .outside;
  return {{"rod", rod},
          {"cone", makeCone("cone", Plane::through({0, 0, 0}, {0, 1, 1}), 9, 4, 15)},
          {"tip", makeCone("tip", Plane::through({0, 0, 0}, {0, 0, 1}), 9, 0, 15)},
          {"ball", makeSphere("ball", Plane::through({1, 2, 3}, {0, 0, 1}), 8)},
          {"ring", makeTorus("ring", Plane::through({5, 5, 5}, {1, 0, 2}), 20, 5)},
          {"bored", bored}};
}

TEST(Recognised, GivesBackWhatSplinesWereMadeOf) {
  for (const auto& [name, shape] : samples()) {
    const Shape splines = asSplines(shape).shape;
    ASSERT_EQ(kindsIn(splines).size(), 1u) << name;
    ASSERT_NEAR(splines.volume(), shape.volume(), 1e-7 * shape.volume()) << name;
    const Recognised found = again(splines);
    EXPECT_EQ(found.left, 0) << name;
    EXPECT_LT(found.off, 1e-7) << name;
    EXPECT_FALSE(kindsIn(found.shape).contains("free-form")) << name;
    EXPECT_NEAR(found.shape.volume(), shape.volume(), 1e-9 * shape.volume()) << name;
    EXPECT_NEAR(found.shape.area(), shape.area(), 1e-9 * shape.area()) << name;
    for (const auto& [kind, count] : kindsIn(shape)) EXPECT_TRUE(kindsIn(found.shape).contains(kind)) << name << kind;
    EXPECT_TRUE(found.shape.valid()) << name;
  }
}

TEST(Recognised, HolesAndEdgesHaveSizesAgain) {
  const Shape splines = asSplines(samples().back().shape).shape;
  const Recognised found = again(splines);
  double radius = 0;
  for (const Face& face : facesOf(found.shape))
    if (face.surfaceName() == "cylinder") {
      ASSERT_TRUE(face.axis());
      radius = distance(face.samplePoint(),
                        face.axis()->point + face.axis()->direction *
                                                 dot(face.samplePoint() - face.axis()->point, face.axis()->direction));
    }
  EXPECT_NEAR(radius, 6, 1e-9);
  EXPECT_GT(found.edges, 12) << "the lines of the block and the circles of the bore";
  // What is recognised is cut as what was made so.
  Progress progress;
  const Shape tool = makeCylinder("tool", Plane::through({20, 15, 10}, {1, 0, 0}), 3, 40);
  const Division cut = divide(found.shape, {tool}, progress), wanted = divide(samples().back().shape, {tool}, progress);
  EXPECT_NEAR(cut.outside.volume(), wanted.outside.volume(), 1e-7 * wanted.outside.volume());
}

TEST(Recognised, OnlyWithinTheToleranceAndOnlyWhatWasAsked) {
  // An ellipsoid is no sphere.
  const Shape ball = asSplines(makeSphere("ball", Plane(), 10)).shape;
  Progress progress;
  const Recognised none = recognised(ball, {"nothing"}, 1e-3, progress);
  EXPECT_TRUE(none.kinds.empty());
  EXPECT_EQ(none.left, 0);
  const Shape bored = asSplines(samples().back().shape).shape;
  std::set<std::string> bore;
  for (const Face& face : facesOf(bored))
    for (const std::string& origin : face.origins())
      if (origin.find("bore") != std::string::npos) bore.insert(origin);
  const Recognised one = recognised(bored, bore, 1e-3, progress);
  EXPECT_EQ(one.kinds.size(), 1u);
  EXPECT_TRUE(one.kinds.contains("cylinder"));
  EXPECT_TRUE(kindsIn(one.shape).contains("free-form"));
  EXPECT_NEAR(one.shape.volume(), bored.volume(), 1e-8 * bored.volume());
}

TEST(RecogniseStep, TellsWhatItFoundAndWhatNot) {
  const Model model =
      made(documentOf({block("b", "10", "10", "10"), step("r", "recognise", {{"bodies", bodies({"b"})}})}));
  EXPECT_THAT(errorOf(model, "r"), HasSubstr("there is no free-form face"));
  DrawnCurve line{"l", "line", {}};
  for (const char* number : {"0", "0", "0", "50"}) line.numbers.emplace_back(number);
  const Model twisted = made(documentOf(
      {drawing("path", PlanePick::standard("xy"), {line}),
       drawing("d", PlanePick::standard("xz"), {circle("o", "0", "0", "5")}),
       step("s", "sweep", {{"profiles", allOf("d")}, {"path", StepPick{"path"}}, {"twist", Expression("30 deg")}}),
       step("r", "recognise", {{"bodies", bodies({"s"})}})}));
  ASSERT_FALSE(twisted.failed()) << errorOf(twisted, "r");
  EXPECT_NEAR(volume(twisted, "s"), pi * 25 * 50, 1e-4);
  EXPECT_THAT(report(twisted, "r").result->audit.notes.front(), HasSubstr("1 × cylinder"));
}

TEST(RecogniseStep, IsOfferedForAFreeFormFaceOnly) {
  const StepKind* kind = allStepKinds().find("recognise");
  ASSERT_TRUE(kind);
  Selected selected;
  selected.picks.push_back({.what = Picked::What::Face, .body = "a", .face = {"a", "a:side", std::nullopt}});
  EXPECT_FALSE(kind->offered(selected));
  selected.picks.front().freeForm = true;
  EXPECT_EQ(kind->offered(selected), "Recognise what it is");
}

/// A document with a mesh of a body, and a step that recognises it.
Document meshThenRecognise(const std::vector<Step>& bodies, const BodyId& body,
                           const std::string& fineness = "0.05 mm") {
  Document document = documentOf(bodies);
  return document
      .withStep(step("mesh", "make_mesh", {{"bodies", test::bodies({body})}, {"tolerance", Expression(fineness)}}))
      .withStep(step("exact", "recognise", {{"bodies", test::bodies({body})}}));
}

TEST(RecogniseStep, MakesASolidOfAMeshThatIsCutFurther) {
  const std::vector<Step> bored{block("plate", "100", "60", "10"),
                                drawing("d", onFace("plate", "plate:top"), {circle("c", "40", "30", "8")}),
                                step("bore", "cut", {{"stock", test::bodies({"plate"})}, {"profiles", allOf("d")}})};
  const Document document = meshThenRecognise(bored, "plate");
  const Model model = made(document);
  ASSERT_FALSE(model.failed()) << errorOf(model, "exact");
  EXPECT_EQ(model.find("plate")->form.mesh(), nullptr);
  EXPECT_NEAR(volume(model, "plate"), 60000 - 640 * pi, 1e-3);
  EXPECT_EQ(kindsIn(model.find("plate")->shape()), (std::map<std::string, int>{{"plane", 6}, {"cylinder", 1}}));
  EXPECT_THAT(report(model, "exact").result->audit.notes.front(), HasSubstr("1 × cylinder, 6 × plane"));
  // Its faces are picked as any: the bore is a bore again.
  const Document closed = document.withStep(step(
      "closed", "remove_faces",
      {{"faces",
        std::vector<FaceReference>{{"plate", faceOfKind(model.find("plate")->shape(), "cylinder"), std::nullopt}}}}));
  EXPECT_NEAR(volume(made(closed), "plate"), 60000, 1e-6);
}

TEST(RecogniseStep, LeavesAMeshOfWhichOnlyAPartIsRecognised) {
  // A cube with one side dented at random.
  Document document;
  Mesh mesh = dented();
  document = withMesh(document, mesh);
  const Model model = made(document.withStep(step("exact", "recognise", {{"bodies", test::bodies({"import1"})}})));
  ASSERT_FALSE(model.failed()) << errorOf(model, "exact");
  EXPECT_NE(model.find("import1")->form.mesh(), nullptr) << "it stays what it was";
  const Body* made = model.find("exact/import1");
  ASSERT_NE(made, nullptr);
  EXPECT_EQ(made->shape().kind(), BodyKind::Surface);
  const auto faces = facesOf(made->shape());
  EXPECT_EQ(
      std::count_if(faces.begin(), faces.end(), [](const Face& each) { return std::abs(each.area() - 100) < 1e-6; }), 5)
      << "the whole sides";
  EXPECT_THAT(report(model, "exact").result->audit.warnings.front(), HasSubstr("were not recognised"));
}

// 25 random blocks with posts and rods taken out, meshed and recognised: each comes back as what it was, to its last
// face, or is told not to be whole; few are.
TEST(RecogniseStep, GivesBackRandomBodiesOrSaysSo) {
  int whole = 0;
  for (unsigned seed = 1; seed <= 25; ++seed) {
    RandomBodies random(seed);
    const Document cutOut = documentOf(random.steps(1, 3))
                                .withStep(step("cut", "combine",
                                               {{"verb", text("subtract")},
                                                {"stock", test::bodies({"s0"})},
                                                {"cutters", test::bodies({"c0", "c1", "c2"})}}));
    const Model before = made(cutOut);
    ASSERT_FALSE(before.failed()) << errorOf(before, "cut");
    Document document = cutOut;
    std::vector<BodyId> ids;
    double area = 0;
    for (const Body& body : before.bodies) {
      ids.push_back(body.id);
      area += body.shape().area();
    }
    document =
        document.withStep(step("mesh", "make_mesh", {{"bodies", test::bodies(ids)}}))
            .withStep(step("exact", "recognise", {{"bodies", test::bodies(ids)}, {"tolerance", Expression("0.005")}}));
    const Model after = made(document);
    ASSERT_FALSE(after.failed()) << seed << errorOf(after, "exact");
    const bool exact =
        std::all_of(ids.begin(), ids.end(), [&](const BodyId& id) { return !after.find(id)->form.mesh(); });
    if (!exact) {
      EXPECT_FALSE(report(after, "exact").result->audit.warnings.empty()) << seed;
      continue;
    }
    ++whole;
    for (const BodyId& id : ids) {
      const Shape &was = before.find(id)->shape(), &is = after.find(id)->shape();
      EXPECT_NEAR(is.volume(), was.volume(), 1e-5 * was.volume()) << seed;
      EXPECT_TRUE(is.valid() && is.watertight()) << seed;
      EXPECT_EQ(kindsIn(is)["cylinder"] > 0, kindsIn(was)["cylinder"] > 0) << seed;
    }
  }
  EXPECT_GE(whole, 22);
}

}  // namespace
}  // namespace kervo
