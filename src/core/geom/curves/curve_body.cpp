#include "geom/curves/curve_body.h"

#include <BRepClass3d_SolidClassifier.hxx>
#include <BRep_Builder.hxx>
#include <GCPnts_AbscissaPoint.hxx>
#include <GeomAdaptor_Curve.hxx>
#include <GeomConvert_BSplineCurveToBezierCurve.hxx>
#include <Geom_BezierCurve.hxx>
#include <Geom_Conic.hxx>
#include <Geom_Line.hxx>
#include <Geom_TrimmedCurve.hxx>
#include <algorithm>
#include <numbers>

#include "base/error.h"
#include "base/quantity.h"
#include "base/say.h"
#include "geom/curves/curve_chains.h"
#include "geom/kernel/call.h"
#include "geom/kernel/convert.h"
#include "geom/kernel/curve_edges.h"
#include "geom/kernel/shape_body.h"
#include "geom/kernel/topology_body.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

/// A Bézier curve followed past its end, to `to` times its parameter (de Casteljau).
Handle(Geom_BezierCurve) beyond(const Handle(Geom_BezierCurve) & span, double to) {
  const int count = span->NbPoles();
  struct Heavy {
    Vector at;
    double weight;
  };
  std::vector<Heavy> level;
  for (int i = 1; i <= count; ++i) {
    const double weight = span->Weight(i);
    level.push_back({fromPnt(span->Pole(i)) * weight, weight});
  }
  // The right-hand poles of what a division at 1 leaves when it runs to `to`: blossoms of 1 and `to`.
  std::vector<Heavy> result;
  for (int last = 0; last < count; ++last) {
    std::vector<Heavy> points = level;
    for (int k = 1; k < count; ++k) {
      const double t = k <= last ? to : 1;
      for (int i = 0; i + k < count; ++i) {
        const auto a = static_cast<std::size_t>(i);
        points[a] = {points[a].at * (1 - t) + points[a + 1].at * t,
                     points[a].weight * (1 - t) + points[a + 1].weight * t};
      }
    }
    result.push_back(points.front());
  }
  TColgp_Array1OfPnt poles(1, count);
  TColStd_Array1OfReal weights(1, count);
  for (int i = 1; i <= count; ++i) {
    const Heavy& each = result[static_cast<std::size_t>(i) - 1];
    if (!(each.weight > 0))
      throw Error(say("the curve cannot go on that far as it runs"), "", say("Let it go on straight"));
    poles(i) = toPnt(each.at * (1 / each.weight));
    weights(i) = each.weight;
  }
  return new Geom_BezierCurve(poles, weights);
}

/// What follows on the end of a stretch, by a length. A conic goes round once at most, `whole`: as far as it can.
CurveStretch further(const CurveStretch& stretch, GoesOn way, double by, bool whole) {
  const Handle(Geom_Curve) basis = stretch.curve;
  const Vector tangent = stretch.tangentAt(stretch.to);
  const bool isLine = !Handle(Geom_Line)::DownCast(basis).IsNull();
  if (way == GoesOn::Straight || isLine) return lineFrom(stretch.end(), stretch.end() + tangent * by);
  if (!Handle(Geom_Conic)::DownCast(basis).IsNull()) {
    double to = GCPnts_AbscissaPoint(GeomAdaptor_Curve(basis), by, stretch.to).Parameter();
    if (basis->IsPeriodic() && to - stretch.from > basis->Period() - tolerance::parallel) {
      if (!whole)
        throw Error(say("it would go round more than once"), "",
                    say("Lengthen it by less than %1 mm",
                        formatNumber(CurveStretch{basis, stretch.to, stretch.from + basis->Period()}.length(), 4)));
      to = stretch.from + basis->Period();
    }
    return {basis, stretch.to, to};
  }
  GeomConvert_BSplineCurveToBezierCurve spans(splineOf(stretch));
  const Handle(Geom_BezierCurve) last = spans.Arc(spans.NbArcs());
  constexpr int most = 20;
  for (int doubled = 1; doubled < most; ++doubled) {
    const Handle(Geom_Curve) next = beyond(last, std::ldexp(1.0, doubled));
    const CurveStretch all{next, 0, 1};
    if (all.length() < by) continue;
    return {next, 0, GCPnts_AbscissaPoint(GeomAdaptor_Curve(next), by, 0.0).Parameter()};
  }
  throw Error(say("the curve cannot go on that far as it runs"), "", say("Let it go on straight"));
}

