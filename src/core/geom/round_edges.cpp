#include "geom/round_edges.h"

#include <BRepFilletAPI_MakeFillet.hxx>

#include "base/quantity.h"
#include "geom/kernel/topology_body.h"
#include "geom/primitives.h"
#include "geom/soundness.h"

namespace kervo {

Shape roundEdges(const std::string& name, const Shape& solid, const std::vector<Edge>& edges, double radius,
                 Progress& progress) {
  requireSize("radius", radius);
  progress.throwIfStopped();
  const std::string help = "Use a smaller radius, or round fewer edges at once";
  const auto doesNotFit = [&](const std::string& why) {
    return Error("a round of radius " + formatNumber(radius) + " mm does not fit here (" + why + ")", "", help);
  };
  return kernelCall("rounding", [&] {
    BRepFilletAPI_MakeFillet make(solid.body().topology);
    for (const Edge& edge : edges)
      if (make.Contour(edge.body().edge) == 0) make.Add(radius, edge.body().edge);
    if (make.NbContours() == 0) throw doesNotFit("no edge can be rounded");
    Handle(KernelProgress) indicator = new KernelProgress(progress);
    make.Build(indicator->Start());
    progress.throwIfStopped();
    if (!make.IsDone()) throw doesNotFit("the faces beside the edge are too small");

    FaceTable table;
    const auto put = [&](const TopoDS_Shape& face, const FaceFacts& facts) {
      if (face.ShapeType() == TopAbs_FACE) table.emplace(face, facts);
    };
    for (const auto& [face, facts] : solid.body().faces) {
      const TopTools_ListOfShape& modified = make.Modified(face);
      if (modified.IsEmpty() && !make.IsDeleted(face)) put(face, facts);
      for (const TopoDS_Shape& part : modified) put(part, {facts.origins, facts.color, false});
    }
    // Every edge of the contours, also those that continue a chosen one.
    TopTools_IndexedDataMapOfShapeListOfShape ancestors;
    TopExp::MapShapesAndUniqueAncestors(solid.body().topology, TopAbs_EDGE, TopAbs_FACE, ancestors);
    for (int contour = 1; contour <= make.NbContours(); ++contour)
      for (int i = 1; i <= make.NbEdges(contour); ++i) {
        const TopoDS_Edge& edge = make.Edge(contour, i);
        const TopTools_ListOfShape& beside = ancestors.FindFromKey(edge);
        std::vector<std::string> names;
        for (const TopoDS_Shape& face : beside) names.push_back(factsOf(solid, face).origins->front());
        std::sort(names.begin(), names.end());
        const Origins origins = originsOf(name + ":blend:(" + names.front() + "|" + names.back() + ")");
        for (const TopoDS_Shape& face : make.Generated(edge)) put(face, {origins, {}, false});
      }
    TopTools_IndexedMapOfShape vertices;
    TopExp::MapShapes(solid.body().topology, TopAbs_VERTEX, vertices);
    for (int i = 1; i <= vertices.Extent(); ++i)
      for (const TopoDS_Shape& face : make.Generated(vertices(i))) put(face, {originsOf(name + ":corner"), {}, false});

    const Shape rounded = makeShape(make.Shape(), std::move(table), name + ":blend:");
    const std::string fault = rounded.empty() ? "nothing is left" : findFault(rounded.body(), progress);
    if (!fault.empty()) throw doesNotFit(fault);
    // A round stays within the body's box, and never takes or adds more than a tube round its edges would.
    Box allowed = solid.box().enlarged(tolerance::samplePoint);
    double tube = 0;
    for (int contour = 1; contour <= make.NbContours(); ++contour) tube += make.Length(contour) * 4 * radius * radius;
    const Box box = rounded.box();
    if (!allowed.contains(box.low) || !allowed.contains(box.high) ||
        std::abs(rounded.volume() - solid.volume()) > tube + tolerance::balance * solid.volume())
      throw doesNotFit("the result would leave the body");
    return rounded;
  });
}

}  // namespace kervo
