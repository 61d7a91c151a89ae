#include "exchange/mesh_file.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <clocale>
#include <cstring>
#include <fstream>
#include <numbers>

#include "exchange/atomic_file.h"
#include "exchange/kervo_file.h"
#include "geom/divide/boolean.h"
#include "geom/primitives.h"
#include "geom/topology.h"
#include "support/document_builder.h"
#include "support/meshes.h"
#include "support/temporary_folder.h"

namespace kervo {
namespace {

using namespace test;
using testing::ElementsAre;
using testing::HasSubstr;

const Paint red = paintOf({1, 0, 0}), blue = paintOf({0, 0, 1});

std::vector<FileBody> severalBodies() {
  return {{"Größe \"B\" / 2", Shape(ballMesh({30, 0, 0}, 8)), Color{0, 1, 0}, ""},
          {"two colours", Shape(painted(boxMesh({0, 0, 0}, {10, 20, 30}), red, blue)), std::nullopt, ""},
          {"half painted", Shape(painted(boxMesh({-30, 0, 0}, {-20, 20, 30}), red, 0)), Color{0, 0, 0}, ""},
          {"exact", makeCylinder("rod", Plane::through({0, 50, 0}, {0, 0, 1}), 4, 25), std::nullopt, ""},
          {"plain", Shape(boxMesh({0, 0, -9}, {1, 1, -8})), std::nullopt, ""}};
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

FileContents readText(const std::string& name, const std::string& text, const std::string& unit = {}) {
  const TemporaryFolder folder;
  Progress progress;
  std::ofstream(folder / name, std::ios::binary) << text;
  return readBodies(folder / name, {.unit = unit}, progress);
}

std::string errorOfText(const std::string& name, const std::string& text) {
  const TemporaryFolder folder;
  std::ofstream(folder / name, std::ios::binary) << text;
  return errorOf(folder / name);
}

/// What one has of the colour of a body's triangles.
std::vector<Paint> lookOf(const FileBody& body) {
  std::vector<Paint> result;
  const MeshBody mesh{body.name, *body.shape.mesh(), body.color};
  for (std::size_t t = 0; t < mesh.mesh.triangles().size(); ++t) {
    const auto color = mesh.colorOf(t);
    result.push_back(color ? paintOf(*color) : 0);
  }
  return result;
}

std::vector<Paint> sorted(std::vector<Paint> paints) {
  std::sort(paints.begin(), paints.end());
  return paints;
}

class MeshFiles : public testing::TestWithParam<const char*> {};

TEST_P(MeshFiles, KeepNamesColoursUnitsAndVolumes) {
  const TemporaryFolder folder;
  Progress progress;
  for (const std::string unit : {"mm", "in", "m"}) {
    const auto path = folder / (unit + GetParam());
    const std::vector<FileBody> bodies = severalBodies();
    writeBodies(path, bodies, unit, progress);
    const FileContents read = readBodies(path, progress);
    EXPECT_EQ(read.unit, std::string(GetParam()) == ".glb" || std::string(GetParam()) == ".3mf" ? "mm" : unit);
    EXPECT_TRUE(read.notes.empty() && read.unitNamed);
    ASSERT_EQ(read.bodies.size(), bodies.size());
    for (std::size_t i = 0; i < bodies.size(); ++i) {
      const FileBody& body = read.bodies[i];
      EXPECT_EQ(body.name, bodies[i].name);
      EXPECT_EQ(body.shape.kind(), BodyKind::Mesh);
      EXPECT_TRUE(body.shape.watertight()) << body.name;
      const double volume = bodies[i].shape.volume();
      EXPECT_NEAR(body.shape.volume(), volume, (i == 3 ? 5e-3 : 3e-6) * volume) << body.name << " in " << unit;
      if (i == 3) continue;
      EXPECT_EQ(sorted(lookOf(body)), sorted(lookOf(bodies[i]))) << body.name;
    }
  }
}

TEST_P(MeshFiles, FollowTheWantedTolerance) {
  const TemporaryFolder folder;
  Progress progress;
  const Shape rod = makeCylinder("rod", Plane{}, 10, 20);
  std::size_t before = 0;
  for (const double chord : {0.5, 0.05, 0.005}) {
    const auto path = folder / ("rod" + std::string(GetParam()));
    writeBodies(path, {{"rod", rod, std::nullopt, ""}}, WriteWishes{"mm", ReadBack::Compare, {chord, 1.5}}, progress);
    const Shape read = readBodies(path, progress).bodies.front().shape;
    const std::size_t count = read.mesh()->triangles().size();
    EXPECT_GT(count, before);
    before = count;
    EXPECT_NEAR(read.volume(), rod.volume(), chord * rod.area());
  }
}

TEST_P(MeshFiles, RefuseWhatIsCutOffOrNotThere) {
  const TemporaryFolder folder;
  Progress progress;
  const auto path = folder / ("a" + std::string(GetParam()));
  writeBodies(path, severalBodies(), "mm", progress);
  const std::string bytes = readWhole(path, 100'000'000);
  for (const double share : {0.0, 0.02, 0.5, 0.9}) {
    std::ofstream(path, std::ios::binary) << bytes.substr(0, static_cast<std::size_t>(share * double(bytes.size())));
    // An OBJ file that ends early between two lines cannot be told from a whole one.
    if (std::string(GetParam()) == ".obj" && share > 0) continue;
    EXPECT_NE(errorOf(path), "no error") << share;
  }
  EXPECT_THAT(errorOf(folder / ("none" + std::string(GetParam()))), HasSubstr("none"));
}

INSTANTIATE_TEST_SUITE_P(Formats, MeshFiles, testing::Values(".obj", ".ply", ".3mf", ".glb"));

TEST(StlRead, BinaryAndText) {
  const TemporaryFolder folder;
  Progress progress;
  const Mesh ball = ballMesh({1, 2, 3}, 5, 20);
  writeBodies(folder / "ball.stl", {{"b", Shape(ball), std::nullopt, ""}}, "cm", progress);
  const FileContents read = readBodies(folder / "ball.stl", progress);
  EXPECT_EQ(read.unit, "cm") << "Kervo's own header says it";
  EXPECT_TRUE(read.bodies.front().shape.watertight());
  EXPECT_EQ(read.bodies.front().shape.mesh()->points().size(), ball.points().size());
  EXPECT_NEAR(read.bodies.front().shape.volume(), ball.volume(), 1e-5 * ball.volume());
  const std::string facet =
      "facet normal 0 0 1\n outer loop\n  vertex 0 0 0\n  vertex 1 0 0\n  vertex 0 1 0\n endloop\nendfacet\n";
  const FileContents text = readText(
      "t.stl", "solid left side\n" + facet + "endsolid left side\nsolid\n" + facet + facet + "endsolid\n", "in");
  ASSERT_EQ(text.bodies.size(), 2u);
  EXPECT_EQ(text.bodies[0].name, "left side");
  EXPECT_EQ(text.bodies[1].name, "t 2");
  EXPECT_EQ(text.bodies[1].shape.mesh()->triangles().size(), 2u);
  EXPECT_DOUBLE_EQ(text.bodies[0].shape.area(), 25.4 * 25.4 / 2);
  EXPECT_TRUE(text.unitNamed);
  EXPECT_FALSE(readText("t.stl", "solid\n" + facet + "endsolid").unitNamed);
}

TEST(StlRead, ABinaryFileMayBeginLikeText) {
  const TemporaryFolder folder;
  Progress progress;
  writeBodies(folder / "a.stl", {{"b", Shape(boxMesh({0, 0, 0}, {1, 2, 3})), std::nullopt, ""}}, "mm", progress);
  std::string bytes = readWhole(folder / "a.stl", 10'000);
  std::memcpy(bytes.data(), "solid of some program", 21);
  EXPECT_NEAR(readText("s.stl", bytes).bodies.front().shape.volume(), 6, 1e-6);
  EXPECT_THAT(errorOfText("s.stl", bytes.substr(0, 600)), HasSubstr("s.stl"));
}

TEST(StlRead, SaysWhereItIsWrong) {
  EXPECT_THAT(errorOfText("a.stl", "solid\nfacet normal 0 0 1\nouter loop\nvertex 0 0 zero\n"),
              testing::AllOf(HasSubstr("\"zero\" is not a number"), HasSubstr("line 4")));
  EXPECT_THAT(errorOfText("a.stl", "solid\nvertex 0 0 1e400\n"), HasSubstr("1e400"));
  EXPECT_THAT(errorOfText("a.stl", "solid\nvertex 0 0 0\nendfacet\nendsolid\n"), HasSubstr("a triangle has 1 corners"));
  EXPECT_THAT(errorOfText("a.stl", "solid\nfacet\n"), HasSubstr("ends in the middle of a solid"));
  EXPECT_THAT(errorOfText("a.stl", "not a mesh"), HasSubstr("this is not an STL file"));
  std::string binary(84, ' ');
  const std::uint32_t many = 1000;
  std::memcpy(binary.data() + 80, &many, 4);
  EXPECT_THAT(errorOfText("a.stl", binary), HasSubstr("says that it has 1000 triangles, but has room for 0"));
}

TEST(ObjRead, PolygonsGroupsNegativeNumbersAndMaterials) {
  const TemporaryFolder folder;
  Progress progress;
  std::ofstream(folder / "paint.mtl") << "newmtl red\nKd 1 0 0\nnewmtl odd name\nKd 0 0 1\n";
  std::ofstream(folder / "a.obj")
      << "# by hand\nmtllib paint.mtl\nv 0 0 0\nv 2 0 0\nv 2 2 0\nv 1 0.5 0\nv 0 2 0\nvt 0 0\n"
         "g roof\nusemtl red\nf 1/1 2/1 3/1 4/1 5/1\n"
         "g wall\nusemtl odd name\nf -5//1 -4//1 -3//1\nusemtl lost\nf 1 \\\n 2 5\n";
  const FileContents read = readBodies(folder / "a.obj", {.unit = "m"}, progress);
  ASSERT_EQ(read.bodies.size(), 2u);
  EXPECT_EQ(read.bodies[0].name, "roof");
  EXPECT_EQ(read.bodies[0].color, (Color{1, 0, 0}));
  // Not convex: its area is less than that of a fan from its first corner.
  EXPECT_NEAR(read.bodies[0].shape.area(), 2.5e6, 1e-3);
  EXPECT_EQ(read.bodies[0].shape.mesh()->triangles().size(), 3u);
  EXPECT_EQ(lookOf(read.bodies[1]), (std::vector<Paint>{blue, 0}));
  EXPECT_THAT(read.notes, ElementsAre(HasSubstr("the material \"lost\" is not there")));
  EXPECT_THAT(errorOfText("b.obj", "v 0 0 0\nv 1 0 0\nf 1 2 3\n"),
              testing::AllOf(HasSubstr("\"3\" names a point that is not there"), HasSubstr("line 3")));
  EXPECT_THAT(errorOfText("b.obj", "v 0 0 0\n"), HasSubstr("holds no body"));
  EXPECT_THAT(readText("b.obj", "mtllib far.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n").notes,
              testing::Contains(HasSubstr("\"far.mtl\" does not lie beside it")));
}

TEST(PlyRead, TextBigEndianAndColoursOfPoints) {
  const std::string head =
      "ply\nformat ascii 1.0\ncomment by hand\nelement vertex 4\nproperty float x\nproperty float y\nproperty float z\n"
      "property uchar red\nproperty uchar green\nproperty uchar blue\nelement face 1\n"
      "property list uchar int vertex_index\nelement edge 1\nproperty int a\nproperty int b\nend_header\n";
  const FileContents read =
      readText("q.ply", head + "0 0 0 255 0 0\n1 0 0 255 0 0\n1 1 0 255 0 0\n0 1 0 255 0 0\n4 0 1 2 3\n0 1\n", "cm");
  EXPECT_EQ(read.bodies.front().name, "q");
  EXPECT_DOUBLE_EQ(read.bodies.front().shape.area(), 100);
  EXPECT_EQ(lookOf(read.bodies.front()), (std::vector<Paint>{red, red}));
  std::string big =
      "ply\nformat binary_big_endian 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\n"
      "element face 1\nproperty list uchar int vertex_indices\nend_header\n";
  const auto put = [&](auto value) {
    std::array<char, sizeof value> bytes{};
    std::memcpy(bytes.data(), &value, sizeof value);
    big.append(bytes.rbegin(), bytes.rend());
  };
  for (const float value : {0.F, 0.F, 0.F, 3.F, 0.F, 0.F, 0.F, 4.F, 0.F}) put(value);
  put(std::uint8_t{3});
  for (const std::int32_t corner : {0, 1, 2}) put(corner);
  EXPECT_DOUBLE_EQ(readText("b.ply", big).bodies.front().shape.area(), 6);
  EXPECT_THAT(errorOfText("b.ply", big.substr(0, big.size() - 1)), HasSubstr("ends before all of its numbers"));
  EXPECT_THAT(errorOfText("q.ply", head + "0 0 0 255 0 0\n1 0 0 255 0 0\n1 1 0 255 0 0\n0 1 0 255 0 0\n3 0 1 9\n0 1\n"),
              HasSubstr("face 1 names a point that is not there"));
  EXPECT_THAT(errorOfText("q.ply", "ply\nformat ascii 1.0\nelement vertex 99999999999\n"), HasSubstr("no room"));
}

TEST(MeshFilesOfAnyKind, DoNotDependOnTheLocale) {
  const char* comma = nullptr;
  for (const char* name : {"de_DE.UTF-8", "de_DE.utf8", "fr_FR.UTF-8"})
    if (!comma) comma = std::setlocale(LC_ALL, name);
  if (!comma) GTEST_SKIP() << "no locale with a comma is installed";
  const TemporaryFolder folder;
  Progress progress;
  for (const char* ending : {".stl", ".obj", ".ply", ".3mf", ".glb"}) {
    writeBodies(folder / ("a" + std::string(ending)),
                {{"b", Shape(boxMesh({0, 0, 0}, {1.5, 2.5, 3.25})), std::nullopt, ""}}, "mm", progress);
    EXPECT_NEAR(readBodies(folder / ("a" + std::string(ending)), progress).bodies.front().shape.volume(), 12.1875, 1e-5)
        << ending;
  }
  std::setlocale(LC_ALL, "C");
}

TEST(MeshFilesOfAnyKind, ExactFormatsRefuseMeshes) {
  const TemporaryFolder folder;
  Progress progress;
  try {
    writeBodies(folder / "a.step", {{"Scan", Shape(ballMesh({0, 0, 0}, 5)), std::nullopt, ""}}, "mm", progress);
    FAIL() << "no error";
  } catch (const FileError& error) {
    EXPECT_THAT(error.what(), HasSubstr("\"Scan\" is a mesh, and STEP files hold exact bodies only"));
    EXPECT_THAT(error.what(), HasSubstr("STL, OBJ, 3MF, GLB, PLY or IFC4"));
  }
}

TEST(KervoFileWithMeshes, KeepsThemToTheLastDigit) {
  const TemporaryFolder folder;
  Progress progress;
  const Mesh mesh = painted(ballMesh({1.0 / 3, 0, 0}, 7), red, 0).with({{}, 0.0123456789});
  const FileContents contents{{{"Scan", Shape(mesh), Color{0, 1, 0}, "scans"}}, "mm", {}};
  const Document document = withBroughtIn({}, contents, "scan.stl", allStepKinds());
  for (const char* name : {"a.kervo"}) {
    writeDocument(folder / name, document, progress);
    const Document read = readDocument(folder / name, allStepKinds(), progress);
    ASSERT_EQ(read.made.shapes.size(), 1u);
    EXPECT_TRUE(read.made.shapes.begin()->first.starts_with("mesh-"));
    const Mesh* back = read.made.shapes.begin()->second.mesh();
    ASSERT_TRUE(back);
    EXPECT_EQ(back->points(), mesh.points());
    EXPECT_EQ(back->triangles(), mesh.triangles());
    EXPECT_NEAR(back->tolerance(), 0.0123456789, 1e-11);
    const Model model = made(read);
    EXPECT_EQ(model.bodies.front().form.kind(), BodyKind::Mesh);
    EXPECT_EQ(model.bodies.front().layer, "scans");
  }
}

}  // namespace
}  // namespace kervo
