// Chamfers: one step on several bodies, chains of edges, and what is refused.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>

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

}  // namespace
}  // namespace kervo
