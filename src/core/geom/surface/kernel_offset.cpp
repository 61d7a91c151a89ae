#include "geom/surface/kernel_offset.h"

#include "geom/kernel/shape_body.h"
#include "geom/tolerances.h"

namespace kervo {

Offset offsetOf(const TopoDS_Shape& shape, double by, GeomAbs_JoinType join, bool thickening) {
  BRepOffset_MakeOffset make;
  make.Initialize(shape, by, tolerance::sewing, BRepOffset_Skin, false, false, join, thickening);
  if (thickening)
    make.MakeThickSolid();
  else
    make.MakeOffsetShape();
  if (!make.IsDone() || make.Shape().IsNull()) return {};
  Offset result{make.Shape(), {}};
  for (const TopoDS_Face& face : facesOf(shape))
    for (const TopoDS_Shape& image : make.Generated(face))
      if (image.ShapeType() == TopAbs_FACE) result.images.emplace_back(face, image);
  return result;
}

}  // namespace kervo
