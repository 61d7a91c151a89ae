#include "exchange/body_file.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>

#include "exchange/document_json.h"
#include "geom/divide/boolean.h"
#include "geom/divide/plane_split.h"
#include "geom/measure/soundness.h"
#include "geom/primitives.h"
#include "geom/topology.h"
#include "support/document_builder.h"
#include "support/temporary_folder.h"

namespace kervo {
namespace {

using namespace test;
using testing::HasSubstr;
constexpr double pi = std::numbers::pi;
const std::string thirdParty = "/usr/share/opencascade/data/";

std::vector<FileBody> twoBodies() {
  Progress progress;
  const Shape plate = divide(makeBlock("plate", {}, 40, 30, 10),
                             {makeCylinder("hole", Plane::through({20, 15, -1}, {0, 0, 1}), 4, 12)}, progress)
                          .outside;
  return {{"Wänd-1", plate, Color{1, 0, 0}, "walls"},
          {"Ball", makeSphere("ball", Plane::through({80, 0, 0}, {0, 0, 1}), 8), Color{0, 0, 1}, "balls"}};
}

/// The document after its way through JSON, with its shapes.
Document documentFromJsonOf(const Document& document) {
  Document result = documentFromJson(documentToJson(document), allStepKinds(), "x");
  result.made.shapes = document.made.shapes;
  return result;
}

std::string errorOf(const std::filesystem::path& path) {
  Progress progress;
  try {
    readBodies(path, progress);
  } catch (const FileError& error) {
    return error.what();
  }
  return "no error";
}

TEST(StepFile, KeepsNamesColoursLayersUnitsAndVolumes) {
  const TemporaryFolder folder;
  Progress progress;
  for (const std::string unit : {"mm", "in", "m"}) {
    const auto path = folder / (unit + ".step");
    writeBodies(path, twoBodies(), unit, progress);
    const FileContents read = readBodies(path, progress);
    EXPECT_EQ(read.unit, unit);
    ASSERT_EQ(read.bodies.size(), 2u);
    EXPECT_EQ(read.bodies[0].name, "Wänd-1");
    EXPECT_EQ(read.bodies[0].layer, "walls");
    EXPECT_EQ(colorText(*read.bodies[0].color), "#ff0000");
    EXPECT_EQ(colorText(*read.bodies[1].color), "#0000ff");
    EXPECT_NEAR(read.bodies[0].shape.volume(), 12000 - 16 * pi * 10, 1e-5);
    EXPECT_NEAR(read.bodies[1].shape.volume(), 4.0 / 3 * pi * 512, 1e-5);
    EXPECT_TRUE(read.bodies[0].shape.watertight());
    EXPECT_TRUE(read.bodies[0].shape.valid());
  }
}

TEST(StepFile, KeepsColoursOfSingleFacesThroughADocumentAndACut) {
  const TemporaryFolder folder;
  Progress progress;
  const Shape block = withFaceColors(makeBlock("b", {}, 10, 20, 30), {{6, {0, 1, 0}}, {2, {1, 0, 0}}});
  writeBodies(folder / "a.step", {{"Block", block, Color{0.2, 0.2, 0.2}, ""}}, "mm", progress);
  const FileContents read = readBodies(folder / "a.step", progress);
  ASSERT_EQ(faceColors(read.bodies[0].shape).size(), 2u);
  const Document document =
      withBroughtIn({}, read, "a.step", allStepKinds()).withStep(step("s", "split", {{"offset", Expression("12 mm")}}));
  const Model model = made(documentFromJsonOf(document));
  int coloured = 0;
  for (const Body& body : model.bodies) {
    EXPECT_EQ(colorText(*body.color), "#333333");
    coloured += static_cast<int>(faceColors(body.shape()).size());
  }
  EXPECT_GE(coloured, 2);
  writeBodies(folder / "b.step", bodiesOf(model), "mm", progress);
  int again = 0;
  for (const FileBody& body : readBodies(folder / "b.step", progress).bodies)
    again += static_cast<int>(faceColors(body.shape).size());
  EXPECT_EQ(again, coloured);
  EXPECT_THROW(withFaceColors(block, {{7, Color()}}), Error);
}

TEST(BrepFile, KeepsShapesExactly) {
  const TemporaryFolder folder;
  Progress progress;
  writeBodies(folder / "two.brep", twoBodies(), "mm", progress);
  const FileContents read = readBodies(folder / "two.brep", progress);
  ASSERT_EQ(read.bodies.size(), 2u);
  EXPECT_NEAR(read.bodies[0].shape.volume(), 12000 - 16 * pi * 10, 1e-8);
  EXPECT_EQ(read.bodies[0].name, "two 1");
}

TEST(BodyFile, ReadsFilesThatKervoDidNotMake) {
  Progress progress;
  const FileContents screw = readBodies(thirdParty + "step/screw.step", progress);
  ASSERT_EQ(screw.bodies.size(), 1u);
  EXPECT_TRUE(screw.bodies[0].shape.watertight());
  const FileContents rods = readBodies(thirdParty + "step/linkrods.step", progress);
  ASSERT_EQ(rods.bodies.size(), 1u);
  EXPECT_TRUE(rods.bodies[0].shape.valid());
  // Measured with the kernel's own integration on angle-divided copies: 4141.30, 27052.4 and 6962.51 mm³.
  EXPECT_NEAR(readBodies(thirdParty + "occ/Ball.brep", progress).bodies[1].shape.volume(), 4141.3, 0.1);
  EXPECT_NEAR(readBodies(thirdParty + "occ/Motor-c.brep", progress).bodies[8].shape.volume(), 27052.4, 0.2);
  EXPECT_NEAR(readBodies(thirdParty + "occ/bottle.brep", progress).bodies[0].shape.volume(), 6962.51, 0.05);
  EXPECT_EQ(readBodies(thirdParty + "occ/Room.brep", progress).bodies[0].shape.kind(), BodyKind::Surface);
  EXPECT_EQ(readBodies(thirdParty + "occ/edge.brep", progress).bodies[0].shape.kind(), BodyKind::Curve);
}

TEST(BodyFile, ThirdPartyBodiesCanBeCutInHalf) {
  Progress progress;
  for (const char* name :
       {"step/screw.step", "step/linkrods.step", "occ/Pump_Nut.brep", "occ/CrankArm.brep", "occ/MODERN_Table_1.brep"}) {
    for (const FileBody& body : readBodies(thirdParty + name, progress).bodies) {
      const Box box = body.shape.box();
      const Plane middle = Plane::through(box.centre() + Vector{0.013, 0.007, 0.011} * box.diagonal(), {1, 0.2, 0.1});
      const Division halves = divide(body.shape, {makeSlab("half", middle, 0, Box::infinity, box)}, progress);
      EXPECT_NEAR(halves.outside.volume() + halves.inside.volume(), body.shape.volume(),
                  1e-6 * body.shape.volume() + 1e-7 * body.shape.area())
          << body.name;
      EXPECT_GT(halves.inside.volume(), 0) << name;
    }
  }
}

// Its edge round one hole says that it is off by 1.57 mm, and is exact: taken at its word, the kernel gives parts that
// are valid and do not add up.
TEST(BodyFile, LooseEdgesOfAFileAreTightenedToWhatTheyAre) {
  Progress progress;
  const FileContents read = readBodies(thirdParty + "occ/mal_tige.brep", progress);
  ASSERT_EQ(read.bodies.size(), 1u);
  const Shape& link = read.bodies[0].shape;
  // A plate, 180 × 60 with round ends, and two holes of radius 10.
  EXPECT_NEAR(link.volume(), 20 * (180 * 60 + pi * 900 - 2 * pi * 100), 1e-3);
  const PlaneSplit split =
      splitByPlane("saw", link, Plane::through({0, 28.25, 0}, {0, 1, 0}), Kerf::centred(0.5), progress);
  ASSERT_FALSE(split.front.empty());
  double sum = split.waste.volume();
  for (const auto* side : {&split.front, &split.back})
    for (const Shape& part : *side) sum += part.volume();
  EXPECT_NEAR(sum, link.volume(), 1e-6 * link.volume());
}

TEST(BodyFile, ABodyThatIsNotSoundIsNamedAsTheReason) {
  Progress progress;
  const FileContents read = readBodies(thirdParty + "occ/Top.brep", progress);
  ASSERT_FALSE(read.bodies[0].shape.valid());
  try {
    const Point place = flawsOf(read.bodies[0].shape, progress).at(0).place;
    splitByPlane("saw", read.bodies[0].shape, Plane::through(place, {1, 0, 0}), {}, progress);
    FAIL() << "an invalid body was cut";
  } catch (const Error& error) {
    EXPECT_THAT(error.what(), HasSubstr("a body was not sound before"));
  }
}

TEST(BodyFile, BadFilesNameTheReason) {
  const TemporaryFolder folder;
  const std::string whole = readFile(thirdParty + "step/screw.step");
  writeFile(folder / "text.step", "just a text\n");
  writeFile(folder / "cut.step", whole.substr(0, whole.size() / 2));
  writeFile(folder / "damaged.step", whole.substr(0, whole.size() / 2) + "\nENDSEC;\nEND-ISO-10303-21;\n");
  writeFile(folder / "empty.step", "");
  writeFile(folder / "nothing.step",
            "ISO-10303-21;\nHEADER;\nFILE_DESCRIPTION((''),'2;1');\nFILE_NAME('','',(''),(''),'','','');\nFILE_SCHEMA(("
            "'AUTOMOTIVE_DESIGN'));\nENDSEC;\nDATA;\nENDSEC;\nEND-ISO-10303-21;\n");
  writeFile(folder / "text.brep", "just a text\n");
  writeFile(folder / "cut.brep", readFile(thirdParty + "occ/bottle.brep").substr(0, 5000));
  EXPECT_THAT(errorOf(folder / "missing.step"), HasSubstr("there is no such file"));
  EXPECT_THAT(errorOf(folder / "text.step"), HasSubstr("not a STEP file"));
  EXPECT_THAT(errorOf(folder / "cut.step"), HasSubstr("cut off"));
  EXPECT_THAT(errorOf(folder / "damaged.step"), HasSubstr("damaged"));
  EXPECT_THAT(errorOf(folder / "empty.step"), HasSubstr("empty"));
  EXPECT_THAT(errorOf(folder / "nothing.step"), HasSubstr("holds no body"));
  EXPECT_THAT(errorOf(folder / "text.brep"), HasSubstr("not a BREP file"));
  EXPECT_THAT(errorOf(folder / "cut.brep"), HasSubstr("damaged"));
  EXPECT_THAT(errorOf(folder / "model.xyz"), HasSubstr("are not known"));
  EXPECT_THAT(errorOf(folder.path().string() + "/folder.step/"), HasSubstr("are not known"));
}

TEST(BodyFile, WritingIsAllOrNothing) {
  const TemporaryFolder folder;
  Progress progress;
  EXPECT_THROW(writeBodies(folder / "no/such/folder.step", twoBodies(), "mm", progress), FileError);
  EXPECT_THROW(writeBodies(folder / "none.step", {}, "mm", progress), FileError);
  EXPECT_THROW(writeBodies(folder / "a.step", twoBodies(), "furlong", progress), Error);
  writeFile(folder / "kept.step", "before");
  progress.requestStop();
  EXPECT_THROW(writeBodies(folder / "kept.step", twoBodies(), "mm", progress), Stopped);
  EXPECT_EQ(readFile(folder / "kept.step"), "before");
  EXPECT_EQ(std::distance(std::filesystem::directory_iterator(folder.path()), {}), 1)
      << "nothing half-written lies about";
}

}  // namespace
}  // namespace kervo
