// The quick proof must never hold for a face that the kernel's analyzer refuses, and hold for the ordinary ones.
#include "geom/measure/outline_check.h"

#include <gtest/gtest.h>
#include <BRepAlgoAPI_Common.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRep_Builder.hxx>
#include <GC_MakeArcOfCircle.hxx>
#include <Geom2d_Line.hxx>
#include <Geom_CylindricalSurface.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Vertex.hxx>
#include <TopoDS_Wire.hxx>
#include <gp_Pln.hxx>

#include <cmath>
#include <numbers>
#include <random>
#include <vector>

namespace kervo {
namespace {

constexpr double pi = std::numbers::pi;

/// A flat face through points; an edge with a bulge is an arc that stands out to its right by so much.
class OutlineCheck : public testing::Test {
 protected:
  struct Corner {
    double x, y, bulge = 0;
  };

  static gp_Pnt at(double x, double y) {
    // Not along the axes, so that nothing is exact by luck.
    const gp_Dir u(0.8, 0.6, 0), v = gp_Dir(gp_Vec(-0.6, 0.8, 0.3));
    return gp_Pnt(gp_XYZ(1, 2, 3) + u.XYZ() * x + v.XYZ() * y);
  }

  static TopoDS_Face face(const std::vector<Corner>& corners) {
    std::vector<TopoDS_Vertex> vertices;
    for (const Corner& corner : corners)
      vertices.push_back(TopoDS::Vertex(BRepBuilderAPI_MakeVertex(at(corner.x, corner.y)).Shape()));
    BRep_Builder builder;
    TopoDS_Wire wire;
    builder.MakeWire(wire);
    for (std::size_t i = 0; i < corners.size(); ++i) {
      const Corner &a = corners[i], &b = corners[(i + 1) % corners.size()];
      const TopoDS_Vertex &from = vertices[i], &to = vertices[(i + 1) % corners.size()];
      if (a.bulge == 0) {
        builder.Add(wire, BRepBuilderAPI_MakeEdge(from, to).Edge());
        continue;
      }
      const double dx = b.x - a.x, dy = b.y - a.y, size = std::hypot(dx, dy);
      const gp_Pnt middle = at((a.x + b.x) / 2 + dy / size * a.bulge, (a.y + b.y) / 2 - dx / size * a.bulge);
      const Handle(Geom_TrimmedCurve) arc = GC_MakeArcOfCircle(at(a.x, a.y), middle, at(b.x, b.y));
      builder.Add(wire, BRepBuilderAPI_MakeEdge(arc, from, to).Edge());
    }
    wire.Closed(true);
    const gp_Pln plane(at(0, 0), gp_Dir(gp_Vec(at(0, 0), at(1, 0)).Crossed(gp_Vec(at(0, 0), at(0, 1)))));
    return BRepBuilderAPI_MakeFace(plane, wire, false).Face();
  }

