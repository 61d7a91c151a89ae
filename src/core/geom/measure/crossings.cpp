#include "geom/measure/crossings.h"

#include <IntCurvesFace_ShapeIntersector.hxx>
#include <algorithm>

#include "geom/kernel/topology_body.h"

namespace kervo {

struct Crossings::Inside {
  IntCurvesFace_ShapeIntersector meeting;
  std::vector<Face> faces;
};

Crossings::Crossings(const Shape& body) : inside_(std::make_unique<Inside>()) {
  inside_->faces = facesOf(body);
  inside_->meeting.Load(body.body().topology, tolerance::point);
}

Crossings::~Crossings() = default;

std::vector<LineCrossing> Crossings::along(Point from, Vector way) const {
  return kernelCall("following a line through a body", [&] {
    IntCurvesFace_ShapeIntersector& meeting = inside_->meeting;
    meeting.Perform(gp_Lin(toPnt(from), toDir(way)), -RealLast(), RealLast());
    std::vector<LineCrossing> result;
    for (int i = 1; i <= meeting.NbPnt(); ++i) {
      const double across = outwardNormal(meeting.Face(i), meeting.Pnt(i)).Dot(toDir(way));
      if (std::abs(across) < tolerance::sameDirection) continue;
      const auto its = std::find_if(inside_->faces.begin(), inside_->faces.end(),
                                    [&](const Face& each) { return each.body().face.IsSame(meeting.Face(i)); });
      if (its != inside_->faces.end()) result.push_back({meeting.WParameter(i), across > 0, *its});
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

std::vector<LineCrossing> crossings(const Shape& body, Point from, Vector way) {
  return Crossings(body).along(from, way);
}

}  // namespace kervo
