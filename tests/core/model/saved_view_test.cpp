#include "model/saved_view.h"

#include <gtest/gtest.h>

#include "base/error.h"
#include "model/document_edits.h"
#include "model/shown.h"
#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace kervo::test;

Document hut() {
  Document document = documentOf({block("wall", "40", "30", "20"), block("roof", "40", "30", "5", {"0", "0", "20"}),
                                  step("section1", "section"), step("section2", "section")});
  BodyLook hidden;
  hidden.visible = false;
  hidden.color = Color{1, 0, 0};
  return document.withLook("roof", hidden).withReplaced(document.find("section2")->switched(false));
}

TEST(SavedView, KeepsWhatIsShownAndComesBackToIt) {
  const Document inside = hut();
  const SavedView kept = viewOf(inside, {{1, 2, 3}, {0, 0, 1}, {0, 1, 0}, 50, true}, "clear", "Inside");
  EXPECT_EQ(kept.id, "view1");
  EXPECT_EQ(kept.visible, (std::map<BodyId, bool>{{"roof", false}}));
  EXPECT_EQ(kept.sections, std::vector<StepId>{"section1"});
  // Everything is changed, and looked back at.
  Document other = withView(inside, kept);
  other = other.withLook("roof", {}).withLook("wall", {.visible = false});
  other = other.withReplaced(other.find("section1")->switched(false));
  other = other.withReplaced(other.find("section2")->switched(true)).withStep(step("section3", "section"));
  const Document back = asSeen(other, kept);
  EXPECT_FALSE(back.lookOf("wall").visible.has_value());
  EXPECT_EQ(back.lookOf("roof").visible, false);
  EXPECT_TRUE(back.find("section1")->on());
  EXPECT_FALSE(back.find("section2")->on());
  EXPECT_FALSE(back.find("section3")->on()) << "it came later";
  EXPECT_TRUE(back.made.sameAs(other.made));
  EXPECT_TRUE(onlyShowOrHide(other.seen, back.seen)) << "looking is not undone";
  // Colours are no part of a view.
  const Document red = asSeen(inside, kept);
  EXPECT_EQ(red.lookOf("roof").color, (Color{1, 0, 0}));
}

TEST(SavedView, KeepsWhatIsFaded) {
  Document pale = hut().withLook("wall", {.faded = true});
  const SavedView kept = viewOf(pale, {}, "shaded", "Pale");
  EXPECT_EQ(kept.faded, (std::map<BodyId, bool>{{"wall", true}}));
  const Document plain = pale.withLook("wall", {});
  EXPECT_TRUE(onlyShowOrHide(pale.seen, plain.seen)) << "fading is not undone";
  EXPECT_EQ(asSeen(plain, kept).lookOf("wall").faded, true);
  EXPECT_FALSE(asSeen(pale, viewOf(plain, {}, "shaded", "Plain")).lookOf("wall").faded.has_value());
  // Pieces of a faded body are faded.
  const Document cut =
      documentOf(
          {block("a", "10", "10", "10"),
           step("s", "split", {{"stock", bodies({"a"})}, {"cutters", cutBy("xy")}, {"offset", Expression("5 mm")}})})
          .withLook("a", {.faded = true});
  for (const Body& body : shown(made(cut), cut.seen).bodies) EXPECT_TRUE(body.isPale()) << body.id.text();
}

TEST(SavedView, KeepsHowLevelsAreShown) {
  Document document = withLevel(withLevel(hut(), {"Ground", Expression("0 mm")}), {"Roof", Expression("3 m")});
  document = withWorkingLevel(document, "Roof");
  document.seen.levels.show = LevelSight::Show::Below;
  document = withView(document, viewOf(document, {}, "shaded", "Below the roof"));
  Document all = withWorkingLevel(document, "Ground");
  all.seen.levels.show = LevelSight::Show::All;
  all = withView(all, viewOf(all, {}, "shaded", "All"));
  const Document below = asSeen(all, all.seen.views[0]);
  EXPECT_EQ(below.seen.levels, document.seen.levels);
  EXPECT_TRUE(onlyShowOrHide(all.seen, below.seen));
  const Document again = asSeen(below, all.seen.views[1]);
  EXPECT_EQ(again.seen.levels.show, LevelSight::Show::All);
  EXPECT_EQ(again.seen.levels.working, "Roof") << "all of them: where one works stays";
  EXPECT_EQ(withLevelRenamed(all, "Roof", "Top").seen.views[0].levels.working, "Top");
  EXPECT_EQ(withoutLevel(all, "Roof").seen.views[0].levels, LevelSight());
}

TEST(SavedView, AreAddedReplacedMovedAndRemoved) {
  Document document = hut();
  for (const char* name : {"Street", "Plan", "Stair"})
    document = withView(document, viewOf(document, {}, "shaded", name));
  const auto names = [&] {
    std::string all;
    for (const SavedView& view : document.seen.views) all += view.name + " ";
    return all;
  };
  EXPECT_EQ(names(), "Street Plan Stair ");
  document = withViewMoved(document, "view3", 0);
  EXPECT_EQ(names(), "Stair Street Plan ");
  SavedView changed = document.seen.views[1];
  changed.name = "Lane";
  document = withView(document, changed);
  EXPECT_EQ(names(), "Stair Lane Plan ");
  document = withoutView(document, "view2");
  EXPECT_EQ(names(), "Stair Lane ");
  EXPECT_THROW(withoutView(document, "view2"), Error);
}

TEST(SavedView, EditsAreUndoneApartFromOthers) {
  const Document before = hut();
  const Document added = withView(before, viewOf(before, {}, "shaded", "Street"));
  const Document more = withView(added, viewOf(added, {}, "lines", "Plan"));
  EXPECT_FALSE(onlyShowOrHide(before.seen, added.seen));
  // The first one is undone after the second one was made.
  const SeenHalf left = withChange(more.seen, added.seen, before.seen);
  ASSERT_EQ(left.views.size(), 1u);
  EXPECT_EQ(left.views[0].name, "Plan");
  const Document swapped = withViewMoved(more, "view2", 0);
  EXPECT_EQ(withChange(more.seen, more.seen, swapped.seen), swapped.seen);
  EXPECT_EQ(withChange(swapped.seen, swapped.seen, more.seen), more.seen);
}

}  // namespace
}  // namespace kervo
