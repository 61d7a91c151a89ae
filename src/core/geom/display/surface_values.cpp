#include "geom/display/surface_values.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRep_Tool.hxx>
#include <GeomLProp_SLProps.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_BSplineSurface.hxx>
#include <Geom_BezierCurve.hxx>
#include <Geom_BezierSurface.hxx>
#include <Poly_Triangulation.hxx>
#include <algorithm>
#include <cmath>
#include <functional>
#include <limits>
#include <numbers>

#include "geom/kernel/call.h"
#include "geom/kernel/convert.h"
#include "geom/kernel/elementary.h"
#include "geom/kernel/shape_body.h"
#include "geom/kernel/skeleton.h"
#include "geom/mesh/triangle_rays.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

constexpr float none = std::numeric_limits<float>::quiet_NaN();

/// The parameters of a mesh's vertices on the face's surface.
class VertexParameters {
 public:
  explicit VertexParameters(const TopoDS_Face& face) : surface_(face, false) {
    mesh_ = BRep_Tool::Triangulation(face, place_);
  }

  std::optional<gp_Pnt2d> of(std::size_t vertex, std::size_t count, const gp_Pnt& point) const {
    if (const auto known = parametersOn(surface_, point)) return known;
    if (mesh_.IsNull() || !mesh_->HasUVNodes() || static_cast<std::size_t>(mesh_->NbNodes()) != count)
      return std::nullopt;
    return mesh_->UVNode(static_cast<int>(vertex) + 1);
  }
  bool isPlane() const { return surface_.GetType() == GeomAbs_Plane; }

 private:
  BRepAdaptor_Surface surface_;
  TopLoc_Location place_;
  Handle(Poly_Triangulation) mesh_;
};

}  // namespace

std::vector<float> curvaturesOn(const Shape& shape, const BodyMesh& mesh) {
  std::vector<float> values(mesh.points.size() / 3, none);
  if (shape.empty() || shape.kind() == BodyKind::Curve) return values;
  return kernelCall("measuring how faces bend", [&] {
    const Skeleton& skeleton = skeletonOf(shape);
    for (std::size_t f = 0; f < skeleton.faces.size() && f < mesh.faceVertices.size(); ++f) {
      const TopoDS_Face& face = skeleton.faces[f];
      const VertexParameters parameters(face);
      const BodyMesh::Range range = mesh.faceVertices[f];
      // Curvatures count from the surface's own front.
      const double sign = face.Orientation() == TopAbs_REVERSED ? 1 : -1;
      const Handle(Geom_Surface) surface = BRep_Tool::Surface(face);
      for (std::uint32_t i = 0; i < range.count; ++i) {
        float& value = values[range.first + i];
        if (parameters.isPlane()) {
          value = 0;
          continue;
        }
        const float* at = &mesh.points[std::size_t{3} * (range.first + i)];
        const auto uv = parameters.of(i, range.count, gp_Pnt(double(at[0]), double(at[1]), double(at[2])));
        if (!uv) continue;
        GeomLProp_SLProps bend(surface, uv->X(), uv->Y(), 2, tolerance::point);
        if (!bend.IsCurvatureDefined()) continue;
        const double most = bend.MaxCurvature(), least = bend.MinCurvature();
        value = static_cast<float>(sign * (std::abs(most) > std::abs(least) ? most : least));
      }
    }
    return values;
  });
}

std::vector<float> draftOn(const BodyMesh& mesh, Vector along) {
  const Vector way = normalized(along);
  std::vector<float> values;
  for (std::size_t i = 0; i + 2 < mesh.normals.size(); i += 3) {
    const Vector normal{double(mesh.normals[i]), double(mesh.normals[i + 1]), double(mesh.normals[i + 2])};
    const double size = length(normal);
    values.push_back(size > 0 ? static_cast<float>(std::asin(std::clamp(dot(normal, way) / size, -1.0, 1.0)) * 180 /
                                                   std::numbers::pi)
                              : none);
  }
  return values;
}

std::vector<float> thicknessOn(const BodyMesh& mesh) {
  if (!mesh.closed) return std::vector<float>(mesh.points.size() / 3, none);
  constexpr double share = 1e-5;
  return waysThrough(mesh.points, mesh.normals, mesh.triangles, share * mesh.box.diagonal());
}

