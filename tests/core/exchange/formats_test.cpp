// The table of formats, and what has to agree with it.
#include "exchange/formats.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <fstream>
#include <set>
#include <sstream>

#include "base/error.h"

namespace kervo {
namespace {

using testing::HasSubstr;

std::string contentOf(const std::string& path) {
  std::stringstream text;
  text << std::ifstream(std::string(KERVO_SOURCE_DIR) + "/" + path).rdbuf();
  return text.str();
}

TEST(Formats, AreFoundByTheirExtension) {
  std::set<std::string> extensions;
  for (const Format* format : allFormats())
    for (const std::string& extension : format->extensions) {
      EXPECT_TRUE(extensions.insert(extension).second) << extension << " is that of two formats";
      EXPECT_EQ(formatOf("/some/where" + extension), format);
    }
  EXPECT_EQ(formatOf("PART.STP"), formatOf("part.step"));
  EXPECT_EQ(formatOf("part"), nullptr);
  EXPECT_EQ(formatOf("part.xyz"), nullptr);
}

TEST(Formats, AreListedForPeople) {
  EXPECT_EQ(endings(Format::Holds::Document, Direction::Read), ".kervo or .json");
  EXPECT_EQ(endings(Format::Holds::Document, Direction::Write), ".kervo");
  EXPECT_EQ(endings(Format::Holds::Bodies, Direction::Read),
            ".step, .stp, .igs, .iges, .brep, .brp, .stl, .obj, .3mf, .glb, .ply or .ifc");
  EXPECT_EQ(namesOfBodyFormats(Direction::Read), "STEP, IGES, BREP, STL, OBJ, 3MF, GLB, PLY or IFC4");
  EXPECT_EQ(endings(Format::Holds::Bodies, Direction::Write),
            ".step, .stp, .igs, .iges, .brep, .brp, .stl, .obj, .3mf, .glb, .ply or .ifc");
  EXPECT_EQ(namesOfMeshFormats(), "STL, OBJ, 3MF, GLB, PLY or IFC4");
}

TEST(Formats, ThoseThatCannotBeUsedAreRefusedWithThoseThatCan) {
  try {
    requireBodyFormat("part.xyz", Direction::Write);
    FAIL();
  } catch (const FileError& error) {
    EXPECT_THAT(error.what(), HasSubstr("files ending in \".xyz\" are not known"));
    EXPECT_THAT(error.help(), HasSubstr(".step, .stp"));
  }
  EXPECT_THROW(requireBodyFormat("document.kervo", Direction::Read), FileError);
}

TEST(Formats, TheDesktopKnowsThoseThatAreRead) {
  std::string types;
  for (const Format* format : allFormats())
    if (allows(*format, Direction::Read))
      for (const std::string& type : format->mimeTypes) types += type + ";";
  EXPECT_THAT(contentOf("packaging/kervo.desktop"), HasSubstr("\nMimeType=" + types + "\n"));
  EXPECT_THAT(contentOf("packaging/kervo-mime.xml"), HasSubstr("<glob pattern=\"*.kervo\"/>"));
}

}  // namespace
}  // namespace kervo
