#include "geom/surface/region_chart.h"

#include <Geom_ConicalSurface.hxx>
#include <algorithm>
#include <cmath>
#include <numbers>

#include "geom/kernel/elementary.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

constexpr double turn = 2 * std::numbers::pi;
constexpr int spansOfBorder = 96;
/// Parameters nearer than this are the same place on a seam.
constexpr double samePlace = 2e-6;

double wrapped(double angle) {
  return angle - turn * std::round(angle / turn);
}

}  // namespace

RegionChart::RegionChart(const Handle(Geom_ElementarySurface) & surface, const RegionBorders& borders)
    : surface_(surface), adaptor_(surface), borders_(borders) {}

bool RegionChart::turnsIn(Way way) const {
  return way == Way::U ? adaptor_.GetType() != GeomAbs_Plane : adaptor_.GetType() == GeomAbs_Torus;
}

gp_Pnt2d RegionChart::at(const gp_Pnt& point) const {
  return parametersOn(adaptor_, point).value_or(gp_Pnt2d());
}

gp_Pnt2d RegionChart::near(gp_Pnt2d at, const gp_Pnt2d& other) const {
  if (turnsIn(Way::U)) at.SetX(other.X() + wrapped(at.X() - other.X()));
  if (turnsIn(Way::V)) at.SetY(other.Y() + wrapped(at.Y() - other.Y()));
  return at;
}

std::vector<gp_Pnt2d> RegionChart::along(std::size_t border, double first, double last, int spans) const {
  std::vector<gp_Pnt2d> result;
  for (int i = 0; i <= spans; ++i) {
    const gp_Pnt2d now = at(borders_.borders[border].curve->Value(first + (last - first) * i / spans));
    result.push_back(result.empty() ? now : near(now, result.back()));
  }
  return result;
}

std::vector<gp_Pnt2d> RegionChart::along(const BorderLoop& loop) const {
  std::vector<gp_Pnt2d> result;
  for (const BorderUse& use : loop) {
    const RegionBorder& border = borders_.borders[use.border];
    std::vector<gp_Pnt2d> next = use.forward ? along(use.border, border.first, border.last, spansOfBorder)
                                             : along(use.border, border.last, border.first, spansOfBorder);
    if (!result.empty()) {
      const gp_Vec2d shift(next.front(), near(next.front(), result.back()));
      for (gp_Pnt2d& each : next) each.Translate(shift);
    }
    result.insert(result.end(), next.begin(), next.end());
  }
  return result;
}

int RegionChart::windings(const BorderLoop& loop, Way way) const {
  if (!turnsIn(way)) return 0;
  const std::vector<gp_Pnt2d> points = along(loop);
  return static_cast<int>(std::lround((part(points.back(), way) - part(points.front(), way)) / turn));
}

std::vector<BorderPlace> RegionChart::crossings(const BorderLoop& loop, Way way, double value) const {
  std::vector<BorderPlace> result;
  const auto offAt = [&](std::size_t border, double t) {
    return wrapped(part(at(borders_.borders[border].curve->Value(t)), way) - value);
  };
  for (const BorderUse& use : loop) {
    const RegionBorder& border = borders_.borders[use.border];
    const std::uint32_t begins = use.forward ? border.from : border.to;
    const double start = use.forward ? border.first : border.last;
    if (std::abs(offAt(use.border, start)) < samePlace) result.push_back({use.border, start, begins});
    double before = offAt(use.border, border.first);
    for (int i = 1; i <= spansOfBorder; ++i) {
      double low = border.first + (border.last - border.first) * (i - 1) / spansOfBorder;
      double high = border.first + (border.last - border.first) * i / spansOfBorder;
      const double now = offAt(use.border, high);
      const bool atEnds = (i == 1 && std::abs(before) < samePlace) || (i == spansOfBorder && std::abs(now) < samePlace);
      const bool crosses = before * now < 0 && std::abs(before - now) < turn / 4;
      const bool meets = std::abs(now) < samePlace && i < spansOfBorder;
      if (meets) result.push_back({use.border, high, std::nullopt});
      if (crosses && !atEnds && std::abs(before) >= samePlace && !meets) {
        for (int step = 0; step < 60; ++step) {
          const double middle = (low + high) / 2;
          (offAt(use.border, middle) * before > 0 ? low : high) = middle;
        }
        result.push_back({use.border, (low + high) / 2, std::nullopt});
      }
      before = now;
    }
  }
  return result;
}

