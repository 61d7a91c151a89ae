// Assemblies in files and documents; IGES and IFC4.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <fstream>
#include <numbers>
#include <regex>
#include <set>

#include "exchange/atomic_file.h"
#include "exchange/body_tree.h"
#include "exchange/kervo_file.h"
#include "geom/divide/boolean.h"
#include "geom/primitives.h"
#include "geom/surface/sewn.h"
#include "geom/topology.h"
#include "support/document_builder.h"
#include "support/meshes.h"
#include "support/temporary_folder.h"

namespace kervo {
namespace {

using namespace test;
using testing::ElementsAre;
using testing::HasSubstr;

constexpr double pi = std::numbers::pi;
using Path = std::vector<std::string>;

FileBody placed(const std::string& name, double x, Path within, std::optional<Color> color = std::nullopt) {
  FileBody body{name, makeBlock(name, Plane::through({x, 0, 0}, {0, 0, 1}), 10, 20, 5), color, ""};
  body.within = std::move(within);
  return body;
}

std::vector<FileBody> crate() {
  return {placed("Lid", 0, {"Crate"}, Color{1, 0, 0}),
          placed("Screw", 20, {"Crate", "Left \"side\""}),
          placed("Loose", 40, {}),
          placed("Screw", 60, {"Crate", "Größe"}),
          placed("Rail", 80, {"Crate", "Left \"side\""}, Color{0, 0, 1}),
          placed("Foot", 100, {"Stand"})};
}

const std::vector<Path> crateInOrder{
    {"Crate"}, {"Crate", "Left \"side\""}, {"Crate", "Left \"side\""}, {"Crate", "Größe"}, {}, {"Stand"}};

TEST(BodyTree, KeepsTheOrderOfFirstParts) {
  std::vector<std::string> names;
  for (const FileBody& body : inTreeOrder(crate())) names.push_back(body.name);
  EXPECT_THAT(names, ElementsAre("Lid", "Screw", "Rail", "Screw", "Loose", "Foot"));
  const BodyTree tree = treeOf({{}, {"A", "B"}, {"A"}, {}});
  ASSERT_EQ(tree.parts.size(), 3u);
  EXPECT_EQ(tree.parts[1].name, "A");
  EXPECT_EQ(tree.parts[1].parts.size(), 2u);
  EXPECT_THAT(bodiesIn(tree), ElementsAre(0u, 1u, 2u, 3u));
}

class Assemblies : public testing::TestWithParam<const char*> {};

TEST_P(Assemblies, ComeBackWithTheirNames) {
  const TemporaryFolder folder;
  Progress progress;
  for (const char* unit : {"mm", "in"}) {
    const auto path = folder / ("a" + std::string(unit) + GetParam());
    writeBodies(path, crate(), unit, progress);
    const FileContents read = readBodies(path, progress);
    ASSERT_EQ(read.bodies.size(), 6u);
    std::vector<Path> within;
    for (const FileBody& body : read.bodies) {
      within.push_back(body.within);
      EXPECT_NEAR(body.shape.volume(), 1000, 1e-2) << body.name;
    }
    EXPECT_EQ(within, crateInOrder);
    EXPECT_EQ(read.bodies[2].name, "Rail");
    EXPECT_EQ(colorText(read.bodies[2].color.value_or(Color())), "#0000ff");
    EXPECT_NEAR(read.bodies[3].shape.box().low.x, 60, 1e-3);
  }
}

INSTANTIATE_TEST_SUITE_P(Formats, Assemblies, testing::Values(".step", ".glb", ".3mf"));

TEST(AssembliesInDocuments, AreKeptAndInherited) {
  const TemporaryFolder folder;
  Progress progress;
  Document document = withBroughtIn({}, {crate(), "mm", {}}, "crate.step", allStepKinds());
  const StepId id = document.made.steps.front()->id();
  document = document.withStep(step("s", "split",
                                    {{"stock", bodies({id.text() + ".5"})},
                                     {"cutters", std::vector{CutterPick::of(PlanePick::standard("xz"))}},
                                     {"offset", expression("-10 mm")}}));
  writeDocument(folder / "a.kervo", document, progress);
  const Model model = made(readDocument(folder / "a.kervo", allStepKinds(), progress));
  EXPECT_FALSE(model.failed()) << errorOf(model, "s");
  ASSERT_EQ(model.bodies.size(), 7u);
  std::map<std::string, Path> within;
  for (const Body& body : model.bodies) within[body.name] = body.within;
  EXPECT_EQ(within.at("Lid"), Path{"Crate"});
  EXPECT_EQ(within.at("Rail, front"), (Path{"Crate", "Left \"side\""})) << "a piece stays in its assembly";
  EXPECT_EQ(bodiesOf(model).front().within, Path{"Crate"});
}

TEST(Iges, KeepsSolidsUnitsAndNames) {
  const TemporaryFolder folder;
  Progress progress;
  const Shape plate = divide(makeBlock("plate", {}, 40, 30, 10),
                             {makeCylinder("hole", Plane::through({20, 15, -1}, {0, 0, 1}), 4, 12)}, progress)
                          .outside;
  const std::vector<FileBody> bodies{
      {"Plate", withFaceColors(plate, {{1, Color{0, 1, 0}}}), Color{1, 0, 0}, ""},
      {"Ball", makeSphere("ball", Plane::through({80, 0, 0}, {0, 0, 1}), 8), std::nullopt, ""}};
  for (const std::string unit : {"mm", "in", "m"}) {
    const auto path = folder / (unit + ".igs");
    writeBodies(path, bodies, unit, progress);
    const FileContents read = readBodies(path, progress);
    EXPECT_EQ(read.unit, unit);
    ASSERT_EQ(read.bodies.size(), 2u);
    EXPECT_EQ(read.bodies[0].shape.kind(), BodyKind::Solid);
    EXPECT_NEAR(read.bodies[0].shape.volume(), plate.volume(), 1e-6 * plate.volume());
    EXPECT_NEAR(read.bodies[1].shape.volume(), 4.0 / 3 * pi * 512, 1e-3);
    EXPECT_EQ(read.bodies[0].name, "Plate");
  }
}

TEST(Iges, SewsFacesAndSaysWhatStaysOpen) {
  const TemporaryFolder folder;
  Progress progress;
  std::vector<FileBody> faces;
  for (const Shape& face : unsewn(makeBlock("b", {}, 10, 20, 30))) faces.push_back({"Face", face, std::nullopt, ""});
  writeBodies(folder / "all.iges", faces, WriteWishes{"mm", ReadBack::Skip, {}, {}}, progress);
  const FileContents closed = readBodies(folder / "all.iges", progress);
  ASSERT_EQ(closed.bodies.size(), 1u);
  EXPECT_EQ(closed.bodies.front().shape.kind(), BodyKind::Solid);
  EXPECT_NEAR(closed.bodies.front().shape.volume(), 6000, 1e-6);
  faces.pop_back();
  writeBodies(folder / "open.iges", faces, WriteWishes{"mm", ReadBack::Skip, {}, {}}, progress);
  const FileContents open = readBodies(folder / "open.iges", progress);
  EXPECT_EQ(open.bodies.front().shape.kind(), BodyKind::Surface);
  EXPECT_THAT(open.notes, ElementsAre(HasSubstr("sewn together, 4 edges stay open")));
}

TEST(Iges, RefusesWhatIsCutOff) {
  const TemporaryFolder folder;
  Progress progress;
  writeBodies(folder / "a.igs", {placed("Lid", 0, {})}, "mm", progress);
  const std::string bytes = readWhole(folder / "a.igs", 10'000'000);
  const auto errorOfBytes = [&](const std::string& content) -> std::string {
    writeText(folder / "b.igs", content);
    try {
      readBodies(folder / "b.igs", progress);
    } catch (const FileError& error) {
      return error.what();
    }
    return "no error";
  };
  EXPECT_THAT(errorOfBytes(bytes.substr(0, bytes.size() / 2)), HasSubstr("cut off"));
  EXPECT_THAT(errorOfBytes("hello"), HasSubstr("this is not an IGES file"));
}

/// What another program finds in an IFC file, by its text alone.
struct IfcText {
  std::map<int, std::pair<std::string, std::string>> entities;  ///< name and arguments
  explicit IfcText(const std::string& text) {
    std::istringstream lines(text);
    const std::regex entity(R"(#(\d+)=([A-Z0-9]+)\((.*)\);)");
    for (std::string line; std::getline(lines, line);)
      if (std::smatch found; std::regex_match(line, found, entity))
        entities[std::stoi(found[1])] = {found[2], found[3]};
  }
  std::vector<std::string> all(const std::string& name) const {
    std::vector<std::string> result;
    for (const auto& [number, each] : entities)
      if (each.first == name) result.push_back(each.second);
    return result;
  }
  /// Of a triangulated face set, mm³.
  double volumeOf(const std::string& faceSet) const {
    const std::regex point(R"(\(([-\d.E]+),([-\d.E]+),([-\d.E]+)\))"), triangle(R"(\((\d+),(\d+),(\d+)\))");
    const std::string& list = entities.at(std::stoi(faceSet.substr(1))).second;
    std::vector<Point> points;
    for (std::sregex_iterator it(list.begin(), list.end(), point), end; it != end; ++it)
      points.push_back({std::stod((*it)[1]), std::stod((*it)[2]), std::stod((*it)[3])});
    double volume = 0;
    for (std::sregex_iterator it(faceSet.begin(), faceSet.end(), triangle), end; it != end; ++it) {
      const auto at = [&](std::size_t k) { return points.at(std::stoul((*it)[k]) - 1); };
      volume += dot(at(1), cross(at(2), at(3))) / 6;
    }
    return volume;
  }
};

TEST(Ifc, HoldsLevelsOpeningsColoursAndQuantities) {
  const TemporaryFolder folder;
  Progress progress;
  const Shape wall =
      divide(makeBlock("wall", {}, 4000, 300, 2500),
             {makeBlock("window", Plane::through({1000, -50, 900}, {0, 0, 1}), 1200, 400, 1000)}, progress)
          .outside;
  FileBody body{"Wänd 'a'", wall, Color{0.5, 0.25, 1}, "walls"};
  body.level = "Ground";
  FileBody slab{"Slab", makeBlock("slab", Plane::through({0, 0, 2500}, {0, 0, 1}), 4000, 3000, 200), std::nullopt, ""};
  slab.level = "Lamp room";
  const FileBody scan{"Scan", Shape(painted(boxMesh({0, 0, 0}, {100, 100, 100}), paintOf({1, 0, 0}), 0)), std::nullopt,
                      ""};
  const WriteWishes wishes{"mm", ReadBack::Compare, {}, {{"Ground", 0}, {"Lamp room", 2500}}};
  writeBodies(folder / "a.ifc", {body, slab, scan}, wishes, progress);
  const std::string text = readWhole(folder / "a.ifc", 10'000'000);
  const IfcText ifc(text);
  // Every reference leads somewhere.
  const std::regex reference(R"(#(\d+))");
  for (const auto& [number, each] : ifc.entities)
    for (std::sregex_iterator it(each.second.begin(), each.second.end(), reference), end; it != end; ++it)
      EXPECT_TRUE(ifc.entities.contains(std::stoi((*it)[1]))) << number;
  EXPECT_THAT(ifc.all("IFCBUILDINGSTOREY"), ElementsAre(HasSubstr("'Ground'"), HasSubstr("'Lamp room'")));
  EXPECT_THAT(ifc.all("IFCBUILDINGELEMENTPROXY"),
              ElementsAre(HasSubstr("'W\\X2\\00E4\\X0\\nd ''a'''"), HasSubstr("'Slab'"), HasSubstr("'Scan'")));
  EXPECT_EQ(ifc.all("IFCOPENINGELEMENT").size(), 1u);
  EXPECT_EQ(ifc.all("IFCRELVOIDSELEMENT").size(), 1u);
  std::multiset<long> volumes;
  for (const std::string& faceSet : ifc.all("IFCTRIANGULATEDFACESET"))
    volumes.insert(std::lround(ifc.volumeOf(faceSet) / 1e6));
  EXPECT_EQ(volumes, (std::multiset<long>{4000 * 3 * 25 / 100 * 1, 360, 1, 2400})) << "wall closed, window, scan, slab";
  EXPECT_THAT(ifc.all("IFCQUANTITYVOLUME"), testing::Contains(HasSubstr("'NetVolume',$,$,2.64")));
  EXPECT_THAT(ifc.all("IFCQUANTITYVOLUME"), testing::Contains(HasSubstr("'GrossVolume',$,$,3")));
  EXPECT_THAT(ifc.all("IFCCOLOURRGB"), ElementsAre("$,0.5,0.25,1."));
  EXPECT_EQ(ifc.all("IFCINDEXEDCOLOURMAP").size(), 1u);
  EXPECT_THAT(ifc.all("IFCPRESENTATIONLAYERASSIGNMENT"), ElementsAre(HasSubstr("'walls'")));
  // Identifiers are different ones, and the same again.
  std::set<std::string> ids;
  const std::regex id(R"(='?[A-Z0-9]+\('([0-9A-Za-z_$]{22})')");
  std::size_t count = 0;
  for (std::sregex_iterator it(text.begin(), text.end(), id), end; it != end; ++it, ++count) {
    ids.insert((*it)[1]);
    EXPECT_LE((*it)[1].str().front(), '3');
  }
  EXPECT_GT(count, 15u);
  EXPECT_EQ(ids.size(), count);
  writeBodies(folder / "b.ifc", {body, slab, scan}, wishes, progress);
  const std::string again = readWhole(folder / "b.ifc", 10'000'000);
  for (const std::string& each : ids) EXPECT_THAT(again, HasSubstr(each));
  // Read back by a library of somebody else, with the opening taken out of the wall.
  const FileContents read = readBodies(folder / "a.ifc", progress);
  std::map<std::string, const FileBody*> byName;
  for (const FileBody& each : read.bodies) byName[each.name] = &each;
  ASSERT_EQ(byName.size(), 3u);
  EXPECT_NEAR(byName.at("Wänd 'a'")->shape.volume(), wall.volume(), 1e-6 * wall.volume());
  EXPECT_TRUE(byName.at("Wänd 'a'")->shape.watertight());
  EXPECT_EQ(byName.at("Wänd 'a'")->layer, "Ground");
  EXPECT_NEAR(byName.at("Wänd 'a'")->color->green, 0.25, 0.01);
  EXPECT_NEAR(byName.at("Slab")->shape.box().low.z, 2500, 1e-6);
  EXPECT_NEAR(byName.at("Scan")->shape.volume(), 1e6, 1);
  ASSERT_EQ(read.levels.size(), 2u);
  EXPECT_EQ(read.levels[1].name, "Lamp room");
  EXPECT_NEAR(read.levels[1].height, 2500, 1e-9);
  const Document document = withBroughtIn({}, read, "a.ifc", allStepKinds());
  const Model model = made(document);
  ASSERT_EQ(model.levels.size(), 2u);
  EXPECT_NEAR(*model.levels[1].height, 2500, 1e-9);
}

TEST(Ifc, RefusesWhatIsNoneOrCutOff) {
  TemporaryFolder folder;
  Progress progress;
  writeBodies(folder / "a.ifc", {placed("Lid", 0, {})}, "mm", progress);
  const std::string text = readWhole(folder / "a.ifc", 10'000'000);
  const auto refusal = [&](const std::string& bytes) {
    std::ofstream(folder / "b.ifc") << bytes;
    try {
      readBodies(folder / "b.ifc", progress);
    } catch (const FileError& error) {
      return std::string(error.what());
    }
    return std::string("taken");
  };
  EXPECT_THAT(refusal(text.substr(0, text.size() / 2)), HasSubstr("not a whole IFC file"));
  EXPECT_THAT(refusal("solid\n"), HasSubstr("not a whole IFC file"));
  EXPECT_THAT(refusal("ISO-10303-21;\nHEADER;\nENDSEC;\nDATA;\nENDSEC;\nEND-ISO-10303-21;\n"),
              testing::AnyOf(HasSubstr("could not be read as IFC4"), HasSubstr("holds no body")));
}

TEST(BodiesAlike, OfAFileAreInstancesOfItsParts) {
  // Brought in and then cut: what a reader places twice is one part, before and after it is saved.
  const Model parts =
      made(documentOf({block("p", "40", "30", "10"),
                       step("turned", "place",
                            {{"bodies", bodies({"p"})}, {"way", text("turn")}, {"axis", text("y")}, {"copy", true}})}));
  std::vector<FileBody> files;
  for (const Body& body : parts.bodies) files.push_back({body.name, body.shape(), std::nullopt, ""});
  const TemporaryFolder folder;
  Progress progress;
  writeBodies(folder.path() / "plates.step", files, "mm", progress);
  Document document =
      withBroughtIn(Document(), readBodies(folder.path() / "plates.step", progress), "plates.step", allStepKinds());
  document = document.withStep(drawing("d", {PlanePick::Kind::Standard, "xy", {}}, {circle("a", "10", "8", "3")}));
  document = document.withStep(step("s", "cut",
                                    {{"stock", bodies({"import1.1"})},
                                     {"profiles", allOf("d")},
                                     {"way", text("both")},
                                     {"alike", text("likewise")}}));
  const Model model = made(document);
  ASSERT_EQ(errorOf(model, "s"), "no error");
  for (const Body& body : model.bodies) EXPECT_NEAR(body.shape().volume(), 12000 - 90 * pi, 1e-5) << body.id;
}

}  // namespace
}  // namespace kervo
