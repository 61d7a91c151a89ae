#include "geom/surface/path_sweep.h"

#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepGProp.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRepPrimAPI_MakeRevol.hxx>
#include <GProp_GProps.hxx>
#include <GeomConvert.hxx>
#include <Geom_Circle.hxx>
#include <Geom_Line.hxx>
#include <Geom_TrimmedCurve.hxx>
#include <algorithm>
#include <cmath>

#include "base/quantity.h"
#include "base/say.h"
#include "geom/kernel/curve_edges.h"
#include "geom/measure/border_quadrature.h"
#include "geom/measure/soundness.h"
#include "geom/place_text.h"
#include "geom/surface/path_frames.h"
#include "geom/surface/recognised.h"
#include "geom/surface/sewn.h"
#include "geom/surface/skin.h"
#include "geom/sweep/region_body.h"

namespace kervo {

namespace {

constexpr int fewestSpans = 8, mostSpans = 256;
/// Faces follow the profile to this, mm.
constexpr double follows = 1e-6;
/// Sections of neighbouring stretches that are nearer than this are one, mm.
constexpr double sameSection = 1e-6;
constexpr int samplesPerLink = 64, samplesPerEdge = 12;

/// What is carried: the edges of a region, or of an open line.
struct Carried {
  std::vector<std::pair<TopoDS_Edge, std::string>> edges;
  std::vector<Point> points;  ///< along the edges
  Point middle;
  Vector normal;
  TopoDS_Face face;  ///< null for a line
  double area = 0;   ///< mm², of the face

  void add(const TopoDS_Edge& edge, const std::string& curve) {
    edges.emplace_back(edge, curve);
    const BRepAdaptor_Curve along(edge);
    for (int i = 0; i <= samplesPerEdge; ++i)
      points.push_back(fromPnt(
          along.Value(along.FirstParameter() + (along.LastParameter() - along.FirstParameter()) * i / samplesPerEdge)));
  }
};

/// A stretch of the path between two corners or joints.
struct Stretch {
  enum class Kind { Straight, Round, Free };
  Kind kind = Kind::Free;
  std::size_t link = 0;
  PathFrame from, to;
  Axis axis;         ///< Round
  double angle = 0;  ///< Round: radians
  /// Straight: planes in which it meets its neighbours at corners.
  std::optional<Plane> startsAt, endsAt;
};

class Sweeping {
 public:
  Sweeping(const Carried& profile, const std::string& name, const PathSweep& order, Progress& progress)
      : profile_(profile), name_(name), progress_(progress), frames_(order, profile.middle), first_(frames_.at(0, 0)) {
    for (std::size_t link = 0; link + 1 < frames_.breaks().size(); ++link) stretches_.push_back(stretchOf(link));
    for (std::size_t i = 0; i + 1 < stretches_.size(); ++i) join(stretches_[i], stretches_[i + 1]);
    if (frames_.closed()) join(stretches_.back(), stretches_.front());
  }

  Shape run() {
    const bool solid = !profile_.face.IsNull();
    if (solid) requireNoFold();
    for (std::size_t i = 0; i < stretches_.size(); ++i) {
      progress_.throwIfStopped();
      progress_.report(static_cast<double>(i) / static_cast<double>(stretches_.size()));
      for (const auto& [edge, curve] : profile_.edges) add(faceAlong(stretches_[i], edge), ":side:" + curve);
    }
    if (solid && !frames_.closed()) {
      add(profile_.face, ":start");
      add(TopoDS::Face(atFrame(profile_.face, stretches_.back().to)), ":end");
    }
    const Shape surface = faces_.size() == 1 ? faces_.front() : sewn(faces_, tolerance::sewing, progress_).shape;
    Shape whole = solid ? solidWithin(surface, progress_) : surface;
    if (const std::string fault = solid ? "" : findFault(whole.body(), progress_); !fault.empty())
      throw Error(say("the sweep is not sound: %1", fault), "", say("Bend the path less, or make the line smaller"));
    if (solid) requireVolume(whole);
    // Mitred tubes are ruled splines so far.
    const bool mitred = std::any_of(stretches_.begin(), stretches_.end(),
                                    [](const Stretch& each) { return each.startsAt || each.endsAt; });
    if (mitred) whole = recognised(whole, {}, follows, progress_).shape;
    if (comesNear())
      if (const auto crossing = selfCrossingOf(whole, progress_))
        throw Error(say("the sweep crosses itself at %1", placeText(crossing->place)), "",
                    say("Keep the path clear of itself, or make the profile smaller"));
    return whole;
  }

