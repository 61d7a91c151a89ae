// The lamp housing: hollowed out, split, keyed and drilled; its dimensions drive all of it.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numbers>

#include "exchange/kervo_file.h"
#include "geom/divide/boolean.h"
#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;
using testing::HasSubstr;
constexpr double pi = std::numbers::pi;

Document lampHousing() {
  Progress progress;
  return readDocument(KERVO_SOURCE_DIR "/demo/lamp-housing.kervo", allStepKinds(), progress);
}

/// Of a block with its four upright edges rounded.
double rounded(double width, double depth, double height, double radius) {
  return (width * depth - (4 - pi) * radius * radius) * height;
}

TEST(LampHousing, HasTheVolumeOfItsParts) {
  const Model model = made(lampHousing());
  ASSERT_FALSE(model.failed());
  const double drain = pi * 9 * 9;
  const double walls = rounded(120, 80, 60, 12) - rounded(102, 62, 42, 3) - drain;
  const double kerf = (rounded(120, 80, 1, 12) - rounded(102, 62, 1, 3)) * 0.2;
  // Three pegs of 4 mm and a narrower one; they bridge the kerf, and their tips are chamfered.
  const auto cone = [](double large, double small, double height) {
    return pi * height * (large * large + large * small + small * small) / 12;
  };
  const auto peg = [&](double width) { return pi * width * width / 4 * 7.7 + cone(width, width - 1, 0.5); };
  const auto socket = [](double width) { return pi * (width + 0.2) * (width + 0.2) / 4 * 8.5; };
  const double pegs = 3 * peg(4) + peg(3), sockets = 3 * socket(4) + socket(3);
  const double sink = (2.24 * 4 - 4.5) / 2, screws = 4 * (cone(2.24 * 4, 4.5, sink) + pi * 4.5 * 4.5 / 4 * (9 - sink));
  // The marking's fillings are flush: they weigh what was engraved.
  double sum = 0, fillings = 0;
  for (const Body& body : model.bodies) {
    sum += body.form.volume();
    if (body.id.step() == "marking") fillings += body.form.volume();
  }
  EXPECT_NEAR(fillings, report(model, "marking").result->audit.volumeRemoved, 1e-6 * fillings);
  EXPECT_NEAR(sum, walls - kerf + pegs - sockets - screws, 1e-6 * walls);
}

TEST(LampHousing, FollowsItsDimensionsAndStillFits) {
  for (const auto& [name, value] : {std::pair("wall", "11 mm"), std::pair("width", "150 mm"), std::pair("kerf", "1 mm"),
                                    std::pair("height", "90 mm"), std::pair("corner", "6 mm")}) {
    const Model model = made(lampHousing().withDimension(name, Expression(value)));
    ASSERT_FALSE(model.failed()) << name << ": " << errorOf(model, "space") << errorOf(model, "keys")
                                 << errorOf(model, "screws");
    const Shape &lid = model.find("housing/front")->shape(), &base = model.find("housing/back")->shape();
    EXPECT_TRUE(lid.watertight() && base.watertight() && lid.valid() && base.valid()) << name;
    Progress progress;
    EXPECT_TRUE(intersect({lid, base}, progress).empty()) << name;
    EXPECT_THAT(report(model, "keys").result->audit.notes.front(), HasSubstr("4 round pegs")) << name;
  }
}

}  // namespace
}  // namespace kervo
