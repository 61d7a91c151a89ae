#include "geom/surface/region_faces.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <Geom2d_Line.hxx>
#include <GeomAdaptor_Surface.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Vertex.hxx>
#include <TopoDS_Wire.hxx>
#include <algorithm>
#include <cmath>
#include <numbers>

#include "geom/measure/border_quadrature.h"
#include "geom/surface/parameter_curve.h"
#include "geom/surface/region_plans.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

constexpr double turn = 2 * std::numbers::pi;
using Way = RegionChart::Way;

/// A stretch of a border between two corners, with its edge.
struct Stretch {
  double first = 0, last = 0;
  std::uint32_t from = 0, to = 0;
  TopoDS_Edge edge;
};

/// A stretch as a loop runs along it.
struct Step {
  std::size_t border = 0, stretch = 0;
  bool forward = true;
};
using Steps = std::vector<Step>;

class Faces {
 public:
  Faces(const Mesh& mesh, const MeshRegions& regions, const RegionBorders& borders)
      : regions_(regions),
        borders_(borders),
        plans_(plansOf(mesh, regions, borders)),
        stretches_(borders.borders.size()) {}

  std::vector<TopoDS_Face> result() {
    const std::size_t count = regions_.regions.size();
    makeEdges();
    std::vector<TopoDS_Face> faces(count);
    UnmadeRegions::forEach(count, [&](std::size_t i) {
      if (!regions_.regions[i].surface.IsNull()) faces[i] = tried(static_cast<std::uint32_t>(i));
    });
    return faces;
  }

 private:
  TopoDS_Vertex vertexAt(std::uint32_t corner, const gp_Pnt& place) {
    TopoDS_Vertex& vertex = vertices_[corner];
    if (vertex.IsNull()) builder_.MakeVertex(vertex, place, tolerance::point);
    builder_.UpdateVertex(vertex, BRep_Tool::Pnt(vertex).Distance(place) + tolerance::point);
    return vertex;
  }

  TopoDS_Edge edgeOf(const Handle(Geom_Curve) & curve, double first, double last, const TopoDS_Vertex& from,
                     const TopoDS_Vertex& to, double off) {
    TopoDS_Edge edge;
    builder_.MakeEdge(edge, curve, std::max(off, tolerance::point));
    builder_.Add(edge, from.Oriented(TopAbs_FORWARD));
    builder_.Add(edge, to.Oriented(TopAbs_REVERSED));
    builder_.Range(edge, first, last);
    for (const TopoDS_Vertex& vertex : {from, to}) builder_.UpdateVertex(vertex, std::max(off, tolerance::point));
    return edge;
  }

  void makeEdges() {
    // It is known at some places only.
    constexpr double margin = 1.5;
    for (const auto& [number, place] : borders_.corners) vertexAt(number, place);
    for (std::size_t i = 0; i < borders_.borders.size(); ++i) {
      const RegionBorder& border = borders_.borders[i];
      std::vector<std::pair<double, std::uint32_t>> ends = plans_.breaks[i];
      std::sort(ends.begin(), ends.end());
      ends.insert(ends.begin(), {border.first, border.from});
      ends.emplace_back(border.last, border.to);
      for (std::size_t k = 0; k + 1 < ends.size(); ++k) {
        const auto& [first, from] = ends[k];
        const auto& [last, to] = ends[k + 1];
        const TopoDS_Vertex begins = vertexAt(from, border.curve->Value(first)),
                            finishes = vertexAt(to, border.curve->Value(last));
        stretches_[i].push_back(
            {first, last, from, to, edgeOf(border.curve, first, last, begins, finishes, border.off * margin)});
      }
    }
  }

  Steps stepsOf(const BorderLoop& loop) const {
    Steps steps;
    for (const BorderUse& use : loop) {
      const std::size_t count = stretches_[use.border].size();
      for (std::size_t k = 0; k < count; ++k)
        steps.push_back({use.border, use.forward ? k : count - 1 - k, use.forward});
    }
    return steps;
  }
  const Stretch& stretchOf(const Step& step) const { return stretches_[step.border][step.stretch]; }

  /// The steps from that corner on.
  Steps from(Steps steps, std::uint32_t corner) const {
    const auto begins = std::find_if(steps.begin(), steps.end(), [&](const Step& step) {
      const Stretch& stretch = stretchOf(step);
      return (step.forward ? stretch.from : stretch.to) == corner;
    });
    std::rotate(steps.begin(), begins, steps.end());
    return steps;
  }

