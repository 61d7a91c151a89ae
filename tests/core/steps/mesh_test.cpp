// Meshes through the steps that take them.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "base/error.h"
#include "geom/mesh/mesh_boolean.h"
#include "support/document_builder.h"
#include "support/meshes.h"

namespace kervo {
namespace {

using namespace test;
using testing::HasSubstr;

constexpr double pi = std::numbers::pi;

/// A document whose first bodies are meshes, called m1, m2, …, or m if there is one.
Document meshesAnd(const std::vector<Mesh>& meshes, const std::vector<Step>& steps,
                   const std::vector<DimensionRow>& dimensions = {}) {
  Document document;
  std::vector<BroughtBody> brought;
  for (const Mesh& mesh : meshes) {
    const std::string key = "mesh-" + std::to_string(brought.size());
    document.made.shapes[key] = Shape(mesh);
    brought.push_back({key, "Scan", std::nullopt, "", {}});
  }
  document = document.withStep(step("m", "bring-in", {{"source", text("scan.stl")}, {"bodies", brought}}));
  for (const Step& each : steps) document = document.withStep(each);
  document.made.dimensions = dimensions;
  return document;
}

double volumeOf(const Model& model, const std::string& body) {
  const Body* found = model.find(body);
  return found ? found->form.volume() : -1;
}

const Mesh cube = boxMesh({0, 0, 0}, {10, 10, 10});

TEST(MeshSteps, TheThinnestWallIsADimension) {
  const Mesh hollow = together({boxMesh({0, 0, 0}, {40, 30, 20}), turnedOver(boxMesh({4, 4, 4}, {37.5, 26, 17}))});
  const Model model = made(meshesAnd(
      {hollow},
      {step("w", "measure", {{"what", text("wall")}, {"bodies", bodies({"m"})}, {"name", text("thin")}}),
       step("b", "block",
            {{"width", expression("thin")}, {"depth", expression("10 mm")}, {"height", expression("10 mm")}})}));
  ASSERT_EQ(errorOf(model, "w"), "no error");
  EXPECT_NEAR(volumeOf(model, "b"), 250, 1e-6);
}

TEST(MeshSteps, AreSplitByAPlaneWithAKerf) {
  const Model model = made(meshesAnd({cube},
                                     {step("s", "split",
                                           {{"cutters", std::vector{CutterPick::of(PlanePick::standard("xy"))}},
                                            {"offset", expression("gap")},
                                            {"kerf", expression("1 mm")}})},
                                     {{"gap", expression("4 mm")}}));
  EXPECT_FALSE(model.failed());
  ASSERT_EQ(model.bodies.size(), 2u);
  EXPECT_NEAR(volumeOf(model, "m/front"), 550, 1e-9);
  EXPECT_NEAR(volumeOf(model, "m/back"), 350, 1e-9);
  const Audit& audit = model.steps.back().result->audit;
  EXPECT_NEAR(audit.balance, 0, 1e-9);
  EXPECT_NEAR(audit.volumeRemoved, 100, 1e-9);
  EXPECT_TRUE(audit.watertight);
  EXPECT_EQ(model.find("m/front")->form.kind(), BodyKind::Mesh);
}

TEST(MeshSteps, AreSplitByPlanesAndSolidsTogether) {
  const std::vector<CutterPick> cutters{CutterPick::of(PlanePick::standard("xy")),
                                        CutterPick::of(PlanePick::standard("yz"))};
  const Model model = made(meshesAnd({boxMesh({-5, -5, -5}, {5, 5, 5})}, {step("s", "split", {{"cutters", cutters}})}));
  EXPECT_FALSE(model.failed());
  ASSERT_EQ(model.bodies.size(), 4u);
  for (const Body& body : model.bodies) EXPECT_NEAR(body.form.volume(), 250, 1e-9);
}

TEST(MeshSteps, AreCutByADrawing) {
  const Model model = made(meshesAnd({cube}, {drawing("d", PlanePick::standard("xy"), {circle("c", "5", "5", "2")}),
                                              step("c", "cut", {{"profiles", allOf("d")}, {"way", text("both")}})}));
  EXPECT_FALSE(model.failed()) << errorOf(model, "c");
  EXPECT_NEAR(volumeOf(model, "m"), 1000 - pi * 4 * 10, 1);
  EXPECT_THAT(model.steps.back().result->audit.notes, testing::ElementsAre(HasSubstr("are meshed within")));
}

TEST(MeshSteps, AreCombinedWithMeshesAndExactBodies) {
  const auto combined = [&](const char* verb) {
    return made(meshesAnd(
        {cube, boxMesh({5, 5, 5}, {15, 15, 15})},
        {block("b", "4", "4", "30", {"0", "0", "-10"}),
         step("c", "combine", {{"verb", text(verb)}, {"stock", bodies({"m.1"})}, {"cutters", bodies({"m.2", "b"})}})}));
  };
  const Model subtracted = combined("subtract");
  EXPECT_NEAR(volumeOf(subtracted, "m.1"), 1000 - 125 - 160, 1e-9) << errorOf(subtracted, "c");
  EXPECT_THAT(subtracted.steps.back().result->audit.notes, testing::ElementsAre(HasSubstr("within 0.00305 mm")));
  const Model united = combined("union");
  EXPECT_NEAR(volumeOf(united, "m.1"), 1000 + 1000 - 125 + 16 * 20, 1e-9) << errorOf(united, "c");
  const Model parts = combined("partition");
  EXPECT_FALSE(parts.failed()) << errorOf(parts, "c");
  double sum = 0;
  for (const Body& body : parts.bodies) sum += body.form.volume();
  EXPECT_NEAR(sum, 1000 + 1000 - 125 + 16 * 20, 1e-9);
}

TEST(MeshSteps, ArePlacedRepeatedGroupedAndTakenApart) {
  const Model model = made(meshesAnd(
      {together({cube, boxMesh({20, 0, 0}, {25, 5, 5})})},
      {step("a", "take_apart", {{"bodies", bodies({"m"})}}),
       step("p", "place", {{"bodies", bodies({"m/part 2"})}, {"x", expression("-18 mm")}}),
       step("n", "pattern",
            {{"bodies", bodies({"m/part 2"})}, {"way", text("mirror")}, {"plane", PlanePick::standard("xz")}}),
       step("g", "group", {{"bodies", bodies({"m/part 1", "m/part 2"})}})}));
  for (const StepReport& each : model.steps)
    EXPECT_EQ(each.state, StepState::Made) << each.id << errorOf(model, each.id.text());
  EXPECT_NEAR(volumeOf(model, "g"), 1000, 1e-9) << "the small one lies inside the large one";
  ASSERT_TRUE(model.find("n/2"));
  EXPECT_NEAR(volumeOf(model, "n/2"), 125, 1e-9);
  EXPECT_LT(model.find("n/2")->form.box().low.y, -4.9);
}

TEST(MeshSteps, AreRepairedWithAReport) {
  const Mesh scan = together({withHoles(ballMesh({0, 0, 0}, 10, 30), 500, 800), boxMesh({30, 0, 0}, {31, 1, 1})});
  const Model model =
      made(meshesAnd({scan}, {step("r", "repair", {{"bodies", bodies({"m"})}, {"keep_largest", true}})}));
  EXPECT_THAT(model.steps.front().result->audit.warnings,
              testing::ElementsAre(HasSubstr("is a mesh that is not closed")));
  EXPECT_FALSE(model.failed()) << errorOf(model, "r");
  EXPECT_TRUE(model.find("m")->form.watertight());
  EXPECT_NEAR(volumeOf(model, "m"), ballMesh({0, 0, 0}, 10, 30).volume(), 1e-6);
  EXPECT_THAT(model.steps.back().result->audit.notes,
              testing::ElementsAre(testing::AllOf(HasSubstr("holes were filled"), HasSubstr("1 smaller part went"))));
}

TEST(MeshSteps, AreMadeReducedAndRefined) {
  Document document =
      documentOf({step("c", "cylinder", {{"radius", expression("5")}, {"height", expression("20")}}),
                  step("m", "make_mesh", {{"bodies", bodies({"c"})}, {"tolerance", expression("0.01 mm")}}),
                  step("f", "refine_mesh", {{"bodies", bodies({"c"})}, {"longest", expression("1 mm")}}),
                  step("r", "reduce_mesh", {{"bodies", bodies({"c"})}, {"tolerance", expression("0.05 mm")}})});
  const Model model = made(document);
  for (const StepReport& each : model.steps)
    EXPECT_EQ(each.state, StepState::Made) << each.id << errorOf(model, each.id.text());
  const Mesh* mesh = model.find("c")->form.mesh();
  ASSERT_TRUE(mesh);
  EXPECT_NEAR(mesh->tolerance(), 0.06, 1e-12);
  EXPECT_NEAR(mesh->volume(), pi * 25 * 20, 0.06 * 2 * pi * 5 * 30);
  EXPECT_LT(mesh->triangles().size(), 1000u);
}

TEST(MeshSteps, OthersRefuseThemWithWhatWouldHelp) {
  const Model model = made(meshesAnd({cube}, {step("o", "offset_surface", {{"surface", bodies({"m"})}}),
                                              step("k", "thicken", {{"surfaces", bodies({"m"})}})}));
  for (const char* id : {"o", "k"})
    EXPECT_THAT(errorOf(model, id), HasSubstr("\"m\" is a mesh, which has no exact faces"));
  const Model open = made(meshesAnd(
      {withHoles(cube, 0, 12)},
      {block("b", "4", "4", "4"), step("c", "combine", {{"stock", bodies({"b"})}, {"cutters", bodies({"m"})}})}));
  EXPECT_THAT(errorOf(open, "c"), HasSubstr("is a mesh that is not closed"));
}

}  // namespace
}  // namespace kervo
