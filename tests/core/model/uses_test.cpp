// What depends on what: by references, by names in expressions, and far along both.
#include "model/uses.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;
using testing::ElementsAre;
using testing::IsEmpty;

UsesNode a(const std::string& id) {
  return {UsesNode::What::Step, id};
}
UsesNode dimension(const std::string& name) {
  return {UsesNode::What::Dimension, name};
}

Document clamp() {
  return documentOf({block("b", "wide", "30", "20"), block("other", "5", "5", "5", {"90", "0", "0"}),
                     drawing("d", onFace("b", "b:top"), {circle("c", "10", "10", "bore / 2")}),
                     step("cut", "cut", {{"stock", bodies({"b"})}, {"profiles", allOf("d")}}),
                     step("s", "slices", {{"spacing", Expression("gap")}})},
                    {{"wide", Expression("40 mm")}, {"bore", Expression("wide / 8")}, {"gap", Expression("3 mm")}});
}

TEST(UsesTest, FollowsReferencesAndNames) {
  const Uses uses = Uses::of(clamp());
  EXPECT_THAT(uses.namedIn(a("b")), ElementsAre(a("d"), a("cut")));
  EXPECT_THAT(uses.namedIn(a("d")), ElementsAre(a("cut")));
  EXPECT_THAT(uses.namedIn(a("other")), IsEmpty());
  EXPECT_THAT(uses.namedIn(dimension("wide")), ElementsAre(a("b"), dimension("bore")));
  EXPECT_THAT(uses.namedIn(dimension("gap")), ElementsAre(a("s")));
}

TEST(UsesTest, GoesAllTheWayInBothDirections) {
  const Uses uses = Uses::of(clamp());
  EXPECT_THAT(uses.dependents(dimension("wide")), ElementsAre(a("b"), a("d"), a("cut"), dimension("bore")));
  EXPECT_THAT(uses.sources(a("cut")), ElementsAre(a("b"), a("d"), dimension("wide"), dimension("bore")));
  EXPECT_THAT(uses.sources(dimension("wide")), IsEmpty());
  EXPECT_THAT(uses.dependents(a("nobody")), IsEmpty());
}

TEST(UsesTest, TellsApartWhoNamesAStepAndWhoJustMeetsIt) {
  const Uses uses = Uses::of(clamp());
  EXPECT_THAT(uses.worksOn(a("other")), ElementsAre(a("s")));
  EXPECT_THAT(uses.worksOn(a("d")), IsEmpty()) << "a drawing is no body";
}

TEST(UsesTest, SectionsAreUsersToo) {
  const Document document =
      clamp().withStep(step("x", "section", {{"plane", onFace("b", "b:top")}, {"offset", Expression("-gap")}}));
  const Uses uses = Uses::of(document);
  EXPECT_THAT(uses.namedIn(a("b")), ElementsAre(a("d"), a("cut"), a("x")));
  EXPECT_THAT(uses.namedIn(dimension("gap")), ElementsAre(a("s"), a("x")));
}

}  // namespace
}  // namespace kervo
