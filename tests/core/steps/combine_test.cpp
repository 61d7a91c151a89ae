// Combine, Group, Score and Lift: regions, clearance, seams, hole-makers, shared faces.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>

#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;
using testing::Contains;
using testing::ElementsAre;
using testing::HasSubstr;
using testing::UnorderedElementsAre;
constexpr double pi = std::numbers::pi;

Step combine(const char* verb, std::vector<BodyId> stock, std::vector<BodyId> cutters,
             std::map<std::string, FieldValue> more = {}) {
  more.insert({{"verb", text(verb)}, {"stock", bodies(std::move(stock))}, {"cutters", bodies(std::move(cutters))}});
  return step("k", "combine", std::move(more));
}

/// Two blocks of 10 that overlap by 4, and a third apart.
std::vector<Step> blocks() {
  return {block("a", "10", "10", "10"), block("b", "10", "10", "10", {"6", "0", "0"}),
          block("c", "10", "10", "10", {"50", "0", "0"})};
}

Model with(const Step& last, std::vector<Step> steps = blocks()) {
  steps.push_back(last);
  return made(documentOf(steps));
}

std::vector<BodyId> idsOf(const Model& model) {
  std::vector<BodyId> ids;
  for (const Body& body : model.bodies) ids.push_back(body.id);
  return ids;
}

TEST(Combine, PartitionGivesEveryRegionWithItsBodies) {
  const Model model = with(combine("partition", {"a", "b"}, {}));
  ASSERT_FALSE(model.failed()) << errorOf(model, "k");
  EXPECT_THAT(idsOf(model), UnorderedElementsAre("a", "a/with b", "b", "c"));
  EXPECT_NEAR(volume(model, "a"), 600, 1e-9);
  EXPECT_NEAR(volume(model, "a/with b"), 400, 1e-9);
  EXPECT_NEAR(volume(model, "b"), 600, 1e-9);
}

TEST(Combine, ExclusiveDropsWhatIsShared) {
  const Model model = with(combine("exclusive", {"a"}, {"b"}));
  ASSERT_FALSE(model.failed()) << errorOf(model, "k");
  EXPECT_THAT(idsOf(model), UnorderedElementsAre("a", "b", "c"));
  EXPECT_NEAR(report(model, "k").result->audit.volumeRemoved, 400, 1e-9);
  EXPECT_NEAR(volume(model, "a") + volume(model, "b"), 1200, 1e-9);
}

TEST(Combine, DroppedRegionsStayDroppedByName) {
  const Model model = with(combine("partition", {"a", "b"}, {}, {{"pieces", PieceChoice{{}, {"a/with b"}, {}}}}));
  EXPECT_THAT(idsOf(model), UnorderedElementsAre("a", "b", "c"));
}

TEST(Combine, BodiesApartHaveNoRegions) {
  EXPECT_THAT(errorOf(with(combine("partition", {"a", "c"}, {})), "k"), HasSubstr("do not overlap"));
}

TEST(Combine, ClearanceMakesRoomRoundTheCutter) {
  const std::vector<Step> steps{
      block("plate", "50", "50", "10"),
      step("pin", "cylinder",
           {{"radius", Expression("5")}, {"height", Expression("30")}, {"at", point("25", "25", "-10")}})};
  const Model loose = with(combine("subtract", {"plate"}, {"pin"}, {{"clearance", Expression("0.25 mm")}}), steps);
  ASSERT_FALSE(loose.failed()) << errorOf(loose, "k");
  EXPECT_NEAR(volume(loose, "plate"), 25000 - pi * 5.25 * 5.25 * 10, 1e-5);
  const Model tight = with(combine("subtract", {"plate"}, {"pin"}, {{"clearance", Expression("-0.1 mm")}}), steps);
  EXPECT_NEAR(volume(tight, "plate"), 25000 - pi * 4.9 * 4.9 * 10, 1e-5);
  EXPECT_THAT(errorOf(with(combine("subtract", {"plate"}, {"pin"}, {{"clearance", Expression("-6 mm")}}), steps), "k"),
              HasSubstr("field Clearance: the clearance round \"pin\""));
}

TEST(Combine, CuttersAreUsedUpKeptOrHidden) {
  EXPECT_THAT(idsOf(with(combine("subtract", {"a"}, {"b"}))), ElementsAre("a", "c"));
  EXPECT_THAT(idsOf(with(combine("subtract", {"a"}, {"b"}, {{"after", text("keep")}}))), ElementsAre("a", "b", "c"));
  const Model hidden = with(combine("subtract", {"a"}, {"b"}, {{"after", text("hide")}}));
  EXPECT_THAT(idsOf(hidden), ElementsAre("a", "b", "c"));
  EXPECT_FALSE(hidden.find("b")->visible);
  EXPECT_TRUE(hidden.find("a")->visible);
}

