// Control points of curve bodies.
#include <Geom_BSplineCurve.hxx>
#include <algorithm>

#include "base/error.h"
#include "base/say.h"
#include "geom/curves/curve_chains.h"
#include "geom/kernel/call.h"
#include "geom/kernel/convert.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

/// Splines of a chain, and which of all its points each pole is.
struct Poles {
  std::vector<Handle(Geom_BSplineCurve)> splines;
  std::vector<std::vector<std::size_t>> numbers;
  std::vector<Point> points;
};

Poles polesOf(const CurveChain& chain) {
  Poles poles;
  for (std::size_t i = 0; i < chain.stretches.size(); ++i) {
    poles.splines.push_back(splineOf(chain.stretches[i]));
    std::vector<std::size_t>& numbers = poles.numbers.emplace_back();
    const Handle(Geom_BSplineCurve)& spline = poles.splines.back();
    for (int pole = 1; pole <= spline->NbPoles(); ++pole) {
      if (pole == 1 && i > 0) {
        numbers.push_back(poles.numbers[i - 1].back());
        continue;
      }
      const bool closes = pole == spline->NbPoles() && i + 1 == chain.stretches.size() && chain.closed();
      numbers.push_back(closes ? 0 : poles.points.size());
      if (!closes) poles.points.push_back(fromPnt(spline->Pole(pole)));
    }
  }
  return poles;
}

/// The chain that has the point of that number, and the point's number in it.
std::pair<std::size_t, std::size_t> found(const std::vector<CurveChain>& chains, std::size_t index) {
  std::size_t rest = index;
  for (std::size_t i = 0; i < chains.size(); ++i) {
    const std::size_t count = polesOf(chains[i]).points.size();
    if (rest < count) return {i, rest};
    rest -= count;
  }
  throw Error(say("there is no control point %1", index + 1), "", say("Choose one of 1 to %1", index - rest));
}

bool isStraight(const Handle(Geom_BSplineCurve) & spline) {
  return spline->NbPoles() == 2;
}

/// Without the pole, and with as many knots less; of a lower degree where there are too few left.
CurveStretch without(const Handle(Geom_BSplineCurve) & spline, int pole) {
  std::vector<gp_Pnt> left;
  std::vector<double> weights;
  for (int i = 1; i <= spline->NbPoles(); ++i)
    if (i != pole) {
      left.push_back(spline->Pole(i));
      weights.push_back(spline->Weight(i));
    }
  const int count = static_cast<int>(left.size()), degree = std::min(spline->Degree(), count - 1);
  TColgp_Array1OfPnt poles(1, count);
  TColStd_Array1OfReal heavy(1, count);
  for (int i = 1; i <= count; ++i) {
    poles(i) = left[static_cast<std::size_t>(i) - 1];
    heavy(i) = weights[static_cast<std::size_t>(i) - 1];
  }
  const int spans = count - degree;
  TColStd_Array1OfReal knots(1, spans + 1);
  TColStd_Array1OfInteger times(1, spans + 1);
  for (int i = 1; i <= spans + 1; ++i) {
    knots(i) = i - 1;
    times(i) = i == 1 || i == spans + 1 ? degree + 1 : 1;
  }
  const Handle(Geom_Curve) made = new Geom_BSplineCurve(poles, heavy, knots, times, degree);
  return {made, made->FirstParameter(), made->LastParameter()};
}

}  // namespace

std::vector<std::vector<Point>> controlPointsOf(const Shape& curve) {
  return kernelCall("finding control points", [&] {
    std::vector<std::vector<Point>> points;
    for (const CurveChain& chain : chainsOf(curve)) points.push_back(polesOf(chain).points);
    return points;
  });
}

Shape withControlPoint(const Shape& curve, std::size_t index, Point to) {
  return kernelCall("moving a control point", [&] {
    std::vector<CurveChain> chains = chainsOf(curve);
    const auto [which, number] = found(chains, index);
    CurveChain& chain = chains[which];
    const Poles poles = polesOf(chain);
    for (std::size_t i = 0; i < chain.stretches.size(); ++i) {
      const Handle(Geom_BSplineCurve)& spline = poles.splines[i];
      bool moves = false;
      for (std::size_t pole = 0; pole < poles.numbers[i].size(); ++pole) {
        if (poles.numbers[i][pole] != number) continue;
        spline->SetPole(static_cast<int>(pole) + 1, toPnt(to));
        moves = true;
      }
      if (!moves) continue;
      const CurveStretch made{Handle(Geom_Curve)(spline), spline->FirstParameter(), spline->LastParameter()};
      if (made.length() < tolerance::smallestSize)
        throw Error(say("an edge would have no length"), "", say("Move the point elsewhere"));
      chain.stretches[i] = isStraight(spline) ? lineFrom(made.start(), made.end()) : made;
    }
    return bodyOf(chains);
  });
}

