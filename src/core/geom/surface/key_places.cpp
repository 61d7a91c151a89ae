#include "geom/surface/key_places.h"

#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <algorithm>
#include <cmath>
#include <optional>

#include "geom/kernel/topology_body.h"
#include "geom/measure/crossings.h"
#include "geom/planes.h"

namespace kervo {

namespace {

/// Places are tried on so many lines across a face, both ways.
constexpr int linesAcross = 15;
/// … and at so many along each edge of its border.
constexpr int placesAlongEdge = 12;
/// A kerf is not wider, in mm.
constexpr double widestGap = 10;

TopoDS_Compound compoundOf(const std::vector<TopoDS_Face>& faces) {
  BRep_Builder builder;
  TopoDS_Compound compound;
  builder.MakeCompound(compound);
  for (const TopoDS_Face& face : faces) builder.Add(compound, face);
  return compound;
}

}  // namespace

struct KeyRoom::Inside {
  /// One of the other pieces.
  struct Mate {
    Shape shape;
    Crossings lines;
  };

  Face face;
  Plane across;  ///< at a right angle to the way
  Crossings piece;
  std::vector<std::unique_ptr<Mate>> mates;
  TopoDS_Compound rim;  ///< the face's own edges
  double reach = 0, around = 0;

  bool isClear(Point place, const TopoDS_Shape& of) const {
    const BRepExtrema_DistShapeShape apart(BRepBuilderAPI_MakeVertex(toPnt(place)).Vertex(), of);
    return apart.IsDone() && apart.Value() >= around - tolerance::samePlace;
  }

  double fromRim(Point place) const {
    const BRepExtrema_DistShapeShape apart(BRepBuilderAPI_MakeVertex(toPnt(place)).Vertex(), rim);
    return apart.IsDone() ? apart.Value() : 0;
  }

  /// Beside the edges of the face, as far from them as a peg has to be, or a little more where that is nearer to the
  /// middle of a rim.
  std::vector<Point> alongBorders() const {
    std::vector<Point> points;
    for (TopExp_Explorer it(rim, TopAbs_EDGE); it.More(); it.Next()) {
      const BRepAdaptor_Curve curve(TopoDS::Edge(it.Current()));
      for (int i = 0; i < placesAlongEdge; ++i) {
        gp_Pnt on;
        gp_Vec along;
        curve.D1(
            curve.FirstParameter() + (curve.LastParameter() - curve.FirstParameter()) * (i + 0.5) / placesAlongEdge, on,
            along);
        const Vector side = cross(across.normal, fromVec(along));
        if (length(side) < tolerance::direction) continue;
        for (const double way : {1.0, -1.0}) {
          Point best;
          double farthest = 0;
          for (const double share : {1.001, 1.1, 1.2, 1.4}) {
            const Point point = fromPnt(on) + normalized(side) * (way * share * around);
            const double rimAway = fromRim(point);
            if (rimAway > farthest + tolerance::samePlace) {
              farthest = rimAway;
              best = point;
            }
          }
          if (farthest >= around) points.push_back(best);
        }
      }
    }
    return points;
  }