TEST(Combine, SeamsAreRemovedOrKept) {
  const std::vector<Step> steps{block("a", "10", "10", "10"), block("b", "10", "10", "10", {"10", "0", "0"})};
  EXPECT_EQ(with(combine("union", {"a"}, {"b"}), steps).find("a")->shape().faceCount(), 6);
  EXPECT_EQ(with(combine("union", {"a"}, {"b"}, {{"seams", true}}), steps).find("a")->shape().faceCount(), 10);
}

TEST(Combine, UnionNamesWhatDoesNotTouch) {
  const Model model = with(combine("union", {"a"}, {"b", "c"}));
  EXPECT_THAT(report(model, "k").result->audit.warnings, Contains(HasSubstr("\"a\" + \"b\"; \"c\"")));
}

TEST(Combine, CutFacesTakeTheCuttersColourIfAsked) {
  Document document = documentOf(blocks());
  BodyLook red;
  red.color = Color{1, 0, 0};
  document = document.withLook("b", red);
  const auto coloured = [&](bool flag) {
    const Model model = made(document.withStep(combine("subtract", {"a"}, {"b"}, {{"cutter_color", flag}})));
    const auto colorOf = [&](const BodyId& id) { return model.everShown.at(id).color; };
    return faceColors(withShownColors(model.find("a")->shape(), colorOf));
  };
  EXPECT_TRUE(coloured(false).empty());
  ASSERT_EQ(coloured(true).size(), 1u);
  EXPECT_EQ(coloured(true).begin()->second, (Color{1, 0, 0}));
  // They stay like the cutter, whatever its colour is later.
  red.color = Color{0, 0, 1};
  document = document.withLook("b", red);
  EXPECT_EQ(coloured(true).begin()->second, (Color{0, 0, 1}));
}

TEST(Combine, SaysHowACutterLies) {
  EXPECT_THAT(errorOf(with(combine("subtract", {"a"}, {"c"})), "k"), HasSubstr("\"c\" does not reach \"a\""));
  EXPECT_THAT(errorOf(with(combine("subtract", {"a"}, {"t"}),
                           {block("a", "10", "10", "10"), block("t", "5", "5", "5", {"10", "0", "0"})}),
                      "k"),
              HasSubstr("\"t\" only touches \"a\""));
}

TEST(Combine, SurfaceAsStockAndAsCutter) {
  const std::vector<Step> steps{block("a", "10", "10", "10"),
                                step("s", "lift", {{"faces", std::vector{FaceReference{"a", "a:top", {}}}}}),
                                block("t", "4", "4", "4", {"3", "3", "8"})};
  const Model cut = with(combine("subtract", {"s"}, {"t"}), steps);
  ASSERT_FALSE(cut.failed()) << errorOf(cut, "k");
  EXPECT_NEAR(cut.find("s")->shape().area(), 84, 1e-9);
  EXPECT_FALSE(report(cut, "k").result->audit.watertight);
  const Model common = with(combine("intersect", {"s"}, {"t"}), steps);
  EXPECT_NEAR(common.find("s")->shape().area(), 16, 1e-9);
  EXPECT_THAT(errorOf(with(combine("subtract", {"t"}, {"s"}), steps), "k"),
              HasSubstr("is an open surface, which has no inside"));
  // One that closes is told apart.
  std::vector<Step> closed = steps;
  closed.push_back(step("u", "unsew", {{"bodies", bodies({"t"})}}));
  std::vector<BodyId> faces;
  for (const Body& body : made(documentOf(closed)).bodies)
    if (body.id.isOfFamily("t")) faces.push_back(body.id);
  ASSERT_EQ(faces.size(), 6u);
  closed.push_back(step("w", "sew", {{"surfaces", bodies(faces)}, {"gives", text("a surface")}}));
  const Model told = with(combine("subtract", {"a"}, {faces.front()}), closed);
  EXPECT_THAT(errorOf(told, "k"), HasSubstr("closes, but it is a surface and no solid"));
  EXPECT_THAT(errorOf(told, "k"), HasSubstr("Make solid"));
  EXPECT_THAT(errorOf(with(combine("union", {"t"}, {"s"}), steps), "k"),
              HasSubstr("a surface cannot take part in a union"));
}

