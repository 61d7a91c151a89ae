// Edits of a drawing: each gives the changed one.
#pragma once

#include "drawing/solve.h"

namespace kervo {

/// An id that nothing of the drawing has: the prefix and the lowest number that is free.
std::string freeId(const Drawing& drawing, const std::string& prefix);

/// Without a curve or copies, the points that were only its own, constraints on any of them, and copies that were made
/// of nothing else.
Drawing withoutCurve(Drawing drawing, const std::string& id);

/// With the points and curves of another drawing, under ids that are free, and without its constraints and copies.
/// `added`: the new ids of those curves.
Drawing withAdded(Drawing drawing, const Drawing& other, std::vector<std::string>& added);

/// Two points as one: whatever is on `gone` is on `stays`. What then says nothing, like a line of no length or a
/// constraint that names one point twice, goes.
Drawing withJoined(Drawing drawing, const std::string& gone, const std::string& stays);

/// Without constraints on, and copies of, what is no longer taken along.
Drawing withoutTaken(Drawing drawing, const std::string& id);

Drawing withoutConstraint(Drawing drawing, const std::string& id);

/// With copies, at the end, that begin with what their kind begins with; the first numbers `numbers` are given. Throws
/// Error if they cannot be made of that.
Drawing withCopies(Drawing drawing, const std::string& kind, std::vector<std::string> of, std::string about,
                   std::vector<Expression> numbers = {}, const std::vector<TakenCurve>& taken = {});

/// With one more constraint, at the end; a dimension has `value`. Throws Error if it cannot be on those, or on what was
/// `taken` along.
Drawing withConstraint(Drawing drawing, const std::string& kind, std::vector<std::string> on,
                       std::optional<Expression> value = {}, const std::vector<TakenCurve>& taken = {});

}  // namespace kervo
