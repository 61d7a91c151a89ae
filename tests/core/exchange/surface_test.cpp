// Surfaces and doubtful bodies that Kervo did not make: cut as what they are, never taken for solids.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "base/error.h"
#include "exchange/body_file.h"
#include "geom/divide/boolean.h"
#include "geom/primitives.h"
#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;
using testing::HasSubstr;
const std::string thirdParty = "/usr/share/opencascade/data/occ/";

FileContents contentsOf(const char* name) {
  Progress progress;
  return readBodies(thirdParty + name, progress);
}

TEST(Surfaces, AreCutByASolidWithAreasInBalance) {
  Progress progress;
  for (const char* name : {"Room.brep", "face.brep", "MAT.brep", "shell1.brep"}) {
    const Shape surface = contentsOf(name).bodies[0].shape;
    ASSERT_EQ(surface.kind(), BodyKind::Surface) << name;
    EXPECT_EQ(surface.volume(), 0);
    EXPECT_FALSE(surface.watertight());
    const Box box = surface.box();
    const Shape half =
        makeSlab("half", Plane::through(box.centre() + Vector{0.013, 0.007, 0.011} * box.diagonal(), {1, 0.3, 0.2}), 0,
                 Box::infinity, box);
    const Division cut = divide(surface, {half}, progress);
    EXPECT_EQ(cut.outside.kind(), BodyKind::Surface) << name;
    EXPECT_EQ(cut.inside.kind(), BodyKind::Surface) << name;
    EXPECT_NEAR(cut.outside.area() + cut.inside.area(), surface.area(), 1e-5 * surface.area()) << name;
    EXPECT_GT(cut.inside.area(), 0) << name;
  }
}

TEST(Surfaces, CannotCutOrBeUnited) {
  Progress progress;
  const Shape surface = contentsOf("Room.brep").bodies[0].shape;
  const Shape block = makeBlock("b", {}, 10, 10, 10);
  EXPECT_THROW(divide(block, {surface}, progress), Error);
  EXPECT_THROW(unite({block, surface}, progress), Error);
  EXPECT_THROW(intersect({block, surface}, progress), Error);
}

TEST(Surfaces, AreSplitInADocumentLikeSolids) {
  Document document = withBroughtIn({}, contentsOf("Room.brep"), "Room.brep", allStepKinds());
  const Box box = made(document).bodies[0].shape().box();
  const double middle = box.centre().z + 0.01 * box.diagonal();
  document = document.withStep(step("s", "split", {{"offset", Expression(std::to_string(middle) + " mm")}}));
  const Model model = made(document);
  ASSERT_FALSE(model.failed()) << errorOf(model, "s");
  ASSERT_EQ(model.bodies.size(), 2u);
  EXPECT_NEAR(model.bodies[0].shape().area() + model.bodies[1].shape().area(), 640000, 1e-3);
  EXPECT_FALSE(report(model, "s").result->audit.watertight);
}

TEST(Curves, AreSparedByCutsOnEverything) {
  FileContents contents = contentsOf("edge.brep");
  contents.bodies.push_back({"Block", makeBlock("b", {}, 50, 50, 50), std::nullopt, ""});
  Document document = withBroughtIn({}, contents, "both.brep", allStepKinds());
  document = document.withStep(step("s", "split", {{"offset", Expression("20 mm")}}))
                 .withStep(drawing("d", {PlanePick::Kind::Standard, "xy", {}}, {circle("c", "25", "25", "3 m")}))
                 .withStep(step("c", "cut",
                                {{"profiles", allOf("d")},
                                 {"way", std::string("both")},
                                 {"to", std::string("distance")},
                                 {"depth", Expression("1 mm")}}));
  const Model model = made(document);
  EXPECT_FALSE(model.failed()) << errorOf(model, "s") << errorOf(model, "c");
  EXPECT_NE(model.find("import1.1"), nullptr);
  EXPECT_NEAR(volume(model, "import1.2/front"), 50 * 50 * 30, 1e-6);
  EXPECT_NEAR(volume(model, "import1.2/back"), 50 * 50 * 19, 1e-6);
}

TEST(DamagedBodies, AreSaidToBeDamaged) {
  // The kernel's own analyzer finds this body invalid too.
  const FileContents contents = contentsOf("Top.brep");
  EXPECT_FALSE(contents.bodies[0].shape.valid());
  const Model model = made(withBroughtIn({}, contents, "Top.brep", allStepKinds()));
  ASSERT_FALSE(model.failed());
  EXPECT_FALSE(report(model, "import1").result->audit.valid);
  EXPECT_THAT(report(model, "import1").result->audit.warnings.at(0), HasSubstr("came in damaged"));
}

}  // namespace
}  // namespace kervo
