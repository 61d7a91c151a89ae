// Sheets for a shop: no two parts too near, and a simulated cutter that reads the written file frees just the parts.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>
#include <random>

#include "base/error.h"
#include "exchange/body_file.h"
#include "geom/flat/slices.h"
#include "shop/cutter.h"
#include "shop/nest.h"
#include "shop/polygons.h"
#include "shop/section_picture.h"
#include "shop/sheets.h"
#include "support/document_builder.h"
#include "support/read_dxf.h"
#include "support/temporary_folder.h"

namespace kervo {
namespace {

using namespace test;
using testing::Contains;
using testing::HasSubstr;
using testing::IsEmpty;
constexpr double pi = std::numbers::pi;

FlatChain polygon(const std::vector<PlanePoint>& corners) {
  FlatChain chain;
  for (std::size_t i = 0; i < corners.size(); ++i)
    chain.push_back(std::make_shared<const LineCurve>(corners[i], corners[(i + 1) % corners.size()]));
  return chain;
}
FlatChain box(double u, double v, double w, double h) {
  return polygon({{u, v}, {u + w, v}, {u + w, v + h}, {u, v + h}});
}
FlatChain disc(PlanePoint at, double radius) {
  return {std::make_shared<const CircleCurve>(at, radius)};
}
FlatChain placed(const FlatChain& chain, const PlaneMotion& motion) {
  FlatChain result;
  for (const FlatCurve& curve : chain) result.push_back(curve->moved(motion));
  return result;
}

/// Frames, L shapes, rings and triangles.
std::vector<NestedPart> mixedParts(int count) {
  std::mt19937 random(7);
  std::vector<NestedPart> parts;
  for (int i = 0; i < count; ++i) {
    const double w = std::uniform_real_distribution<>(60, 200)(random),
                 h = std::uniform_real_distribution<>(60, 160)(random);
    switch (i % 4) {
      case 0:
        parts.push_back({box(0, 0, w, h), {box(w * 0.15, h * 0.15, w * 0.7, h * 0.7)}});
        break;
      case 1:
        parts.push_back({polygon({{0, 0}, {w, 0}, {w, h * 0.4}, {w * 0.4, h * 0.4}, {w * 0.4, h}, {0, h}})});
        break;
      case 2:
        parts.push_back({disc({30, 30}, h / 2), {disc({30, 30}, h / 4)}});
        break;
      default:
        parts.push_back({polygon({{0, 0}, {w, 0}, {w * 0.3, h}})});
    }
  }
  return parts;
}

ClipperLib::Paths materialOf(const NestedPart& part, const PlaneMotion& motion) {
  ClipperLib::Paths outline{polygonOf(placed(part.outline, motion), 0.01)}, holes;
  for (const FlatChain& hole : part.holes) holes.push_back(polygonOf(placed(hole, motion), 0.01));
  for (auto* paths : {&outline, &holes})
    for (ClipperLib::Path& path : *paths)
      if (!ClipperLib::Orientation(path)) std::reverse(path.begin(), path.end());
  return holes.empty() ? outline : without(outline, holes);
}

TEST(Nest, KeepsPartsApartWithinTheSheetAndUsesHoles) {
  Progress progress;
  const std::vector<NestedPart> parts = mixedParts(24);
  const NestRoom room{.width = 700, .height = 500, .edge = 5, .gap = 4};
  const Nesting nesting = nest(parts, room, progress);
  ASSERT_EQ(nesting.placed.size(), parts.size());
  EXPECT_THAT(nesting.tooLarge, IsEmpty());
  int within = 0;
  for (std::size_t i = 0; i < nesting.placed.size(); ++i) {
    const Placement& one = nesting.placed[i];
    const ClipperLib::Paths material = materialOf(parts[one.part], one.motion);
    const PlaneBox around = boxOf({placed(parts[one.part].outline, one.motion)});
    EXPECT_GE(around.low.u, 5 - 1e-3);
    EXPECT_GE(around.low.v, 5 - 1e-3);
    EXPECT_LE(around.high.u, 695 + 1e-3);
    EXPECT_LE(around.high.v, 495 + 1e-3);
    const ClipperLib::Paths grown = grownBy(material, 4 - 0.02);
    for (std::size_t j = 0; j < i; ++j) {
      const Placement& other = nesting.placed[j];
      if (other.sheet != one.sheet) continue;
      const ClipperLib::Paths rest = materialOf(parts[other.part], other.motion);
      EXPECT_NEAR(areaOf(without(rest, grown)), areaOf(rest), 1e-3) << one.part << " is too near to " << other.part;
      for (const FlatChain& hole : parts[other.part].holes)
        within +=
            ClipperLib::PointInPolygon(material.front().front(), polygonOf(placed(hole, other.motion), 0.01)) != 0;
    }
  }
  EXPECT_GT(within, 0) << "holes take what fits";
  double area = 0;
  for (const NestedPart& part : parts) area += areaOf(materialOf(part, {}));
  EXPECT_LE(static_cast<double>(nesting.sheets), std::ceil(area / (700 * 500)) + 1);
}

TEST(Nest, NamesWhatIsTooLargeAndTakesWhatJustFits) {
  Progress progress;
  const Nesting nesting =
      nest({{box(0, 0, 300, 10)}, {box(0, 0, 90, 40)}}, {.width = 100, .height = 60, .edge = 2, .gap = 1}, progress);
  EXPECT_THAT(nesting.tooLarge, testing::ElementsAre(0u));
  ASSERT_EQ(nesting.placed.size(), 1u);
  EXPECT_THROW(nest({}, {.width = 3, .height = 100, .edge = 2, .gap = 1}, progress), Error);
}

/// Plates with a hole of 10 mm radius, sliced to faces with numbers.
Model slicedPlates() {
  return made(
      documentOf({block("a", "80", "60", "20", {"-40", "-30", "0"}),
                  step("pin", "cylinder",
                       {{"radius", Expression("10")}, {"height", Expression("40")}, {"at", point("0", "0", "-5")}}),
                  step("cut", "combine", {{"stock", bodies({"a"})}, {"cutters", bodies({"pin"})}}),
                  block("small", "9", "7", "20", {"100", "0", "0"}),
                  step("s", "slices",
                       {{"gives", text("faces")},
                        {"count", Expression("3")},
                        {"spacing", Expression("5")},
                        {"start", Expression("4")},
                        {"numbers", text("as curves")}})}));
}

std::vector<Body> slicesIn(const Model& model) {
  std::vector<Body> result;
  for (const Body& body : model.bodies)
    if (body.id.step() == "s") result.push_back(body);
  return result;
}

TEST(CutSheetsTest, TheCutterFreesThePartsInTheirTrueSize) {
  TemporaryFolder folder;
  Progress progress;
  const Model model = slicedPlates();
  ASSERT_FALSE(model.failed()) << errorOf(model, "cut") << errorOf(model, "s");
  const ShopParts parts = shopParts(slicesIn(model), progress);
  ASSERT_EQ(parts.parts.size(), 6u);
  EXPECT_THAT(parts.leftOut, IsEmpty()) << "numbers belong to their parts";
  EXPECT_FALSE(parts.parts.front().marks.empty());
  const double plate = 80 * 60 - 100 * pi, small = 63;
  for (const char* name : {"x.dxf", "x.svg"}) {
    SCOPED_TRACE(name);
    const CutSheets sheets = cutSheets(parts.parts, {.width = 300, .height = 100, .spacing = 2, .kerf = 0.3}, progress);
    ASSERT_EQ(sheets.sheets.size(), 1u);
    EXPECT_NEAR(sheets.sheets[0].used, 3 * (plate + small) / 30000, 1e-9);
    const auto files = writeSheets(folder / name, sheets, progress);
    ASSERT_EQ(files.size(), 1u);
    const CutRun run =
        runCutter(readCurves(files[0], "", progress), {.kerf = 0.3, .feed = 10, .travel = 100}, progress);
    EXPECT_THAT(run.findings, IsEmpty()) << (run.findings.empty() ? "" : run.findings.front());
    int plates = 0, smalls = 0, slugs = 0;
    for (const FreedPart& part : run.freed) {
      plates += !part.waste && std::abs(part.area - plate) < 0.5;
      smalls += std::abs(part.area - small) < 0.1;
      slugs += part.waste;
    }
    EXPECT_EQ(plates, 3);
    EXPECT_EQ(smalls, 3);
    EXPECT_EQ(slugs, 3);
    // Half a kerf outside of each plate with round corners, and inside of each hole.
    const double cut = 3 * (280 + 0.3 * pi + 2 * pi * 9.85 + 32 + 0.3 * pi);
    EXPECT_NEAR(run.cut, cut, 1e-3);
    EXPECT_GT(run.marked, 0);
    EXPECT_NEAR(run.seconds, (run.cut + run.marked) / 10 + run.travelled / 100, 1e-9);
    EXPECT_LT(distance(beamAt(run, run.seconds), runOf(run.paths.back().chain).end), 1e-9);
  }
  const auto found = readDxfElsewhere(folder / "x.dxf");
  EXPECT_EQ(found.at("fixes"), 0);
  const double outside = 3 * (80 * 60 + 0.15 * 280 + pi * 0.0225), holes = 3 * pi * 9.85 * 9.85;
  double closed = found.at("cut-outside area") + found.at("cut-inside area");
  const double little = 3 * (63 + 0.15 * 32 + pi * 0.0225);
  EXPECT_NEAR(closed, outside + holes + little, 1e-6 * closed);
}

TEST(CutSheetsTest, SeveralSheetsAreSeveralFilesAndWhatDoesNotFitIsNamed) {
  TemporaryFolder folder;
  Progress progress;
  const Model model = slicedPlates();
  const ShopParts parts = shopParts(slicesIn(model), progress);
  const CutSheets sheets = cutSheets(parts.parts, {.width = 100, .height = 80, .spacing = 2, .kerf = 0.2}, progress);
  EXPECT_EQ(sheets.sheets.size(), 3u);
  const auto files = writeSheets(folder / "x.svg", sheets, progress);
  ASSERT_EQ(files.size(), 3u);
  EXPECT_TRUE(std::filesystem::exists(folder / "x-2.svg"));
  const CutSheets few = cutSheets(parts.parts, {.width = 50, .height = 50, .spacing = 2, .kerf = 0.2}, progress);
  EXPECT_THAT(few.notes, Contains(HasSubstr("larger than the sheet")));
  EXPECT_THROW(cutSheets(parts.parts, {.width = 5, .height = 5, .spacing = 0, .kerf = 0}, progress), Error);
  EXPECT_THROW(cutSheets({}, {}, progress), Error);
  const CutSheets wide = cutSheets(parts.parts, {.width = 400, .height = 200, .spacing = 2, .kerf = 22}, progress);
  EXPECT_THAT(wide.notes, Contains(HasSubstr("narrower than the kerf")));
}

// Edges of other programs end only near their corners, and offsets of their splines may fail: what falls free has its
// true size all the same.
TEST(CutSheetsTest, PartsNobodyHereMadeFallFreeInTheirTrueSize) {
  TemporaryFolder folder;
  Progress progress;
  for (const char* name : {"Pump_TopCover", "Motor-c", "bottle"}) {
    SCOPED_TRACE(name);
    const std::filesystem::path file = std::string("/usr/share/opencascade/data/occ/") + name + ".brep";
    if (!std::filesystem::exists(file)) continue;
    const Shape shape = readBodies(file, progress).bodies.front().shape;
    std::vector<Plane> planes;
    const Box box = shape.roughBox();
    for (int i = 1; i < 5; ++i) planes.push_back(Plane{}.moved(box.low.z + 0.2 * i * (box.high.z - box.low.z)));
    std::vector<Body> bodies;
    double area = 0;
    for (const Slice& slice : slicesOf(shape, planes, "s", progress)) {
      Body body;
      body.id = "s/" + std::to_string(slice.plane + 1);
      body.name = body.id;
      body.form = slice.faces;
      area += slice.faces.area();
      bodies.push_back(std::move(body));
    }
    const ShopParts parts = shopParts(bodies, progress);
    const CutSheets sheets = cutSheets(parts.parts, {.width = 900, .height = 700, .spacing = 2, .kerf = 0.3}, progress);
    ASSERT_EQ(sheets.sheets.size(), 1u);
    const auto files = writeSheets(folder / "x.dxf", sheets, progress);
    const CutRun run = runCutter(readCurves(files[0], "", progress), {.kerf = 0.3}, progress);
    EXPECT_THAT(run.findings, IsEmpty()) << (run.findings.empty() ? "" : run.findings.front());
    double freed = 0;
    std::size_t count = 0;
    for (const FreedPart& part : run.freed) {
      count += part.waste ? 0 : 1;
      freed += part.waste ? 0 : part.area;
    }
    EXPECT_EQ(count, parts.parts.size());
    EXPECT_NEAR(freed, area, 2e-3 * area);
  }
}

TEST(CutterTest, NamesOpenLoopsCutsOnEachOtherAndCutsThatComeTooLate) {
  Progress progress;
  FileCurves file;
  const auto add = [&](const std::string& layer, const FlatChain& chain) {
    auto& curves = file.layer(layer).curves;
    curves.insert(curves.end(), chain.begin(), chain.end());
  };
  FlatChain open = box(200, 0, 10, 10);
  open.pop_back();
  add("a", box(0, 0, 50, 40));
  add("a", disc({20, 20}, 5));
  add("b", box(50, 0, 30, 40));
  add("c", open);
  const CutRun run = runCutter(file, {}, progress);
  EXPECT_THAT(run.findings, Contains(HasSubstr("is open")));
  EXPECT_THAT(run.findings, Contains(HasSubstr("for 40 mm on another cut")));
  EXPECT_THAT(run.findings, Contains(HasSubstr("lies in a part that has fallen before")));
  EXPECT_EQ(run.freed.size(), 3u);
  EXPECT_THROW(runCutter(file, {.feed = 0}, progress), Error);
}

TEST(SectionPictureTest, IsAtScaleWithFillsOnLayersOfItsBodies) {
  TemporaryFolder folder;
  Progress progress;
  const Model model = made(documentOf(
      {block("a", "80", "60", "20", {"-40", "-30", "0"}), block("b", "10", "10", "20", {"100", "0", "0"}),
       step("cut", "section",
            {{"plane", PlanePick::standard("xy")}, {"offset", Expression("5 mm")}, {"fill", text("hatch")}})}));
  ASSERT_EQ(model.sections.size(), 1u);
  ASSERT_FALSE(model.sections[0].error) << model.sections[0].error->what();
  const SectionPicture picture =
      sectionPicture(model, *model.sections[0].result->section, {.name = "A", .scale = 2}, progress);
  EXPECT_NEAR(picture.area, 80 * 60 + 100, 1e-9);
  EXPECT_EQ(picture.bodies.size(), 2u);
  EXPECT_NEAR(picture.picture.width, 150 * 2 + 20, 1e-6);
  writePicture(folder / "x.dxf", picture.picture, progress);
  const auto found = readDxfElsewhere(folder / "x.dxf");
  EXPECT_EQ(found.at("errors"), 0);
  EXPECT_EQ(found.at("fixes"), 0);
  double hatched = 0, outlined = 0;
  for (const auto& [key, value] : found) {
    if (key.ends_with(" hatch") && !key.starts_with("title")) hatched += value;
    if (key.ends_with(" area") && !key.starts_with("title")) outlined += value;
  }
  EXPECT_NEAR(hatched, picture.area * 4, 1e-6 * picture.area);
  EXPECT_NEAR(outlined, picture.area * 4, 1e-6 * picture.area);
}

TEST(SectionPictureTest, RefusesWhatCutsNothingAndScalesThatAreNone) {
  Progress progress;
  const auto sectionOf = [&](const char* offset) {
    const Model model = made(
        documentOf({block("a", "80", "60", "20"),
                    step("cut", "section", {{"plane", PlanePick::standard("xy")}, {"offset", Expression(offset)}})}));
    return sectionPicture(model, *model.sections.at(0).result->section, {}, progress);
  };
  EXPECT_NO_THROW(sectionOf("5 mm"));
  EXPECT_THROW(sectionOf("50 mm"), Error);
  EXPECT_EQ(scaleFrom("1:50"), 0.02);
  EXPECT_EQ(scaleFrom("2:1"), 2);
  EXPECT_EQ(scaleText(0.02), "1:50");
  for (const char* wrong : {"", "1:", "1:0", "a:b", "-1:2", "1:5x"}) EXPECT_THROW(scaleFrom(wrong), Error) << wrong;
}

}  // namespace
}  // namespace kervo