TEST(GroupStep, JoinsSolidsAndTakesHoleMakersAway) {
  Document document =
      documentOf({block("a", "10", "10", "10"), block("b", "10", "10", "10", {"10", "0", "0"}),
                  block("hole", "30", "2", "2", {"-5", "4", "4"}), block("sleeve", "5", "5", "5", {"2", "2", "2"}),
                  step("g", "group", {{"bodies", bodies({"a", "b", "hole", "sleeve"})}})});
  BodyTreatment maker, shield;
  maker.holeMaker = true;
  shield.shielded = true;
  document = document.withBody("hole", maker).withBody("sleeve", shield);
  const Model model = made(document);
  ASSERT_FALSE(model.failed()) << errorOf(model, "g");
  EXPECT_THAT(idsOf(model), UnorderedElementsAre("g", "sleeve"));
  EXPECT_NEAR(volume(model, "g"), 2000 - 20 * 4, 1e-9);
  // Opened: switched off, its members are there again.
  const Model open = made(document.withReplaced(document.find("g")->switched(false)));
  EXPECT_EQ(open.bodies.size(), 4u);
}

TEST(ScoreStep, MarksFacesAndKeepsTheVolume) {
  const Model model = made(documentOf(
      {block("a", "10", "10", "10"), step("s", "score", {{"cutters", cutBy("xy")}, {"offset", Expression("4 mm")}})}));
  ASSERT_FALSE(model.failed()) << errorOf(model, "s");
  EXPECT_EQ(model.find("a")->shape().faceCount(), 10);
  EXPECT_NEAR(volume(model, "a"), 1000, 1e-9);
  EXPECT_TRUE(model.find("a")->shape().watertight());
}

TEST(ScoreStep, SharesFacesOfTouchingBodies) {
  const Model model = made(
      documentOf({block("a", "10", "10", "10"), block("b", "4", "4", "4", {"3", "3", "10"}),
                  block("far", "1", "1", "1", {"50", "0", "0"}), step("s", "score", {{"verb", text("share faces")}})}));
  ASSERT_FALSE(model.failed()) << errorOf(model, "s");
  EXPECT_THAT(report(model, "s").result->audit.notes, ElementsAre("1 face is shared"));
  EXPECT_THAT(report(model, "s").result->audit.spared, ElementsAre("far"));
  EXPECT_EQ(model.find("a")->shape().faceCount(), 7);
  EXPECT_NEAR(volume(model, "a"), 1000, 1e-9);
}

TEST(ScoreStep, OverlappingBodiesCannotShareFaces) {
  std::vector<Step> steps = blocks();
  const Model model = with(step("s", "score", {{"verb", text("share faces")}, {"stock", bodies({"a", "b"})}}));
  EXPECT_THAT(errorOf(model, "s"), HasSubstr("\"a\" and \"b\" overlap by 400 mm³"));
}

TEST(ScoreStep, IntersectionCurvesAreBodies) {
  const Model model = made(documentOf(
      {step("a", "cylinder", {{"radius", Expression("5")}, {"height", Expression("10")}}),
       step("s", "score", {{"verb", text("curves")}, {"cutters", cutBy("xy")}, {"offset", Expression("4 mm")}})}));
  ASSERT_FALSE(model.failed()) << errorOf(model, "s");
  ASSERT_NE(model.find("s/a"), nullptr);
  EXPECT_EQ(model.find("s/a")->shape().kind(), BodyKind::Curve);
  EXPECT_NEAR(model.find("s/a")->shape().box().high.x, 5, 1e-6);
}

TEST(ScoreStep, CurveBodiesMarkTheFacesTheyLieOn) {
  // Where a rod comes out of the block's top, as curves: they mark a disc on the block.
  const Model model = made(documentOf(
      {block("a", "20", "20", "10"),
       step("rod", "cylinder",
            {{"radius", Expression("3")}, {"height", Expression("30")}, {"at", point("10", "10", "-5")}}),
       step("c", "score",
            {{"verb", text("curves")}, {"stock", bodies({"a"})}, {"cutters", std::vector{CutterPick::ofBody("rod")}}}),
       step("s", "score", {{"stock", bodies({"a"})}, {"cutters", std::vector{CutterPick::ofBody("c/a")}}})}));
  ASSERT_FALSE(model.failed()) << errorOf(model, "s");
  const Shape& marked = model.find("a")->shape();
  EXPECT_EQ(marked.faceCount(), 8);
  EXPECT_NEAR(marked.volume(), 4000, 1e-9);
  EXPECT_TRUE(marked.watertight());
  double smallest = 1e9;
  for (const Face& face : facesOf(marked)) smallest = std::min(smallest, face.area());
  EXPECT_NEAR(smallest, 9 * 3.14159265358979, 1e-6);
}

