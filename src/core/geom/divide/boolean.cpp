#include "geom/divide/boolean.h"

#include <future>

#include "base/say.h"
#include "geom/divide/checked_intersection.h"
#include "geom/divide/divided_near.h"
#include "geom/divide/mesh_divide.h"
#include "geom/divide/saw.h"
#include "geom/divide/set_aside.h"
#include "geom/divide/trial_form.h"

namespace kervo {

namespace {

constexpr const char* wrongSide = later("a part was put on the wrong side of the cut");

/// What lies outside must not reach into a cutter, the rest of a cutter not into the stock.
void requireSides(const std::vector<TopoDS_Shape>& outside, const std::vector<Shape>& cutters, const Shape& stock,
                  const std::vector<TopoDS_Shape>& cutterRest, bool nothingDivided, Progress& progress) {
  Sides sides;
  // Where nothing was divided, an intersection may have been missed altogether: more points are asked then.
  const int asked = nothingDivided ? 64 : 8;
  for (const TopoDS_Shape& part : outside) {
    const std::vector<gp_Pnt> points = sides.pointsOn(part, asked);
    for (const Shape& cutter : cutters) {
      progress.throwIfStopped();
      if (sides.anyInside(points, cutter)) throw Unsound{say(wrongSide)};
    }
  }
  for (const TopoDS_Shape& part : cutterRest) {
    progress.throwIfStopped();
    if (sides.anyInside(sides.pointsOn(part, nothingDivided ? asked : 2), stock)) throw Unsound{say(wrongSide)};
  }
}

/// On which side of the cutters a part of the stock lies, asked at points on its faces: a part that is well divided has
/// them all inside, or on a cutter's boundary, or all outside. Throws Unsound for any other.
bool liesInside(const TopoDS_Shape& part, const std::vector<Shape>& cutters, Sides& sides) {
  bool inside = false, outside = false;
  for (const gp_Pnt& point : sides.pointsOn(part, 24)) {
    bool on = false, in = false;
    for (const Shape& cutter : cutters) {
      if (!cutter.body().looseBox.contains(fromPnt(point))) continue;
      for (const TopoDS_Shape& solid : solidsOf(cutter)) {
        const TopAbs_State state = sides.stateOf(point, solid);
        in |= state == TopAbs_IN;
        on |= state == TopAbs_ON;
      }
    }
    inside |= in;
    outside |= !in && !on;
  }
  if (inside == outside) throw Unsound{say(wrongSide)};
  return inside;
}

bool hasInnerFaces(const TopoDS_Shape& part) {
  for (TopExp_Explorer it(part, TopAbs_FACE); it.More(); it.Next())
    if (it.Current().Orientation() == TopAbs_INTERNAL || it.Current().Orientation() == TopAbs_EXTERNAL) return true;
  return false;
}

/// Throws Unsound if a face of a cutter runs inside a part, which it should have divided.
void requireNoneReachesIn(const std::vector<Shape>& cutters, const std::vector<TopoDS_Shape>& parts, Sides& sides,
                          Progress& progress) {
  for (const Shape& cutter : cutters)
    for (const gp_Pnt& point : sides.pointsOn(cutter.body().topology, 64)) {
      progress.throwIfStopped();
      for (const TopoDS_Shape& part : parts)
        if (sides.stateOf(point, part) == TopAbs_IN) throw Unsound{say(wrongSide)};
    }
}

DividedParts dividedWhole(const Shape& stock, const std::vector<Shape>& cutters, const Attempt& attempt,
                          Progress& progress) {
  std::vector<Shape> arguments{stock};
  arguments.insert(arguments.end(), cutters.begin(), cutters.end());
  const Intersection intersection(arguments, attempt, progress);
  DividedParts result;
  result.table = intersection.faceTable();
  result.allowedEdgeTolerance = intersection.allowedEdgeTolerance();
  measureAll(result.table, progress);

  ShapeMap<bool> inCutter, inStock;
  bool cuttersBalance = true;
  for (const TopoDS_Shape& solid : solidsOf(stock))
    for (const TopoDS_Shape& part : intersection.parts(solid)) inStock[part] = true;
  for (const Shape& cutter : cutters) {
    double sum = 0;
    for (const TopoDS_Shape& solid : solidsOf(cutter))
      for (const TopoDS_Shape& part : intersection.parts(solid)) {
        sum += volumeOf(part, result.table);
        if (inCutter.emplace(part, true).second && !inStock.contains(part)) result.cutterRest.push_back(part);
      }
    cuttersBalance &= balances(cutter.volume(), sum, cutter.area());
  }
  const std::vector<TopoDS_Shape> parts = [&] {
    std::vector<TopoDS_Shape> all;
    for (const TopoDS_Shape& solid : solidsOf(stock))
      for (const TopoDS_Shape& part : intersection.parts(solid)) all.push_back(part);
    return all;
  }();
  // A face of a cutter that divides nothing hangs inside a part.
  if (!hasInnerFaces(stock.body().topology) && std::any_of(parts.begin(), parts.end(), hasInnerFaces))
    throw Unsound{say("a face lies inside a part")};
  // Where the stock was divided, one of its parts is in a cutter.
  const bool noneInside =
      parts.size() > solidsOf(stock).size() &&
      std::none_of(parts.begin(), parts.end(), [&](const TopoDS_Shape& part) { return inCutter.contains(part); });
  if (cuttersBalance && !noneInside) {
    for (const TopoDS_Shape& part : parts) (inCutter.contains(part) ? result.inside : result.outside).push_back(part);
    return result;
  }
  // A cutter only takes away: its own parts may be lost, if those of the stock are whole, each has a clear side, and
  // none of them has a piece of a cutter's face inside.
  Sides sides;
  requireNoneReachesIn(cutters, parts, sides, progress);
  for (const TopoDS_Shape& part : parts) {
    progress.throwIfStopped();
    (liesInside(part, cutters, sides) ? result.inside : result.outside).push_back(part);
  }
  result.cutterRest.clear();
  return result;
}

/// The division that the parts make, if they pass all checks.
Division checked(DividedParts parts, const Shape& stock, const std::vector<Shape>& cutters, const Attempt& attempt,
                 Progress& progress) {
  auto& [outside, inside, cutterRest, table, allowedEdgeTolerance] = parts;
  Balance balance{stock.volume(), 0, 0};
  for (const TopoDS_Shape& part : outside) balance.outside += volumeOf(part, table);
  for (const TopoDS_Shape& part : inside) balance.inside += volumeOf(part, table);
  requireBalance(balance.before, balance.outside + balance.inside, stock.area(), "the stock");
  if (inside.empty()) {
    requireSides(outside, cutters, stock, cutterRest, true, progress);
    return {stock, {}, {stock.volume(), stock.volume(), 0}, attempt.remedy()};
  }
  std::vector<TopoDS_Shape> both = outside;
  both.insert(both.end(), inside.begin(), inside.end());
  requireSmallEffect(attempt, both, table, stock.volume());
  requireTightEdges(both, allowedEdgeTolerance);
  // The two longest checks look at different things and only read: side by side.
  std::future<void> sides = std::async(std::launch::async, [&] {
    kernelCall("the cut", [&] { requireSides(outside, cutters, stock, cutterRest, false, progress); });
  });
  markGiven(table, {stock}, progress);
  requireSoundFaces(both, table, progress);
  sides.get();
  return {soundShape(outside, table, progress), soundShape(inside, table, progress), balance, attempt.remedy()};
}

Division divideSolid(const Shape& stock, const std::vector<Shape>& cutters, const Attempt& attempt,
                     Progress& progress) {
  if (attempt.isPlain()) {
    // The quicker ways first. What one of them cannot put together, the next may.
    for (const bool bySaw : {true, false}) {
      try {
        auto parts = kernelCall("the cut", [&] {
          return bySaw ? sawn(stock, cutters, progress) : dividedNear(stock, cutters, attempt, progress);
        });
        if (parts) return checked(std::move(*parts), stock, cutters, attempt, progress);
      } catch (const Unsound&) {
        progress.throwIfStopped();
      } catch (const Error&) {
        // The kernel gave up on the few faces; it may manage the whole body.
        progress.throwIfStopped();
      }
    }
  }
  return checked(dividedWhole(stock, cutters, attempt, progress), stock, cutters, attempt, progress);
}

Division divideSurface(const Shape& stock, const std::vector<Shape>& cutters, const Attempt& attempt,
                       Progress& progress) {
  std::vector<Shape> arguments{stock};
  arguments.insert(arguments.end(), cutters.begin(), cutters.end());
  const Intersection intersection(arguments, attempt, progress);
  FaceTable table = intersection.faceTable();
  measureAll(table, progress);

  Sides sides;
  std::vector<TopoDS_Shape> outside, inside;
  Balance balance{stock.area(), 0, 0};
  for (TopExp_Explorer it(stock.body().topology, TopAbs_FACE); it.More(); it.Next()) {
    progress.throwIfStopped();
    for (const TopoDS_Shape& part : intersection.parts(it.Current())) {
      const std::optional<gp_Pnt> point = sides.pointOn(TopoDS::Face(part));
      if (!point) throw Unsound{say("a part of a face has no inside")};
      bool cut = false;
      for (const Shape& cutter : cutters)
        if (cutter.body().looseBox.contains(fromPnt(*point)))
          for (const TopoDS_Shape& solid : solidsOf(cutter)) cut |= sides.stateOf(*point, solid) == TopAbs_IN;
      const TopoDS_Shape oriented = part.Oriented(it.Current().Orientation());
      (cut ? inside : outside).push_back(oriented);
      (cut ? balance.inside : balance.outside) += table.at(part).integrals.area;
    }
  }
  if (std::abs(balance.residual()) > tolerance::balance * 10 * balance.before)
    throw Unsound{say("the areas of the surface do not balance")};
  if (inside.empty()) return {stock, {}, {stock.area(), stock.area(), 0}, attempt.remedy()};
  std::vector<TopoDS_Shape> both = outside;
  both.insert(both.end(), inside.begin(), inside.end());
  requireTightEdges(both, intersection.allowedEdgeTolerance());
  markGiven(table, {stock}, progress);
  requireSoundFaces(both, table, progress);
  const auto surface = [&](const std::vector<TopoDS_Shape>& faces) {
    return faces.empty() ? Shape() : makeShape(compoundOf(shellsOf(faces)), table, "face:");
  };
  return {surface(outside), surface(inside), balance, attempt.remedy()};
}

/// The division of a body's plain form, with its features.
Division withFeatures(const SetAside& aside, const Shape& stock, const Division& plain, Progress& progress) {
  if (plain.inside.empty()) return {stock, {}, {stock.volume(), stock.volume(), 0}, plain.remedy};
  const std::vector<Shape> parts = kernelCall("the cut", [&] {
    return aside.putBack({plain.outside, plain.inside}, progress);
  });
  const Balance balance{stock.volume(), parts[0].volume(), parts[1].volume()};
  requireBalance(balance.before, balance.outside + balance.inside, stock.area(), "the stock");
  return {parts[0], parts[1], balance, plain.remedy};
}

}  // namespace

Division divide(const Shape& stock, const std::vector<Shape>& cutters, Progress& progress) {
  progress.throwIfStopped();
  if (stock.empty()) return {};
  const bool solid = stock.kind() == BodyKind::Solid;
  if (stock.kind() == BodyKind::Curve)
    throw Error(say("a curve cannot be cut by a body"), "", say("Choose a solid or a surface as stock"));
  if (stock.mesh() || anyMesh(cutters)) return divideMeshes(stock, cutters, progress);
  std::vector<Shape> near;
  for (const Shape& cutter : cutters) {
    if (cutter.empty()) continue;
    if (cutter.kind() != BodyKind::Solid)
      throw Error(say("the cutter is a %1, which has no inside", say(nameOf(cutter.kind()))), "",
                  say("Choose a solid as cutter"));
    if (cutter.body().looseBox.overlaps(stock.body().looseBox)) near.push_back(cutter);
  }
  const double measure = solid ? stock.volume() : stock.area();
  if (near.empty()) return {stock, {}, {measure, measure, 0}, {}};
  near.insert(near.begin(), stock);
  near = withoutTwins(std::move(near));
  near.erase(near.begin());
  const auto divided = [&](const Shape& body) {
    std::vector<Shape> all{body};
    all.insert(all.end(), near.begin(), near.end());
    return firstSound("the cut", all, progress, [&](const Attempt& attempt) {
      TrialForm form(attempt);
      const Shape still = form.still(body);
      std::vector<Shape> moved;
      moved.reserve(near.size());
      for (const Shape& cutter : near) moved.push_back(form.moved(cutter));
      Division division =
          solid ? divideSolid(still, moved, attempt, progress) : divideSurface(still, moved, attempt, progress);
      if (division.inside.empty()) return Division{body, {}, division.balance, division.remedy};
      const std::vector<Shape> back = form.back({division.outside, division.inside}, progress);
      return Division{back[0], back[1], division.balance, division.remedy};
    });
  };
  if (!solid) return divided(stock);
  const SetAside aside = kernelCall("the cut", [&] { return SetAside(stock, near, SetAside::Inside::MayGo); });
  if (!aside.any()) return divided(stock);
  try {
    return withFeatures(aside, stock, divided(aside.plain()), progress);
  } catch (const Unsound&) {
    // What was set aside found no place after all: once more with the whole body, which is checked for itself.
  } catch (const Error&) {
    // Without its features the body may be worse than it is.
    progress.throwIfStopped();
  }
  return divided(stock);
}

std::vector<Shape> splitBySurfaces(const Shape& solid, const std::vector<Shape>& surfaces, Progress& progress) {
  std::vector<Shape> all{solid};
  all.insert(all.end(), surfaces.begin(), surfaces.end());
  return firstSound("the split", all, progress, [&](const Attempt& attempt) {
    TrialForm form(attempt);
    std::vector<Shape> arguments{form.still(solid)};
    for (const Shape& surface : surfaces) arguments.push_back(form.moved(surface));
    const Intersection intersection(arguments, attempt, progress);
    FaceTable table = intersection.faceTable();
    measureAll(table, progress);
    std::vector<TopoDS_Shape> parts;
    double sum = 0;
    for (const TopoDS_Shape& whole : solidsOf(arguments.front()))
      for (const TopoDS_Shape& part : intersection.parts(whole)) {
        parts.push_back(part);
        sum += volumeOf(part, table);
      }
    requireBalance(solid.volume(), sum, solid.area(), "the body");
    requireSmallEffect(attempt, parts, table, solid.volume());
    requireTightEdges(parts, intersection.allowedEdgeTolerance());
    markGiven(table, arguments, progress);
    requireSoundFaces(parts, table, progress);
    std::vector<Shape> result;
    result.reserve(parts.size());
    for (const TopoDS_Shape& part : parts) result.push_back(soundShape({part}, table, progress));
    return form.back(std::move(result), progress);
  });
}

}  // namespace kervo
