#include "base/dimension_table.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

namespace kervo {
namespace {

using testing::HasSubstr;

DimensionTable tableOf(const std::vector<std::pair<std::string, std::string>>& rows) {
  std::vector<DimensionRow> list;
  for (const auto& [name, text] : rows) list.push_back({name, Expression(text)});
  return DimensionTable(list);
}

TEST(DimensionTable, RowsMayUseEachOtherInAnyOrder) {
  const DimensionTable table = tableOf({{"wall", "(outer - mast) / 2"}, {"outer", "60 mm"}, {"mast", "48 mm"}});
  EXPECT_DOUBLE_EQ(table.lookup("wall").value, 6);
}

TEST(DimensionTable, NamesEveryRowOfACycle) {
  const DimensionTable table = tableOf({{"a", "b + 1 mm"}, {"b", "c"}, {"c", "a * 2"}, {"free", "3 mm"}});
  ASSERT_TRUE(table.error(0));
  EXPECT_THAT(table.error(2)->what(), HasSubstr("a → b → c → a"));
  EXPECT_THAT(table.error(2)->where(), HasSubstr("dimension row 3 (c)"));
  EXPECT_DOUBLE_EQ(table.value(3)->value, 3);
  EXPECT_THROW(table.lookup("b"), Error);
}

TEST(DimensionTable, NamesTheRowOfAnUnknownNameAndOfADivisionByZero) {
  const DimensionTable table = tableOf({{"a", "missing * 2"}, {"b", "1 mm / (2 - 2)"}, {"self", "self"}});
  EXPECT_THAT(table.error(0)->what(), HasSubstr("dimension row 1 (a): there is no dimension named \"missing\""));
  EXPECT_THAT(table.error(1)->what(), HasSubstr("dimension row 2 (b): division by zero"));
  EXPECT_THAT(table.error(2)->what(), HasSubstr("self → self"));
}

TEST(DimensionTable, RefusesNamesTwiceAndUnitsAsNames) {
  const DimensionTable table = tableOf({{"a", "1 mm"}, {"a", "2 mm"}, {"mm", "3"}});
  EXPECT_DOUBLE_EQ(table.lookup("a").value, 1);
  EXPECT_THAT(table.error(1)->what(), HasSubstr("row 1 has the same name"));
  EXPECT_THAT(table.error(2)->what(), HasSubstr("is a unit"));
}

TEST(DimensionTable, LongChainsDoNotExhaustTheStack) {
  std::vector<DimensionRow> rows;
  for (int i = 0; i < 5000; ++i)
    rows.push_back({"d" + std::to_string(i), Expression(i == 4999 ? "1 mm" : "d" + std::to_string(i + 1))});
  const DimensionTable table(rows);
  EXPECT_TRUE(table.value(4999));
  EXPECT_TRUE(table.error(0) || table.value(0));
}

}  // namespace
}  // namespace kervo
