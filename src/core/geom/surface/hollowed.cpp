#include "geom/surface/hollowed.h"

#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepLProp_SLProps.hxx>
#include <BRepOffset_MakeOffset.hxx>
#include <GeomAPI_ProjectPointOnSurf.hxx>
#include <algorithm>
#include <chrono>
#include <cmath>
#include <numeric>
#include <optional>

#include "base/quantity.h"
#include "base/say.h"
#include "geom/divide/checked_intersection.h"
#include "geom/faces/removed_faces.h"
#include "geom/kernel/topology_body.h"
#include "geom/measure/soundness.h"
#include "geom/mesh/mesh_offset.h"
#include "geom/place_text.h"
#include "geom/surface/offset_surface.h"
#include "geom/surface/sheet.h"

namespace kervo {

namespace {

/// Walls are measured at so many places, and may be off by so much, in mm.
constexpr int measuredPlaces = 200;
constexpr double exactness = 1e-3;

/// A wall that works is looked for only where that takes seconds, not minutes: it is tried some six times.
constexpr double patience = 3;

double seconds(std::chrono::steady_clock::time_point since) {
  return std::chrono::duration<double>(std::chrono::steady_clock::now() - since).count();
}

/// Thrown where a way of hollowing does not work out.
struct NotThisWay {};

/// By how much each face of a solid moves outwards, mm.
using Moves = std::map<int, double>;

/// A solid with its faces moved; they are called `name`:face.
struct Moved {
  Shape shape;
  std::vector<int> from;  ///< for each of its faces, the number of that which it was; −1 for those between
};

Moved withFacesMoved(const Shape& solid, const Moves& moves, GeomAbs_JoinType join, const std::string& name,
                     Progress& progress) {
  const std::vector<TopoDS_Face> faces = facesOf(solid.body().topology);
  BRepOffset_MakeOffset make;
  make.Initialize(solid.body().topology, moves.begin()->second, tolerance::sewing, BRepOffset_Skin, false, false, join,
                  false);
  for (const auto& [face, by] : moves)
    if (by != moves.begin()->second) make.SetOffsetOnFace(faces[static_cast<std::size_t>(face)], by);
  make.MakeOffsetShape();
  progress.throwIfStopped();
  if (!make.IsDone() || make.Shape().IsNull()) throw NotThisWay();
  TopoDS_Shape topology = make.Shape();
  if (topology.ShapeType() == TopAbs_SHELL) {
    TopoDS_Solid closed;
    BRep_Builder().MakeSolid(closed);
    BRep_Builder().Add(closed, topology);
    topology = closed;
  }
  FaceTable table;
  ShapeMap<int> from;
  for (std::size_t i = 0; i < faces.size(); ++i)
    for (const TopoDS_Shape& image : make.Generated(faces[i])) {
      if (image.ShapeType() != TopAbs_FACE) continue;
      std::vector<std::string> names;
      for (const std::string& origin : *factsOf(solid, faces[i]).origins)
        names.push_back(std::string(name).append(":").append(origin));
      table.emplace(image, FaceFacts{std::make_shared<const std::vector<std::string>>(std::move(names)), {}, false});
      from[image] = static_cast<int>(i);
    }
  Moved result{makeShape(topology, std::move(table), name + ":between"), {}};
  if (result.shape.empty() || result.shape.kind() != BodyKind::Solid || !(result.shape.volume() > 0))
    throw NotThisWay();
  if (!findFault(result.shape.body(), progress).empty()) throw NotThisWay();
  for (const TopoDS_Face& face : facesOf(result.shape.body().topology)) {
    const auto its = from.find(face);
    result.from.push_back(its == from.end() ? -1 : its->second);
  }
  return result;
}

/// The least radius of a face where it is bent outwards all over, as rounds of edges are; nothing for others.
std::optional<double> radiusOfRound(const TopoDS_Face& face) {
  const BRepAdaptor_Surface surface(face, false);
  switch (surface.GetType()) {
    case GeomAbs_Cylinder:
    case GeomAbs_Sphere:
    case GeomAbs_Torus:
    case GeomAbs_BSplineSurface:
      break;
    default:
      return std::nullopt;
  }
  double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
  BRepTools::UVBounds(face, u0, u1, v0, v1);
  BRepLProp_SLProps properties(surface, (u0 + u1) / 2, (v0 + v1) / 2, 2, tolerance::rounding);
  if (!properties.IsCurvatureDefined()) return std::nullopt;
  const bool reversed = face.Orientation() == TopAbs_REVERSED;
  // Towards the inside of the solid, against its outer normal.
  const double most = reversed ? properties.MaxCurvature() : -properties.MinCurvature();
  return most > tolerance::rounding ? std::optional(1 / most) : std::nullopt;
}

class Hollowing {
 public:
  Hollowing(const Shape& solid, const HollowWishes& wishes, std::string name, Progress& progress)
      : solid_(solid), wishes_(wishes), name_(std::move(name)), progress_(progress), faces_(facesOf(solid)) {}