  static bool analyzed(const TopoDS_Face& face) { return BRepCheck_Analyzer(face).IsValid(); }
};

TEST_F(OutlineCheck, OrdinaryOutlinesAreProven) {
  const TopoDS_Face square = face({{0, 0}, {10, 0}, {10, 10}, {0, 10}});
  ASSERT_TRUE(analyzed(square));
  EXPECT_TRUE(outlineIsProven(square));
  EXPECT_TRUE(outlineIsProven(TopoDS::Face(square.Reversed())));
  // With collinear edges, a bulge outwards, one inwards.
  EXPECT_TRUE(outlineIsProven(face({{0, 0}, {5, 0}, {10, 0, 2}, {10, 10, -3}, {0, 10}})));
  // Tangent arcs, as of a slot.
  const double r = 2 * (1 - std::sqrt(0.5));
  EXPECT_TRUE(outlineIsProven(face({{2, 0}, {8, 0, r}, {10, 2}, {10, 8, r}, {8, 10}, {2, 10, r}, {0, 8}, {0, 2, r}})));
}

TEST_F(OutlineCheck, OutlinesThatMeetThemselvesAreNot) {
  EXPECT_FALSE(outlineIsProven(face({{0, 0}, {10, 10}, {10, 0}, {0, 10}})));              // crossed
  EXPECT_FALSE(outlineIsProven(face({{0, 0}, {10, 0}, {10, 10}, {5, 0}, {0, 10}})));      // a corner on an edge
  EXPECT_FALSE(outlineIsProven(face({{0, 0}, {10, 0}, {10, 10}, {5, 1e-7}, {0, 10}})));   // nearly
  EXPECT_FALSE(outlineIsProven(face({{0, 0}, {10, 0}, {10, 5}, {10, 2}, {0, 5}})));       // folded back
  EXPECT_FALSE(outlineIsProven(face({{0, 0}, {10, 0, -6}, {10, 10}, {5, 5}, {0, 10}})));  // an arc through an edge
  EXPECT_FALSE(outlineIsProven(face({{0, 10}, {10, 10}, {10, 0}, {0, 0}})));              // the wrong way round
}

TEST_F(OutlineCheck, ArcsOfMoreThanHalfATurnAreProven) {
  const TopoDS_Face bay = face({{-3, 0}, {-1, 0, 5}, {1, 0}, {3, 0}, {3, 8}, {-3, 8}});
  ASSERT_TRUE(analyzed(bay));
  EXPECT_TRUE(outlineIsProven(bay));
  EXPECT_FALSE(outlineIsProven(face({{-3, 0}, {-1, 0, -5}, {1, 0}, {3, 0}, {3, 4}, {-3, 4}})));  // through the top
}

TEST_F(OutlineCheck, FewSidesAndArcsOfOneCircleAreProven) {
  const double r = 5 * (1 - std::sqrt(0.5));
  EXPECT_TRUE(outlineIsProven(face({{0, 0, 2}, {10, 0}})));                            // an arc and its chord
  EXPECT_TRUE(outlineIsProven(face({{0, 0, 2}, {10, 0, 1}})));                         // two arcs
  EXPECT_TRUE(outlineIsProven(face({{-5, 0, r}, {0, -5, r}, {5, 0, r}, {0, 5, r}})));  // a circle in four
  EXPECT_TRUE(outlineIsProven(face({{-5, 0, r}, {0, -5, r}, {5, 0}})));                // half of it
  EXPECT_FALSE(outlineIsProven(face({{0, 0, 1e-7}, {10, 0}})));                        // no width
  EXPECT_FALSE(outlineIsProven(face({{0, 0, 2}, {10, 0, -2}})));                       // twice the same
}

TEST_F(OutlineCheck, LooseEdgesAreLeftToTheAnalyzer) {
  const TopoDS_Face square = face({{0, 0}, {10, 0}, {10, 10}, {0, 10}});
  TopExp_Explorer edges(square, TopAbs_EDGE);
  BRep_Builder().UpdateEdge(TopoDS::Edge(edges.Current()), 1e-3);
  EXPECT_FALSE(outlineIsProven(square));
}

// Random stars, some with points that reach across: whatever is proven, the analyzer accepts.
TEST_F(OutlineCheck, WhatIsProvenIsValid) {
  std::mt19937 random(5);
  const auto between = [&](double low, double high) {
    return std::uniform_real_distribution<double>(low, high)(random);
  };
  int proven = 0, refused = 0;
  for (int round = 0; round < 400; ++round) {
    const int count = 5 + static_cast<int>(random() % 40);
    // Angles out of order make the outline cross itself.
    const double disorder = round % 2 ? 0 : between(0, 20.0 / count);
    std::vector<Corner> corners;
    for (int i = 0; i < count; ++i) {
      const double angle = 2 * pi * i / count + between(-disorder, disorder), radius = between(5, 10);
      const double chord = 2 * pi * 5 / count;
      corners.push_back(
          {radius * std::cos(angle), radius * std::sin(angle), random() % 3 ? 0 : between(-0.3, 0.3) * chord});
    }
    const TopoDS_Face star = face(corners);
    const bool quick = outlineIsProven(star), slow = analyzed(star);
    EXPECT_TRUE(slow || !quick) << round;
    proven += quick;
    refused += !slow;
  }
  EXPECT_GT(proven, 100);
  EXPECT_GT(refused, 50);
}

/// A part of a cylinder between corners given by angle and height; neighbours share one of them.
class WallCheck : public testing::Test {
 protected:
  struct Corner {
    double angle, height;
  };