 private:
  Point carried(const PathFrame& frame, Point place) const { return frame.place(first_.own(place)); }

  gp_Trsf motionTo(const PathFrame& frame) const {
    gp_Trsf motion;
    motion.SetDisplacement(toAxes(first_.plane()), toAxes(frame.plane()));
    return motion;
  }
  TopoDS_Shape atFrame(const TopoDS_Shape& shape, const PathFrame& frame) const {
    return BRepBuilderAPI_Transform(shape, motionTo(frame), true).Shape();
  }

  // ---- the path

  Stretch stretchOf(std::size_t link) const {
    const double from = frames_.breaks()[link], to = frames_.breaks()[link + 1];
    Stretch stretch;
    stretch.link = link;
    stretch.from = frames_.at(link, from);
    stretch.to = frames_.at(link, to);
    const Handle(Geom_Curve) curve = frames_.curveOf(link);
    if (frames_.turns()) return stretch;
    // A motion is what it seems to be if it is so at a few places in between.
    const auto movesLike = [&](auto&& motion) {
      constexpr double same = 1e-9;
      for (const double share : {0.25, 0.5, 0.8, 1.0}) {
        const PathFrame frame = frames_.at(link, from + (to - from) * share);
        const auto turn = motion(share);
        if (length(turn(stretch.from.along) - frame.along) > same || length(turn(stretch.from.up) - frame.up) > same)
          return false;
      }
      return true;
    };
    if (curve->IsKind(STANDARD_TYPE(Geom_Line)) && movesLike([](double) { return [](Vector v) { return v; }; })) {
      stretch.kind = Stretch::Kind::Straight;
    } else if (const Handle(Geom_Circle) circle = Handle(Geom_Circle)::DownCast(curve); !circle.IsNull()) {
      const Vector centre = fromPnt(circle->Location());
      Vector normal = fromDir(circle->Axis().Direction());
      if (dot(cross(normal, stretch.from.at - centre), stretch.from.tangent) < 0) normal = -normal;
      stretch.axis = {centre, normal};
      stretch.angle = (to - from) * frames_.length() / circle->Radius();
      if (movesLike([&](double share) {
            gp_Trsf turn;
            turn.SetRotation(gp_Ax1(toPnt(centre), toDir(normal)), stretch.angle * share);
            return [turn](Vector v) { return fromVec(toVec(v).Transformed(turn)); };
          }))
        stretch.kind = Stretch::Kind::Round;
    }
    return stretch;
  }

  /// Where the rulings of a straight stretch meet a plane.
  Point along(const Stretch& stretch, const PathFrame& frame, const Plane& plane, Point place) const {
    const Point start = carried(frame, place);
    const Vector way = stretch.from.tangent;
    return start - way * (plane.signedDistance(start) / dot(way, plane.normal));
  }

  /// Mitres the corner between two stretches, if there is one.
  void join(Stretch& before, Stretch& after) const {
    double apart = 0;
    for (const Point& point : profile_.points)
      apart = std::max(apart, distance(carried(before.to, point), carried(after.from, point)));
    if (apart < sameSection && length(before.to.tangent - after.from.tangent) < tolerance::sameDirection) return;
    const std::string where = placeText(after.from.at);
    const std::string help = say("Round that corner with an arc");
    if (before.kind != Stretch::Kind::Straight || after.kind != Stretch::Kind::Straight)
      throw Error(say("the path has a corner at %1, and not both sides of it are straight", where), "", help);
    const Vector across = before.to.along + after.from.along;
    if (length(across) < tolerance::direction)
      throw Error(say("the path turns back at %1", where), "", say("End it there"));
    const Plane mitre = Plane::through(after.from.at, across);
    for (const Point& point : profile_.points)
      if (distance(along(before, before.to, mitre, point), along(after, after.from, mitre, point)) > sameSection)
        throw Error(say("the profile does not meet itself round the corner of the path at %1", where), "", help);
    before.endsAt = mitre;
    after.startsAt = mitre;
  }

