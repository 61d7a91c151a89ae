// Edits of a drawing: each gives the changed one.
#pragma once

#include "drawing/drawing.h"

namespace kervo {

/// An id that nothing of the drawing has: the prefix and the lowest number that is free.
std::string freeId(const Drawing& drawing, const std::string& prefix);

/// Without a curve, the points that were only its own, and constraints on any of them.
Drawing withoutCurve(Drawing drawing, const std::string& id);

/// Two points as one: whatever is on `gone` is on `stays`. What then says nothing, like a line of no length or a
/// constraint that names one point twice, goes.
Drawing withJoined(Drawing drawing, const std::string& gone, const std::string& stays);

Drawing withoutConstraint(Drawing drawing, const std::string& id);

/// With one more constraint, at the end; a dimension has `value`. Throws Error if it cannot be on those.
Drawing withConstraint(Drawing drawing, const std::string& kind, std::vector<std::string> on,
                       std::optional<Expression> value = {});

}  // namespace kervo
