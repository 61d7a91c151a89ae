// Measured dimensions: what is measured, that expressions of later steps follow it, and that nothing goes in circles.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>

#include "model/document_edits.h"
#include "model/uses.h"
#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace kervo::test;
using testing::ElementsAre;
using testing::HasSubstr;
using Fields = std::map<std::string, FieldValue>;

constexpr double pi = std::numbers::pi;

std::vector<FaceReference> faces(const std::vector<std::pair<std::string, std::string>>& names) {
  std::vector<FaceReference> result;
  for (const auto& [body, name] : names) result.push_back({body, name, std::nullopt});
  return result;
}

/// Two blocks 30 mm apart, a cylinder that stands 10 mm deep in the second one, and a bored plate.
std::vector<Step> parts() {
  return {block("a", "40", "30", "20"), block("b", "50", "30", "20", {"70", "0", "0"}),
          step("c", "cylinder",
               {{"radius", Expression("5")}, {"height", Expression("40")}, {"at", point("95", "15", "10")}})};
}

double measured(const Fields& fields) {
  std::vector<Step> steps = parts();
  steps.push_back(step("m", "measure", fields));
  const Model model = made(documentOf(steps));
  EXPECT_EQ(errorOf(model, "m"), "no error");
  return report(model, "m").result ? report(model, "m").result->measured->value.value : NAN;
}

TEST(MeasureStep, MeasuresDistancesAnglesAndAxes) {
  EXPECT_NEAR(measured({{"bodies", bodies({"a", "b"})}}), 30, 1e-9);
  EXPECT_NEAR(measured({{"faces", faces({{"a", "a:top"}, {"b", "b:right"}})}}), std::hypot(80, 0), 1e-9);
  EXPECT_NEAR(measured({{"what", text("planes")}, {"faces", faces({{"a", "a:left"}, {"b", "b:right"}})}}), 120, 1e-9);
  EXPECT_NEAR(measured({{"what", text("angle")}, {"faces", faces({{"a", "a:left"}, {"a", "a:top"}})}}), pi / 2, 1e-12);
  EXPECT_NEAR(measured({{"what", text("radius")}, {"faces", faces({{"c", "c:side"}})}}), 5, 1e-12);
  EXPECT_NEAR(measured({{"what", text("diameter")}, {"faces", faces({{"c", "c:side"}})}}), 10, 1e-12);
}

TEST(MeasureStep, MeasuresSizesWallsAndOverlaps) {
  EXPECT_NEAR(measured({{"what", text("volume")}, {"bodies", bodies({"a", "b"})}}), 24000 + 30000, 1e-6);
  EXPECT_NEAR(measured({{"what", text("area")}, {"faces", faces({{"a", "a:top"}})}}), 1200, 1e-9);
  EXPECT_NEAR(measured({{"what", text("overlap")}, {"bodies", bodies({"b", "c"})}}), 250 * pi, 1e-6);
  EXPECT_EQ(measured({{"what", text("overlap")}, {"bodies", bodies({"a", "c"})}}), 0);
  EXPECT_NEAR(measured({{"what", text("wall")}, {"bodies", bodies({"a"})}}), 20, 1e-9);
  EXPECT_NEAR(measured({{"what", text("size_z")}, {"bodies", bodies({"b", "c"})}}), 50, 1e-6);
  EXPECT_NEAR(measured({{"what", text("size_x")},
                        {"bodies", bodies({"a"})},
                        {"along", PlanePick{PlanePick::Kind::OnFace, "", {"a", "a:right", std::nullopt}}}}),
              30, 1e-6)
      << "the x axis of an upright face lies level, along the world's y axis";
  EXPECT_NEAR(measured({{"what", text("length")},
                        {"edges", std::vector<EdgeReference>{{"a", "a:top", "a:left", std::nullopt},
                                                             {"a", "a:top", "a:front", std::nullopt}}}}),
              70, 1e-9);
}

TEST(MeasureStep, TheOverlapCanBeABody) {
  std::vector<Step> steps = parts();
  steps.push_back(step("m", "measure", {{"what", text("overlap")}, {"bodies", bodies({"b", "c"})}, {"as_body", true}}));
  const Model model = made(documentOf(steps));
  ASSERT_NE(model.find("m"), nullptr) << errorOf(model, "m");
  EXPECT_NEAR(volume(model, "m"), 250 * pi, 1e-6);
  EXPECT_NEAR(volume(model, "b"), 30000, 1e-6) << "both stay as they were";
}

/// A gap is measured, and a bolt is as long as it.
Document gapAndBolt() {
  return documentOf({block("a", "40", "30", "20"), block("b", "50", "30", "20", {"40 mm + space", "0", "0"}),
                     step("m", "measure", {{"bodies", bodies({"a", "b"})}, {"name", text("gap")}}),
                     block("bolt", "whole", "10", "10", {"40", "10", "5"})},
                    {{"space", Expression("30 mm")}, {"whole", Expression("gap + 2 * 5 mm")}});
}

