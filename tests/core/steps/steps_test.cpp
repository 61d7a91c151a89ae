// Bodies from sizes, planes, splits, combines and rounds, each against known volumes.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>

#include "support/document_builder.h"
#include "support/slotted_plate.h"

namespace kervo {
namespace {

using namespace test;
using testing::ElementsAre;
using testing::HasSubstr;
constexpr double pi = std::numbers::pi;

TEST(Solids, StandWhereTheyArePlaced) {
  const Model model = made(documentOf(
      {block("a", "10", "20", "30", {"1", "2", "3"}),
       step("c", "cylinder",
            {{"radius", Expression("2")},
             {"height", Expression("5")},
             {"plane", PlanePick{PlanePick::Kind::Standard, "yz", {}}},
             {"at", point("1", "2", "3")}}),
       step("k", "cone", {{"bottom", Expression("3")}, {"top", Expression("0")}, {"height", Expression("6")}}),
       step("s", "sphere", {{"radius", Expression("3")}}),
       step("t", "torus", {{"ring", Expression("5")}, {"tube", Expression("1")}}),
       step("on", "cylinder",
            {{"radius", Expression("1")},
             {"height", Expression("2")},
             {"plane", onFace("a", "a:top")},
             {"at", point("5", "5", "0")}})}));
  ASSERT_FALSE(model.failed());
  EXPECT_NEAR(volume(model, "a"), 6000, 1e-9);
  EXPECT_NEAR(distance(model.find("a")->shape().box().low, {1, 2, 3}), 0, 1e-6);
  EXPECT_NEAR(volume(model, "c"), 20 * pi, 1e-9);
  EXPECT_NEAR(distance(model.find("c")->shape().box().low, {3, -1, 0}), 0, 1e-6);
  EXPECT_NEAR(volume(model, "k"), 18 * pi, 1e-9);
  EXPECT_NEAR(volume(model, "s"), 36 * pi, 1e-9);
  EXPECT_NEAR(volume(model, "t"), 10 * pi * pi, 1e-9);
  EXPECT_NEAR(distance(model.find("on")->shape().box().low, {4, 4, 33}), 0, 1e-6);
}

TEST(Solids, NameTheFieldThatIsWrong) {
  const Model model = made(
      documentOf({block("z", "10", "0 mm", "30"), block("n", "-1 mm", "1", "1"),
                  step("t", "torus", {{"ring", Expression("5")}, {"tube", Expression("6")}}),
                  step("k", "cone", {{"bottom", Expression("0")}, {"top", Expression("0")}}),
                  block("u", "10", "1 / 0", "1"), block("h", "1e200 mm", "1", "1"), block("w", "missing", "1", "1")}));
  EXPECT_THAT(errorOf(model, "z"), HasSubstr("field Depth: the value is 0 mm"));
  EXPECT_THAT(errorOf(model, "n"), HasSubstr("field Width: the value is -1 mm"));
  EXPECT_THAT(errorOf(model, "t"), HasSubstr("not smaller than the ring radius"));
  EXPECT_THAT(errorOf(model, "k"), HasSubstr("both radii"));
  EXPECT_THAT(errorOf(model, "u"), HasSubstr("field Depth: division by zero"));
  EXPECT_THAT(errorOf(model, "h"), HasSubstr("The largest size"));
  EXPECT_THAT(errorOf(model, "w"), HasSubstr("no dimension named \"missing\""));
  EXPECT_TRUE(model.bodies.empty());
}

TEST(PlaneStep, LiesAtADistanceFromAPlaneOrFace) {
  const Model model = made(documentOf(
      {block("a", "10", "20", "30"),
       step("p", "plane", {{"from", onFace("a", "a:left")}, {"offset", Expression("4 mm")}}),
       step("q", "plane", {{"from", PlanePick{PlanePick::Kind::OfStep, "p", {}}}, {"offset", Expression("1 mm")}}),
       step("bad", "plane", {{"from", PlanePick{PlanePick::Kind::OfStep, "nope", {}}}})}));
  EXPECT_EQ(std::get<Plane>(*report(model, "q").result->datum()).origin, (Point{-5, 0, 0}));
  EXPECT_EQ(std::get<Plane>(*report(model, "q").result->datum()).normal, (Vector{-1, 0, 0}));
  EXPECT_THAT(errorOf(model, "bad"), HasSubstr("no plane from a step \"nope\""));
}

TEST(PlaneStep, RefusesACurvedFace) {
  const Model model =
      made(documentOf({step("c", "cylinder", {}), step("p", "plane", {{"from", onFace("c", "c:side")}})}));
  EXPECT_THAT(errorOf(model, "p"), HasSubstr("not planar (it is a cylinder)"));
}

Model splitWith(std::map<std::string, FieldValue> fields) {
  fields.try_emplace("offset", Expression("12 mm"));
  return made(documentOf({block("a", "100", "60", "40"), step("s", "split", std::move(fields))}));
}

TEST(SplitStep, KeepsEitherSideOrBoth) {
  const Model both = splitWith({});
  EXPECT_NEAR(volume(both, "a/front"), 6000 * 28, 1e-6);
  EXPECT_NEAR(volume(both, "a/back"), 6000 * 12, 1e-6);
  const Model front = splitWith({{"keep", text("front")}});
  EXPECT_EQ(front.bodies.size(), 1u);
  EXPECT_NEAR(volume(front, "a/front"), 6000 * 28, 1e-6);
  EXPECT_NEAR(volume(splitWith({{"keep", text("back")}}), "a/back"), 6000 * 12, 1e-6);
  EXPECT_FALSE(report(front, "s").result->pieces.back().kept);
}

TEST(SplitStep, RemovesTheKerfCentredOrToASide) {
  const std::map<std::string, std::pair<double, double>> expected{
      {"centred", {27, 11}}, {"front", {26, 12}}, {"back", {28, 10}}};
  for (const auto& [side, heights] : expected) {
    const Model model = splitWith({{"kerf", Expression("2 mm")}, {"kerf_side", std::string(side)}});
    EXPECT_NEAR(volume(model, "a/front"), 6000 * heights.first, 1e-6) << side;
    EXPECT_NEAR(volume(model, "a/back"), 6000 * heights.second, 1e-6) << side;
    EXPECT_NEAR(report(model, "s").result->audit.volumeRemoved, 12000, 1e-6);
    EXPECT_NEAR(report(model, "s").volumeChange, -12000, 1e-6);
  }
}

TEST(SplitStep, CutsManyBodiesAtOnceAndSparesThoseItMisses) {
  const Model model = made(documentOf({block("a", "10", "10", "10"), block("b", "10", "10", "10", {"20", "0", "0"}),
                                       block("c", "10", "10", "10", {"40", "0", "50"}),
                                       step("s", "split", {{"offset", Expression("5 mm")}})}));
  EXPECT_EQ(model.bodies.size(), 5u);
  EXPECT_THAT(report(model, "s").result->audit.spared, ElementsAre("c"));
  EXPECT_NE(model.find("c"), nullptr);
}

TEST(SplitStep, SeveralPiecesOnASideAreTold) {
  // A U: above the cut stand two separate legs.
  const Model model = made(documentOf(
      {block("u", "30", "10", "30"), drawing("d", onFace("u", "u:front"), {rectangle("r", "10", "10", "10", "30")}),
       step("gap", "cut", {{"profiles", allOf("d")}}), step("s", "split", {{"offset", Expression("20 mm")}})}));
  ASSERT_FALSE(model.failed());
  EXPECT_NEAR(volume(model, "u/back"), 30 * 10 * 20 - 10 * 10 * 10, 1e-6);
  EXPECT_NEAR(volume(model, "u/front/left"), 1000, 1e-6);
  EXPECT_NEAR(volume(model, "u/front/right"), 1000, 1e-6);
}

TEST(SplitStep, APlaneThatMissesOrOnlyTouchesIsAnError) {
  EXPECT_THAT(errorOf(splitWith({{"offset", Expression("40 mm")}}), "s"),
              HasSubstr("\"a\" lies entirely behind the plane"));
  EXPECT_THAT(errorOf(splitWith({{"offset", Expression("0 mm")}}), "s"),
              HasSubstr("lies entirely in front of the plane"));
  EXPECT_THAT(errorOf(splitWith({{"kerf", Expression("-1 mm")}}), "s"), HasSubstr("field Kerf: the value is -1 mm"));
  EXPECT_NEAR(volume(splitWith({{"offset", Expression("40 mm")}}), "a"), 240000, 1e-6);
}

Model combineWith(std::map<std::string, FieldValue> fields) {
  fields.try_emplace("stock", bodies({"a"}));
  fields.try_emplace("cutters", bodies({"b", "c"}));
  return made(documentOf({block("a", "10", "10", "10"), block("b", "10", "10", "10", {"5", "0", "0"}),
                          block("c", "10", "4", "10", {"-5", "3", "0"}), block("far", "1", "1", "1", {"90", "0", "0"}),
                          step("x", "combine", std::move(fields))}));
}

TEST(CombineStep, SubtractsUnitesAndIntersects) {
  const Model minus = combineWith({});
  // What stays of a falls in two.
  EXPECT_NEAR(volume(minus, "a/front"), 150, 1e-9);
  EXPECT_NEAR(volume(minus, "a/back"), 150, 1e-9);
  EXPECT_EQ(minus.find("b"), nullptr);
  const Model joined = combineWith({{"verb", text("union")}});
  EXPECT_NEAR(volume(joined, "a"), 1500 + 5 * 4 * 10, 1e-9);
  EXPECT_EQ(joined.bodies.size(), 2u);
  const Model common = combineWith({{"verb", text("intersect")}, {"cutters", bodies({"b"})}});
  EXPECT_NEAR(volume(common, "a"), 500, 1e-9);
}

TEST(CombineStep, KeepsCuttersIfAsked) {
  const Model model = combineWith({{"after", text("keep")}});
  EXPECT_NEAR(volume(model, "b"), 1000, 1e-9);
  EXPECT_NEAR(volume(model, "a/front") + volume(model, "a/back"), 300, 1e-9);
}

TEST(CombineStep, SaysWhatIsWrong) {
  EXPECT_THAT(errorOf(combineWith({{"cutters", bodies({"far"})}}), "x"), HasSubstr("no cutter meets the stock"));
  EXPECT_THAT(errorOf(combineWith({{"cutters", bodies({})}}), "x"), HasSubstr("no cutter is chosen"));
  EXPECT_THAT(errorOf(combineWith({{"stock", bodies({})}}), "x"), HasSubstr("no stock is chosen"));
  EXPECT_THAT(errorOf(combineWith({{"cutters", bodies({"a"})}}), "x"), HasSubstr("stock and cutter at once"));
  EXPECT_THAT(errorOf(combineWith({{"verb", text("intersect")}, {"cutters", bodies({"far"})}}), "x"),
              HasSubstr("nothing in common"));
  const Model apart = combineWith({{"verb", text("union")}, {"cutters", bodies({"far"})}});
  EXPECT_THAT(report(apart, "x").result->audit.warnings, ElementsAre(HasSubstr("not all of the bodies touch")));
}

TEST(RoundStep, RoundsOnSeveralBodiesAndRefusesWhatDoesNotFit) {
  const std::vector<EdgeReference> edges{{"a", "a:top", "a:left", {}}, {"b", "b:top", "b:left", {}}};
  const Document document = documentOf({block("a", "20", "20", "20"), block("b", "20", "20", "20", {"50", "0", "0"}),
                                        step("r", "round", {{"edges", edges}, {"radius", Expression("2 mm")}})});
  const Model model = made(document);
  EXPECT_NEAR(volume(model, "a"), 8000 - (4 - pi) * 20, 1e-6);
  EXPECT_NEAR(volume(model, "b"), 8000 - (4 - pi) * 20, 1e-6);
  const Model large = made(document.withReplaced(document.find("r")->with("radius", Expression("25 mm"))));
  EXPECT_THAT(errorOf(large, "r"), HasSubstr("does not fit here"));
  EXPECT_NEAR(volume(large, "a"), 8000, 1e-9);
}

TEST(RoundStep, TakesEdgesAlongThatContinueAPickedOne) {
  const Model model = blendedSlot("round", "radius");
  // Along the rim: the corner that a quarter circle leaves of a square, on both lines and on the turn of the ends.
  const double area = 1 - pi / 4, centroid = (0.5 - pi / 4 * (1 - 4 / (3 * pi))) / area;
  EXPECT_NEAR(volume(model, "p"), (1600 - 40 - 4 * pi) * 5 - area * (20 + 2 * pi * (2 + centroid)), 1e-6);
  EXPECT_THAT(report(model, "b").result->audit.notes,
              ElementsAre("\"p\": 3 edges that continue a picked one tangentially go along"));
}

TEST(DrawingStep, WarnsAboutCurvesThatEncloseNothing) {
  const Model model = made(
      documentOf({drawing("d", {PlanePick::Kind::Standard, "xy", {}},
                          {{"l", "line", {Expression("0"), Expression("0"), Expression("5"), Expression("0")}}})}));
  EXPECT_THAT(report(model, "d").result->audit.warnings,
              ElementsAre("the curves enclose no region; as open lines they can split a body"));
  const Model twice = made(documentOf(
      {drawing("d", {PlanePick::Kind::Standard, "xy", {}}, {circle("a", "0", "0", "1"), circle("a", "5", "0", "1")})}));
  EXPECT_THAT(errorOf(twice, "d"), HasSubstr("the id \"a\" comes twice"));
}

TEST(DrawingStep, ArcsAndLinesMakeASlot) {
  const Model model = made(documentOf(slottedPlate()));
  EXPECT_NEAR(volume(model, "p"), (1600 - 40 - 4 * pi) * 5, 1e-6);
}

/// Distance of a point from the nearest face of a body.
double distanceTo(const Shape& shape, Point point) {
  double nearest = 1e9;
  for (const Face& face : facesOf(shape)) nearest = std::min(nearest, face.distanceTo(point));
  return nearest;
}

TEST(PlacedSolids, BeadsOfTheirGaugesLieOnThem) {
  const PlanePick tilted{PlanePick::Kind::Standard, "xz", {}};
  for (const char* kind : {"block", "cylinder", "cone", "sphere", "torus"}) {
    const Model model = made(documentOf({step("b", kind, {{"plane", tilted}, {"at", point("3", "-7", "11")}})}));
    ASSERT_FALSE(model.failed()) << kind << ": " << errorOf(model, "b");
    const auto& gauges = report(model, "b").result->gauges;
    std::size_t lengths = 0;
    for (const Field* field : allStepKinds().find(kind)->fields())
      lengths += dynamic_cast<const NumberField*>(field) ? 1 : 0;
    EXPECT_EQ(gauges.size(), lengths) << kind;
    for (const Gauge& gauge : gauges) {
      EXPECT_NEAR(length(gauge.along), 1, 1e-12);
      // The height of a cone stands beside it.
      if (kind == std::string("cone") && gauge.field == "height") continue;
      // A ring is measured to the middle of its tube.
      const double off = gauge.field == "ring" ? gauges.back().value : 0;
      EXPECT_NEAR(distanceTo(model.find("b")->shape(), gauge.from + gauge.along * gauge.value), off, 1e-6)
          << kind << ", " << gauge.field;
    }
  }
}

}  // namespace
}  // namespace kervo
