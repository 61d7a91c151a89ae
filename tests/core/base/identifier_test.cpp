#include "base/identifier.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <vector>

namespace kervo {
namespace {

using testing::HasSubstr;

TEST(Identifier, MayHoldLettersDigitsDashAndUnderscore) {
  for (const char* id : {"a", "plate", "import1", "Bore_2", "a-b", "7", "größe", "板", "ширина", "θ1"})
    EXPECT_EQ(whyNotAnId(id), "") << id;
  EXPECT_EQ(whyNotAnId(std::string(200, 'a')), "");
}

// What stands between the parts of names, what ends a line or a text, and what is not seen.
TEST(Identifier, HoldsNothingThatMeansSomethingElse) {
  const std::vector<std::string> refused{"",
                                         std::string(201, 'a'),
                                         "a b",
                                         "a.1",
                                         "a/b",
                                         "a:b",
                                         "a|b",
                                         "a,b",
                                         "a(b",
                                         "a)b",
                                         "a#1",
                                         "a\"b",
                                         "a'b",
                                         "a+b",
                                         "a\\b",
                                         "a*b",
                                         "a=b",
                                         "a\nb",
                                         "a\rb",
                                         "a\tb",
                                         std::string("a\0b", 3),
                                         "a\x7f",
                                         "a\u0085b",
                                         "a\u00a0b",
                                         "a\u200bb",
                                         "a\u200eb",
                                         "a\u202eb",
                                         "a\u2028b",
                                         "a\u2066b",
                                         "a\ufeffb",
                                         "a\uff0fb",
                                         "a\U000E0041b"};
  for (const std::string& id : refused) EXPECT_NE(whyNotAnId(id), "") << id;
  EXPECT_THAT(whyNotAnId("a.1"), HasSubstr("\".\""));
  EXPECT_THAT(whyNotAnId("a\u202eb"), HasSubstr("U+202E"));
}

TEST(Identifier, IsValidUtf8) {
  EXPECT_TRUE(isUtf8(""));
  EXPECT_TRUE(isUtf8("aé板😀"));
  // A byte alone, one missing, an overlong slash, a surrogate, beyond the last.
  for (const char* text : {"\x80", "\xc3", "a\xe6\x9d", "\xc0\xaf", "\xed\xa0\x80", "\xf4\x90\x80\x80", "\xff"}) {
    EXPECT_FALSE(isUtf8(text)) << text;
    EXPECT_NE(whyNotAnId(text), "");
  }
}

}  // namespace
}  // namespace kervo
