// Repair of bodies that came in damaged, and of one that is made so here.
#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <BRepBuilderAPI_Copy.hxx>
#include <BRep_Builder.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS_Solid.hxx>

#include "base/error.h"
#include "exchange/body_file.h"
#include "geom/divide/boolean.h"
#include "geom/divide/checked_intersection.h"
#include "geom/primitives.h"
#include "geom/surface/repair.h"
#include "geom/topology.h"
#include "steps/registry.h"
#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;
using testing::HasSubstr;

Shape damagedPart() {
  Progress progress;
  return readBodies("/usr/share/opencascade/data/occ/Top.brep", progress).bodies.at(0).shape;
}

TEST(Repair, MendsAFaceWhoseBorderCrossesItself) {
  Progress progress;
  const Shape before = damagedPart();
  const std::vector<Flaw> flaws = flawsOf(before, progress);
  ASSERT_EQ(flaws.size(), 1u);
  const Repaired after = repaired(before, progress);
  EXPECT_EQ(after.faces, 1);
  EXPECT_EQ(after.joinedEdges, 0);
  EXPECT_TRUE(after.left.empty());
  EXPECT_TRUE(after.shape.valid());
  EXPECT_EQ(after.shape.faceCount(), before.faceCount());
  EXPECT_NEAR(after.shape.volume(), before.volume(), 1e-6 * before.volume());
  EXPECT_FALSE(before.valid()) << "what was given stays as it was";
  std::vector<std::string> names, namesAfter;
  for (const Face& face : facesOf(before)) names.push_back(face.origins().front());
  for (const Face& face : facesOf(after.shape)) namesAfter.push_back(face.origins().front());
  EXPECT_THAT(namesAfter, testing::UnorderedElementsAreArray(names));
  // A cut through the place was refused before.
  const Shape ball = makeSphere("ball", Plane::through(flaws.front().place, {0, 0, 1}), 3);
  EXPECT_THROW(divide(before, {ball}, progress), Error);
  const Division cut = divide(after.shape, {ball}, progress);
  EXPECT_GT(cut.inside.volume(), 0);
  EXPECT_NEAR(cut.inside.volume() + cut.outside.volume(), before.volume(), 1e-6 * before.volume());
}

/// A block of which one face has edges of its own, that are not those of its neighbours.
Shape blockWithALooseFace() {
  const Shape block = makeBlock("block", {}, 10, 20, 30);
  const TopoDS_Shape solid = solidsOf(block).front();
  TopoDS_Shell shell;
  TopoDS_Solid loose;
  const BRep_Builder builder;
  builder.MakeShell(shell);
  FaceTable faces;
  bool first = true;
  for (TopExp_Explorer it(solid, TopAbs_FACE); it.More(); it.Next()) {
    TopoDS_Shape face = it.Current();
    if (std::exchange(first, false)) face = BRepBuilderAPI_Copy(face).Shape();
    faces.emplace(face, FaceFacts{factsOf(block, it.Current()).origins, std::nullopt});
    builder.Add(shell, face);
  }
  builder.MakeSolid(loose);
  builder.Add(loose, shell);
  return makeShape(loose, std::move(faces), "face");
}

TEST(Repair, JoinsFreeEdges) {
  Progress progress;
  const Shape open = blockWithALooseFace();
  ASSERT_EQ(open.kind(), BodyKind::Solid);
  ASSERT_FALSE(open.watertight());
  const Repaired closed = repaired(open, progress);
  EXPECT_TRUE(closed.shape.watertight());
  EXPECT_TRUE(closed.shape.valid());
  EXPECT_EQ(closed.joinedEdges, 8);
  EXPECT_EQ(closed.faces, 0);
  EXPECT_NEAR(closed.shape.volume(), 6000, 1e-6);
  EXPECT_EQ(closed.shape.faceCount(), 6);
}

TEST(Repair, SaysThatThereIsNothingToRepair) {
  Progress progress;
  try {
    repaired(makeBlock("block", {}, 1, 2, 3), progress);
    FAIL();
  } catch (const Error& error) {
    EXPECT_THAT(error.what(), HasSubstr("no flaw"));
  }
}

TEST(Repair, SaysWhereWhatItCannotRepair) {
  Progress progress;
  // A face is missing: nothing to join its neighbours to.
  const Shape block = makeBlock("block", {}, 10, 20, 30);
  TopoDS_Shell shell;
  TopoDS_Solid open;
  const BRep_Builder builder;
  builder.MakeShell(shell);
  TopExp_Explorer it(solidsOf(block).front(), TopAbs_FACE);
  for (it.Next(); it.More(); it.Next()) builder.Add(shell, it.Current());
  builder.MakeSolid(open);
  builder.Add(open, shell);
  try {
    repaired(makeShape(open, {}, "face"), progress);
    FAIL() << "a missing face was made up";
  } catch (const Error& error) {
    EXPECT_THAT(error.what(), testing::AllOf(HasSubstr("could not be repaired"), HasSubstr("not closed, at")));
  }
}

TEST(Repair, IsALinkedStep) {
  Progress progress;
  const FileContents contents = readBodies("/usr/share/opencascade/data/occ/Top.brep", progress);
  Document document = withBroughtIn({}, contents, "Top.brep", allStepKinds());
  document = document.withStep(step("mend", "repair", {{"bodies", BodyPick{false, {"import1"}}}}));
  const Model model = made(document);
  ASSERT_FALSE(model.failed());
  EXPECT_FALSE(report(model, "import1").result->audit.valid);
  const Audit& audit = report(model, "mend").result->audit;
  EXPECT_TRUE(audit.valid);
  EXPECT_THAT(audit.notes.at(0), HasSubstr("1 face was mended"));
  EXPECT_NEAR(audit.volumeAfter, audit.volumeBefore, 1e-6 * audit.volumeBefore);
  ASSERT_EQ(model.bodies.size(), 1u);
  EXPECT_TRUE(model.bodies[0].shape().valid());
  EXPECT_FALSE(model.bodies[0].shape().hasFlawedFaces());
  // On a sound body the step fails, and says so.
  const Model sound = made(document.withStep(step("again", "repair", {{"bodies", BodyPick{false, {"import1"}}}})));
  ASSERT_TRUE(report(sound, "again").error);
  EXPECT_THAT(report(sound, "again").error->happened(), HasSubstr("no flaw"));
}

}  // namespace
}  // namespace kervo
