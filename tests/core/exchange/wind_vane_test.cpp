// The wind vane against a calculation by hand, every dimension over the range that its guide states.
#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

#include "exchange/kervo_file.h"
#include "support/document_builder.h"

namespace kervo {
namespace {

using namespace test;
constexpr double pi = std::numbers::pi;

struct Sizes {
  double shaft = 16, flange = 80, thick = 8, hub = 40, height = 36, bolts = 6, bolt = 5.5, seat = 22, groove = 4,
         depth = 2.5;
};

double disc(double diameter) {
  return pi * diameter * diameter / 4;
}

/// Flange and hub, less bore (a circle with a flat), bolts and groove.
double volumeOf(const Sizes& s) {
  const double r = s.shaft / 2, flat = s.shaft * 0.375;
  const double bore = r * r * (pi - std::acos(flat / r)) + flat * std::sqrt(r * r - flat * flat);
  return disc(s.flange) * s.thick + disc(s.hub) * (s.height - s.thick) - bore * s.height -
         s.bolts * disc(s.bolt) * s.thick - (disc(s.hub) - disc(s.hub - 2 * s.depth)) * s.groove;
}

Document demo() {
  Progress progress;
  return readDocument(KERVO_SOURCE_DIR "/demo/wind-vane.kervo", allStepKinds(), progress);
}

void expectVolume(const Document& document, const Sizes& sizes, const std::string& what) {
  const Model model = made(document);
  ASSERT_FALSE(model.failed()) << what;
  ASSERT_EQ(model.bodies.size(), 1u) << what;
  EXPECT_NEAR(volume(model, "hub"), volumeOf(sizes), 1e-9 * volumeOf(sizes)) << what;
  EXPECT_TRUE(model.bodies[0].shape().watertight()) << what;
  EXPECT_EQ(report(model, "holes").drawing()->solution.freedoms, 0) << what;
  EXPECT_EQ(report(model, "outline").drawing()->solution.freedoms, 0) << what;
  EXPECT_EQ(report(model, "seating").drawing()->solution.freedoms, 0) << what;
  EXPECT_EQ(report(model, "slotted").drawing()->solution.freedoms, 4) << "the slot is for the reader to finish";
}

TEST(WindVane, VolumeMatchesACalculationByHand) {
  expectVolume(demo(), {}, "as it comes");
}

TEST(WindVane, EveryDimensionDrivesItOverItsRange) {
  struct Range {
    const char* name;
    double Sizes::*size;
    double from, to, step;
    const char* unit = " mm";
  };
  for (const Range& range : {Range{"shaft", &Sizes::shaft, 12, 24, 3}, Range{"flange", &Sizes::flange, 70, 110, 10},
                             Range{"thick", &Sizes::thick, 6, 12, 2}, Range{"hub", &Sizes::hub, 36, 50, 7},
                             Range{"height", &Sizes::height, 30, 60, 10}, Range{"bolts", &Sizes::bolts, 3, 10, 1, ""},
                             Range{"bolt", &Sizes::bolt, 4, 8, 1}, Range{"seat", &Sizes::seat, 12, 30, 6},
                             Range{"groove", &Sizes::groove, 2, 5, 1}, Range{"depth", &Sizes::depth, 1, 4, 1}}) {
    const int steps = static_cast<int>(std::lround((range.to - range.from) / range.step));
    for (int i = 0; i <= steps; ++i) {
      Sizes sizes;
      sizes.*range.size = range.from + i * range.step;
      const std::string value = std::to_string(sizes.*range.size) + range.unit;
      expectVolume(demo().withDimension(range.name, Expression(value)), sizes, range.name + (" = " + value));
    }
  }
}

TEST(WindVane, TheDocumentByHandIsTheSame) {
  Progress progress;
  const Document byHand = readDocument(KERVO_SOURCE_DIR "/demo/wind-vane.json", allStepKinds(), progress);
  EXPECT_EQ(volume(made(byHand), "hub"), volume(made(demo()), "hub"));
  EXPECT_EQ(byHand.made.steps.size(), demo().made.steps.size());
}

}  // namespace
}  // namespace kervo
