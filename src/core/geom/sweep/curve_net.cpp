#include "geom/sweep/curve_net.h"

#include <BOPAlgo_Tools.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <Geom_Plane.hxx>
#include <set>

#include "base/say.h"
#include "geom/kernel/curve_edges.h"
#include "geom/sweep/region_body.h"

namespace kervo {

namespace {

/// The kernel's edges of a net, which share vertices.
class NetEdges {
 public:
  explicit NetEdges(const CurveNet& net) {
    std::vector<TopoDS_Vertex> vertices;
    for (const Point& node : net.nodes) vertices.push_back(BRepBuilderAPI_MakeVertex(toPnt(node)).Vertex());
    for (const CurveNet::Link& link : net.links) {
      edges_.push_back(link.along.curve.closed()
                           ? closedEdge(link.along.curve)
                           : edgeBetween(link.along.curve, vertices.at(link.from), vertices.at(link.to)));
      names_.emplace(edges_.back(), link.along.name);
    }
  }

  const std::vector<TopoDS_Edge>& edges() const { return edges_; }
  const ShapeMap<std::string>& names() const { return names_; }

  std::vector<TopoDS_Wire> wiresOf(const std::vector<std::vector<CurveNet::Run>>& loops) const {
    std::vector<TopoDS_Wire> wires;
    for (const auto& loop : loops) wires.push_back(wireOf(loop));
    return wires;
  }

 private:
  TopoDS_Wire wireOf(const std::vector<CurveNet::Run>& loop) const {
    TopoDS_Wire wire;
    BRep_Builder builder;
    builder.MakeWire(wire);
    for (const CurveNet::Run& run : loop)
      builder.Add(wire, edges_.at(run.link).Oriented(run.backwards ? TopAbs_REVERSED : TopAbs_FORWARD));
    wire.Closed(true);
    return wire;
  }

  std::vector<TopoDS_Edge> edges_;
  ShapeMap<std::string> names_;
};

/// The face with only the wires that bound it, on our plane, its outer wire counter-clockwise.
TopoDS_Face rebuilt(const TopoDS_Face& face, const Plane& plane) {
  const gp_Pln pln = toPln(plane);
  std::vector<std::pair<double, TopoDS_Wire>> wires;
  for (TopoDS_Iterator it(face); it.More(); it.Next()) {
    if (it.Value().ShapeType() != TopAbs_WIRE) continue;
    const TopExp_Explorer edge(it.Value(), TopAbs_EDGE);
    if (!edge.More() || edge.Current().Orientation() == TopAbs_INTERNAL) continue;
    wires.emplace_back(loopArea(it.Value(), pln), TopoDS::Wire(it.Value()));
  }
  std::sort(wires.begin(), wires.end(),
            [](const auto& a, const auto& b) { return std::abs(a.first) > std::abs(b.first); });
  TopoDS_Face result;
  BRep_Builder builder;
  builder.MakeFace(result, new Geom_Plane(pln), tolerance::point);
  for (std::size_t i = 0; i < wires.size(); ++i) {
    const bool positive = wires[i].first > 0;
    builder.Add(result, positive == (i == 0) ? wires[i].second : TopoDS_Shape(wires[i].second.Reversed()));
  }
  return result;
}

std::vector<TopoDS_Face> intersectedFaces(const Plane& plane, const NetEdges& net, double fuzzy,
                                          ShapeMap<std::string>& names, Progress& progress) {
  BOPAlgo_Builder builder;
  if (fuzzy > 0) builder.SetFuzzyValue(fuzzy);
  for (const TopoDS_Edge& edge : net.edges()) builder.AddArgument(edge);
  Handle(KernelProgress) indicator = new KernelProgress(progress);
  builder.Perform(indicator->Start());
  progress.throwIfStopped();
  if (builder.HasErrors())
    throw Error(say("the curves could not be intersected with each other"), "",
                say("Some of them probably run along each other almost exactly; move one"));
  BRep_Builder make;
  TopoDS_Compound edges;
  make.MakeCompound(edges);
  names.clear();
  for (const TopoDS_Edge& edge : net.edges()) {
    const std::string& id = net.names().at(edge);
    const TopTools_ListOfShape* images = builder.Images().Seek(edge);
    const auto add = [&](const TopoDS_Shape& part) {
      const TopoDS_Shape* same = builder.ShapesSD().Seek(part);
      const TopoDS_Shape& kept = same ? *same : part;
      if (names.emplace(kept, id).second) make.Add(edges, kept.Oriented(TopAbs_FORWARD));
    };
    if (images)
      for (const TopoDS_Shape& part : *images) add(part);
    else
      add(edge);
  }
  TopoDS_Shape wires, faces;
  BOPAlgo_Tools::EdgesToWires(edges, wires, true);
  progress.throwIfStopped();
  BOPAlgo_Tools::WiresToFaces(wires, faces);
  std::vector<TopoDS_Face> result;
  if (faces.IsNull()) return result;
  for (TopExp_Explorer it(faces, TopAbs_FACE); it.More(); it.Next())
    result.push_back(rebuilt(TopoDS::Face(it.Current()), plane));
  return result;
}

std::string groupOf(const std::string& curve) {
  return curve.substr(0, curve.find('.'));
}

std::string describe(const TopoDS_Face& face, const ShapeMap<std::string>& curves) {
  std::set<std::string> sides;
  for (TopExp_Explorer it(face, TopAbs_EDGE); it.More(); it.Next())
    sides.insert(groupOf(curves.at(it.Current())) + (it.Current().Orientation() == TopAbs_REVERSED ? "-" : "+"));
  std::string name;
  for (const std::string& side : sides) name += (name.empty() ? "" : ".") + side;
  return name;
}

}  // namespace

std::vector<Region> regionsOf(const CurveNet& net, Progress& progress) {
  if (net.links.empty()) return {};
  if (!net.loops && net.links.size() == 1) {
    // There is nothing that it could be intersected with.
    if (!net.links.front().along.curve.closed()) return {};
    CurveNet alone = net;
    alone.loops = {{{0, false}}};
    return regionsOf(alone, progress);
  }
  return kernelCall("finding regions", [&] {
    const NetEdges edges(net);
    ShapeMap<std::string> names = edges.names();
    const std::vector<TopoDS_Face> faces = net.loops ? nestedFaces(net.plane, edges.wiresOf(*net.loops), progress)
                                                     : intersectedFaces(net.plane, edges, net.fuzzy, names, progress);
    std::vector<RegionBody> found;
    for (const TopoDS_Face& face : faces) {
      progress.throwIfStopped();
      found.push_back(RegionBody::of(describe(face, names), net.plane, face,
                                     [&](const TopoDS_Shape& edge) { return names.at(edge); }));
    }
    std::sort(found.begin(), found.end(), [](const RegionBody& a, const RegionBody& b) {
      const Point p = a.planeBox.centre(), q = b.planeBox.centre();
      return std::tie(a.name, p.x, p.y) < std::tie(b.name, q.x, q.y);
    });
    std::vector<Region> regions;
    std::string base;
    int same = 0;
    for (RegionBody& body : found) {
      same = body.name == base ? same + 1 : 1;
      base = body.name;
      if (same > 1) body.name += "#" + std::to_string(same);
      regions.emplace_back(std::make_shared<const RegionBody>(std::move(body)));
    }
    return regions;
  });
}

}  // namespace kervo