  static TopoDS_Face wall(const std::vector<Corner>& corners, bool leftHanded = false) {
    gp_Ax3 axes(gp_Pnt(1, 2, 3), gp_Dir(0.3, -0.2, 0.9));
    if (leftHanded) axes.YReverse();
    const Handle(Geom_CylindricalSurface) surface = new Geom_CylindricalSurface(axes, 3);
    const auto at = [&](const Corner& corner) { return surface->Value(corner.angle, corner.height); };
    std::vector<TopoDS_Vertex> vertices;
    for (const Corner& corner : corners) vertices.push_back(BRepBuilderAPI_MakeVertex(at(corner)).Vertex());
    const BRep_Builder builder;
    TopoDS_Wire wire;
    builder.MakeWire(wire);
    for (std::size_t i = 0; i < corners.size(); ++i) {
      Corner a = corners[i], b = corners[(i + 1) % corners.size()];
      TopoDS_Vertex from = vertices[i], to = vertices[(i + 1) % corners.size()];
      const bool about = a.height == b.height;
      const bool backwards = about ? a.angle > b.angle : a.height > b.height;
      if (backwards) std::swap(a, b), std::swap(from, to);
      const Handle(Geom_Curve) curve = about ? surface->VIso(a.height) : surface->UIso(a.angle);
      const Handle(Geom2d_Curve) stored =
          about ? new Geom2d_Line({0, a.height}, {1, 0}) : new Geom2d_Line({a.angle, 0}, {0, 1});
      TopoDS_Edge edge;
      builder.MakeEdge(edge, curve, 1e-7);
      builder.UpdateEdge(edge, stored, surface, TopLoc_Location(), 1e-7);
      builder.Add(edge, from.Oriented(TopAbs_FORWARD));
      builder.Add(edge, to.Oriented(TopAbs_REVERSED));
      builder.Range(edge, about ? a.angle : a.height, about ? b.angle : b.height);
      builder.Add(wire, edge.Oriented(backwards ? TopAbs_REVERSED : TopAbs_FORWARD));
    }
    wire.Closed(true);
    TopoDS_Face face;
    builder.MakeFace(face, surface, 1e-7);
    builder.Add(face, wire);
    return face;
  }

  static bool analyzed(const TopoDS_Face& face) { return BRepCheck_Analyzer(face).IsValid(); }
};

TEST_F(WallCheck, PartsOfWallsAreProven) {
  for (const bool leftHanded : {false, true}) {
    const TopoDS_Face half = wall({{0.2, 0}, {3.1, 0}, {3.1, 10}, {0.2, 10}}, leftHanded);
    ASSERT_TRUE(analyzed(half));
    EXPECT_TRUE(outlineIsProven(half));
    EXPECT_TRUE(outlineIsProven(TopoDS::Face(half.Reversed())));
  }
  // Past the seam, and nearly all round.
  EXPECT_TRUE(outlineIsProven(wall({{5, 0}, {7, 0}, {7, 10}, {5, 10}})));
  EXPECT_TRUE(outlineIsProven(wall({{0.1, 0}, {6.2, 0}, {6.2, 10}, {0.1, 10}})));
  // All round, with a seam.
  for (const double height : {10.0, 0.01}) {
    const TopoDS_Shape post =
        BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(1, 2, 3), gp_Dir(0.3, -0.2, 0.9)), 3, height).Shape();
    const TopoDS_Face whole = TopoDS::Face(TopExp_Explorer(post, TopAbs_FACE).Current());
    EXPECT_TRUE(outlineIsProven(whole));
    EXPECT_TRUE(outlineIsProven(TopoDS::Face(whole.Reversed())));
  }
  // With a step.
  EXPECT_TRUE(outlineIsProven(wall({{0, 0}, {2, 0}, {2, 5}, {1, 5}, {1, 10}, {0, 10}})));
}

