// Drilled holes: volumes by the formulas of their parts, metric sizes, several bodies at once, and what is refused.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>
#include <random>

#include "geom/curves/curve_body.h"
#include "geom/openings/openings.h"
#include "model/document_edits.h"
#include "steps/shared/metric_screws.h"
#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;
using testing::ElementsAre;
using testing::HasSubstr;
constexpr double pi = std::numbers::pi;
using Fields = std::map<std::string, FieldValue>;

double cylinder(double diameter, double height) {
  return pi * diameter * diameter / 4 * height;
}
/// A frustum from one diameter to another.
double cone(double large, double small, double height) {
  return pi * height * (large * large + large * small + small * small) / 12;
}

/// A plate 100 × 60 × 20 with circles drawn on its top, and holes there.
Model drilled(Fields fields, std::vector<DrawnCurve> circles, std::vector<Step> more = {}) {
  std::vector<Step> steps{block("plate", "100 mm", "60 mm", "20 mm")};
  steps.insert(steps.end(), more.begin(), more.end());
  steps.push_back(drawing("d", onFace("plate", "plate:top"), std::move(circles)));
  fields["profiles"] = allOf("d");
  steps.push_back(step("h", "holes", std::move(fields)));
  return made(documentOf(steps));
}
const std::vector<DrawnCurve> two{circle("a", "20 mm", "30 mm", "3 mm"), circle("b", "70 mm", "30 mm", "3 mm")};
constexpr double plate = 100.0 * 60 * 20;

std::vector<std::string> notesOf(const Model& model) {
  return report(model, "h").result->audit.notes;
}

TEST(HolesStep, GoThroughAsDrawnOrByDiameter) {
  const Model drawn = drilled({}, two);
  ASSERT_EQ(errorOf(drawn, "h"), "no error");
  EXPECT_NEAR(volume(drawn, "plate"), plate - 2 * cylinder(6, 20), 1e-9 * plate);
  const Model wide = drilled({{"size", text("diameter")}, {"diameter", expression("10 mm")}}, two);
  ASSERT_EQ(errorOf(wide, "h"), "no error");
  EXPECT_NEAR(volume(wide, "plate"), plate - 2 * cylinder(10, 20), 1e-9 * plate);
  EXPECT_EQ(openingsOf(wide.find("plate")->shape()).size(), 2u);
  EXPECT_TRUE(wide.find("plate")->shape().valid() && wide.find("plate")->shape().watertight());
  EXPECT_NEAR(report(wide, "h").result->audit.balance, 0, 1e-6 * plate);
}

TEST(HolesStep, HaveTheSizesOfMetricScrews) {
  for (const MetricScrew& screw : metricScrews()) {
    EXPECT_LT(screw.core, screw.diameter) << screw.name;
    EXPECT_NEAR(screw.core, screw.diameter - screw.pitch, 0.06) << "the rule of thumb for " << screw.name;
    EXPECT_LT(screw.diameter, screw.close) << screw.name;
    EXPECT_LT(screw.close, screw.normal) << screw.name;
    EXPECT_LT(screw.normal, screw.loose) << screw.name;
    EXPECT_GT(screw.counterbore, screw.loose + 1) << screw.name;
    EXPECT_GT(screw.counterboreDepth, screw.diameter) << "the head is as high as the thread is wide: " << screw.name;
  }
  for (const auto& [fit, diameter] :
       {std::pair("close", 6.4), std::pair("normal", 6.6), std::pair("loose", 7.0), std::pair("tapped", 5.0)}) {
    const Model model = drilled({{"size", text("M6")}, {"fit", text(fit)}}, two);
    ASSERT_EQ(errorOf(model, "h"), "no error") << fit;
    EXPECT_NEAR(volume(model, "plate"), plate - 2 * cylinder(diameter, 20), 1e-9 * plate) << fit;
  }
  EXPECT_THAT(notesOf(drilled({{"size", text("M6")}, {"fit", text("tapped")}}, two)),
              ElementsAre("2 × M6 × 1 tapped, core ⌀ 5 mm"));
  EXPECT_THAT(notesOf(drilled({{"size", text("M6")}}, two)), ElementsAre("2 × M6, normal, ⌀ 6.6 mm"));
}

TEST(HolesStep, TappedOnesAreMarked) {
  const auto marksOf = [&](const Model& model) {
    std::vector<double> lengths;
    for (const Output& made : report(model, "h").result->made)
      if (const auto* form = std::get_if<BodyForm>(&made.form); form && form->kind() == BodyKind::Curve)
        lengths.push_back(lengthOfCurve(*form->shape()));
    return lengths;
  };
  const Fields tapped{{"size", text("M6")}, {"fit", text("tapped")}};
  const Model model = drilled(tapped, two);
  ASSERT_EQ(errorOf(model, "h"), "no error");
  const double helix = 20 * std::hypot(5 * pi, 1), circles = 2 * pi * 6;
  EXPECT_THAT(marksOf(model), testing::Each(testing::DoubleNear(helix + circles, 0.05)));
  EXPECT_EQ(marksOf(model).size(), 2u);
  Fields plain = tapped;
  plain["marks"] = false;
  EXPECT_EQ(marksOf(drilled(plain, two)).size(), 0u);
  EXPECT_EQ(marksOf(drilled({{"size", text("M6")}}, two)).size(), 0u) << "clearance holes have none";
}

