// Openings copied where walls are not as they were: onto round, tapered and free walls; and moved around round ones.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>

#include "fields/sections_field.h"
#include "geom/openings/openings.h"
#include "model/document_edits.h"
#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;
using testing::HasSubstr;
constexpr double pi = std::numbers::pi;
using Fields = std::map<std::string, FieldValue>;

Step cutOf(const char* stock, const char* way = "both") {
  return step("c", "cut",
              {{"profiles", allOf("d")}, {"stock", bodies({stock})}, {"to", text("through")}, {"way", text(way)}});
}

std::vector<FaceReference> windowIn(const char* body, const char* side = "w.left") {
  return {{body, "c:side:" + std::string(side), std::nullopt}};
}

Model with(std::vector<Step> steps, const char* kind, Fields fields) {
  steps.push_back(step("s", kind, std::move(fields)));
  return made(documentOf(steps));
}

std::vector<Step> plus(std::vector<Step> steps, const std::vector<Step>& more) {
  steps.insert(steps.end(), more.begin(), more.end());
  return steps;
}

/// A tube of 50 and 45 mm, 200 high, along z.
std::vector<Step> tube() {
  return {
      step("tube", "cylinder", {{"radius", Expression("50 mm")}, {"height", Expression("200 mm")}}),
      step("bore", "cylinder", {{"radius", Expression("45 mm")}, {"height", Expression("200 mm")}}),
      step("u", "combine", {{"verb", text("subtract")}, {"stock", bodies({"tube"})}, {"cutters", bodies({"bore"})}})};
}
constexpr double tubeVolume = pi * (2500 - 2025) * 200;

/// What a window of half a width takes from the tube, for each mm of height: 2·∫₀ʷ √(R²−x²) − √(r²−x²) dx.
double windowInTube(double half) {
  const auto part = [&](double r) { return half * std::sqrt(r * r - half * half) + r * r * std::asin(half / r); };
  return part(50) - part(45);
}

/// A plate standing beside the tube with a window, or a pocket, 20 × 30.
std::vector<Step> plateWith(const char* to) {
  return {block("plate", "200 mm", "8 mm", "100 mm", {"100 mm", "0", "0"}),
          drawing("d", PlanePick::standard("xz"), {rectangle("w", "150 mm", "40 mm", "20 mm", "30 mm")}),
          step("c", "cut",
               {{"profiles", allOf("d")},
                {"stock", bodies({"plate"})},
                {"to", text(to)},
                {"depth", expression("5 mm")},
                {"way", text(std::string(to) == "distance" ? "into" : "both")}})};
}

Fields toWall(const char* from, const char* wall, const char* face, const char* along, const char* up) {
  return {{"openings", windowIn(from)},
          {"way", text("wall")},
          {"wall", FaceReference{wall, face, std::nullopt}},
          {"along", expression(along)},
          {"up", expression(up)}};
}

/// The name of the face of a body with that surface, and the largest area.
std::string faceOf(const Model& model, const char* body, const char* surface) {
  std::string name;
  double most = 0;
  for (const Face& face : facesOf(model.find(body)->shape()))
    if (face.surfaceName() == surface && face.area() > most) {
      most = face.area();
      name = face.origins().front();
    }
  return name;
}

