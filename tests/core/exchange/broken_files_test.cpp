// Files that are not whole: refused, or on request what can be read of them.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <fstream>

#include "base/error.h"
#include "exchange/atomic_file.h"
#include "exchange/body_file.h"
#include "geom/primitives.h"
#include "support/temporary_folder.h"

namespace kervo {
namespace {

using testing::HasSubstr;

constexpr double lidVolume = 10 * 20 * 30, pinVolume = 5 * 5 * 40;

std::vector<FileBody> lidAndPin() {
  return {{"Lid", makeBlock("lid", {}, 10, 20, 30), std::nullopt, ""},
          {"Pin", makeBlock("pin", Plane::through({50, 0, 0}, {0, 0, 1}), 5, 5, 40), std::nullopt, ""}};
}

using test::TemporaryFolder;

class BrokenFiles : public testing::Test {
 protected:
  std::filesystem::path path(const char* name) const { return folder_ / name; }

  /// The file of both bodies, as text.
  std::string written(const char* name) {
    writeBodies(path(name), lidAndPin(), "mm", progress_);
    return readWhole(path(name), 10'000'000);
  }

  void put(const char* name, const std::string& bytes) const { std::ofstream(path(name), std::ios::binary) << bytes; }

  FileContents parts(const char* name) { return readBodies(path(name), {.unit = "mm", .parts = true}, progress_); }

  /// It is refused as a broken one.
  std::string refused(const char* name) {
    try {
      readBodies(path(name), {.unit = "mm"}, progress_);
    } catch (const BrokenFile& error) {
      return error.what();
    } catch (const Error& error) {
      return std::string("not as a broken file: ") + error.what();
    }
    return "no error";
  }

  TemporaryFolder folder_;
  Progress progress_;
};

/// Replaces the last one.
std::string with(std::string text, const std::string& what, const std::string& by) {
  const std::size_t at = text.rfind(what);
  if (at == std::string::npos) throw Error("\"" + what + "\" is not there");
  return text.replace(at, what.size(), by);
}

TEST_F(BrokenFiles, OfAStepFileTheSolidsThatCanBeRead) {
  std::string text = written("a.step");
  // The second solid names a shell that is not there.
  const std::size_t solid = text.rfind("MANIFOLD_SOLID_BREP("), number = text.find('#', solid);
  text.replace(number, text.find(')', number) - number, "#999999");
  put("a.step", text);
  EXPECT_THAT(refused("a.step"), HasSubstr("Pin"));
  const FileContents read = parts("a.step");
  ASSERT_EQ(read.bodies.size(), 1U);
  EXPECT_EQ(read.bodies[0].name, "Lid");
  EXPECT_NEAR(read.bodies[0].shape.volume(), lidVolume, 1e-6);
  ASSERT_EQ(read.lost.size(), 1U);
  EXPECT_THAT(read.lost[0].happened, HasSubstr("Pin"));
}

TEST_F(BrokenFiles, OfAStepFileThatIsCutOff) {
  const std::string text = written("a.step");
  // In the middle of the second solid's geometry.
  put("a.step", text.substr(0, text.rfind("MANIFOLD_SOLID_BREP(") + 30));
  EXPECT_THAT(refused("a.step"), HasSubstr("cut off"));
  try {
    const FileContents read = parts("a.step");
    EXPECT_FALSE(read.lost.empty());
    for (const FileBody& body : read.bodies) EXPECT_EQ(body.name, "Lid");
  } catch (const FileError& error) {
    EXPECT_THAT(error.what(), HasSubstr("cut off"));
  }
}

TEST_F(BrokenFiles, OfAnObjFileTheObjectsThatCanBeRead) {
  std::string text = written("a.obj");
  put("a.obj", with(text, "\nf ", "\nf 99999 "));
  EXPECT_THAT(refused("a.obj"), testing::AllOf(HasSubstr("\"Pin\" cannot be read"), HasSubstr("99999")));
  const FileContents read = parts("a.obj");
  ASSERT_EQ(read.bodies.size(), 1U);
  EXPECT_NEAR(read.bodies[0].shape.volume(), lidVolume, 1e-6);
  // A point that is no point.
  put("a.obj", with(text, "\nv ", "\nv x"));
  EXPECT_THAT(refused("a.obj"), HasSubstr("\"Pin\" cannot be read"));
  EXPECT_EQ(parts("a.obj").bodies.size(), 1U);
}

TEST_F(BrokenFiles, OfAGlbFileTheMeshesThatCanBeRead) {
  const std::string bytes = written("a.glb");
  // The numbers of the second body reach beyond the end.
  put("a.glb", with(bytes, "\"count\":36", "\"count\":99"));
  EXPECT_THAT(refused("a.glb"), HasSubstr("\"Pin\" cannot be read"));
  const FileContents read = parts("a.glb");
  ASSERT_EQ(read.bodies.size(), 1U);
  EXPECT_NEAR(read.bodies[0].shape.volume(), lidVolume, 1e-3);
}

TEST_F(BrokenFiles, TheTrianglesOfAnStlFileThatIsCutOff) {
  const std::string bytes = written("a.stl");
  put("a.stl", bytes.substr(0, bytes.size() - 75));
  EXPECT_THAT(refused("a.stl"), HasSubstr("24 triangles, but has room for 22"));
  const FileContents read = parts("a.stl");
  ASSERT_EQ(read.bodies.size(), 1U);
  EXPECT_EQ(read.bodies[0].shape.mesh()->triangles().size(), 22U);
  EXPECT_EQ(read.lost.size(), 1U);
}

TEST_F(BrokenFiles, NothingIsLostOfAWholeFile) {
  for (const char* name : {"a.step", "a.obj", "a.glb", "a.3mf", "a.igs"}) {
    written(name);
    const FileContents read = parts(name);
    EXPECT_EQ(read.bodies.size(), 2U) << name;
    EXPECT_TRUE(read.lost.empty()) << name;
  }
}

TEST_F(BrokenFiles, OnlySomeBodies) {
  written("a.step");
  const FileContents read = onlyOf(parts("a.step"), {"Pin"}, path("a.step"));
  ASSERT_EQ(read.bodies.size(), 1U);
  EXPECT_NEAR(read.bodies[0].shape.volume(), pinVolume, 1e-6);
  EXPECT_THROW(onlyOf(parts("a.step"), {"Bolt"}, path("a.step")), FileError);
}

}  // namespace
}  // namespace kervo
