// Outlines of faces on planes and unrolled cylinders: runs along edges, put together to loops and to new faces. For
// src/core/geom only.
#pragma once

#include <Geom_Surface.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Vertex.hxx>
#include <TopoDS_Wire.hxx>
#include <gp_Cylinder.hxx>
#include <gp_Pln.hxx>
#include <optional>
#include <vector>

#include "geom/sweep/profile.h"

namespace kervo {

/// Thrown where outlines do not follow clearly from what is known, so that the kernel's intersection has to find them.
struct LeftToKernel {};

/// One run along an edge in an outline, with its ends in the coordinates of the plane, or of the unrolled cylinder (mm
/// about its axis and along it).
struct Run {
  TopoDS_Edge edge;
  TopoDS_Vertex first, last;
  PlanePoint from, to;
};
using Loop = std::vector<Run>;

/// What the coordinates of Run are measured in. Throws LeftToKernel for faces of other surfaces.
class Chart {
 public:
  explicit Chart(const TopoDS_Face& face);

  /// Taken forward.
  const TopoDS_Face& face() const { return face_; }
  bool isPlane() const { return plane_.has_value(); }
  /// Throw LeftToKernel for the other surface.
  const gp_Pln& plane() const;
  const gp_Cylinder& cylinder() const;

  Run run(const TopoDS_Edge& edge) const;
  /// Enclosed by a loop on a plane, in mm²; less than zero if it runs clockwise. Its sign is exact where there are
  /// other curves than lines and arcs, its value is not.
  double areaOf(const Loop& loop) const;

 private:
  PlanePoint flat(const gp_Pnt& point) const;

  TopoDS_Face face_;
  std::optional<gp_Pln> plane_;
  std::optional<gp_Cylinder> cylinder_;
};

/// Runs put together to closed loops. Throws LeftToKernel if one does not close, or touches itself.
std::vector<Loop> loopsOf(const std::vector<Run>& runs);

/// The part of the face's surface within a loop, forward.
TopoDS_Face faceWithin(const TopoDS_Face& original, const Loop& loop);

/// A wire that goes into whichever face has it inside.
struct Hole {
  TopoDS_Wire wire;
  PlanePoint point;
};

/// Flat faces within the loops that run counter-clockwise, each with its holes: those given, and the other loops.
std::vector<TopoDS_Face> flatFaces(const Chart& chart, const std::vector<Loop>& loops, std::vector<Hole> holes);

}  // namespace kervo
