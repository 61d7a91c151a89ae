// Curves out of files of other programs. The DXF files in tests/data/curves were written by python3-ezdxf.
#include "exchange/curve_file.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <fstream>
#include <numbers>

#include "base/error.h"
#include "drawing/crossings.h"
#include "exchange/atomic_file.h"
#include "exchange/svg_path.h"
#include "model/rebuild.h"
#include "steps/registry.h"
#include "support/temporary_folder.h"

namespace kervo {
namespace {

using namespace test;
using testing::Contains;
using testing::DoubleNear;
using testing::HasSubstr;
constexpr double pi = std::numbers::pi;

FileCurves curvesIn(const std::filesystem::path& path, const std::string& unit = {}) {
  Progress progress;
  return readCurves(path, unit, progress);
}

std::filesystem::path dataFile(const std::string& name) {
  return std::filesystem::path(KERVO_SOURCE_DIR) / "tests/data/curves" / name;
}

double lengthOf(const PlaneCurve& curve) {
  return lengthBetween(curve, 0, 1);
}

/// The areas of all regions of the document's drawings, from small to large.
std::vector<double> areasOf(const Document& document) {
  Memo memo;
  Progress progress;
  const Model model = rebuild(document, memo, progress);
  std::vector<double> areas;
  for (const StepReport& step : model.steps) {
    EXPECT_FALSE(step.error) << step.error->what();
    for (const Region& region : step.drawing()->regions) areas.push_back(region.area());
  }
  std::sort(areas.begin(), areas.end());
  return areas;
}

class CurveFile : public testing::Test {
 protected:
  std::filesystem::path write(const std::string& name, const std::string& content) {
    const std::filesystem::path path = folder.path() / name;
    std::ofstream(path, std::ios::binary) << content;
    return path;
  }
  std::filesystem::path svg(const std::string& attributes, const std::string& content) {
    return write("picture.svg", "<?xml version=\"1.0\"?>\n<svg xmlns=\"http://www.w3.org/2000/svg\" " + attributes +
                                    ">" + content + "</svg>\n");
  }
  /// The only curve of a picture whose user unit is 1 mm, v upwards from its lower edge at 100.
  std::shared_ptr<const PlaneCurve> only(const std::string& content) {
    const FileCurves curves = curvesIn(svg("width=\"100mm\" height=\"100mm\" viewBox=\"0 0 100 100\"", content));
    EXPECT_EQ(curves.count(), 1U);
    return curves.layers.at(0).curves.at(0);
  }
  std::string errorOf(const std::filesystem::path& path, const std::string& unit = {}) {
    try {
      curvesIn(path, unit);
    } catch (const Error& error) {
      return error.what();
    }
    return "no error";
  }
  TemporaryFolder folder;
};

TEST_F(CurveFile, DxfHasLayersUnitsBlocksAndEveryCurve) {
  for (const char* name : {"R2000.dxf", "R2018.dxf"}) {
    SCOPED_TRACE(name);
    const FileCurves curves = curvesIn(dataFile(name));
    EXPECT_EQ(curves.unit, "cm");
    EXPECT_TRUE(curves.unitNamed);
    ASSERT_EQ(curves.layers.size(), 2U);
    EXPECT_EQ(curves.layers[0].name, "Cut");
    // R2000 has its names in its own character set.
    EXPECT_EQ(curves.layers[1].name, "Größe");
    EXPECT_THAT(curves.notes, Contains(HasSubstr("\"Off\" is off")));
    EXPECT_THAT(curves.notes, Contains(HasSubstr("one TEXT was left out")));
    EXPECT_THAT(curves.notes, Contains(HasSubstr("one HATCH was left out")));
    std::vector<double> lengths;
    for (const auto& curve : curves.layers[0].curves) lengths.push_back(lengthOf(*curve));
    ASSERT_EQ(lengths.size(), 10U);
    EXPECT_NEAR(lengths[0], 30 * 40 * pi / 180, 1e-9);  // an arc seen from below
    EXPECT_NEAR(curves.layers[0].curves[0]->carrier()->centre.u, -10, 1e-9);
    EXPECT_NEAR(lengths[1], 50 * pi, 1e-9);  // a bulge of 1 is half a circle
    EXPECT_NEAR(lengths[2], std::sqrt(5000) * pi / 2, 1e-9);
    EXPECT_NEAR(lengths[3], 100, 1e-9);
    EXPECT_NEAR(lengths[8], 10 * pi / 2, 1e-7);  // a quarter of a circle as a spline with weights
    // The block is mirrored, turned and on the layer that uses it.
    EXPECT_NEAR(distance(curves.layers[1].curves[0]->carrier()->centre, {100, 100}), 0, 1e-9);
    const auto* ellipse = dynamic_cast<const EllipseCurve*>(curves.layers[1].curves[1].get());
    ASSERT_TRUE(ellipse);
    EXPECT_NEAR(distance(ellipse->centre(), {100, 80}), 0, 1e-9);
    EXPECT_NEAR(std::abs(ellipse->end().v - 80), 10, 1e-9);
    EXPECT_NEAR(ellipse->other(), 5, 1e-9);
  }
}

TEST_F(CurveFile, OldDxfWithoutUnitsIsAGuess) {
  const FileCurves curves = curvesIn(dataFile("R12.dxf"));
  EXPECT_FALSE(curves.unitNamed);
  EXPECT_EQ(curves.unit, "mm");
  EXPECT_EQ(curves.count(), 4U);
  EXPECT_EQ(curves.layers[1].name, "Größe");
  const FileCurves inches = curvesIn(dataFile("R12.dxf"), "in");
  EXPECT_TRUE(inches.unitNamed);
  EXPECT_NEAR(lengthOf(*inches.layers[0].curves[1]), 25.4 * 5 * pi, 1e-9);
}

TEST_F(CurveFile, BecomesDrawingsWithTheRegionsItEncloses) {
  const Document document = withDrawings({}, curvesIn(dataFile("R2000.dxf")), "R2000.dxf", 1e-6, allStepKinds());
  ASSERT_EQ(document.made.steps.size(), 2U);
  EXPECT_EQ(document.nameOf(*document.made.steps[0]), "Cut of R2000.dxf");
  const auto& drawing = document.made.steps[0]->value("curves").as<Drawing>();
  EXPECT_EQ(drawing.curves.front().snapshotOf, "R2000.dxf");
  const std::vector<double> areas = areasOf(document);
  EXPECT_THAT(areas, Contains(DoubleNear(5000 + 2500 * (pi / 2 - 1), 1e-6)));  // the polyline and its bulge
  EXPECT_THAT(areas, Contains(DoubleNear(pi * 30 * 15, 1e-6)));
  EXPECT_THAT(areas, Contains(DoubleNear(pi * 25, 1e-6)));
  EXPECT_THAT(areas, Contains(DoubleNear(pi * 50, 1e-6)));
}

TEST_F(CurveFile, EndsWithinTheGapAreJoined) {
  // A square whose ends miss each other by 0.05 mm.
  const auto path = svg("width=\"20mm\" height=\"20mm\" viewBox=\"0 0 20 20\"",
                        "<path d=\"M0 0H10M10.05 0V10M10.05 10.05H0M0 10V0.05\"/>");
  const FileCurves curves = curvesIn(path);
  EXPECT_TRUE(areasOf(withDrawings({}, curves, "s", 0.01, allStepKinds())).empty());
  const std::vector<double> areas = areasOf(withDrawings({}, curves, "s", 0.2, allStepKinds()));
  ASSERT_EQ(areas.size(), 1U);
  EXPECT_NEAR(areas[0], 100, 2);
}

TEST_F(CurveFile, SplinesThroughPointsComeBackThroughThem) {
  const Document document = withDrawings({}, curvesIn(dataFile("R2000.dxf")), "R2000.dxf", 1e-6, allStepKinds());
  const auto& drawing = document.made.steps[0]->value("curves").as<Drawing>();
  const auto spline = std::find_if(drawing.curves.begin(), drawing.curves.end(),
                                   [](const DrawnCurve& curve) { return curve.kind == "spline"; });
  ASSERT_NE(spline, drawing.curves.end());
  EXPECT_EQ(spline->points.size(), 3U);
}

TEST_F(CurveFile, TheirMiddleComesToTheOrigin) {
  const FileCurves curves = inTheMiddle(curvesIn(dataFile("R12.dxf")));
  const PlaneBox box = boxOf(curves);
  EXPECT_NEAR(box.low.u + box.high.u, 0, 1e-9);
  EXPECT_NEAR(box.low.v + box.high.v, 0, 1e-9);
}

TEST_F(CurveFile, DxfThatIsCutOffBinaryOrWrongIsRefusedWithThePlace) {
  const std::string whole = readWhole(dataFile("R2000.dxf"), 1'000'000);
  EXPECT_THAT(errorOf(write("cut.dxf", whole.substr(0, whole.size() * 2 / 3))), HasSubstr("cut off before its end"));
  std::string wrong = whole;
  const std::size_t at = wrong.find("0.4142135623730951");
  ASSERT_NE(at, std::string::npos);
  wrong.replace(at, 6, "O.4142");
  EXPECT_THAT(errorOf(write("wrong.dxf", wrong)), HasSubstr("\"O.4142135623730951\" is no number"));
  EXPECT_THAT(
      errorOf(write("wrong.dxf", wrong)),
      HasSubstr("line " +
                std::to_string(1 + std::count(wrong.begin(), wrong.begin() + static_cast<std::ptrdiff_t>(at), '\n'))));
  EXPECT_THAT(errorOf(write("binary.dxf", std::string("eighteen bytes ...\r\n\x1a\0rest", 26))),
              HasSubstr("binary DXF"));
  EXPECT_THAT(errorOf(write("empty.dxf", "  0\nEOF\n")), HasSubstr("no curve"));
  EXPECT_THAT(errorOf(dataFile("R12.dxf"), "furlong"), HasSubstr("no unit of a file's coordinates"));
  EXPECT_THAT(errorOf(folder.path() / "none.dxf"), HasSubstr("no such file"));
}

TEST_F(CurveFile, BlocksThatUseThemselvesAreRefused) {
  const std::string block =
      "0\nSECTION\n2\nBLOCKS\n0\nBLOCK\n8\n0\n2\nA\n10\n0\n20\n0\n0\nLINE\n8\n0\n10\n0\n20\n0\n11\n1\n21\n1\n"
      "0\nINSERT\n8\n0\n2\nA\n10\n1\n20\n0\n0\nENDBLK\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n"
      "0\nINSERT\n8\n0\n2\nA\n10\n1\n20\n0\n0\nENDSEC\n0\nEOF\n";
  EXPECT_THAT(errorOf(write("self.dxf", block)), HasSubstr("uses itself"));
}

TEST_F(CurveFile, SvgShapesAreExact) {
  EXPECT_NEAR(lengthOf(*only("<line x1=\"1cm\" y1=\"0\" x2=\"10\" y2=\"50%\"/>")), std::hypot(10 * 96 / 25.4 - 10, 50),
              1e-9);
  const auto circle = only("<circle cx=\"30\" cy=\"20\" r=\"5\"/>");
  EXPECT_NEAR(distance(circle->carrier()->centre, {30, 80}), 0, 1e-12);
  EXPECT_NEAR(circle->carrier()->radius, 5, 1e-12);
  const auto turned = only("<g transform=\"translate(10,20)\"><circle r=\"4\" transform=\"rotate(30) scale(2)\"/></g>");
  EXPECT_NEAR(turned->carrier()->radius, 8, 1e-12);
  EXPECT_NEAR(distance(turned->carrier()->centre, {10, 80}), 0, 1e-12);
  const auto arc = only("<path d=\"M10 50a20 20 0 0140 0\"/>");
  EXPECT_NEAR(lengthOf(*arc), 20 * pi, 1e-9);
  // Sweep 1 turns towards positive angles, which is over the top in a picture whose v runs down.
  EXPECT_NEAR(distance(arc->at(0.5), {30, 70}), 0, 1e-9);
  EXPECT_NEAR(lengthOf(*only("<path d=\"m0 0c1 1 2 2 3 3\"/>")), std::sqrt(18), 1e-9);
  EXPECT_TRUE(only("<path d=\"m0 0c1 1 2 2 3 3\"/>")->carrier());
}

TEST_F(CurveFile, SvgRectanglesEllipsesAndPolygonsEncloseTheirAreas) {
  const auto area = [&](const std::string& content) {
    const FileCurves curves = curvesIn(svg("width=\"100mm\" viewBox=\"0 0 100 100\"", content));
    const std::vector<double> areas = areasOf(withDrawings({}, curves, "s", 1e-6, allStepKinds()));
    return areas.size() == 1 ? areas[0] : -1;
  };
  EXPECT_NEAR(area("<rect x=\"1\" y=\"2\" width=\"30\" height=\"20\"/>"), 600, 1e-9);
  EXPECT_NEAR(area("<rect width=\"30\" height=\"20\" rx=\"3\"/>"), 600 - (4 - pi) * 9, 1e-9);
  EXPECT_NEAR(area("<rect width=\"30\" height=\"20\" rx=\"3\" ry=\"5\"/>"), 600 - (4 - pi) * 15, 1e-9);
  EXPECT_NEAR(area("<ellipse cx=\"50\" cy=\"50\" rx=\"8\" ry=\"3\"/>"), pi * 24, 1e-9);
  EXPECT_NEAR(area("<polygon points=\"0,0 10,0 10,10\"/>"), 50, 1e-9);
  EXPECT_NEAR(area("<path d=\"M0 0h10v10H0z\" transform=\"skewX(20) scale(2 3)\"/>"), 600, 1e-9);
  EXPECT_NEAR(
      area("<svg x=\"10\" width=\"50\" height=\"50\" viewBox=\"0 0 10 10\"><rect width=\"2\" height=\"3\"/></svg>"),
      150, 1e-9);
  EXPECT_NEAR(area("<symbol id=\"s\" viewBox=\"0 0 10 10\"><circle cx=\"5\" cy=\"5\" r=\"5\"/></symbol>"
                   "<use href=\"#s\" x=\"10\" y=\"50\" width=\"20\" height=\"20\"/>"),
              pi * 100, 1e-9);
  EXPECT_NEAR(
      area("<defs><rect id=\"r\" width=\"2\" height=\"3\"/></defs><use href=\"#r\" x=\"5\" transform=\"scale(2)\"/>"),
      24, 1e-9);
}

TEST_F(CurveFile, SvgUnitsAreThoseOfThePictureOrAGuess) {
  const std::string line = "<path d=\"M0 0H50\"/>";
  const auto measured = [&](const std::string& attributes, const std::string& unit = {}) {
    const FileCurves curves = curvesIn(svg(attributes, line), unit);
    return std::pair(lengthOf(*curves.layers[0].curves[0]), curves.unitNamed ? curves.unit : curves.unit + "?");
  };
  EXPECT_THAT(measured("width=\"20cm\" viewBox=\"0 0 100 100\""), testing::Pair(DoubleNear(100, 1e-9), "cm"));
  EXPECT_THAT(measured("width=\"20cm\" viewBox=\"0 0 100 100\"", "mm"), testing::Pair(DoubleNear(50, 1e-9), "mm"));
  EXPECT_THAT(measured("viewBox=\"0 0 100 100\""), testing::Pair(DoubleNear(50 * 25.4 / 96, 1e-9), "px?"));
  EXPECT_THAT(measured("width=\"200\" height=\"100\" viewBox=\"0 0 100 100\" preserveAspectRatio=\"none\""),
              testing::Pair(DoubleNear(100 * 25.4 / 96, 1e-9), "px?"));
  EXPECT_THAT(measured(""), testing::Pair(DoubleNear(50 * 25.4 / 96, 1e-9), "px?"));
}

TEST_F(CurveFile, SvgGroupsAreLayersAndWhatIsNoOutlineIsTold) {
  const FileCurves curves =
      curvesIn(svg("width=\"9mm\" viewBox=\"0 0 9 9\"",
                   "<g id=\"cut\"><g id=\"inner\"><circle r=\"1\"/></g></g><g id=\"mark\"><circle r=\"2\"/></g>"
                   "<g style=\"display: none\"><circle r=\"3\"/></g><text>A</text><title>t</title>"
                   "<rect width=\"2\" height=\"2\" clip-path=\"url(#c)\"/>"));
  ASSERT_EQ(curves.layers.size(), 3U);
  EXPECT_EQ(curves.layers[0].name, "cut");
  EXPECT_EQ(curves.layers[1].name, "mark");
  EXPECT_EQ(curves.layers[2].name, "");
  EXPECT_EQ(curves.count(), 6U);
  EXPECT_THAT(curves.notes, testing::ElementsAre(HasSubstr("one <text>"), HasSubstr("clips and masks")));
}

TEST_F(CurveFile, SvgThatIsWrongIsRefusedWithThePlace) {
  EXPECT_THAT(errorOf(svg("viewBox=\"0 0 9 9\"", "<path id=\"rose\" d=\"M0 0 L 5 x\"/>")),
              testing::AllOf(HasSubstr("cannot be read at \"x\""), HasSubstr("<path> \"rose\"")));
  EXPECT_THAT(errorOf(svg("", "<path d=\"L 5 5\"/>")), HasSubstr("cannot be read at"));
  EXPECT_THAT(errorOf(svg("", "<path d=\"M0 0 L5\"/>")), HasSubstr("ends where a number should follow"));
  EXPECT_THAT(errorOf(svg("", "<circle r=\"5 apples\"/>")), HasSubstr("no unit of length"));
  EXPECT_THAT(errorOf(svg("", "<g transform=\"wobble(3)\"><circle r=\"5\"/></g>")),
              HasSubstr("\"wobble\" is not known"));
  EXPECT_THAT(errorOf(svg("", "<g id=\"a\"><use href=\"#a\"/></g>")), HasSubstr("use themselves"));
  EXPECT_THAT(errorOf(write("broken.svg", "<svg>\n<g></svg>")), HasSubstr("line 2"));
  EXPECT_THAT(errorOf(write("other.svg", "<html/>")), HasSubstr("no SVG picture"));
  EXPECT_THAT(errorOf(svg("", "<text>only</text>")), HasSubstr("no curve"));
}

TEST(SvgPath, EveryCommandAndTightNumbers) {
  const PlaneCurves curves =
      svgPath("M1-2.5.5 3h1v-1l.5.5H0V0C0 1 1 1 1 0s1-1 1 0Q2.5 1 3 0t1 0A1 2 30 1 0 5 1z m1 1 2 0");
  // 2 lines of M, h v l H V, C s, Q t, A, z, a line after m
  EXPECT_EQ(curves.size(), 1U + 5 + 2 + 2 + 1 + 1 + 1);
  for (std::size_t i = 1; i + 1 < curves.size(); ++i) {
    const double gap =
        std::min({distance(curves[i]->at(0), curves[i - 1]->at(1)), distance(curves[i]->at(0), curves[i - 1]->at(0)),
                  distance(curves[i]->at(1), curves[i - 1]->at(1)), distance(curves[i]->at(1), curves[i - 1]->at(0))});
    EXPECT_LT(gap, 1e-9) << i;
  }
}

}  // namespace
}  // namespace kervo
