#include "exchange/document_difference.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;

std::vector<std::string> rows(const Document& here, const Document& there) {
  std::vector<std::string> result;
  for (const DocumentDifference& each : differencesBetween(here, there))
    result.push_back(each.what + "|" + each.here + "|" + each.there);
  return result;
}

TEST(DocumentDifference, NamesWhatIsNotTheSame) {
  const Document here = documentOf({block("a", "1", "2", "3"), block("b", "4", "5", "6"), block("c", "7", "8", "9")})
                            .withDimension("wall", Expression("2 mm"));
  EXPECT_TRUE(differencesBetween(here, here).empty());
  Document there = documentOf({block("b", "4", "5", "7"), block("a", "1", "2", "3"), block("d", "1", "1", "1")})
                       .withDimension("wall", Expression("3 mm"))
                       .withDimension("gap", Expression("1 mm"));
  BodyLook hidden;
  hidden.visible = false;
  there = there.withLook("a", hidden);
  there.made.unit = "cm";
  there.seen.wallLimit = Expression("5 mm");
  EXPECT_THAT(rows(here, there),
              testing::ElementsAre("length unit|mm|cm", "dimension gap||1 mm", "dimension wall|2 mm|3 mm",
                                   "Block \"b\", Height|6|7", "Block \"c\"|step 3|", "Block \"d\"||step 3",
                                   "order of the steps|Block \"a\", Block \"b\"|Block \"b\", Block \"a\"",
                                   "body a||{\"visible\":false}", "limit for wall||5 mm"));
}

}  // namespace
}  // namespace kervo