  Point startOf(const Stretch& stretch, Point place) const {
    return stretch.startsAt ? along(stretch, stretch.from, *stretch.startsAt, place) : carried(stretch.from, place);
  }
  Point endOf(const Stretch& stretch, Point place) const {
    return stretch.endsAt ? along(stretch, stretch.to, *stretch.endsAt, place) : carried(stretch.to, place);
  }
  double shareOf(const Stretch& stretch, double part) const {
    return frames_.breaks()[stretch.link] +
           (frames_.breaks()[stretch.link + 1] - frames_.breaks()[stretch.link]) * part;
  }

  // ---- what must hold

  void requireNoFold() const {
    const double ahead = dot(profile_.normal, first_.tangent);
    if (std::abs(ahead) < tolerance::sameDirection)
      throw Error(say("the path begins along the plane of the profile"), "",
                  say("Turn the profile, so that the path goes through its plane"));
    for (const Stretch& stretch : stretches_) {
      const int steps = stretch.kind == Stretch::Kind::Straight ? 1 : samplesPerLink;
      PathFrame before = stretch.from;
      for (int i = 1; i <= steps; ++i) {
        const PathFrame frame =
            i == steps ? stretch.to : frames_.at(stretch.link, shareOf(stretch, static_cast<double>(i) / steps));
        const Vector normal = carried(before, first_.at + profile_.normal) - before.at;
        for (const Point& point : profile_.points) {
          const Vector way = steps == 1 ? endOf(stretch, point) - startOf(stretch, point)
                                        : carried(frame, point) - carried(before, point);
          if (dot(way, normal) * ahead > 0) continue;
          throw Error(say("the profile would fold over itself at %1 of the path, which bends there with less room than "
                          "the profile needs",
                          placeText(before.at)),
                      "", say("Bend the path less, make the profile smaller, or move it to the outer side"));
        }
        before = frame;
      }
    }
  }

  /// Each section sweeps its area times the way of its centre across it.
  void requireVolume(const Shape& solid) const {
    double wanted = 0;
    const auto middleAt = [&](const Stretch& stretch, double part) {
      return carried(frames_.at(stretch.link, shareOf(stretch, part)), profile_.middle);
    };
    for (const Stretch& stretch : stretches_) {
      const auto normalAt = [&](const PathFrame& frame) {
        return carried(frame, first_.at + profile_.normal) - frame.at;
      };
      if (stretch.kind == Stretch::Kind::Straight) {
        wanted += dot(endOf(stretch, profile_.middle) - startOf(stretch, profile_.middle), normalAt(stretch.from));
        continue;
      }
      constexpr int spans = 24;
      constexpr double step = 1e-4;
      for (int i = 0; i < spans; ++i)
        gauss(static_cast<double>(i) / spans, static_cast<double>(i + 1) / spans, [&](double part, double weight) {
          const double h = std::min({step, part / 2, (1 - part) / 2});
          const Vector way = ((middleAt(stretch, part + h) - middleAt(stretch, part - h)) * 8 -
                              (middleAt(stretch, part + 2 * h) - middleAt(stretch, part - 2 * h))) *
                             (1 / (12 * h));
          wanted += weight * dot(way, normalAt(frames_.at(stretch.link, shareOf(stretch, part))));
        });
    }
    wanted = std::abs(wanted) * profile_.area;
    if (std::abs(solid.volume() - wanted) > tolerance::balance * wanted)
      throw Error(say("the sweep is not sound: it has %1 mm³ instead of %2 mm³", formatNumber(solid.volume()),
                      formatNumber(wanted)),
                  "", say("Bend the path less, or make the profile smaller"));
  }

