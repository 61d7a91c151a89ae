// Every tolerance that geometry is judged by, each with its reason. Lengths in mm, angles in radians.
#pragma once

namespace kervo::tolerance {

/// Points closer than this are one point: the geometry kernel's own precision.
inline constexpr double point = 1e-7;
/// Directions that differ by less are parallel; 1e-9 over the largest model (1 km) is 1 µm.
inline constexpr double parallel = 1e-9;
/// Lengths of vectors below this say no direction; sines below it say that planes or lines are the same.
inline constexpr double direction = 1e-9;
/// Volumes, areas and lengths that are the same differ by no more than this share: what boundary integrals are good to.
inline constexpr double relative = 1e-9;
/// Parameters of curves, rises and sines that differ by less differ by rounding only.
inline constexpr double rounding = 1e-12;
/// … and in flux integrals and interpolations, where no precision is to be given away.
inline constexpr double finest = 1e-14;
/// Surfaces and curves of bodies are the same one if their axes and radii agree to these: a body brought in from
/// another program holds them in some ten digits.
inline constexpr double sameDirection = 1e-7;
inline constexpr double samePlace = 1e-6;
inline constexpr double sameLine = 1e-5;
/// Steps taken to find a derivative, and shares of a parameter's range that count as all of it.
inline constexpr double parameterStep = 1e-6;
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
/// Faces whose borders are nearer than this are sewn together: what the kernel leaves open where offset faces meet.
inline constexpr double sewing = 1e-5;
/// Cutters are made to reach this much beyond what they cut, and results may lie this much outside of their room.
inline constexpr double room = 1e-4;
/// A result's area may differ from what it should be by this share before it counts as another shape.
inline constexpr double sameArea = 1e-3;
/// A stored sample point still counts as lying on a face or edge within this distance.
inline constexpr double samplePoint = 1e-3;

}  // namespace kervo::tolerance
