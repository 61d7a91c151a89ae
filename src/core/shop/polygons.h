// Outlines as polygons of whole numbers, for what need not be exact: which parts lie beside each other, and what a
// kerf leaves. For src/core/shop only.
#pragma once

#include <polyclipping/clipper.hpp>
#include <vector>

#include "exchange/flat_picture.h"

namespace kervo {

/// Whole numbers a millimetre: Clipper's quick range is then some 10^6 mm.
inline constexpr double perMillimetre = 1000;

inline ClipperLib::IntPoint toGrid(PlanePoint at) {
  return {std::llround(at.u * perMillimetre), std::llround(at.v * perMillimetre)};
}
inline PlanePoint fromGrid(ClipperLib::IntPoint at) {
  return {static_cast<double>(at.X) / perMillimetre, static_cast<double>(at.Y) / perMillimetre};
}
/// Of a closed chain, off by `closeness` mm at most.
ClipperLib::Path polygonOf(const FlatChain& chain, double closeness);
/// Larger by that many mm on every side, with round corners; smaller below zero.
ClipperLib::Paths grownBy(const ClipperLib::Paths& paths, double by);
/// Of what they enclose, those that run clockwise taken off; mm².
double areaOf(const ClipperLib::Paths& paths);
/// The first, without what lies in the second.
ClipperLib::Paths without(const ClipperLib::Paths& from, const ClipperLib::Paths& what);

}  // namespace kervo
