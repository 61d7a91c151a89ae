#include "geom/sweep/helical_groove.h"

#include <BRepBuilderAPI_MakePolygon.hxx>
#include <GeomAPI_Interpolate.hxx>
#include <GeomFill.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_BSplineSurface.hxx>
#include <TColgp_HArray1OfPnt.hxx>
#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/quantity.h"
#include "base/say.h"
#include "geom/kernel/topology_body.h"
#include "geom/planes.h"
#include "geom/surface/sewn.h"

namespace kervo {

namespace {

constexpr double round = 2 * std::numbers::pi;
constexpr int perTurn = 64;

class Helix {
 public:
  explicit Helix(const HelixForm& form) : form_(form) {}

  double end() const { return round * (form_.to - form_.from) / form_.pitch; }
  Point at(PlanePoint corner, double angle) const {
    const double turned = form_.right ? angle : -angle;
    return form_.at.at(corner.u * std::cos(turned), corner.u * std::sin(turned),
                       form_.from + corner.v + form_.pitch * angle / round);
  }
  gp_Vec wayAt(PlanePoint corner, double angle) const {
    const double turned = form_.right ? angle : -angle, sense = form_.right ? 1 : -1;
    return toVec(form_.at.x * (-sense * corner.u * std::sin(turned)) +
                 form_.at.y * (sense * corner.u * std::cos(turned)) + form_.at.normal * (form_.pitch / round));
  }
  /// Between two angles, with the exact directions at its ends.
  Handle(Geom_BSplineCurve) curve(PlanePoint corner, double from, double to) const {
    const int count = std::max(4, static_cast<int>(std::ceil(perTurn * (to - from) / round))) + 1;
    Handle(TColgp_HArray1OfPnt) points = new TColgp_HArray1OfPnt(1, count);
    Handle(TColStd_HArray1OfReal) angles = new TColStd_HArray1OfReal(1, count);
    for (int i = 1; i <= count; ++i) {
      const double angle = from + (to - from) * (i - 1) / (count - 1);
      points->SetValue(i, toPnt(at(corner, angle)));
      angles->SetValue(i, angle);
    }
    GeomAPI_Interpolate through(points, angles, false, tolerance::point / 10);
    through.Load(wayAt(corner, from), wayAt(corner, to), false);
    through.Perform();
    if (!through.IsDone()) throw Error(say("the kernel made no helix"));
    return through.Curve();
  }

 private:
  HelixForm form_;
};

}  // namespace

Shape helicalGroove(const HelixForm& form, const std::vector<PlanePoint>& section, const std::string& name,
                    Progress& progress) {
  Span height;
  for (const PlanePoint& corner : section) height.add(corner.v);
  if (height.high - height.low >= form.pitch)
    throw Error(say("a thread of %1 mm pitch runs into itself", formatNumber(form.pitch, 6)));
  return kernelCall("making a thread", [&] {
    const Helix helix(form);
    std::vector<Shape> faces;
    const auto add = [&](const TopoDS_Face& face, const std::string& called) {
      faces.push_back(makeShape(face, {}, called));
    };
    const int turns = std::max(1, static_cast<int>(std::ceil(helix.end() / round - tolerance::relative)));
    for (int turn = 0; turn < turns; ++turn) {
      progress.throwIfStopped();
      const double from = helix.end() * turn / turns, to = helix.end() * (turn + 1) / turns;
      std::vector<Handle(Geom_BSplineCurve)> corners;
      for (const PlanePoint& corner : section) corners.push_back(helix.curve(corner, from, to));
      for (std::size_t i = 0; i < section.size(); ++i)
        add(BRepBuilderAPI_MakeFace(GeomFill::Surface(corners[i], corners[(i + 1) % section.size()]), tolerance::point)
                .Face(),
            name + ":flank" + std::to_string(i + 1));
    }
    for (const double angle : {0.0, helix.end()}) {
      BRepBuilderAPI_MakePolygon border;
      for (const PlanePoint& corner : section) border.Add(toPnt(helix.at(corner, angle)));
      border.Close();
      add(BRepBuilderAPI_MakeFace(border.Wire(), true).Face(), name + ":end");
    }
    return solidWithin(sewn(faces, tolerance::sewing, progress).shape, progress);
  });
}

}  // namespace kervo