bool RegionChart::isBesideCorner(const BorderPlace& place) const {
  constexpr double share = 1e-3;
  const RegionBorder& border = borders_.borders[place.border];
  const double near = share * (border.last - border.first);
  return !place.corner && (place.at - border.first < near || border.last - place.at < near);
}

std::vector<double> RegionChart::cornersOf(const BorderLoop& loop, Way way) const {
  std::vector<double> result;
  for (const BorderUse& use : loop) {
    const RegionBorder& border = borders_.borders[use.border];
    result.push_back(part(at(border.curve->Value(use.forward ? border.first : border.last)), way));
  }
  return result;
}

namespace {

/// Where the seam may lie: it crosses each loop that goes round once, and no other.
bool findSeam(RegionPlan& plan, const RegionChart& chart, const std::vector<BorderLoop>& loops) {
  std::vector<std::size_t> round{plan.rising};
  if (plan.shape == RegionPlan::Shape::Band) round.push_back(plan.falling);
  std::vector<double> values;
  for (const std::size_t loop : round)
    for (const double value : chart.cornersOf(loops[loop], plan.way)) values.push_back(value);
  constexpr int tried = 48;
  for (int i = 0; i < tried; ++i) values.push_back(turn * (i + 0.37) / tried);
  for (const double value : values) {
    std::vector<BorderPlace> places;
    bool fits = true;
    for (std::size_t i = 0; i < loops.size() && fits; ++i) {
      const std::vector<BorderPlace> found = chart.crossings(loops[i], plan.way, value);
      const bool goesRound = std::find(round.begin(), round.end(), i) != round.end();
      fits = found.size() == (goesRound ? 1 : 0);
    }
    if (!fits) continue;
    for (const std::size_t i : round) places.push_back(chart.crossings(loops[i], plan.way, value).front());
    // Short edges beside a corner are not wanted.
    if (std::any_of(places.begin(), places.end(),
                    [&](const BorderPlace& place) { return chart.isBesideCorner(place); }))
      continue;
    plan.seam = value;
    plan.crossings = std::move(places);
    return true;
  }
  return false;
}

}  // namespace

std::optional<RegionPlan> planOf(const Handle(Geom_ElementarySurface) & surface, const std::vector<BorderLoop>& loops,
                                 const RegionBorders& borders, const std::function<bool(const gp_Pnt&)>& covers) {
  const RegionChart chart(surface, borders);
  RegionPlan plan;
  plan.surface = surface;
  const GeomAdaptor_Surface adaptor(surface);
  if (loops.empty()) {
    if (adaptor.GetType() != GeomAbs_Sphere && adaptor.GetType() != GeomAbs_Torus) return std::nullopt;
    plan.shape = RegionPlan::Shape::Whole;
    return plan;
  }
  bool above = false, below = false;
  if (adaptor.GetType() == GeomAbs_Sphere) {
    above = covers(adaptor.Value(0, std::numbers::pi / 2));
    below = covers(adaptor.Value(0, -std::numbers::pi / 2));
  } else if (adaptor.GetType() == GeomAbs_Cone) {
    const gp_Pnt apex = adaptor.Cone().Apex();
    if (covers(apex)) (chart.at(apex).Y() > chart.along(loops.front()).front().Y() ? above : below) = true;
  }
  for (const RegionChart::Way way : {RegionChart::Way::U, RegionChart::Way::V}) {
    std::vector<std::size_t> rising, falling;
    bool simple = true;
    for (std::size_t i = 0; i < loops.size(); ++i) {
      const int windings = chart.windings(loops[i], way);
      simple = simple && std::abs(windings) <= 1;
      if (windings != 0) (windings > 0 ? rising : falling).push_back(i);
    }
    if (!simple) return std::nullopt;
    if (rising.empty() && falling.empty()) continue;
    plan.way = way;
    if (rising.size() == 1 && falling.size() == 1 && !above && !below) {
      plan.shape = RegionPlan::Shape::Band;
      plan.rising = rising.front();
      plan.falling = falling.front();
    } else if (rising.size() + falling.size() == 1 && above != below) {
      plan.shape = RegionPlan::Shape::Cap;
      plan.capAbove = above;
      if (above != (rising.size() == 1)) return std::nullopt;
      plan.rising = plan.falling = rising.empty() ? falling.front() : rising.front();
    } else {
      return std::nullopt;
    }
    return findSeam(plan, chart, loops) ? std::optional(plan) : std::nullopt;
  }
  if (above || below) return std::nullopt;
  return plan;
}

}  // namespace kervo
