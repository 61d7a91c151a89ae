#include "base/say.h"

#include <gtest/gtest.h>

#include "base/ids.h"

namespace kervo {
namespace {

TEST(Say, PutsPartsInTheirPlaces) {
  EXPECT_EQ(say("nothing to fill, 5 %"), "nothing to fill, 5 %");
  EXPECT_EQ(say("%2 before %1", "a", std::string("b")), "b before a");
  EXPECT_EQ(say("\"%1\" has %2 faces", BodyId("lid.2"), 12), "\"lid.2\" has 12 faces");
  EXPECT_EQ(say("%1 stays", "%1 and %2"), "%1 and %2 stays");
  EXPECT_EQ(say("100 % of %1%", "it"), "100 % of it%");
  EXPECT_EQ(say("%1 %2", "only one"), "only one %2");
}

TEST(Say, CountsOneAndMany) {
  EXPECT_EQ(sayCount(1, "%1 face of %2", "%1 faces of %2", "Lid"), "1 face of Lid");
  EXPECT_EQ(sayCount(0, "%1 face of %2", "%1 faces of %2", "Lid"), "0 faces of Lid");
}

TEST(Say, AsksTheCatalogueForThePatternOnly) {
  speakWith([](const char* english) {
    return std::string(english) == "%1 holds %2" ? std::string("in %1 steckt %2") : std::string(english);
  });
  EXPECT_EQ(say("%1 holds %2", "%1 holds %2", "x"), "in %1 holds %2 steckt x");
  EXPECT_EQ(say("%1 lost", "x"), "x lost");
  speakWith(nullptr);
  EXPECT_EQ(say("%1 holds %2", "a", "b"), "a holds b");
}

}  // namespace
}  // namespace kervo
