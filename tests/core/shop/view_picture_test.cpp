// Kept views drawn at scale: lengths of lines, areas of cut faces, read back by another program.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <cmath>

#include "exchange/formats.h"
#include "geom/flat/hidden_lines.h"
#include "geom/flat/section_face.h"
#include "model/rebuild.h"
#include "shop/view_picture.h"
#include "support/document_builder.h"
#include "support/read_dxf.h"
#include "support/temporary_folder.h"

namespace kervo {
namespace {

using namespace kervo::test;
using testing::Contains;
using testing::ElementsAre;
using testing::HasSubstr;

ViewCamera fromTheFront() {
  return {.centre = {20, 15, 10}, .towardsEye = {0, -1, 0}, .up = {0, 0, 1}, .height = 100};
}

Step sectionAt(const char* offset) {
  return step("A", "section",
              {{"plane", PlanePick::standard("xz")},
               {"offset", Expression(offset)},
               {"fill", text("hatch")},
               {"hatch", text("metal")}});
}

SavedView view(std::vector<StepId> sections = {}) {
  return {.id = "v", .name = "Front", .camera = fromTheFront(), .sections = std::move(sections)};
}

ViewPicture drawn(const Document& document, const SavedView& of, const ViewPictureOrder& order = {}) {
  Progress progress;
  return viewPicture(document, made(document), of, order, progress);
}

double areaOf(const FlatPicture& picture, const std::string& layer) {
  double area = 0;
  for (const FlatLayer& each : picture.layers)
    if (each.name == layer)
      for (const FlatFill& fill : each.fills)
        for (const FlatChain& loop : fill.loops) {
          double twice = 0;
          for (const Cubic& cubic : cubicsOf(loop)) twice += cross(cubic.from, cubic.to);
          area += std::abs(twice) / 2;
        }
  return area;
}

TEST(ViewPictureTest, DrawsWhatTheViewShowsAtItsScale) {
  Document document = documentOf({block("a", "40", "30", "20"), block("b", "10", "10", "10", {"15", "10", "0"})});
  const ViewPicture picture = drawn(document, view(), ViewPictureOrder{{.name = "x", .scale = 0.5}, true});
  EXPECT_THAT(picture.bodies, ElementsAre("Block", "Block"));
  EXPECT_NEAR(picture.visible, 2 * (40 + 20), 1e-5) << "of the small one nothing is seen";
  EXPECT_GT(picture.hidden, 2 * (10 + 10) - 1e-5);
  EXPECT_NEAR(picture.picture.height, 20 * 0.5 + 10 + 28, 1e-6);
  EXPECT_THAT(picture.notes, testing::IsEmpty());
  // Hidden bodies are not drawn, and no hidden edges where they are not wanted.
  document.seen.bodies["b"].visible = false;
  EXPECT_THAT(
      drawn(document, SavedView{.id = "v", .name = "v", .camera = fromTheFront(), .visible = {{"b", false}}}).bodies,
      ElementsAre("Block"));
  EXPECT_EQ(drawn(document, view(), ViewPictureOrder{{}, false}).hidden, 0);
  EXPECT_THROW(drawn(documentOf({}), view()), Error);
}

TEST(ViewPictureTest, CutFacesAreFilledAndReadBackElsewhere) {
  TemporaryFolder folder;
  Progress progress;
  Document document =
      documentOf({block("a", "40", "30", "20"), drawing("d", onFace("a", "a:top"), {circle("c", "20", "15", "6")}),
                  step("bore", "cut", {{"stock", bodies({"a"})}, {"profiles", allOf("d")}})});
  // Off in the document: the view has it on.
  document = document.withStep(sectionAt("-15 mm").switched(false));
  const Model model = made(document);
  ASSERT_TRUE(model.sections.at(0).result) << "those that are off are made for views";
  const ViewPicture picture = drawn(document, view({"A"}), ViewPictureOrder{{.scale = 1, .strip = false}, false});
  const double exact =
      sectionFace(model.find("a")->shape(), *model.sections[0].result->section->plane, progress).area();
  EXPECT_NEAR(exact, 20 * (40 - 12), 1e-6);
  EXPECT_NEAR(areaOf(picture.picture, "Block cut"), exact, 1e-6 * exact);
  writePicture(folder / "x.dxf", picture.picture, progress);
  const auto found = readDxfElsewhere(folder / "x.dxf");
  EXPECT_EQ(found.at("errors"), 0);
  EXPECT_EQ(found.at("fixes"), 0);
  double hatched = 0;
  for (const auto& [key, value] : found)
    if (key.ends_with(" hatch")) hatched += value;
  EXPECT_NEAR(hatched, exact, 1e-6 * exact);
  EXPECT_EQ(areaOf(drawn(document, view()).picture, "Block cut"), 0) << "without its section the view shows it whole";
}

TEST(ViewPictureTest, SaysWhatItDrawsOtherwise) {
  Document document = documentOf({block("a", "40", "30", "20"), block("post", "4", "4", "60", {"10", "-20", "0"})});
  document = document.withStep(step("A", "section",
                                    {{"plane", PlanePick::standard("xz")},
                                     {"offset", Expression("-15 mm")},
                                     {"cuts", text("all_but")},
                                     {"bodies", bodies({"post"})}}));
  SavedView of = view({"A"});
  of.camera.perspective = true;
  const ViewPicture picture = drawn(document, of);
  EXPECT_THAT(picture.notes, Contains(HasSubstr("parallel projection")));
  EXPECT_THAT(picture.notes, Contains(HasSubstr("partly hidden and not filled")));
}

// Lines by the exact faces, held against those by triangles, which are found in another way.
TEST(ViewPictureTest, OfPartsNobodyHereMadeBothWaysSeeTheSame) {
  Progress progress;
  const Vector eye = normalized(Vector{3, -2, 2.5}), up = normalized(Vector{0, 0, 1} - eye * eye.z);
  const Plane plane{{}, cross(up, eye), up, eye};
  for (const char* name : {"Pump_TopCover", "CrankArm"}) {
    SCOPED_TRACE(name);
    const std::filesystem::path file = std::string("/usr/share/opencascade/data/occ/") + name + ".brep";
    if (!std::filesystem::exists(file)) continue;
    std::vector<Shape> shapes;
    for (const FileBody& body : readBodies(file, progress).bodies) shapes.push_back(body.shape);
    const auto lengths = [&](SeenBy by) {
      std::pair<double, double> sum;
      for (const SeenLines& each : linesSeen(shapes, plane, by, progress).lines) {
        for (const SpaceCurve& curve : each.visible) sum.first += curve.length();
        for (const SpaceCurve& curve : each.hidden) sum.second += curve.length();
      }
      return sum;
    };
    const auto exact = lengths(SeenBy::Faces), rough = lengths(SeenBy::Triangles);
    EXPECT_NEAR(rough.first, exact.first, 0.05 * exact.first);
    EXPECT_GT(exact.second, 0);
  }
}

}  // namespace
}  // namespace kervo