/// A stretch and what follows on it: one where both lie on the same curve.
void append(CurveChain& chain, const CurveStretch& next) {
  CurveStretch& last = chain.stretches.back();
  const Handle(Geom_Curve) basis = last.curve;
  const Handle(Geom_Line) line = Handle(Geom_Line)::DownCast(basis);
  if (basis == next.curve) {
    last = {basis, last.from, next.to};
  } else if (!line.IsNull() && !Handle(Geom_Line)::DownCast(next.curve).IsNull()) {
    last = {basis, last.from, last.to + (next.to - next.from)};
  } else {
    chain.stretches.push_back(next);
  }
}

template <class Extension>
Shape lengthenedChains(const Shape& curve, bool atEnd, Extension&& extension) {
  return kernelCall("lengthening curves", [&] {
    std::vector<CurveChain> chains = chainsOf(curve);
    bool any = false;
    for (CurveChain& chain : chains) {
      if (chain.closed()) continue;
      any = true;
      if (!atEnd) chain = chain.reversed();
      append(chain, extension(chain));
      if (!atEnd) chain = chain.reversed();
    }
    if (!any)
      throw Error(say("a closed curve has no end to lengthen"), "", say("Split it first, or choose another one"));
    return bodyOf(chains);
  });
}

/// Where on a chain it is cut: the stretch and the parameter.
struct Place {
  std::size_t stretch;
  double parameter;
};

std::vector<Place> placesOn(const CurveChain& chain, const std::vector<CurveCutter>& cutters) {
  std::vector<Place> places;
  for (std::size_t i = 0; i < chain.stretches.size(); ++i) {
    const CurveStretch& stretch = chain.stretches[i];
    std::vector<double> all;
    for (const CurveCutter& cutter : cutters)
      for (const double at : crossingsOf(stretch, cutter)) all.push_back(at);
    std::sort(all.begin(), all.end());
    for (const double at : all) {
      const Point here = stretch.at(at);
      const bool ofChain =
          !chain.closed() &&
          ((i == 0 && distance(here, chain.stretches.front().start()) < sameEnd) ||
           (i + 1 == chain.stretches.size() && distance(here, chain.stretches.back().end()) < sameEnd));
      const bool known = std::any_of(places.begin(), places.end(), [&](const Place& place) {
        return distance(chain.stretches[place.stretch].at(place.parameter), here) < sameEnd;
      });
      if (!ofChain && !known) places.push_back({i, at});
    }
  }
  return places;
}

/// From one place to a later one, or round past the start of a closed chain.
CurveChain between(const CurveChain& chain, const Place& from, const Place& to, bool round) {
  CurveChain result;
  const auto add = [&](std::size_t stretch, double low, double high) {
    const CurveStretch& whole = chain.stretches[stretch];
    if (high > low && distance(whole.at(low), whole.at((low + high) / 2)) > sameEnd)
      result.stretches.push_back({whole.curve, low, high});
  };
  const std::size_t count = chain.stretches.size();
  if (!round && from.stretch == to.stretch) {
    add(from.stretch, from.parameter, to.parameter);
    return result;
  }
  add(from.stretch, from.parameter, chain.stretches[from.stretch].to);
  for (std::size_t i = from.stretch + 1; i % count != to.stretch || (round && i < count); ++i) {
    if (i >= count && i % count == to.stretch) break;
    add(i % count, chain.stretches[i % count].from, chain.stretches[i % count].to);
  }
  add(to.stretch, chain.stretches[to.stretch].from, to.parameter);
  return result;
}

}  // namespace

