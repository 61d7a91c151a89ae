#include "geom/flat/section_face.h"

#include "geom/divide/boolean.h"
#include "geom/planes.h"
#include "geom/surface/sheet.h"
#include "geom/topology.h"

namespace kervo {

Shape sectionFace(const Shape& solid, const Plane& plane, Progress& progress) {
  const Box box = solid.roughBox();
  if (!crosses(plane, box)) return {};
  const Shape sheet = planarSheet(plane, box, "section");
  return divide(sheet, {solid}, progress).inside;
}

double edgeLength(const Shape& shape) {
  double sum = 0;
  for (const Edge& edge : edgesOf(shape)) sum += edge.length();
  return sum;
}

}  // namespace kervo
