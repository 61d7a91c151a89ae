// The kernel's own hidden-line removal, as measured in the notes on exchange: by faces it keeps lines, circles and
// ellipses; its time grows with nearly the square of the faces.
#include "geom/flat/hidden_lines.h"

#include <BRepBuilderAPI_Copy.hxx>
#include <BRepLib.hxx>
#include <BRepMesh_IncrementalMesh.hxx>
#include <HLRAlgo_Projector.hxx>
#include <HLRBRep_Algo.hxx>
#include <HLRBRep_HLRToShape.hxx>
#include <HLRBRep_PolyAlgo.hxx>
#include <HLRBRep_PolyHLRToShape.hxx>
#include <IntCurvesFace_ShapeIntersector.hxx>
#include <TopExp_Explorer.hxx>

#include "base/say.h"
#include "geom/kernel/flatten.h"
#include "geom/kernel/topology_body.h"

namespace kervo {

namespace {

/// More faces than this take minutes by themselves.
constexpr int mostFaces = 1500;
/// How far triangles may lie from their faces, mm, and how far their normals, radians.
constexpr double triangleError = 0.05, triangleAngle = 0.2;
/// Shorter than this on paper there is nothing to see, mm of the model.
constexpr double speck = 1e-5;

void add(std::vector<SpaceCurve>& curves, const TopoDS_Shape& edges) {
  if (edges.IsNull()) return;
  BRepLib::BuildCurves3d(edges);
  for (TopExp_Explorer it(edges, TopAbs_EDGE); it.More(); it.Next()) {
    auto curve = flatCurveOf(TopoDS::Edge(it.Current()), Plane{});
    if (curve && curve->length() > speck) curves.push_back(std::move(*curve));
  }
}

HLRAlgo_Projector projectorOf(const Plane& plane) {
  return HLRAlgo_Projector(toAxes(plane).Ax2());
}

std::vector<SeenLines> byFaces(const std::vector<Shape>& shapes, const Plane& plane, Progress& progress) {
  Handle(HLRBRep_Algo) hider = new HLRBRep_Algo;
  for (const Shape& shape : shapes) hider->Add(shape.body().topology);
  hider->Projector(projectorOf(plane));
  hider->Update();
  progress.throwIfStopped();
  hider->Hide();
  progress.throwIfStopped();
  HLRBRep_HLRToShape found(hider);
  std::vector<SeenLines> result;
  for (const Shape& shape : shapes) {
    SeenLines& lines = result.emplace_back();
    const TopoDS_Shape& topology = shape.body().topology;
    add(lines.visible, found.VCompound(topology));
    add(lines.visible, found.OutLineVCompound(topology));
    add(lines.hidden, found.HCompound(topology));
    add(lines.hidden, found.OutLineHCompound(topology));
  }
  return result;
}

std::vector<SeenLines> byTriangles(const std::vector<Shape>& shapes, const Plane& plane, Progress& progress) {
  Handle(HLRBRep_PolyAlgo) hider = new HLRBRep_PolyAlgo;
  std::vector<TopoDS_Shape> copies;
  for (const Shape& shape : shapes) {
    progress.throwIfStopped();
    // Triangles are kept in the shape: others must not see them.
    copies.push_back(BRepBuilderAPI_Copy(shape.body().topology, true, false).Shape());
    const BRepMesh_IncrementalMesh mesh(copies.back(), triangleError, false, triangleAngle, true);
    if (!mesh.IsDone()) throw Error(say("a body has no triangles to be drawn"), "", say("Check and repair the body"));
    hider->Load(copies.back());
  }
  hider->Projector(projectorOf(plane));
  hider->Update();
  progress.throwIfStopped();
  HLRBRep_PolyHLRToShape found;
  found.Update(hider);
  std::vector<SeenLines> result;
  for (const TopoDS_Shape& copy : copies) {
    SeenLines& lines = result.emplace_back();
    add(lines.visible, found.VCompound(copy));
    add(lines.visible, found.OutLineVCompound(copy));
    add(lines.hidden, found.HCompound(copy));
    add(lines.hidden, found.OutLineHCompound(copy));
  }
  return result;
}

}  // namespace

AllSeen linesSeen(const std::vector<Shape>& shapes, const Plane& plane, SeenBy by, Progress& progress) {
  return kernelCall(later("drawing what is seen"), [&] {
    return AllSeen{by == SeenBy::Faces ? byFaces(shapes, plane, progress) : byTriangles(shapes, plane, progress), by};
  });
}

AllSeen linesSeen(const std::vector<Shape>& shapes, const Plane& plane, Progress& progress) {
  int faces = 0;
  for (const Shape& shape : shapes) faces += shape.faceCount();
  if (faces <= mostFaces) {
    try {
      return linesSeen(shapes, plane, SeenBy::Faces, progress);
    } catch (const Error&) {
      // The triangles below do not need what it failed at; the result says that they were taken.
      progress.throwIfStopped();
    }
  }
  return linesSeen(shapes, plane, SeenBy::Triangles, progress);
}

bool isSeen(Point point, Vector towardsEye, const std::vector<Shape>& shapes) {
  return kernelCall(later("looking along a line"), [&] {
    constexpr double off = 1e-4;
    const gp_Lin sight(toPnt(point), gp_Dir(towardsEye.x, towardsEye.y, towardsEye.z));
    for (const Shape& shape : shapes) {
      if (shape.empty()) continue;
      IntCurvesFace_ShapeIntersector meets;
      meets.Load(shape.body().topology, tolerance::point);
      meets.Perform(sight, off, RealLast());
      if (meets.IsDone() && meets.NbPnt() > 0) return false;
    }
    return true;
  });
}

}  // namespace kervo
