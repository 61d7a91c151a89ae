// Seeded cuts that leave patches of spheres, cones, tori and revolved splines, turned anywhere.
#pragma once

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepPrimAPI_MakeRevol.hxx>
#include <GeomAPI_Interpolate.hxx>
#include <TColgp_HArray1OfPnt.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Wire.hxx>
#include <random>
#include <vector>

#include "geom/divide/boolean.h"
#include "geom/kernel/convert.h"
#include "geom/kernel/shape_body.h"
#include "geom/primitives.h"

namespace kervo::test {

enum class RoundKind { Sphere, Cone, Torus, Revolved };

/// A body turned about the plane's normal: a spline between two flat ends.
inline Shape revolvedSpline(const Plane& plane, double size, std::mt19937& random) {
  const auto between = [&](double low, double high) {
    return std::uniform_real_distribution<double>(low, high)(random);
  };
  Handle(TColgp_HArray1OfPnt) points = new TColgp_HArray1OfPnt(1, 5);
  for (int i = 0; i < 5; ++i) points->SetValue(i + 1, toPnt(plane.at(size * between(0.5, 1), 0, size * (i - 2) * 0.6)));
  GeomAPI_Interpolate curve(points, false, 1e-7);
  curve.Perform();
  const gp_Pnt low = toPnt(plane.at(0, 0, -1.2 * size)), high = toPnt(plane.at(0, 0, 1.2 * size));
  const TopoDS_Wire wire =
      BRepBuilderAPI_MakeWire(BRepBuilderAPI_MakeEdge(curve.Curve()), BRepBuilderAPI_MakeEdge(points->Value(5), high),
                              BRepBuilderAPI_MakeEdge(high, low), BRepBuilderAPI_MakeEdge(low, points->Value(1)));
  const TopoDS_Face face = BRepBuilderAPI_MakeFace(wire, true);
  gp_Ax1 axis(toPnt(plane.origin), toDir(plane.normal));
  const Shape shape = makeShape(BRepPrimAPI_MakeRevol(face, axis).Shape(), {}, "revolved:");
  return shape.volume() > 0 ? shape : makeShape(BRepPrimAPI_MakeRevol(face, axis.Reversed()).Shape(), {}, "revolved:");
}

/// A block cut by a round body, or a round body by a block, the same for a seed.
inline std::vector<Shape> roundCut(RoundKind kind, unsigned seed) {
  std::mt19937 random(seed);
  const auto in = [&](double low, double high) { return std::uniform_real_distribution<double>(low, high)(random); };
  Shape block = makeBlock("block", {}, 30, 28, 26);
  const Plane place = Plane::through({in(0, 30), in(0, 28), in(0, 26)}, {in(-1, 1), in(-1, 1), in(-1, 1) + 0.001});
  const double r = in(5, 18);
  const Shape round = kind == RoundKind::Sphere ? makeSphere("round", place, r)
                      : kind == RoundKind::Cone
                          ? makeCone("round", place, r, random() % 2 ? 0 : r * in(0.2, 0.9), in(8, 25))
                      : kind == RoundKind::Torus ? makeTorus("round", place, r, r * in(0.2, 0.7))
                                                 : revolvedSpline(place, 0.7 * r, random);
  const bool roundIsCut = seed % 2 == 0;
  if (roundIsCut) {
    const double reach = 0.8 * r;
    const Plane corner = Plane::through(place.origin + Vector{in(-reach, reach), in(-reach, reach), in(-reach, reach)},
                                        {in(-1, 1), in(-1, 1), in(-1, 1) + 0.001});
    block = makeBlock("block", corner, r * in(1, 2), r * in(1, 2), r * in(1, 2));
  }
  Progress progress;
  const Division division = roundIsCut ? divide(round, {block}, progress) : divide(block, {round}, progress);
  std::vector<Shape> pieces;
  for (const Shape* side : {&division.inside, &division.outside})
    for (const Shape& piece : side->pieces()) pieces.push_back(piece);
  return pieces;
}

}  // namespace kervo::test
