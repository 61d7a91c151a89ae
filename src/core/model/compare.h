// What differs between two models, or a model and the bodies of a file: material added and removed, body by body.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/progress.h"
#include "model/model.h"

namespace kervo {

struct BodyChange {
  enum class How { Same, Changed, Added, Removed };
  How how = How::Same;
  BodyId id;         ///< of the later one, or of the one that is gone
  std::string name;  ///< of the same one
  BodyForm before, after;
  /// Of solids: what is only in the later one, only in the earlier one, and in both. Empty where nothing is.
  Shape added, removed, common;
  double volumeAdded = 0, volumeRemoved = 0;  ///< mm³
  double areaBefore = 0, areaAfter = 0;       ///< mm²
  /// Why what is added and removed is not known, of a body that changed: no solid, or the kernel cannot divide it.
  std::optional<Error> unknown = {};
};

/// Bodies are compared that have one id; of the rest those of one name; of the rest those whose boxes have most in
/// common, more than half. In the order of the later ones, then those that are gone. Whatever is added and removed
/// comes from the checked division of each by the other. Throws Stopped on request.
std::vector<BodyChange> compareBodies(const std::vector<Body>& before, const std::vector<Body>& after,
                                      Progress& progress);

}  // namespace kervo
