#include "geom/measure/crossings.h"

#include <IntCurvesFace_ShapeIntersector.hxx>
#include <algorithm>

#include "geom/kernel/topology_body.h"

namespace kervo {

std::vector<LineCrossing> crossings(const Shape& body, Point from, Vector way) {
  return kernelCall("following a line through a body", [&] {
    IntCurvesFace_ShapeIntersector meeting;
    meeting.Load(body.body().topology, tolerance::point);
    meeting.Perform(gp_Lin(toPnt(from), toDir(way)), -RealLast(), RealLast());
    std::vector<LineCrossing> result;
    std::vector<Face> faces;
    for (int i = 1; i <= meeting.NbPnt(); ++i) {
      const double across = outwardNormal(meeting.Face(i), meeting.Pnt(i)).Dot(toDir(way));
      if (std::abs(across) < tolerance::sameDirection) continue;
      if (faces.empty()) faces = facesOf(body);
      const auto its = std::find_if(faces.begin(), faces.end(),
                                    [&](const Face& each) { return each.body().face.IsSame(meeting.Face(i)); });
      if (its != faces.end()) result.push_back({meeting.WParameter(i), across > 0, *its});
    }
    std::sort(result.begin(), result.end(), [](const LineCrossing& a, const LineCrossing& b) { return a.at < b.at; });
    // A line through an edge meets both of its faces.
    const auto same = [](const LineCrossing& a, const LineCrossing& b) {
      return a.out == b.out && b.at - a.at < tolerance::samePlace;
    };
    result.erase(std::unique(result.begin(), result.end(), same), result.end());
    return result;
  });
}

}  // namespace kervo
