#include "geom/openings/crossing.h"

#include <BRepPrimAPI_MakeCone.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <algorithm>
#include <cmath>
#include <optional>

#include "base/say.h"
#include "geom/divide/boolean.h"
#include "geom/kernel/topology_body.h"
#include "geom/openings/opening_search.h"

namespace kervo {

namespace {

gp_Ax1 axisOf(const Face& face) {
  const auto axis = face.axis();
  return axis ? gp_Ax1(toPnt(axis->point), toDir(axis->direction)) : gp_Ax1();
}

bool sameAxis(const gp_Ax1& a, const gp_Ax1& b) {
  return gp_Lin(a).Distance(b.Location()) < tolerance::samePlace && a.IsParallel(b, tolerance::sameDirection);
}

GeomAbs_SurfaceType typeOf(const Face& face) {
  return BRepAdaptor_Surface(face.body().face, false).GetType();
}

/// One of the holes that an opening is.
struct Bore {
  gp_Ax1 axis;
  std::set<int> sheets;
  std::vector<int> mouths;
};

class Splitting {
 public:
  Splitting(const FaceNet& net, const std::vector<Mouth>& mouths) : net_(net), mouths_(mouths) {}

  /// The holes that it is; nothing if it is one, or more than round holes.
  std::optional<std::vector<Bore>> boresOf(const FoundOpening& opening) const {
    std::vector<Bore> bores;
    for (const int sheet : opening.sheets) {
      const GeomAbs_SurfaceType type = typeOf(net_.faceOf(sheet));
      if (type != GeomAbs_Cylinder && type != GeomAbs_Cone) continue;
      const gp_Ax1 axis = axisOf(net_.faceOf(sheet));
      const auto its =
          std::find_if(bores.begin(), bores.end(), [&](const Bore& bore) { return sameAxis(bore.axis, axis); });
      if (its == bores.end())
        bores.push_back({axis, {sheet}, {}});
      else
        its->sheets.insert(sheet);
    }
    if (opening.open || bores.size() < 2) return std::nullopt;
    for (std::size_t i = 0; i < bores.size(); ++i)
      for (std::size_t k = 0; k < i; ++k)
        if (bores[i].axis.IsParallel(bores[k].axis, tolerance::sameDirection)) return std::nullopt;
    // A flat floor belongs to the hole that it ends.
    for (const int sheet : opening.sheets) {
      const auto plane = net_.faceOf(sheet).plane();
      if (!plane) {
        const GeomAbs_SurfaceType type = typeOf(net_.faceOf(sheet));
        if (type != GeomAbs_Cylinder && type != GeomAbs_Cone) return std::nullopt;
        continue;
      }
      const auto its = std::find_if(bores.begin(), bores.end(), [&](const Bore& bore) {
        return bore.axis.IsParallel(gp_Ax1(gp_Pnt(), toDir(plane->normal)), tolerance::sameDirection) &&
               touches(sheet, bore.sheets);
      });
      if (its == bores.end()) return std::nullopt;
      its->sheets.insert(sheet);
    }
    for (const int m : opening.mouths) {
      const auto its = std::find_if(bores.begin(), bores.end(), [&](const Bore& bore) {
        const std::vector<int>& edges = mouths_[static_cast<std::size_t>(m)].edges;
        return std::all_of(edges.begin(), edges.end(),
                           [&](int e) { return bore.sheets.contains(net_.edge(e).beyond); });
      });
      if (its == bores.end()) return std::nullopt;
      its->mouths.push_back(m);
    }
    const bool all = std::all_of(bores.begin(), bores.end(), [](const Bore& bore) { return !bore.mouths.empty(); });
    return all ? std::optional(bores) : std::nullopt;
  }

  /// The axis of an opening that is one plain round hole.
  std::optional<gp_Ax1> axisOfHole(const FoundOpening& opening) const {
    std::optional<gp_Ax1> axis;
    for (const int sheet : opening.sheets) {
      const Face& face = net_.faceOf(sheet);
      if (face.plane()) continue;
      if (typeOf(face) != GeomAbs_Cylinder && typeOf(face) != GeomAbs_Cone) return std::nullopt;
      if (axis && !sameAxis(*axis, axisOf(face))) return std::nullopt;
      axis = axisOf(face);
    }
    return opening.open ? std::nullopt : axis;
  }

  /// Whether it has a mouth in the round side of another one, and another elsewhere.
  bool comesOutIn(const FoundOpening& opening, const FoundOpening& other) const {
    const auto count = std::count_if(opening.mouths.begin(), opening.mouths.end(), [&](int m) {
      const int sheet = mouths_[static_cast<std::size_t>(m)].sheet;
      return other.sheets.contains(sheet) && typeOf(net_.faceOf(sheet)) == GeomAbs_Cylinder;
    });
    return count == 1 && opening.mouths.size() == 2;
  }

  void dropMouthsIn(FoundOpening& opening, const FoundOpening& other) const {
    std::erase_if(opening.mouths,
                  [&](int m) { return other.sheets.contains(mouths_[static_cast<std::size_t>(m)].sheet); });
  }

 private:
  bool touches(int sheet, const std::set<int>& others) const {
    const std::vector<int>& borders = net_.bordersOf(sheet);
    return std::any_of(borders.begin(), borders.end(), [&](int b) {
      const std::vector<int>& edges = net_.borders()[static_cast<std::size_t>(b)].edges;
      return std::any_of(edges.begin(), edges.end(), [&](int e) { return others.contains(net_.edge(e).beyond); });
    });
  }