  /// Whether an axis into a piece keeps clear of all of its faces but that where it goes in.
  bool isClear(Point from, Vector way, const Mate& mate, const Face& entry) const {
    std::vector<TopoDS_Face> others;
    for (const Face& each : facesOf(mate.shape))
      if (!isSameFace(each, entry) && !each.onSameSurface(entry)) others.push_back(each.body().face);
    // Its end needs room in front of it as well, which a ball round it takes.
    const double deep = std::max(reach - around / 2, reach / 2);
    const TopoDS_Edge axis = BRepBuilderAPI_MakeEdge(toPnt(from), toPnt(from + way * deep)).Edge();
    const BRepExtrema_DistShapeShape apart(axis, compoundOf(others));
    return apart.IsDone() && apart.Value() >= around - tolerance::samePlace;
  }
};

KeyRoom::KeyRoom(const Shape& piece, const Face& face, const std::vector<Shape>& mates, Vector way, double reach,
                 double around)
    : inside_(new Inside{face, Plane::through(face.samplePoint(), way), Crossings(piece), {}, {}, reach, around}) {
  for (const Shape& mate : mates)
    inside_->mates.push_back(std::unique_ptr<Inside::Mate>(new Inside::Mate{mate, Crossings(mate)}));
  BRep_Builder builder;
  builder.MakeCompound(inside_->rim);
  for (TopExp_Explorer it(face.body().face, TopAbs_EDGE); it.More(); it.Next())
    if (!BRep_Tool::Degenerated(TopoDS::Edge(it.Current()))) builder.Add(inside_->rim, it.Current());
}

KeyRoom::~KeyRoom() = default;

std::optional<KeyPlace> KeyRoom::at(Point point) const {
  return kernelCall("looking for room", [&]() -> std::optional<KeyPlace> {
    const Vector way = inside_->across.normal;
    for (const LineCrossing& each : inside_->piece.along(point, way)) {
      if (!each.out || !isSameFace(each.face, inside_->face)) continue;
      const Point place = point + way * each.at;
      if (!inside_->isClear(place, inside_->rim)) continue;
      for (std::size_t m = 0; m < inside_->mates.size(); ++m) {
        const std::vector<LineCrossing> met = inside_->mates[m]->lines.along(place, way);
        const auto entry = std::find_if(met.begin(), met.end(), [](const LineCrossing& other) {
          return !other.out && other.at > -tolerance::samePlace && other.at < widestGap;
        });
        if (entry == met.end()) continue;
        const Point in = place + way * entry->at;
        if (inside_->isClear(in, way, *inside_->mates[m], entry->face))
          return KeyPlace{place, m, std::max(0.0, entry->at)};
      }
    }
    return std::nullopt;
  });
}

std::vector<KeyPlace> KeyRoom::everywhere(Progress& progress) const {
  const Box box = inside_->face.boxIn(inside_->across);
  std::vector<KeyPlace> places;
  for (int i = 0; i < linesAcross; ++i)
    for (int k = 0; k < linesAcross; ++k) {
      progress.throwIfStopped();
      const double x = box.low.x + (box.high.x - box.low.x) * (i + 0.5) / linesAcross,
                   y = box.low.y + (box.high.y - box.low.y) * (k + 0.5) / linesAcross;
      if (const auto place = at(inside_->across.at(x, y))) places.push_back(*place);
    }
  // A narrow rim may lie between the lines: along its borders, too.
  for (const Point& point : inside_->alongBorders()) {
    progress.throwIfStopped();
    if (const auto place = at(point)) places.push_back(*place);
  }
  return places;
}

std::vector<KeyPlace> KeyRoom::spread(std::vector<KeyPlace> places, std::size_t most, double apart) {
  Point middle;
  for (const KeyPlace& place : places) middle = middle + place.at * (1.0 / static_cast<double>(places.size()));
  std::vector<KeyPlace> taken;
  while (!places.empty() && taken.size() < most) {
    // The first as far out as can be, unless it is the only one; then each as far from the others as can be.
    const auto rank = [&](const KeyPlace& place) {
      if (taken.empty()) return most == 1 ? -distance(place.at, middle) : distance(place.at, middle);
      double nearest = Box::infinity;
      for (const KeyPlace& other : taken) nearest = std::min(nearest, distance(place.at, other.at));
      return nearest;
    };
    const auto best = std::max_element(places.begin(), places.end(), [&](const KeyPlace& a, const KeyPlace& b) {
      return rank(a) < rank(b) - tolerance::samePlace;
    });
    if (!taken.empty() && rank(*best) < apart) break;
    taken.push_back(*best);
    places.erase(best);
  }
  return taken;
}

}  // namespace kervo
