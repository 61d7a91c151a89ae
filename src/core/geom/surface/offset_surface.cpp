#include "geom/surface/offset_surface.h"

#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepLProp_SLProps.hxx>
#include <algorithm>
#include <cmath>

#include "base/quantity.h"
#include "base/say.h"
#include "geom/divide/checked_intersection.h"
#include "geom/measure/soundness.h"
#include "geom/place_text.h"
#include "geom/surface/kernel_offset.h"

namespace kervo {

namespace {

constexpr int placesAcross = 20;
/// A radius above this counts as flat, mm.
constexpr double flat = 1e6;

}  // namespace

std::optional<Bend> tightestBend(const Shape& surface, bool front) {
  return kernelCall("measuring how a surface is bent", [&] {
    std::optional<Bend> tightest;
    Sides sides;
    for (TopExp_Explorer it(surface.body().topology, TopAbs_FACE); it.More(); it.Next()) {
      const TopoDS_Face face = TopoDS::Face(it.Current());
      const BRepAdaptor_Surface geometry(face, false);
      if (geometry.GetType() == GeomAbs_Plane) continue;
      double u0, u1, v0, v1;
      BRepTools::UVBounds(face, u0, u1, v0, v1);
      const bool reversed = face.Orientation() == TopAbs_REVERSED;
      for (int i = 0; i <= placesAcross; ++i)
        for (int k = 0; k <= placesAcross; ++k) {
          const double u = u0 + (u1 - u0) * i / placesAcross, v = v0 + (v1 - v0) * k / placesAcross;
          BRepLProp_SLProps properties(geometry, u, v, 2, tolerance::rounding);
          if (!properties.IsCurvatureDefined()) continue;
          // Positive curvature bends towards the surface's own normal.
          const bool towards = front != reversed;
          const double most = towards ? properties.MaxCurvature() : -properties.MinCurvature();
          if (most < 1 / flat || (tightest && 1 / most >= tightest->radius)) continue;
          if (!sides.isInFace({u, v}, face) && i > 0 && k > 0 && i < placesAcross && k < placesAcross) continue;
          tightest = Bend{fromPnt(properties.Value()), 1 / most};
        }
    }
    return tightest;
  });
}

void requireNoFold(const Shape& surface, double by) {
  const auto bend = tightestBend(surface, by > 0);
  if (!bend || bend->radius > std::abs(by) * (1 + tolerance::relative)) return;
  throw Error(say("it would fold at %1, where the surface is bent with a radius of %2 mm", placeText(bend->place),
                  formatNumber(bend->radius, 4)),
              "", say("Stay below %1 mm, or go to the other side", formatNumber(bend->radius, 4)));
}

Shape offsetSurface(const Shape& surface, double by, const std::string& name, Progress& progress) {
  if (surface.empty() || surface.kind() != BodyKind::Surface)
    throw Error(say("only a surface can be offset like this"), "", say("Lift faces off the body first"));
  if (std::abs(by) < tolerance::smallestSize)
    throw Error(say("the distance is %1 mm", formatNumber(by)), "", say("Type a distance other than zero"));
  requireNoFold(surface, by);
  const Error fails(say("the surface cannot be offset by %1 mm with all faces in place", formatNumber(by)), "",
                    say("Try a smaller distance, or offset fewer faces at once"));
  return kernelCall("offsetting the surface", [&] {
    const Offset offset = offsetOf(surface.body().topology, by, GeomAbs_Intersection, false);
    progress.throwIfStopped();
    if (offset.shape.IsNull()) throw fails;
    FaceTable table;
    for (const auto& [face, image] : offset.images)
      if (const auto known = surface.body().faces.find(face); known != surface.body().faces.end())
        table.emplace(image, FaceFacts{known->second.origins, known->second.color, false});
    Shape result = makeShape(offset.shape, std::move(table), name + ":between");
    if (result.kind() != BodyKind::Surface || result.faceCount() < surface.faceCount()) throw fails;
    if (!findFault(result.body(), progress).empty()) throw fails;
    Sides sides;
    for (const TopoDS_Face& face : facesOf(result.body().topology)) {
      progress.throwIfStopped();
      const std::optional<gp_Pnt> point = sides.pointOn(face);
      if (!point) throw fails;
      const BRepExtrema_DistShapeShape apart(BRepBuilderAPI_MakeVertex(*point).Vertex(), surface.body().topology);
      if (!apart.IsDone() || std::abs(apart.Value() - std::abs(by)) > tolerance::room + 1e-3 * std::abs(by))
        throw fails;
    }
    return result;
  });
}

}  // namespace kervo
