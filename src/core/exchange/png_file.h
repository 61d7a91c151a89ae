// PNG files: pictures of outlines and fills, on transparent ground.
#pragma once

#include "exchange/formats.h"

namespace kervo {

const Format& pngFormat();

/// 300 dots an inch, or fewer where the longer side would have more than 8 000. What nothing is drawn on is
/// transparent. Throws FileError; Stopped on request.
void writePng(const std::filesystem::path& path, const FlatPicture& picture, Progress& progress);

}  // namespace kervo
