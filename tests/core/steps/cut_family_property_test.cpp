// Laws that every cut keeps, on random documents: the order of picks does not matter, nor where the model stands, nor
// how large it is; what goes and what stays add up to what was there.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <algorithm>

#include "support/random_bodies.h"

namespace kervo {
namespace {

using namespace test;

std::vector<BodyId> ids(const char* prefix, int count) {
  std::vector<BodyId> result;
  for (int i = 0; i < count; ++i) result.push_back(prefix + std::to_string(i));
  return result;
}

Model with(std::vector<Step> steps, const std::vector<Step>& last) {
  steps.insert(steps.end(), last.begin(), last.end());
  return made(documentOf(steps));
}

Step combine(const char* verb, std::vector<BodyId> stock, std::vector<BodyId> cutters) {
  return step("k", "combine",
              {{"verb", text(verb)}, {"stock", bodies(std::move(stock))}, {"cutters", bodies(std::move(cutters))}});
}

void expectSame(const std::map<BodyId, double>& a, const std::map<BodyId, double>& b, double scale,
                const std::string& when) {
  ASSERT_EQ(a.size(), b.size()) << when;
  for (const auto& [key, volume] : a) {
    ASSERT_TRUE(b.contains(key)) << key << ", " << when;
    EXPECT_NEAR(volume * scale, b.at(key), 1e-6 * scale * (1 + volume)) << key << ", " << when;
  }
}

class Laws : public testing::TestWithParam<unsigned> {};

TEST_P(Laws, OrderOfPicksDoesNotMatter) {
  RandomBodies random(GetParam());
  const auto steps = random.steps(2, 3);
  const auto stock = ids("s", 2), cutters = ids("c", 3);
  const auto first = pieces(with(steps, {combine("subtract", stock, cutters)}), "k");
  for (int i = 0; i < 3; ++i)
    expectSame(first, pieces(with(steps, {combine("subtract", random.shuffled(stock), random.shuffled(cutters))}), "k"),
               1, "subtracted in another order");
  std::vector<double> one, other;
  std::vector<BodyId> all = stock;
  all.insert(all.end(), cutters.begin(), cutters.end());
  for (const auto& [key, volume] : pieces(with(steps, {combine("partition", all, {})}), "k")) one.push_back(volume);
  for (const auto& [key, volume] : pieces(with(steps, {combine("partition", random.shuffled(all), {})}), "k"))
    other.push_back(volume);
  std::sort(one.begin(), one.end());
  std::sort(other.begin(), other.end());
  ASSERT_EQ(one.size(), other.size());
  for (std::size_t i = 0; i < one.size(); ++i) EXPECT_NEAR(one[i], other[i], 1e-6 * (1 + one[i]));
}

TEST_P(Laws, VerbsOfCombineFitTogether) {
  RandomBodies random(GetParam());
  const auto steps = random.steps(1, 1);
  const double a = volume(made(documentOf(steps)), "s0"), b = volume(made(documentOf(steps)), "c0");
  const auto left = [&](const char* verb) {
    const Model model = with(steps, {combine(verb, {"s0"}, {"c0"})});
    EXPECT_TRUE(report(model, "k").result) << verb << ": " << errorOf(model, "k");
    return total(model);
  };
  const double common = left("intersect");
  EXPECT_GT(common, 0);
  EXPECT_NEAR(left("subtract"), a - common, 1e-6 * a);
  EXPECT_NEAR(left("union"), a + b - common, 1e-6 * (a + b));
  EXPECT_NEAR(left("exclusive"), a + b - 2 * common, 1e-6 * (a + b));
  EXPECT_NEAR(left("partition"), a + b - common, 1e-6 * (a + b));
}

TEST_P(Laws, CutMovesWithTheModelAndGrowsWithIt) {
  RandomBodies random(GetParam());
  auto steps = random.steps(2, 2);
  const Step cut = combine("subtract", ids("s", 2), ids("c", 2));
  const auto here = pieces(with(steps, {cut}), "k");
  BodyPick everything;
  everything.all = true;
  const Step turn =
      step("m", "place",
           {{"bodies", everything}, {"way", text("turn")}, {"axis", text("x")}, {"angle", Expression("33 deg")}});
  const Step away = step("n", "place", {{"bodies", everything}, {"way", text("move")}, {"x", Expression("1234.5 mm")}});
  const Step larger =
      step("o", "place", {{"bodies", everything}, {"way", text("scale")}, {"factor", Expression("2.5")}});
  expectSame(here, pieces(with(steps, {turn, away, cut}), "k"), 1, "turned and far away");
  expectSame(here, pieces(with(steps, {larger, cut}), "k"), 2.5 * 2.5 * 2.5, "larger");
}

TEST_P(Laws, SplitWithKerfTakesItsWidthTimesTheArea) {
  RandomBodies random(GetParam());
  const std::vector<Step> steps{block("s0", "40", "30", random.mm(8, 16), {"-20", "-15", "-4"})};
  const Model before = made(documentOf(steps));
  const Box box = before.find("s0")->shape().box();
  const double area = (box.high.y - box.low.y) * (box.high.z - box.low.z), kerf = std::stod(random.mm(0.2, 3));
  const std::string at = random.mm(-10, 10);
  for (const char* side : {"centred", "front", "back"}) {
    const Step split = step("k", "split",
                            {{"stock", bodies({"s0"})},
                             {"cutters", cutBy("yz")},
                             {"offset", Expression(at + " mm")},
                             {"kerf", Expression(std::to_string(kerf) + " mm")},
                             {"kerf_side", text(side)}});
    const Model model = with(steps, {split});
    ASSERT_FALSE(model.failed()) << side << ": " << errorOf(model, "k");
    EXPECT_NEAR(total(before) - total(model), area * kerf, 1e-5 * area) << side;
    const double from = side == std::string("centred") ? -kerf / 2 : side == std::string("front") ? 0 : -kerf;
    EXPECT_NEAR(volume(model, "s0/back"), area * (std::stod(at) + from + 20), 1e-4 * area) << side;
  }
}

TEST_P(Laws, DroppedPiecesAreDroppedInAnyOrderOfPicks) {
  RandomBodies random(GetParam());
  const std::vector<Step> steps{block("s0", "40", "30", "10", {"-20", "-15", "0"}),
                                block("c0", "200", "2", "200", {"-100", random.mm(-12, 10), "-100"}),
                                block("c1", "2", "200", "200", {random.mm(-17, 15), "-100", "-100"})};
  const auto all = pieces(with(steps, {combine("subtract", {"s0"}, {"c0", "c1"})}), "k");
  ASSERT_EQ(all.size(), 5u) << "four quarters and what went";
  for (const auto& [key, size] : all) {
    if (key == "s0/removed") continue;
    for (const std::vector<BodyId>& cutters : {std::vector<BodyId>{"c0", "c1"}, {"c1", "c0"}}) {
      const Step drop = step("k", "combine",
                             {{"verb", text("subtract")},
                              {"stock", bodies({"s0"})},
                              {"cutters", bodies(cutters)},
                              {"pieces", PieceChoice{{}, {key}, {}}}});
      const Model model = with(steps, {drop});
      EXPECT_EQ(model.find(key), nullptr) << key;
      EXPECT_NEAR(report(model, "k").result->audit.volumeAfter + size + all.at("s0/removed"),
                  report(model, "k").result->audit.volumeBefore, 1e-6)
          << key;
    }
  }
}

INSTANTIATE_TEST_SUITE_P(Random, Laws, testing::Range(1u, 9u));

}  // namespace
}  // namespace kervo
