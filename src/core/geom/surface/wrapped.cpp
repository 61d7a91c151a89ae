#include "geom/surface/wrapped.h"

#include <BRepLib.hxx>
#include <Geom2dAPI_Interpolate.hxx>
#include <Geom2dConvert.hxx>
#include <Geom2d_BSplineCurve.hxx>
#include <GeomAPI.hxx>
#include <Geom_TrimmedCurve.hxx>
#include <TColgp_HArray1OfPnt2d.hxx>
#include <algorithm>
#include <cmath>
#include <gp_GTrsf2d.hxx>

#include "base/say.h"
#include "geom/kernel/topology_body.h"
#include "geom/surface/curve_samples.h"
#include "geom/surface/wrapping.h"

namespace kervo {

namespace {

PlanePoint localOf(const Plane& plane, Point point) {
  const Vector local = plane.coordinates(point);
  return {local.x, local.y};
}

/// On a cylinder: exactly the curve's own poles, mapped.
Handle(Geom2d_BSplineCurve) mappedExactly(const SpaceCurve& curve, const Plane& plane, const Wrapping& wrapping) {
  const CurveChain chain = chainsOf(curveBody({curve}, {})).front();
  const CurveStretch& stretch = chain.stretches.front();
  const Handle(Geom_Curve) trimmed = new Geom_TrimmedCurve(stretch.curve, stretch.from, stretch.to);
  Handle(Geom2d_BSplineCurve) flat =
      Geom2dConvert::CurveToBSplineCurve(GeomAPI::To2d(trimmed, toPln(plane)), Convert_QuasiAngular);
  const gp_GTrsf2d map = wrapping.linear();
  for (int i = 1; i <= flat->NbPoles(); ++i) {
    gp_XY pole = flat->Pole(i).XY();
    map.Transforms(pole);
    flat->SetPole(i, pole);
  }
  return flat;
}

/// On a cone: through places as close as 1e-6 needs.
Handle(Geom2d_BSplineCurve) mappedThrough(const SpaceCurve& curve, const Plane& plane, const Wrapping& wrapping) {
  constexpr int places = 96;
  Handle(TColgp_HArray1OfPnt2d) points = new TColgp_HArray1OfPnt2d(1, places + 1);
  for (int i = 0; i <= places; ++i)
    points->SetValue(i + 1, wrapping.at(localOf(plane, curve.at(static_cast<double>(i) / places))));
  Geom2dAPI_Interpolate spline(points, false, tolerance::rounding);
  spline.Perform();
  return spline.Curve();
}

}  // namespace

Shape wrapped(const std::vector<SpaceCurve>& curves, const Plane& plane, const Face& face) {
  return kernelCall("wrapping", [&] {
    const Wrapping wrapping(plane, face.body().face);
    double least = Box::infinity, most = -Box::infinity;
    std::vector<CurveChain> stretches;
    for (const SpaceCurve& curve : curves) {
      constexpr int asked = 64;
      for (int i = 0; i <= asked; ++i) {
        const double angle = wrapping.at(localOf(plane, curve.at(static_cast<double>(i) / asked))).X();
        least = std::min(least, angle);
        most = std::max(most, angle);
      }
      const bool segment = std::holds_alternative<Segment>(curve.form());
      const gp_Pnt2d from = wrapping.at(localOf(plane, curve.at(0))), to = wrapping.at(localOf(plane, curve.at(1)));
      if (segment && wrapping.straight() && std::abs(from.X() - to.X()) < tolerance::rounding) {
        stretches.push_back({{lineFrom(fromPnt(wrapping.surface()->Value(from.X(), from.Y())),
                                       fromPnt(wrapping.surface()->Value(to.X(), to.Y())))}});
        continue;
      }
      if (segment && wrapping.straight() && std::abs(from.Y() - to.Y()) < tolerance::rounding) {
        const Handle(Geom_Curve) round = wrapping.surface()->VIso(from.Y());
        const CurveStretch ahead{round, std::min(from.X(), to.X()), std::max(from.X(), to.X())};
        stretches.push_back({{from.X() < to.X() ? ahead : ahead.reversed()}});
        continue;
      }
      const Handle(Geom2d_BSplineCurve) flat =
          wrapping.straight() ? mappedExactly(curve, plane, wrapping) : mappedThrough(curve, plane, wrapping);
      TopoDS_Edge edge = BRepBuilderAPI_MakeEdge(flat, wrapping.surface());
      if (!BRepLib::BuildCurve3d(edge, tolerance::point))
        throw Error(say("a curve cannot be wrapped"), "", say("Simplify the curve"));
      const auto made = chainsOf(edge);
      stretches.insert(stretches.end(), made.begin(), made.end());
    }
    if (most - least > 2 * M_PI + tolerance::sameDirection)
      throw Error(say("the curves are longer than the way round the face"), "",
                  say("Make them shorter, or the face larger"));
    return chained(stretches);
  });
}

}  // namespace kervo
