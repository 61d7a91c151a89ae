#include "geom/kernel/space_loops.h"

#include "geom/kernel/shape_body.h"

namespace kervo {

std::optional<std::vector<EdgeLoop>> loopsInSpace(const TopoDS_Face& forward) {
  ShapeMap<int> uses;
  for (TopExp_Explorer it(forward, TopAbs_EDGE); it.More(); it.Next()) {
    const TopAbs_Orientation way = it.Current().Orientation();
    if (way != TopAbs_FORWARD && way != TopAbs_REVERSED) return std::nullopt;
    ++uses[it.Current()];
  }
  std::vector<TopoDS_Edge> edges;
  ShapeMap<std::vector<std::size_t>> startingAt;
  for (TopExp_Explorer it(forward, TopAbs_EDGE); it.More(); it.Next()) {
    const TopoDS_Edge edge = TopoDS::Edge(it.Current());
    if (BRep_Tool::Degenerated(edge) || uses.at(edge) > 1) continue;
    startingAt[TopExp::FirstVertex(edge, true)].push_back(edges.size());
    edges.push_back(edge);
  }
  std::vector<EdgeLoop> loops;
  std::vector<char> taken(edges.size(), 0);
  for (std::size_t start = 0; start < edges.size(); ++start) {
    if (taken[start]) continue;
    EdgeLoop loop;
    const TopoDS_Vertex home = TopExp::FirstVertex(edges[start], true);
    std::size_t at = start;
    while (true) {
      taken[at] = 1;
      loop.push_back(edges[at]);
      const TopoDS_Vertex end = TopExp::LastVertex(edges[at], true);
      if (end.IsSame(home)) break;
      const auto next = startingAt.find(end);
      if (next == startingAt.end() || next->second.size() != 1 || taken[next->second.front()]) return std::nullopt;
      at = next->second.front();
    }
    loops.push_back(std::move(loop));
  }
  return loops;
}

}  // namespace kervo
