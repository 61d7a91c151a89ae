#include "base/ids.h"

#include <gmock/gmock.h>

#include "base/error.h"

using namespace kervo;

TEST(Ids, AStepIsCalledByLettersDigitsMinusAndUnderscore) {
  EXPECT_EQ(StepId("cut-1_Ä").text(), "cut-1_Ä");
  EXPECT_TRUE(StepId("").empty());
  for (const char* text : {"cut.1", "cut/1", "cut 1", "a:b", "a\"b", "#1", "a\nb", "a\u202Eb", "\xff"})
    EXPECT_THROW(StepId{text}, Error) << text;
  EXPECT_THROW(StepId(std::string("a\0b", 3)), Error);
  EXPECT_THROW(StepId(std::string(201, 'a')), Error);
}

TEST(Ids, ABodyIsCalledByItsStepItsNumberAndItsParts) {
  const BodyId id("import1.2/front/cut3:side:c7");
  EXPECT_EQ(id.step(), "import1");
  EXPECT_EQ(id.root(), "import1.2");
  EXPECT_EQ(BodyId(id.step()), BodyId("import1"));
  EXPECT_EQ(BodyId("block").part("part 2"), "block/part 2");
  EXPECT_EQ(BodyId::broughtIn("import1", 12), "import1.12");
  for (const char* text : {"/front", "a//b", "a/", "a.", "a.b", "a.1.2", "a b", "a/\"", "a/b\n", "a/b\u202E"})
    EXPECT_THROW(BodyId{text}, Error) << text;
  EXPECT_THROW(BodyId("a").part(""), Error);
}

TEST(Ids, PiecesAreOfTheFamilyOfWhatWasDivided) {
  EXPECT_TRUE(BodyId("a").isOfFamily("a"));
  EXPECT_TRUE(BodyId("a/front/left").isOfFamily("a/front"));
  EXPECT_FALSE(BodyId("ab").isOfFamily("a"));
  EXPECT_FALSE(BodyId("a").isOfFamily("a/front"));
}

TEST(Ids, AreComparedWithAnyTextButOnlyMadeOfIds) {
  EXPECT_FALSE(BodyId("a") == "no id: \"");
  EXPECT_FALSE(BodyId::read("no id: \"").has_value());
  EXPECT_EQ(BodyId::read("a.1").value(), "a.1");
}
