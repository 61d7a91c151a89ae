#include "geom/measure/mass_properties.h"

#include <Eigen/Eigenvalues>
#include <ElSLib.hxx>
#include <numeric>
#include <unordered_map>

#include "base/say.h"
#include "geom/kernel/convert.h"
#include "geom/kernel/parallel.h"
#include "geom/kernel/shape_body.h"
#include "geom/measure/border_quadrature.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

/// x·n dA times 1/3, xᵢ/4 and xᵢxⱼ/5: volume; x, y, z; xx, yy, zz, yz, zx, xy.
using Moments = std::array<double, 10>;

void add(Moments& sum, double weight, const Moments& other) {
  for (std::size_t i = 0; i < sum.size(); ++i) sum[i] += weight * other[i];
}

/// At a point seen from the origin, for the oriented element of area.
Moments density(const gp_XYZ& x, const gp_XYZ& element) {
  const double flux = x.Dot(element);
  return {flux / 3,
          flux * x.X() / 4,
          flux * x.Y() / 4,
          flux * x.Z() / 4,
          flux * x.X() * x.X() / 5,
          flux * x.Y() * x.Y() / 5,
          flux * x.Z() * x.Z() / 5,
          flux * x.Y() * x.Z() / 5,
          flux * x.Z() * x.X() / 5,
          flux * x.X() * x.Y() / 5};
}

/// Integrates over one face taken forward, by Green's theorem in the parameters of its surface. Borders of planes are
/// their edges in space laid on the plane.
class FaceMoments {
 public:
  FaceMoments(const TopoDS_Face& face, const gp_Pnt& origin)
      : face_(TopoDS::Face(face.Oriented(TopAbs_FORWARD))),
        surface_(face_, false),
        isPlane_(surface_.GetType() == GeomAbs_Plane),
        origin_(origin.XYZ()),
        outerParts_(surface_, true),
        uKnots_(innerKnots(surface_, true)),
        uIsAngle_(!isPlane_ && uIsAngle(surface_.GetType())) {}

  Moments sum() {
    for (TopExp_Explorer it(face_, TopAbs_EDGE); it.More(); it.Next()) {
      const TopoDS_Edge& edge = TopoDS::Edge(it.Current());
      if (!boundsFace(edge) || (isPlane_ && BRep_Tool::Degenerated(edge))) continue;
      if (isPlane_)
        alongPlane(edge);
      else
        alongSurface(edge);
    }
    return total_;
  }

 private:
  /// ∫ from u0 to u at v.
  Moments inner(double u, double v) const {
    Moments sum{};
    gauss(breaks(start_.value_or(u), u, uKnots_, uIsAngle_), [&](double t, double weight) {
      gp_Pnt point;
      gp_Vec du, dv;
      surface_.D1(t, v, point, du, dv);
      add(sum, weight, density(point.XYZ() - origin_, du.Crossed(dv).XYZ()));
    });
    return sum;
  }

  void startAt(const gp_Pnt2d& point) {
    if (!start_) start_ = point.X();
  }

  void alongPlane(const TopoDS_Edge& edge) {
    const SpaceEdge inSpace(edge);
    const gp_Pln plane = surface_.Plane();
    const auto flat = [&](const gp_Pnt& point) {
      double u = 0, v = 0;
      ElSLib::Parameters(plane, point, u, v);
      return gp_Pnt2d(u, v);
    };
    const double first = inSpace.curve.FirstParameter(), last = inSpace.curve.LastParameter();
    startAt(flat(inSpace.curve.Value(first)));
    const gp_Vec across(plane.Position().YDirection());
    const auto parts = breaks(first, last, curveKnots(inSpace.curve), turns(inSpace.curve.GetType()));
    gauss(parts, [&](double t, double weight) {
      gp_Pnt point;
      gp_Vec tangent;
      inSpace.curve.D1(t, point, tangent);
      const gp_Pnt2d at = flat(point);
      const double rise = tangent.Dot(across);
      if (rise != 0) add(total_, inSpace.sign * weight * rise, inner(at.X(), at.Y()));
      const gp_Pnt on = ElSLib::Value(at.X(), at.Y(), plane);
      strip(on, tangent - gp_Vec(plane.Axis().Direction()) * tangent.Dot(plane.Axis().Direction()), point, tangent,
            inSpace.sign * weight);
    });
    // The straight lines to the corners.
    segment(flat(inSpace.from), flat(inSpace.curve.Value(first)), inSpace.sign);
    segment(flat(inSpace.curve.Value(last)), flat(inSpace.to), inSpace.sign);
  }

