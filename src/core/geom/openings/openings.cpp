#include "geom/openings/openings.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <tuple>

#include "geom/kernel/elementary.h"
#include "geom/kernel/topology_body.h"
#include "geom/openings/opening_search.h"
#include "geom/planes.h"

namespace kervo {

namespace {

/// Sizes that differ by less are alike, in mm.
constexpr double alike = 1e-4;

/// One opening looked at: its frame, sizes and form.
class Description {
 public:
  Description(const FaceNet& net, const std::vector<Mouth>& mouths, const FoundOpening& found)
      : net_(net), mouths_(mouths), found_(found) {
    mainFirst();
    faces();
    frame();
    sizes();
    form();
    result_.open = found.open;
    result_.stepped = found.stepped;
    result_.through = comesOut();
  }
  Opening result() && { return std::move(result_); }

 private:
  const Mouth& mouth(int number) const { return mouths_[static_cast<std::size_t>(number)]; }
  const TopoDS_Face& surfaceOf(int sheet) const { return net_.faceOf(sheet).body().face; }

  /// The mouth in the largest wall comes first; of two in walls of one size, that which looks farther along x, y or z.
  void mainFirst() {
    order_ = found_.mouths;
    const auto rank = [&](int m) {
      double area = 0;
      for (const int f : net_.facesOfSheet(mouth(m).sheet)) area += net_.faces()[static_cast<std::size_t>(f)].area();
      const Vector out = normalAt(mouth(m));
      // Of walls that are about as large, one that stands straight.
      const double straight = std::max({std::abs(out.x), std::abs(out.y), std::abs(out.z)});
      return std::tuple(std::round(std::log(std::max(area, tolerance::rounding)) * 10), std::round(straight * 1e6),
                        out.x - out.y + out.z);
    };
    std::stable_sort(order_.begin(), order_.end(), [&](int a, int b) { return rank(a) > rank(b); });
    for (const int m : order_) result_.walls.push_back(net_.facesOfSheet(mouth(m).sheet).front());
  }

  void faces() {
    for (const int sheet : found_.sheets)
      for (const int face : net_.facesOfSheet(sheet)) result_.faces.push_back(face);
    std::sort(result_.faces.begin(), result_.faces.end());
    for (const int sheet : found_.crossing)
      for (const int face : net_.facesOfSheet(sheet)) result_.crossing.push_back(face);
    std::sort(result_.crossing.begin(), result_.crossing.end());
  }

  std::vector<gp_Pnt> placesOf(const Mouth& mouth) const {
    std::vector<gp_Pnt> places;
    for (const int e : mouth.edges)
      for (const gp_Pnt& place : placesAlong(net_.edge(e).edge)) places.push_back(place);
    return places;
  }

  Point middleOf(const Mouth& mouth) const {
    Box box;
    for (const gp_Pnt& place : placesOf(mouth)) box.add(fromPnt(place));
    return box.centre();
  }

  /// Out of the wall, over the middle of a mouth.
  Vector normalAt(const Mouth& mouth) const {
    const TopoDS_Face& wall = surfaceOf(mouth.sheet);
    const Point middle = middleOf(mouth);
    const BRepAdaptor_Surface surface(wall, false);
    const auto at = parametersOn(surface, toPnt(middle));
    if (!at) return fromDir(outwardNormal(wall, toPnt(middle)));
    gp_Pnt place;
    gp_Vec u, v;
    surface.D1(at->X(), at->Y(), place, u, v);
    const gp_Vec normal = u.Crossed(v);
    if (normal.Magnitude() < tolerance::direction) return fromDir(outwardNormal(wall, toPnt(middle)));
    return fromDir(gp_Dir(normal)) * (wall.Orientation() == TopAbs_REVERSED ? -1.0 : 1.0);
  }