  const FaceNet& net_;
  const std::vector<Mouth>& mouths_;
};

void takeApart(const Splitting& splitting, std::vector<FoundOpening>& openings) {
  std::vector<FoundOpening> result;
  for (FoundOpening& opening : openings) {
    const auto bores = splitting.boresOf(opening);
    if (!bores) {
      result.push_back(std::move(opening));
      continue;
    }
    for (const Bore& bore : *bores) {
      FoundOpening one;
      one.sheets = bore.sheets;
      one.mouths = bore.mouths;
      one.crossing = opening.sheets;
      result.push_back(std::move(one));
    }
  }
  openings = std::move(result);
}

/// Two holes about one axis that come out in the side of a third, wider one are one hole that crosses it.
void putTogether(const Splitting& splitting, std::vector<FoundOpening>& openings) {
  for (std::size_t wide = 0; wide < openings.size(); ++wide) {
    if (!splitting.axisOfHole(openings[wide])) continue;
    for (std::size_t i = 0; i < openings.size(); ++i) {
      const auto axis = i == wide ? std::nullopt : splitting.axisOfHole(openings[i]);
      if (!axis || !openings[i].crossing.empty() || !splitting.comesOutIn(openings[i], openings[wide])) continue;
      for (std::size_t k = openings.size() - 1; k > i; --k) {
        const auto other = k == wide ? std::nullopt : splitting.axisOfHole(openings[k]);
        if (!other || !sameAxis(*axis, *other) || !splitting.comesOutIn(openings[k], openings[wide])) continue;
        FoundOpening& one = openings[i];
        one.sheets.insert(openings[k].sheets.begin(), openings[k].sheets.end());
        one.mouths.insert(one.mouths.end(), openings[k].mouths.begin(), openings[k].mouths.end());
        splitting.dropMouthsIn(one, openings[wide]);
        std::set<int> crossing = one.sheets;
        crossing.insert(openings[wide].sheets.begin(), openings[wide].sheets.end());
        crossing.insert(openings[wide].crossing.begin(), openings[wide].crossing.end());
        for (FoundOpening& each : openings)
          if (!each.crossing.empty() && crossing.contains(*each.sheets.begin())) each.crossing = crossing;
        one.crossing = openings[wide].crossing = crossing;
        openings.erase(openings.begin() + static_cast<std::ptrdiff_t>(k));
        if (k < wide) --wide;
        break;
      }
    }
  }
}

}  // namespace

void splitCrossings(const FaceNet& net, const std::vector<Mouth>& mouths, std::vector<FoundOpening>& openings) {
  const Splitting splitting(net, mouths);
  takeApart(splitting, openings);
  putTogether(splitting, openings);
}

Shape roundHole(const Shape& solid, const Opening& opening) {
  return kernelCall("making a hole whole", [&] {
    const std::vector<Face> faces = facesOf(solid);
    /// A stretch of it about the axis: radii at both ends, and where they are along the axis.
    struct Stretch {
      double from, to, atFrom, atTo;
      Origins origins;
    };
    std::vector<Stretch> stretches;
    std::optional<gp_Ax1> axis;
    for (const int number : opening.faces) {
      const Face& face = faces[static_cast<std::size_t>(number)];
      const BRepAdaptor_Surface surface(face.body().face, false);
      const bool cone = surface.GetType() == GeomAbs_Cone;
      if (surface.GetType() != GeomAbs_Cylinder && !cone) continue;
      if (!axis) axis = axisOf(face);
      double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
      BRepTools::UVBounds(face.body().face, u0, u1, v0, v1);
      const auto along = [&](double v) { return gp_Vec(axis->Location(), surface.Value(0, v)).Dot(axis->Direction()); };
      const auto radius = [&](double v) { return gp_Lin(*axis).Distance(surface.Value(0, v)); };
      if (along(v0) > along(v1)) std::swap(v0, v1);
      Stretch stretch{along(v0), along(v1), radius(v0), radius(v1), factsOf(solid, face.body().face).origins};
      // The two sides of what crosses it are parts of one cylinder.
      const auto same = std::find_if(stretches.begin(), stretches.end(), [&](const Stretch& each) {
        return !cone && each.atFrom == each.atTo && std::abs(each.atFrom - stretch.atFrom) < tolerance::samePlace;
      });
      if (same == stretches.end()) {
        stretches.push_back(stretch);
      } else {
        same->from = std::min(same->from, stretch.from);
        same->to = std::max(same->to, stretch.to);
      }
    }
    Progress progress;
    std::vector<Shape> parts;
    for (const Stretch& each : stretches) {
      const gp_Ax2 at(axis->Location().Translated(gp_Vec(axis->Direction()) * each.from), axis->Direction());
      const double height = each.to - each.from;
      const TopoDS_Shape part = std::abs(each.atFrom - each.atTo) < tolerance::samePlace
                                    ? BRepPrimAPI_MakeCylinder(at, each.atFrom, height).Shape()
                                    : BRepPrimAPI_MakeCone(at, each.atFrom, each.atTo, height).Shape();
      FaceTable table;
      for (const TopoDS_Face& face : facesOf(part)) table.emplace(face, FaceFacts{each.origins, {}, true});
      parts.push_back(makeShape(part, std::move(table), "face:"));
    }
    if (parts.empty()) throw Error(say("it is no round hole"), "", say("Close it and cut it again"));
    return parts.size() == 1 ? parts.front() : unite(parts, progress).shape;
  });
}

}  // namespace kervo
