// The font of drawn text, as its file.
#pragma once

#include <span>

namespace kervo {

std::span<const unsigned char> textFont();

}  // namespace kervo
