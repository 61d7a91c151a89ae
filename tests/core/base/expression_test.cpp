#include "base/expression.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <map>
#include <numbers>

#include "base/error.h"

namespace kervo {
namespace {

using testing::ElementsAre;
using testing::HasSubstr;

Quantity valueOf(const std::string& text, const std::map<std::string, Quantity>& names = {}) {
  return Expression(text).evaluate([&](const std::string& name) {
    const auto found = names.find(name);
    if (found == names.end()) throw Error("unknown " + name);
    return found->second;
  });
}

std::string errorOf(const std::string& text) {
  try {
    valueOf(text);
  } catch (const Error& error) {
    return error.what();
  }
  return "no error";
}

TEST(Expression, UnitsGiveMillimetresAndRadians) {
  EXPECT_DOUBLE_EQ(valueOf("2 mm").value, 2);
  EXPECT_DOUBLE_EQ(valueOf("2cm").value, 20);
  EXPECT_DOUBLE_EQ(valueOf("1.5 m").value, 1500);
  EXPECT_DOUBLE_EQ(valueOf("1 in").value, 25.4);
  EXPECT_NEAR(valueOf("1 ft - 12 in").value, 0, 1e-12);
  EXPECT_DOUBLE_EQ(valueOf("180 deg").value, std::numbers::pi);
  EXPECT_EQ(valueOf("3 rad").dimension, angleDimension);
  EXPECT_EQ(valueOf("3 in").dimension, lengthDimension);
  EXPECT_EQ(valueOf("3").dimension, plainNumber);
}

TEST(Expression, FollowsPrecedenceAndBrackets) {
  EXPECT_DOUBLE_EQ(valueOf("2 + 3 * 4 ^ 2 / 8").value, 8);
  EXPECT_DOUBLE_EQ(valueOf("2 ^ 3 ^ 2").value, 512);
  EXPECT_DOUBLE_EQ(valueOf("-(2 mm - 5 mm) * 2").value, 6);
  EXPECT_DOUBLE_EQ(valueOf("10 - 4 - 3").value, 3);
  EXPECT_DOUBLE_EQ(valueOf("2e3 mm + .5 mm").value, 2000.5);
}

TEST(Expression, CarriesDimensionsThroughProducts) {
  EXPECT_EQ(valueOf("2 mm * 3 mm").dimension, (Dimensionality{2, 0}));
  EXPECT_EQ(valueOf("6 mm^3 / 2 mm").dimension, (Dimensionality{2, 0}));
  EXPECT_EQ(valueOf("(2 mm)^3").dimension, (Dimensionality{3, 0}));
  EXPECT_EQ(valueOf("6 mm / (2 mm)").dimension, plainNumber);
  EXPECT_EQ(valueOf("sqrt((3 mm)^2 + (4 mm)^2)").dimension, lengthDimension);
  EXPECT_DOUBLE_EQ(valueOf("sqrt((3 mm)^2 + (4 mm)^2)").value, 5);
}

TEST(Expression, UsesFunctionsWithUnits) {
  EXPECT_NEAR(valueOf("10 mm * sin(30 deg)").value, 5, 1e-12);
  EXPECT_NEAR(valueOf("atan2(1 mm, 1 mm)").value, std::numbers::pi / 4, 1e-12);
  EXPECT_DOUBLE_EQ(valueOf("max(2 mm, 1 cm, 5 mm)").value, 10);
  EXPECT_DOUBLE_EQ(valueOf("round(7.6)").value, 8);
  EXPECT_DOUBLE_EQ(valueOf("2 * pi").value, 2 * std::numbers::pi);
}

TEST(Expression, ListsTheNamesItUses) {
  const Expression expression("wall * 2 + pi * (gap - wall) + sin(tilt)");
  EXPECT_THAT(expression.names(), ElementsAre("wall", "gap", "tilt"));
  EXPECT_DOUBLE_EQ(valueOf("wall * 2 + 0.5 mm", {{"wall", {3, lengthDimension}}}).value, 6.5);
  EXPECT_DOUBLE_EQ(valueOf("a * pi / pi + b", {{"a", {3, plainNumber}}, {"b", {4, plainNumber}}}).value, 7);
}

TEST(Expression, AcceptsNamesOfAnyLanguage) {
  EXPECT_DOUBLE_EQ(valueOf("höhe / 2", {{"höhe", {3, lengthDimension}}}).value, 1.5);
}

TEST(Expression, RefusesUnitsThatDoNotGoTogether) {
  EXPECT_THAT(errorOf("2 mm + 3 deg"), HasSubstr("cannot add a length and an angle"));
  EXPECT_THAT(errorOf("2 mm - 3"), HasSubstr("cannot subtract a length and a plain number"));
  EXPECT_THAT(errorOf("sin(3 mm)"), HasSubstr("needs an angle"));
  EXPECT_THAT(errorOf("(2 mm) mm"), HasSubstr("already a length"));
  EXPECT_THAT(errorOf("sqrt(2 mm)"), HasSubstr("square root of a length"));
  EXPECT_THAT(errorOf("2 ^ (1 mm)"), HasSubstr("exponent"));
  EXPECT_THAT(errorOf("max(1 mm, 2)"), HasSubstr("cannot compare"));
}

TEST(Expression, NamesWhatCannotBeComputed) {
  EXPECT_THAT(errorOf("1 / 0"), HasSubstr("division by zero"));
  EXPECT_THAT(errorOf("0 ^ -1"), HasSubstr("division by zero"));
  EXPECT_THAT(errorOf("1e300 * 1e300"), HasSubstr("no finite value"));
  EXPECT_THAT(errorOf("acos(2)"), HasSubstr("no angle"));
  EXPECT_THAT(errorOf("sqrt(-1)"), HasSubstr("negative"));
}

TEST(Expression, KeepsTextItCannotRead) {
  for (const char* text : {"", "  ", "2 +", "(2", "2)", "2 $ 3", "1,5", "2 mm 3 mm", "sin()", "atan2(1)", "1e999", "=3",
                           "nan nan", "0x10"}) {
    EXPECT_EQ(Expression(text).text(), text);
    EXPECT_NE(errorOf(text), "no error") << text;
  }
  EXPECT_THAT(errorOf("(2"), HasSubstr("bracket"));
  EXPECT_THAT(errorOf("2 +"), HasSubstr("ends too early"));
}

// The parser below would take these: a choice, comparisons, texts, and everything up to a NUL byte.
TEST(Expression, TakesOnlyWhatTheManualLists) {
  for (const std::string& text : std::vector<std::string>{
           "1 ? 2 mm : 3 mm", "1 < 2", "1 == 1", "1 && 1", "\"2\"", "'2'", "a = 3", "2 ! 3", "[2]", "{2}", "2;3", "2#3",
           "2 mm : 3", std::string("1\0+2", 4), std::string("\0", 1), "2 \x01", "2\x7f", "\xff", "2 mm\xc3"}) {
    EXPECT_NE(errorOf(text), "no error") << text;
    EXPECT_EQ(Expression(text).text(), text);
  }
  EXPECT_THAT(errorOf("1 ? 2 mm : 3 mm"), HasSubstr("\"1 \" is followed by the character \"?\""));
  EXPECT_THAT(errorOf(std::string("1\0+2", 4)), HasSubstr("0x00"));
}

TEST(Expression, PowersStayWithinWhatCanBeComputedWith) {
  EXPECT_THAT(errorOf("((((1 mm ^ 6) ^ 6) ^ 6) ^ 6)"), HasSubstr("higher power"));
  EXPECT_THAT(errorOf("(1 / (1 mm ^ 6) ^ 6) / (1 mm ^ 6) ^ 6"), HasSubstr("higher power"));
  EXPECT_EQ(errorOf("(1 mm ^ 6) ^ 6"), "no error");
}

TEST(Expression, NumbersAtTheEndsOfWhatDoublesHold) {
  EXPECT_DOUBLE_EQ(valueOf("1.7976931348623157e308").value, 1.7976931348623157e308);
  EXPECT_THAT(errorOf("1.8e308"), HasSubstr("too large"));
  EXPECT_THAT(errorOf("1e99999999999999999999"), HasSubstr("too large"));
  EXPECT_GT(valueOf("4e-320").value, 0);
  EXPECT_DOUBLE_EQ(valueOf("1e-99999999999999999999").value, 0);
}

TEST(Expression, BareNumbersTakeTheFieldsUnit) {
  const Unit inch = *findUnit("in");
  const auto none = [](const std::string&) -> Quantity { throw Error("no names"); };
  EXPECT_DOUBLE_EQ(Expression("2").evaluateAs(lengthDimension, inch, none), 50.8);
  EXPECT_DOUBLE_EQ(Expression("-90").evaluateAs(angleDimension, inch, none), -std::numbers::pi / 2);
  EXPECT_DOUBLE_EQ(Expression("2 mm").evaluateAs(lengthDimension, inch, none), 2);
  EXPECT_THROW(Expression("2 + 3").evaluateAs(lengthDimension, inch, none), Error);
  EXPECT_THROW(Expression("2 deg").evaluateAs(lengthDimension, inch, none), Error);
  EXPECT_THROW(Expression("2 mm").evaluateAs(plainNumber, inch, none), Error);
}

TEST(Expression, SaysWhyANameIsTaken) {
  EXPECT_EQ(whyNotAName("wall_2"), "");
  for (const char* name : {"", "2a", "mm", "sin", "pi", "a b", "a-b"}) EXPECT_NE(whyNotAName(name), "") << name;
}

TEST(Expression, HeightsOfLevelsAreNamesOfSeveralWords) {
  const auto lookup = [](const std::string& name) -> Quantity {
    if (name == "Lamp room.height") return {3000, lengthDimension};
    if (name == "Floor 2.height") return {6000, lengthDimension};
    if (name == "Erdgeschoß.height") return {0, lengthDimension};
    if (name == "room") return {17, lengthDimension};
    throw Error("no " + name);
  };
  const auto valueOf = [&](const char* text) { return Expression(text).evaluate(lookup).value; };
  EXPECT_DOUBLE_EQ(valueOf("Lamp room.height"), 3000);
  EXPECT_DOUBLE_EQ(valueOf("2 * Lamp room.height - room + 1 m"), 6983);
  EXPECT_DOUBLE_EQ(valueOf("max(Lamp room.height, Floor 2.height)"), 6000);
  EXPECT_DOUBLE_EQ(valueOf("(Floor 2.height-Lamp room.height)/2"), 1500);
  EXPECT_DOUBLE_EQ(valueOf("Erdgeschoß.height + 5 mm"), 5);
  EXPECT_EQ(Expression("Lamp room.height + room").names(), (std::vector<std::string>{"Lamp room.height", "room"}));
  // Only single blanks join words, and only in front of the height.
  EXPECT_THROW(valueOf("Lamp  room.height"), Error);
  EXPECT_THROW(valueOf("Lamp room"), Error);
  EXPECT_THROW(valueOf("Lamp room.heights"), Error);
  EXPECT_THROW(valueOf("3 Lamp room.height"), Error);
  // Where the mistake is, is told of the text as it was typed.
  try {
    valueOf("Lamp room.height + + *");
    FAIL();
  } catch (const Error& error) {
    EXPECT_NE(std::string(error.what()).find("Lamp room.height + + *"), std::string::npos) << error.what();
  }
}

TEST(Expression, RenamesALevelAndNotItsWords) {
  const Expression old("Lamp room.height + room - lamp * 2 + Lamp room.height");
  EXPECT_EQ(old.renamed("Lamp room.height", "Tower.height").text(), "Tower.height + room - lamp * 2 + Tower.height");
  EXPECT_EQ(old.renamed("room", "space").text(), "Lamp room.height + space - lamp * 2 + Lamp room.height");
  EXPECT_EQ(Expression("Tower.height").renamed("Tower.height", "Lamp room 2.height").names(),
            std::vector<std::string>{"Lamp room 2.height"});
}

TEST(Expression, SaysWhichNamesLevelsMayHave) {
  for (const char* name : {"Ground", "Lamp room", "Floor 2", "Obergeschoß", "min", "mm"})
    EXPECT_EQ(whyNotALevel(name), "") << name;
  for (const char* name : {"", "2nd", " Roof", "Roof ", "Lamp  room", "a.b", "a-b", "a\nb"})
    EXPECT_NE(whyNotALevel(name), "") << name;
}

}  // namespace
}  // namespace kervo
