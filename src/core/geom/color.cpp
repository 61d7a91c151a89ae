#include "geom/color.h"

#include <algorithm>
#include <cmath>
#include <cstdio>

namespace kervo {

namespace {

std::uint32_t byteOf(double value) {
  return static_cast<std::uint32_t>(std::lround(std::clamp(value, 0.0, 1.0) * 255));
}

constexpr Paint painted = 1U << 24U;  // so that black is a colour too

}  // namespace

std::string colorText(const Color& color) {
  char text[8];
  std::snprintf(text, sizeof text, "#%06x", paintOf(color) & (painted - 1));
  return text;
}

std::optional<Color> colorFromText(const std::string& text) {
  if (text.size() != 7 || text[0] != '#' || text.find_first_not_of("0123456789abcdefABCDEF", 1) != std::string::npos)
    return std::nullopt;
  return colorOf(painted | static_cast<Paint>(std::stoul(text.substr(1), nullptr, 16)));
}

Paint paintOf(const Color& color) {
  return painted | byteOf(color.red) << 16U | byteOf(color.green) << 8U | byteOf(color.blue);
}

std::optional<Color> colorOf(Paint paint) {
  if (paint == 0) return std::nullopt;
  const auto part = [&](unsigned shift) { return (paint >> shift & 255U) / 255.0; };
  return Color{part(16), part(8), part(0)};
}

}  // namespace kervo
