#include "geom/surface/key_places.h"

#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>
#include <optional>

#include "geom/kernel/topology_body.h"
#include "geom/measure/body_triangles.h"
#include "geom/measure/crossings.h"
#include "geom/planes.h"
#include "geom/space_curve.h"

namespace kervo {

namespace {

/// Places are tried on so many lines across a face, both ways.
constexpr int linesAcross = 15;
/// … and at so many along each edge of its border, or all along that of a mesh.
constexpr int placesAlongEdge = 12, placesAlongBorder = 120;
/// A kerf is not wider, in mm.
constexpr double widestGap = 10;

TopoDS_Compound compoundOf(const std::vector<TopoDS_Face>& faces) {
  BRep_Builder builder;
  TopoDS_Compound compound;
  builder.MakeCompound(compound);
  for (const TopoDS_Face& face : faces) builder.Add(compound, face);
  return compound;
}

struct Line {
  Point from, to;
};

/// Edges of triangles that no second one of them has.
std::vector<Line> borderOf(const std::vector<BodyTriangle>& triangles) {
  const auto key = [](Point p) { return std::array<double, 3>{p.x, p.y, p.z}; };
  std::map<std::array<std::array<double, 3>, 2>, std::pair<int, Line>> edges;
  for (const BodyTriangle& each : triangles)
    for (const auto& [from, to] : {std::pair(each.a, each.b), std::pair(each.b, each.c), std::pair(each.c, each.a)}) {
      auto ends = std::array{key(from), key(to)};
      if (ends[1] < ends[0]) std::swap(ends[0], ends[1]);
      auto& [count, line] = edges[ends];
      ++count;
      line = {from, to};
    }
  std::vector<Line> border;
  for (const auto& [ends, edge] : edges)
    if (edge.first == 1) border.push_back(edge.second);
  return border;
}

/// The lines as loops that run as they do; each a closed row of points.
std::vector<Polyline> loopsOf(const std::vector<Line>& lines) {
  const auto key = [](Point p) { return std::array<double, 3>{p.x, p.y, p.z}; };
  std::multimap<std::array<double, 3>, std::size_t> starts;
  for (std::size_t i = 0; i < lines.size(); ++i) starts.emplace(key(lines[i].from), i);
  std::vector<Polyline> loops;
  while (!starts.empty()) {
    Polyline loop{lines[starts.begin()->second].from};
    for (auto next = starts.begin(); next != starts.end(); next = starts.find(key(loop.back()))) {
      loop.push_back(lines[next->second].to);
      starts.erase(next);
    }
    loops.push_back(std::move(loop));
  }
  return loops;
}

double lengthOf(const Polyline& line) {
  double sum = 0;
  for (std::size_t i = 1; i < line.size(); ++i) sum += distance(line[i - 1], line[i]);
  return sum;
}

}  // namespace

struct KeyRoom::Inside {
  /// One of the other pieces.
  struct Mate {
    Shape shape;
    BodyTriangles triangles;
    std::vector<Face> faces;
    std::optional<Crossings> lines;  ///< of an exact one
  };

  std::optional<Face> face;  ///< of exact pieces
  Plane across;              ///< at a right angle to the way
  double reach = 0, around = 0;
  std::vector<BodyTriangle> cut;  ///< the face's triangles
  std::vector<Line> border;
  std::vector<std::unique_ptr<Mate>> mates;
  std::optional<Crossings> piece;  ///< of an exact one
  TopoDS_Compound rim;             ///< the face's own edges
  bool exact = false;              ///< all of them are
  double slack = 0;                ///< mm by which triangles may be off

  void addMates(const std::vector<Shape>& shapes, Progress& progress) {
    for (const Shape& shape : shapes) {
      mates.push_back(std::unique_ptr<Mate>(new Mate{shape, BodyTriangles(shape, slack, progress), {}, {}}));
      if (shape.mesh()) continue;
      mates.back()->faces = facesOf(shape);
      mates.back()->lines.emplace(shape);
    }
    exact = face && std::none_of(shapes.begin(), shapes.end(), [](const Shape& each) { return each.mesh(); });
    border = borderOf(cut);
  }

  double fromBorder(Point place) const {
    double least = Box::infinity;
    for (const Line& line : border) least = std::min(least, distanceToSegment(line.from, line.to, place));
    return least;
  }

  std::optional<Point> onFace(Point point) const {
    for (const BodyTriangle& each : cut)
      if (const auto at = meetingOf(each, point, across.normal)) return point + across.normal * *at;
    return std::nullopt;
  }

