// Every tolerance that geometry is judged by, each with its reason. Lengths in mm, angles in radians.
#pragma once

namespace kervo::tolerance {

/// Points closer than this are one point: the geometry kernel's own precision.
inline constexpr double point = 1e-7;
/// Directions that differ by less are parallel; 1e-9 over the largest model (1 km) is 1 µm.
inline constexpr double parallel = 1e-9;
/// Volumes that must balance may differ by this share. Surface integrals here are good to 1e-9; intersection curves
/// of free-form faces are approximated by the kernel, which costs up to some 1e-7.
inline constexpr double balance = 1e-6;
/// A boolean that fails is tried again with points this far apart taken as one. Smaller values recovered none of the
/// failures that were measured, 1e-3 recovered all.
inline constexpr double fuzzy = 1e-3;
/// … and then with the cutter moved by this much; again the smallest moves that were seen to help.
inline constexpr double smallMove = 1.7e-5;
inline constexpr double largerMove = 1.7e-4;
/// Points nearer to a boundary count as on it, and say nothing about inside and outside.
inline constexpr double onBoundary = 1e-5;
/// Sizes below this are refused: they are smaller than the kernel can tell from nothing.
inline constexpr double smallestSize = 1e-5;
/// Sizes and places beyond this are refused (10 km): beyond it intersection curves are no longer found to a thousandth
/// of a millimetre.
inline constexpr double largestSize = 1e7;
/// Bodies that are smaller or larger across are refused: 1 µm to 10 km. In between volumes are exact to 1e-9, measured
/// from 0.3 µm to 1 km (tests/core/geom/sizes_test.cpp).
inline constexpr double smallestBody = 1e-3;
/// Edges that an intersection makes may be this inexact, if the bodies were not worse themselves. Good intersection
/// curves are within 3e-4; one that was 1e-2 off gave a volume wrong by 4e-4 although everything balanced.
inline constexpr double looseEdge = 1e-3;
/// A stored sample point still counts as lying on a face or edge within this distance.
inline constexpr double samplePoint = 1e-3;

}  // namespace kervo::tolerance