TEST(CopyOpeningStep, PutsAWindowOfAFlatWallIntoATube) {
  const std::vector<Step> steps = plus(tube(), plateWith("through"));
  const Model before = made(documentOf(steps));
  ASSERT_FALSE(before.failed()) << errorOf(before, "c");
  const std::string outside = faceOf(before, "tube", "cylinder");
  for (const auto& [along, up] :
       {std::pair("0 mm", "0 mm"), std::pair("40 mm", "30 mm"), std::pair("-90 mm", "0 mm")}) {
    const Model model = with(steps, "copy_opening", toWall("plate", "tube", outside.c_str(), along, up));
    ASSERT_EQ(errorOf(model, "s"), "no error") << along;
    const Shape& shape = model.find("tube")->shape();
    EXPECT_NEAR(shape.volume(), tubeVolume - windowInTube(10) * 30, 1e-8 * tubeVolume) << along;
    EXPECT_TRUE(shape.valid() && shape.watertight());
    const std::vector<Opening> openings = openingsOf(shape);
    const auto window = std::find_if(openings.begin(), openings.end(),
                                     [](const Opening& each) { return each.form == OpeningForm::Rectangle; });
    ASSERT_NE(window, openings.end());
    EXPECT_TRUE(window->through);
    // In front, and around it from there.
    const double angle = std::stod(along) / 50;
    EXPECT_NEAR(window->frame.origin.x, 50 * std::sin(angle), 0.1);
    EXPECT_NEAR(window->frame.origin.y, -50 * std::cos(angle), 0.1);
    EXPECT_NEAR(window->frame.origin.z, 100 + std::stod(up), 1e-6);
  }
  EXPECT_THAT(errorOf(with(steps, "copy_opening", toWall("plate", "tube", outside.c_str(), "0 mm", "90 mm")), "s"),
              HasSubstr("would leave its wall"));
}

TEST(CopyOpeningStep, PutsAWindowOfATubeIntoAFlatWall) {
  std::vector<Step> steps = plus(tube(), {block("plate", "200 mm", "8 mm", "100 mm", {"100 mm", "0", "0"})});
  steps.push_back(drawing("d", PlanePick::standard("xz"), {rectangle("w", "-10 mm", "80 mm", "20 mm", "30 mm")}));
  steps.push_back(cutOf("tube", "out"));
  const Model model = with(steps, "copy_opening", toWall("tube", "plate", "plate:front", "10 mm", "0 mm"));
  ASSERT_EQ(errorOf(model, "s"), "no error");
  EXPECT_NEAR(volume(model, "plate"), 200.0 * 8 * 100 - 20.0 * 30 * 8, 1e-6);
  EXPECT_NEAR(volume(model, "tube"), tubeVolume - windowInTube(10) * 30, 1e-8 * tubeVolume);
}

TEST(CopyOpeningStep, APocketOfAFlatWallKeepsItsFloorInARoundOne) {
  const std::vector<Step> steps =
      plus({step("rod", "cylinder", {{"radius", Expression("50 mm")}, {"height", Expression("200 mm")}})},
           plateWith("distance"));
  const Model before = made(documentOf(steps));
  ASSERT_FALSE(before.failed()) << errorOf(before, "c");
  const Model model = with(steps, "copy_opening", toWall("plate", "rod", "rod:side", "0 mm", "0 mm"));
  ASSERT_EQ(errorOf(model, "s"), "no error");
  // Down to 45 mm from the axis: ∫ √(R²−x²) − 45 over the width, times the height.
  const double half = 10, section = half * std::sqrt(2500 - half * half) + 2500 * std::asin(half / 50) - 45 * 2 * half;
  EXPECT_NEAR(volume(model, "rod"), pi * 2500 * 200 - section * 30, 1e-6 * pi * 2500 * 200);
  EXPECT_TRUE(model.find("rod")->shape().valid());
}

TEST(CopyOpeningStep, GoesUpATaperedWall) {
  const auto tapered = [](std::vector<DrawnCurve> windows) {
    return std::vector<Step>{block("wall", "5 m", "300 mm", "2.7 m"),
                             step("t", "shift_faces",
                                  {{"faces", std::vector<FaceReference>{{"wall", "wall:back", std::nullopt}}},
                                   {"way", text("turn")},
                                   {"axis", text("x")},
                                   {"angle", expression("0.02 rad")}}),
                             drawing("d", PlanePick::standard("xz"), std::move(windows)), cutOf("wall")};
  };
  const DrawnCurve low = rectangle("w", "1 m", "300 mm", "800 mm", "500 mm"),
                   high = rectangle("v", "1 m", "1300 mm", "800 mm", "500 mm");
  const Model model = with(tapered({low}), "copy_opening",
                           {{"openings", windowIn("wall")},
                            {"columns", expression("1")},
                            {"rows", expression("2")},
                            {"along", expression("0 mm")},
                            {"up", expression("1 m")}});
  ASSERT_EQ(errorOf(model, "s"), "no error");
  const double drawn = volume(made(documentOf(tapered({low, high}))), "wall");
  EXPECT_NEAR(volume(model, "wall"), drawn, 1e-9 * drawn);
}

