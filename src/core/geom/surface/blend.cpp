#include "geom/surface/blend.h"

#include <BRepBuilderAPI_Sewing.hxx>
#include <GeomLProp_SLProps.hxx>
#include <algorithm>
#include <cmath>

#include "base/say.h"
#include "geom/divide/checked_intersection.h"
#include "geom/kernel/topology_body.h"
#include "geom/surface/edge_walk.h"
#include "geom/surface/skin.h"

namespace kervo {

namespace {

constexpr int fewestSpans = 8, mostSpans = 64;
/// Beside a border: what the measured angle must stay below, radians (1e-4°).
constexpr double smooth = 1.7e-6;

/// What a blend needs to know of a surface at a place of its border.
struct Frame {
  Point point;
  Vector outwards;  ///< in the tangent plane, away from the face: 1 across the border
  Vector normal;    ///< of the face's front, unit length
  Vector bend;      ///< how a curve on the face bends that has `outwards` as its first derivative
};

Vector bendAlong(const gp_Vec& du, const gp_Vec& dv, const gp_Vec& duu, const gp_Vec& dvv, const gp_Vec& duv,
                 const gp_Vec& along) {
  const gp_Vec normal = du.Crossed(dv).Normalized();
  const double e = du.Dot(du), f = du.Dot(dv), g = dv.Dot(dv), p = along.Dot(du), q = along.Dot(dv);
  const double size = e * g - f * f;
  const double u = (p * g - q * f) / size, v = (q * e - p * f) / size;
  return fromVec(normal) * (normal.Dot(duu) * u * u + 2 * normal.Dot(duv) * u * v + normal.Dot(dvv) * v * v);
}

/// `slant`: how far `outwards` leans along the border, beside 1 across it.
Frame frameAt(const Border& border, double parameter, double slant = 0) {
  const Border::Frame at = border.at(parameter);
  double first, last;
  const gp_Pnt2d uv = BRep_Tool::CurveOnSurface(border.edge, border.face, first, last)->Value(parameter);
  gp_Pnt point;
  gp_Vec du, dv, duu, dvv, duv;
  BRepAdaptor_Surface(border.face, false).D2(uv.X(), uv.Y(), point, du, dv, duu, dvv, duv);
  gp_Vec normal = du.Crossed(dv).Normalized();
  if (border.face.Orientation() == TopAbs_REVERSED) normal.Reverse();
  const gp_Vec outwards = at.outwards + normal.Crossed(at.outwards) * slant;
  return {fromPnt(at.point), fromVec(outwards), fromVec(normal), bendAlong(du, dv, duu, dvv, duv, outwards)};
}

/// How far the line between two borders that meet at a corner leans along each of them; 0 where they go on smoothly.
std::pair<double, double> slantsAt(const EdgeWalk& walk, double share) {
  const auto before = walk.at(share, EdgeWalk::Side::Before), after = walk.at(share, EdgeWalk::Side::After);
  if (!walk.closed() && (share <= 0 || share >= 1)) return {0, 0};
  if (after.border == before.border && after.parameter == before.parameter) return {0, 0};
  const Frame one = frameAt(*before.border, before.parameter), other = frameAt(*after.border, after.parameter);
  const double together = 1 + dot(one.outwards, other.outwards);
  constexpr double tooSharp = 0.05, straight = 1e-10;
  if (2 - together < straight) return {0, 0};
  if (together < tooSharp)
    throw Error(say("a corner of the border is too sharp to be blended"), "", say("Round the corner first"));
  const Vector fold = cross(one.normal, other.normal);
  const double out = dot(fold, one.outwards) + dot(fold, other.outwards);
  // In both tangent planes, if these are two.
  const Vector middle = length(fold) > tooSharp && std::abs(out) > tooSharp
                            ? fold * (2 / out)
                            : (one.outwards + other.outwards) * (1 / together);
  const auto slant = [&](const Frame& frame) {
    return dot(middle, cross(frame.normal, frame.outwards)) / dot(middle, frame.outwards);
  };
  return {slant(one), slant(other)};
}

std::vector<Border> bordersFor(const Shape& surface, const BlendSide& side, const char* which) {
  const std::vector<Border> all = bordersOf(surface.body().topology);
  std::vector<Border> chosen;
  for (const Edge& edge : side.edges) {
    const auto found =
        std::find_if(all.begin(), all.end(), [&](const Border& each) { return each.edge.IsSame(edge.body().edge); });
    if (found == all.end())
      throw Error(say("an edge to blend %1 is no open border of a surface", say(which)), "",
                  say("Pick edges at the border of a surface; lift faces off a solid first"));
    chosen.push_back(*found);
  }
  if (chosen.empty()) throw Error(say("no edge is chosen to blend %1", say(which)), "", say("Pick a border"));
  return side.wholeLoop ? wholeLoop(all, chosen.front()) : chosen;
}

/// The two borders, lined up.
MatchedWalks linedUp(const EdgeWalk& from, const EdgeWalk& to, const BlendOrder& order) {
  if (from.closed() != to.closed())
    throw Error(say("one border is closed and the other is open"), "",
                say("Choose borders that are both closed, or both open: without the whole loop, or more edges"));
  EdgeWalk other = alignedWith(from, to, order.against);
  if (other.closed() && order.slide != 0) other = other.startedAt(order.slide);
  return MatchedWalks({from, other});
}

int degreeOf(const BlendOrder& order) {
  const Joint most = std::max(order.from.joint, order.to.joint);
  return most == Joint::Touch ? 1 : most == Joint::Tangent ? 3 : 5;
}

/// One curve across, from border to border.
Row rowBetween(const Frame& a, const Frame& b, const BlendOrder& order) {
  const int degree = degreeOf(order);
  const double way = distance(a.point, b.point);
  if (degree == 1) return {a.point, b.point};
  const Vector straight = (b.point - a.point) * (1.0 / degree);
  const double first = way / degree;
  const auto step = [&](const Frame& frame, const BlendSide& side, Vector across) {
    return side.joint == Joint::Touch ? across : frame.outwards * (side.fullness * first);
  };
  const Vector out = step(a, order.from, straight), in = step(b, order.to, -straight);
  if (degree == 3) return {a.point, a.point + out, b.point + in, b.point};
  // Of degree 5: the second derivative is 20 times the second difference, the first 5 times the first.
  const auto second = [&](const Frame& frame, const BlendSide& side, Vector step1) {
    const double reach = side.fullness * first;
    return step1 * 2 + frame.bend * (side.joint == Joint::Curvature ? reach * reach * 5 / 4 : 0);
  };
  return {a.point,      a.point + out, a.point + second(a, order.from, out), b.point + second(b, order.to, in),
          b.point + in, b.point};
}

/// The frames of one border along a patch: lean at its ends as the corners there ask for, and in between ever less.
class Frames {
 public:
  Frames(const MatchedWalks& walks, std::size_t number, double from, double to)
      : walks_(walks),
        number_(number),
        from_(from),
        to_(to),
        start_(slantsAt(walks.walk(number), walks.shareOf(number, from)).second),
        end_(slantsAt(walks.walk(number), walks.shareOf(number, to)).first) {}

