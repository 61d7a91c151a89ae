// Colours of bodies, faces and triangles.
#pragma once

#include <cstdint>
#include <optional>
#include <string>

namespace kervo {

struct Color {
  double red = 0;
  double green = 0;
  double blue = 0;
  bool operator==(const Color&) const = default;
};

/// The colour as #rrggbb (sRGB), and back; nothing for another text.
std::string colorText(const Color& color);
std::optional<Color> colorFromText(const std::string& text);

/// A colour in one number, as triangles have it: 0 for none.
using Paint = std::uint32_t;
Paint paintOf(const Color& color);
/// Nothing for 0.
std::optional<Color> colorOf(Paint paint);

}  // namespace kervo
