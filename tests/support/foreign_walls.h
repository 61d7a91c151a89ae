// A wall and a housing as a supplier sends them: made by the bare kernel, written as STEP without any history.
#pragma once

#include <BRepAlgoAPI_Cut.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepFilletAPI_MakeFillet.hxx>
#include <BRepOffsetAPI_ThruSections.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRep_Tool.hxx>
#include <GeomAPI_PointsToBSpline.hxx>
#include <Geom_BSplineCurve.hxx>
#include <STEPControl_Writer.hxx>
#include <TColgp_Array1OfPnt.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>

#include <cmath>
#include <filesystem>
#include <numbers>
#include <stdexcept>

namespace kervo::test {

inline TopoDS_Shape boxFrom(double x, double y, double z, double dx, double dy, double dz) {
  return BRepPrimAPI_MakeBox(gp_Pnt(x, y, z), dx, dy, dz).Shape();
}

inline TopoDS_Shape cylinderFrom(gp_Pnt at, gp_Dir along, double radius, double height) {
  return BRepPrimAPI_MakeCylinder(gp_Ax2(at, along), radius, height).Shape();
}

inline TopoDS_Shape without(const TopoDS_Shape& stock, const TopoDS_Shape& cutter) {
  return BRepAlgoAPI_Cut(stock, cutter).Shape();
}

/// Its edges along z rounded.
inline TopoDS_Shape roundedUpright(const TopoDS_Shape& shape, double radius) {
  BRepFilletAPI_MakeFillet round(shape);
  for (TopExp_Explorer it(shape, TopAbs_EDGE); it.More(); it.Next()) {
    const TopoDS_Edge edge = TopoDS::Edge(it.Current());
    double from = 0, to = 0;
    const Handle(Geom_Curve) curve = BRep_Tool::Curve(edge, from, to);
    const gp_Vec way(curve->Value(from), curve->Value(to));
    if (std::hypot(way.X(), way.Y()) < 1e-9) round.Add(radius, edge);
  }
  return round.Shape();
}

/// 5 m × 300 × 2.7 m, with a window that widens from 1400 × 1300 at the front to 1600 × 1500 at the back, a door notch
/// of 1000 × 2100, and a pipe hole of 110 with a counterbore of 180, 40 deep.
struct ForeignWall {
  static constexpr double solid = 5000.0 * 300 * 2700;
  static constexpr double window = 300.0 / 6 * (1400.0 * 1300 + 4 * 1500.0 * 1400 + 1600.0 * 1500);
  static constexpr double door = 1000.0 * 300 * 2100;
  static double pipe() { return std::numbers::pi * (55.0 * 55 * 260 + 90.0 * 90 * 40); }

  static TopoDS_Shape shape() {
    const auto outline = [](double x, double y, double z, double width, double height) {
      BRepBuilderAPI_MakePolygon wire(gp_Pnt(x, y, z), gp_Pnt(x + width, y, z), gp_Pnt(x + width, y, z + height),
                                      gp_Pnt(x, y, z + height), true);
      return wire.Wire();
    };
    BRepOffsetAPI_ThruSections taper(true, true);
    taper.AddWire(outline(400, 0, 900, 1400, 1300));
    taper.AddWire(outline(300, 300, 800, 1600, 1500));
    TopoDS_Shape wall = without(boxFrom(0, 0, 0, 5000, 300, 2700), taper.Shape());
    wall = without(wall, boxFrom(3000, -1, -1, 1000, 302, 2101));
    wall = without(wall, cylinderFrom({2400, -1, 500}, {0, 1, 0}, 55, 302));
    return without(wall, cylinderFrom({2400, -1, 500}, {0, 1, 0}, 90, 41));
  }
};

/// 200 × 120 × 80 with rounds of 10 on its upright edges, a pocket of 100 × 60, 30 deep, with rounds of 8, and a bolt
/// hole of 12 with a counterbore of 20, 6 deep.
struct ForeignHousing {
  static double corners(double radius) { return (4 - std::numbers::pi) * radius * radius; }
  static double solid() { return (200.0 * 120 - corners(10)) * 80; }
  static double pocket() { return (100.0 * 60 - corners(8)) * 30; }
  static double bolt() { return std::numbers::pi * (6.0 * 6 * 74 + 10.0 * 10 * 6); }

  static TopoDS_Shape shape() {
    TopoDS_Shape body = roundedUpright(boxFrom(0, 0, 0, 200, 120, 80), 10);
    body = without(body, roundedUpright(boxFrom(60, 30, 50, 100, 60, 50), 8));
    body = without(body, cylinderFrom({30, 60, -1}, {0, 0, 1}, 6, 90));
    return without(body, cylinderFrom({30, 60, 74}, {0, 0, 1}, 10, 10));
  }
};

/// A wall 2 m high between a B-spline and a straight line 300 behind, with a window of 800 × 900 through it.
struct ForeignCurvedWall {
  static TopoDS_Shape shape() {
    TColgp_Array1OfPnt points(1, 6);
    for (int i = 0; i < 6; ++i) points.SetValue(i + 1, gp_Pnt(800 * i, -80 * std::sin(0.9 * i), 0));
    const Handle(Geom_BSplineCurve) front = GeomAPI_PointsToBSpline(points).Curve();
    const gp_Pnt a = points.First(), b = points.Last(), c(b.X(), 400, 0), d(a.X(), 400, 0);
    BRepBuilderAPI_MakeWire wire(BRepBuilderAPI_MakeEdge(front).Edge(), BRepBuilderAPI_MakeEdge(b, c).Edge(),
                                 BRepBuilderAPI_MakeEdge(c, d).Edge(), BRepBuilderAPI_MakeEdge(d, a).Edge());
    const TopoDS_Shape wall =
        BRepPrimAPI_MakePrism(BRepBuilderAPI_MakeFace(wire.Wire()).Face(), gp_Vec(0, 0, 2000)).Shape();
    return without(wall, boxFrom(1600, -500, 600, 800, 1000, 900));
  }
};

inline void writeForeignStep(const TopoDS_Shape& shape, const std::filesystem::path& path) {
  STEPControl_Writer writer;
  if (writer.Transfer(shape, STEPControl_AsIs) != IFSelect_RetDone || writer.Write(path.c_str()) != IFSelect_RetDone)
    throw std::runtime_error("the kernel does not write " + path.string());
}

}  // namespace kervo::test
