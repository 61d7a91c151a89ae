// Sections: what they take out of sight, of which bodies, and that they change nothing else.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "model/document_edits.h"
#include "model/hatches.h"
#include "model/section_cut.h"
#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace kervo::test;
using testing::HasSubstr;

Document withSection(std::map<std::string, FieldValue> fields, const std::string& id = "section1") {
  return documentOf({block("b", "40", "30", "20"), step(id, "section", std::move(fields))},
                    {{"cut", Expression("12 mm")}});
}

const SectionCut& cutOf(const Model& model, std::size_t place = 0) {
  static const SectionCut none;
  if (place < model.sections.size() && model.sections[place].result && model.sections[place].result->section)
    return *model.sections[place].result->section;
  ADD_FAILURE() << "no section: "
                << (place < model.sections.size() && model.sections[place].error ? model.sections[place].error->what()
                                                                                 : "there is none");
  return none;
}

std::string whyNot(std::map<std::string, FieldValue> fields) {
  const Model model = made(withSection(std::move(fields)));
  return model.sections.front().error ? model.sections.front().error->what() : "no error";
}

TEST(SectionStep, StandsInWhatIsSeenAndMakesNothing) {
  const Document document = withSection({});
  EXPECT_EQ(document.made.steps.size(), 1u);
  ASSERT_EQ(document.seen.sections.size(), 1u);
  const Model model = made(document);
  EXPECT_EQ(model.steps.size(), 1u);
  EXPECT_EQ(model.bodies.size(), 1u);
  EXPECT_FALSE(model.failed());
  EXPECT_EQ(document.find("section1"), document.seen.sections.front().step);
}

TEST(SectionStep, ByAPlaneHidesItsFrontOrItsBack) {
  // The plane xz looks towards the eye of the front view.
  const std::map<std::string, FieldValue> fields{{"offset", Expression("-cut")}};
  const SectionCut front = cutOf(made(withSection(fields)));
  EXPECT_TRUE(front.clip.hides({5, 11, 5}));
  EXPECT_FALSE(front.clip.hides({5, 13, 5}));
  ASSERT_TRUE(front.plane);
  auto flipped = fields;
  flipped["goes"] = text("back");
  const SectionCut back = cutOf(made(withSection(flipped)));
  EXPECT_FALSE(back.clip.hides({5, 11, 5}));
  EXPECT_TRUE(back.clip.hides({5, 13, 5}));
  EXPECT_NEAR(dot(front.plane->normal, back.plane->normal), -1, 1e-12);
}

TEST(SectionStep, IsTurnedThenTilted) {
  const SectionCut cut =
      cutOf(made(withSection({{"plane", PlanePick::standard("xy")}, {"tilt", Expression("30 deg")}})));
  EXPECT_NEAR(cut.plane->normal.z, std::cos(std::acos(-1.0) / 6), 1e-12);
  EXPECT_NEAR(cut.plane->normal.y, -0.5, 1e-12);
  const SectionCut turned =
      cutOf(made(withSection({{"plane", PlanePick::standard("xy")}, {"turn", Expression("90 deg")}})));
  EXPECT_NEAR(turned.plane->normal.x, 1, 1e-12);
}

TEST(SectionStep, ByABoxHidesItsInsideOrAllButThat) {
  std::map<std::string, FieldValue> fields{
      {"with", text("box")},       {"left", Expression("0")},   {"right", Expression("20")}, {"front", Expression("0")},
      {"back", Expression("cut")}, {"bottom", Expression("0")}, {"top", Expression("10")}};
  const Model model = made(withSection(fields));
  EXPECT_TRUE(cutOf(model).clip.hides({10, 6, 5}));
  EXPECT_FALSE(cutOf(model).clip.hides({10, 13, 5}));
  EXPECT_EQ(wallsOf(cutOf(model).clip).size(), 6u);
  EXPECT_EQ(model.sections.front().result->gauges.size(), 6u) << "a handle on each side";
  for (const Gauge& gauge : model.sections.front().result->gauges) {
    const Point end = gauge.from + gauge.along * gauge.value;
    EXPECT_TRUE(std::abs(end.x - 10) < 1e-9 || std::abs(end.y - 6) < 1e-9 || std::abs(end.z - 5) < 1e-9);
  }
  fields["hides"] = text("outside");
  const Model outside = made(withSection(fields));
  EXPECT_FALSE(cutOf(outside).clip.hides({10, 6, 5}));
  EXPECT_TRUE(cutOf(outside).clip.hides({10, 13, 5}));
}

