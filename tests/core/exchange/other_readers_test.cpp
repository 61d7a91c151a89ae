// What readers that are not Kervo's find in the building models, scenes and printers' files that it writes: web-ifc and
// three.js, by way of tests/readers/read.mjs. packaging/readers puts them in place.
#include <gtest/gtest.h>

#include <array>
#include <cstdlib>
#include <map>
#include <sstream>

#include "exchange/kervo_file.h"
#include "geom/primitives.h"
#include "support/document_builder.h"
#include "support/read_dxf.h"
#include "support/temporary_folder.h"

namespace kervo {
namespace {

using namespace test;

class OtherReaders : public testing::Test {
 protected:
  void SetUp() override {
    if (!std::filesystem::exists(readers / "installed"))
      GTEST_SKIP() << "node, web-ifc and three.js are not here: packaging/readers puts them in place, if there is npm";
  }

  /// Lines "KIND NAME VALUE", by "KIND NAME".
  static std::map<std::string, std::string> read(const std::filesystem::path& path) {
    std::istringstream lines(outputOf("node " + (readers / "read.mjs").string() + " '" + path.string() + "'"));
    std::map<std::string, std::string> found;
    for (std::string line; std::getline(lines, line);)
      if (const auto end = line.rfind(' '); end != std::string::npos) found[line.substr(0, end)] = line.substr(end + 1);
    return found;
  }

  static double number(const std::map<std::string, std::string>& found, const std::string& key) {
    const auto at = found.find(key);
    if (at == found.end()) ADD_FAILURE() << "there is no " << key;
    return at == found.end() ? NAN : std::stod(at->second);
  }

  const TemporaryFolder folder_;
  Progress progress_;

 private:
  inline static const std::filesystem::path readers = KERVO_SOURCE_DIR "/build/readers";
};

/// Blocks with unusual names, in assemblies, of two colours.
std::vector<FileBody> parts() {
  std::vector<FileBody> bodies;
  const auto add = [&](const std::string& name, double x, double height, Color color) {
    FileBody body{name, makeBlock("b", Plane::through({x, 0, 0}, {0, 0, 1}), 10, 20, height), color, ""};
    body.within = {"Kiste <1>", "Größe & Maß"};
    bodies.push_back(std::move(body));
  };
  add("Deckel Ø20", 0, 5, {0.8, 0.2, 0.1});
  add("Plate & \"rim\"", 20, 7, {0.1, 0.3, 0.9});
  return bodies;
}

TEST_F(OtherReaders, FindNamesColoursAndVolumesInAScene) {
  writeBodies(folder_ / "parts.glb", parts(), "mm", progress_);
  const auto found = read(folder_ / "parts.glb");
  EXPECT_NEAR(number(found, "volume Deckel Ø20"), 1000e-9, 1e-12);
  EXPECT_NEAR(number(found, "volume Plate & \"rim\""), 1400e-9, 1e-12);
  EXPECT_EQ(found.at("color Deckel Ø20"), "#cc331a");
  EXPECT_EQ(found.at("color Plate & \"rim\""), "#1a4de6");
}

TEST_F(OtherReaders, FindNamesColoursAndVolumesInAPrintersFile) {
  writeBodies(folder_ / "parts.3mf", parts(), "mm", progress_);
  const auto found = read(folder_ / "parts.3mf");
  EXPECT_NEAR(number(found, "volume Deckel Ø20"), 1000, 1e-3);
  EXPECT_NEAR(number(found, "volume Plate & \"rim\""), 1400, 1e-3);
  EXPECT_EQ(found.at("color Deckel Ø20"), "#cc331a");
  EXPECT_EQ(found.at("color Plate & \"rim\""), "#1a4de6");
}

TEST_F(OtherReaders, FindStoreysAndWallsWithTheirOpeningsInABuildingModel) {
  const Model model = made(readDocument(KERVO_SOURCE_DIR "/demo/watch-hut.kervo", allStepKinds(), progress_));
  writeBodies(folder_ / "hut.ifc", bodiesOf(model), {"mm", ReadBack::Compare, {}, levelsOf(model)}, progress_);
  const auto found = read(folder_ / "hut.ifc");
  int compared = 0;
  for (const Body& body : model.bodies) {
    if (body.form.kind() != BodyKind::Solid) continue;
    // Round parts are facets there.
    const double exact = body.form.volume() * 1e-9;
    EXPECT_NEAR(number(found, "volume " + body.name), exact, 2e-2 * exact) << body.name;
    ++compared;
  }
  EXPECT_GT(compared, 15);
  ASSERT_FALSE(levelsOf(model).empty());
  for (const FileLevel& level : levelsOf(model)) {
    const double height = number(found, "storey " + level.name);
    EXPECT_NEAR(height, level.height, 1e-6) << level.name << ": in the file's unit, which is mm";
  }
}

TEST_F(OtherReaders, FindTheLampHousingAsItIsPrinted) {
  const Model model = made(readDocument(KERVO_SOURCE_DIR "/demo/lamp-housing.kervo", allStepKinds(), progress_));
  writeBodies(folder_ / "lamp.3mf", bodiesOf(model), "mm", progress_);
  const auto found = read(folder_ / "lamp.3mf");
  for (const Body& body : model.bodies)
    EXPECT_NEAR(number(found, "volume " + body.name), body.form.volume(), 1e-3 * body.form.volume()) << body.name;
}

}  // namespace
}  // namespace kervo
