#include "geom/surface/seam_aside.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <ShapeUpgrade_UnifySameDomain.hxx>
#include <TopTools_MapOfShape.hxx>
#include <algorithm>
#include <cmath>
#include <numbers>
#include <optional>

#include "geom/faces/carried_faces.h"
#include "geom/kernel/call.h"
#include "geom/kernel/convert.h"
#include "geom/kernel/shape_body.h"
#include "geom/measure/soundness.h"
#include "geom/motion.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

constexpr double turn = 2 * std::numbers::pi;

/// The axis that a surface goes round; nothing for planes and free-form ones. Of a sphere: through its poles.
std::optional<gp_Ax1> axisOf(const BRepAdaptor_Surface& surface) {
  switch (surface.GetType()) {
    case GeomAbs_Cylinder:
      return surface.Cylinder().Axis();
    case GeomAbs_Cone:
      return surface.Cone().Axis();
    case GeomAbs_Sphere:
      return surface.Sphere().Position().Axis();
    case GeomAbs_Torus:
      return surface.Torus().Axis();
    case GeomAbs_SurfaceOfRevolution:
      return surface.AxeOfRevolution();
    default:
      return std::nullopt;
  }
}

bool isRoundAbout(const gp_Ax1& axis, const TopoDS_Edge& edge) {
  const BRepAdaptor_Curve curve(edge);
  if (curve.GetType() != GeomAbs_Circle) return false;
  const gp_Circ circle = curve.Circle();
  return gp_Lin(axis).Distance(circle.Location()) < tolerance::point &&
         circle.Axis().IsParallel(axis, tolerance::sameDirection);
}

/// The axis that all faces go round; nothing if one does not.
std::optional<gp_Ax1> commonAxis(const Shape& surface) {
  if (surface.empty() || surface.kind() != BodyKind::Surface) return std::nullopt;
  const std::vector<TopoDS_Face> faces = facesOf(surface.body().topology);
  std::optional<gp_Ax1> common;
  for (const TopoDS_Face& face : faces) {
    const auto axis = axisOf(BRepAdaptor_Surface(face, false));
    if (!axis) continue;
    if (!common) common = axis;
    // The direction may be the other way round.
    if (!axis->IsCoaxial(*common, tolerance::sameDirection, tolerance::point) &&
        !axis->Reversed().IsCoaxial(*common, tolerance::sameDirection, tolerance::point))
      return std::nullopt;
  }
  if (!common) return std::nullopt;
  for (const TopoDS_Face& face : faces)
    for (TopExp_Explorer it(face, TopAbs_EDGE); it.More(); it.Next()) {
      const TopoDS_Edge& edge = TopoDS::Edge(it.Current());
      const bool seam = BRep_Tool::Degenerated(edge) || BRep_Tool::IsClosed(edge, face);
      if (!seam && !isRoundAbout(*common, edge)) return std::nullopt;
    }
  return common;
}

/// The angle about the axis, from 0 to a whole turn; nothing on the axis.
std::optional<double> angleOf(const gp_Ax2& about, const gp_Pnt& point) {
  const gp_Vec way(about.Location(), point);
  const double x = way.Dot(about.XDirection()), y = way.Dot(about.YDirection());
  if (std::hypot(x, y) < tolerance::point) return std::nullopt;
  const double angle = std::atan2(y, x);
  return angle < 0 ? angle + turn : angle;
}

std::vector<double> anglesAlong(const TopoDS_Edge& edge, const gp_Ax2& about) {
  constexpr int samples = 64;
  std::vector<double> angles;
  const BRepAdaptor_Curve curve(edge);
  for (int i = 0; i <= samples; ++i) {
    const double share = static_cast<double>(i) / samples;
    const double t = curve.FirstParameter() + (curve.LastParameter() - curve.FirstParameter()) * share;
    if (const auto angle = angleOf(about, curve.Value(t))) angles.push_back(*angle);
  }
  return angles;
}

