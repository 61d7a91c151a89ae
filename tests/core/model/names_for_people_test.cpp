#include "model/names_for_people.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "model/document_edits.h"
#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;
using testing::ElementsAre;
using testing::UnorderedElementsAre;

/// A lid and a tray that overlap by 4, and a foot apart.
Document crate() {
  return documentOf({block("b1", "10", "10", "10"), block("b2", "10", "10", "10", {"6", "0", "0"}),
                     block("b3", "10", "10", "10", {"50", "0", "0"})})
      .withStepNamed("b1", "Lid")
      .withStepNamed("b2", "Tray")
      .withStepNamed("b3", "Foot");
}

Model with(const Document& document, const Step& last) {
  return made(document.withStep(last));
}

std::vector<std::string> bodyNames(const Model& model) {
  std::vector<std::string> names;
  for (const Body& body : model.bodies) names.push_back(body.name);
  return names;
}

TEST(NamesForPeople, StandForIdsInQuotes) {
  const Model model = made(crate());
  EXPECT_EQ(withNames("\"b1\" does not meet \"b2:top\"", model), "\"Lid\" does not meet \"top of Tray\"");
  EXPECT_EQ(withNames("with \"b1\" and \"b3\"", model, Quotes::Drop), "with Lid and Foot");
  EXPECT_EQ(faceName("b1:side:c7", model), "side c7 of Lid");
  EXPECT_EQ(edgeName({"", "b1:top", "b1:left", {}}, model), "top | left of Lid");
  EXPECT_EQ(withNames("the edge \"b1:top | b1:left\" is gone", model), "the edge \"top | left of Lid\" is gone");
  EXPECT_EQ(withNames("\"b1:top | nobody:left\"", model), "\"b1:top | nobody:left\"");
}

TEST(NamesForPeople, LeaveOtherQuotesAlone) {
  const Model model = made(crate());
  for (const char* text : {"", "b1 without quotes", "a \"b1", "\"\"", "\"gone\" and \"gone:top\"", "\"10:24\""})
    EXPECT_EQ(withNames(text, model), text);
  // What closes one quote may open the next.
  EXPECT_EQ(withNames("\"x\"b1\"y\"", model), "\"x\"Lid\"y\"");
}

TEST(NamesForPeople, NameAPieceByTheBodyThatTheReferenceLooksIn) {
  const Model model =
      with(crate(),
           step("s", "split", {{"stock", bodies({"b1"})}, {"cutters", cutBy("yz")}, {"offset", Expression("3 mm")}}));
  ASSERT_FALSE(model.failed()) << errorOf(model, "s");
  ASSERT_THAT(bodyNames(model), UnorderedElementsAre("Lid, front", "Lid, back", "Tray", "Foot"));
  EXPECT_EQ(faceName(FaceReference{"b1/back", "b1:top", {}}, model), "top of Lid, back");
  EXPECT_EQ(faceName(FaceReference{"", "b1:top", {}}, model), "top of Lid");
  EXPECT_EQ(faceName(FaceReference{"b1", "b1:top", {}}, model), "top of Lid") << "a body that was used up has its name";
}

TEST(NamesForPeople, AreInTheNamesOfRegionsAndOfPartsOfAUnion) {
  const Model regions =
      with(crate(), step("k", "combine", {{"verb", text("partition")}, {"stock", bodies({"b1", "b2"})}}));
  EXPECT_THAT(bodyNames(regions), UnorderedElementsAre("Lid", "Lid, with Tray", "Tray", "Foot"));
  const Model joined =
      with(crate(), step("k", "combine", {{"verb", text("union")}, {"stock", bodies({"b1", "b2", "b3"})}}));
  EXPECT_THAT(bodyNames(joined), UnorderedElementsAre("Lid, back", "Lid, back of Foot"));
}

TEST(NamesForPeople, FollowARenamedBody) {
  Document document = crate();
  document = document.withStep(step("k", "combine", {{"verb", text("partition")}, {"stock", bodies({"b1", "b2"})}}));
  document.seen.bodies["b2"].name = "Drip tray";
  const Model model = made(document);
  EXPECT_THAT(bodyNames(model), UnorderedElementsAre("Lid", "Lid, with Drip tray", "Drip tray", "Foot"));
  EXPECT_EQ(faceName("b2:top", model), "top of Drip tray");
}

}  // namespace
}  // namespace kervo