TEST(MeasureStep, IsADimensionForLaterStepsAndRows) {
  Document document = gapAndBolt();
  const Model before = made(document);
  EXPECT_NEAR(volume(before, "bolt"), 40 * 100, 1e-6);
  EXPECT_NEAR(before.dimensions.lookup("gap").value, 30, 1e-9);
  document.made.dimensions[0].expression = Expression("44 mm");
  const Model after = made(document);
  EXPECT_NEAR(volume(after, "bolt"), 54 * 100, 1e-6) << "it follows";
  ASSERT_EQ(after.measured().size(), 1u);
  EXPECT_NEAR(after.measured()[0].value->value, 44, 1e-9);
}

TEST(MeasureStep, CannotBeUsedByTheStepsBeforeIt) {
  Document document = gapAndBolt();
  document = document.withReplaced(block("b", "50", "30", "20", {"40 mm + gap", "0", "0"}));
  const Model model = made(document);
  EXPECT_EQ(report(model, "b").state, StepState::Failed) << "what is measured cannot depend on itself";
  EXPECT_THAT(errorOf(model, "b"), HasSubstr("measured later"));
  EXPECT_EQ(report(model, "m").state, StepState::Failed);
  EXPECT_EQ(report(model, "bolt").state, StepState::Failed);
  EXPECT_NE(model.find("a"), nullptr) << "what does not need it is made";
}

TEST(MeasureStep, WhoUsesItStandsBehindItAndIsKnown) {
  const Document document = gapAndBolt();
  EXPECT_THAT(stepsThatRead(document, "m"), ElementsAre(StepId("bolt"))) << "by way of a row";
  EXPECT_THROW(withStepMoved(document, "m", 3), Error);
  EXPECT_THROW(withStepMoved(document, "bolt", 0), Error);
  const Uses uses = Uses::of(document);
  const UsesNode m{UsesNode::What::Step, "m"}, whole{UsesNode::What::Dimension, "whole"};
  EXPECT_THAT(uses.namedIn(m), ElementsAre(whole));
  EXPECT_THAT(uses.dependents(m), ElementsAre(UsesNode{UsesNode::What::Step, "bolt"}, whole));
}

TEST(MeasureStep, IsRenamedEverywhereAndItsNameIsItsOwn) {
  const Document renamed = withDimensionRenamed(gapAndBolt(), "gap", "clear");
  EXPECT_EQ(renamed.find("m")->value("name").as<std::string>(), "clear");
  EXPECT_EQ(renamed.made.dimensions[1].expression.text(), "clear + 2 * 5 mm");
  EXPECT_THROW(withDimensionRenamed(gapAndBolt(), "space", "gap"), Error);
  Document twice = gapAndBolt();
  twice.made.dimensions.push_back({"gap", Expression("1 mm")});
  const Model model = made(twice);
  EXPECT_THAT(errorOf(model, "m"), HasSubstr("already a dimension"));
  Document measuredTwice = gapAndBolt();
  measuredTwice = measuredTwice.withStep(step("n", "measure", {{"bodies", bodies({"a", "b"})}, {"name", text("gap")}}));
  EXPECT_EQ(report(made(measuredTwice), "m").state, StepState::Made) << "the first one keeps it";
  EXPECT_THAT(errorOf(made(measuredTwice), "n"), HasSubstr("already a dimension"));
}

TEST(MeasureStep, SwitchedOffItHasNoValueAndSaysSo) {
  Document document = gapAndBolt();
  document = document.withReplaced(document.find("m")->switched(false));
  const Model model = made(document);
  EXPECT_THAT(errorOf(model, "bolt"), HasSubstr("has no value"));
  EXPECT_THAT(model.dimensions.error(2)->happened(), HasSubstr("switched off"));
}

TEST(MeasureStep, RefusesWhatHasNoSuchMeasure) {
  const auto refusal = [](const Fields& fields) {
    std::vector<Step> steps = parts();
    steps.push_back(step("m", "measure", fields));
    return errorOf(made(documentOf(steps)), "m");
  };
  EXPECT_THAT(refusal({}), HasSubstr("0 things are picked"));
  EXPECT_THAT(refusal({{"what", text("radius")}, {"faces", faces({{"a", "a:top"}})}}), HasSubstr("no radius"));
  EXPECT_THAT(refusal({{"what", text("planes")}, {"faces", faces({{"a", "a:top"}, {"a", "a:left"}})}}),
              HasSubstr("no such measure"));
  EXPECT_THAT(refusal({{"bodies", bodies({"a", "b"})}, {"name", text("mm")}}), HasSubstr("mm"));
  EXPECT_THAT(refusal({{"what", text("volume")}}), HasSubstr("nothing is picked"));
}

}  // namespace
}  // namespace kervo
