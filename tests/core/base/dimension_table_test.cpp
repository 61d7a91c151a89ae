#include "base/dimension_table.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <pthread.h>

#include <optional>
#include <utility>

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

// In a thread of its own with a stack of 64 kB, where a visit of its own for each row would end.
TEST(DimensionTable, LongChainsDoNotExhaustTheStack) {
  constexpr int length = 20'000;
  std::vector<DimensionRow> rows;
  for (int i = 0; i < length; ++i)
    rows.push_back({"d" + std::to_string(i), Expression(i == length - 1 ? "1 mm" : "d" + std::to_string(i + 1))});
  std::optional<Quantity> first;
  const std::pair job(&rows, &first);
  pthread_attr_t attributes;
  pthread_attr_init(&attributes);
  pthread_attr_setstacksize(&attributes, 64 * 1024);
  pthread_t thread;
  const auto work = [](void* given) -> void* {
    const auto& [table, result] = *static_cast<decltype(job)*>(given);
    *result = DimensionTable(*table).value(0);
    return nullptr;
  };
  ASSERT_EQ(pthread_create(&thread, &attributes, work, const_cast<void*>(static_cast<const void*>(&job))), 0);
  pthread_join(thread, nullptr);
  pthread_attr_destroy(&attributes);
  ASSERT_TRUE(first);
  EXPECT_DOUBLE_EQ(first->value, 1);
}

TEST(DimensionTable, ALongCircleIsNamedToo) {
  std::vector<DimensionRow> rows;
  for (int i = 0; i < 3000; ++i)
    rows.push_back({"d" + std::to_string(i), Expression("d" + std::to_string((i + 1) % 3000))});
  const DimensionTable table(rows);
  for (std::size_t i = 0; i < rows.size(); ++i) ASSERT_TRUE(table.error(i)) << i;
  EXPECT_THAT(table.error(2999)->what(), HasSubstr("circle"));
}

TEST(DimensionTable, LevelsAreLengthsByName) {
  const LevelRows levels{{{"Ground", Expression("0")},
                          {"Lamp room", Expression("Ground.height + storey")},
                          {"Roof", Expression("Lamp room.height + 2.5")},
                          {"Lost", Expression("Attic.height + 1 m")},
                          {"Leaning", Expression("30 deg")},
                          {"Roof", Expression("1 m")},
                          {"a.b", Expression("1 m")}},
                         unitNamed("m")};
  const DimensionTable table({{"storey", Expression("3 m")}, {"top", Expression("Roof.height + 100 mm")}}, {}, levels);
  EXPECT_DOUBLE_EQ(table.height(0).value(), 0);
  EXPECT_DOUBLE_EQ(table.height(1).value(), 3000);
  EXPECT_FALSE(table.height(2)) << "2.5 is added to a length, and is none itself";
  EXPECT_FALSE(table.height(3));
  EXPECT_NE(table.heightError(3)->happened().find("there is no level named \"Attic\""), std::string::npos);
  EXPECT_FALSE(table.height(4)) << "an angle is no height";
  EXPECT_NE(table.heightError(5)->happened().find("another level has the same name"), std::string::npos);
  EXPECT_FALSE(table.height(6));
  EXPECT_FALSE(table.value(1)) << "it uses a level without height";
  EXPECT_DOUBLE_EQ(table.lookup("Lamp room.height").value, 3000);
  EXPECT_THROW(table.lookup("Cellar.height"), Error);
  try {
    table.lookup("Leaning.height");
    FAIL();
  } catch (const Error& error) {
    EXPECT_NE(error.happened().find("that level has no height"), std::string::npos) << error.happened();
  }
}

TEST(DimensionTable, CirclesOfLevelsAndDimensionsAreFound) {
  const LevelRows levels{{{"Roof", Expression("top")}}};
  const DimensionTable table({{"top", Expression("Roof.height + 1 m")}}, {}, levels);
  EXPECT_FALSE(table.value(0));
  ASSERT_TRUE(table.heightError(0));
  EXPECT_NE(table.heightError(0)->happened().find("circle"), std::string::npos)
      << table.heightError(0)->happened() << table.error(0)->happened();
}

}  // namespace
}  // namespace kervo