  std::optional<Hollowed> result() {
    if (wishes_.outside > 0)
      if (!growOutwards()) return std::nullopt;
    for (const bool withoutRounds : {false, true}) {
      if (withoutRounds && !takeRoundsOff()) break;
      for (const bool openAfterwards : {false, true}) {
        if (openAfterwards && wishes_.open.empty()) continue;
        for (const GeomAbs_JoinType join : {GeomAbs_Intersection, GeomAbs_Arc}) {
          progress_.throwIfStopped();
          try {
            return kernelCall("hollowing a body", [&] { return divided(spaceOf(join, openAfterwards)); });
          } catch (const NotThisWay&) {
            continue;
          } catch (const Error&) {
            // The kernel fails in its own way; the next one is tried.
            progress_.throwIfStopped();
          }
        }
      }
    }
    return std::nullopt;
  }

 private:
  /// What is taken out: the space, and what opens it.
  struct Space {
    Moved moved;
    std::vector<Shape> cutters;
  };

  bool isOpen(int face) const {
    return std::find(wishes_.open.begin(), wishes_.open.end(), face) != wishes_.open.end();
  }
  double inwards(int face) const { return wishes_.wallOf(face) * (1 - wishes_.outside); }

  /// The solid with the part of its walls that is outside of it.
  bool growOutwards() {
    Moves moves;
    for (int i = 0; i < static_cast<int>(faces_.size()); ++i)
      moves[i] = isOpen(i) ? 0 : wishes_.wallOf(i) * wishes_.outside;
    for (const GeomAbs_JoinType join : {GeomAbs_Intersection, GeomAbs_Arc}) {
      try {
        grown_ =
            kernelCall("growing a body", [&] { return withFacesMoved(solid_, moves, join, name_, progress_).shape; });
        if (grown_.volume() > solid_.volume()) return true;
      } catch (const NotThisWay&) {
        continue;
      } catch (const Error&) {
        progress_.throwIfStopped();
      }
    }
    return false;
  }

  /// Rounds of edges that are not larger than the wall leave sharp edges inside, as if they were not there.
  bool takeRoundsOff() {
    std::vector<int> rounds;
    for (int i = 0; i < static_cast<int>(faces_.size()); ++i) {
      const auto radius = isOpen(i) ? std::nullopt : radiusOfRound(faces_[static_cast<std::size_t>(i)].body().face);
      if (radius && *radius <= inwards(i) * (1 + tolerance::relative)) rounds.push_back(i);
    }
    if (rounds.empty()) return false;
    try {
      sharp_ = withoutFaces(solid_, rounds, progress_);
    } catch (const Error&) {
      progress_.throwIfStopped();
      return false;
    }
    // Those left, by their numbers in the solid.
    for (const Face& face : facesOf(sharp_)) {
      const auto its = std::find_if(faces_.begin(), faces_.end(), [&](const Face& each) {
        return each.origins() == face.origins() && each.onSameSurface(face);
      });
      if (its == faces_.end()) return false;
      sharpFrom_.push_back(static_cast<int>(its - faces_.begin()));
    }
    return true;
  }

