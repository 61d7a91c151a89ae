// How smoothly blends go on from what they meet, measured by the kernel's own derivatives against formulas.
#include <gtest/gtest.h>
#include <BRep_Tool.hxx>
#include <GeomAPI_ProjectPointOnSurf.hxx>
#include <GeomLProp_SLProps.hxx>

#include <cmath>
#include <numbers>

#include "geom/divide/boolean.h"
#include "geom/kernel/convert.h"
#include "geom/kernel/shape_body.h"
#include "geom/primitives.h"
#include "geom/surface/blend.h"
#include "geom/surface/sheet.h"

namespace kervo {
namespace {

constexpr double degree = std::numbers::pi / 180;

/// The face of that name as a surface.
Shape side(const Shape& shape, const char* name) {
  for (const Face& face : facesOf(shape))
    if (face.origins().front() == name) return lifted({face});
  throw std::logic_error("no such face");
}

Edge borderAt(const Shape& surface, double z) {
  for (const Edge& edge : edgesOf(surface))
    if (edge.secondOrigins().empty() && std::abs(edge.middle().z - z) < 1e-6) return edge;
  throw std::logic_error("no such border");
}

/// The surface's normal, and its curvature along a direction, where it is nearest to a point.
struct Bend {
  Vector normal;
  double along = 0;  ///< 1/mm, above zero where it bends towards the normal
  double apart = 0;  ///< mm
};

Bend bendAt(const Shape& surface, Point place, Vector direction) {
  Bend best;
  best.apart = 1e9;
  for (const TopoDS_Face& face : facesOf(surface.body().topology)) {
    const Handle(Geom_Surface) under = BRep_Tool::Surface(face);
    double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
    under->Bounds(u0, u1, v0, v1);
    GeomAPI_ProjectPointOnSurf nearest(toPnt(place), under, u0, u1, v0, v1);
    // At a border the nearest place may be one of the border itself.
    double u = 0, v = 0, apart = 1e9;
    if (nearest.NbPoints() > 0) {
      nearest.LowerDistanceParameters(u, v);
      apart = nearest.LowerDistance();
    }
    for (int i = 0; i <= 2000; ++i)
      for (const double edge : {v0, v1}) {
        const double at = u0 + (u1 - u0) * i / 2000;
        if (const double d = under->Value(at, edge).Distance(toPnt(place)); d < apart) apart = d, u = at, v = edge;
      }
    if (apart >= best.apart) continue;
    gp_Pnt p;
    gp_Vec du, dv, duu, dvv, duv;
    under->D2(u, v, p, du, dv, duu, dvv, duv);
    const gp_Vec normal = du.Crossed(dv).Normalized();
    // The direction in du and dv, in the tangent plane.
    const gp_Vec wanted = toVec(direction);
    const double e = du.Dot(du), f = du.Dot(dv), g = dv.Dot(dv), a = wanted.Dot(du), b = wanted.Dot(dv);
    const double det = e * g - f * f, s = (a * g - b * f) / det, t = (b * e - a * f) / det;
    const double first = e * s * s + 2 * f * s * t + g * t * t;
    const double second = duu.Dot(normal) * s * s + 2 * duv.Dot(normal) * s * t + dvv.Dot(normal) * t * t;
    best = {fromVec(normal), second / first, apart};
  }
  return best;
}

BlendOrder orderOf(const Shape& low, double lowZ, const Shape& high, double highZ, Joint joint) {
  BlendOrder order;
  order.from = {{borderAt(low, lowZ)}, true, joint, 1};
  order.to = {{borderAt(high, highZ)}, true, joint, 1};
  return order;
}

/// Of two surfaces about z: where the lower one ends, what its normal is there, and its curvature up along the surface.
void expectSmooth(const Shape& blend, double radius, double z, Vector outwards, Vector upwards, double curvature,
                  Joint joint) {
  for (int i = 0; i < 36; ++i) {
    const double angle = (i + 0.3) * 10 * degree;
    const auto turned = [&](Vector v) {
      return Vector{v.x * std::cos(angle) - v.y * std::sin(angle), v.x * std::sin(angle) + v.y * std::cos(angle), v.z};
    };
    const Vector normal = turned(outwards);
    const Bend bend = bendAt(blend, turned({radius, 0, z}), turned(upwards));
    ASSERT_LT(bend.apart, 1e-2) << angle;
    const double off = std::asin(std::min(1.0, length(cross(bend.normal, normal)))) / degree;
    EXPECT_LT(off, 1e-4) << "G1, at " << angle / degree;
    if (joint != Joint::Curvature) continue;
    const double sign = dot(bend.normal, normal) > 0 ? 1 : -1;
    EXPECT_NEAR(sign * bend.along, curvature, 1e-3 * std::max(std::abs(curvature), 1 / radius))
        << "G2, at " << angle / degree;
  }
}

TEST(Continuity, BlendsOfTubesAreTangentAndCurved) {
  const Shape low = side(makeCylinder("a", Plane(), 10, 20), "a:side");
  const Shape high = side(makeCylinder("b", Plane::through({0, 0, 40}, {0, 0, 1}), 6, 20), "b:side");
  Progress progress;
  for (const Joint joint : {Joint::Tangent, Joint::Curvature}) {
    const Blend made = blended(low, high, orderOf(low, 20, high, 40, joint), "m", progress);
    expectSmooth(made.surface, 10, 20, {1, 0, 0}, {0, 0, 1}, 0, joint);
    expectSmooth(made.surface, 6, 40, {1, 0, 0}, {0, 0, 1}, 0, joint);
  }
}

TEST(Continuity, BlendsOfABallGoOnAsItBends) {
  // A ball of radius 15 cut off at z = 5, seen from below: it goes on upwards, as a ball does, to a tube.
  Progress progress;
  const Shape cut = divide(makeSphere("ball", Plane(), 15),
                           {makeBlock("lid", {{-20, -20, 5}, {1, 0, 0}, {0, 1, 0}, {0, 0, 1}}, 40, 40, 30)}, progress)
                        .outside;
  const Shape low = side(cut, "ball:side");
  const Shape high = side(makeCylinder("b", Plane::through({0, 0, 25}, {0, 0, 1}), 6, 20), "b:side");
  const double z = 5, radius = std::sqrt(15 * 15 - z * z);
  for (const Joint joint : {Joint::Tangent, Joint::Curvature}) {
    const Blend made = blended(low, high, orderOf(low, 5, high, 25, joint), "m", progress);
    expectSmooth(made.surface, radius, z, {radius / 15, 0, z / 15}, {-z / 15, 0, radius / 15}, -1.0 / 15, joint);
  }
}

}  // namespace
}  // namespace kervo