std::vector<Polyline> controlNetOf(const Shape& shape) {
  std::vector<Polyline> lines;
  if (shape.empty()) return lines;
  return kernelCall("finding control points", [&] {
    const Skeleton& skeleton = skeletonOf(shape);
    for (const TopoDS_Face& face : skeleton.faces) {
      const Handle(Geom_Surface) surface = BRep_Tool::Surface(face);
      const auto add = [&](const auto& net) {
        for (int i = 1; i <= net->NbUPoles(); ++i) {
          Polyline& line = lines.emplace_back();
          for (int k = 1; k <= net->NbVPoles(); ++k) line.push_back(fromPnt(net->Pole(i, k)));
        }
        for (int k = 1; k <= net->NbVPoles(); ++k) {
          Polyline& line = lines.emplace_back();
          for (int i = 1; i <= net->NbUPoles(); ++i) line.push_back(fromPnt(net->Pole(i, k)));
        }
      };
      if (const auto spline = Handle(Geom_BSplineSurface)::DownCast(surface); !spline.IsNull()) add(spline);
      if (const auto bezier = Handle(Geom_BezierSurface)::DownCast(surface); !bezier.IsNull()) add(bezier);
    }
    if (shape.kind() != BodyKind::Curve) return lines;
    for (const Skeleton::EdgePart& part : skeleton.edges) {
      double first = 0, last = 0;
      const Handle(Geom_Curve) curve = BRep_Tool::Curve(part.edge, first, last);
      const auto add = [&](const auto& spline) {
        Polyline& line = lines.emplace_back();
        for (int i = 1; i <= spline->NbPoles(); ++i) line.push_back(fromPnt(spline->Pole(i)));
      };
      if (const auto spline = Handle(Geom_BSplineCurve)::DownCast(curve); !spline.IsNull()) add(spline);
      if (const auto bezier = Handle(Geom_BezierCurve)::DownCast(curve); !bezier.IsNull()) add(bezier);
    }
    return lines;
  });
}

float ValueScale::place(double value) const {
  if (std::isnan(value) || borders.empty()) return -1;
  const auto next = std::upper_bound(borders.begin(), borders.end(), value);
  const double from = next == borders.begin() ? low : *(next - 1), to = next == borders.end() ? high : *next;
  const double share = to > from ? std::clamp((value - from) / (to - from), 0.0, 1.0) : 0.5;
  return static_cast<float>(static_cast<double>(next - borders.begin()) + share);
}

namespace {

constexpr int mostBorders = 6;

ValueScale spanOf(const std::vector<float>& values) {
  ValueScale scale;
  bool any = false;
  for (const float value : values) {
    if (std::isnan(value)) continue;
    scale.low = any ? std::min(scale.low, double(value)) : double(value);
    scale.high = any ? std::max(scale.high, double(value)) : double(value);
    any = true;
  }
  if (!any) scale.high = scale.low - 1;
  return scale;
}

}  // namespace

namespace {

/// 1, 2, 5, 10 … mm, from 1e-3 to 1e4, for `put` until it has enough of them.
void eachRoundSize(const std::function<bool(double)>& put) {
  for (int decade = -3; decade < 4; ++decade)
    for (const double factor : {1.0, 2.0, 5.0})
      if (!put(factor * std::pow(10, decade))) return;
}

}  // namespace

ValueScale sizeScale(const std::vector<float>& values) {
  ValueScale scale = spanOf(values);
  if (scale.high < scale.low) return scale;
  eachRoundSize([&](double size) {
    if (size > scale.low && size < scale.high) scale.borders.push_back(size);
    return static_cast<int>(scale.borders.size()) < mostBorders;
  });
  if (scale.borders.empty()) scale.borders.push_back(scale.high);
  return scale;
}

ValueScale radiusScale(const std::vector<float>& curvatures) {
  std::vector<float> sizes;
  for (const float value : curvatures) sizes.push_back(std::abs(value));
  ValueScale scale = spanOf(sizes);
  if (scale.high < scale.low) return scale;
  // From the tightest bend on.
  eachRoundSize([&](double radius) {
    if (1 / radius < scale.high && 1 / radius > scale.low) scale.borders.insert(scale.borders.begin(), 1 / radius);
    return static_cast<int>(scale.borders.size()) < mostBorders;
  });
  if (scale.borders.empty()) scale.borders.push_back(scale.high);
  return scale;
}

ValueScale draftScale(const std::vector<float>& angles) {
  ValueScale scale = spanOf(angles);
  if (scale.high < scale.low) return scale;
  scale.low = std::min(scale.low, -90.0);
  scale.high = std::max(scale.high, 90.0);
  scale.borders = {-5, -3, -1, 1, 3, 5};
  return scale;
}

}  // namespace kervo