  Frame at(double place) const {
    const auto on =
        walks_.walk(number_).at(shareBefore(place), place >= to_ ? EdgeWalk::Side::Before : EdgeWalk::Side::After);
    const double along = (place - from_) / (to_ - from_);
    return frameAt(*on.border, on.parameter, start_ + (end_ - start_) * along);
  }

 private:
  /// At the end of a patch, that of the edge which ends there.
  double shareBefore(double place) const { return walks_.shareOf(number_, place); }

  const MatchedWalks& walks_;
  std::size_t number_;
  double from_, to_, start_, end_;
};

Handle(Geom_BSplineSurface)
    patchOf(const MatchedWalks& walks, const BlendOrder& order, double from, double to, int spans) {
  const Frames a(walks, 0, from, to), b(walks, 1, from, to);
  return skin([&](double share) { return rowBetween(a.at(share), b.at(share), order); }, from, to, spans,
              Across::bezier(degreeOf(order)));
}

/// What a patch is like at a border, between the places where it was asked for.
struct Deviation {
  double gap = 0, angle = 0, curvature = 0;
};

Deviation deviationAt(const Handle(Geom_BSplineSurface) & patch, const MatchedWalks& walks, std::size_t number,
                      double u) {
  const double v = number == 0 ? 0 : 1;
  GeomLProp_SLProps own(patch, u, v, 2, tolerance::rounding);
  const auto place = walks.walk(number).at(walks.shareOf(number, u), EdgeWalk::Side::After);
  const BRepAdaptor_Curve edge(place.border->edge);
  // The nearest place of the edge: both follow it by its length, but not to the last digit.
  double parameter = place.parameter;
  for (int i = 0; i < 20; ++i) {
    gp_Pnt at;
    gp_Vec along, bent;
    edge.D2(parameter, at, along, bent);
    const gp_Vec off(own.Value(), at);
    const double slope = along.Dot(along) + off.Dot(bent);
    if (slope <= 0) break;
    const double change = off.Dot(along) / slope;
    parameter -= change;
    if (std::abs(change) < tolerance::rounding) break;
  }
  parameter = std::clamp(parameter, edge.FirstParameter(), edge.LastParameter());
  const Frame frame = frameAt(*place.border, parameter);
  Deviation found;
  found.gap = distance(fromPnt(own.Value()), frame.point);
  if (!own.IsNormalDefined()) return found;
  const Vector normal = fromDir(own.Normal());
  found.angle = std::asin(std::min(1.0, length(cross(normal, frame.normal))));
  const Vector bend = bendAlong(own.D1U(), own.D1V(), own.D2U(), own.D2V(), own.DUV(), toVec(frame.outwards));
  const double scale = std::max({length(bend), length(frame.bend), 1e-6});
  found.curvature = length(bend - frame.bend) / scale;
  return found;
}

Blend::Measured measured(const Handle(Geom_BSplineSurface) & patch, const MatchedWalks& walks, std::size_t number,
                         double from, double to, int spans) {
  Blend::Measured worst;
  for (int i = 0; i < spans; ++i) {
    // Between two places that it was laid through, beside corners not.
    const Deviation at = deviationAt(patch, walks, number, from + (to - from) * (i + 0.5) / spans);
    worst.gap = std::max(worst.gap, at.gap);
    worst.angle = std::max(worst.angle, at.angle);
    worst.curvature = std::max(worst.curvature, at.curvature);
  }
  return worst;
}

/// The patch, laid through as many places as it takes.
Handle(Geom_BSplineSurface)
    exactPatch(const MatchedWalks& walks, const BlendOrder& order, double from, double to, Blend& blend) {
  for (int spans = fewestSpans;; spans *= 2) {
    const Handle(Geom_BSplineSurface) patch = patchOf(walks, order, from, to, spans);
    const Blend::Measured a = measured(patch, walks, 0, from, to, spans);
    const Blend::Measured b = measured(patch, walks, 1, from, to, spans);
    constexpr double sameCurvature = 3e-4;
    const auto good = [&](const Blend::Measured& at, Joint joint) {
      return at.gap < tolerance::samePlace && (joint == Joint::Touch || at.angle < smooth / 2) &&
             (joint != Joint::Curvature || at.curvature < sameCurvature);
    };
    if (spans < mostSpans && !(good(a, order.from.joint) && good(b, order.to.joint))) continue;
    const auto take = [](Blend::Measured& all, const Blend::Measured& one) {
      all.gap = std::max(all.gap, one.gap);
      all.angle = std::max(all.angle, one.angle);
      all.curvature = std::max(all.curvature, one.curvature);
    };
    take(blend.atFrom, a);
    take(blend.atTo, b);
    return patch;
  }
}

/// Whether its normal turns over from one place to the next.
bool folds(const Handle(Geom_BSplineSurface) & patch, double from, double to) {
  constexpr int asked = 16;
  std::vector<Vector> before;
  for (int i = 0; i <= asked; ++i) {
    std::vector<Vector> normals;
    for (int k = 0; k <= asked; ++k) {
      GeomLProp_SLProps at(patch, from + (to - from) * i / asked, static_cast<double>(k) / asked, 1,
                           tolerance::rounding);
      normals.push_back(at.IsNormalDefined() ? fromDir(at.Normal()) : Vector{});
      if (k > 0 && dot(normals[normals.size() - 2], normals.back()) < 0) return true;
      if (!before.empty() && dot(before[static_cast<std::size_t>(k)], normals.back()) < 0) return true;
    }
    before = std::move(normals);
  }
  return false;
}

}  // namespace

Blend blended(const Shape& from, const Shape& to, const BlendOrder& order, const std::string& name,
              Progress& progress) {
  return kernelCall("blending", [&] {
    const MatchedWalks walks =
        linedUp(EdgeWalk(bordersFor(from, order.from, "from")), EdgeWalk(bordersFor(to, order.to, "to")), order);
    const std::vector<double>& breaks = walks.breaks();
    Blend blend;
    BRepBuilderAPI_Sewing sewing(tolerance::sewing);
    std::vector<TopoDS_Face> patches;
    for (std::size_t i = 0; i + 1 < breaks.size(); ++i) {
      progress.throwIfStopped();
      const Handle(Geom_BSplineSurface) patch = exactPatch(walks, order, breaks[i], breaks[i + 1], blend);
      blend.folds = blend.folds || folds(patch, breaks[i], breaks[i + 1]);
      const BRepBuilderAPI_MakeFace make(patch, tolerance::point);
      if (!make.IsDone()) throw Error(say("a face of the blend could not be made"), "", say("Change the fullness"));
      // Its front looks where the front of the first surface does.
      const double middle = (breaks[i] + breaks[i + 1]) / 2;
      GeomLProp_SLProps beside(patch, middle, 0, 1, tolerance::rounding);
      TopoDS_Face face = make.Face();
      const Frames frames(walks, 0, breaks[i], breaks[i + 1]);
      if (beside.IsNormalDefined() && dot(fromDir(beside.Normal()), frames.at(middle).normal) < 0) face.Reverse();
      patches.push_back(face);
    }
    const auto facts = FaceFacts{originsOf(name + ":blend"), {}, false};
    FaceTable table;
    TopoDS_Shape whole = patches.front();
    if (patches.size() == 1) {
      table.emplace(whole, facts);
    } else {
      for (const TopoDS_Face& patch : patches) sewing.Add(patch);
      sewing.Perform();
      whole = sewing.SewedShape();
      for (const TopoDS_Face& patch : patches)
        for (TopExp_Explorer it(sewing.ModifiedSubShape(patch), TopAbs_FACE); it.More(); it.Next())
          table.emplace(it.Current(), facts);
    }
    blend.surface = makeShape(whole, std::move(table), name + ":blend");
    const Row seam = rowBetween(Frames(walks, 0, 0, breaks[1]).at(0), Frames(walks, 1, 0, breaks[1]).at(0), order);
    blend.fromArm = seam[1] - seam[0];
    blend.toArm = seam[seam.size() - 2] - seam.back();
    constexpr int shown = 24;
    for (int i = 0; i <= shown; ++i) {
      // De Casteljau.
      std::vector<Point> points = seam;
      const double t = static_cast<double>(i) / shown;
      for (std::size_t k = points.size() - 1; k > 0; --k)
        for (std::size_t j = 0; j < k; ++j) points[j] = points[j] + (points[j + 1] - points[j]) * t;
      blend.seam.push_back(points.front());
    }
    return blend;
  });
}

}  // namespace kervo
