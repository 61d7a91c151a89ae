#include "model/hatches.h"

#include <algorithm>
#include <numbers>

#include "base/say.h"

namespace kervo {

namespace {

constexpr double degree = std::numbers::pi / 180;

HatchLines lines(double degrees, double spacing, double offset = 0) {
  return {degrees * degree, spacing, offset};
}

HatchLines dashes(double degrees, double spacing, double dash, double gap, double shift, double offset = 0) {
  return {degrees * degree, spacing, offset, dash, gap, shift};
}

}  // namespace

const std::vector<Hatch>& hatches() {
  static const std::vector<Hatch> all{
      {"lining", later("section lining"), {lines(45, 3)}},
      {"metal", later("metal"), {lines(45, 5), lines(45, 5, 1)}},
      {"concrete", later("concrete"), {lines(45, 6), dashes(90, 5, 0.5, 4.5, 1.7), dashes(0, 7, 0.6, 8.4, 3.1, 2)}},
      {"timber", later("timber"), {lines(70, 1.6)}},
      {"insulation", later("insulation"), {lines(60, 4), lines(120, 4)}},
      {"earth", later("earth"), {dashes(45, 2, 8, 8, 8), dashes(135, 2, 8, 8, 8)}},
      {"glass", later("glass"), {dashes(45, 8, 10, 20, 13), dashes(45, 8, 6, 24, 13, 1.4)}},
  };
  return all;
}

const Hatch* findHatch(const std::string& key) {
  const auto found =
      std::find_if(hatches().begin(), hatches().end(), [&](const Hatch& each) { return each.key == key; });
  return found == hatches().end() ? nullptr : &*found;
}

std::vector<std::string> hatchKeys() {
  std::vector<std::string> keys;
  for (const Hatch& each : hatches()) keys.push_back(each.key);
  return keys;
}

}  // namespace kervo