Shape curveBody(const std::vector<SpaceCurve>& curves, const std::vector<Edge>& edges) {
  return kernelCall("making curves", [&] {
    BRep_Builder builder;
    TopoDS_Compound all;
    builder.MakeCompound(all);
    for (const SpaceCurve& curve : curves) {
      TopoDS_Vertex from, to;
      builder.MakeVertex(from, toPnt(curve.at(0)), tolerance::point);
      builder.MakeVertex(to, toPnt(curve.at(1)), tolerance::point);
      const TopoDS_Edge edge = curve.closed() ? closedEdge(curve) : edgeAlong(curve, from, to);
      if (!edge.IsNull()) builder.Add(all, edge);
    }
    for (const Edge& edge : edges) builder.Add(all, edge.body().edge);
    return bodyOf(chainsOf(all));
  });
}

std::vector<Shape> splitCurve(const Shape& curve, const std::vector<CurveCutter>& cutters, Progress& progress) {
  std::vector<Shape> parts;
  for (const CurveChain& chain : chainsOf(curve)) {
    progress.throwIfStopped();
    const std::vector<Place> places = placesOn(chain, cutters);
    if (places.empty()) {
      parts.push_back(bodyOf({chain}));
      continue;
    }
    const Place start{0, chain.stretches.front().from};
    const Place end{chain.stretches.size() - 1, chain.stretches.back().to};
    const auto add = [&](const CurveChain& part) {
      if (!part.stretches.empty()) parts.push_back(bodyOf({part}));
    };
    if (!chain.closed()) add(between(chain, start, places.front(), false));
    for (std::size_t i = 0; i + 1 < places.size(); ++i) add(between(chain, places[i], places[i + 1], false));
    add(chain.closed() ? between(chain, places.back(), places.front(), true)
                       : between(chain, places.back(), end, false));
  }
  return parts;
}

Point middleOfCurve(const Shape& curve) {
  const CurveChain chain = chainsOf(curve).front();
  double rest = 0;
  for (const CurveStretch& stretch : chain.stretches) rest += stretch.length() / 2;
  for (const CurveStretch& stretch : chain.stretches) {
    const double length = stretch.length();
    if (rest > length) {
      rest -= length;
      continue;
    }
    return stretch.at(GCPnts_AbscissaPoint(GeomAdaptor_Curve(stretch.curve), rest, stretch.from).Parameter());
  }
  return chain.stretches.back().end();
}

int sideOf(Point point, const CurveCutter& cutter) {
  if (cutter.plane) {
    const double above = cutter.plane->signedDistance(point);
    return above > tolerance::point ? 1 : above < -tolerance::point ? -1 : 0;
  }
  if (cutter.body.kind() != BodyKind::Solid) return 0;
  return kernelCall("finding the side of a point", [&] {
    const BRepClass3d_SolidClassifier place(cutter.body.body().topology, toPnt(point), tolerance::point);
    return place.State() == TopAbs_OUT ? 1 : place.State() == TopAbs_IN ? -1 : 0;
  });
}

double lengthOfCurve(const Shape& curve) {
  if (curve.empty() || curve.kind() != BodyKind::Curve) return 0;
  double sum = 0;
  for (const CurveChain& chain : chainsOf(curve))
    for (const CurveStretch& stretch : chain.stretches) sum += stretch.length();
  return sum;
}

std::optional<Axis> endOfCurve(const Shape& curve, bool atEnd) {
  for (const CurveChain& chain : chainsOf(curve)) {
    if (chain.closed()) continue;
    const CurveStretch last = atEnd ? chain.stretches.back() : chain.stretches.front().reversed();
    return Axis{last.end(), last.tangentAt(last.to)};
  }
  return std::nullopt;
}

Shape longestCurve(const Shape& curve) {
  return kernelCall("looking for the longest curve", [&] {
    CurveChain longest;
    double most = -1;
    for (const CurveChain& chain : chainsOf(curve)) {
      double length = 0;
      for (const CurveStretch& stretch : chain.stretches) length += stretch.length();
      if (length > most) most = length, longest = chain;
    }
    return bodyOf({longest});
  });
}

int chainCount(const Shape& curve) {
  return static_cast<int>(chainsOf(curve).size());
}