TEST(SectionStep, ScopeHoldsBodiesPiecesAndLayers) {
  const Document document =
      withSection({{"cuts", text("all_but")}, {"bodies", bodies({"b"})}, {"layers", text("walls, roof")}});
  const SectionScope scope = cutOf(made(document)).scope;
  EXPECT_FALSE(scope.holds("b", ""));
  EXPECT_FALSE(scope.holds("b/front", "")) << "a piece that a trial would make";
  EXPECT_FALSE(scope.holds("other", "roof"));
  EXPECT_TRUE(scope.holds("other", "floor"));
  SectionScope only = scope;
  only.which = SectionScope::Which::Only;
  EXPECT_TRUE(only.holds("b/front", ""));
  EXPECT_FALSE(only.holds("other", "floor"));
}

TEST(SectionStep, NamesWhatCannotBe) {
  EXPECT_THAT(whyNot({{"offset", Expression("gone")}}), HasSubstr("gone"));
  EXPECT_THAT(whyNot({{"with", text("box")}, {"left", Expression("60 mm")}}), HasSubstr("no room"));
  EXPECT_THAT(whyNot({{"with", text("body")}}), HasSubstr("one body"));
  EXPECT_THAT(whyNot({{"fill", text("own")}, {"color", text("bluish")}}), HasSubstr("#rrggbb"));
  EXPECT_THAT(whyNot({{"plane", onFace("b", "b:gone")}}), HasSubstr("b:gone"));
  // The model does not mind.
  EXPECT_FALSE(made(withSection({{"offset", Expression("gone")}})).failed());
}

TEST(SectionStep, FollowsTheFaceThatItIsFrom) {
  Document document = withSection({{"plane", onFace("b", "b:top")}, {"offset", Expression("-5 mm")}});
  EXPECT_NEAR(cutOf(made(document)).plane->origin.z, 15, 1e-9);
  document = document.withReplaced(block("b", "40", "30", "50"));
  EXPECT_NEAR(cutOf(made(document)).plane->origin.z, 45, 1e-9);
}

TEST(SectionStep, EditingItTakesAllElseFromTheMemo) {
  Memo memo;
  Progress progress;
  const Document document = withSection({});
  rebuild(document, memo, progress);
  const Document moved =
      document.withReplaced(document.find("section1")->with("offset", FieldValue(Expression("3 mm"))));
  EXPECT_TRUE(moved.made.sameAs(document.made));
  const Model again = rebuild(moved, memo, progress);
  EXPECT_TRUE(again.steps.front().fromMemo);
  EXPECT_FALSE(again.sections.front().fromMemo);
}

TEST(SectionStep, DoesNotUseUpWhatItReads) {
  const Model model = made(documentOf({block("b", "40", "30", "20"), step("p", "plane"),
                                       step("section1", "section", {{"plane", PlanePick::ofStep("p")}})}));
  ASSERT_TRUE(model.guide("p"));
  EXPECT_FALSE(model.guide("p")->used) << "a plane stays in sight";
}

TEST(SectionStep, DimensionsAreRenamedInIt) {
  const Document document = withSection({{"offset", Expression("2 * cut")}});
  EXPECT_THAT(usesOfDimension(document, "cut"), testing::ElementsAre(HasSubstr("Section")));
  const Document renamed = withDimensionRenamed(document, "cut", "depth");
  EXPECT_EQ(renamed.find("section1")->value("offset").as<Expression>().text(), "2 * depth");
  EXPECT_THROW(withoutDimension(document, "cut"), Error);
}

TEST(SectionStep, ChangesOfOneStayApartFromOthers) {
  const Document before = withSection({});
  Document other = before.withStep(step("section2", "section"));
  const SeenHalf from = before.seen;
  SeenHalf to = from;
  to.sections.front().step = std::make_shared<const Step>(before.find("section1")->switched(false));
  // Undone on a document that has got another one since.
  const SeenHalf now = withChange(withChange(other.seen, from, to), to, from);
  EXPECT_EQ(now, other.seen);
  const SeenHalf gone = withChange(other.seen, from, SeenHalf{});
  ASSERT_EQ(gone.sections.size(), 1u);
  EXPECT_EQ(gone.sections.front().step->id(), "section2");
  EXPECT_TRUE(onlyShowOrHide(from, to)) << "as bodies are";
  SeenHalf moved = from;
  moved.sections.front().step =
      std::make_shared<const Step>(before.find("section1")->with("offset", FieldValue(Expression("1 mm"))));
  EXPECT_FALSE(onlyShowOrHide(from, moved));
}

TEST(Hatches, HaveLinesThatCanBeDrawn) {
  EXPECT_GE(hatches().size(), 7u);
  for (const Hatch& hatch : hatches()) {
    EXPECT_EQ(findHatch(hatch.key), &hatch);
    EXPECT_FALSE(hatch.lines.empty());
    EXPECT_LE(hatch.lines.size(), 4u) << "as many as the view draws";
    for (const HatchLines& lines : hatch.lines) {
      EXPECT_GT(lines.spacing, 0);
      EXPECT_GE(lines.dash, 0);
    }
  }
  EXPECT_EQ(findHatch("none"), nullptr);
}

}  // namespace
}  // namespace kervo
