#include "model/piece_names.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "geom/divide/boolean.h"
#include "geom/primitives.h"

namespace kervo {
namespace {

using testing::ElementsAre;
using testing::UnorderedElementsAre;

std::vector<Shape> sawn(const std::vector<double>& at) {
  Progress progress;
  std::vector<Shape> saws;
  for (std::size_t i = 0; i < at.size(); ++i)
    saws.push_back(makeBlock("saw" + std::to_string(i), Plane::through({at[i], -1, -1}, {0, 0, 1}), 1, 12, 12));
  return divide(makeBlock("bar", {}, 100, 10, 10), saws, progress).outside.pieces();
}

TEST(PieceNames, ComeFromTheBodysOwnFacesFirst) {
  EXPECT_THAT(namePieces(sawn({40}), "bar").names, UnorderedElementsAre("left", "right"));
}

TEST(PieceNames, FallBackToFacesOfTheCutter) {
  // The middle piece has no face of the bar to itself, but saw 0's right side; the left one has bar:left.
  const PieceNames names = namePieces(sawn({30, 60}), "bar");
  EXPECT_THAT(names.names, UnorderedElementsAre("left", "right", "saw0:right"));
  EXPECT_THAT(names.spoken, UnorderedElementsAre("left", "right", "\"saw0:right\""));
  EXPECT_FALSE(names.byPosition);
}

TEST(PieceNames, AreNumberedByPlaceIfNoFaceTellsThemApart) {
  const std::vector<Shape> same{makeSphere("s", Plane::through({9, 0, 0}, {0, 0, 1}), 1), makeSphere("s", {}, 1)};
  const PieceNames names = namePieces(same, "s");
  EXPECT_THAT(names.names, ElementsAre("part 2", "part 1"));
  EXPECT_TRUE(names.byPosition);
}

TEST(PieceNames, DoNotDependOnOrder) {
  std::vector<Shape> pieces = sawn({30, 60});
  const PieceNames before = namePieces(pieces, "bar");
  std::reverse(pieces.begin(), pieces.end());
  const PieceNames after = namePieces(pieces, "bar");
  EXPECT_EQ(std::vector<std::string>(before.names.rbegin(), before.names.rend()), after.names);
}

}  // namespace
}  // namespace kervo