/// Where the first seam is; nothing if there is none, as on a flat ring.
std::optional<double> seamOf(const Shape& surface, const gp_Ax2& about) {
  for (const TopoDS_Face& face : facesOf(surface.body().topology))
    for (TopExp_Explorer it(face, TopAbs_EDGE); it.More(); it.Next()) {
      const TopoDS_Edge& edge = TopoDS::Edge(it.Current());
      if (BRep_Tool::Degenerated(edge) || !BRep_Tool::IsClosed(edge, face)) continue;
      const BRepAdaptor_Curve curve(edge);
      if (const auto angle = angleOf(about, curve.Value((curve.FirstParameter() + curve.LastParameter()) / 2)))
        return angle;
    }
  return std::nullopt;
}

}  // namespace

bool hasSeamToTurn(const Shape& surface) {
  return kernelCall("looking for seams", [&] { return commonAxis(surface).has_value(); });
}

Shape withSeamAside(const Shape& surface, const Shape& curvesOnIt) {
  if (curvesOnIt.empty()) return surface;
  return kernelCall("turning a seam", [&] {
    const auto axis = commonAxis(surface);
    if (!axis) return surface;
    const gp_Ax2 about(axis->Location(), axis->Direction());
    const auto seam = seamOf(surface, about);
    std::vector<double> angles;
    for (TopExp_Explorer it(curvesOnIt.body().topology, TopAbs_EDGE); it.More(); it.Next())
      for (const double angle : anglesAlong(TopoDS::Edge(it.Current()), about)) angles.push_back(angle);
    if (!seam || angles.empty()) return surface;
    std::sort(angles.begin(), angles.end());
    double widest = angles.front() + turn - angles.back(), middle = angles.back() + widest / 2;
    for (std::size_t i = 0; i + 1 < angles.size(); ++i)
      if (const double gap = angles[i + 1] - angles[i]; gap > widest) widest = gap, middle = angles[i] + gap / 2;
    // Two samples of one curve are no gap.
    constexpr double enough = std::numbers::pi / 18;
    if (widest < enough) return surface;
    // All faces go all round: turned, the surface is where it was.
    return moved(surface, Motion::turn(fromPnt(axis->Location()), fromDir(axis->Direction()), middle - *seam));
  });
}

Shape withoutSeamsOf(const Shape& surface, const Shape& part) {
  if (surface.empty() || part.empty() || part.faceCount() < 2) return part;
  return kernelCall("removing a seam", [&] {
    std::vector<TopoDS_Edge> seams;
    for (const TopoDS_Face& face : facesOf(surface.body().topology))
      for (TopExp_Explorer it(face, TopAbs_EDGE); it.More(); it.Next()) {
        const TopoDS_Edge& edge = TopoDS::Edge(it.Current());
        if (!BRep_Tool::Degenerated(edge) && BRep_Tool::IsClosed(edge, face)) seams.push_back(edge);
      }
    const auto liesOnSeam = [&](const TopoDS_Edge& edge) {
      const BRepAdaptor_Curve curve(edge);
      const gp_Pnt middle = curve.Value((curve.FirstParameter() + curve.LastParameter()) / 2);
      return std::any_of(seams.begin(), seams.end(), [&](const TopoDS_Edge& seam) {
        const BRepExtrema_DistShapeShape distance(seam, BRepBuilderAPI_MakeVertex(middle).Vertex());
        return distance.IsDone() && distance.Value() < tolerance::samePlace;
      });
    };
    TopTools_IndexedDataMapOfShapeListOfShape facesAt;
    TopExp::MapShapesAndAncestors(part.body().topology, TopAbs_EDGE, TopAbs_FACE, facesAt);
    TopTools_MapOfShape keep;
    bool any = false;
    for (int i = 1; i <= facesAt.Extent(); ++i) {
      const TopoDS_Edge& edge = TopoDS::Edge(facesAt.FindKey(i));
      const bool divides = facesAt(i).Extent() == 2 && !facesAt(i).First().IsSame(facesAt(i).Last()) &&
                           !BRep_Tool::Degenerated(edge) && liesOnSeam(edge);
      any |= divides;
      if (!divides) keep.Add(edge);
    }
    if (!any) return part;
    ShapeUpgrade_UnifySameDomain unify(part.body().topology, false, true, false);
    unify.KeepShapes(keep);
    unify.Build();
    const Shape whole = carriedAlong(unify.Shape(), part.body().faces, *unify.History());
    const bool same = std::abs(whole.area() - part.area()) <= tolerance::balance * part.area();
    Progress progress;
    return same && findFault(whole.body(), progress).empty() ? whole : part;
  });
}

}  // namespace kervo
