// What differs between two documents, for people.
#pragma once

#include <string>
#include <vector>

#include "model/document.h"

namespace kervo {

/// One thing that is not the same in two documents. An empty text: it is not there.
struct DocumentDifference {
  std::string what;  ///< e.g. "Base plate, Width" or "dimension wall"
  std::string here;
  std::string there;
};

/// In the order of the Cut list: dimensions, steps that come, go or stand elsewhere, their fields, and settings of
/// bodies. Empty for documents that are the same.
std::vector<DocumentDifference> differencesBetween(const Document& here, const Document& there);

}  // namespace kervo
