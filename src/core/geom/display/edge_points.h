// Points along the edges of a shape for its mesh, the same for all faces at an edge. For src/core/geom only.
#pragma once

#include <Poly_Triangulation.hxx>
#include <TopLoc_Location.hxx>
#include <gp_Pnt.hxx>
#include <vector>

#include "geom/display/tessellate.h"
#include "geom/kernel/skeleton.h"

namespace kervo {

/// The mesh a face has, if it is as good as wanted; null otherwise.
Handle(Poly_Triangulation) meshOf(const TopoDS_Face& face, TopLoc_Location& place, double deflection);

/// Points along every edge (in space), as its curved neighbours were meshed, so that no gaps show.
class EdgePoints {
 public:
  EdgePoints(const Skeleton& skeleton, const MeshQuality& quality);

  bool isFlat(std::size_t face) const { return flat_[face]; }

  /// By the edge's number, in the direction of its curve.
  const std::vector<gp_Pnt>& of(std::size_t edge);
  /// For an edge whose face is meshed only now.
  void forget(std::size_t edge) { points_[edge].clear(); }
  /// Those of all visible edges, taken out of here.
  std::vector<std::vector<gp_Pnt>> taken() &&;

 private:
  std::vector<gp_Pnt> found(const Skeleton::EdgePart& part) const;
  /// As a face beside the edge has them: a curved one if there is one, for those of planes are the easier to change.
  std::vector<gp_Pnt> meshed(const TopoDS_Edge& edge, const std::vector<std::uint32_t>& faces) const;
  std::vector<gp_Pnt> meshed(const TopoDS_Edge& edge, const TopoDS_Face& face) const;
  /// Points on the curve itself. They are not kept with the edge: the kernel would take its box from them.
  std::vector<gp_Pnt> sampled(const TopoDS_Edge& edge) const;

  const Skeleton& skeleton_;
  MeshQuality quality_;
  std::vector<char> flat_;
  std::vector<std::vector<gp_Pnt>> points_;
};

}  // namespace kervo
