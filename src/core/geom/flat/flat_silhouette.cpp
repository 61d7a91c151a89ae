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
#include <mutex>

#include "base/say.h"
#include "geom/flat/flat_curves.h"
#include "geom/kernel/flatten.h"
#include "geom/kernel/skeleton.h"
#include "geom/kernel/topology_body.h"
#include "geom/measure/face_integrals.h"
#include "geom/sweep/curve_net.h"
#include "geom/sweep/region_body.h"

namespace kervo {

namespace {

/// Lines where free-form faces bend away are found to this, mm.
constexpr double bendError = 1e-5;

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

/// Curves whose meetings are to be found.
CurveNet netOf(const std::vector<NamedCurve>& curves, const Plane& plane, double fuzzy) {
  CurveNet net;
  net.plane = plane;
  net.fuzzy = fuzzy;
  for (const NamedCurve& curve : curves) {
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

class Flat {
 public:
  Flat(const Plane& plane, double fuzzy) : plane_(plane), fuzzy_(fuzzy) {}

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

  CurveNet net() const { return netOf(curves_, plane_, fuzzy_); }

 private:
  Plane plane_;
  double fuzzy_;
  std::vector<NamedCurve> curves_;
  std::map<std::pair<long long, long long>, std::vector<std::size_t>> cells_;
};

/// Nothing for a sliver between two lines that are nearly one.
std::optional<gp_Pnt> insideOf(const TopoDS_Face& face) {
  gp_Pnt point;
  gp_Pnt2d parameters;
  Handle(IntTools_Context) context = new IntTools_Context;
  if (BOPTools_AlgoTools3D::PointInFace(face, point, parameters, context) != 0) return std::nullopt;
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

/// A border closes everywhere: what ends at nothing is left over from a sliver, and goes.
std::vector<NamedCurve> withoutSpurs(std::vector<NamedCurve> border) {
  const auto meeting = [&](Point end) {
    int count = 0;
    for (const NamedCurve& curve : border)
      if (!curve.curve.closed())
        for (const double t : {0.0, 1.0}) count += distance(curve.curve.at(t), end) < tolerance::point ? 1 : 0;
    return count;
  };
  const auto isSpur = [&](const NamedCurve& curve) {
    return !curve.curve.closed() && (meeting(curve.curve.at(0)) < 2 || meeting(curve.curve.at(1)) < 2);
  };
  for (auto spur = border.begin(); (spur = std::find_if(border.begin(), border.end(), isSpur)) != border.end();)
    border.erase(spur);
  return border;
}

/// The area that a border goes round, islands taken off: of all shadows together.
double areaWithin(const std::vector<NamedCurve>& border, const Plane& plane, Progress& progress) {
  double area = 0;
  for (const Region& region : regionsOf(netOf(border, plane, tolerance::samePlace), progress)) area += region.area();
  return area;
}

/// What is inside of islands.
double islandsOf(const std::vector<Region>& shadows) {
  double area = 0;
  for (const Region& shadow : shadows) {
    double outer = 0;
    for (TopExp_Explorer wire(shadow.body().face, TopAbs_WIRE); wire.More(); wire.Next())
      outer = std::max(outer, std::abs(loopArea(TopoDS::Wire(wire.Current()), toPln(shadow.body().plane))));
    area += outer - shadow.area();
  }
  return area;
}

/// Nothing if what was found cannot be the whole silhouette.
std::optional<std::vector<NamedCurve>> attempted(const Shape& shape, const TopoDS_Shape& bending, const Plane& plane,
                                                 double fuzzy, Progress& progress) {
  Flat flat(plane, fuzzy);
  const Skeleton& skeleton = skeletonOf(shape);
  for (const Skeleton::EdgePart& part : skeleton.edges)
    if (part.visible && !part.faces.empty())
      flat.add(part.edge, factsOf(shape, skeleton.faces[part.faces.front()]).origins->front());
  if (!bending.IsNull())
    for (TopExp_Explorer it(bending, TopAbs_EDGE); it.More(); it.Next()) flat.add(TopoDS::Edge(it.Current()), "");
  progress.throwIfStopped();

  IntCurvesFace_ShapeIntersector body;
  body.Load(shape.body().topology, tolerance::point);
  std::vector<Region> shadows;
  for (const Region& region : regionsOf(flat.net(), progress)) {
    progress.throwIfStopped();
    const std::optional<gp_Pnt> inside = insideOf(region.body().face);
    if (inside) body.Perform(gp_Lin(*inside, toDir(plane.normal)), -Precision::Infinite(), Precision::Infinite());
    if (!inside || (body.IsDone() && body.NbPnt() > 0)) shadows.push_back(region);
  }
  shadows = joined(shadows);
  if (shadows.empty() || !holdsAll(shape, shadows, plane)) return std::nullopt;
  std::vector<NamedCurve> border;
  // Islands are regions of the border as well.
  double area = islandsOf(shadows);
  for (const Region& shadow : shadows) {
    area += shadow.area();
    for (NamedCurve& curve : borderOf(shadow, plane)) border.push_back(std::move(curve));
  }
  border = withoutSpurs(withMetEnds(std::move(border), 10 * fuzzy));
  if (std::abs(areaWithin(border, plane, progress) - area) > tolerance::balance * area) return std::nullopt;
  return border;
}

/// The last ones that were found: a drawing is made again with every edit, and its bodies stay the same.
class Recent {
 public:
  std::optional<std::vector<NamedCurve>> find(const Shape& shape, const Plane& plane) {
    const std::lock_guard lock(mutex_);
    for (const Found& each : found_)
      if (&each.shape.body() == &shape.body() && each.plane == plane) return each.border;
    return std::nullopt;
  }
  void add(const Shape& shape, const Plane& plane, const std::vector<NamedCurve>& border) {
    constexpr std::size_t most = 8;
    const std::lock_guard lock(mutex_);
    if (found_.size() == most) found_.erase(found_.begin());
    found_.push_back({shape, plane, border});
  }

 private:
  struct Found {
    Shape shape;
    Plane plane;
    std::vector<NamedCurve> border;
  };
  std::mutex mutex_;
  std::vector<Found> found_;
};

Recent& recent() {
  static Recent all;
  return all;
}

std::vector<NamedCurve> found(const Shape& shape, const Plane& plane, Progress& progress) {
  return kernelCall("finding a silhouette", [&] {
    const TopoDS_Shape bending = bends(shape, plane);
    progress.throwIfStopped();
    // Edges of bodies from other programs that ought to be one may be some way apart.
    for (const double fuzzy : {bendError, 10 * bendError, 100 * bendError}) {
      try {
        if (auto border = attempted(shape, bending, plane, fuzzy, progress)) return std::move(*border);
      } catch (const Error&) {
        // The kernel could not intersect the curves: the next attempt may.
      }
    }
    throw Error(say("the silhouette of the body could not be found"), "",
                say("Take edges, the outline of a face or a section along instead"));
  });
}

}  // namespace

std::vector<NamedCurve> flatSilhouette(const Shape& shape, const Plane& plane, Progress& progress) {
  if (shape.empty()) return {};
  if (auto known = recent().find(shape, plane)) return std::move(*known);
  std::vector<NamedCurve> border = found(shape, plane, progress);
  recent().add(shape, plane, border);
  return border;
}

}  // namespace kervo
