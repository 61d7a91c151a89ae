// All edges of the body, and the lines along which its faces bend away, are laid on the plane; of the regions that they
// enclose there, those with something of the body above or below are joined.
#include <BOPTools_AlgoTools3D.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <HLRAlgo_Projector.hxx>
#include <HLRBRep_Algo.hxx>
#include <HLRBRep_HLRToShape.hxx>
#include <IntCurvesFace_ShapeIntersector.hxx>
#include <IntTools_Context.hxx>
#include <ShapeUpgrade_UnifySameDomain.hxx>
#include <algorithm>

#include "base/say.h"
#include "geom/flat/flat_curves.h"
#include "geom/kernel/flatten.h"
#include "geom/kernel/skeleton.h"
#include "geom/kernel/topology_body.h"
#include "geom/sweep/curve_net.h"
#include "geom/sweep/region_body.h"

namespace kervo {

namespace {

bool onlyPlanes(const Shape& shape) {
  for (const TopoDS_Face& face : facesOf(shape.body().topology))
    if (BRepAdaptor_Surface(face, false).GetType() != GeomAbs_Plane) return false;
  return true;
}

/// The lines on faces at which they turn from one side of the light to the other.
TopoDS_Shape bends(const Shape& shape, const Plane& plane) {
  if (onlyPlanes(shape)) return {};
  Handle(HLRBRep_Algo) seen = new HLRBRep_Algo;
  seen->Add(shape.body().topology);
  seen->Projector(HLRAlgo_Projector(toAxes(plane).Ax2()));
  seen->Update();
  HLRBRep_HLRToShape lines(seen);
  return lines.OutLineVCompound3d();
}

class Flat {
 public:
  explicit Flat(const Plane& plane) : plane_(plane) {}

  void add(const TopoDS_Edge& edge, const std::string& name) {
    auto curve = flatCurveOf(edge, plane_);
    if (!curve) return;
    // Edges above each other are seen as one; those of a body are many, so that only neighbours are compared.
    const Point middle = curve->at(0.5);
    const auto cell = [](double x) { return static_cast<long long>(std::floor(x)); };
    const Vector at = plane_.coordinates(middle);
    for (long long i = cell(at.x) - 1; i <= cell(at.x) + 1; ++i)
      for (long long j = cell(at.y) - 1; j <= cell(at.y) + 1; ++j)
        if (const auto found = cells_.find({i, j}); found != cells_.end())
          for (const std::size_t other : found->second)
            if (sameFlatCurve(curves_[other].curve, *curve)) return;
    cells_[{cell(at.x), cell(at.y)}].push_back(curves_.size());
    curves_.push_back({name, std::move(*curve)});
  }

  CurveNet net() const {
    CurveNet net;
    net.plane = plane_;
    for (const NamedCurve& curve : curves_) {
      CurveNet::Link link{curve};
      if (!curve.curve.closed()) {
        link.from = net.nodes.size();
        link.to = link.from + 1;
        net.nodes.push_back(curve.curve.at(0));
        net.nodes.push_back(curve.curve.at(1));
      }
      net.links.push_back(std::move(link));
    }
    return net;
  }

 private:
  Plane plane_;
  std::vector<NamedCurve> curves_;
  std::map<std::pair<long long, long long>, std::vector<std::size_t>> cells_;
};

gp_Pnt insideOf(const TopoDS_Face& face) {
  gp_Pnt point;
  gp_Pnt2d parameters;
  Handle(IntTools_Context) context = new IntTools_Context;
  if (BOPTools_AlgoTools3D::PointInFace(face, point, parameters, context) != 0)
    throw Error(say("a region of the silhouette has no inside"), "", say("Take edges or a section along instead"));
  return point;
}

/// The outline of a shadow, parts of one line or circle joined.
std::vector<NamedCurve> borderOf(const Region& shadow, const Plane& plane) {
  ShapeUpgrade_UnifySameDomain unified(shadow.body().face, true, false, false);
  unified.Build();
  std::vector<NamedCurve> border;
  for (TopExp_Explorer it(unified.Shape(), TopAbs_EDGE); it.More(); it.Next()) {
    const TopoDS_Edge& edge = TopoDS::Edge(it.Current());
    auto curve = flatCurveOf(edge, plane);
    if (!curve) continue;
    // The longest part names the whole.
    std::string name;
    double longest = 0;
    for (const auto& [part, from] : shadow.body().curves) {
      const auto flat = flatCurveOf(TopoDS::Edge(part), plane);
      if (!flat || flat->length() <= longest) continue;
      const TopoDS_Vertex middle = BRepBuilderAPI_MakeVertex(toPnt(flat->at(0.5)));
      if (BRepExtrema_DistShapeShape(middle, edge).Value() > tolerance::samePlace) continue;
      longest = flat->length();
      name = from;
    }
    border.push_back({name, std::move(*curve)});
  }
  return border;
}

/// Every face must throw its shadow within what was found; curves that miss each other would let part of it go.
bool holdsAll(const Shape& shape, const std::vector<Region>& shadows, const Plane& plane) {
  for (const Face& face : facesOf(shape)) {
    const Vector at = plane.coordinates(face.samplePoint());
    const TopoDS_Vertex point = BRepBuilderAPI_MakeVertex(toPnt(plane.at(at.x, at.y)));
    if (std::none_of(shadows.begin(), shadows.end(), [&](const Region& shadow) {
          return BRepExtrema_DistShapeShape(point, shadow.body().face).Value() < tolerance::samplePoint;
        }))
      return false;
  }
  return true;
}

}  // namespace

std::vector<NamedCurve> flatSilhouette(const Shape& shape, const Plane& plane, Progress& progress) {
  if (shape.empty()) return {};
  return kernelCall("finding a silhouette", [&] {
    Flat flat(plane);
    const Skeleton& skeleton = skeletonOf(shape);
    for (const Skeleton::EdgePart& part : skeleton.edges)
      if (part.visible && !part.faces.empty())
        flat.add(part.edge, factsOf(shape, skeleton.faces[part.faces.front()]).origins->front());
    progress.throwIfStopped();
    const TopoDS_Shape bending = bends(shape, plane);
    if (!bending.IsNull())
      for (TopExp_Explorer it(bending, TopAbs_EDGE); it.More(); it.Next()) flat.add(TopoDS::Edge(it.Current()), "");
    progress.throwIfStopped();

    IntCurvesFace_ShapeIntersector body;
    body.Load(shape.body().topology, tolerance::point);
    std::vector<Region> shadows;
    for (const Region& region : regionsOf(flat.net(), progress)) {
      progress.throwIfStopped();
      body.Perform(gp_Lin(insideOf(region.body().face), toDir(plane.normal)), -Precision::Infinite(),
                   Precision::Infinite());
      if (body.IsDone() && body.NbPnt() > 0) shadows.push_back(region);
    }
    shadows = joined(shadows);
    if (shadows.empty() || !holdsAll(shape, shadows, plane))
      throw Error(say("the silhouette of the body could not be found"), "",
                  say("Take edges, the outline of a face or a section along instead"));
    std::vector<NamedCurve> border;
    for (const Region& shadow : shadows)
      for (NamedCurve& curve : borderOf(shadow, plane)) border.push_back(std::move(curve));
    return border;
  });
}

}  // namespace kervo
