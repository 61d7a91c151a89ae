#include "geom/topology.h"

#include <BOPTools_AlgoTools3D.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepGProp.hxx>
#include <BRepGProp_Face.hxx>
#include <GCPnts_AbscissaPoint.hxx>
#include <GProp_GProps.hxx>
#include <GeomAPI_ProjectPointOnSurf.hxx>
#include <IntTools_Context.hxx>

#include "base/say.h"
#include "geom/kernel/elementary.h"
#include "geom/kernel/skeleton.h"
#include "geom/kernel/topology_body.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

const std::vector<std::string> noOrigins;

double distanceBetween(const TopoDS_Shape& shape, Point point) {
  return kernelCall("measuring a distance", [&] {
    const BRepExtrema_DistShapeShape extrema(shape, BRepBuilderAPI_MakeVertex(toPnt(point)).Vertex());
    return extrema.IsDone() ? extrema.Value() : std::numeric_limits<double>::infinity();
  });
}

std::pair<gp_Pnt, gp_Pnt2d> pointInside(const TopoDS_Face& face) {
  gp_Pnt point;
  gp_Pnt2d parameters;
  Handle(IntTools_Context) context = new IntTools_Context;
  if (BOPTools_AlgoTools3D::PointInFace(face, point, parameters, context) != 0)
    throw Error(say("a face has no inside: it is degenerate"), "", say("Check the body"));
  return {point, parameters};
}

bool sameAxis(const gp_Ax1& a, const gp_Ax1& b) {
  return a.IsCoaxial(b, tolerance::sameDirection, tolerance::point * 10) ||
         a.IsCoaxial(b.Reversed(), tolerance::sameDirection, tolerance::point * 10);
}

bool close(double a, double b) {
  return std::abs(a - b) <= tolerance::point * 10;
}

}  // namespace

gp_Dir outwardNormal(const TopoDS_Face& face, const gp_Pnt& point) {
  double u = 0, v = 0;
  GeomAPI_ProjectPointOnSurf nearest(point, BRep_Tool::Surface(face));
  if (nearest.NbPoints() == 0)
    throw Error(say("a face has no point near to what is asked for"), "", say("Check the body"));
  nearest.LowerDistanceParameters(u, v);
  gp_Pnt at;
  gp_Vec normal;
  BRepGProp_Face(face).Normal(u, v, at, normal);
  return gp_Dir(normal);
}

const std::vector<std::string>& Face::origins() const {
  return *body_->origins;
}

double Face::area() const {
  return body_->area;
}

bool Face::flawed() const {
  return body_->flawed;
}

Point Face::samplePoint() const {
  return kernelCall("sampling a face", [&] { return fromPnt(pointInside(body_->face).first); });
}

Vector Face::normal() const {
  return kernelCall("sampling a face", [&] {
    const gp_Pnt2d parameters = pointInside(body_->face).second;
    gp_Pnt point;
    gp_Vec normal;
    BRepGProp_Face(body_->face).Normal(parameters.X(), parameters.Y(), point, normal);
    return normalized(fromVec(normal));
  });
}

Point Face::middle() const {
  return kernelCall("measuring a face", [&] {
    if (plane()) {
      GProp_GProps properties;
      BRepGProp::SurfaceProperties(body_->face, properties);
      return fromPnt(properties.CentreOfMass());
    }
    Bnd_Box bounds;
    BRepBndLib::AddOptimal(body_->face, bounds, false, false);
    return (fromPnt(bounds.CornerMin()) + fromPnt(bounds.CornerMax())) * 0.5;
  });
}

Box Face::boxIn(const Plane& plane) const {
  return kernelCall("measuring a face", [&] {
    gp_Trsf toPlane;
    toPlane.SetTransformation(toAxes(plane));
    Bnd_Box bounds;
    BRepBndLib::AddOptimal(body_->face.Moved(TopLoc_Location(toPlane)), bounds, false, false);
    Box box;
    box.add(fromPnt(bounds.CornerMin()));
    box.add(fromPnt(bounds.CornerMax()));
    return box;
  });
}