  /// Whether parts of the path that do not follow each other come so near that profiles may meet.
  bool comesNear() const {
    double reach = 0;
    for (const Point& point : profile_.points) reach = std::max(reach, distance(point, first_.at));
    std::vector<std::pair<double, Point>> places;
    for (const Stretch& stretch : stretches_)
      for (int i = 0; i < samplesPerLink; ++i) {
        const double share = shareOf(stretch, static_cast<double>(i) / samplesPerLink);
        places.emplace_back(share * frames_.length(), frames_.at(stretch.link, share).at);
      }
    const double apart = M_PI * reach;
    for (std::size_t i = 0; i < places.size(); ++i)
      for (std::size_t k = i + 1; k < places.size(); ++k) {
        double way = places[k].first - places[i].first;
        if (frames_.closed()) way = std::min(way, frames_.length() - way);
        if (way > apart && distance(places[i].second, places[k].second) < 2 * reach) return true;
      }
    return false;
  }

  // ---- its faces

  void add(const TopoDS_Face& face, const std::string& role) {
    FaceTable table;
    table.emplace(face, FaceFacts{originsOf(name_ + role), {}, false});
    faces_.push_back(makeShape(face, std::move(table), name_ + role));
  }

  TopoDS_Face faceAlong(const Stretch& stretch, const TopoDS_Edge& edge) const {
    TopoDS_Shape made;
    if (stretch.kind == Stretch::Kind::Straight && !stretch.startsAt && !stretch.endsAt)
      made = BRepPrimAPI_MakePrism(atFrame(edge, stretch.from), toVec(stretch.to.at - stretch.from.at)).Shape();
    else if (stretch.kind == Stretch::Kind::Straight)
      made = mitred(stretch, edge);
    else if (stretch.kind == Stretch::Kind::Round)
      made =
          BRepPrimAPI_MakeRevol(atFrame(edge, stretch.from),
                                gp_Ax1(toPnt(stretch.axis.point), toDir(stretch.axis.direction)), stretch.angle, true)
              .Shape();
    else
      made = faceOf(followed(stretch, edge));
    const TopExp_Explorer face(made, TopAbs_FACE);
    if (!face.More()) throw Error(say("a face of the sweep could not be made"), "", say("Change the profile slightly"));
    return TopoDS::Face(face.Current());
  }

  static TopoDS_Face faceOf(const Handle(Geom_Surface) & surface) {
    const BRepBuilderAPI_MakeFace face(surface, tolerance::point);
    if (!face.IsDone())
      throw Error(say("a face of the sweep could not be made"), "", say("Change the profile slightly"));
    return face.Face();
  }

  static Handle(Geom_BSplineCurve) splineAlong(const TopoDS_Edge& edge) {
    double first = 0, last = 0;
    const Handle(Geom_Curve) curve = BRep_Tool::Curve(edge, first, last);
    Handle(Geom_BSplineCurve) spline =
        GeomConvert::CurveToBSplineCurve(new Geom_TrimmedCurve(curve, first, last), Convert_QuasiAngular);
    if (spline->IsPeriodic()) spline->SetNotPeriodic();
    refineForIntegrals(spline);
    return spline;
  }

  TopoDS_Face mitred(const Stretch& stretch, const TopoDS_Edge& edge) const {
    const Handle(Geom_BSplineCurve) spline = splineAlong(edge);
    if (spline->Degree() == 1 && spline->NbPoles() == 2) {
      const Point a = fromPnt(spline->StartPoint()), b = fromPnt(spline->EndPoint());
      BRepBuilderAPI_MakePolygon outline;
      for (const Point& corner : {startOf(stretch, a), startOf(stretch, b), endOf(stretch, b), endOf(stretch, a)})
        outline.Add(toPnt(corner));
      outline.Close();
      const BRepBuilderAPI_MakeFace face(outline.Wire(), true);
      if (face.IsDone()) return face.Face();
    }
    const auto row = [&](double part) {
      Row poles;
      for (int i = 1; i <= spline->NbPoles(); ++i) {
        const Point pole = fromPnt(spline->Pole(i));
        poles.push_back(part < 0.5 ? startOf(stretch, pole) : endOf(stretch, pole));
      }
      return poles;
    };
    return faceOf(ruled(row(0), row(1), acrossOf(spline)));
  }

