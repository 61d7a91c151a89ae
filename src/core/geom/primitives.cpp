#include "geom/primitives.h"

#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeCone.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRepPrimAPI_MakeSphere.hxx>
#include <BRepPrimAPI_MakeTorus.hxx>
#include <BRepPrim_Builder.hxx>

#include "base/quantity.h"
#include "base/say.h"
#include "geom/measure/soundness.h"
#include "geom/planes.h"

namespace kervo {

namespace {

gp_Ax2 axesOf(const Plane& plane) {
  return {toPnt(plane.origin), toDir(plane.normal), toDir(plane.x)};
}

/// Names faces by role and takes them as sound: these solids are valid by construction.
Shape named(const TopoDS_Shape& solid, const std::vector<std::pair<TopoDS_Shape, std::string>>& names) {
  FaceTable table;
  for (const auto& [face, name] : names) table.emplace(face, FaceFacts{originsOf(name), std::nullopt, true});
  return makeShape(solid, std::move(table), "face:");
}

/// The faces of a solid of revolution: planar ones are bottom or top, the other is the side.
Shape namedByRole(const TopoDS_Shape& solid, const std::string& name, const Plane& plane) {
  std::vector<std::pair<TopoDS_Shape, std::string>> names;
  for (const TopoDS_Face& face : facesOf(solid)) {
    const BRepAdaptor_Surface surface(face, false);
    if (surface.GetType() != GeomAbs_Plane) {
      names.emplace_back(face, name + ":side");
      continue;
    }
    const bool bottom = std::abs(plane.signedDistance(fromPnt(surface.Plane().Location()))) < tolerance::point;
    names.emplace_back(face, name + (bottom ? ":bottom" : ":top"));
  }
  return named(solid, names);
}

}  // namespace

void requireSize(const std::string& what, double size) {
  if (!std::isfinite(size))
    throw Error(say("the %1 is not a number", say(what.c_str())), "", say("Type a finite size"));
  if (size <= 0)
    throw Error(say("the %1 is %2 mm", say(what.c_str()), formatNumber(size)), "",
                say("Type a size greater than zero"));
  if (size < tolerance::smallestSize)
    throw Error(say("the %1 is only %2 mm", say(what.c_str()), formatNumber(size)), "",
                say("The smallest size is %1 mm", formatNumber(tolerance::smallestSize)));
  if (size > tolerance::largestSize)
    throw Error(say("the %1 is %2 mm", say(what.c_str()), formatNumber(size)), "",
                say("The largest size is %1 mm", formatNumber(tolerance::largestSize)));
}

Shape makeBlock(const std::string& name, const Plane& plane, double width, double depth, double height) {
  requireSize("width", width);
  requireSize("depth", depth);
  requireSize("height", height);
  return kernelCall("making the block", [&] {
    BRepPrimAPI_MakeBox box(axesOf(plane), width, depth, height);
    return named(box.Solid(), {{box.BackFace(), name + ":left"},
                               {box.FrontFace(), name + ":right"},
                               {box.LeftFace(), name + ":front"},
                               {box.RightFace(), name + ":back"},
                               {box.BottomFace(), name + ":bottom"},
                               {box.TopFace(), name + ":top"}});
  });
}

Shape makeCylinder(const std::string& name, const Plane& plane, double radius, double height) {
  requireSize("radius", radius);
  requireSize("height", height);
  return kernelCall("making the cylinder", [&] {
    return namedByRole(BRepPrimAPI_MakeCylinder(axesOf(plane), radius, height).Solid(), name, plane);
  });
}

Shape makeCone(const std::string& name, const Plane& plane, double bottomRadius, double topRadius, double height) {
  requireSize("height", height);
  if (bottomRadius != 0) requireSize("bottom radius", bottomRadius);
  if (topRadius != 0) requireSize("top radius", topRadius);
  if (bottomRadius == 0 && topRadius == 0) throw Error(say("both radii of the cone are 0"), "", say("Type a radius"));
  if (std::abs(bottomRadius - topRadius) < tolerance::smallestSize)
    return makeCylinder(name, plane, bottomRadius, height);
  return kernelCall("making the cone", [&] {
    return namedByRole(BRepPrimAPI_MakeCone(axesOf(plane), bottomRadius, topRadius, height).Solid(), name, plane);
  });
}

Shape makeSphere(const std::string& name, const Plane& plane, double radius) {
  requireSize("radius", radius);
  return kernelCall("making the sphere",
                    [&] { return namedByRole(BRepPrimAPI_MakeSphere(axesOf(plane), radius).Solid(), name, plane); });
}

Shape makeTorus(const std::string& name, const Plane& plane, double ringRadius, double tubeRadius) {
  requireSize("ring radius", ringRadius);
  requireSize("tube radius", tubeRadius);
  if (tubeRadius > ringRadius - tolerance::smallestSize)
    throw Error(say("the tube radius (%1 mm) is not smaller than the ring radius (%2 mm), so the torus would pass "
                    "through itself",
                    formatNumber(tubeRadius), formatNumber(ringRadius)),
                "", say("Make the tube thinner or the ring wider"));
  return kernelCall("making the torus", [&] {
    return namedByRole(BRepPrimAPI_MakeTorus(axesOf(plane), ringRadius, tubeRadius).Solid(), name, plane);
  });
}

Shape makeSlab(const std::string& name, const Plane& plane, double from, double to, const Box& box) {
  Box local = boxIn(plane, box);
  const double margin = 1 + local.diagonal() * 0.1;
  local = local.enlarged(margin);
  const double bottom = std::isfinite(from) ? from : std::min(local.low.z, to - margin);
  const double top = std::isfinite(to) ? to : std::max(local.high.z, from + margin);
  const Shape slab = makeBlock(name, Plane{plane.at(local.low.x, local.low.y, bottom), plane.x, plane.y, plane.normal},
                               local.high.x - local.low.x, local.high.y - local.low.y, top - bottom);
  std::vector<std::pair<TopoDS_Shape, std::string>> names;
  for (const auto& [face, facts] : slab.body().faces) {
    const std::string& origin = facts.origins->front();
    const bool alongPlane = origin == name + ":bottom" || origin == name + ":top";
    names.emplace_back(face, name + (alongPlane ? ":cut" : ":border"));
  }
  return named(slab.body().topology, names);
}

}  // namespace kervo
