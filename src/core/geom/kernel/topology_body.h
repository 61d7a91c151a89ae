// Inside of Face and Edge. For src/core/geom only.
#pragma once

#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <gp_Dir.hxx>
#include <gp_Pnt.hxx>

#include "geom/kernel/shape_body.h"
#include "geom/topology.h"

namespace kervo {

struct FaceBody {
  TopoDS_Face face;  ///< oriented as in its body
  Origins origins;
  double area = 0;
  bool flawed = false;
};

struct EdgeBody {
  TopoDS_Edge edge;
  Origins first;
  Origins second;
};

/// The unit normal on the face's outer side, at the point of its surface that is nearest to `point`.
gp_Dir outwardNormal(const TopoDS_Face& face, const gp_Pnt& point);

}  // namespace kervo