std::optional<Plane> Face::plane() const {
  const BRepAdaptor_Surface surface(body_->face, false);
  if (surface.GetType() != GeomAbs_Plane) return std::nullopt;
  const gp_Pln plane = surface.Plane();
  Vector normal = fromDir(plane.Axis().Direction());
  if (!plane.Direct()) normal = -normal;
  if (body_->face.Orientation() == TopAbs_REVERSED) normal = -normal;
  // Directions that should be along an axis are set exactly there, so that drawings do not inherit rounding noise.
  for (double* component : {&normal.x, &normal.y, &normal.z})
    if (std::abs(*component) < tolerance::parallel) *component = 0;
  normal = normalized(normal);
  const Point foot = normal * dot(fromPnt(plane.Location()), normal);
  return Plane::through(foot, normal);
}

std::optional<Axis> Face::axis() const {
  const BRepAdaptor_Surface surface(body_->face, false);
  const auto of = [](const gp_Ax1& axis) { return Axis{fromPnt(axis.Location()), fromDir(axis.Direction())}; };
  switch (surface.GetType()) {
    case GeomAbs_Cylinder:
      return of(surface.Cylinder().Axis());
    case GeomAbs_Cone:
      return of(surface.Cone().Axis());
    case GeomAbs_Torus:
      return of(surface.Torus().Axis());
    case GeomAbs_SurfaceOfRevolution:
      return of(surface.AxeOfRevolution());
    default:
      return std::nullopt;
  }
}

std::string Face::surfaceName() const {
  return surfaceNameOf(BRepAdaptor_Surface(body_->face, false).GetType());
}

bool Face::freeForm() const {
  return BRepAdaptor_Surface(body_->face, false).GetType() > GeomAbs_Torus;
}

double Face::distanceTo(Point point) const {
  return distanceBetween(body_->face, point);
}

bool Face::onSameSurface(const Face& other) const {
  const BRepAdaptor_Surface a(body_->face, false), b(other.body_->face, false);
  if (a.GetType() != b.GetType()) return false;
  switch (a.GetType()) {
    case GeomAbs_Plane: {
      const auto p = plane(), q = other.plane();
      return p && q && length(p->normal - q->normal) < tolerance::sameDirection &&
             close(p->signedDistance(q->origin), 0);
    }
    case GeomAbs_Cylinder:
      return sameAxis(a.Cylinder().Axis(), b.Cylinder().Axis()) && close(a.Cylinder().Radius(), b.Cylinder().Radius());
    case GeomAbs_Cone:
      return sameAxis(a.Cone().Axis(), b.Cone().Axis()) &&
             a.Cone().Apex().Distance(b.Cone().Apex()) < tolerance::samePlace &&
             close(std::abs(a.Cone().SemiAngle()), std::abs(b.Cone().SemiAngle()));
    case GeomAbs_Sphere:
      return a.Sphere().Location().Distance(b.Sphere().Location()) < tolerance::samePlace &&
             close(a.Sphere().Radius(), b.Sphere().Radius());
    case GeomAbs_Torus:
      return sameAxis(a.Torus().Axis(), b.Torus().Axis()) &&
             a.Torus().Location().Distance(b.Torus().Location()) < tolerance::samePlace &&
             close(a.Torus().MajorRadius(), b.Torus().MajorRadius()) &&
             close(a.Torus().MinorRadius(), b.Torus().MinorRadius());
    default: {
      TopLoc_Location placeA, placeB;
      return BRep_Tool::Surface(body_->face, placeA) == BRep_Tool::Surface(other.body_->face, placeB) &&
             placeA == placeB;
    }
  }
}

const std::vector<std::string>& Edge::firstOrigins() const {
  return *body_->first;
}

const std::vector<std::string>& Edge::secondOrigins() const {
  return body_->second ? *body_->second : noOrigins;
}