  Box box() const {
    Box box;
    for (const BodyTriangle& each : cut)
      for (const Point& corner : {each.a, each.b, each.c}) box.add(across.coordinates(corner));
    return box;
  }

  /// The centre of its area, in the plane's coordinates.
  Vector middle() const {
    if (face) return across.coordinates(face->middle());
    Vector sum;
    double area = 0;
    for (const BodyTriangle& each : cut) {
      const double size = length(each.across());
      sum = sum + across.coordinates(each.middle()) * size;
      area += size;
    }
    return sum * (1 / area);
  }

  /// As far as triangles tell.
  std::optional<KeyPlace> roughly(Point point) const {
    const auto place = onFace(point);
    if (!place || fromBorder(*place) < around - slack - tolerance::samePlace) return std::nullopt;
    for (std::size_t m = 0; m < mates.size(); ++m) {
      const auto entry = mates[m]->triangles.firstEntry(*place, across.normal, -2 * slack - tolerance::samePlace);
      if (!entry || entry->at > widestGap) continue;
      if (isClear(*place + across.normal * entry->at, *mates[m], entry->triangle))
        return KeyPlace{*place, m, std::max(0.0, entry->at)};
    }
    return std::nullopt;
  }

  /// Whether an axis into a piece keeps clear of all of its triangles but those where it goes in.
  bool isClear(Point from, const Mate& mate, std::size_t entry) const {
    const BodyTriangle& in = mate.triangles.all()[entry];
    const Vector normal = normalized(in.across());
    std::map<int, bool> beside;  // whether a face counts
    const auto counts = [&](const BodyTriangle& each) {
      if (mate.faces.empty()) {
        const double flat = std::abs(dot(each.middle() - in.a, normal));
        return flat > tolerance::samePlace || dot(each.across(), normal) <= 0;
      }
      const auto known = beside.find(each.face);
      if (known != beside.end()) return known->second;
      const Face &one = mate.faces[static_cast<std::size_t>(each.face)],
                 &other = mate.faces[static_cast<std::size_t>(in.face)];
      return beside[each.face] = each.face != in.face && !one.onSameSurface(other);
    };
    // Its end needs room in front of it as well, which a ball round it takes.
    const double deep = std::max(reach - around / 2, reach / 2);
    const int steps = std::max(2, static_cast<int>(std::ceil(2 * deep / around)));
    // Between two points of the axis something may come a little nearer.
    const double half = deep / steps / 2, wanted = exact ? around - 2 * slack : std::hypot(around, half);
    for (int i = 0; i <= steps; ++i)
      if (!mate.triangles.keepClear(from + across.normal * (deep * i / steps), wanted, counts)) return false;
    return true;
  }

  bool isProvenClear(Point place, const TopoDS_Shape& of) const {
    const BRepExtrema_DistShapeShape apart(BRepBuilderAPI_MakeVertex(toPnt(place)).Vertex(), of);
    return apart.IsDone() && apart.Value() >= around - tolerance::samePlace;
  }

  bool isProvenClear(Point from, const Mate& mate, const Face& entry) const {
    std::vector<TopoDS_Face> others;
    for (const Face& each : mate.faces)
      if (!isSameFace(each, entry) && !each.onSameSurface(entry)) others.push_back(each.body().face);
    const double deep = std::max(reach - around / 2, reach / 2);
    const TopoDS_Edge axis = BRepBuilderAPI_MakeEdge(toPnt(from), toPnt(from + across.normal * deep)).Edge();
    const BRepExtrema_DistShapeShape apart(axis, compoundOf(others));
    return apart.IsDone() && apart.Value() >= around - tolerance::samePlace;
  }

  /// With the faces themselves.
  std::optional<KeyPlace> proven(Point point) const {
    return kernelCall("looking for room", [&]() -> std::optional<KeyPlace> {
      const Vector way = across.normal;
      for (const LineCrossing& each : piece->along(point, way)) {
        if (!each.out || !isSameFace(each.face, *face)) continue;
        const Point place = point + way * each.at;
        if (!isProvenClear(place, rim)) continue;
        for (std::size_t m = 0; m < mates.size(); ++m) {
          const std::vector<LineCrossing> met = mates[m]->lines->along(place, way);
          const auto entry = std::find_if(met.begin(), met.end(), [](const LineCrossing& other) {
            return !other.out && other.at > -tolerance::samePlace && other.at < widestGap;
          });
          if (entry != met.end() && isProvenClear(place + way * entry->at, *mates[m], entry->face))
            return KeyPlace{place, m, std::max(0.0, entry->at)};
        }
      }
      return std::nullopt;
    });
  }

