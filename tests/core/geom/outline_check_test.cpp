// The quick proof must never hold for a face that the kernel's analyzer refuses, and hold for the ordinary ones.
#include "geom/kernel/outline_check.h"

#include <gtest/gtest.h>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRep_Builder.hxx>
#include <GC_MakeArcOfCircle.hxx>
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

}  // namespace
}  // namespace kervo