Point Edge::middle() const {
  const BRepAdaptor_Curve curve(body_->edge);
  return fromPnt(curve.Value((curve.FirstParameter() + curve.LastParameter()) / 2));
}

std::optional<Axis> Edge::axis() const {
  const BRepAdaptor_Curve curve(body_->edge);
  if (curve.GetType() == GeomAbs_Line)
    return Axis{fromPnt(curve.Value(curve.FirstParameter())), fromDir(curve.Line().Direction())};
  if (curve.GetType() == GeomAbs_Circle)
    return Axis{fromPnt(curve.Circle().Location()), fromDir(curve.Circle().Axis().Direction())};
  return std::nullopt;
}

double Edge::length() const {
  // Without a tolerance the kernel integrates splines so coarsely that 0.5 mm of 200 can be missing.
  return GCPnts_AbscissaPoint::Length(BRepAdaptor_Curve(body_->edge), tolerance::parallel);
}

double Edge::distanceTo(Point point) const {
  return distanceBetween(body_->edge, point);
}

bool Edge::onSameCurve(const Edge& other) const {
  const BRepAdaptor_Curve a(body_->edge), b(other.body_->edge);
  if (a.GetType() != b.GetType()) return false;
  if (a.GetType() == GeomAbs_Line)
    return a.Line().Direction().IsParallel(b.Line().Direction(), tolerance::sameDirection) &&
           a.Line().Contains(b.Line().Location(), tolerance::sameLine);
  if (a.GetType() == GeomAbs_Circle)
    return sameAxis(a.Circle().Axis(), b.Circle().Axis()) && close(a.Circle().Radius(), b.Circle().Radius()) &&
           a.Circle().Location().Distance(b.Circle().Location()) < tolerance::samePlace;
  return body_->edge.IsSame(other.body_->edge);
}

std::vector<Face> facesOf(const Shape& shape) {
  std::vector<Face> faces;
  if (shape.empty()) return faces;
  for (const TopoDS_Face& face : skeletonOf(shape).faces) {
    const FaceFacts& facts = factsOf(shape, face);
    faces.emplace_back(
        std::make_shared<const FaceBody>(FaceBody{face, facts.origins, facts.integrals.area, facts.flawed}));
  }
  return faces;
}

std::vector<Edge> edgesOf(const Shape& shape) {
  std::vector<Edge> edges;
  if (shape.empty()) return edges;
  const Skeleton& skeleton = skeletonOf(shape);
  const auto originsOfFace = [&](std::uint32_t face) { return factsOf(shape, skeleton.faces[face]).origins; };
  for (std::size_t i = 0; i < skeleton.edges.size(); ++i) {
    const Skeleton::EdgePart& part = skeleton.edges[i];
    if (!part.visible) continue;
    EdgeBody body{part.edge, {}, {}};
    if (part.faces.empty())
      body.first = originsOf("curve:" + std::to_string(i + 1));
    else
      body.first = originsOfFace(part.faces.front());
    if (part.faces.size() > 1) body.second = originsOfFace(part.faces.back());
    edges.emplace_back(std::make_shared<const EdgeBody>(std::move(body)));
  }
  return edges;
}

bool isSameFace(const Face& a, const Face& b) {
  return a.body().face.IsSame(b.body().face);
}

bool isSameEdge(const Edge& a, const Edge& b) {
  return a.body().edge.IsSame(b.body().edge);
}

std::vector<Edge> edgesAround(const Shape& shape, const Face& face) {
  ShapeMap<int> around;
  for (TopExp_Explorer it(face.body().face, TopAbs_EDGE); it.More(); it.Next()) around.emplace(it.Current(), 0);
  std::vector<Edge> edges = edgesOf(shape);
  std::erase_if(edges, [&](const Edge& edge) { return !around.contains(edge.body().edge); });
  return edges;
}

