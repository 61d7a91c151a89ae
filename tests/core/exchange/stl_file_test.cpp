#include "exchange/stl_file.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <array>
#include <cmath>
#include <cstring>
#include <map>
#include <numbers>

#include "exchange/atomic_file.h"
#include "exchange/kervo_file.h"
#include "geom/display/tessellate.h"
#include "geom/primitives.h"
#include "support/document_builder.h"
#include "support/temporary_folder.h"

namespace kervo {
namespace {

using namespace test;
using testing::HasSubstr;
constexpr double pi = std::numbers::pi;

/// What another program finds in an STL file.
struct Found {
  std::size_t triangles = 0;
  double volume = 0;       ///< enclosed
  std::size_t open = 0;    ///< edges without a partner
  double skewNormals = 0;  ///< largest distance of a stored normal from the triangle's own
};

Found foundIn(const std::filesystem::path& path) {
  const std::string bytes = readWhole(path, 1'000'000'000);
  std::uint32_t count = 0;
  std::memcpy(&count, bytes.data() + 80, 4);
  EXPECT_EQ(bytes.size(), 84 + std::size_t{50} * count);
  Found found;
  found.triangles = count;
  std::map<std::pair<std::array<float, 3>, std::array<float, 3>>, int> edges;
  for (std::size_t t = 0; t < count; ++t) {
    std::array<std::array<float, 3>, 4> rows{};
    std::memcpy(rows.data(), bytes.data() + 84 + 50 * t, 48);
    const auto at = [&](std::size_t k) { return Point{rows[k][0], rows[k][1], rows[k][2]}; };
    const Vector across = cross(at(2) - at(1), at(3) - at(1));
    found.volume += dot(at(1) - Point{}, across) / 6;
    if (length(across) > 1e-6)
      found.skewNormals = std::max(found.skewNormals, length(normalized(across) - (at(0) - Point{})));
    for (std::size_t k = 1; k <= 3; ++k) {
      const auto &from = rows[k], &to = rows[k % 3 + 1];
      from < to ? ++edges[{from, to}] : --edges[{to, from}];
    }
  }
  for (const auto& [edge, balance] : edges) found.open += balance != 0;
  return found;
}

Found written(const std::vector<FileBody>& bodies, const std::string& unit = "mm") {
  const TemporaryFolder folder;
  Progress progress;
  writeBodies(folder / "a.stl", bodies, unit, progress);
  return foundIn(folder / "a.stl");
}

FileBody body(const Shape& shape, const std::string& name = "Part") {
  return {name, shape, std::nullopt, ""};
}

TEST(StlFile, PlanarBodiesAreExact) {
  const Found block = written({body(makeBlock("b", Plane{}, 10, 20, 30))});
  EXPECT_EQ(block.triangles, 12u);
  EXPECT_NEAR(block.volume, 6000, 1e-3);
  EXPECT_EQ(block.open, 0u);
  EXPECT_LT(block.skewNormals, 1e-6);
  EXPECT_NEAR(written({body(makeBlock("b", Plane{}, 10, 20, 30))}, "cm").volume, 6, 1e-6);
}

TEST(StlFile, RoundBodiesAreCloseAndClosed) {
  const double exact = pi * 100 * 30 + 4.0 / 3 * pi * 512;
  const Found two =
      written({body(makeCylinder("c", {}, 10, 30)), body(makeSphere("s", Plane::through({80, 0, 0}, {0, 0, 1}), 8))});
  EXPECT_LT(two.volume, exact);
  EXPECT_GT(two.volume, exact * 0.998);
  EXPECT_EQ(two.open, 0u);
}

TEST(StlFile, TheDemosAreClosed) {
  for (const char* name : {"mast-clamp", "battery-crate"}) {
    Progress progress;
    const Model model =
        made(readDocument(KERVO_SOURCE_DIR "/demo/" + std::string(name) + ".kervo", allStepKinds(), progress));
    double exact = 0;
    for (const Body& each : model.bodies) exact += each.shape().volume();
    const Found found = written(bodiesOf(model));
    EXPECT_EQ(found.open, 0u) << name;
    EXPECT_NEAR(found.volume, exact, 2e-3 * exact) << name;
  }
}

// Parts that nobody here made.
TEST(StlFile, ForeignPartsAreClosed) {
  const std::string parts = "/usr/share/opencascade/data/";
  for (const char* name : {"step/screw.step", "step/linkrods.step", "occ/bottle.brep", "occ/Motor-c.brep",
                           "occ/CrankArm.brep", "occ/Pump_TopCover.brep", "occ/Ball.brep", "occ/mal_vis.brep"}) {
    Progress progress;
    const FileContents contents = readBodies(parts + name, progress);
    double exact = 0;
    for (const FileBody& each : contents.bodies) exact += each.shape.volume();
    const Found found = written(contents.bodies);
    EXPECT_GT(exact, 0) << name;
    EXPECT_NEAR(found.volume, exact, 5e-3 * exact) << name;
    EXPECT_EQ(found.open, 0u) << name;
  }
}

TEST(StlFile, WhatItCannotHoldIsRefusedAndNothingIsWritten) {
  const TemporaryFolder folder;
  Progress progress;
  const Model curves = made(documentOf(
      {block("a", "10", "10", "10"),
       step("s", "score", {{"verb", text("curves")}, {"cutters", cutBy("xy")}, {"offset", Expression("4 mm")}})}));
  try {
    writeBodies(folder / "a.stl", bodiesOf(curves), "mm", progress);
    FAIL();
  } catch (const FileError& error) {
    EXPECT_THAT(error.what(), HasSubstr("is a curve"));
  }
  EXPECT_FALSE(std::filesystem::exists(folder / "a.stl"));
  try {
    readBodies(folder / "a.stl", progress);
    FAIL();
  } catch (const FileError& error) {
    EXPECT_THAT(error.what(), HasSubstr("there is no such file"));
  }
  EXPECT_THROW(writeBodies(folder / "a.stl", {body(makeBlock("b", Plane{}, 1, 1, 1))}, "furlong", progress), Error);
}

TEST(StlFile, TheScreensTrianglesStayAsTheyAre) {
  const Shape shape = makeCylinder("c", {}, 10, 30);
  Progress progress;
  const MeshQuality coarse = MeshQuality::forSize(shape.box().diagonal());
  const std::size_t before = tessellate(shape, coarse, progress).triangleCount();
  EXPECT_GT(written({body(shape)}).triangles, before);
  EXPECT_EQ(tessellate(shape, coarse, progress).triangleCount(), before);
}

}  // namespace
}  // namespace kervo
