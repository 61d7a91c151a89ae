// References to faces and edges that survive changes: sizes, earlier steps, bodies that split.
#include "fields/reference.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "geom/primitives.h"
#include "support/document_builder.h"
#include "support/shapes.h"

namespace kervo {
namespace {

using namespace test;
using testing::HasSubstr;
using testing::IsEmpty;

/// A block with a rounded edge and a cut that starts from its top face and goes 5 mm deep.
std::vector<Step> roundedAndCut() {
  EdgeReference edge{"a", "a:top", "a:left", Point{0, 30, 20}};
  FaceReference top{"a", "a:top", FaceReference::Sample{{50, 30, 20}, {0, 0, 1}, 6000}};
  return {block("a", "width", "60 mm", "height"),
          step("soft", "round", {{"edges", std::vector<EdgeReference>{edge}}, {"radius", Expression("3 mm")}}),
          step("above", "plane", {{"offset", Expression("200 mm")}}),
          drawing("outline", {PlanePick::Kind::OfStep, "above", {}}, {circle("c", "width - 20 mm", "30", "5 mm")}),
          step("pocket", "cut",
               {{"profiles", allOf("outline")},
                {"from", std::string("face")},
                {"from_face", top},
                {"to", std::string("distance")},
                {"depth", Expression("5 mm")}})};
}

double expectedVolume(double width, double height) {
  return width * 60 * height - (9 - 9 * pi / 4) * 60 - 25 * pi * 5;
}

Document withSizes(const std::string& width, const std::string& height) {
  return documentOf(roundedAndCut(), {{"width", Expression(width)}, {"height", Expression(height)}});
}

TEST(References, SurviveChangesOfSizes) {
  for (const auto& [width, height] : {std::pair(100, 20), std::pair(140, 35), std::pair(70, 12)}) {
    const Model model = made(withSizes(std::to_string(width) + " mm", std::to_string(height) + " mm"));
    ASSERT_FALSE(model.failed()) << errorOf(model, "soft") << errorOf(model, "pocket");
    EXPECT_NEAR(volume(model, "a"), expectedVolume(width, height), 1e-6);
    EXPECT_THAT(report(model, "soft").result->audit.warnings, IsEmpty());
    EXPECT_THAT(report(model, "pocket").result->audit.warnings, IsEmpty());
  }
}

TEST(References, SurviveAnAddedEarlierHole) {
  Document document = withSizes("100 mm", "20 mm");
  document = document.withStepAt(1, drawing("extra", onFace("a", "a:top"), {circle("h", "50", "30", "4 mm")}))
                 .withStepAt(2, step("earlier", "cut", {{"profiles", allOf("extra")}, {"stock", bodies({"a"})}}));
  const Model model = made(document);
  ASSERT_FALSE(model.failed());
  EXPECT_NEAR(volume(model, "a"), expectedVolume(100, 20) - 16 * pi * 20, 1e-6);
}

TEST(References, SurviveABodyThatSplitsInTwo) {
  Document document = withSizes("100 mm", "20 mm");
  // Split across the rounded edge: both halves have a part of the edge and of the face.
  document = document.withStepAt(
      1, step("saw", "split", {{"stock", bodies({"a"})}, {"cutters", cutBy("xz")}, {"offset", Expression("-20 mm")}}));
  const Model model = made(document);
  ASSERT_FALSE(model.failed()) << errorOf(model, "soft") << errorOf(model, "pocket");
  EXPECT_NEAR(volume(model, "a/front") + volume(model, "a/back"), expectedVolume(100, 20), 1e-6);
  EXPECT_NEAR(volume(model, "a/front"), 100 * 20 * 20 - (9 - 9 * pi / 4) * 20, 1e-6);
}

TEST(References, SurviveASlotThatDividesTheEdge) {
  Document document = withSizes("100 mm", "20 mm");
  document = document.withStepAt(1, drawing("notch", onFace("a", "a:top"), {rectangle("r", "-5", "20", "10", "10")}))
                 .withStepAt(2, step("slot", "cut", {{"profiles", allOf("notch")}, {"stock", bodies({"a"})}}));
  const Model model = made(document);
  ASSERT_FALSE(model.failed()) << errorOf(model, "soft");
  EXPECT_NEAR(volume(model, "a"), expectedVolume(100, 20) - 5 * 10 * 20 + (9 - 9 * pi / 4) * 10, 1e-6);
}

TEST(References, ALostEdgeSaysWhatToPickAgain) {
  Document document = withSizes("100 mm", "20 mm");
  document = document.withStepAt(1, drawing("corner", onFace("a", "a:top"), {rectangle("r", "-1", "-1", "11", "62")}))
                 .withStepAt(2, step("away", "cut", {{"profiles", allOf("corner")}, {"stock", bodies({"a"})}}));
  const Model model = made(document);
  EXPECT_THAT(errorOf(model, "soft"), HasSubstr("the edge \"a:top | a:left\" is no longer there"));
  EXPECT_THAT(errorOf(model, "soft"), HasSubstr("Pick the edge again"));
  EXPECT_EQ(report(model, "pocket").state, StepState::Made) << "the face is still there";
}

TEST(References, AFaceWhoseNameIsGoneIsFoundByPositionWithAWarning) {
  // The reference was made when the top belonged to another step; in its place lies this block's.
  FaceReference old{"a", "former:top", FaceReference::Sample{{50, 30, 20}, {0, 0, 1}, 6000}};
  Document document = documentOf(
      {block("a", "100", "60", "20"),
       step("p", "plane", {{"from", PlanePick{PlanePick::Kind::OnFace, "", old}}, {"offset", Expression("1 mm")}})});
  const Model model = made(document);
  ASSERT_FALSE(model.failed());
  ASSERT_EQ(report(model, "p").result->audit.warnings.size(), 1u);
  EXPECT_THAT(report(model, "p").result->audit.warnings[0], HasSubstr("found by its position only"));
  EXPECT_DOUBLE_EQ(std::get<Plane>(*report(model, "p").result->datum()).origin.z, 21);
  // Without anything there it is lost, not guessed.
  const Model moved = made(document.withReplaced(block("a", "100", "60", "25")));
  EXPECT_THAT(errorOf(moved, "p"), HasSubstr("Pick the face again"));
}

TEST(References, FacesOfOneNameThatLieApartNeedTheSample) {
  // A pocket drawn twice at different depths gives two floors named alike.
  const Shape low = makeBlock("t", {}, 10, 10, 5),
              high = makeBlock("t", Plane::through({20, 0, 0}, {0, 0, 1}), 10, 10, 8);
  const std::vector<SearchedBody> searched{{"x/1", low}, {"x/2", high}};
  FaceReference reference{"x", "t:top", std::nullopt};
  EXPECT_THROW(resolve(reference, searched), Error);
  reference.sample = FaceReference::Sample{{25, 5, 8}, {0, 0, 1}, 100};
  const FoundFace found = resolve(reference, searched);
  EXPECT_EQ(found.body, "x/2");
  EXPECT_EQ(found.how, Found::ByPosition);
  // On one surface any of them will do, and the name is enough.
  const std::vector<SearchedBody> level{{"x/1", low},
                                        {"x/2", makeBlock("t", Plane::through({20, 0, 0}, {0, 0, 1}), 12, 10, 5)}};
  EXPECT_EQ(resolve({"x", "t:top", std::nullopt}, level).how, Found::ByName);
}

TEST(References, APickResolvesToWhatWasPicked) {
  const Shape shape = makeBlock("b", {}, 10, 20, 30);
  const std::vector<SearchedBody> searched{{"b", shape}};
  for (const Face& face : facesOf(shape)) {
    const FoundFace found = resolve(referenceTo("b", face), searched);
    EXPECT_EQ(found.how, Found::ByName);
    EXPECT_LT(found.face.distanceTo(face.samplePoint()), 1e-9);
  }
  for (const Edge& edge : edgesOf(shape)) {
    const FoundEdges found = resolve(referenceTo("b", edge), searched);
    ASSERT_EQ(found.edges.size(), 1u);
    EXPECT_LT(found.edges[0].second.distanceTo(edge.middle()), 1e-9);
  }
  EXPECT_EQ(faceNamed(shape, "b:top").area(), 200);
}

TEST(PointReferences, AreFoundByTheirFacesWhenSizesChange) {
  const auto bodyOf = [](double width) {
    return std::vector<SearchedBody>{
        {"a", made(documentOf({block("a", std::to_string(width), "20", "30")})).bodies[0].shape()}};
  };
  const std::vector<SearchedBody> small = bodyOf(10);
  for (const Corner& corner : cornersOf(small[0].shape)) {
    ASSERT_EQ(corner.origins.size(), 3u);
    const FoundPoint found = resolve(referenceTo("a", corner), bodyOf(50));
    EXPECT_EQ(found.how, Found::ByName);
    EXPECT_NEAR(found.point.x, corner.point.x > 5 ? 50 : 0, 1e-9);
    EXPECT_NEAR(found.point.y, corner.point.y, 1e-9);
  }
}

TEST(PointReferences, AreNeverGuessed) {
  const std::vector<SearchedBody> body{{"a", made(documentOf({block("a", "10", "20", "30")})).bodies[0].shape()}};
  // Between two faces lie two corners: the sample decides only if it is clear.
  EXPECT_THROW(resolve(PointReference{"a", {"a:front", "a:left"}, std::nullopt}, body), Error);
  EXPECT_NEAR(resolve(PointReference{"a", {"a:front", "a:left"}, Point{0, 0, 28}}, body).point.z, 30, 1e-9);
  EXPECT_THROW(resolve(PointReference{"a", {"a:front", "a:left"}, Point{0, 0, 15}}, body), Error);
  EXPECT_THROW(resolve(PointReference{"a", {"a:nose"}, std::nullopt}, body), Error);
  EXPECT_EQ(resolve(PointReference{"a", {"a:nose"}, Point{10, 20, 30}}, body).how, Found::ByPosition);
}

}  // namespace
}  // namespace kervo