int closedChainCount(const Shape& curve) {
  const std::vector<CurveChain> chains = chainsOf(curve);
  return static_cast<int>(
      std::count_if(chains.begin(), chains.end(), [](const CurveChain& chain) { return chain.closed(); }));
}

JoinedCurves joinedCurves(const std::vector<Shape>& curves, double gap) {
  std::vector<CurveChain> chains;
  for (const Shape& curve : curves)
    for (CurveChain& chain : chainsOf(curve)) chains.push_back(std::move(chain));
  JoinedCurves result;
  for (;;) {
    // The nearest two ends, of one chain or of two.
    struct {
      double apart = Box::infinity;
      std::size_t a = 0, b = 0;
      bool aEnd = true, bEnd = false;
    } best;
    const auto endOf = [&](std::size_t chain, bool last) {
      return last ? chains[chain].stretches.back().end() : chains[chain].stretches.front().start();
    };
    for (std::size_t a = 0; a < chains.size(); ++a) {
      if (chains[a].closed()) continue;
      for (std::size_t b = a; b < chains.size(); ++b) {
        if (chains[b].closed()) continue;
        for (const bool aEnd : {true, false})
          for (const bool bEnd : {false, true}) {
            if (a == b && (!aEnd || bEnd)) continue;
            if (const double apart = distance(endOf(a, aEnd), endOf(b, bEnd)); apart < best.apart)
              best = {apart, a, b, aEnd, bEnd};
          }
      }
    }
    if (best.apart > gap) break;
    CurveChain& first = chains[best.a];
    if (!best.aEnd) first = first.reversed();
    const CurveChain second = best.a == best.b ? CurveChain() : best.bEnd ? chains[best.b].reversed() : chains[best.b];
    const Point to = best.a == best.b ? first.stretches.front().start() : second.stretches.front().start();
    if (best.apart > touching) {
      first.stretches.push_back(lineFrom(first.stretches.back().end(), to));
      ++result.bridges;
    }
    first.stretches.insert(first.stretches.end(), second.stretches.begin(), second.stretches.end());
    if (best.a != best.b) chains.erase(chains.begin() + static_cast<std::ptrdiff_t>(best.b));
    ++result.joints;
  }
  if (result.joints == 0)
    throw Error(say("no two ends are nearer than %1 mm", formatNumber(gap)), "", say("Allow a larger gap"));
  result.curve = bodyOf(chains);
  return result;
}

Shape lengthenedCurve(const Shape& curve, bool atEnd, GoesOn way, double by) {
  return lengthenedChains(curve, atEnd,
                          [&](const CurveChain& chain) { return further(chain.stretches.back(), way, by, false); });
}

Shape lengthenedCurve(const Shape& curve, bool atEnd, GoesOn way, const std::vector<CurveCutter>& until) {
  return lengthenedChains(curve, atEnd, [&](const CurveChain& chain) {
    const CurveStretch& last = chain.stretches.back();
    double reach = 1;
    Box around = curve.roughBox();
    for (const CurveCutter& cutter : until) {
      if (cutter.plane) reach = std::max(reach, 2 * std::abs(cutter.plane->signedDistance(last.end())));
      if (!cutter.body.empty()) around.add(cutter.body.roughBox());
    }
    // A plane may be met far away, at a flat angle.
    const double near = 2 * std::max(reach, around.diagonal());
    constexpr int most = 8;
    for (int times = 0; times < most; ++times) {
      const double far = std::ldexp(near, 3 * times);
      if (far > tolerance::largestSize) break;
      const CurveStretch next = further(last, way, far, true);
      std::optional<double> first;
      for (const CurveCutter& cutter : until)
        for (const double at : crossingsOf(next, cutter))
          if (distance(next.at(at), next.start()) > sameEnd && (!first || at < *first)) first = at;
      if (first) return CurveStretch{next.curve, next.from, *first};
      const bool round = next.curve->IsPeriodic();
      if (round) break;
    }
    throw Error(say("beyond its end it meets nothing that it could go to"), "",
                say("Choose something that lies ahead, or the other end"));
  });
}

}  // namespace kervo
