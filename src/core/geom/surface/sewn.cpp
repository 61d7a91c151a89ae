#include "geom/surface/sewn.h"

#include <BRepBuilderAPI_FindPlane.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepBuilderAPI_Sewing.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <Geom_Plane.hxx>
#include <ShapeAnalysis_FreeBounds.hxx>
#include <algorithm>

#include "base/quantity.h"
#include "base/say.h"
#include "geom/divide/checked_intersection.h"
#include "geom/measure/soundness.h"
#include "geom/place_text.h"
#include "geom/surface/border.h"

namespace kervo {

namespace {

constexpr int pointsPerEdge = 24;
/// Looking for the nearest of more edges than this takes too long to be shown while one types.
constexpr std::size_t mostCompared = 300;

bool touch(const TopoDS_Edge& a, const TopoDS_Edge& b) {
  TopoDS_Vertex common;
  return TopExp::CommonVertex(a, b, common);
}

Polyline lineAlong(const TopoDS_Edge& edge) {
  const BRepAdaptor_Curve curve(edge);
  Polyline line;
  for (int i = 0; i <= pointsPerEdge; ++i)
    line.push_back(fromPnt(
        curve.Value(curve.FirstParameter() + (curve.LastParameter() - curve.FirstParameter()) * i / pointsPerEdge)));
  return line;
}

/// With the names and colours of the faces that they were.
FaceTable carried(const std::vector<Shape>& surfaces, const BRepBuilderAPI_Sewing& sewing) {
  FaceTable table;
  for (const Shape& surface : surfaces)
    for (const auto& [face, facts] : surface.body().faces)
      for (TopExp_Explorer it(sewing.ModifiedSubShape(face), TopAbs_FACE); it.More(); it.Next())
        table.emplace(it.Current(), FaceFacts{facts.origins, facts.color, false});
  return table;
}

/// Closed shells with their outer side outwards: those inside of another one are its hollows, those inside of a hollow
/// solids of their own.
std::vector<TopoDS_Shape> solidsOfShells(const Shape& surface, const FaceTable& table) {
  struct Bounded {
    TopoDS_Shell shell;  ///< outer side outwards
    TopoDS_Solid solid;
    double volume = 0;
    bool hollow = false;
  };
  const BRep_Builder builder;
  std::vector<Bounded> all;
  std::vector<TopoDS_Shape> faces;
  for (const TopoDS_Face& face : facesOf(surface.body().topology)) faces.push_back(face);
  for (const TopoDS_Shape& shell : shellsOf(faces)) {
    Bounded bounded{TopoDS::Shell(shell), {}, 0, false};
    bounded.shell.Closed(true);
    for (int attempt = 0; attempt < 2; ++attempt) {
      builder.MakeSolid(bounded.solid);
      builder.Add(bounded.solid, bounded.shell);
      bounded.volume = volumeOf(bounded.solid, table);
      if (bounded.volume > 0) break;
      bounded.shell.Reverse();
    }
    all.push_back(bounded);
  }
  std::sort(all.begin(), all.end(), [](const Bounded& a, const Bounded& b) { return a.volume > b.volume; });
  Sides sides;
  std::vector<TopoDS_Shape> solids;
  std::vector<std::pair<std::size_t, TopoDS_Shell>> hollows;
  for (std::size_t i = 0; i < all.size(); ++i) {
    const std::vector<gp_Pnt> points = sides.pointsOn(all[i].shell, 1);
    // Within another one it is a hollow, within that a solid again.
    std::size_t innermost = i;
    for (std::size_t k = 0; k < i; ++k) {
      if (points.empty() || sides.stateOf(points.front(), all[k].solid) != TopAbs_IN) continue;
      all[i].hollow = !all[i].hollow;
      innermost = k;
    }
    if (all[i].hollow) hollows.emplace_back(innermost, all[i].shell);
  }
  // Only now: what was asked about a solid is kept, and must not change.
  for (const auto& [solid, shell] : hollows) builder.Add(all[solid].solid, shell.Reversed());
  for (const Bounded& each : all)
    if (!each.hollow) solids.push_back(each.solid);
  return solids;
}

}  // namespace

std::vector<OpenEdge> openEdgesOf(const Shape& shape) {
  if (shape.empty() || shape.kind() == BodyKind::Curve) return {};
  return kernelCall("looking for open edges", [&] {
    const std::vector<Border> borders = bordersOf(shape.body().topology);
    std::vector<OpenEdge> result;
    for (const Border& border : borders) {
      OpenEdge& open = result.emplace_back(OpenEdge{lineAlong(border.edge), -1});
      if (borders.size() > mostCompared) continue;
      const TopoDS_Vertex middle = BRepBuilderAPI_MakeVertex(toPnt(open.line[open.line.size() / 2]));
      for (const Border& other : borders) {
        if (other.edge.IsSame(border.edge) || touch(other.edge, border.edge)) continue;
        const BRepExtrema_DistShapeShape apart(middle, other.edge);
        if (apart.IsDone() && (open.gap < 0 || apart.Value() < open.gap)) open.gap = apart.Value();
      }
    }
    std::stable_sort(result.begin(), result.end(), [](const OpenEdge& a, const OpenEdge& b) { return a.gap > b.gap; });
    return result;
  });
}

Sewn sewn(const std::vector<Shape>& surfaces, double tolerance, Progress& progress) {
  return kernelCall("sewing", [&] {
    BRepBuilderAPI_Sewing sewing(tolerance);
    for (const Shape& surface : surfaces)
      for (const TopoDS_Face& face : facesOf(surface.body().topology)) sewing.Add(face);
    Handle(KernelProgress) indicator = new KernelProgress(progress);
    sewing.Perform(indicator->Start());
    progress.throwIfStopped();
    const TopoDS_Shape result = sewing.SewedShape();
    if (result.IsNull()) throw Error(say("the surfaces could not be sewn"), "", say("Check them first"));
    FaceTable table = carried(surfaces, sewing);
    // Faces that touch nothing stay as they are; they may stand beside shells.
    std::vector<TopoDS_Shape> shells;
    for (TopExp_Explorer it(result, TopAbs_SHELL); it.More(); it.Next()) shells.push_back(it.Current());
    for (TopExp_Explorer it(result, TopAbs_FACE, TopAbs_SHELL); it.More(); it.Next()) shells.push_back(it.Current());
    const TopoDS_Shape whole = shells.size() == 1 ? shells.front() : TopoDS_Shape(compoundOf(shells));
    Sewn made{makeShape(whole, std::move(table), "face:"), loosestEdge(whole)};
    int before = 0;
    for (const Shape& surface : surfaces) before += surface.faceCount();
    if (made.shape.empty() || made.shape.faceCount() != before)
      throw Error(say("sewing lost %1 of %2 faces", before - made.shape.faceCount(), before), "",
                  say("Make the tolerance smaller: it is larger than a face"));
    return made;
  });
}

ClosingPart closingPartOf(const std::vector<Shape>& surfaces, double tolerance, Progress& progress) {
  struct Each {
    std::size_t surface;
    Shape face;
    TopoDS_Shape sewn;
    bool closes = true;
  };
  return kernelCall("looking for what closes", [&] {
    std::vector<Each> all;
    BRepBuilderAPI_Sewing sewing(tolerance);
    sewing.SetNonManifoldMode(true);
    for (std::size_t i = 0; i < surfaces.size(); ++i)
      for (const Shape& face : unsewn(surfaces[i])) {
        all.push_back({i, face, {}});
        sewing.Add(face.body().topology);
      }
    Handle(KernelProgress) indicator = new KernelProgress(progress);
    sewing.Perform(indicator->Start());
    progress.throwIfStopped();
    ShapeMap<int> uses;
    const auto edges = [](const TopoDS_Shape& face) {
      std::vector<TopoDS_Shape> result;
      for (TopExp_Explorer it(face, TopAbs_EDGE); it.More(); it.Next())
        if (!BRep_Tool::Degenerated(TopoDS::Edge(it.Current()))) result.push_back(it.Current());
      return result;
    };
    for (Each& each : all) {
      each.sewn = sewing.ModifiedSubShape(each.face.body().topology);
      for (const TopoDS_Shape& edge : edges(each.sewn)) ++uses[edge];
    }
    for (bool again = true; again;) {
      again = false;
      for (Each& each : all) {
        const std::vector<TopoDS_Shape> border = edges(each.sewn);
        if (!each.closes ||
            std::none_of(border.begin(), border.end(), [&](const TopoDS_Shape& edge) { return uses[edge] == 1; }))
          continue;
        each.closes = false;
        again = true;
        for (const TopoDS_Shape& edge : border) --uses[edge];
      }
    }
    std::vector<Shape> closing;
    std::vector<std::vector<Shape>> open(surfaces.size());
    for (const Each& each : all) (each.closes ? closing : open[each.surface]).push_back(each.face);
    if (closing.empty())
      throw Error(say("no faces among them close"), "", say("Add what is missing, or sew with a larger tolerance"));
    for (const auto& [edge, count] : uses)
      if (count > 2)
        throw Error(say("%1 of the faces that close meet at one edge, at %2, so that it is not clear which are meant",
                        count, placeText(lineAlong(TopoDS::Edge(edge))[pointsPerEdge / 2])),
                    "", say("Leave one of them out"));
    ClosingPart result{sewn(closing, tolerance, progress).shape, {}};
    for (std::size_t i = 0; i < surfaces.size(); ++i) {
      const bool untouched = open[i].size() == static_cast<std::size_t>(surfaces[i].faceCount());
      if (untouched)
        result.left.emplace_back();
      else
        result.left.emplace_back(open[i].empty() ? Shape() : sewn(open[i], tolerance, progress).shape);
    }
    return result;
  });
}

Shape capped(const Shape& surface, const std::string& name, Progress& progress) {
  return kernelCall("closing planar holes", [&] {
    const ShapeAnalysis_FreeBounds bounds(surface.body().topology);
    std::vector<Shape> all{surface};
    for (TopExp_Explorer it(bounds.GetClosedWires(), TopAbs_WIRE); it.More(); it.Next()) {
      const BRepBuilderAPI_FindPlane plane(it.Current(), tolerance::sewing);
      if (!plane.Found()) continue;
      const BRepBuilderAPI_MakeFace cap(plane.Plane()->Pln(), TopoDS::Wire(it.Current()), true);
      if (!cap.IsDone()) continue;
      const TopoDS_Face& face = cap.Face();
      FaceTable table;
      table.emplace(face, FaceFacts{originsOf(name + ":cap"), {}, false});
      all.push_back(makeShape(face, std::move(table), name + ":cap"));
    }
    return all.size() == 1 ? surface : sewn(all, tolerance::sewing, progress).shape;
  });
}

Shape solidWithin(const Shape& surface, Progress& progress) {
  if (surface.empty() || surface.kind() != BodyKind::Surface)
    throw Error(say("only a surface can become a solid"), "", say("Choose a surface that closes"));
  const std::vector<OpenEdge> open = openEdgesOf(surface);
  if (!open.empty()) {
    const double gap = open.front().gap;
    throw Error(
        gap > 0 ? say("%1 edges are open; from one to the next it is up to %2 mm", open.size(), formatNumber(gap, 4))
                : say("%1 edges are open", open.size()),
        "", say("Sew it with a larger tolerance, patch what is open, or close planar holes"));
  }
  return kernelCall("making a solid", [&] {
    const FaceTable& table = surface.body().faces;
    const std::vector<TopoDS_Shape> solids = solidsOfShells(surface, table);
    Shape solid = makeShape(solids.size() == 1 ? solids.front() : TopoDS_Shape(compoundOf(solids)), table, "face:");
    if (solid.kind() != BodyKind::Solid)
      throw Error(say("the surface closes, but bounds no solid"), "", say("Check it, or repair it"));
    if (const std::string fault = findFault(solid.body(), progress); !fault.empty())
      throw Error(say("the surface closes, but bounds no sound solid: %1", fault), "", say("Check it, or repair it"));
    return solid;
  });
}

Shape flipped(const Shape& surface) {
  return makeShape(surface.body().topology.Reversed(), surface.body().faces, "face:");
}

std::vector<Shape> unsewn(const Shape& shape) {
  std::vector<Shape> result;
  for (const TopoDS_Face& face : facesOf(shape.body().topology)) {
    FaceTable table;
    table.emplace(face, factsOf(shape, face));
    result.push_back(makeShape(face, std::move(table), "face:"));
  }
  return result;
}

}  // namespace kervo
