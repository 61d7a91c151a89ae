// Chamfers: one step on several bodies, chains of edges, and what is refused.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>

#include "geom/measure/mass_properties.h"
#include "support/slotted_plate.h"

namespace kervo {
namespace {

using namespace kervo::test;
using testing::ElementsAre;
using testing::HasSubstr;
constexpr double pi = std::numbers::pi;

TEST(ChamferStep, CutsEdgesOfSeveralBodiesAndRefusesWhatDoesNotFit) {
  const std::vector<EdgeReference> edges{{"a", "a:top", "a:left", {}}, {"b", "b:top", "b:left", {}}};
  const Document document = documentOf({block("a", "20", "20", "20"), block("b", "20", "20", "20", {"50", "0", "0"}),
                                        step("c", "chamfer", {{"edges", edges}, {"distance", Expression("2 mm")}})});
  const Model model = made(document);
  EXPECT_NEAR(volume(model, "a"), 8000 - 2 * 20, 1e-9);
  EXPECT_NEAR(volume(model, "b"), 8000 - 2 * 20, 1e-9);
  EXPECT_NEAR(report(model, "c").volumeChange, -80, 1e-9);
  const Model large = made(document.withReplaced(document.find("c")->with("distance", Expression("25 mm"))));
  EXPECT_THAT(errorOf(large, "c"), HasSubstr("a chamfer of 25 mm does not fit here"));
  EXPECT_NEAR(volume(large, "a"), 8000, 1e-9);
  const Model none = made(document.withReplaced(document.find("c")->with("edges", std::vector<EdgeReference>{})));
  EXPECT_THAT(errorOf(none, "c"), HasSubstr("no edge is chosen"));
  const Model zero = made(document.withReplaced(document.find("c")->with("distance", Expression("0"))));
  EXPECT_THAT(errorOf(zero, "c"), HasSubstr("field Distance: the value is 0 mm"));
}

TEST(ChamferStep, TakesEdgesAlongThatContinueAPickedOne) {
  const Model model = blendedSlot("chamfer", "distance");
  // Along the rim: half a square millimetre on both lines, and on the turn of the ends by its centroid.
  EXPECT_NEAR(volume(model, "p"), (1600 - 40 - 4 * pi) * 5 - 0.5 * (20 + 2 * pi * (2 + 1.0 / 3)), 1e-6);
  EXPECT_THAT(report(model, "b").result->audit.notes,
              ElementsAre("\"p\": 3 edges that continue a picked one tangentially go along"));
}

TEST(ChamferStep, EachEdgeCanHaveItsOwnSize) {
  // Three edges that do not meet: the third has none of its own.
  const std::vector<EdgeReference> edges{
      {"a", "a:top", "a:left", {}}, {"a", "a:bottom", "a:right", {}}, {"a", "a:bottom", "a:left", {}}};
  const auto with = [&](const char* kind, const char* choice, const char* usual, std::vector<const char*> sizes) {
    Sizes each;
    for (const char* size : sizes) each.each.emplace_back(size);
    return made(documentOf({block("a", "20", "20", "20"), step("c", kind,
                                                               {{"edges", edges},
                                                                {choice, std::string("one for each edge")},
                                                                {usual, Expression("1 mm")},
                                                                {"each", each}})}));
  };
  const Model rounds = with("round", "radii", "radius", {"3 mm", "5 mm"});
  ASSERT_EQ(errorOf(rounds, "c"), "no error");
  EXPECT_NEAR(volume(rounds, "a"), 8000 - 20 * (1 - pi / 4) * (9 + 25 + 1), 1e-7);
  const Model chamfers = with("chamfer", "sizes", "distance", {"3 mm", "5 mm", "2 mm"});
  ASSERT_EQ(errorOf(chamfers, "c"), "no error");
  EXPECT_NEAR(volume(chamfers, "a"), 8000 - 20 * 0.5 * (9 + 25 + 4), 1e-9);
  EXPECT_THAT(errorOf(with("round", "radii", "radius", {"1 mm", "1 mm", "1 mm", "1 mm"}), "c"),
              HasSubstr("4 sizes are given for 3 edges"));
  EXPECT_THAT(errorOf(with("round", "radii", "radius", {"-1 mm"}), "c"), HasSubstr("field For each"));
  EXPECT_THAT(errorOf(with("chamfer", "sizes", "distance", {"19.5 mm", "15 mm"}), "c"), HasSubstr("does not fit here"));
}

TEST(ChamferStep, EdgesThatContinueEachOtherHaveOneSize) {
  std::vector<Step> steps = slottedPlate();
  const std::vector<EdgeReference> edges{{"p", "p:top", "slot:side:low", {}}, {"p", "p:top", "slot:side:right", {}}};
  const auto with = [&](const char* second) {
    std::vector<Step> all = steps;
    all.push_back(step("b", "round",
                       {{"edges", edges},
                        {"radii", std::string("one for each edge")},
                        {"each", Sizes{{Expression("1 mm"), Expression(second)}}}}));
    return made(documentOf(all));
  };
  EXPECT_THAT(errorOf(with("2 mm"), "b"), HasSubstr("two edges that continue each other cannot have different sizes"));
  EXPECT_EQ(errorOf(with("1 mm"), "b"), "no error");
}

TEST(ChamferStep, ItsFacesKeepTheirNamesWhenTheBodyChanges) {
  const auto sizedBy = [](const char* width) {
    return made(documentOf(
        {block("a", width, "20", "20"),
         step("c", "chamfer",
              {{"edges", std::vector<EdgeReference>{{"a", "a:top", "a:left", {}}}}, {"distance", Expression("2 mm")}}),
         step("s", "lift", {{"faces", std::vector{FaceReference{"a", "c:chamfer:(a:left|a:top)", {}}}}})}));
  };
  for (const char* width : {"20", "90"}) {
    const Model model = sizedBy(width);
    ASSERT_FALSE(model.failed()) << errorOf(model, "s");
    EXPECT_NEAR(model.find("s")->shape().area(), 20 * 2 * std::numbers::sqrt2, 1e-9);
    EXPECT_THAT(report(model, "s").result->audit.warnings, ElementsAre());
  }
}

TEST(ChamferStep, BeginsWithTheEdgesOfWhatIsSelected) {
  const EdgeReference edge{"a", "a:top", "a:left", {}}, other{"a", "a:top", "a:right", {}};
  Selected selected;
  const StepKind& kind = *allStepKinds().find("chamfer");
  EXPECT_FALSE(kind.offered(selected));
  selected.picks = {{.what = Picked::What::Edge, .body = "a", .edges = {edge}},
                    {.what = Picked::What::Face, .body = "a", .edges = {edge, other}}};
  EXPECT_EQ(kind.offered(selected), "Chamfer edges …");
  Start start;
  kind.startFrom(selected, start);
  EXPECT_THAT(start.fields.at("edges").as<std::vector<EdgeReference>>(), ElementsAre(edge, other));
}

std::map<std::string, FieldValue> aroundTheTop(std::map<std::string, FieldValue> more) {
  more.emplace("around", std::vector<FaceReference>{{"a", "a:top", {}}});
  return more;
}

TEST(ChamferStep, TakesTwoDistancesAroundAFace) {
  // The first distance is on the face that the edges share. A pyramid's frustum is left above.
  const auto left = [](double onTop, double onSides) {
    const double w = 30 - 2 * onTop, d = 20 - 2 * onTop;
    const double whole = 600, top = w * d, middle = (30 - onTop) * (20 - onTop);
    return 600 * (10 - onSides) + onSides / 6 * (whole + 4 * middle + top);
  };
  const Document document =
      documentOf({block("a", "30", "20", "10"), step("c", "chamfer",
                                                     aroundTheTop({{"sizes", text("two distances")},
                                                                   {"distance", expression("2 mm")},
                                                                   {"second", expression("3 mm")}}))});
  EXPECT_NEAR(volume(made(document), "a"), left(2, 3), 1e-9);
  const Document flipped = document.withReplaced(document.find("c")->with("flip", true));
  EXPECT_NEAR(volume(made(flipped), "a"), left(3, 2), 1e-9);
  const Document angled =
      documentOf({block("a", "30", "20", "10"), step("c", "chamfer",
                                                     aroundTheTop({{"sizes", text("distance and angle")},
                                                                   {"distance", expression("2 mm")},
                                                                   {"angle", expression("30 deg")}}))});
  EXPECT_NEAR(volume(made(angled), "a"), left(2, 2 / std::sqrt(3)), 1e-9);
  const Document steep = angled.withReplaced(angled.find("c")->with("angle", expression("90 deg")));
  EXPECT_THAT(errorOf(made(steep), "c"), HasSubstr("not between 0° and 90°"));
}

TEST(ChamferStep, FollowsTheRimsOfACut) {
  // Every hole that the cut makes is chamfered at both ends, however many there are.
  for (const auto& holes : {std::vector<std::string>{"10"}, {"10", "30", "50"}}) {
    std::vector<DrawnCurve> circles;
    for (const std::string& u : holes) circles.push_back(circle("c" + u, u, "10", "4"));
    const Model model =
        made(documentOf({block("p", "60", "20", "10"), drawing("d", onFace("p", "p:top"), circles),
                         step("cut1", "cut", {{"stock", bodies({"p"})}, {"profiles", allOf("d")}}),
                         step("c", "chamfer", {{"rims_of", StepPick{"cut1"}}, {"distance", expression("1 mm")}})}));
    ASSERT_FALSE(model.failed()) << errorOf(model, "c");
    // A ring of triangles about the hole, by its centroid.
    const double ring = 0.5 * 2 * pi * (4 + 1.0 / 3);
    EXPECT_NEAR(volume(model, "p"), 12000 - static_cast<double>(holes.size()) * (160 * pi + 2 * ring), 1e-6);
  }
  const Model none =
      made(documentOf({block("p", "60", "20", "10"), block("q", "5", "5", "5", {"100", "0", "0"}),
                       step("c", "chamfer", {{"rims_of", StepPick{"q"}}, {"distance", expression("1 mm")}})}));
  EXPECT_THAT(errorOf(none, "c"), HasSubstr("no face that \"q\" made meets another one"));
}

TEST(RoundStep, ChangesItsRadiusAlongTheEdge) {
  Progress progress;
  std::vector<double> middles;
  const std::vector<EdgeReference> edge{{"a", "a:top", "a:left", {}}};
  for (const bool flip : {false, true}) {
    const Model model = made(documentOf({block("a", "20", "30", "10"), step("r", "round",
                                                                            {{"edges", edge},
                                                                             {"radii", text("changing along the edge")},
                                                                             {"radius", expression("2 mm")},
                                                                             {"end", expression("5 mm")},
                                                                             {"flip", flip}})}));
    ASSERT_FALSE(model.failed()) << errorOf(model, "r");
    // (1 − π/4) of the mean square of a radius that changes evenly.
    const double removed = (1 - pi / 4) * 30 * (4 + 10 + 25) / 3;
    EXPECT_NEAR(volume(model, "a"), 6000 - removed, 0.02 * removed);
    middles.push_back(massProperties(model.find("a")->shape(), progress).centroid.y);
  }
  // The thick end changes places: the middle moves as much to one side as to the other.
  EXPECT_NEAR(middles[0] + middles[1], 30, 1e-6);
  EXPECT_GT(std::abs(middles[0] - 15), 0.01);
}

}  // namespace
}  // namespace kervo
