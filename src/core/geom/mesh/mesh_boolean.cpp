// CGAL intersects the two once, with exact predicates, and gives both parts of the stock from it. Which triangle a new
// one came from is followed, so that it keeps its paint.
#include "geom/mesh/mesh_boolean.h"

#include <CGAL/Polygon_mesh_processing/corefinement.h>
#include <CGAL/Polygon_mesh_processing/orientation.h>
#include <CGAL/Polygon_mesh_processing/repair_self_intersections.h>
#include <CGAL/Polygon_mesh_processing/self_intersections.h>

#include <array>
#include <cmath>
#include <iterator>

#include "base/error.h"
#include "base/quantity.h"
#include "base/say.h"
#include "geom/mesh/cgal_mesh.h"

namespace kervo {

namespace {

namespace processing = CGAL::Polygon_mesh_processing;

/// Carries the paints of triangles to those that they are divided into and copied to.
struct Painter : processing::Corefinement::Default_visitor<CgalMesh> {
  using Face = CgalMesh::Face_index;

  explicit Painter(Progress& progress) : progress_(&progress) {}

  // All steps that CGAL tells of, so that it can be stopped in any of them.
  void progress_filtering_intersections(double) const { progress_->throwIfStopped(); }
  void edge_face_intersections_step() const { progress_->throwIfStopped(); }
  void intersection_of_coplanar_faces_step() const { progress_->throwIfStopped(); }
  void triangulating_faces_step() const { progress_->throwIfStopped(); }
  void build_output_step() const { progress_->throwIfStopped(); }

  void before_subface_creations(Face divided, CgalMesh& mesh) {
    progress_->throwIfStopped();
    paint_ = paintsOf(mesh)[divided];
  }
  void after_subface_created(Face made, CgalMesh& mesh) { paintsOf(mesh)[made] = paint_; }
  void after_face_copy(Face from, const CgalMesh& source, Face to, CgalMesh& target) {
    paintsOf(target)[to] = source.property_map<Face, Paint>(paintsName).first[from];
  }

 private:
  CgalPaints& paintsOf(CgalMesh& mesh) {
    for (auto& [known, paints] : known_)
      if (known == &mesh) return paints;
    known_.emplace_back(&mesh, mesh.add_property_map<Face, Paint>(paintsName, 0).first);
    return known_.back().second;
  }

