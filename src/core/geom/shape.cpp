#include "geom/shape.h"

#include <algorithm>
#include <cmath>

#include "geom/divide/checked_intersection.h"
#include "geom/measure/face_integrals.h"
#include "geom/measure/soundness.h"
#include "geom/mesh/mesh_pieces.h"

namespace kervo {

const char* nameOf(BodyKind kind) {
  switch (kind) {
    case BodyKind::Solid:
      return later("solid");
    case BodyKind::Surface:
      return later("surface");
    case BodyKind::Curve:
      return later("curve");
    case BodyKind::Mesh:
      return later("mesh");
  }
  return "";
}

Origins originsOf(const std::string& name) {
  return std::make_shared<const std::vector<std::string>>(1, name);
}

Origins merged(const Origins& a, const Origins& b) {
  if (!a || a == b) return b;
  if (!b) return a;
  std::vector<std::string> all;
  std::set_union(a->begin(), a->end(), b->begin(), b->end(), std::back_inserter(all));
  return std::make_shared<const std::vector<std::string>>(std::move(all));
}

std::vector<TopoDS_Face> facesOf(const TopoDS_Shape& topology) {
  TopTools_IndexedMapOfShape map;
  TopExp::MapShapes(topology, TopAbs_FACE, map);
  std::vector<TopoDS_Face> faces;
  faces.reserve(static_cast<std::size_t>(map.Extent()));
  for (int i = 1; i <= map.Extent(); ++i) faces.push_back(TopoDS::Face(map(i)));
  return faces;
}

namespace {

Box boxOf(const Bnd_Box& bounds) {
  Box box;
  if (bounds.IsVoid()) return box;
  box.add(fromPnt(bounds.CornerMin()));
  box.add(fromPnt(bounds.CornerMax()));
  return box;
}

/// The content of compounds that hold one thing only.
TopoDS_Shape unwrapped(TopoDS_Shape topology) {
  while (topology.ShapeType() == TopAbs_COMPOUND || topology.ShapeType() == TopAbs_COMPSOLID) {
    TopoDS_Iterator it(topology);
    if (!it.More()) return {};
    const TopoDS_Shape only = it.Value();
    it.Next();
    if (it.More()) return topology;
    topology = only;
  }
  return topology;
}

}  // namespace

double volumeOf(const TopoDS_Shape& solid, const FaceTable& faces) {
  double volume = 0;
  std::optional<Point> origin;
  for (TopExp_Explorer it(solid, TopAbs_FACE); it.More(); it.Next()) {
    const TopAbs_Orientation way = it.Current().Orientation();
    if (way != TopAbs_FORWARD && way != TopAbs_REVERSED) continue;
    const FaceIntegrals& face = faces.at(it.Current()).integrals;
    // Seen from the body itself, so that no digits are lost on its distance from the origin.
    if (!origin) origin = face.reference;
    const double flux = face.fluxFrom(*origin);
    volume += way == TopAbs_FORWARD ? flux : -flux;
  }
  return volume;
}

void measure(const TopoDS_Face& face, FaceFacts& facts) {
  if (facts.measured) return;
  facts.integrals = integrate(face);
  Bnd_Box bounds;
  BRepBndLib::Add(face, bounds, false);
  facts.box = boxOf(bounds);
  facts.measured = true;
}

Shape makeShape(const TopoDS_Shape& topology, FaceTable known, const std::string& nameOfUnknownFaces) {
  if (topology.IsNull()) return {};
  auto body = std::make_shared<ShapeBody>();
  body->topology = unwrapped(topology);
  if (body->topology.IsNull()) return {};
  TopTools_IndexedMapOfShape faces;
  TopExp::MapShapes(body->topology, TopAbs_FACE, faces);
  body->faces.reserve(static_cast<std::size_t>(faces.Extent()));
  for (int number = 1; number <= faces.Extent(); ++number) {
    const TopoDS_Shape& face = faces(number);
    const auto found = known.find(face);
    FaceFacts facts = found == known.end() ? FaceFacts() : found->second;
    if (!facts.origins) facts.origins = originsOf(nameOfUnknownFaces + std::to_string(number));
    measure(TopoDS::Face(face), facts);
    body->area += facts.integrals.area;
    body->volumeError += facts.integrals.looseness * facts.integrals.area;
    body->looseBox.add(facts.box);
    body->faces.emplace(face, std::move(facts));
  }
  bool solid = false;
  for (TopExp_Explorer it(body->topology, TopAbs_SOLID); it.More(); it.Next()) {
    solid = true;
    body->volume += volumeOf(it.Current(), body->faces);
  }
  if (!solid) body->volumeError = 0;
  body->kind = solid ? BodyKind::Solid : faces.IsEmpty() ? BodyKind::Curve : BodyKind::Surface;
  if (faces.IsEmpty() && !TopExp_Explorer(body->topology, TopAbs_EDGE).More()) return {};
  if (body->kind == BodyKind::Curve) {
    Bnd_Box bounds;
    BRepBndLib::Add(body->topology, bounds, false);
    body->looseBox = boxOf(bounds);
  }
  return Shape(std::move(body));
}

const FaceFacts& factsOf(const Shape& shape, const TopoDS_Shape& face) {
  return shape.body().faces.at(face);
}

Shape::Shape(Mesh mesh) {
  if (mesh.empty()) return;
  auto body = std::make_shared<ShapeBody>();
  body->kind = BodyKind::Mesh;
  body->volume = mesh.volume();
  body->area = mesh.area();
  body->looseBox = mesh.box();
  body->mesh = std::move(mesh);
  body_ = std::move(body);
}

const Mesh* Shape::mesh() const {
  return body_ && body_->kind == BodyKind::Mesh ? &body_->mesh : nullptr;
}

BodyKind Shape::kind() const {
  return body_ ? body_->kind : BodyKind::Solid;
}

double Shape::volume() const {
  return body_ ? body_->volume : 0;
}

double Shape::volumeError() const {
  return body_ ? body_->volumeError : 0;
}

double Shape::area() const {
  return body_ ? body_->area : 0;
}

Box Shape::roughBox() const {
  return body_ ? body_->looseBox : Box();
}

namespace {

Box smallestBox(const TopoDS_Shape& topology) {
  Bnd_Box bounds;
  BRepBndLib::AddOptimal(topology, bounds, false, false);
  return boxOf(bounds);
}

/// How far a box reaches beyond another.
double excess(const Box& box, const Box& other) {
  return std::max({other.low.x - box.low.x, other.low.y - box.low.y, other.low.z - box.low.z, box.high.x - other.high.x,
                   box.high.y - other.high.y, box.high.z - other.high.z});
}

/// Of all faces together. The smallest box of a face is long to find, so only those are asked that may reach beyond
/// what is certain already, the farthest first.
Box smallestBoxOfFaces(const ShapeBody& body) {
  Box certain;
  for (TopExp_Explorer it(body.topology, TopAbs_VERTEX); it.More(); it.Next())
    certain.add(fromPnt(BRep_Tool::Pnt(TopoDS::Vertex(it.Current()))));
  if (certain.empty()) return smallestBox(body.topology);
  std::vector<std::pair<double, const FaceTable::value_type*>> faces;
  for (const auto& entry : body.faces) faces.emplace_back(excess(entry.second.box, certain), &entry);
  std::sort(faces.begin(), faces.end(), [](const auto& a, const auto& b) { return a.first > b.first; });
  for (const auto& [reach, entry] : faces)
    if (excess(entry->second.box, certain) > tolerance::point) certain.add(smallestBox(entry->first));
  return certain;
}

}  // namespace

Box Shape::box() const {
  if (!body_) return {};
  if (mesh()) return mesh()->box();
  std::call_once(body_->boxOnce, [&] {
    kernelCall("measuring the box", [&] {
      const bool onlyFaces =
          !body_->faces.empty() && !TopExp_Explorer(body_->topology, TopAbs_EDGE, TopAbs_FACE).More();
      body_->box = onlyFaces ? smallestBoxOfFaces(*body_) : smallestBox(body_->topology);
    });
  });
  return body_->box;
}

namespace {
int count(const Shape& shape, TopAbs_ShapeEnum type) {
  if (shape.empty() || shape.mesh()) return 0;
  TopTools_IndexedMapOfShape map;
  TopExp::MapShapes(shape.body().topology, type, map);
  return map.Extent();
}
}  // namespace

int Shape::faceCount() const {
  return body_ ? static_cast<int>(body_->faces.size()) : 0;
}

int Shape::edgeCount() const {
  return count(*this, TopAbs_EDGE);
}

int Shape::solidCount() const {
  return count(*this, TopAbs_SOLID);
}

bool Shape::watertight() const {
  if (mesh()) return mesh()->watertight();
  return body_ && body_->kind == BodyKind::Solid && openEdges(body_->topology).empty();
}

bool Shape::hasFlawedFaces() const {
  return body_ &&
         std::any_of(body_->faces.begin(), body_->faces.end(), [](const auto& each) { return each.second.flawed; });
}

bool Shape::valid() const {
  if (!body_ || mesh()) return true;
  std::call_once(body_->validOnce, [&] {
    Progress unstoppable;
    body_->valid =
        kernelCall("checking the body", [&] { return !hasFlawedFaces() && findFault(*body_, unstoppable).empty(); });
  });
  return body_->valid;
}

std::vector<Shape> Shape::pieces() const {
  if (!body_) return {};
  if (mesh()) {
    std::vector<Shape> result;
    for (Mesh& part : piecesOf(*mesh())) result.emplace_back(std::move(part));
    return result;
  }
  std::vector<TopoDS_Shape> parts;
  if (body_->topology.ShapeType() <= TopAbs_COMPSOLID) {
    if (body_->kind == BodyKind::Solid)
      for (TopExp_Explorer it(body_->topology, TopAbs_SOLID); it.More(); it.Next()) parts.push_back(it.Current());
    if (body_->kind == BodyKind::Surface) {
      const std::vector<TopoDS_Face> faces = facesOf(body_->topology);
      parts = shellsOf({faces.begin(), faces.end()});
    }
  }
  if (parts.size() < 2) return {*this};
  std::vector<Shape> result;
  for (const TopoDS_Shape& part : parts) {
    FaceTable table;
    for (TopExp_Explorer face(part, TopAbs_FACE); face.More(); face.Next())
      table.emplace(face.Current(), body_->faces.at(face.Current()));
    result.push_back(makeShape(part, std::move(table), "face:"));
  }
  return result;
}

bool shareNothing(const std::vector<Shape>& shapes) {
  if (shapes.size() < 2) return true;
  // Copies that were only moved differ in their locations: what counts is what lies beneath.
  std::unordered_map<const TopoDS_TShape*, std::size_t> ownerOf;
  for (std::size_t i = 0; i < shapes.size(); ++i) {
    if (shapes[i].empty() || shapes[i].mesh()) continue;
    for (TopExp_Explorer it(shapes[i].body().topology, TopAbs_EDGE); it.More(); it.Next())
      if (ownerOf.emplace(it.Current().TShape().get(), i).first->second != i) return false;
  }
  return true;
}

}  // namespace kervo
