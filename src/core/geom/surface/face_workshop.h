// Shapes in which faces are replaced. For src/core/geom/surface only.
#pragma once

#include <ShapeBuild_ReShape.hxx>
#include <vector>

#include "geom/kernel/shape_body.h"
#include "geom/surface/reseated_faces.h"

namespace kervo {

/// A shape's topology copied, with what is known of its faces, so that faces can be replaced in it.
class FaceWorkshop {
 public:
  explicit FaceWorkshop(const Shape& shape);

  struct Place {
    TopoDS_Face face;
    FaceFacts facts;
    int number;  ///< in the shape as it was, from 1
  };
  std::vector<Place>& faces() { return faces_; }
  const TopoDS_Shape& topology() const { return topology_; }

  /// One face in place of another.
  void replace(Place& place, const TopoDS_Face& by);
  /// Divides faces every 90°; those that cannot be stay whole.
  void divide(const std::vector<char>& which);
  Reseated result(const Shape& original);

 private:
  std::vector<TopoDS_Face> partsOf(const TopoDS_Face& face);

  TopoDS_Shape topology_;
  std::vector<Place> faces_;
  Handle(ShapeBuild_ReShape) reshape_ = new ShapeBuild_ReShape;
  std::vector<int> replaced_;
};

}  // namespace kervo
