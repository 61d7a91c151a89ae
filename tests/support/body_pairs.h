// Seeded pairs of bodies for checks of the booleans: blocks, cylinders, balls, cones, rings and spline prisms.
#pragma once

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <GeomAPI_Interpolate.hxx>
#include <TColgp_HArray1OfPnt.hxx>
#include <TopoDS.hxx>
#include <cmath>
#include <numbers>
#include <random>
#include <string>
#include <utility>

#include "geom/kernel/convert.h"
#include "geom/kernel/shape_body.h"
#include "geom/motion.h"
#include "geom/primitives.h"

namespace kervo {

/// Two bodies at a time, the same for a seed. A third of the pairs nearly touch, are tangent or coincide.
class BodyPairs {
 public:
  explicit BodyPairs(unsigned seed) : random_(seed) {}

  std::pair<Shape, Shape> next() {
    switch (random_() % 6) {
      case 0:
        return tangent();
      case 1:
        return coincident();
      default:
        return {solid("a", anywhere()), solid("b", anywhere())};
    }
  }

 private:
  double between(double low, double high) { return std::uniform_real_distribution<double>(low, high)(random_); }

  Plane anywhere() {
    return Plane::through({between(-3, 3), between(-3, 3), between(-3, 3)},
                          {between(-1, 1), between(-1, 1), between(-1, 1) + 1.1});
  }

  Shape solid(const std::string& name, const Plane& plane) {
    switch (random_() % 6) {
      case 0:
        return makeBlock(name, plane, between(5, 14), between(5, 14), between(5, 14));
      case 1:
        return makeCylinder(name, plane, between(2, 6), between(6, 16));
      case 2:
        return makeSphere(name, plane, between(3, 8));
      case 3:
        return makeCone(name, plane, between(3, 7), between(0.5, 2.5), between(6, 14));
      case 4:
        return makeTorus(name, plane, between(5, 8), between(1, 3));
      default:
        return splinePrism(name, plane);
    }
  }

  /// A closed spline through points on a wavy circle, swept along the plane's normal.
  Shape splinePrism(const std::string& name, const Plane& plane) {
    const int count = 6 + static_cast<int>(random_() % 5);
    Handle(TColgp_HArray1OfPnt) points = new TColgp_HArray1OfPnt(1, count);
    for (int i = 0; i < count; ++i) {
      const double angle = 2 * std::numbers::pi * i / count, radius = between(4, 8);
      points->SetValue(i + 1, toPnt(plane.at(radius * std::cos(angle), radius * std::sin(angle))));
    }
    GeomAPI_Interpolate curve(points, true, 1e-6);
    curve.Perform();
    const TopoDS_Wire wire = BRepBuilderAPI_MakeWire(BRepBuilderAPI_MakeEdge(curve.Curve()));
    const TopoDS_Face face = BRepBuilderAPI_MakeFace(toPln(plane), wire);
    return makeShape(BRepPrimAPI_MakePrism(face, toVec(plane.normal * between(5, 12))).Shape(), {}, name + ":");
  }

  /// A gap or overlap between nothing and 1e-4 mm.
  double sliver() { return random_() % 3 == 0 ? 0 : (random_() % 2 ? 1 : -1) * std::pow(10, between(-9, -4)); }

  Motion anyMotion() {
    return Motion::turn({1, 2, 3}, {between(-1, 1), between(-1, 1), between(0.1, 1)}, between(0, 6));
  }

  std::pair<Shape, Shape> tangent() {
    Plane right;
    const double r = between(3, 6), s = between(2, 5);
    Shape a, b;
    switch (random_() % 4) {
      case 0:  // balls side by side
        right.origin = {r + s + sliver(), 0, 0};
        a = makeSphere("a", {}, r), b = makeSphere("b", right, s);
        break;
      case 1:  // parallel cylinders
        right.origin = {r + s + sliver(), 0, between(-3, 3)};
        a = makeCylinder("a", {}, r, 12), b = makeCylinder("b", right, s, 12);
        break;
      case 2:  // a ball inside a cylinder
        right.origin = {0, 0, 6};
        a = makeCylinder("a", {}, r, 12), b = makeSphere("b", right, r + sliver());
        break;
      default:  // a cylinder along a block's side
        right.origin = {10 + s + sliver(), 5, -1};
        a = makeBlock("a", {}, 10, 10, 10), b = makeCylinder("b", right, s, 12);
    }
    const Motion motion = anyMotion();
    return {moved(a, motion), moved(b, motion)};
  }

  std::pair<Shape, Shape> coincident() {
    Plane place;
    const double r = between(3, 6), h = between(5, 9);
    Shape a, b;
    switch (random_() % 4) {
      case 0:  // blocks with common planes
        place.origin = {random_() % 2 ? 0.0 : 5.0, random_() % 2 ? 0.0 : 10 + sliver(), sliver()};
        a = makeBlock("a", {}, 10, 10, 10), b = makeBlock("b", place, 10, between(3, 10), 10);
        break;
      case 1:  // one cylinder longer than the other
        place.origin = {sliver(), 0, between(-2, 8)};
        a = makeCylinder("a", {}, r, 10), b = makeCylinder("b", place, r, h);
        break;
      case 2:  // a cone on a cylinder's end
        place.origin = {0, 0, h + sliver()};
        a = makeCylinder("a", {}, r, h), b = makeCone("b", place, r, 1, 6);
        break;
      default:  // the same block turned by nearly nothing
        a = makeBlock("a", {}, 10, 10, 10), b = moved(a, Motion::turn({5, 5, 5}, {0, 0, 1}, sliver()), "b");
    }
    const Motion motion = anyMotion();
    return {moved(a, motion), moved(b, motion)};
  }

  std::mt19937 random_;
};

}  // namespace kervo