std::vector<Corner> cornersOf(const Shape& shape) {
  std::vector<Corner> corners;
  if (shape.empty()) return corners;
  const Skeleton& skeleton = skeletonOf(shape);
  for (const Skeleton::VertexPart& part : skeleton.vertices) {
    if (part.faces.empty() || (part.faces.size() == 1 && part.edgeCount < 2)) continue;
    Corner corner{fromPnt(BRep_Tool::Pnt(part.vertex)), {}};
    for (const std::uint32_t face : part.faces) {
      const auto& origins = *factsOf(shape, skeleton.faces[face]).origins;
      corner.origins.insert(corner.origins.end(), origins.begin(), origins.end());
    }
    std::sort(corner.origins.begin(), corner.origins.end());
    corner.origins.erase(std::unique(corner.origins.begin(), corner.origins.end()), corner.origins.end());
    corners.push_back(std::move(corner));
  }
  return corners;
}

Shape renamed(const Shape& shape, const std::string& newPrefix) {
  return renamed(shape, newPrefix, {});
}

Shape renamed(const Shape& shape, const std::string& newPrefix, const std::vector<int>& numbers) {
  if (shape.empty() || shape.mesh()) return shape;
  const auto faces = facesOf(shape.body().topology);
  if (!numbers.empty() && numbers.size() != faces.size())
    throw Error(say("%1 numbers do not fit %2 faces", numbers.size(), faces.size()), "", "");
  FaceTable table;
  std::size_t place = 0;
  for (const TopoDS_Face& face : faces) {
    FaceFacts facts = factsOf(shape, face);
    const int number = numbers.empty() ? static_cast<int>(place) + 1 : numbers[place];
    ++place;
    facts.origins = originsOf(newPrefix + std::to_string(number));
    table.emplace(face, std::move(facts));
  }
  return makeShape(shape.body().topology, std::move(table), newPrefix);
}

std::map<int, Color> faceColors(const Shape& shape) {
  std::map<int, Color> colors;
  if (shape.empty()) return colors;
  int number = 0;
  for (const TopoDS_Face& face : facesOf(shape.body().topology)) {
    ++number;
    const std::optional<FaceColor> color = factsOf(shape, face).color;
    if (const auto* own = color ? std::get_if<Color>(&*color) : nullptr) colors.emplace(number, *own);
  }
  return colors;
}

Shape withFaceColors(const Shape& shape, const std::map<int, Color>& colors) {
  if (colors.empty() || shape.mesh()) return shape;
  FaceTable table = shape.body().faces;
  const std::vector<TopoDS_Face> faces = facesOf(shape.body().topology);
  for (const auto& [number, color] : colors) {
    if (number < 1 || number > static_cast<int>(faces.size()))
      throw Error(say("there is no face %1 to colour", number), "", say("The shape has %1", faces.size()));
    table.at(faces[static_cast<std::size_t>(number - 1)]).color = color;
  }
  return makeShape(shape.body().topology, std::move(table), "face");
}

Shape withFacesColoredLike(const Shape& shape, const BodyId& body) {
  if (shape.empty() || shape.mesh()) return shape;
  FaceTable table = shape.body().faces;
  for (auto& [face, facts] : table)
    if (!facts.color) facts.color = body;
  return makeShape(shape.body().topology, std::move(table), "face:");
}

Shape withShownColors(const Shape& shape, const std::function<std::optional<Color>(const BodyId&)>& colorOf) {
  if (shape.empty() || shape.mesh()) return shape;
  const auto bodyOf = [](const FaceFacts& facts) { return facts.color ? std::get_if<BodyId>(&*facts.color) : nullptr; };
  if (std::ranges::none_of(shape.body().faces, [&](const auto& face) { return bodyOf(face.second); })) return shape;
  FaceTable table = shape.body().faces;
  for (auto& [face, facts] : table)
    if (const BodyId* body = bodyOf(facts)) {
      const std::optional<Color> color = colorOf(*body);
      facts.color = color ? std::optional<FaceColor>(*color) : std::nullopt;
    }
  return makeShape(shape.body().topology, std::move(table), "face:");
}

}  // namespace kervo
