// Inside of Region. For src/core/geom only.
#pragma once

#include <TopExp_Explorer.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>

#include "geom/kernel/shape_body.h"
#include "geom/sweep/profile.h"

namespace kervo {

struct RegionBody {
  std::string name;
  Plane plane;
  TopoDS_Face face;              ///< normal along the plane's; edges with the region to their left
  ShapeMap<std::string> curves;  ///< edge → id of its curve
  double area = 0;
  int islands = 0;
  Box box;       ///< in space
  Box planeBox;  ///< in the plane's coordinates

  /// Of a face made of edges whose curves are given by `curveOf`; measures it.
  template <class CurveOf>
  static RegionBody of(std::string name, const Plane& plane, const TopoDS_Face& face, CurveOf&& curveOf) {
    RegionBody body{std::move(name), plane, face, {}, 0, -1, {}, {}};
    for (TopExp_Explorer it(face, TopAbs_WIRE); it.More(); it.Next()) ++body.islands;
    for (TopExp_Explorer it(face, TopAbs_EDGE); it.More(); it.Next())
      body.curves.emplace(it.Current(), curveOf(it.Current()));
    body.measure();
    return body;
  }

 private:
  void measure();
};

/// Which loops lie in which: faces on `plane` from closed wires that do not meet each other.
std::vector<TopoDS_Face> nestedFaces(const Plane& plane, const std::vector<TopoDS_Wire>& loops, Progress& progress);

}  // namespace kervo
