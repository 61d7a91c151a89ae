#include "geom/divide/partition.h"

#include <TopoDS_Iterator.hxx>
#include <algorithm>

#include "base/say.h"
#include "geom/divide/checked_intersection.h"
#include "geom/divide/fragments.h"
#include "geom/divide/mesh_divide.h"
#include "geom/divide/set_aside.h"
#include "geom/divide/trial_form.h"
#include "geom/kernel/topology_body.h"

namespace kervo {

bool Part::isIn(std::size_t solid) const {
  return std::binary_search(in.begin(), in.end(), solid);
}

namespace {

/// The solid without faces that hang inside it.
TopoDS_Shape withoutInnerFaces(const TopoDS_Shape& solid) {
  bool any = false;
  for (TopExp_Explorer it(solid, TopAbs_FACE); it.More() && !any; it.Next())
    any = it.Current().Orientation() == TopAbs_INTERNAL || it.Current().Orientation() == TopAbs_EXTERNAL;
  if (!any) return solid;
  BRep_Builder builder;
  TopoDS_Solid clean;
  builder.MakeSolid(clean);
  for (TopoDS_Iterator shells(solid); shells.More(); shells.Next()) {
    if (shells.Value().ShapeType() != TopAbs_SHELL) continue;
    TopoDS_Shell shell;
    builder.MakeShell(shell);
    bool holds = false;
    for (TopoDS_Iterator faces(shells.Value()); faces.More(); faces.Next()) {
      const TopAbs_Orientation way = faces.Value().Orientation();
      if (way != TopAbs_FORWARD && way != TopAbs_REVERSED) continue;
      builder.Add(shell, faces.Value());
      holds = true;
    }
    if (!holds) continue;
    shell.Closed(true);
    shell.Orientation(shells.Value().Orientation());
    builder.Add(clean, shell);
  }
  return clean;
}

SheetSide sideOf(const TopoDS_Shape& part, const ShapeMap<bool>& fragments) {
  bool front = false, back = false;
  for (TopExp_Explorer it(part, TopAbs_FACE); it.More(); it.Next()) {
    const auto found = fragments.find(it.Current());
    const TopAbs_Orientation way = it.Current().Orientation();
    if (found == fragments.end() || (way != TopAbs_FORWARD && way != TopAbs_REVERSED)) continue;
    // A part whose outward normal is the surface's lies behind the surface.
    ((way == TopAbs_FORWARD) == found->second ? back : front) = true;
  }
  return front && back ? SheetSide::Both : front ? SheetSide::Front : back ? SheetSide::Back : SheetSide::None;
}

/// The faces of a surface's fragments that lie between two regions or on the border of one, as surfaces of their own.
/// Nothing if that is all of what lies inside the solids.
struct Dangling {
  bool any = false;
  std::vector<TopoDS_Shape> dividing;  ///< faces that keep regions apart
};

Dangling danglingFaces(const std::vector<ShapeMap<bool>>& fragments, const std::vector<TopoDS_Shape>& parts) {
  ShapeMap<int> uses;
  Dangling result;
  for (const TopoDS_Shape& part : parts)
    for (TopExp_Explorer it(part, TopAbs_FACE); it.More(); it.Next()) {
      const TopAbs_Orientation way = it.Current().Orientation();
      if (way == TopAbs_FORWARD || way == TopAbs_REVERSED)
        ++uses[it.Current()];
      else
        result.any = true;
    }
  for (const ShapeMap<bool>& one : fragments)
    for (const auto& [fragment, sameWay] : one)
      if (const auto used = uses.find(fragment); used != uses.end() && used->second >= 2)
        result.dividing.push_back(fragment);
  return result;
}

struct Regions {
  std::vector<TopoDS_Shape> parts;
  ShapeMap<std::vector<std::size_t>> in;
};

Regions regionsOf(const std::vector<Shape>& solids, const Intersection& intersection, const FaceTable& table) {
  Regions regions;
  for (std::size_t i = 0; i < solids.size(); ++i) {
    double sum = 0;
    for (const TopoDS_Shape& solid : solidsOf(solids[i]))
      for (const TopoDS_Shape& part : intersection.parts(solid)) {
        sum += volumeOf(part, table);
        std::vector<std::size_t>& in = regions.in[part];
        if (in.empty()) regions.parts.push_back(part);
        if (in.empty() || in.back() != i) in.push_back(i);
      }
    requireBalance(solids[i].volume(), sum, solids[i].area(), "a body");
  }
  return regions;
}

/// No region may reach into a solid that it is not part of.
void requireMembership(const Regions& regions, const std::vector<Shape>& solids, Progress& progress) {
  if (solids.size() < 2) return;
  Sides sides;
  // Where nothing was divided, an intersection may have been missed altogether: more points are asked then.
  const bool nothingDivided = regions.parts.size() == solids.size();
  for (const TopoDS_Shape& part : regions.parts) {
    const std::vector<gp_Pnt> points = sides.pointsOn(part, nothingDivided ? 64 : 8);
    const std::vector<std::size_t>& in = regions.in.at(part);
    for (std::size_t j = 0; j < solids.size(); ++j) {
      progress.throwIfStopped();
      if (!std::binary_search(in.begin(), in.end(), j) && sides.anyInside(points, solids[j]))
        throw Unsound{say("two bodies that overlap were not divided")};
    }
  }
}

/// No fragment of a surface may lie inside a region without the kernel having noticed it.
void requireNoMissedSurface(const std::vector<ShapeMap<bool>>& fragments, const std::vector<Shape>& solids,
                            const Regions& regions, Progress& progress) {
  ShapeMap<bool> used;
  for (const TopoDS_Shape& part : regions.parts)
    for (TopExp_Explorer it(part, TopAbs_FACE); it.More(); it.Next()) used[it.Current()] = true;
  Sides sides;
  for (const ShapeMap<bool>& one : fragments)
    for (const auto& [fragment, sameWay] : one) {
      progress.throwIfStopped();
      if (used.contains(fragment)) continue;
      const std::optional<gp_Pnt> point = sides.pointOn(TopoDS::Face(fragment));
      if (!point) continue;
      for (const Shape& solid : solids)
        if (sides.anyInside({*point}, solid)) throw Unsound{say("a surface inside a body was not noticed")};
    }
}

Partition partitionOnce(const std::vector<Shape>& solids, const std::vector<Shape>& surfaces, const Attempt& attempt,
                        Progress& progress) {
  // The kernel refuses to divide a single body by nothing.
  if (solids.size() == 1 && surfaces.empty() && solidsOf(solids.front()).size() == 1)
    return {{{solids.front(), {0}, {}}}, attempt.remedy()};
  std::vector<Shape> arguments{solids.front()};
  for (std::size_t i = 1; i < solids.size(); ++i) arguments.push_back(nudged(solids[i], attempt.move));
  for (const Shape& surface : surfaces) arguments.push_back(nudged(surface, attempt.move));
  const std::vector<Shape> movedSolids(arguments.begin(),
                                       arguments.begin() + static_cast<std::ptrdiff_t>(solids.size()));
  const Intersection intersection(arguments, attempt, progress);
  FaceTable table = intersection.faceTable();
  measureAll(table, progress);
  const Regions regions = regionsOf(movedSolids, intersection, table);
  requireMembership(regions, movedSolids, progress);
  Sides sides;
  std::vector<ShapeMap<bool>> fragments;
  for (std::size_t i = solids.size(); i < arguments.size(); ++i)
    fragments.push_back(fragmentsOf(arguments[i], intersection, sides));
  requireNoMissedSurface(fragments, movedSolids, regions, progress);

  if (const Dangling dangling = danglingFaces(fragments, regions.parts); dangling.any) {
    // What ends inside a body would leave marks on its faces: once more with the fragments that divide.
    std::vector<Shape> effective;
    for (const ShapeMap<bool>& one : fragments) {
      std::vector<TopoDS_Shape> faces;
      for (const TopoDS_Shape& face : dangling.dividing)
        if (const auto found = one.find(face); found != one.end())
          faces.push_back(found->second ? face.Oriented(TopAbs_FORWARD) : face.Oriented(TopAbs_REVERSED));
      effective.push_back(faces.empty() ? Shape() : makeShape(compoundOf(faces), table, "cut:"));
    }
    std::vector<Shape> present;
    for (const Shape& surface : effective)
      if (!surface.empty()) present.push_back(surface);
    Partition again = partitionOnce(movedSolids, present, {attempt.fuzzy, 0, attempt.order}, progress);
    for (Part& part : again.parts) {
      std::vector<SheetSide> sidesOfAll;
      std::size_t next = 0;
      for (const Shape& surface : effective)
        sidesOfAll.push_back(surface.empty() ? SheetSide::None : part.sides[next++]);
      part.sides = std::move(sidesOfAll);
    }
    again.remedy = attempt.remedy();
    return again;
  }

  Partition result;
  result.remedy = attempt.remedy();
  if (regions.parts.size() > 1) {
    requireSmallEffect(attempt, regions.parts, table, movedSolids.front().volume());
    requireTightEdges(regions.parts, intersection.allowedEdgeTolerance());
    markGiven(table, movedSolids, progress);
    requireSoundFaces(regions.parts, table, progress);
  }
  for (const TopoDS_Shape& region : regions.parts) {
    Part part;
    part.in = regions.in.at(region);
    for (const ShapeMap<bool>& one : fragments) part.sides.push_back(sideOf(region, one));
    const std::vector<TopoDS_Shape> whole = solidsOf(movedSolids[part.in.front()]);
    const bool untouched = part.in.size() == 1 && whole.size() == 1 && whole.front().IsSame(region);
    part.shape = untouched ? movedSolids[part.in.front()] : soundShape({withoutInnerFaces(region)}, table, progress);
    result.parts.push_back(std::move(part));
  }
  return result;
}

void takeBack(Partition& partition, const TrialForm& form, Progress& progress) {
  std::vector<Shape> shapes;
  for (const Part& part : partition.parts) shapes.push_back(part.shape);
  shapes = form.back(std::move(shapes), progress);
  for (std::size_t i = 0; i < shapes.size(); ++i) partition.parts[i].shape = shapes[i];
}

/// Of every solid, what none of the others and no surface comes near.
std::vector<SetAside> featuresOf(const std::vector<Shape>& solids, const std::vector<Shape>& surfaces) {
  std::vector<SetAside> features;
  for (std::size_t i = 0; i < solids.size(); ++i) {
    std::vector<Shape> others = surfaces;
    for (std::size_t j = 0; j < solids.size(); ++j)
      if (j != i && solids[j].roughBox().overlaps(solids[i].roughBox())) others.push_back(solids[j]);
    features.emplace_back(solids[i], others, SetAside::Inside::Stays);
  }
  return features;
}

/// Throws Unsound if a feature finds no place.
void putFeaturesBack(Partition& partition, const std::vector<SetAside>& aside, const std::vector<Shape>& solids,
                     Progress& progress) {
  for (std::size_t i = 0; i < solids.size(); ++i) {
    if (!aside[i].any()) continue;
    std::vector<Part*> own;
    for (Part& part : partition.parts)
      if (part.isIn(i)) own.push_back(&part);
    if (own.size() == 1 && own.front()->in.size() == 1) {
      own.front()->shape = solids[i];  // not divided
      continue;
    }
    std::vector<Shape> shapes;
    double volume = 0;
    for (const Part* part : own) shapes.push_back(part->shape);
    shapes = aside[i].putBack(shapes, progress);
    for (std::size_t p = 0; p < own.size(); ++p) {
      own[p]->shape = shapes[p];
      volume += shapes[p].volume();
    }
    requireBalance(solids[i].volume(), volume, solids[i].area(), "a body");
  }
}

}  // namespace

Partition partition(const std::vector<Shape>& solids, const std::vector<Shape>& surfaces, Progress& progress) {
  progress.throwIfStopped();
  if (anyMesh(solids)) return partitionMeshes(solids, surfaces, progress);
  for (const Shape& solid : solids)
    if (solid.empty() || solid.kind() != BodyKind::Solid)
      throw Error(say("only solids can be divided into regions"), "", say("Choose solids as stock"));
  if (solids.empty()) return {};
  for (const Shape& surface : surfaces)
    if (surface.empty() || surface.kind() == BodyKind::Curve)
      throw Error(say("a curve alone does not divide a solid"), "",
                  say("Sweep it to a surface, or score the faces with it"));
  std::vector<Shape> all = solids;
  all.insert(all.end(), surfaces.begin(), surfaces.end());
  all = withoutTwins(std::move(all));
  const auto middle = all.begin() + static_cast<std::ptrdiff_t>(solids.size());
  const std::vector<Shape> bodies(all.begin(), middle), sheets(middle, all.end());
  const auto divided = [&](const std::vector<Shape>& of) {
    std::vector<Shape> everything = of;
    everything.insert(everything.end(), sheets.begin(), sheets.end());
    return firstSound("the partition", everything, progress, [&](const Attempt& attempt) {
      TrialForm form(attempt);
      Partition result = partitionOnce(form.still(of), form.still(sheets), attempt, progress);
      takeBack(result, form, progress);
      return result;
    });
  };
  const std::vector<SetAside> aside = kernelCall("the partition", [&] { return featuresOf(bodies, sheets); });
  if (std::none_of(aside.begin(), aside.end(), [](const SetAside& one) { return one.any(); })) return divided(bodies);
  std::vector<Shape> plain;
  for (std::size_t i = 0; i < bodies.size(); ++i) plain.push_back(aside[i].any() ? aside[i].plain() : bodies[i]);
  try {
    Partition result = divided(plain);
    kernelCall("the partition", [&] { putFeaturesBack(result, aside, bodies, progress); });
    return result;
  } catch (const Unsound&) {
    // What was set aside found no place after all: once more with the whole bodies.
  } catch (const Error&) {
    // Without their features the bodies may be worse than they are.
    progress.throwIfStopped();
  }
  return divided(bodies);
}

}  // namespace kervo