  void alongSurface(const TopoDS_Edge& edge) {
    double first = 0, last = 0;
    const Handle(Geom2d_Curve) parameters = BRep_Tool::CurveOnSurface(edge, face_, first, last);
    if (parameters.IsNull()) throw Error(say("an edge of a face has no curve on the face's surface"));
    const Geom2dAdaptor_Curve curve(parameters, first, last);
    startAt(curve.Value(first));
    const double sign = edge.Orientation() == TopAbs_REVERSED ? -1 : 1;
    const auto parts = outerParts_.of(curve, first, last);
    gauss(parts, [&](double t, double weight) {
      gp_Pnt2d at;
      gp_Vec2d change;
      curve.D1(t, at, change);
      if (change.Y() != 0) add(total_, sign * weight * change.Y(), inner(at.X(), at.Y()));
    });
    join(TopExp::FirstVertex(edge), curve.Value(first), -sign);
    join(TopExp::LastVertex(edge), curve.Value(last), sign);
    if (BRep_Tool::Degenerated(edge)) return;
    const BRepAdaptor_Curve inSpace(edge);
    const double start = inSpace.FirstParameter(), rate = (inSpace.LastParameter() - start) / (last - first);
    gauss(parts, [&](double t, double weight) {
      gp_Pnt2d at;
      gp_Vec2d change;
      curve.D1(t, at, change);
      gp_Pnt on, point;
      gp_Vec du, dv, tangent;
      surface_.D1(at.X(), at.Y(), on, du, dv);
      inSpace.D1(start + (t - first) * rate, point, tangent);
      strip(on, du * change.X() + dv * change.Y(), point, tangent * rate, sign * weight);
    });
  }

  /// Between a point on the surface and the one of the edge: δ × (P′ + δ′/2).
  void strip(const gp_Pnt& on, const gp_Vec& along, const gp_Pnt& point, const gp_Vec& tangent, double weight) {
    const gp_Vec across(on, point);
    if (across.SquareMagnitude() == 0) return;
    const gp_XYZ middle = (on.XYZ() + point.XYZ()) / 2 - origin_;
    add(total_, weight, density(middle, across.Crossed((along + tangent) * 0.5).XYZ()));
  }

  void segment(const gp_Pnt2d& from, const gp_Pnt2d& to, double sign) {
    const double rise = to.Y() - from.Y();
    if (std::abs(rise) < tolerance::finest) return;
    gauss(0, 1, [&](double s, double weight) {
      add(total_, sign * weight * rise, inner(from.X() + s * (to.X() - from.X()), from.Y() + s * rise));
    });
  }

  void join(const TopoDS_Vertex& corner, const gp_Pnt2d& end, double sign) {
    if (corner.IsNull()) return;
    const auto [place, isNew] = corners_.emplace(corner.TShape().get(), end);
    if (isNew) return;
    segment(end, nearestCopy(place->second, end, surface_), sign);
  }

  TopoDS_Face face_;
  BRepAdaptor_Surface surface_;
  bool isPlane_;
  gp_XYZ origin_;
  OuterParts outerParts_;
  std::vector<double> uKnots_;
  bool uIsAngle_;
  std::optional<double> start_;
  std::unordered_map<const void*, gp_Pnt2d> corners_;
  Moments total_{};
};

}  // namespace

MassProperties massProperties(const Shape& shape, Progress& progress) {
  MassProperties result;
  result.volume = shape.volume();
  result.volumeError = shape.volumeError();
  result.area = shape.area();
  if (shape.empty() || shape.kind() != BodyKind::Solid) return result;
  return kernelCall("measuring the body", [&] {
    const Point middle = shape.roughBox().centre();
    std::vector<TopoDS_Shape> faces;
    for (TopExp_Explorer solid(shape.body().topology, TopAbs_SOLID); solid.More(); solid.Next())
      for (TopExp_Explorer it(solid.Current(), TopAbs_FACE); it.More(); it.Next())
        if (boundsFace(it.Current())) faces.push_back(it.Current());
    std::vector<Moments> each(faces.size());
    forEachInParallel(faces.size(), "measuring the faces", progress,
                      [&](std::size_t i) { each[i] = FaceMoments(TopoDS::Face(faces[i]), toPnt(middle)).sum(); });
    Moments sum{};
    for (std::size_t i = 0; i < faces.size(); ++i)
      add(sum, faces[i].Orientation() == TopAbs_REVERSED ? -1 : 1, each[i]);
    const double volume = sum[0];
    const Vector c{sum[1] / volume, sum[2] / volume, sum[3] / volume};
    result.centroid = middle + c;
    // About the centroid (Steiner), then from second moments to inertia.
    const Vector squares{sum[4] - volume * c.x * c.x, sum[5] - volume * c.y * c.y, sum[6] - volume * c.z * c.z};
    result.moments = {squares.y + squares.z, squares.z + squares.x, squares.x + squares.y};
    result.products = {volume * c.y * c.z - sum[7], volume * c.z * c.x - sum[8], volume * c.x * c.y - sum[9]};
    return result;
  });
}

Vector principalMoments(const MassProperties& properties) {
  const Vector &m = properties.moments, &p = properties.products;
  Eigen::Matrix3d inertia;
  inertia << m.x, p.z, p.y, p.z, m.y, p.x, p.y, p.x, m.z;
  const Eigen::Vector3d rising = Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d>(inertia).eigenvalues();
  return {rising[2], rising[1], rising[0]};
}

}  // namespace kervo