  /// Puts the curve of a step on the surface, beginning nearest to `at`; gives where it ends.
  gp_Pnt2d put(const Step& step, const RegionChart& chart, const Handle(Geom_Surface) & surface, gp_Pnt2d at,
               std::uint32_t region) {
    const Stretch& stretch = stretchOf(step);
    constexpr int spans = 128;
    std::vector<gp_Pnt2d> table = step.forward ? chart.along(step.border, stretch.first, stretch.last, spans)
                                               : chart.along(step.border, stretch.last, stretch.first, spans);
    const gp_Pnt2d begins = chart.near(table.front(), at);
    const gp_Vec2d shift(table.front(), begins);
    for (gp_Pnt2d& each : table) each.Translate(shift);
    const gp_Pnt2d ends = table.back();
    if (!step.forward) std::reverse(table.begin(), table.end());
    const Handle(Geom_Curve)& curve = borders_.borders[step.border].curve;
    const auto placeAt = [&](double t) {
      const double share = (t - stretch.first) / (stretch.last - stretch.first);
      const auto nearest = static_cast<std::size_t>(std::lround(std::clamp(share, 0.0, 1.0) * spans));
      return chart.near(chart.at(curve->Value(t)), table[nearest]);
    };
    if (borders_.borders[step.border]
            .curve->Value(stretch.first)
            .Distance(borders_.borders[step.border].curve->Value((stretch.first + stretch.last) / 2)) <
        tolerance::smallestSize)
      throw UnmadeRegion{region};
    const Handle(Geom2d_Curve) on = curveFollowing(
        [&](const std::vector<double>& times) {
          std::vector<gp_Pnt2d> points;
          for (const double t : times) points.push_back(placeAt(t));
          return points;
        },
        [&](double t, const gp_Pnt2d& is) {
          const gp_Pnt2d should = placeAt(t);
          return surface->Value(should.X(), should.Y()).Distance(surface->Value(is.X(), is.Y()));
        },
        curveKnots(BRepAdaptor_Curve(stretch.edge)), std::max(tolerance::point, borders_.borders[step.border].off / 2));
    if (on.IsNull()) throw UnmadeRegion{region};
    builder_.UpdateEdge(stretch.edge, on, surface, TopLoc_Location(), BRep_Tool::Tolerance(stretch.edge));
    builder_.Range(stretch.edge, surface, TopLoc_Location(), stretch.first, stretch.last);
    return ends;
  }

  void add(TopoDS_Wire& wire, const Step& step) {
    builder_.Add(wire, stretchOf(step).edge.Oriented(step.forward ? TopAbs_FORWARD : TopAbs_REVERSED));
  }

  TopoDS_Wire wireOf(const Steps& steps, const RegionChart& chart, const Handle(Geom_Surface) & surface, gp_Pnt2d at,
                     std::uint32_t region) {
    TopoDS_Wire wire;
    builder_.MakeWire(wire);
    for (const Step& step : steps) {
      at = put(step, chart, surface, at, region);
      add(wire, step);
    }
    wire.Closed(true);
    return wire;
  }

  TopoDS_Face tried(std::uint32_t region) {
    try {
      return made(region);
    } catch (const Standard_Failure&) {
      throw UnmadeRegion{region};
    }
  }

  TopoDS_Face made(std::uint32_t region) {
    const auto& own = regions_.regions[region].surface;
    TopoDS_Face face;
    const std::optional<RegionPlan>& planned = plans_.regions[region].plan;
    if (!planned) {
      builder_.MakeFace(face, own, tolerance::point);
      for (const BorderLoop& loop : plans_.regions[region].loops) {
        TopoDS_Wire wire;
        builder_.MakeWire(wire);
        for (const Step& step : stepsOf(loop)) add(wire, step);
        wire.Closed(true);
        builder_.Add(face, wire);
      }
      return face;
    }
    const RegionPlan& plan = *planned;
    switch (plan.shape) {
      case RegionPlan::Shape::Whole:
        face = BRepBuilderAPI_MakeFace(plan.surface, tolerance::point).Face();
        break;
      case RegionPlan::Shape::Patch:
        face = patch(region, plan);
        break;
      case RegionPlan::Shape::Band:
      case RegionPlan::Shape::Cap:
        face = round(region, plan);
        break;
    }
    if (plans_.regions[region].flips) face.Reverse();
    return face;
  }

  /// The surface with u = 0 at a place.
  static Handle(Geom_ElementarySurface) turned(const Handle(Geom_ElementarySurface) & surface, double u) {
    const Handle(Geom_ElementarySurface) result = Handle(Geom_ElementarySurface)::DownCast(surface->Copy());
    result->Rotate(result->Axis(), u);
    return result;
  }