/// A vase lofted through three drawn circles, 300 mm high, with windows right through it along y.
std::vector<Step> vase(std::vector<DrawnCurve> windows) {
  const auto plane = [](const char* id, const char* offset) {
    return step(id, "plane", {{"from", PlanePick::standard("xy")}, {"offset", expression(offset)}});
  };
  std::vector<Step> steps{
      drawing("d1", PlanePick::standard("xy"), {circle("c", "0", "0", "60 mm")}),
      plane("p2", "150 mm"),
      drawing("d2", PlanePick::ofStep(StepId("p2")), {circle("c", "0", "0", "90 mm")}),
      plane("p3", "300 mm"),
      drawing("d3", PlanePick::ofStep(StepId("p3")), {circle("c", "0", "0", "50 mm")}),
      step("wall", "loft",
           {{"sections", std::vector<SectionPick>{SectionPick::ofDrawing("d1"), SectionPick::ofDrawing("d2"),
                                                  SectionPick::ofDrawing("d3")}}})};
  if (windows.empty()) return steps;
  return plus(steps, {drawing("d", PlanePick::standard("xz"), std::move(windows)), cutOf("wall")});
}

TEST(CopyOpeningStep, GoesAlongAndOntoWallsOfFreeForm) {
  const DrawnCurve low = rectangle("w", "-15 mm", "40 mm", "30 mm", "60 mm"),
                   high = rectangle("v", "-15 mm", "140 mm", "30 mm", "60 mm");
  const Model model = with(vase({low}), "copy_opening",
                           {{"openings", windowIn("wall")},
                            {"columns", expression("1")},
                            {"rows", expression("2")},
                            {"along", expression("0 mm")},
                            {"up", expression("100 mm")}});
  ASSERT_EQ(errorOf(model, "s"), "no error");
  const Shape& shape = model.find("wall")->shape();
  EXPECT_TRUE(shape.valid() && shape.watertight());
  EXPECT_EQ(openingsOf(shape).size(), 2u);
  // Its way is square to the wall where it was, which leans; so there is more of it, or less, by a little.
  const double one = volume(made(documentOf(vase({}))), "wall") - volume(made(documentOf(vase({low}))), "wall");
  EXPECT_GT(shape.volume(), 0.5 * volume(model, "wall"));
  EXPECT_NEAR(volume(made(documentOf(vase({low, high}))), "wall"), shape.volume(), 0.1 * one);
  // From a plate, in front.
  const std::vector<Step> both = plus(vase({}), plateWith("through"));
  const Model before = made(documentOf(both));
  const std::string side = faceOf(before, "wall", "free-form");
  const Model onto = with(both, "copy_opening", toWall("plate", "wall", side.c_str(), "0 mm", "0 mm"));
  ASSERT_EQ(errorOf(onto, "s"), "no error");
  EXPECT_TRUE(onto.find("wall")->shape().valid());
  ASSERT_EQ(openingsOf(onto.find("wall")->shape()).size(), 1u);
  EXPECT_TRUE(openingsOf(onto.find("wall")->shape()).front().through);
}

/// A window that leans, in the tube.
std::vector<Step> leaning() {
  const auto line = [](const char* id, const char* u0, const char* v0, const char* u1, const char* v1) {
    return DrawnCurve{id, "line", {Expression(u0), Expression(v0), Expression(u1), Expression(v1)}};
  };
  return plus(tube(),
              {drawing("d", PlanePick::standard("xz"),
                       {line("a", "0 mm", "80 mm", "16 mm", "92 mm"), line("b", "16 mm", "92 mm", "4 mm", "108 mm"),
                        line("e", "4 mm", "108 mm", "-12 mm", "96 mm"), line("f", "-12 mm", "96 mm", "0 mm", "80 mm")}),
               cutOf("tube", "out")});
}