  void frame() {
    const Mouth& main = mouth(order_.front());
    Plane frame = Plane::through(middleOf(main), normalAt(main));
    // Along a side: the longest straight one.
    Vector along;
    double longest = 0;
    for (const int e : main.edges) {
      const BRepAdaptor_Curve curve(net_.edge(e).edge);
      const double size = curve.Value(curve.FirstParameter()).Distance(curve.Value(curve.LastParameter()));
      if (curve.GetType() != GeomAbs_Line || size < longest + alike) continue;
      longest = size;
      along = fromDir(curve.Line().Direction());
    }
    along = along - frame.normal * dot(along, frame.normal);
    if (longest > 0 && length(along) > tolerance::direction) {
      along = normalized(along);
      // Of the four ways along and across it, that which is nearest to x.
      const Vector across = cross(frame.normal, along);
      Vector best = along;
      for (const Vector& each : {across, -along, -across})
        if (dot(each, frame.x) > dot(best, frame.x) + tolerance::direction) best = each;
      frame.x = best;
      frame.y = cross(frame.normal, best);
    }
    Box box;
    for (const gp_Pnt& place : placesOf(main)) box.add(frame.coordinates(fromPnt(place)));
    const Point centre = box.centre();
    frame.origin = frame.at(centre.x, centre.y, box.high.z);
    result_.frame = frame;
  }

  void sizes() {
    Box rim;
    for (const gp_Pnt& place : placesOf(mouth(order_.front()))) rim.add(result_.frame.coordinates(fromPnt(place)));
    result_.width = rim.high.x - rim.low.x;
    result_.height = rim.high.y - rim.low.y;
    double lowest = 0;
    for (const int face : result_.faces)
      lowest = std::min(lowest, lowestOf(net_.faces()[static_cast<std::size_t>(face)]));
    result_.depth = -lowest;
  }

  /// How deep a face reaches. That of a plane, and of a cylinder along the opening, is told by its border, that of a
  /// ball by its lowest point; of others by many places: their exact boxes would take longer than all the rest.
  double lowestOf(const Face& face) const {
    const TopoDS_Face& topology = face.body().face;
    const BRepAdaptor_Surface surface(topology, false);
    const bool straight =
        surface.GetType() == GeomAbs_Plane ||
        (surface.GetType() == GeomAbs_Cylinder &&
         surface.Cylinder().Axis().Direction().IsParallel(toDir(result_.frame.normal), tolerance::sameDirection));
    double lowest = Box::infinity;
    const auto take = [&](const gp_Pnt& place) {
      lowest = std::min(lowest, result_.frame.coordinates(fromPnt(place)).z);
    };
    for (TopExp_Explorer it(topology, TopAbs_EDGE); it.More(); it.Next())
      if (!BRep_Tool::Degenerated(TopoDS::Edge(it.Current())))
        for (const gp_Pnt& place : placesAlong(TopoDS::Edge(it.Current()))) take(place);
    if (straight) return lowest;
    double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
    BRepTools::UVBounds(topology, u0, u1, v0, v1);
    if (surface.GetType() == GeomAbs_Sphere) {
      const gp_Sphere ball = surface.Sphere();
      const gp_Pnt bottom = ball.Location().Translated(toVec(result_.frame.normal * -ball.Radius()));
      if (face.distanceTo(fromPnt(bottom)) < tolerance::samePlace) take(bottom);
    }
    constexpr int places = 12;
    for (int i = 0; i <= places; ++i)
      for (int k = 0; k <= places; ++k) take(surface.Value(u0 + (u1 - u0) * i / places, v0 + (v1 - v0) * k / places));
    return lowest;
  }

  bool comesOut() const {
    for (std::size_t i = 0; i < order_.size(); ++i)
      for (std::size_t k = i + 1; k < order_.size(); ++k) {
        const Mouth &a = mouth(order_[i]), &b = mouth(order_[k]);
        if (a.closed && b.closed) return true;
        // The mouths of a notch in two walls side by side are its open side.
        constexpr double across = -0.5;
        if (dot(normalAt(a), normalAt(b)) < across) return true;
      }
    return false;
  }