  struct Range {
    gp_Pnt2d low, high;
    gp_Pnt2d begins;
  };
  static Range rangeOf(const std::vector<gp_Pnt2d>& points) {
    Range range{points.front(), points.front(), points.front()};
    for (const gp_Pnt2d& each : points) {
      range.low = {std::min(range.low.X(), each.X()), std::min(range.low.Y(), each.Y())};
      range.high = {std::max(range.high.X(), each.X()), std::max(range.high.Y(), each.Y())};
    }
    return range;
  }

  TopoDS_Face patch(std::uint32_t region, const RegionPlan& plan) {
    const RegionChart before(plan.surface, borders_);
    std::size_t outer = 0;
    double widest = -1;
    for (std::size_t i = 0; i < plans_.regions[region].loops.size(); ++i) {
      const Range range = rangeOf(before.along(plans_.regions[region].loops[i]));
      const double wide = (range.high.X() - range.low.X()) * (range.high.Y() - range.low.Y());
      if (wide > widest) widest = wide, outer = i;
    }
    const double least = rangeOf(before.along(plans_.regions[region].loops[outer])).low.X();
    const Handle(Geom_ElementarySurface) surface = turned(plan.surface, least);
    const RegionChart chart(surface, borders_);
    const Range whole = rangeOf(chart.along(plans_.regions[region].loops[outer]));
    const double shiftU = -turn * std::round(whole.low.X() / turn);
    const gp_Pnt2d middle((whole.low.X() + whole.high.X()) / 2 + shiftU, (whole.low.Y() + whole.high.Y()) / 2);
    TopoDS_Face face;
    builder_.MakeFace(face, surface, tolerance::point);
    for (std::size_t i = 0; i < plans_.regions[region].loops.size(); ++i) {
      const Range own = rangeOf(chart.along(plans_.regions[region].loops[i]));
      const gp_Pnt2d centre((own.low.X() + own.high.X()) / 2, (own.low.Y() + own.high.Y()) / 2);
      const gp_Vec2d shift(centre, chart.near(centre, middle));
      builder_.Add(
          face, wireOf(stepsOf(plans_.regions[region].loops[i]), chart, surface, own.begins.Translated(shift), region));
    }
    return face;
  }