TEST(HolesStep, AreCountersunkAndCounterbored) {
  const Model sunk = drilled({{"size", text("M6")}, {"form", text("countersunk")}}, two);
  ASSERT_EQ(errorOf(sunk, "h"), "no error");
  const double depth = (13.44 - 6.6) / 2;  // 90°
  EXPECT_NEAR(volume(sunk, "plate"), plate - 2 * (cone(13.44, 6.6, depth) + cylinder(6.6, 20 - depth)), 1e-9 * plate);
  const Model bored = drilled({{"size", text("M6")}, {"form", text("counterbored")}}, two);
  ASSERT_EQ(errorOf(bored, "h"), "no error");
  EXPECT_NEAR(volume(bored, "plate"), plate - 2 * (cylinder(11, 6.4) + cylinder(6.6, 13.6)), 1e-9 * plate);
  EXPECT_THAT(notesOf(bored), ElementsAre("2 × M6, normal, ⌀ 6.6 mm, counterbored ⌀ 11 × 6.4 mm"));
  const Model own = drilled({{"size", text("diameter")},
                             {"diameter", expression("4 mm")},
                             {"form", text("countersunk")},
                             {"head", expression("12 mm")},
                             {"angle", expression("120 deg")}},
                            two);
  ASSERT_EQ(errorOf(own, "h"), "no error");
  const double flat = 4 / std::tan(pi / 3);
  EXPECT_NEAR(volume(own, "plate"), plate - 2 * (cone(12, 4, flat) + cylinder(4, 20 - flat)), 1e-9 * plate);
  for (const Opening& each : openingsOf(own.find("plate")->shape())) {
    EXPECT_TRUE(each.through);
    EXPECT_NEAR(each.diameter, 4, 1e-9);
  }
}

TEST(HolesStep, BlindOnesEndInATipAndSayWhatStays) {
  const Model model = drilled({{"size", text("diameter")},
                               {"diameter", expression("8 mm")},
                               {"to", text("depth")},
                               {"depth", expression("12 mm")}},
                              two);
  ASSERT_EQ(errorOf(model, "h"), "no error");
  const double tip = 4 / std::tan(59 * pi / 180);
  EXPECT_NEAR(volume(model, "plate"), plate - 2 * (cylinder(8, 12) + cone(8, 0, tip)), 1e-9 * plate);
  EXPECT_THAT(notesOf(model), ElementsAre("2 × ⌀ 8 mm", HasSubstr("at least 5.597 mm stay under the tips")));
  const Model flat = drilled({{"to", text("depth")}, {"depth", expression("12 mm")}, {"tip", text("flat")}}, two);
  ASSERT_EQ(errorOf(flat, "h"), "no error");
  EXPECT_NEAR(volume(flat, "plate"), plate - 2 * cylinder(6, 12), 1e-9 * plate);
  const Model deep = drilled({{"to", text("depth")}, {"depth", expression("19 mm")}}, two);
  ASSERT_EQ(errorOf(deep, "h"), "no error");
  EXPECT_THAT(report(deep, "h").result->audit.warnings,
              ElementsAre("2 holes are deeper than the stock: they come out below"));
}

TEST(HolesStep, GoThroughSeveralBodiesAtOnceAndSpareTheShielded) {
  const Model model = drilled({{"size", text("M5")}}, two,
                              {block("foot", "100 mm", "60 mm", "15 mm", {"0", "0", "-30 mm"}),
                               block("side", "40 mm", "60 mm", "10 mm", {"60 mm", "0", "-60 mm"})});
  ASSERT_EQ(errorOf(model, "h"), "no error");
  EXPECT_NEAR(volume(model, "foot"), 100.0 * 60 * 15 - 2 * cylinder(5.5, 15), 1e-9 * plate);
  EXPECT_NEAR(volume(model, "side"), 40.0 * 60 * 10 - cylinder(5.5, 10), 1e-9 * plate);
  EXPECT_EQ(report(model, "h").result->audit.touched.size(), 3u);
}

TEST(HolesStep, StartWhereTheyMeetARoundBody) {
  const std::vector<Step> steps{
      step("rod", "cylinder", {{"radius", Expression("30 mm")}, {"height", Expression("100 mm")}}),
      step("p", "plane", {{"from", PlanePick::standard("xz")}, {"offset", expression("50 mm")}}),
      drawing("d", PlanePick::ofStep(StepId("p")), {circle("a", "10 mm", "40 mm", "3 mm")}),
      step("h", "holes",
           {{"profiles", allOf("d")},
            {"starts", text("stock")},
            {"form", text("counterbored")},
            {"head", expression("10 mm")},
            {"head_depth", expression("5 mm")},
            {"to", text("depth")},
            {"depth", expression("15 mm")},
            {"tip", text("flat")}})};
  const Model model = made(documentOf(steps));
  ASSERT_EQ(errorOf(model, "h"), "no error");
  const Shape& rod = model.find("rod")->shape();
  EXPECT_TRUE(rod.valid());
  // From √(30² − 10²) on the axis: the shoulder is 5 mm below, the floor 15 mm.
  const double top = std::sqrt(900.0 - 100), wall = 30;
  double head = 0;
  constexpr int steps1 = 4000;
  for (int i = 0; i < steps1; ++i) {  // over the width of the head: chord × what stands above the shoulder
    const double x = -5 + 10 * (i + 0.5) / steps1, chord = 2 * std::sqrt(25 - x * x);
    head += chord * (std::sqrt(wall * wall - (10 + x) * (10 + x)) - (top - 5)) * 10 / steps1;
  }
  EXPECT_NEAR(volume(model, "rod"), pi * 900 * 100 - head - cylinder(6, 10), 0.02);
}