TEST(ScoreStep, ACurveCannotSplit) {
  const Model model = made(documentOf(
      {block("a", "20", "20", "10"),
       step("c", "score", {{"verb", text("curves")}, {"cutters", cutBy("xy")}, {"offset", Expression("4 mm")}}),
       step("s", "split", {{"stock", bodies({"a"})}, {"cutters", std::vector{CutterPick::ofBody("c/a")}}})}));
  EXPECT_THAT(errorOf(model, "s"), HasSubstr("is a curve, which does not cut by itself"));
}

// Two blocks side by side have faces in common planes. With a ring in the union the edges between them stay.
TEST(CombineStep, SeamsThatStayAreSaid) {
  const auto united = [](std::vector<BodyId> cutters) {
    std::vector<Step> steps{block("a", "20", "20", "10"),
                            step("b", "block",
                                 {{"width", Expression("20")},
                                  {"depth", Expression("20")},
                                  {"height", Expression("10")},
                                  {"at", std::vector{Expression("20"), Expression("0"), Expression("0")}}}),
                            step("t", "torus",
                                 {{"ring", Expression("8")},
                                  {"tube", Expression("2")},
                                  {"at", std::vector{Expression("20"), Expression("10"), Expression("10")}}})};
    steps.push_back(
        step("u", "combine", {{"verb", text("union")}, {"stock", bodies({"a"})}, {"cutters", bodies(cutters)}}));
    return made(documentOf(steps));
  };
  const Model plain = united({"b"}), ring = united({"b", "t"});
  ASSERT_FALSE(plain.failed()) << errorOf(plain, "u");
  ASSERT_FALSE(ring.failed()) << errorOf(ring, "u");
  EXPECT_TRUE(report(plain, "u").result->audit.notes.empty());
  EXPECT_THAT(report(ring, "u").result->audit.notes, testing::Contains(HasSubstr("stay")));
}

TEST(ExtrudeStep, RegionsBecomeSolidsNewJoinedOrCommon) {
  const auto extruded = [](std::map<std::string, FieldValue> fields) {
    fields.insert({"profiles", allOf("d")});
    return made(documentOf({block("a", "20", "20", "10"),
                            drawing("d", onFace("a", "a:top"), {rectangle("r", "5", "5", "10", "10")}),
                            step("e", "extrude", std::move(fields))}));
  };
  const Model fresh = extruded({{"height", Expression("3")}});
  ASSERT_FALSE(fresh.failed()) << errorOf(fresh, "e");
  EXPECT_NEAR(volume(fresh, "e"), 300, 1e-9);
  EXPECT_NEAR(fresh.find("e")->shape().box().high.z, 13, 1e-6);
  const Model joined = extruded({{"height", Expression("3")}, {"then", text("joined")}, {"stock", bodies({"a"})}});
  ASSERT_FALSE(joined.failed()) << errorOf(joined, "e");
  EXPECT_NEAR(volume(joined, "a"), 4300, 1e-9);
  const Model common = extruded(
      {{"height", Expression("4")}, {"way", text("into")}, {"then", text("common")}, {"stock", bodies({"a"})}});
  ASSERT_FALSE(common.failed()) << errorOf(common, "e");
  EXPECT_NEAR(volume(common, "a"), 400, 1e-9);
  const double lean = 3 * std::tan(5 * pi / 180), top = 10 - 2 * lean;
  EXPECT_NEAR(volume(extruded({{"height", Expression("3")}, {"draft", Expression("5 deg")}}), "e"),
              100 + top * top + 10 * top, 1e-6);
}

TEST(ExtrudeStep, OpenLinesBecomeASurface) {
  const Model model =
      made(documentOf({drawing("d", {PlanePick::Kind::Standard, "xy", {}},
                               {{"l", "line", {Expression("0"), Expression("0"), Expression("5"), Expression("0")}}}),
                       step("e", "extrude", {{"profiles", allOf("d")}, {"height", Expression("4")}})}));
  ASSERT_FALSE(model.failed()) << errorOf(model, "e");
  EXPECT_EQ(model.find("e")->shape().kind(), BodyKind::Surface);
  EXPECT_NEAR(model.find("e")->shape().area(), 20, 1e-9);
}

}  // namespace
}  // namespace kervo