  /// A face with a seam: between two loops that go round, or one and a pole.
  TopoDS_Face round(std::uint32_t region, const RegionPlan& plan) {
    const bool inU = plan.way == Way::U;
    const Handle(Geom_ElementarySurface) surface = inU ? turned(plan.surface, plan.seam) : plan.surface;
    const RegionChart chart(surface, borders_);
    const double seam = inU ? 0 : plan.seam;
    const auto& loops = plans_.regions[region].loops;
    const auto placeOf = [&](std::uint32_t corner) {
      gp_Pnt2d at = chart.at(BRep_Tool::Pnt(vertices_.at(corner)));
      (inU ? at.SetX(seam) : at.SetY(seam));
      return at;
    };
    const bool band = plan.shape == RegionPlan::Shape::Band;
    // The loop that goes round forwards lies before the other one across: below it, or at the larger u.
    gp_Pnt2d low = placeOf(plan.corners.front()), high = low;
    TopoDS_Vertex lowVertex = vertices_.at(plan.corners.front()), highVertex = lowVertex;
    TopoDS_Vertex pole;
    double poleAt = 0;
    if (band) {
      gp_Pnt2d other = placeOf(plan.corners.back());
      const TopoDS_Vertex otherVertex = vertices_.at(plan.corners.back());
      if (inU) {
        high = other, highVertex = otherVertex;
        if (chart.turnsIn(Way::V))
          while (high.Y() <= low.Y()) high.SetY(high.Y() + turn);
      } else {
        high = low, highVertex = lowVertex;
        low = other, lowVertex = otherVertex;
        while (high.X() <= low.X()) high.SetX(high.X() + turn);
      }
    } else {
      const GeomAdaptor_Surface adaptor(surface);
      if (adaptor.GetType() == GeomAbs_Sphere)
        poleAt = (plan.capAbove ? 1 : -1) * std::numbers::pi / 2;
      else
        poleAt = chart.at(adaptor.Cone().Apex()).Y();
      builder_.MakeVertex(pole, surface->Value(0, poleAt), tolerance::point);
      (plan.capAbove ? high : low).SetY(poleAt);
      (plan.capAbove ? highVertex : lowVertex) = pole;
    }
    const Handle(Geom_Curve) iso = inU ? surface->UIso(seam) : surface->VIso(seam);
    const double first = inU ? low.Y() : low.X(), last = inU ? high.Y() : high.X();
    double off = tolerance::point;
    off = std::max({off, BRep_Tool::Pnt(lowVertex).Distance(iso->Value(first)),
                    BRep_Tool::Pnt(highVertex).Distance(iso->Value(last))});
    const TopoDS_Edge seamEdge = edgeOf(iso, first, last, lowVertex, highVertex, tolerance::point);
    for (const TopoDS_Vertex& vertex : {lowVertex, highVertex}) builder_.UpdateVertex(vertex, off);
    const Handle(Geom2d_Curve) near =
        inU ? new Geom2d_Line(gp_Pnt2d(seam, 0), gp_Dir2d(0, 1)) : new Geom2d_Line(gp_Pnt2d(0, seam), gp_Dir2d(1, 0));
    const Handle(Geom2d_Curve) far = inU ? new Geom2d_Line(gp_Pnt2d(seam + turn, 0), gp_Dir2d(0, 1))
                                         : new Geom2d_Line(gp_Pnt2d(0, seam + turn), gp_Dir2d(1, 0));
    builder_.UpdateEdge(seamEdge, inU ? far : near, inU ? near : far, surface, TopLoc_Location(), tolerance::point);
    builder_.Continuity(seamEdge, surface, surface, TopLoc_Location(), TopLoc_Location(), GeomAbs_CN);
    builder_.Range(seamEdge, surface, TopLoc_Location(), first, last);

    TopoDS_Face face;
    builder_.MakeFace(face, surface, tolerance::point);
    TopoDS_Wire wire;
    builder_.MakeWire(wire);
    const auto run = [&](std::size_t loop, std::uint32_t corner, gp_Pnt2d at) {
      for (const Step& step : from(stepsOf(loops[loop]), corner)) {
        at = put(step, chart, surface, at, region);
        add(wire, step);
      }
    };
    const auto addSeam = [&](TopAbs_Orientation way) { builder_.Add(wire, seamEdge.Oriented(way)); };
    const auto addPole = [&](TopAbs_Orientation way) {
      TopoDS_Edge edge;
      builder_.MakeEdge(edge);
      builder_.UpdateEdge(edge, new Geom2d_Line(gp_Pnt2d(0, poleAt), gp_Dir2d(1, 0)), surface, TopLoc_Location(),
                          tolerance::point);
      builder_.Add(edge, pole.Oriented(TopAbs_FORWARD));
      builder_.Add(edge, pole.Oriented(TopAbs_REVERSED));
      builder_.Range(edge, 0, turn);
      builder_.Degenerated(edge, true);
      builder_.Add(wire, edge.Oriented(way));
    };
    const auto corner = [&](std::size_t i) { return plan.corners[i]; };
    if (inU) {
      if (band || plan.capAbove) run(plan.rising, corner(0), gp_Pnt2d(seam, low.Y()));
      if (!band && !plan.capAbove) addPole(TopAbs_FORWARD);
      addSeam(TopAbs_FORWARD);
      if (band || !plan.capAbove) run(plan.falling, corner(plan.corners.size() - 1), gp_Pnt2d(seam + turn, high.Y()));
      if (!band && plan.capAbove) addPole(TopAbs_REVERSED);
      addSeam(TopAbs_REVERSED);
    } else {
      addSeam(TopAbs_FORWARD);
      run(plan.rising, corner(0), gp_Pnt2d(high.X(), seam));
      addSeam(TopAbs_REVERSED);
      run(plan.falling, corner(1), gp_Pnt2d(low.X(), seam + turn));
    }
    wire.Closed(true);
    builder_.Add(face, wire);
    for (std::size_t i = 0; i < loops.size(); ++i) {
      if (i == plan.rising || i == plan.falling) continue;
      const Range own = rangeOf(chart.along(loops[i]));
      const gp_Pnt2d centre((own.low.X() + own.high.X()) / 2, (own.low.Y() + own.high.Y()) / 2);
      const gp_Pnt2d middle(inU ? seam + turn / 2 : (low.X() + high.X()) / 2,
                            inU ? (low.Y() + high.Y()) / 2 : seam + turn / 2);
      const gp_Vec2d shift(centre, chart.near(centre, middle));
      builder_.Add(face, wireOf(stepsOf(loops[i]), chart, surface, own.begins.Translated(shift), region));
    }
    return face;
  }

  const MeshRegions& regions_;
  const RegionBorders& borders_;
  BRep_Builder builder_;
  RegionPlans plans_;
  std::vector<std::vector<Stretch>> stretches_;
  std::map<std::uint32_t, TopoDS_Vertex> vertices_;
};

}  // namespace

std::vector<TopoDS_Face> facesWithin(const Mesh& mesh, const MeshRegions& regions, const RegionBorders& borders) {
  return Faces(mesh, regions, borders).result();
}

}  // namespace kervo
