#include "geom/surface/blended_edges.h"

#include <BRepFilletAPI_MakeChamfer.hxx>
#include <BRepFilletAPI_MakeFillet.hxx>

#include "base/quantity.h"
#include "base/say.h"
#include "geom/kernel/topology_body.h"
#include "geom/measure/soundness.h"
#include "geom/primitives.h"

namespace kervo {

namespace {

/// What is said of a kind of blend, and how its faces are called.
struct Words {
  std::string doing;  ///< "rounding"
  std::string what;   ///< "a round of radius"
  std::string part;   ///< of the names of new faces
  std::string help;
};

/// Sizes of single edges: checked, and the size of each.
class OwnSizes {
 public:
  OwnSizes(const std::vector<double>& own, double usual, const std::string& what) : own_(own), usual_(usual) {
    for (const double size : own)
      if (size != 0) requireSize(what, size);
  }
  /// Whether the edge has another size than the rest.
  bool has(std::size_t edge) const { return edge < own_.size() && own_[edge] != 0; }
  double of(std::size_t edge) const { return has(edge) ? own_[edge] : usual_; }
  double largest() const {
    double most = usual_;
    for (const double size : own_) most = std::max(most, size);
    return most;
  }

 private:
  const std::vector<double>& own_;
  double usual_;
};

/// One of the kernel's two ways. It takes edges that continue a chosen one tangentially along.
template <class Make, class Add>
BlendedEdges blended(const std::string& name, const Shape& solid, const std::vector<Edge>& edges, const OwnSizes& sizes,
                     const Words& words, Progress& progress, Add&& add) {
  const double size = sizes.largest();
  progress.throwIfStopped();
  const auto doesNotFit = [&](const std::string& why) {
    return Error(say("%1 %2 mm does not fit here (%3)", words.what, formatNumber(size), why), "", words.help);
  };
  return kernelCall(words.doing, [&] {
    Make make(solid.body().topology);
    std::vector<double> ofContours;
    for (std::size_t i = 0; i < edges.size(); ++i) {
      const TopoDS_Edge& edge = edges[i].body().edge;
      const int contour = make.Contour(edge);
      if (contour == 0) add(make, edge, i);
      ofContours.resize(static_cast<std::size_t>(make.NbContours()), sizes.of(i));
      if (contour > 0 && ofContours[static_cast<std::size_t>(contour) - 1] != sizes.of(i))
        throw Error(say("two edges that continue each other cannot have different sizes"), "",
                    say("Give both the same size"));
    }
    if (make.NbContours() == 0) throw doesNotFit(say("no edge can be blended"));
    Handle(KernelProgress) indicator = new KernelProgress(progress);
    make.Build(indicator->Start());
    progress.throwIfStopped();
    if (!make.IsDone()) throw doesNotFit(say("the faces beside the edge are too small"));

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
    int count = 0;
    for (int contour = 1; contour <= make.NbContours(); ++contour)
      for (int i = 1; i <= make.NbEdges(contour); ++i) {
        ++count;
        const TopoDS_Edge& edge = make.Edge(contour, i);
        const TopTools_ListOfShape& beside = ancestors.FindFromKey(edge);
        std::vector<std::string> names;
        for (const TopoDS_Shape& face : beside) names.push_back(factsOf(solid, face).origins->front());
        std::sort(names.begin(), names.end());
        const Origins origins = originsOf(name + ":" + words.part + ":(" + names.front() + "|" + names.back() + ")");
        for (const TopoDS_Shape& face : make.Generated(edge)) put(face, {origins, {}, false});
      }
    TopTools_IndexedMapOfShape vertices;
    TopExp::MapShapes(solid.body().topology, TopAbs_VERTEX, vertices);
    for (int i = 1; i <= vertices.Extent(); ++i)
      for (const TopoDS_Shape& face : make.Generated(vertices(i))) put(face, {originsOf(name + ":corner"), {}, false});

    const Shape result = makeShape(make.Shape(), std::move(table), name + ":" + words.part + ":");
    const std::string fault = result.empty() ? say("nothing is left") : findFault(result.body(), progress);
    if (!fault.empty()) throw doesNotFit(fault);
    // A blend stays within the body's box, and never takes or adds more than a tube round its edges would.
    Box allowed = solid.box().enlarged(tolerance::samplePoint);
    double tube = 0;
    for (int contour = 1; contour <= make.NbContours(); ++contour) tube += make.Length(contour) * 4 * size * size;
    const Box box = result.box();
    if (!allowed.contains(box.low) || !allowed.contains(box.high) ||
        std::abs(result.volume() - solid.volume()) > tube + tolerance::balance * solid.volume())
      throw doesNotFit(say("the result would leave the body"));
    return BlendedEdges{result, count};
  });
}

using FacesBeside = TopTools_IndexedDataMapOfShapeListOfShape;

/// The face on which the first distance of a chamfer is.
TopoDS_Face firstBeside(const Shape& solid, const TopoDS_Edge& edge, const FacesBeside& beside,
                        const ShapeMap<int>& uses, bool flip) {
  std::vector<TopoDS_Face> faces;
  for (const TopoDS_Shape& face : beside.FindFromKey(edge)) faces.push_back(TopoDS::Face(face));
  if (faces.size() < 2) throw Error(say("an edge has a face on one side only"), "", say("Take that edge out"));
  const auto rank = [&](const TopoDS_Face& face) {
    return std::pair(-uses.at(face), factsOf(solid, face).origins->front());
  };
  const bool second = rank(faces[1]) < rank(faces[0]);
  return faces[second != flip ? 1 : 0];
}

}  // namespace

BlendedEdges roundEdges(const std::string& name, const Shape& solid, const std::vector<Edge>& edges, RoundSize size,
                        Progress& progress) {
  requireSize("radius", size.radius);
  if (size.end) requireSize("radius", *size.end);
  const double from = size.flip ? size.end.value_or(size.radius) : size.radius;
  const double to = size.flip ? size.radius : size.end.value_or(size.radius);
  const OwnSizes sizes(size.own, std::max(from, to), "radius");
  return blended<BRepFilletAPI_MakeFillet>(
      name, solid, edges, sizes,
      {"rounding", say("a round of radius"), "blend", say("Use a smaller radius, or round fewer edges at once")},
      progress, [&](BRepFilletAPI_MakeFillet& make, const TopoDS_Edge& edge, std::size_t index) {
        if (sizes.has(index))
          make.Add(sizes.of(index), edge);
        else if (from == to)
          make.Add(from, edge);
        else
          make.Add(from, to, edge);
      });
}

BlendedEdges chamferEdges(const std::string& name, const Shape& solid, const std::vector<Edge>& edges, ChamferSize size,
                          Progress& progress) {
  requireSize("distance", size.first);
  if (size.second) requireSize("distance", *size.second);
  FacesBeside beside;
  TopExp::MapShapesAndUniqueAncestors(solid.body().topology, TopAbs_EDGE, TopAbs_FACE, beside);
  ShapeMap<int> uses;
  for (const Edge& edge : edges)
    for (const TopoDS_Shape& face : beside.FindFromKey(edge.body().edge)) ++uses[face];
  const OwnSizes sizes(size.own, std::max(size.first, size.second.value_or(0)), "distance");
  return blended<BRepFilletAPI_MakeChamfer>(
      name, solid, edges, sizes,
      {"chamfering", say("a chamfer of"), "chamfer", say("Use a smaller distance, or chamfer fewer edges at once")},
      progress, [&](BRepFilletAPI_MakeChamfer& make, const TopoDS_Edge& edge, std::size_t index) {
        if (sizes.has(index))
          make.Add(sizes.of(index), edge);
        else if (size.second)
          make.Add(size.first, *size.second, edge, firstBeside(solid, edge, beside, uses, size.flip));
        else
          make.Add(size.first, edge);
      });
}

}  // namespace kervo
