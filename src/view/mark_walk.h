// The order in which the keyboard steps through what can be picked.
#pragma once

#include <optional>
#include <vector>

#include "view/picker.h"
#include "view/scene.h"

namespace kervo {

/// All that the filter lets through: bodies, or faces, then edges, then corners, in the order of the scene's bodies.
std::vector<Pick> allPicks(const Scene& scene, const PickFilter& filter);
/// The one after (direction 1) or before (-1) `from`, round and round; without a known `from` the first or last one.
/// Nothing if there is nothing to pick.
std::optional<Pick> nextPick(const Scene& scene, const PickFilter& filter, const std::optional<Pick>& from,
                             int direction);
/// Where the label of a pick stands: the middle of its box, of its curve, or the corner itself.
Point middleOf(const Pick& pick, const SceneBody& body);

}  // namespace kervo
