#include "geom/surface/seam_aside.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepTools.hxx>
#include <Geom_ElementarySurface.hxx>
#include <Geom_RectangularTrimmedSurface.hxx>
#include <algorithm>
#include <cmath>
#include <numbers>

#include "geom/kernel/call.h"
#include "geom/kernel/elementary.h"
#include "geom/kernel/shape_body.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

constexpr double turn = 2 * std::numbers::pi;

/// The only face of such a surface; null if it is none.
TopoDS_Face roundFace(const Shape& surface) {
  if (surface.empty() || surface.kind() != BodyKind::Surface || surface.faceCount() != 1) return {};
  TopoDS_Face face = TopoDS::Face(facesOf(surface.body().topology).front().Oriented(TopAbs_FORWARD));
  const BRepAdaptor_Surface under(face, false);
  if (under.GetType() == GeomAbs_Plane || under.GetType() > GeomAbs_Torus) return {};
  double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
  BRepTools::UVBounds(face, u0, u1, v0, v1);
  if (std::abs(u1 - u0 - turn) > tolerance::sameDirection) return {};
  for (TopExp_Explorer it(face, TopAbs_EDGE); it.More(); it.Next()) {
    const TopoDS_Edge& edge = TopoDS::Edge(it.Current());
    if (BRep_Tool::Degenerated(edge) || BRep_Tool::IsClosed(edge, face)) continue;
    double first = 0, last = 0;
    const Handle(Geom2d_Curve) curve = BRep_Tool::CurveOnSurface(edge, face, first, last);
    if (curve.IsNull() || std::abs(curve->Value(first).Y() - curve->Value(last).Y()) > tolerance::point ||
        std::abs(curve->Value(first).Y() - curve->Value((first + last) / 2).Y()) > tolerance::point)
      return {};
  }
  return face;
}

}  // namespace

bool hasSeamToTurn(const Shape& surface) {
  return !roundFace(surface).IsNull();
}

Shape withSeamAside(const Shape& surface, const Shape& curvesOnIt) {
  const TopoDS_Face face = roundFace(surface);
  if (face.IsNull() || curvesOnIt.empty()) return surface;
  return kernelCall("turning a seam", [&] {
    const BRepAdaptor_Surface under(face, false);
    constexpr int samples = 64;
    std::vector<double> angles;
    for (TopExp_Explorer it(curvesOnIt.body().topology, TopAbs_EDGE); it.More(); it.Next()) {
      const BRepAdaptor_Curve curve(TopoDS::Edge(it.Current()));
      for (int i = 0; i <= samples; ++i) {
        const double t = curve.FirstParameter() + (curve.LastParameter() - curve.FirstParameter()) * i / samples;
        if (const auto at = parametersOn(under, curve.Value(t))) angles.push_back(at->X());
      }
    }
    if (angles.empty()) return surface;
    std::sort(angles.begin(), angles.end());
    double widest = angles.front() + turn - angles.back(), seam = angles.back() + widest / 2;
    for (std::size_t i = 0; i + 1 < angles.size(); ++i)
      if (const double gap = angles[i + 1] - angles[i]; gap > widest) widest = gap, seam = angles[i] + gap / 2;
    // Two samples of one curve are no gap.
    constexpr double enough = std::numbers::pi / 18;
    if (widest < enough) return surface;
    Handle(Geom_Surface) plain = BRep_Tool::Surface(face);
    if (const auto trimmed = Handle(Geom_RectangularTrimmedSurface)::DownCast(plain); !trimmed.IsNull())
      plain = trimmed->BasisSurface();
    const Handle(Geom_ElementarySurface) turned = Handle(Geom_ElementarySurface)::DownCast(plain->Copy());
    if (turned.IsNull()) return surface;
    // Of left-handed axes u grows the other way round.
    turned->Rotate(turned->Axis(), turned->Position().Direct() ? seam : -seam);
    double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
    BRepTools::UVBounds(face, u0, u1, v0, v1);
    const BRepBuilderAPI_MakeFace made(turned, 0, turn, v0, v1, tolerance::point);
    if (!made.IsDone()) return surface;
    TopoDS_Face result = made.Face();
    const TopoDS_Face given = facesOf(surface.body().topology).front();
    result.Orientation(given.Orientation());
    const FaceFacts& facts = factsOf(surface, given);
    FaceTable table;
    table.emplace(result, FaceFacts{facts.origins, facts.color, false});
    const Shape aside = makeShape(result, std::move(table), "face:");
    return std::abs(aside.area() - surface.area()) <= tolerance::relative * surface.area() ? aside : surface;
  });
}

}  // namespace kervo
