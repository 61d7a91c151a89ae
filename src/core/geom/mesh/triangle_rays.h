// How far it is through triangles. For src/core/geom only.
#pragma once

#include <cstdint>
#include <vector>

namespace kervo {

/// From beside each vertex against its normal, starting `inside` mm below, to the first triangle: the whole length, mm;
/// NaN where none is met. `points` and `normals`: x, y, z of each vertex; `triangles`: three vertices each.
std::vector<float> waysThrough(const std::vector<float>& points, const std::vector<float>& normals,
                               const std::vector<std::uint32_t>& triangles, double inside);

}  // namespace kervo
