// Edges of a solid rounded or chamfered.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/progress.h"
#include "geom/topology.h"

namespace kervo {

/// A solid whose edges were blended.
struct BlendedEdges {
  Shape solid;
  int edges = 0;  ///< blended ones: those given, and those that continue one of them tangentially
};

/// Of a round, in mm: at one end of each edge and at the other; in between it changes evenly.
struct RoundSize {
  double radius = 0;
  std::optional<double> end = {};  ///< nothing: the same
  bool flip = false;               ///< the two change places
  std::vector<double> own = {};    ///< of the edges given, in their order: 0 or none: as the rest
};

/// Of a chamfer, in mm from the edge: on one face, and on the other.
struct ChamferSize {
  double first = 0;
  std::optional<double> second = {};  ///< nothing: the same
  bool flip = false;                  ///< the two change faces
  std::vector<double> own = {};       ///< of the edges given, in their order: 0 or none: as the rest
};

/// The solid with edges rounded to a radius; edges that continue one of them tangentially are rounded with it. New
/// faces are named `name`:blend:(a|b) by the names a, b of the faces along the edge, corners `name`:corner. Throws
/// Error if the radius does not fit (the kernel then says done but gives an invalid body: that is checked), or edges
/// that continue each other have radii of their own that differ.
BlendedEdges roundEdges(const std::string& name, const Shape& solid, const std::vector<Edge>& edges, RoundSize size,
                        Progress& progress);

/// The same with a flat chamfer. The first distance is on the face that most of the edges have in common, otherwise on
/// the one whose name comes first. New faces are named `name`:chamfer:(a|b).
BlendedEdges chamferEdges(const std::string& name, const Shape& solid, const std::vector<Edge>& edges, ChamferSize size,
                          Progress& progress);

}  // namespace kervo