  Space spaceOf(GeomAbs_JoinType join, bool openAfterwards) const {
    const Shape& from = sharp_.empty() ? solid_ : sharp_;
    const int count = sharp_.empty() ? static_cast<int>(faces_.size()) : static_cast<int>(sharpFrom_.size());
    Moves moves;
    for (int i = 0; i < count; ++i) {
      const int face = sharp_.empty() ? i : sharpFrom_[static_cast<std::size_t>(i)];
      moves[i] = isOpen(face) && !openAfterwards ? beyond(face) : -inwards(face);
    }
    Space space{isUnmoved(moves) ? Moved{from, {}} : withFacesMoved(from, moves, join, name_, progress_), {}};
    if (space.moved.from.empty()) {
      space.moved.from.resize(static_cast<std::size_t>(count));
      std::iota(space.moved.from.begin(), space.moved.from.end(), 0);
    }
    if (!sharp_.empty())
      for (int& face : space.moved.from) face = face < 0 ? face : sharpFrom_[static_cast<std::size_t>(face)];
    space.cutters = {space.moved.shape};
    if (openAfterwards) {
      const std::vector<Face> inside = facesOf(space.moved.shape);
      for (std::size_t i = 0; i < inside.size(); ++i)
        if (space.moved.from[i] >= 0 && isOpen(space.moved.from[i])) {
          const double wall = inwards(space.moved.from[i]);
          space.cutters.push_back(thickened(lifted({inside[i]}), -wall / 4, wall + beyond(space.moved.from[i]),
                                            name_ + ":mouth", progress_));
        }
    }
    return space;
  }

  static bool isUnmoved(const Moves& moves) {
    return std::all_of(moves.begin(), moves.end(), [](const auto& each) { return each.second == 0; });
  }

  /// An open face moves out a little, so that the space reaches through it.
  double beyond(int face) const {
    constexpr double share = 0.1;
    return share * wishes_.wallOf(face);
  }

  Hollowed divided(const Space& space) const {
    Hollowed result;
    result.outer = grown_.empty() ? solid_ : grown_;
    result.withoutRounds = !sharp_.empty();
    measure(space.moved, result);
    result.division = divide(result.outer, space.cutters, progress_);
    if (result.division.inside.empty() || result.division.outside.empty() ||
        result.division.outside.solidCount() != solid_.solidCount())
      throw NotThisWay();
    return result;
  }

  /// Every face inside keeps its distance from that which it was, and comes no nearer to any other.
  void measure(const Moved& space, Hollowed& result) const {
    const std::vector<TopoDS_Face> inside = facesOf(space.shape.body().topology);
    TopoDS_Compound walls;
    BRep_Builder builder;
    builder.MakeCompound(walls);
    double least = Box::infinity;
    for (int i = 0; i < static_cast<int>(faces_.size()); ++i) {
      if (isOpen(i)) continue;
      builder.Add(walls, faces_[static_cast<std::size_t>(i)].body().face);
      least = std::min(least, inwards(i));
    }
    Sides sides;
    const int each = std::max(1, measuredPlaces / static_cast<int>(inside.size()));
    result.thinnest = Box::infinity;
    for (std::size_t f = 0; f < inside.size(); ++f) {
      const int from = space.from[f];
      if (from >= 0 && isOpen(from)) continue;
      for (const gp_Pnt& point : sides.pointsOn(inside[f], each)) {
        progress_.throwIfStopped();
        const BRepExtrema_DistShapeShape nearest(BRepBuilderAPI_MakeVertex(point).Vertex(), walls);
        if (!nearest.IsDone()) throw NotThisWay();
        // Beyond the mouth of an open face it is not in the body any more.
        if (!sides.anyInside({point}, solid_)) continue;
        if (nearest.Value() < least - exactness) throw NotThisWay();
        ++result.measured;
        if (from < 0) continue;
        const double wanted = inwards(from);
        const double off = distanceToSurface(faces_[static_cast<std::size_t>(from)].body().face, point);
        if (std::abs(off - wanted) > exactness) throw NotThisWay();
        if (wishes_.otherWalls.contains(from)) continue;
        const double wall = off + wishes_.wall * wishes_.outside;
        result.thinnest = std::min(result.thinnest, wall);
        result.thickest = std::max(result.thickest, wall);
      }
    }
  }

