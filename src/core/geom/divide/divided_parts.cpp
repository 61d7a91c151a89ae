#include "geom/divide/divided_parts.h"

#include "base/say.h"

namespace kervo {

std::vector<TopoDS_Shape> solidsBoundedBy(const std::vector<TopoDS_Shape>& faces, const FaceTable& table) {
  ShapeMap<int> uses;
  for (const TopoDS_Shape& face : faces)
    for (TopExp_Explorer it(face, TopAbs_EDGE); it.More(); it.Next())
      if (!BRep_Tool::Degenerated(TopoDS::Edge(it.Current()))) ++uses[it.Current()];
  for (const auto& [edge, count] : uses)
    if (count != 2) throw Unsound{say("the boundary of a part does not close, or touches itself")};
  std::vector<TopoDS_Shape> result, hollows;
  const BRep_Builder builder;
  for (const TopoDS_Shape& shell : shellsOf(faces)) {
    TopoDS_Shell closed = TopoDS::Shell(shell);
    closed.Closed(true);
    TopoDS_Solid solid;
    builder.MakeSolid(solid);
    builder.Add(solid, closed);
    if (volumeOf(solid, table) > 0)
      result.push_back(solid);
    else
      hollows.push_back(closed);
  }
  if (!hollows.empty() && result.size() != 1) throw Unsound{say("a hollow has no clear place")};
  for (const TopoDS_Shape& hollow : hollows) builder.Add(result.front(), hollow);
  return result;
}

}  // namespace kervo