  /// From the sheets that begin at the main mouth, chamfers and rounds there aside.
  void form() {
    std::vector<double> radii;
    bool round = true;
    std::optional<gp_Ax1> axis;
    int flat = 0, quarter = 0, half = 0, other = 0;
    for (const int sheet : found_.sheets) {
      const BRepAdaptor_Surface surface(surfaceOf(sheet), false);
      const Face& face = net_.faceOf(sheet);
      const auto its = face.axis();
      if (its) {
        const gp_Ax1 found(toPnt(its->point), toDir(its->direction));
        if (!axis) axis = found;
        round &= found.IsCoaxial(*axis, tolerance::sameDirection, tolerance::samePlace) ||
                 found.Reversed().IsCoaxial(*axis, tolerance::sameDirection, tolerance::samePlace);
        if (surface.GetType() == GeomAbs_Cylinder) radii.push_back(surface.Cylinder().Radius());
      } else if (surface.GetType() != GeomAbs_Plane && surface.GetType() != GeomAbs_Sphere) {
        round = false;
      }
      if (!isSide(sheet)) continue;
      if (surface.GetType() == GeomAbs_Plane)
        ++flat;
      else if (surface.GetType() == GeomAbs_Cylinder)
        ++(turnOf(sheet) > 3.0 ? half : quarter);
      else
        ++other;
    }
    result_.sides = flat + half + other;
    if (round && axis && flat == 0) {
      result_.form = OpeningForm::Round;
      result_.sides = 1;
      if (!radii.empty()) result_.diameter = 2 * *std::min_element(radii.begin(), radii.end());
    } else if (other > 0) {
      result_.form = OpeningForm::Free;
    } else if (half > 0) {
      result_.form = flat == 2 ? OpeningForm::Slot : OpeningForm::Free;
    } else if (quarter == 0 || quarter <= flat) {
      result_.form = isRectangle(flat) ? OpeningForm::Rectangle : OpeningForm::Polygon;
    }
  }

  /// It runs along the way of the opening rather than across it, and is no chamfer or round at the mouth.
  bool isSide(int sheet) const {
    const Face& face = net_.faceOf(sheet);
    if (const auto plane = face.plane()) return std::abs(dot(plane->normal, result_.frame.normal)) < 0.5;
    const BRepAdaptor_Surface surface(face.body().face, false);
    if (surface.GetType() == GeomAbs_Cylinder)
      return std::abs(dot(fromDir(surface.Cylinder().Axis().Direction()), result_.frame.normal)) > 0.5;
    return surface.GetType() != GeomAbs_Torus && surface.GetType() != GeomAbs_Cone &&
           surface.GetType() != GeomAbs_Sphere;
  }

  /// How far a sheet on a cylinder goes round it, in radians.
  double turnOf(int sheet) const {
    double turn = 0;
    for (const int face : net_.facesOfSheet(sheet)) {
      double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
      BRepTools::UVBounds(net_.faces()[static_cast<std::size_t>(face)].body().face, u0, u1, v0, v1);
      turn += u1 - u0;
    }
    return turn;
  }

  bool isRectangle(int flat) const {
    if (flat != 4 && !(found_.open && flat == 3)) return false;
    for (const int sheet : found_.sheets) {
      const auto plane = net_.faceOf(sheet).plane();
      if (!plane || !isSide(sheet)) continue;
      const double x = std::abs(dot(plane->normal, result_.frame.x));
      const double y = std::abs(dot(plane->normal, result_.frame.y));
      if (x > tolerance::sameDirection && y > tolerance::sameDirection) return false;
    }
    return true;
  }

  const FaceNet& net_;
  const std::vector<Mouth>& mouths_;
  const FoundOpening& found_;
  std::vector<int> order_;
  Opening result_;
};

}  // namespace

std::vector<Opening> openingsOf(const Shape& solid) {
  if (solid.empty() || solid.kind() != BodyKind::Solid) return {};
  const FaceNet net(solid);
  return kernelCall("finding the openings", [&] {
    OpeningSearch search(net);
    std::vector<Opening> openings;
    for (const FoundOpening& found : search.found())
      if (!found.mouths.empty()) openings.push_back(Description(net, search.mouths(), found).result());
    std::sort(openings.begin(), openings.end(), [](const Opening& a, const Opening& b) { return a.faces < b.faces; });
    return openings;
  });
}

std::optional<Opening> openingWith(const std::vector<Opening>& openings, int face) {
  const Opening* found = nullptr;
  for (const Opening& each : openings)
    if (std::binary_search(each.faces.begin(), each.faces.end(), face) &&
        (!found || each.faces.size() < found->faces.size()))
      found = &each;
  return found ? std::optional(*found) : std::nullopt;
}

std::vector<int> allAlike(const std::vector<Opening>& openings, const Opening& opening) {
  std::vector<int> result;
  const auto same = [](double a, double b) { return std::abs(a - b) < alike; };
  for (std::size_t i = 0; i < openings.size(); ++i) {
    const Opening& each = openings[i];
    if (each.form == opening.form && each.through == opening.through && each.open == opening.open &&
        each.faces.size() == opening.faces.size() && same(each.width, opening.width) &&
        same(each.height, opening.height) && same(each.depth, opening.depth) && same(each.diameter, opening.diameter))
      result.push_back(static_cast<int>(i));
  }
  return result;
}

}  // namespace kervo