  static double distanceToSurface(const TopoDS_Face& face, const gp_Pnt& point) {
    const GeomAPI_ProjectPointOnSurf nearest(point, BRep_Tool::Surface(face));
    return nearest.NbPoints() > 0 ? nearest.LowerDistance() : Box::infinity;
  }

  const Shape& solid_;
  const HollowWishes& wishes_;
  std::string name_;
  Progress& progress_;
  std::vector<Face> faces_;
  Shape grown_, sharp_;
  std::vector<int> sharpFrom_;
};

/// The largest wall that works, by halving; 0 if none is found.
double largestWall(const Shape& solid, HollowWishes wishes, const std::string& name, Progress& progress) {
  constexpr int halvings = 6;
  double works = 0, fails = wishes.wall;
  for (int i = 0; i < halvings; ++i) {
    wishes.wall = (works + fails) / 2;
    (Hollowing(solid, wishes, name, progress).result() ? works : fails) = wishes.wall;
  }
  return works;
}

}  // namespace

namespace {

/// A mesh has no faces that could be moved: its space is what lies deep enough.
Hollowed hollowedMesh(const Shape& body, const HollowWishes& wishes, Progress& progress) {
  const Mesh& mesh = *body.mesh();
  const double out = wishes.wall * wishes.outside, in = wishes.wall - out;
  progress.enter(0, 0.8, say("looking for what lies deep enough"));
  const Mesh outer = out > 0 ? offsetMesh(mesh, -out, progress) : mesh,
             space = in > 0 ? offsetMesh(mesh, in, progress) : mesh;
  if (space.empty())
    throw Error(say("nothing of it lies deeper than a wall of %1 mm", formatNumber(in, 6)), "",
                say("Choose a thinner wall"));
  Hollowed result;
  result.outer = Shape(outer);
  progress.enter(0.8, 1, say("taking the space out"));
  result.division = divide(result.outer, {Shape(space)}, progress);
  const MeshDistance distance(outer);
  result.thinnest = Box::infinity;
  const std::size_t step = std::max<std::size_t>(1, space.triangles().size() / measuredPlaces);
  for (std::size_t t = 0; t < space.triangles().size(); t += step) {
    const Mesh::Triangle& corners = space.triangles()[t];
    const Point middle =
        (space.points()[corners[0]] + space.points()[corners[1]] + space.points()[corners[2]]) * (1.0 / 3);
    const double wall = distance.inside(middle);
    result.thinnest = std::min(result.thinnest, wall);
    result.thickest = std::max(result.thickest, wall);
    ++result.measured;
  }
  return result;
}

}  // namespace

Hollowed hollowed(const Shape& solid, const HollowWishes& wishes, const std::string& name, Progress& progress) {
  if (solid.mesh()) return hollowedMesh(solid, wishes, progress);
  if (solid.empty() || solid.kind() != BodyKind::Solid)
    throw Error(say("only a solid or a closed mesh can be hollowed out"), "", say("Choose a solid"));
  const auto began = std::chrono::steady_clock::now();
  if (auto result = Hollowing(solid, wishes, name, progress).result()) return *result;
  std::string where;
  if (const auto bend = kernelCall("looking for the bend", [&] { return tightestBend(solid, false); });
      bend && bend->radius < wishes.wall)
    where =
        say(" at %1, where it is bent with a radius of %2 mm", placeText(bend->place), formatNumber(bend->radius, 4));
  const double works = seconds(began) < patience ? largestWall(solid, wishes, name, progress) : 0;
  throw Error(say("it cannot be hollowed out with a wall of %1 mm%2", formatNumber(wishes.wall, 6), where), "",
              works > 0 ? say("A wall of %1 mm works", formatNumber(works, 3))
                        : say("Leave other faces open, or remove small rounds and slivers first"));
}

}  // namespace kervo
