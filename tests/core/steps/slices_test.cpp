// Slices: where the planes stand, what they give, how slices are called, and that they follow their bodies.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>

#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace kervo::test;
using testing::Contains;
using testing::ElementsAre;
using testing::HasSubstr;

Model slicesOfBlock(std::map<std::string, FieldValue> fields) {
  return made(documentOf({block("b", "40", "30", "20"), step("s", "slices", std::move(fields))}));
}

std::vector<std::string> idsIn(const Model& model) {
  std::vector<std::string> ids;
  for (const Body& body : model.bodies)
    if (body.id.step() == "s") ids.push_back(body.id);
  return ids;
}

double heightOf(const Model& model, const BodyId& id) {
  return model.find(id)->shape().box().centre().z;
}

TEST(SlicesStep, StandEvenlyFromTheFirstHeightOn) {
  const Model model =
      slicesOfBlock({{"count", Expression("3")}, {"spacing", Expression("6 mm")}, {"start", Expression("2 mm")}});
  ASSERT_THAT(idsIn(model), ElementsAre("s/1/b", "s/2/b", "s/3/b"));
  for (int i = 0; i < 3; ++i) {
    const BodyId id("s/" + std::to_string(i + 1) + "/b");
    EXPECT_NEAR(heightOf(model, id), 2 + 6 * i, 1e-6);
    EXPECT_EQ(model.find(id)->shape().kind(), BodyKind::Curve);
    EXPECT_NEAR(lengthOfCurve(model.find(id)->shape()), 140, 1e-9);
  }
  EXPECT_EQ(volume(model, "b"), 40 * 30 * 20) << "the body stays";
}

TEST(SlicesStep, StandOnBothSidesOfAPlane) {
  const Model model = made(documentOf(
      {block("b", "40", "30", "20", {"0", "0", "-10"}),
       step("s", "slices", {{"count", Expression("4")}, {"spacing", Expression("4 mm")}, {"sides", text("both")}})}));
  ASSERT_EQ(idsIn(model).size(), 4u);
  EXPECT_NEAR(heightOf(model, "s/1/b"), -6, 1e-6);
  EXPECT_NEAR(heightOf(model, "s/4/b"), 6, 1e-6);
}

TEST(SlicesStep, AtHeightsGiveFacesAndTellWhichMeetNothing) {
  const Model model = slicesOfBlock({{"gives", text("faces")},
                                     {"planes", text("at heights")},
                                     {"heights", Sizes{{Expression("5"), Expression("50"), Expression("2 * 6 mm")}}}});
  ASSERT_THAT(idsIn(model), ElementsAre("s/1/b", "s/3/b")) << "numbers are those of the planes";
  EXPECT_NEAR(model.find("s/3/b")->shape().area(), 1200, 1e-9);
  EXPECT_EQ(model.find("s/3/b")->shape().kind(), BodyKind::Surface);
  EXPECT_THAT(report(model, "s").result->audit.warnings, Contains(HasSubstr("meet nothing: 2")));
  EXPECT_THAT(report(model, "s").result->audit.notes,
              Contains(HasSubstr("2 slices by 2 planes; 2 outlines are closed, 0 are open")));
}

TEST(SlicesStep, FollowTheirBodyAndKeepTheirIds) {
  Document document = documentOf(
      {block("b", "wide", "30", "20"), step("s", "slices", {{"count", Expression("1")}, {"start", Expression("5")}})},
      {{"wide", Expression("40 mm")}});
  const Model before = made(document);
  ASSERT_EQ(errorOf(before, "s"), "no error");
  EXPECT_NEAR(lengthOfCurve(before.find("s/1/b")->shape()), 140, 1e-9);
  document.made.dimensions[0] = {"wide", Expression("50 mm")};
  const Model after = made(document);
  EXPECT_NEAR(lengthOfCurve(after.find("s/1/b")->shape()), 160, 1e-9);
}

TEST(SlicesStep, NumbersAreCurvesInsideOfTheFace) {
  const Model model = made(documentOf({block("b", "40", "30", "20"), block("c", "10", "10", "20", {"100", "0", "0"}),
                                       step("s", "slices",
                                            {{"gives", text("faces")},
                                             {"count", Expression("2")},
                                             {"spacing", Expression("5")},
                                             {"start", Expression("5")},
                                             {"numbers", text("as curves")},
                                             {"number_height", Expression("3 mm")}})}));
  ASSERT_EQ(idsIn(model).size(), 8u);
  const Shape label = model.find("s/2/c/label")->shape();
  EXPECT_EQ(label.kind(), BodyKind::Curve);
  const Box box = label.box(), around = model.find("s/2/c")->shape().box();
  EXPECT_NEAR(box.centre().z, 10, 1e-6);
  EXPECT_GT(box.low.x, around.low.x);
  EXPECT_LT(box.high.x, around.high.x);
  EXPECT_NEAR(box.high.y - box.low.y, 3, 0.3) << "its digits are 3 mm high";
}

TEST(SlicesStep, APieceOfABodyKeepsItsPartsInTheId) {
  const Model model = made(documentOf({block("b", "40", "30", "20"),
                                       step("split", "split", {{"cutters", cutBy("yz")}, {"keep", text("both")}}),
                                       step("s", "slices", {{"count", Expression("1")}, {"start", Expression("5")}})}));
  EXPECT_FALSE(idsIn(model).empty());
}

TEST(SlicesStep, RefusesWhatGivesNothing) {
  EXPECT_THAT(errorOf(slicesOfBlock({{"start", Expression("100")}}), "s"), HasSubstr("no plane meets a body"));
  EXPECT_THAT(errorOf(slicesOfBlock({{"count", Expression("2.5")}}), "s"), HasSubstr("not a whole number"));
  EXPECT_THAT(errorOf(slicesOfBlock({{"count", Expression("5000")}}), "s"), HasSubstr("At most 2000"));
  EXPECT_THAT(errorOf(slicesOfBlock({{"spacing", Expression("0 mm")}}), "s"), HasSubstr("in one place"));
  EXPECT_THAT(errorOf(slicesOfBlock({{"planes", text("at heights")}}), "s"), HasSubstr("no height is given"));
}

TEST(SlicesStep, ASliceIsDrawnOnToGoOnFromItsOutline) {
  const Model sliced =
      slicesOfBlock({{"gives", text("faces")}, {"count", Expression("1")}, {"start", Expression("8")}});
  Selected selected;
  Picked picked;
  picked.what = Picked::What::Face;
  picked.body = "s/1/b";
  picked.bodyKind = BodyKind::Surface;
  picked.face = {"s/1/b", "s:cut", std::nullopt};
  picked.plane = facesOf(sliced.find("s/1/b")->shape()).front().plane();
  selected.picks = {picked};
  Start start;
  allStepKinds().drawing().startFrom(selected, start);
  const Model model = made(documentOf(
      {block("b", "40", "30", "20"),
       step("s", "slices", {{"gives", text("faces")}, {"count", Expression("1")}, {"start", Expression("8")}}),
       step("d", "drawing", start.fields),
       step("e", "extrude", {{"profiles", allOf("d")}, {"height", Expression("7")}})}));
  EXPECT_EQ(errorOf(model, "e"), "no error");
  EXPECT_NEAR(volume(model, "e"), 1200 * 7, 1e-6);
}

}  // namespace
}  // namespace kervo