TEST_F(WallCheck, WhatTheCutsOfABodyLeaveIsProven) {
  // A hole of radius 3 cut beside its axis: the kernel leaves its seam as an edge.
  const TopoDS_Shape pipe = BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(1, 2, 3), gp_Dir(0, 0, 1)), 3, 10).Shape();
  const TopoDS_Shape knife = BRepPrimAPI_MakeBox(gp_Pnt(3, -10, -10), 50, 50, 50).Shape();
  for (const TopoDS_Shape& part : {BRepAlgoAPI_Cut(pipe, knife).Shape(), BRepAlgoAPI_Common(pipe, knife).Shape()}) {
    int walls = 0;
    for (TopExp_Explorer it(part, TopAbs_FACE); it.More(); it.Next()) {
      ++walls;
      EXPECT_TRUE(outlineIsProven(TopoDS::Face(it.Current()))) << walls;
    }
    EXPECT_GE(walls, 4);
  }
}

TEST_F(WallCheck, OthersAreNot) {
  constexpr double turn = 2 * pi;
  EXPECT_FALSE(outlineIsProven(wall({{0.2, 10}, {3, 10}, {3, 0}, {0.2, 0}})));            // the wrong way round
  EXPECT_FALSE(outlineIsProven(wall({{0, 0}, {turn, 0}, {turn, 10}, {0, 10}})));          // all round
  EXPECT_FALSE(outlineIsProven(wall({{0, 0}, {turn + 1, 0}, {turn + 1, 10}, {0, 10}})));  // and further
  EXPECT_FALSE(
      outlineIsProven(wall({{0, 0}, {3, 0}, {3, 10}, {2, 10}, {2, -1}, {1, -1}, {1, 10}, {0, 10}})));  // crossed
  // The surface knows one of the edges elsewhere.
  const TopoDS_Face half = wall({{0.2, 0}, {3.1, 0}, {3.1, 10}, {0.2, 10}});
  const TopExp_Explorer edges(half, TopAbs_EDGE);
  TopLoc_Location place;
  BRep_Builder().UpdateEdge(TopoDS::Edge(edges.Current()), new Geom2d_Line({0, 0.001}, {1, 0}),
                            BRep_Tool::Surface(half, place), place, 1e-7);
  EXPECT_FALSE(analyzed(half));
  EXPECT_FALSE(outlineIsProven(half));
}

// Rows of battlements of random depth, some through the bottom: whatever is proven, the analyzer accepts.
TEST_F(WallCheck, WhatIsProvenIsValid) {
  std::mt19937 random(7);
  const auto between = [&](double low, double high) {
    return std::uniform_real_distribution<double>(low, high)(random);
  };
  int proven = 0, refused = 0;
  for (int round = 0; round < 200; ++round) {
    const int steps = 1 + static_cast<int>(random() % 8);
    const double start = between(0, 6), width = between(1, 7) / steps, lowest = round % 2 ? 1 : -2;
    std::vector<Corner> corners{{start, 0}, {start + width * steps, 0}};
    for (int i = steps; i-- > 0;) {
      const double height = between(lowest, 10);
      corners.push_back({start + width * (i + 1), height});
      corners.push_back({start + width * i, height});
    }
    const TopoDS_Face face = wall(corners, round % 3 == 0);
    const bool quick = outlineIsProven(face), slow = analyzed(face);
    EXPECT_TRUE(slow || !quick) << round;
    proven += quick;
    refused += !slow;
  }
  EXPECT_GT(proven, 50);
  EXPECT_GT(refused, 30);
}

}  // namespace
}  // namespace kervo