TEST(ShiftOpeningStep, AWindowThatLeansGoesAroundItsTube) {
  const Model before = made(documentOf(leaning()));
  ASSERT_FALSE(before.failed()) << errorOf(before, "c");
  const std::vector<FaceReference> picked{{"tube", "c:side:a", std::nullopt}};
  for (const auto& [along, up] : {std::pair(20, 0), std::pair(0, 20), std::pair(30, -25)}) {
    const Model model = with(leaning(), "shift_opening",
                             {{"openings", picked},
                              {"along", expression(std::to_string(along) + " mm")},
                              {"up", expression(std::to_string(up) + " mm")}});
    ASSERT_EQ(errorOf(model, "s"), "no error") << along;
    EXPECT_NEAR(volume(model, "tube"), volume(before, "tube"), 1e-9 * tubeVolume) << along;
    EXPECT_TRUE(model.find("tube")->shape().valid());
    const auto frameIn = [](const Model& of) {
      for (const Opening& each : openingsOf(of.find("tube")->shape()))
        if (each.form != OpeningForm::Round) return each.frame;
      return Plane();
    };
    const Plane was = frameIn(before), is = frameIn(model);
    // As far along the axis as the way leads there, and around it by the rest.
    const double rise = dot(was.x * along + was.y * up, {0, 0, 1}),
                 round = std::sqrt(std::max(0.0, along * along + up * up - rise * rise)) / 50;
    EXPECT_NEAR(is.origin.z - was.origin.z, rise, 1e-6);
    EXPECT_NEAR(std::acos(std::clamp(dot(is.normal, was.normal), -1.0, 1.0)), round, 2e-3)
        << "its middle is that of the box around it";
  }
}

TEST(ShiftOpeningStep, ShowsWhereItWas) {
  const Model model =
      with(plateWith("through"), "shift_opening",
           {{"openings", windowIn("plate")}, {"along", expression("30 mm")}, {"up", expression("5 mm")}});
  ASSERT_EQ(errorOf(model, "s"), "no error");
  const StepResult& result = *report(model, "s").result;
  Box box;
  double hatch = 0, outline = 0;
  double pitch = Box::infinity;
  std::vector<double> across;
  for (const Polyline& line : result.left) {
    for (const Point& p : line) box.add(p);
    const Vector way = line.back() - line.front();
    const bool aslant = std::abs(way.x) > 1e-6 && std::abs(way.z) > 1e-6;
    (aslant ? hatch : outline) += length(way);
    if (aslant) across.push_back(dot(line.front(), normalized(cross(way, {0, 1, 0}))));
  }
  std::sort(across.begin(), across.end());
  for (std::size_t i = 1; i < across.size(); ++i) pitch = std::min(pitch, across[i] - across[i - 1]);
  EXPECT_NEAR(outline, 100, 1e-9) << "of 20 × 30";
  EXPECT_NEAR(hatch * pitch, 600, 12) << "it covers the whole of it";
  EXPECT_NEAR(box.low.x, 150, 1e-9);
  EXPECT_NEAR(box.high.x, 170, 1e-9);
  EXPECT_NEAR(box.low.z, 40, 1e-9);
  EXPECT_NEAR(box.high.z, 70, 1e-9);
  // Both distances follow what is dragged by its middle.
  ASSERT_EQ(result.gauges.size(), 2u);
  for (const Gauge& gauge : result.gauges) {
    ASSERT_TRUE(gauge.grip);
    EXPECT_LT(distance(*gauge.grip, {190, 0, 60}), 1e-6);
  }
}

}  // namespace
}  // namespace kervo
