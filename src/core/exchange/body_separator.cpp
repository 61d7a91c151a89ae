#include "exchange/body_separator.h"

#include <BOPTools_AlgoTools.hxx>
#include <BRepBuilderAPI_Copy.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRep_Builder.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
#include <TopoDS_Shell.hxx>

namespace kervo {

namespace {

/// One shape for each group of shapes of a type that are connected by shapes of another type.
std::vector<TopoDS_Shape> connected(const TopoDS_Compound& loose, TopAbs_ShapeEnum by, TopAbs_ShapeEnum type) {
  TopTools_ListOfListOfShape blocks;
  TopTools_IndexedDataMapOfShapeListOfShape connections;
  BOPTools_AlgoTools::MakeConnexityBlocks(loose, by, type, blocks, connections);
  std::vector<TopoDS_Shape> result;
  BRep_Builder builder;
  for (const TopTools_ListOfShape& block : blocks) {
    TopoDS_Shape group;
    if (type == TopAbs_FACE) {
      TopoDS_Shell shell;
      builder.MakeShell(shell);
      group = shell;
    } else {
      TopoDS_Compound compound;
      builder.MakeCompound(compound);
      group = compound;
    }
    for (const TopoDS_Shape& part : block) builder.Add(group, part);
    result.push_back(group);
  }
  return result;
}

}  // namespace

std::vector<TopoDS_Shape> separateBodies(const TopoDS_Shape& shape) {
  std::vector<TopoDS_Shape> bodies;
  for (TopExp_Explorer it(shape, TopAbs_SOLID); it.More(); it.Next()) bodies.push_back(it.Current());
  for (TopExp_Explorer it(shape, TopAbs_SHELL, TopAbs_SOLID); it.More(); it.Next()) bodies.push_back(it.Current());
  BRep_Builder builder;
  TopoDS_Compound faces, edges;
  builder.MakeCompound(faces);
  builder.MakeCompound(edges);
  for (TopExp_Explorer it(shape, TopAbs_FACE, TopAbs_SHELL); it.More(); it.Next()) builder.Add(faces, it.Current());
  for (TopExp_Explorer it(shape, TopAbs_EDGE, TopAbs_FACE); it.More(); it.Next()) builder.Add(edges, it.Current());
  for (TopoDS_Shape& group : connected(faces, TopAbs_EDGE, TopAbs_FACE)) bodies.push_back(std::move(group));
  for (TopoDS_Shape& group : connected(edges, TopAbs_VERTEX, TopAbs_EDGE)) bodies.push_back(std::move(group));
  return bodies;
}

TopoDS_Shape withoutLocations(const TopoDS_Shape& shape) {
  if (shape.Location().IsIdentity()) return shape;
  const gp_Trsf place = shape.Location().Transformation();
  return BRepBuilderAPI_Transform(shape.Located(TopLoc_Location()), place, true).Shape();
}

}  // namespace kervo