TEST(HolesStep, RefuseWhatMakesNoHole) {
  EXPECT_THAT(errorOf(drilled({{"form", text("countersunk")}, {"head", expression("5 mm")}}, two), "h"),
              HasSubstr("the head is 5 mm wide, and the hole 6 mm"));
  EXPECT_THAT(errorOf(drilled({{"form", text("countersunk")}, {"angle", expression("180 deg")}}, two), "h"),
              HasSubstr("no angle of a cone"));
  EXPECT_THAT(errorOf(drilled({{"size", text("M6")},
                               {"form", text("counterbored")},
                               {"to", text("depth")},
                               {"depth", expression("6 mm")}},
                              two),
                      "h"),
              HasSubstr("the head alone is 6.4 mm deep"));
  EXPECT_THAT(errorOf(drilled({{"way", text("out")}}, two), "h"), HasSubstr("meet none of the stock"));
  EXPECT_THAT(errorOf(drilled({}, {rectangle("r", "10 mm", "10 mm", "5 mm", "5 mm")}), "h"),
              HasSubstr("not bounded by a circle"));
  const Model meeting =
      drilled({{"size", text("M20")}}, {circle("a", "30 mm", "30 mm", "3 mm"), circle("b", "45 mm", "30 mm", "3 mm")});
  ASSERT_EQ(errorOf(meeting, "h"), "no error");
  EXPECT_THAT(report(meeting, "h").result->audit.warnings, ElementsAre("1 hole runs into another one"));
  // Two circles of 11 mm that are 15 mm apart, less what they share.
  const double half = std::acos(7.5 / 11), shared = 121 * (2 * half - std::sin(2 * half));
  EXPECT_NEAR(volume(meeting, "plate"), plate - (2 * pi * 121 - shared) * 20, 1e-8 * plate);
}

TEST(HolesStep, RandomLayoutsHaveTheVolumesOfTheirHoles) {
  std::mt19937 random(5);
  std::uniform_real_distribution<double> share(0, 1);
  const std::vector<std::string> forms{"simple", "countersunk", "counterbored"};
  for (int round = 0; round < 25; ++round) {
    // On a grid, so that none meets another.
    std::vector<DrawnCurve> circles;
    for (int i = 0; i < 4; ++i)
      for (int k = 0; k < 2; ++k)
        if (share(random) < 0.7)
          circles.push_back(circle("c" + std::to_string(10 * i + k),
                                   std::to_string(13 + 25 * i + 4 * (share(random) - 0.5)) + " mm",
                                   std::to_string(15 + 30 * k + 4 * (share(random) - 0.5)) + " mm", "1 mm"));
    if (circles.empty()) continue;
    const double diameter = 2 + 5 * share(random), head = diameter + 1 + 4 * share(random),
                 deep = 3 + 3 * share(random), depth = 10 + 6 * share(random);
    const auto form = static_cast<std::size_t>(3 * share(random));
    const bool blind = share(random) < 0.5;
    Fields fields{{"size", text("diameter")},
                  {"diameter", expression(std::to_string(diameter) + " mm")},
                  {"form", text(forms[form].c_str())},
                  {"head", expression(std::to_string(head) + " mm")},
                  {"head_depth", expression(std::to_string(deep) + " mm")},
                  {"depth", expression(std::to_string(depth) + " mm")}};
    if (blind) fields["to"] = text("depth");
    const Model model = drilled(fields, circles);
    ASSERT_EQ(errorOf(model, "h"), "no error") << round;
    const double ground = blind ? depth : 20, sink = (head - diameter) / 2;
    double one = blind ? cone(diameter, 0, diameter / 2 / std::tan(59 * pi / 180)) : 0;
    one += form == 0   ? cylinder(diameter, ground)
           : form == 1 ? cone(head, diameter, sink) + cylinder(diameter, ground - sink)
                       : cylinder(head, deep) + cylinder(diameter, ground - deep);
    EXPECT_NEAR(volume(model, "plate"), plate - one * static_cast<double>(circles.size()), 1e-6 * plate) << round;
    EXPECT_EQ(openingsOf(model.find("plate")->shape()).size(), circles.size()) << round;
    EXPECT_TRUE(model.find("plate")->shape().valid()) << round;
  }
}

}  // namespace
}  // namespace kervo
