#include "geom/divide/side_by_side.h"

#include <BRep_Builder.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS_Compound.hxx>

#include "geom/kernel/shape_body.h"

namespace kervo {

Shape sideBySide(const Shape& a, const Shape& b) {
  if (a.empty()) return b;
  if (b.empty()) return a;
  FaceTable table = a.body().faces;
  for (const auto& entry : b.body().faces) table.insert(entry);
  TopoDS_Compound all;
  BRep_Builder builder;
  builder.MakeCompound(all);
  for (const Shape* part : {&a, &b})
    for (TopExp_Explorer it(part->body().topology, TopAbs_SOLID); it.More(); it.Next()) builder.Add(all, it.Current());
  return makeShape(all, std::move(table), "face:");
}

}  // namespace kervo