Shape withControlPointAfter(const Shape& curve, std::size_t index) {
  return kernelCall("adding a control point", [&] {
    std::vector<CurveChain> chains = chainsOf(curve);
    const auto [which, number] = found(chains, index);
    CurveChain& chain = chains[which];
    const Poles poles = polesOf(chain);
    // The edge that goes on from it: where it is not the last pole.
    for (std::size_t i = 0; i < chain.stretches.size(); ++i) {
      const std::vector<std::size_t>& numbers = poles.numbers[i];
      const auto pole = std::find(numbers.begin(), numbers.end() - 1, number);
      if (pole == numbers.end() - 1) continue;
      const Handle(Geom_BSplineCurve)& spline = poles.splines[i];
      if (isStraight(spline)) {
        const Point middle = (fromPnt(spline->StartPoint()) + fromPnt(spline->EndPoint())) * 0.5;
        const CurveStretch rest = lineFrom(middle, fromPnt(spline->EndPoint()));
        chain.stretches[i] = lineFrom(fromPnt(spline->StartPoint()), middle);
        chain.stretches.insert(chain.stretches.begin() + static_cast<std::ptrdiff_t>(i) + 1, rest);
        return bodyOf(chains);
      }
      // Between the places where this one and the next have most to say.
      const auto mostAt = [&](std::size_t at) {
        double sum = 0;
        TColStd_Array1OfReal flat(1, spline->NbPoles() + spline->Degree() + 1);
        spline->KnotSequence(flat);
        for (int k = 1; k <= spline->Degree(); ++k) sum += flat(static_cast<int>(at) + 1 + k);
        return sum / spline->Degree();
      };
      const auto place = static_cast<std::size_t>(pole - numbers.begin());
      spline->InsertKnot((mostAt(place) + mostAt(place + 1)) / 2);
      chain.stretches[i] = {Handle(Geom_Curve)(spline), spline->FirstParameter(), spline->LastParameter()};
      return bodyOf(chains);
    }
    throw Error(say("no curve goes on after this control point"), "", say("Choose one before it"));
  });
}

Shape withoutControlPoint(const Shape& curve, std::size_t index) {
  return kernelCall("removing a control point", [&] {
    std::vector<CurveChain> chains = chainsOf(curve);
    const auto [which, number] = found(chains, index);
    CurveChain& chain = chains[which];
    const Poles poles = polesOf(chain);
    std::vector<std::pair<std::size_t, int>> uses;  // edge, pole
    for (std::size_t i = 0; i < poles.numbers.size(); ++i)
      for (std::size_t pole = 0; pole < poles.numbers[i].size(); ++pole)
        if (poles.numbers[i][pole] == number) uses.emplace_back(i, static_cast<int>(pole) + 1);
    if (uses.size() == 2) {
      const std::size_t a = uses[0].first, b = uses[1].first;
      if (a == b || !isStraight(poles.splines[a]) || !isStraight(poles.splines[b]))
        throw Error(say("two edges meet in this control point"), "", say("Move it instead, or remove one next to it"));
      // The corner of a chain of lines; of a closed one perhaps where it starts.
      const bool atStart = chain.closed() && a == 0 && b + 1 == chain.stretches.size();
      const std::size_t before = atStart ? b : a, after = atStart ? a : b;
      if (chain.stretches.size() < 3 && chain.closed())
        throw Error(say("nothing would be left of the curve"), "", say("Delete the body instead"));
      chain.stretches[after] = lineFrom(chain.stretches[before].start(), chain.stretches[after].end());
      chain.stretches.erase(chain.stretches.begin() + static_cast<std::ptrdiff_t>(before));
      return bodyOf(chains);
    }
    const auto [edge, pole] = uses.front();
    if (!isStraight(poles.splines[edge])) {
      const CurveStretch made = without(poles.splines[edge], pole);
      chain.stretches[edge] =
          isStraight(Handle(Geom_BSplineCurve)::DownCast(made.curve)) ? lineFrom(made.start(), made.end()) : made;
      return bodyOf(chains);
    }
    // The end of a chain of lines: its last one goes.
    if (chain.stretches.size() == 1 && chains.size() == 1)
      throw Error(say("nothing would be left of the curve"), "", say("Delete the body instead"));
    chain.stretches.erase(chain.stretches.begin() + static_cast<std::ptrdiff_t>(edge));
    if (chain.stretches.empty()) chains.erase(chains.begin() + static_cast<std::ptrdiff_t>(which));
    return bodyOf(chains);
  });
}

}  // namespace kervo