  Progress* progress_;
  Paint paint_ = 0;
  std::vector<std::pair<const CgalMesh*, CgalPaints>> known_;
};

std::string placeText(Point at) {
  return formatNumber(at.x, 6) + ", " + formatNumber(at.y, 6) + ", " + formatNumber(at.z, 6);
}

[[noreturn]] void failToDivide() {
  throw Error(say("the meshes meet in a way that leaves no sound body, e.g. along an edge only"), "",
              say("Move one of them a little"));
}

/// What CGAL divides without fail: closed, and no two triangles run through each other. Where they do so by rounding
/// only, in planes that were divided before, the few around are replaced.
CgalMesh checkedForBoolean(const Mesh& mesh) {
  if (!mesh.watertight())
    throw Error(say("a mesh is not closed: %1 of its edges lie open", mesh.openEdges()), "",
                say("Repair it, which fills its holes"));
  std::optional<CgalMesh> result = toCgal(mesh);
  if (!result) throw Error(say("parts of a mesh touch in an edge or turn over"), "", say("Repair it first"));
  if (mesh.knownSound()) return *std::move(result);
  if (!processing::does_self_intersect(*result)) {
    mesh.noteSound();
    return *std::move(result);
  }
  if (const auto crossing = selfCrossing(mesh))
    throw Error(say("a mesh runs through itself near %1", placeText(crossing->near)), "",
                say("Repair it, which removes such places"));
  processing::experimental::remove_self_intersections(*result);
  result->collect_garbage();
  constexpr double rounding = 1e-9;
  const Mesh mended = fromCgal(*result, mesh.tolerance());
  if (!mended.watertight() || std::abs(mended.volume() - mesh.volume()) > rounding * std::abs(mesh.volume()) ||
      processing::does_self_intersect(*result))
    failToDivide();
  return *std::move(result);
}

/// What the intersection of two meshes amounts to. Both are changed.
struct Outcome {
  CgalMesh both, common, outside;
  bool sound = false;
};

Outcome intersected(CgalMesh& a, CgalMesh& b, bool wantsUnion, Progress& progress) {
  using processing::Corefinement::Boolean_operation_type;
  Outcome outcome;
  std::array<boost::optional<CgalMesh*>, 4> wanted;
  if (wantsUnion) {
    wanted[Boolean_operation_type::UNION] = &outcome.both;
  } else {
    wanted[Boolean_operation_type::INTERSECTION] = &outcome.common;
    wanted[Boolean_operation_type::TM1_MINUS_TM2] = &outcome.outside;
  }
  for (CgalMesh* made : {&outcome.both, &outcome.common, &outcome.outside})
    made->add_property_map<CgalMesh::Face_index, Paint>(paintsName, 0);
  const auto sound =
      processing::corefine_and_compute_boolean_operations(a, b, wanted, CGAL::parameters::visitor(Painter(progress)));
  outcome.sound = wantsUnion
                      ? sound[Boolean_operation_type::UNION]
                      : sound[Boolean_operation_type::INTERSECTION] && sound[Boolean_operation_type::TM1_MINUS_TM2];
  return outcome;
}

/// How far a triangle reaches through the plane of another, on the side where it does so less.
double depthThrough(const CgalMesh& mesh, CgalMesh::Face_index of, CgalMesh::Face_index plane) {
  const auto cornersOf = [&](CgalMesh::Face_index face) {
    std::vector<Point> corners;
    for (const auto vertex : mesh.vertices_around_face(mesh.halfedge(face))) {
      const auto& at = mesh.point(vertex);
      corners.push_back({at.x(), at.y(), at.z()});
    }
    return corners;
  };
  const std::vector<Point> a = cornersOf(plane), b = cornersOf(of);
  const Vector across = cross(a[1] - a[0], a[2] - a[0]);
  const double size = length(across);
  if (size == 0) return 0;
  double above = 0, below = 0;
  for (const Point& corner : b) {
    const double distance = dot(corner - a[0], across) / size;
    above = std::max(above, distance);
    below = std::max(below, -distance);
  }
  return std::min(above, below);
}

/// New points of an intersection are rounded, so that triangles in one plane may run through each other by less than
/// that. Such places are harmless.
bool isRounding(const CgalMesh& mesh, CgalMesh::Face_index a, CgalMesh::Face_index b, const Box& box) {
  const double rounding = 1e-11 * (box.diagonal() + length(box.centre()));
  return std::min(depthThrough(mesh, a, b), depthThrough(mesh, b, a)) <= rounding;
}

}  // namespace

std::optional<Crossing> selfCrossing(const Mesh& mesh, bool all) {
  const std::optional<CgalMesh> own = toCgal(mesh);
  if (!own || mesh.empty()) return std::nullopt;
  if (!all && !processing::does_self_intersect(*own)) return std::nullopt;
  std::vector<std::pair<CgalMesh::Face_index, CgalMesh::Face_index>> pairs;
  processing::self_intersections(*own, std::back_inserter(pairs));
  std::erase_if(pairs, [&](const auto& pair) { return isRounding(*own, pair.first, pair.second, mesh.box()); });
  if (pairs.empty()) return std::nullopt;
  const auto& at = own->point(own->target(own->halfedge(pairs.front().first)));
  return Crossing{pairs.size(), {at.x(), at.y(), at.z()}};
}

MeshDivision divideMesh(const Mesh& stock, const Mesh& cutter, Progress& progress) {
  progress.throwIfStopped();
  CgalMesh a = checkedForBoolean(stock), b = checkedForBoolean(cutter);
  progress.throwIfStopped();
  const double tolerance = std::max(stock.tolerance(), cutter.tolerance());
  const Outcome outcome = intersected(a, b, false, progress);
  if (!outcome.sound) failToDivide();
  MeshDivision result{fromCgal(outcome.outside, tolerance), fromCgal(outcome.common, tolerance)};
  constexpr double rounding = 1e-6;
  const double sum = result.outside.volume() + result.inside.volume();
  if (std::abs(sum - stock.volume()) > rounding * stock.volume() ||
      (!result.outside.empty() && !result.outside.watertight()) ||
      (!result.inside.empty() && !result.inside.watertight()))
    failToDivide();
  return result;
}

Mesh uniteMeshes(const Mesh& a, const Mesh& b, Progress& progress) {
  progress.throwIfStopped();
  CgalMesh first = checkedForBoolean(a), second = checkedForBoolean(b);
  progress.throwIfStopped();
  const Outcome outcome = intersected(first, second, true, progress);
  Mesh both = fromCgal(outcome.both, std::max(a.tolerance(), b.tolerance()));
  if (!outcome.sound || !both.watertight()) failToDivide();
  return both;
}

}  // namespace kervo
