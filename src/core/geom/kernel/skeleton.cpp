#include "geom/kernel/skeleton.h"

#include <TopoDS_Iterator.hxx>

#include "geom/kernel/shape_body.h"

namespace kervo {

namespace {

class Walk {
 public:
  explicit Walk(Skeleton& result) : result_(result) {}

  void run(const TopoDS_Shape& topology) {
    ShapeMap<bool> seen;
    for (TopExp_Explorer it(topology, TopAbs_FACE); it.More(); it.Next()) {
      if (!seen.emplace(it.Current(), true).second) continue;
      face_ = static_cast<std::uint32_t>(result_.faces.size());
      inFace_ = true;
      result_.faces.push_back(TopoDS::Face(it.Current()));
      visit(it.Current());
    }
    inFace_ = false;
    for (TopExp_Explorer it(topology, TopAbs_EDGE, TopAbs_FACE); it.More(); it.Next()) visitEdge(it.Current());
    for (TopExp_Explorer it(topology, TopAbs_VERTEX, TopAbs_EDGE); it.More(); it.Next()) visitVertex(it.Current());
    for (Skeleton::EdgePart& part : result_.edges)
      part.visible = !BRep_Tool::Degenerated(part.edge) &&
                     !(part.faces.size() == 1 && BRep_Tool::IsClosed(part.edge, result_.faces[part.faces.front()]));
  }

 private:
  void visit(const TopoDS_Shape& shape) {
    for (TopoDS_Iterator it(shape); it.More(); it.Next()) {
      const TopoDS_Shape& child = it.Value();
      if (child.ShapeType() == TopAbs_EDGE)
        visitEdge(child);
      else if (child.ShapeType() == TopAbs_VERTEX)
        visitVertex(child);
      else
        visit(child);
    }
  }

  void visitEdge(const TopoDS_Shape& edge) {
    const auto [place, isNew] = numberOfEdge_.emplace(edge, result_.edges.size());
    if (isNew) result_.edges.push_back({TopoDS::Edge(edge), {}, true});
    joinFace(result_.edges[place->second].faces);
    std::optional<std::size_t> last;
    for (TopoDS_Iterator it(edge); it.More(); it.Next()) {
      const std::size_t vertex = visitVertex(it.Value());
      // The two ends of a closed edge are one vertex.
      if (isNew && vertex != last) ++result_.vertices[vertex].edgeCount;
      last = vertex;
    }
  }

  std::size_t visitVertex(const TopoDS_Shape& vertex) {
    const auto [place, isNew] = numberOfVertex_.emplace(vertex, result_.vertices.size());
    if (isNew) result_.vertices.push_back({TopoDS::Vertex(vertex), {}, 0});
    joinFace(result_.vertices[place->second].faces);
    return place->second;
  }

  /// Faces are walked one after another: one that is there already is the last.
  void joinFace(std::vector<std::uint32_t>& faces) const {
    if (inFace_ && (faces.empty() || faces.back() != face_)) faces.push_back(face_);
  }

  Skeleton& result_;
  std::uint32_t face_ = 0;
  bool inFace_ = false;
  ShapeMap<std::size_t> numberOfEdge_, numberOfVertex_;
};

}  // namespace

const Skeleton& skeletonOf(const Shape& shape) {
  const ShapeBody& body = shape.body();
  std::call_once(body.skeletonOnce, [&] {
    auto skeleton = std::make_shared<Skeleton>();
    Walk(*skeleton).run(body.topology);
    body.skeleton = std::move(skeleton);
  });
  return *body.skeleton;
}

}  // namespace kervo
