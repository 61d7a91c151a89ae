// Which bodies of a file are one part at several places.
#pragma once

#include <optional>
#include <vector>

#include "exchange/body_file.h"
#include "geom/motion.h"

namespace kervo {

/// That a body is the same part as an earlier one, and how it stands to it.
struct Follows {
  std::size_t first = 0;
  Motion from;
};

/// For each body the first one that is the same part with the same name, colours and layer, if there is one before it.
std::vector<std::optional<Follows>> followersIn(const std::vector<FileBody>& bodies);

}  // namespace kervo