  static Across acrossOf(const Handle(Geom_BSplineCurve) & spline) {
    Across across{spline->Degree(), {}, {}, {}};
    for (int i = 1; i <= spline->NbKnots(); ++i) {
      across.knots.push_back(spline->Knot(i));
      across.multiplicities.push_back(spline->Multiplicity(i));
    }
    if (spline->IsRational())
      for (int i = 1; i <= spline->NbPoles(); ++i) across.weights.push_back(spline->Weight(i));
    return across;
  }

  /// A spline that follows the edge's control points along a stretch.
  Handle(Geom_BSplineSurface) followed(const Stretch& stretch, const TopoDS_Edge& edge) const {
    const Handle(Geom_BSplineCurve) spline = splineAlong(edge);
    const auto row = [&](double part) {
      const PathFrame frame = frames_.at(stretch.link, shareOf(stretch, part));
      Row poles;
      for (int i = 1; i <= spline->NbPoles(); ++i) poles.push_back(carried(frame, fromPnt(spline->Pole(i))));
      return poles;
    };
    for (int spans = fewestSpans;; spans *= 2) {
      progress_.throwIfStopped();
      const Columns columns = columnsThrough(row, 0, 1, spans);
      double off = 0;
      for (int i = 0; i < spans; ++i) {
        const double part = (i + 0.5) / spans;
        const Row wanted = row(part);
        for (std::size_t k = 0; k < wanted.size(); ++k)
          off = std::max(off, distance(fromPnt(columns.curve(k)->Value(part)), wanted[k]));
      }
      if (off < follows || spans >= mostSpans) return skin(columns, acrossOf(spline));
    }
  }

  const Carried& profile_;
  const std::string& name_;
  Progress& progress_;
  PathFrames frames_;
  PathFrame first_;
  std::vector<Stretch> stretches_;
  std::vector<Shape> faces_;
};

}  // namespace

Shape sweptAlong(const Region& region, const std::string& name, const PathSweep& order, Progress& progress) {
  return kernelCall("sweeping a profile", [&] {
    const RegionBody& body = region.body();
    Carried profile;
    for (const auto& [edge, curve] : body.curves) profile.add(TopoDS::Edge(edge), curve);
    GProp_GProps area;
    BRepGProp::SurfaceProperties(body.face, area);
    profile.middle = fromPnt(area.CentreOfMass());
    profile.normal = body.plane.normal;
    profile.face = body.face;
    profile.area = body.area;
    return Sweeping(profile, name, order, progress).run();
  });
}

Shape sweptAlong(const Path& line, const std::string& name, const PathSweep& order, Progress& progress) {
  return kernelCall("sweeping a line", [&] {
    Carried profile;
    for (const Path::Link& link : line.links()) {
      const TopoDS_Vertex from = BRepBuilderAPI_MakeVertex(toPnt(link.along.curve.at(0)));
      const TopoDS_Vertex to = BRepBuilderAPI_MakeVertex(toPnt(link.along.curve.at(1)));
      const TopoDS_Edge edge = edgeAlong(link.along.curve, from, to);
      if (edge.IsNull()) throw Error(say("the curve \"%1\" cannot be followed", link.along.name));
      profile.add(edge, link.along.name);
    }
    profile.middle = line.at(line.length() / 2);
    profile.normal = line.plane().normal;
    return Sweeping(profile, name, order, progress).run();
  });
}

double closingTurn(const PathSweep& order, Point profile) {
  return kernelCall("following a path", [&] { return PathFrames(order, profile).closing(); });
}

}  // namespace kervo
