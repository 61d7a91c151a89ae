// Pictures on DXF, SVG and PDF: true scale, exact outlines, read by others and by Kervo itself.
#include "exchange/flat_picture.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <array>
#include <numbers>

#include "base/error.h"
#include "exchange/curve_file.h"
#include "support/read_dxf.h"
#include "support/temporary_folder.h"

namespace kervo {
namespace {

using namespace test;
using testing::HasSubstr;
constexpr double pi = std::numbers::pi;

template <class Curve>
FlatCurve curve(Curve of) {
  return std::make_shared<const Curve>(std::move(of));
}

/// A slot of 20 mm between its centres and 8 mm wide, from (10, 10) on, its curves not all in one sense.
FlatChain slot() {
  return {curve(LineCurve({10, 10}, {30, 10})), curve(ArcCurve({30, 14}, 4, -pi / 2, pi / 2)),
          curve(LineCurve({10, 18}, {30, 18})), curve(ArcCurve({10, 14}, 4, pi / 2, 3 * pi / 2))};
}
constexpr double slotArea = 20 * 8 + pi * 16, slotLength = 40 + 8 * pi;

FlatPicture picture() {
  FlatPicture result{.width = 100, .height = 60, .layers = {}, .title = "Test"};
  FlatLayer& cut = result.layer("cut", {0, 0, 0});
  cut.chains = {slot(), {curve(CircleCurve({60, 30}, 12.5))}};
  FlatLayer& marks = result.layer("Größe", {0, 0, 1});
  marks.chains = {{curve(EllipseCurve({60, 30}, {68, 30}, 3, 0, 2 * pi))},
                  {curve(LineCurve({0, 0}, {5, 5}))},
                  {curve(ArcCurve({80, 10}, 5, 0, 1))}};
  FlatLayer& fill = result.layer("fill", {1, 0, 0});
  fill.fills = {{.loops = {{curve(CircleCurve({60, 30}, 12.5))}, {curve(CircleCurve({60, 30}, 4))}},
                 .color = {0.9, 0.9, 0.9},
                 .hatch = {{.angle = pi / 4, .spacing = 2}}},
                {.loops = {slot()}, .color = {0.5, 0.5, 0.5}}};
  return result;
}

TEST(FlatPictureTest, DxfIsReadByAnotherReaderWithoutAFix) {
  TemporaryFolder folder;
  Progress progress;
  writePicture(folder / "x.dxf", picture(), progress);
  const auto found = readDxfElsewhere(folder / "x.dxf");
  EXPECT_EQ(found.at("errors"), 0);
  EXPECT_EQ(found.at("fixes"), 0);
  EXPECT_EQ(found.at("units"), 4) << "millimetres";
  EXPECT_NEAR(found.at("cut area"), slotArea + pi * 12.5 * 12.5, 1e-9 * slotArea);
  EXPECT_NEAR(found.at("cut length"), slotLength + 25 * pi, 1e-9 * slotLength);
  EXPECT_EQ(found.at("cut count"), 2) << "lines and arcs stay together";
  EXPECT_NEAR(found.at("Größe area"), pi * 8 * 3, 1e-5);
  EXPECT_EQ(found.at("Größe count"), 3);
  EXPECT_NEAR(found.at("fill hatch"), pi * (12.5 * 12.5 - 16) + slotArea, 1e-9 * slotArea);
}

/// The lengths of a layer's curves as Kervo reads them.
double lengthIn(const FileCurves& curves, const std::string& layer) {
  double sum = 0;
  for (const CurveLayer& each : curves.layers)
    if (each.name == layer)
      for (const auto& one : each.curves) sum += one->on({}).length();
  return sum;
}

TEST(FlatPictureTest, KervoReadsBackWhatItWrote) {
  TemporaryFolder folder;
  Progress progress;
  for (const char* name : {"x.dxf", "x.svg"}) {
    SCOPED_TRACE(name);
    writePicture(folder / name, picture(), progress);
    const FileCurves back = readCurves(folder / name, "", progress);
    EXPECT_EQ(back.unit, "mm");
    EXPECT_NEAR(lengthIn(back, "cut"), slotLength + 25 * pi, 1e-6);
    const double ellipse = EllipseCurve({60, 30}, {68, 30}, 3, 0, 2 * pi).on({}).length();
    EXPECT_NEAR(lengthIn(back, "Größe"), ellipse + std::sqrt(50) + 5, 1e-4);
  }
}

TEST(FlatPictureTest, SplinesStayExactInDxf) {
  TemporaryFolder folder;
  Progress progress;
  const Spline spline = Spline::through({{0, 0}, {10, 8}, {25, 2}, {40, 20}}, false);
  FlatPicture one{.width = 50, .height = 30, .layers = {}};
  one.layer("s", {}).chains = {{curve(SplineCurve(spline))}};
  writePicture(folder / "x.dxf", one, progress);
  const FileCurves back = readCurves(folder / "x.dxf", "", progress);
  ASSERT_EQ(back.count(), 1u);
  for (const double t : {0.0, 0.1, 0.37, 0.5, 0.83, 1.0})
    EXPECT_LT(distance(back.layers.back().curves.front()->at(t), spline.at(t)), 1e-9);
  // In other files a spline is off by 1e-4 mm at most.
  for (const Cubic& cubic : cubicsOf(one.layers.front().chains.front()))
    for (const double t : {0.25, 0.5, 0.75}) {
      const double s = 1 - t;
      const PlanePoint at = cubic.from * (s * s * s) + cubic.first * (3 * s * s * t) + cubic.second * (3 * s * t * t) +
                            cubic.to * (t * t * t);
      EXPECT_LT(distance(at, spline.at(spline.nearest(at))), 1e-4);
    }
}

/// Width and height of what is dark on a page that another program draws at 10 pixels a millimetre.
std::array<double, 4> darkBox(const std::filesystem::path& pdf, const std::filesystem::path& folder) {
  outputOf("pdftoppm -r 254 -gray '" + pdf.string() + "' '" + (folder / "page").string() + "'");
  const std::string file = readFile(folder / "page-1.pgm");
  std::istringstream head(file);
  std::string magic;
  int width = 0, height = 0, most = 0;
  head >> magic >> width >> height >> most;
  const std::size_t start = file.size() - static_cast<std::size_t>(width) * static_cast<std::size_t>(height);
  int left = width, right = 0, top = height, bottom = 0;
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x)
      if (static_cast<unsigned char>(file[start + static_cast<std::size_t>(y * width + x)]) < 128) {
        left = std::min(left, x);
        right = std::max(right, x + 1);
        top = std::min(top, y);
        bottom = std::max(bottom, y + 1);
      }
  return {left / 10.0, right / 10.0, (height - bottom) / 10.0, (height - top) / 10.0};
}

TEST(FlatPictureTest, APageOfPdfIsAtTrueScale) {
  TemporaryFolder folder;
  Progress progress;
  FlatPicture page{.width = 210, .height = 297, .layers = {}};
  page.layer("x", {0, 0, 0}).chains = {{curve(LineCurve({20, 30}, {170, 30})), curve(LineCurve({170, 30}, {170, 230}))},
                                       {curve(CircleCurve({95, 130}, 60))}};
  writePicture(folder / "x.pdf", page, progress);
  const auto [left, right, low, high] = darkBox(folder / "x.pdf", folder.path());
  EXPECT_NEAR(left, 20, 0.21);
  EXPECT_NEAR(right, 170, 0.21);
  EXPECT_NEAR(low, 30, 0.21);
  EXPECT_NEAR(high, 230, 0.21);
  EXPECT_THAT(outputOf("pdfinfo '" + (folder / "x.pdf").string() + "'"), HasSubstr("595.27"));
}

/// What another program finds in a PNG: its size, how many of its points are not transparent, and the width of those.
std::string pngTold(const std::filesystem::path& png) {
  const std::string program = R"(
import sys, zlib, struct
data = open(sys.argv[1], 'rb').read(); at = 8; packed = b''
while at < len(data):
    size, kind = struct.unpack('>I4s', data[at:at + 8]); body = data[at + 8:at + 8 + size]; at += size + 12
    if kind == b'IHDR': w, h, depth, color = struct.unpack('>IIBB', body[:10])
    if kind == b'IDAT': packed += body
raw = zlib.decompress(packed); row = 4 * w; before = bytearray(row); seen = 0; low = w; high = 0
for y in range(h):
    f = raw[y * (row + 1)]; line = bytearray(raw[y * (row + 1) + 1:(y + 1) * (row + 1)])
    for x in range(row):
        a = line[x - 4] if x >= 4 else 0; b = before[x]; c = before[x - 4] if x >= 4 else 0
        p = a + b - c; pa, pb, pc = abs(p - a), abs(p - b), abs(p - c)
        line[x] = (line[x] + (0, a, b, (a + b) // 2, a if pa <= pb and pa <= pc else b if pb <= pc else c)[f]) & 255
    for x in range(w):
        if line[4 * x + 3] > 127: seen += 1; low = min(low, x); high = max(high, x)
    before = line
print(w, h, color, seen, low, high)
)";
  std::ofstream(png.string() + ".py") << program;
  return outputOf("/usr/bin/python3 '" + png.string() + ".py' '" + png.string() + "'");
}

TEST(FlatPictureTest, APngHasTransparentGroundAndTrueScale) {
  TemporaryFolder folder;
  Progress progress;
  FlatPicture page{.width = 25.4, .height = 12.7, .layers = {}};
  page.layer("x", {1, 0, 0}).width = 1;
  page.layer("x", {1, 0, 0}).chains = {{curve(LineCurve({5.08, 6.35}, {20.32, 6.35}))}};
  writePicture(folder / "x.png", page, progress);
  std::istringstream told(pngTold(folder / "x.png"));
  int width = 0, height = 0, color = 0, seen = 0, low = 0, high = 0;
  told >> width >> height >> color >> seen >> low >> high;
  EXPECT_EQ(width, 300) << "300 dots an inch";
  EXPECT_EQ(height, 150);
  EXPECT_EQ(color, 6) << "with transparency";
  EXPECT_NEAR(seen, 180 * 12, 180 + 12);
  EXPECT_NEAR(low, 60, 1);
  EXPECT_NEAR(high, 239, 1);
  // Never more than 8 000 dots along a side.
  writePicture(folder / "wide.png", FlatPicture{.width = 2000, .height = 10, .layers = page.layers}, progress);
  std::string head(33, '\0');
  std::ifstream(folder / "wide.png", std::ios::binary).read(head.data(), 24);
  EXPECT_EQ(static_cast<unsigned char>(head[18]) * 256 + static_cast<unsigned char>(head[19]), 8000);
}

TEST(FlatPictureTest, OtherEndingsAreRefusedAndNothingIsWritten) {
  TemporaryFolder folder;
  Progress progress;
  try {
    writePicture(folder / "x.step", picture(), progress);
    FAIL();
  } catch (const FileError& error) {
    EXPECT_THAT(error.what(), HasSubstr(".dxf, .svg, .pdf or .png"));
  }
  EXPECT_TRUE(std::filesystem::is_empty(folder.path()));
  EXPECT_THROW(writePicture("/nowhere/at/all/x.pdf", picture(), progress), FileError);
  EXPECT_THROW(writePicture("/nowhere/at/all/x.dxf", picture(), progress), FileError);
}

}  // namespace
}  // namespace kervo