  /// Beside a point of the border, to its left (or right) along a way: as far from the border as a peg has to be, or a
  /// little more where that is nearer to the middle of a rim.
  void lookBeside(Point on, Vector way, double side, std::vector<Point>& points) const {
    const Vector beside = cross(across.normal, way) * side;
    if (length(beside) < tolerance::direction) return;
    Point best;
    double farthest = 0;
    for (const double share : {1.001, 1.1, 1.2, 1.4}) {
      const Point point = on + normalized(beside) * (share * around);
      const double away = fromBorder(point);
      if (away > farthest + tolerance::samePlace) {
        farthest = away;
        best = point;
      }
    }
    if (farthest >= around - slack) points.push_back(best);
  }

  std::vector<Point> alongBorder() const {
    std::vector<Point> points;
    if (!face) {
      double all = 0, run = 0;
      for (const Line& line : border) all += distance(line.from, line.to);
      for (const Line& line : border) {
        const double size = distance(line.from, line.to);
        const double apart = all / placesAlongBorder;
        // The face lies to the left.
        const int first = static_cast<int>(std::ceil(run / apart)),
                  end = static_cast<int>(std::ceil((run + size) / apart));
        for (int i = first; i < end; ++i)
          lookBeside(line.from + (line.to - line.from) * ((i * apart - run) / size), line.to - line.from, 1, points);
        run += size;
      }
      return points;
    }
    // The same places on edges that are alike, so that pegs stand as evenly as the face is.
    for (TopExp_Explorer it(rim, TopAbs_EDGE); it.More(); it.Next()) {
      const BRepAdaptor_Curve curve(TopoDS::Edge(it.Current()));
      const double from = curve.FirstParameter(), size = curve.LastParameter() - from;
      for (int i = 0; i < placesAlongEdge; ++i) {
        gp_Pnt on;
        gp_Vec way;
        curve.D1(from + size * (i + 0.5) / placesAlongEdge, on, way);
        for (const double side : {1.0, -1.0}) lookBeside(fromPnt(on), fromVec(way), side, points);
      }
    }
    return points;
  }
};

namespace {

/// Fine enough to look for places, mm.
double slackFor(double around) {
  constexpr double share = 0.01;
  return share * around;
}

}  // namespace

KeyRoom::KeyRoom(const Shape& piece, const Face& face, const std::vector<Shape>& mates, Vector way, double reach,
                 double around, Progress& progress)
    : inside_(new Inside) {
  inside_->face = face;
  inside_->across = Plane::through(face.samplePoint(), way);
  inside_->reach = reach;
  inside_->around = around;
  inside_->slack = slackFor(around);
  const std::vector<Face> faces = facesOf(piece);
  const BodyTriangles triangles(piece, inside_->slack, progress);
  for (const BodyTriangle& each : triangles.all())
    if (isSameFace(faces[static_cast<std::size_t>(each.face)], face)) inside_->cut.push_back(each);
  inside_->piece.emplace(piece);
  BRep_Builder builder;
  builder.MakeCompound(inside_->rim);
  for (TopExp_Explorer it(face.body().face, TopAbs_EDGE); it.More(); it.Next())
    if (!BRep_Tool::Degenerated(TopoDS::Edge(it.Current()))) builder.Add(inside_->rim, it.Current());
  inside_->addMates(mates, progress);
}

KeyRoom::KeyRoom(const Shape& piece, const Plane& cut, const std::vector<Shape>& mates, double reach, double around,
                 Progress& progress)
    : inside_(new Inside) {
  inside_->across = cut;
  inside_->reach = reach;
  inside_->around = around;
  inside_->slack = piece.mesh() ? 0 : slackFor(around);
  constexpr double along = 0.9999;
  const BodyTriangles triangles(piece, slackFor(around), progress);
  for (const BodyTriangle& each : triangles.all()) {
    const Vector across = each.across();
    const bool flat = std::max({std::abs(cut.signedDistance(each.a)), std::abs(cut.signedDistance(each.b)),
                                std::abs(cut.signedDistance(each.c))}) < tolerance::sewing;
    if (flat && dot(across, cut.normal) > along * length(across)) inside_->cut.push_back(each);
  }
  inside_->addMates(mates, progress);
}

KeyRoom::~KeyRoom() = default;

bool KeyRoom::empty() const {
  return inside_->cut.empty();
}

std::optional<KeyPlace> KeyRoom::at(Point point) const {
  return inside_->exact ? inside_->proven(point) : inside_->roughly(point);
}

std::vector<KeyPlace> KeyRoom::spread(std::size_t most, double apart, Progress& progress) const {
  const Box box = inside_->box();
  std::vector<KeyPlace> places;
  const auto look = [&](Point point) {
    progress.throwIfStopped();
    if (const auto place = inside_->roughly(point)) places.push_back(*place);
  };
  for (int i = 0; i < linesAcross; ++i)
    for (int k = 0; k < linesAcross; ++k)
      look(inside_->across.at(box.low.x + (box.high.x - box.low.x) * (i + 0.5) / linesAcross,
                              box.low.y + (box.high.y - box.low.y) * (k + 0.5) / linesAcross));
  // A narrow rim may lie between the lines: along its borders, too.
  for (const Point& point : inside_->alongBorder()) look(point);
  Point middle;
  for (const KeyPlace& place : places) middle = middle + place.at * (1.0 / static_cast<double>(places.size()));
  std::vector<KeyPlace> taken;
  while (!places.empty() && taken.size() < most) {
    progress.throwIfStopped();
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
    if (const auto sure = at(best->at)) taken.push_back(*sure);
    places.erase(best);
  }
  return taken;
}

std::optional<RoomyPlace> KeyRoom::widest() const {
  if (empty()) return std::nullopt;
  const Box box = inside_->box();
  const Point middle = box.centre();
  PlanePoint best{middle.x, middle.y};
  double most = 0, stepU = (box.high.x - box.low.x) / 2, stepV = (box.high.y - box.low.y) / 2;
  // A coarse grid first, then finer ones round the best place.
  constexpr int lines = 12, finer = 3;
  for (int round = 0; round < finer; ++round) {
    const PlanePoint around = best;
    for (int i = -lines / 2; i <= lines / 2; ++i)
      for (int k = -lines / 2; k <= lines / 2; ++k) {
        const PlanePoint tried{around.u + stepU * i * 2 / lines, around.v + stepV * k * 2 / lines};
        const auto place = inside_->onFace(inside_->across.at(tried.u, tried.v));
        const double room = place ? inside_->fromBorder(*place) : 0;
        if (room <= most + tolerance::samePlace) continue;
        most = room;
        best = tried;
      }
    stepU *= 3.0 / lines;
    stepV *= 3.0 / lines;
  }
  if (most <= 0) return std::nullopt;
  Plane at = inside_->across;
  at.origin = inside_->across.at(best.u, best.v);
  return RoomyPlace{at, most};
}

std::vector<Point> KeyRoom::ring(std::size_t count, double diameter, double turn) const {
  const Plane& across = inside_->across;
  const Vector middle = inside_->middle();
  std::vector<Point> points;
  for (std::size_t i = 0; i < count; ++i) {
    const double angle = turn + 2 * std::numbers::pi * static_cast<double>(i) / static_cast<double>(count);
    points.push_back(
        across.at(middle.x + diameter / 2 * std::cos(angle), middle.y + diameter / 2 * std::sin(angle), middle.z));
  }
  return points;
}

std::vector<Point> KeyRoom::grid(double apart) const {
  const Plane& across = inside_->across;
  const Box box = inside_->box();
  const Point middle = box.centre();
  const auto steps = [&](double size) { return static_cast<int>(std::floor(size / 2 / apart)); };
  const int rows = steps(box.high.y - box.low.y), columns = steps(box.high.x - box.low.x);
  std::vector<Point> points;
  for (int row = -rows; row <= rows; ++row)
    for (int column = -columns; column <= columns; ++column)
      points.push_back(across.at(middle.x + column * apart, middle.y + row * apart, middle.z));
  return points;
}

std::vector<Point> KeyRoom::along(std::size_t count, double inside) const {
  std::vector<Polyline> loops = loopsOf(inside_->border);
  if (loops.empty()) return {};
  const Polyline outermost = *std::max_element(
      loops.begin(), loops.end(), [](const Polyline& a, const Polyline& b) { return lengthOf(a) < lengthOf(b); });
  const double share = lengthOf(outermost) / static_cast<double>(count);
  std::vector<Point> points;
  // In the middle of each share, so that none falls into the corner where the border begins.
  double run = 0;
  for (std::size_t i = 1; i < outermost.size(); ++i) {
    const Point from = outermost[i - 1], to = outermost[i];
    const double size = distance(from, to);
    const Vector side = cross(inside_->across.normal, to - from);
    const int first = static_cast<int>(std::ceil(run / share - 0.5)),
              end = static_cast<int>(std::ceil((run + size) / share - 0.5));
    for (int k = first; k < end && points.size() < count; ++k)
      if (length(side) > tolerance::direction)
        points.push_back(from + (to - from) * (((k + 0.5) * share - run) / size) + normalized(side) * inside);
    run += size;
  }
  return points;
}

}  // namespace kervo
